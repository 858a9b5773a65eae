import { View } from "@tamagui/core";
import { PlainButton } from "../../ui/boxes";
import { shown, type Units } from "../../ui/format";
import { VESSEL_PRESETS, type VesselPreset } from "./presets";

/** Generic sizes to start from, of no maker. */
export function SizePresets({
  units,
  onChoose,
}: {
  readonly units: Units;
  readonly onChoose: (preset: VesselPreset) => void;
}) {
  return (
    <View flexDirection="row" flexWrap="wrap" gap="$2" role="group" aria-label="Start from a size">
      {VESSEL_PRESETS.map((preset) => {
        const { text, unit } = shown("volume", preset.grossVolume, units);
        return (
          <PlainButton
            key={preset.name}
            onPress={() => onChoose(preset)}
          >{`${preset.name}, ${text} ${unit}`}</PlainButton>
        );
      })}
    </View>
  );
}
