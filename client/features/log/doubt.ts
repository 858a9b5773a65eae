import { conductivityAt25, questionReading, tapRange, type Id, type TapRange } from "@winter-bead/core";
import { tapReadings } from "../water/tap-water";
import type { RigFacts } from "../rack/assess";
import type { LogDraft } from "./draft-visit";

/** What this rig's visits say of a tap; undefined before the first reading of it. */
export function tapRangeOf(facts: RigFacts, tapId: Id): TapRange | undefined {
  const meters = new Map(facts.meters.map((meter) => [meter.id, meter]));
  const range = tapRange(tapReadings(tapId, { visits: facts.visits, tests: [], reports: [], meters }));
  return range.ok ? range.value : undefined;
}

/** A question, not a refusal: readings that would surprise an old hand. */
export function doubt(facts: RigFacts, draft: LogDraft, range: TapRange | undefined): string | undefined {
  const scale = facts.meters.find((each) => each.id === draft.meterId)?.scale ?? "nacl";
  const ec25 = (value: number) => {
    const answer = value > 0 ? conductivityAt25({ value, scale }) : undefined;
    return answer?.ok ? answer.value : undefined;
  };
  const [feed, output] = [ec25(Number(draft.feed)), ec25(Number(draft.output))];
  if (feed !== undefined && output !== undefined && output >= feed)
    return "Output as high as the feed: in and out crossed, or the probe in the wrong line?";
  const tap = facts.taps.find((each) => each.id === draft.tapId);
  if (feed === undefined || !tap) return undefined;
  const others = facts.taps.flatMap(({ id, name, typical, scale: tapScale }) => {
    const stated = conductivityAt25({ value: typical, scale: tapScale });
    return id !== tap.id && stated.ok ? [{ name, typical: stated.value }] : [];
  });
  const asked = questionReading({ value: Number(draft.feed), scale, ec25: feed }, range, others);
  return asked && `Far from what ${tap.name} usually gives. ${asked.possibilities[0]}`;
}
