import { explainLeakLeft, leakLeft, type Standing } from "@winter-bead/core";
import { useSettings } from "../../data/settings";
import { Explained } from "../../ui/Explained";
import { litresRange } from "../../ui/format";
import { Body, Small, Strong } from "../../ui/words";
import { useUnseenLoad } from "../water/useUnseenLoad";
import type { RigFacts } from "./assess";

/** Below this the two lives read the same. */
const WORTH_SAYING = 0.02;

/** The second life: until anything leaks, beside the meter's; where the use cares for the first leak it comes first. */
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
  const unseen = useUnseenLoad(facts.rig);
  if (!unseen || standing.leftTo !== "limit") return null;
  const left = leakLeft(standing, unseen);
  if (left.typical > (1 - WORTH_SAYING) * standing.left.typical) return null;
  const who = unseen.silica > 1e-4 ? "silica" : "carbon dioxide";
  const words =
    left.high <= 0
      ? "By the count it leaks already"
      : `Until anything leaks: ${litresRange(left.low, left.high, units)}`;
  const rest = `; ${who} goes first, and the meter doesn’t show it.`;
  const Weight = facts.rig.use === "aquarium" ? Strong : Body;
  if (!explained)
    return (
      <Small testID="leak-line" color="$ink">
        {words}
        {rest}
      </Small>
    );
  return (
    <Explained explanation={explainLeakLeft(standing, unseen)} testID="leak-line">
      <Body>
        <Weight textDecorationLine="underline">{words}</Weight>
        {rest}
      </Body>
    </Explained>
  );
}
