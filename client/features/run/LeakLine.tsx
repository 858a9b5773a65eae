import { explainLeak, type Standing } from "@winter-bead/core";
import { useSettings } from "../../data/settings";
import { Explained } from "../../ui/Explained";
import { Body, Small, Strong } from "../../ui/words";
import type { RigFacts } from "./assess";
import { leakWords } from "./words";

/** The second life: until anything leaks, beside the meter's. */
export function LeakLine({
  facts,
  standing,
  explained = true,
}: {
  readonly facts: RigFacts;
  readonly standing: Standing;
  readonly explained?: boolean;
}) {
  const { units } = useSettings();
  const words = leakWords(facts, standing, units);
  if (!words) return null;
  if (!explained)
    return (
      <Small testID="leak-line" color="$ink">
        {words.range}
        {words.rest}
      </Small>
    );
  const Weight = facts.rig.use === "aquarium" ? Strong : Body;
  return (
    <Explained explanation={explainLeak(standing)} testID="leak-line">
      <Body>
        <Weight textDecorationLine="underline">{words.range}</Weight>
        {words.rest}
      </Body>
    </Explained>
  );
}
