import type { Species, ThreeOf } from "@winter-bead/core";
import { View } from "@tamagui/core";
import { memo, useState } from "react";
import { TextButton } from "../../ui/boxes";
import { litres, litresRange, type Units } from "../../ui/format";
import { Big, Body, Small } from "../../ui/words";
import type { LivesRange } from "./lives";

const LEAKER: Readonly<Record<Species, string>> = {
  na: "sodium",
  nh4: "ammonia",
  k: "potassium",
  mg: "magnesium",
  ca: "calcium",
  sio2: "silica",
  hco3: "carbon dioxide",
  cl: "chloride",
  no3: "nitrate",
  so4: "sulfate",
};

function Life({
  name,
  life,
  units,
  testID,
}: {
  readonly name: string;
  readonly life: ThreeOf<number>;
  readonly units: Units;
  readonly testID: string;
}) {
  return (
    <View flex={1} minWidth={140} gap={2}>
      <Small>{name}</Small>
      <Big fontSize="$5" lineHeight="$5" testID={testID}>
        {litres(life.typical, units)}
      </Big>
      <Body>{litresRange(life.low, life.high, units)}</Body>
    </View>
  );
}

/** The two lives side by side, and what happens between them unseen. */
export const TwoLivesCard = memo(function TwoLivesCard({
  lives,
  working,
  units,
}: {
  readonly lives: LivesRange;
  readonly working: boolean;
  readonly units: Units;
}) {
  const [open, setOpen] = useState(false);
  const { untilLeak, untilMeter, leaksFirst, assumed } = lives;
  const gap = untilMeter ? untilMeter.typical - untilLeak.typical : 0;
  return (
    <View gap="$2" opacity={working ? 0.6 : 1} testID="two-lives" aria-busy={working}>
      <View flexDirection="row" flexWrap="wrap" gap="$4">
        <Life name="Until anything leaks" life={untilLeak} units={units} testID="life-until-leak" />
        {untilMeter ? (
          <Life name="Until the meter shows it" life={untilMeter} units={units} testID="life-until-meter" />
        ) : (
          <Body flex={1} minWidth={140}>
            The meter does not show it at all in this water.
          </Body>
        )}
      </View>
      {gap > 0.02 * untilLeak.typical ? (
        <Body testID="silent-gap">{`For ${litres(gap, units)} ${LEAKER[leaksFirst]} leaks and the meter shows nothing. Glass and paint go by the meter, an aquarium by the first leak.`}</Body>
      ) : null}
      <TextButton onPress={() => setOpen(!open)} expanded={open}>
        {open ? "Close" : "Why two numbers"}
      </TextButton>
      {open ? (
        <View gap="$1" borderLeftColor="$line" borderLeftWidth={3} paddingLeft="$3">
          <Body>
            Both come from a simulation of every ion in the bed, not from a formula: the first is when an ion passes a
            twentieth of its feed, the second when the conductivity of what leaves reaches your limit.
            {assumed ? " Ions that no report tells are a usual mix (an assumption)." : ""}
          </Body>
          <Small>School: two exchangers, film control, constant separation factors. Source: Helfferich 1962.</Small>
          <TextButton href="/lab">Watch it in the Lab</TextButton>
        </View>
      ) : null}
    </View>
  );
});
