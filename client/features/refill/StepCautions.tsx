import { View } from "@tamagui/core";
import { CAUTIONS, type GuideStep } from "@winter-bead/core/src/refill";
import { useState } from "react";
import { Caution, TextButton } from "../../ui/boxes";
import { Small } from "../../ui/words";

/** Everything to mind at a step, each in one line, with more on request. */
export function Cautions({ step }: { readonly step: Pick<GuideStep, "cautions" | "id"> }) {
  const [open, setOpen] = useState(false);
  if (step.cautions.length === 0) return null;
  return (
    <View gap="$1" testID="cautions">
      {step.cautions.map((name) => (
        <View key={name} gap={2}>
          <Caution>{CAUTIONS[name].say}</Caution>
          {open ? <Small paddingLeft="$4">{CAUTIONS[name].more}</Small> : null}
        </View>
      ))}
      <TextButton onPress={() => setOpen(!open)} expanded={open} testID="more-cautions">
        {open ? "Less" : "More on this"}
      </TextButton>
    </View>
  );
}
