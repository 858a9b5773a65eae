import { View } from "@tamagui/core";
import { scaleFactor, type Scale } from "@winter-bead/core";
import { scaleUnit, threeDigits } from "../../ui/format";
import { Body, Small, Strong } from "../../ui/words";

const STANDARD = 1413;
const SCALES: readonly Scale[] = ["nacl", "442", "kcl", "ec"];

/** How to find out which scale a meter has, and why it is asked. */
export function ScaleHelp() {
  return (
    <View testID="scale-help" gap="$2" borderLeftColor="$line" borderLeftWidth={3} paddingLeft="$3">
      <Body>
        A meter measures how well water conducts, and makes ppm of it by a scale of its own. The same water reads 1.4
        times as much on one as on another, so the same number means other litres.
      </Body>
      <Body>
        <Strong>Look on it: </Strong>NaCl, 442, KCl, µS or a factor such as 0.5 or 0.7, on its back, in its leaflet, or
        for a moment when it is switched on.
      </Body>
      <Body>
        <Strong>Or ask a standard: </Strong>
        {`in a solution of ${STANDARD} µS/cm at 25 °C it shows about ${SCALES.map(
          (scale) => `${threeDigits(STANDARD * scaleFactor(scale))} ${scaleUnit(scale)}`,
        ).join(", ")}.`}
      </Body>
      <Body>
        <Strong>Or another meter: </Strong>in the same cup of tap water: if yours shows 1.4 times as much or as little,
        it has the other scale.
      </Body>
      <Small>One that can be switched: see on which it stands now, and leave it there.</Small>
    </View>
  );
}
