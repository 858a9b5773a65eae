import {
  hungIn,
  rotates,
  samePlaces,
  toTheEnd,
  type Id,
  type Place,
  type TrainDeed,
  type Vessel,
} from "@winter-bead/core";
import { kept, type Step } from "../../data/acts";
import { newId } from "../../data/new-id";
import type { RigFacts } from "../rack/assess";

/** Where a filled vessel hangs from then on. */
export type After = "end" | "same";

/** Who takes the place of a vessel that is emptied: the next one, as lead and lag are run; nobody of the last, nor of cation and anion beds. */
export function nextInLine(
  { charges, train }: Pick<RigFacts, "charges" | "train">,
  places: readonly Place[],
  vesselId: Id,
): Vessel | undefined {
  const standing = places.flatMap((each) => (each.vesselId === undefined ? [] : [each.vesselId]));
  const place = standing.indexOf(vesselId);
  const inRow = charges.filter(({ ended, vesselId: of }) => ended === undefined && standing.includes(of));
  return place >= 0 && rotates(inRow) ? train.vessels.find(({ id }) => id === standing[place + 1]) : undefined;
}

/**
 * The places of a train after one of its vessels was filled anew, or another came in for it.
 * @param out the vessel that was taken off @param comesIn the one that is hung in: itself, filled, or another
 */
export const placesAfter = (places: readonly Place[], out: Id, comesIn: Id, after: After): readonly Place[] => {
  if (after === "end") return toTheEnd(places, out, comesIn);
  const stageId = places.find(({ vesselId }) => vesselId === out)?.stageId;
  return stageId === undefined ? places : hungIn(places, stageId, comesIn);
};

/**
 * The step that notes it; none where everything hangs as before and nobody brought anything.
 * @param exchanged a service took the vessel's charge away and brought another
 */
export function arrangementAfter(
  rigId: Id,
  places: readonly Place[],
  out: Id,
  comesIn: Id,
  after: After,
  at: string,
  exchanged = false,
): readonly Step[] {
  const next = placesAfter(places, out, comesIn, after);
  if (samePlaces(next, places) && !exchanged) return [];
  const moved: TrainDeed = after === "end" && next[next.length - 1]!.vesselId === comesIn ? "rotated" : "swapped";
  const did = exchanged ? "exchanged" : moved;
  return [kept("arrangements", { rigId, at, did, places: next }, newId())];
}
