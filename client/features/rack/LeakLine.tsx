import { explainLeak, explainLeft, type Standing } from "@winter-bead/core";
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
  // Of an aquarium the leak stands large with its own working; here the limit's is wanted.
  const explanation = facts.rig.use === "aquarium" ? explainLeft(standing) : explainLeak(standing);
  const Weight = facts.rig.use === "aquarium" ? Strong : Body;
  return (
    <Explained explanation={explanation} testID="leak-line">
      <Body>
        <Weight textDecorationLine="underline" textDecorationStyle="dotted">
          {words.range}
        </Weight>
        {words.rest}
      </Body>
    </Explained>
  );
}
