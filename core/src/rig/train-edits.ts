import type { Id } from "../descriptor/identity";
import type { Charge } from "../resin/charge.record";
import type { Place } from "./arrangement.record";

const placed = (stageId: Id, vesselId: Id | undefined): Place =>
  vesselId === undefined ? { stageId } : { stageId, vesselId };

/**
 * A vessel to the end of the train, those behind it one place forward: what was the lag leads, and what was emptied stands
 * last once it is filled anew.
 *
 * @param fresh the vessel that goes to the end in its stead, where it goes to the pool
 * @example toTheEnd([{ stageId: "1", vesselId: "a" }, { stageId: "2", vesselId: "b" }], "a") // b, then a
 */
export function toTheEnd(places: readonly Place[], vesselId: Id, fresh: Id = vesselId): readonly Place[] {
  const standing = places.flatMap((each) => (each.vesselId === undefined ? [] : [each.vesselId]));
  if (!standing.includes(vesselId)) return places;
  const others = standing.filter((each) => each !== vesselId && each !== fresh);
  const next = [...others, fresh];
  return places.map(({ stageId }, i) => placed(stageId, next[i]));
}

/** The lag to the front, the lead behind it. @example rotated([a at 1, b at 2]) // b, then a */
export function rotated(places: readonly Place[]): readonly Place[] {
  const lead = places.find(({ vesselId }) => vesselId !== undefined)?.vesselId;
  return lead === undefined ? places : toTheEnd(places, lead);
}

/** Another vessel in a place; nowhere else from then on. */
export const hungIn = (places: readonly Place[], stageId: Id, vesselId: Id): readonly Place[] =>
  places.map((each) =>
    placed(each.stageId, each.stageId === stageId ? vesselId : each.vesselId === vesselId ? undefined : each.vesselId),
  );

/** A vessel out of its place, which stays empty. */
export const takenOut = (places: readonly Place[], vesselId: Id): readonly Place[] =>
  places.map((each) => placed(each.stageId, each.vesselId === vesselId ? undefined : each.vesselId));

/**
 * Whether vessels in a row may change places: mixed beds do; a cation and an anion bed stand where they stand.
 * @example rotates([{ beads: "cation" }, { beads: "anion" }]) // false
 */
export const rotates = (charges: readonly Pick<Charge, "beads">[]): boolean =>
  charges.every(({ beads = "mixed" }) => beads === "mixed");

/** Whether two arrangements say the same. */
export const samePlaces = (a: readonly Place[], b: readonly Place[]): boolean =>
  a.length === b.length &&
  a.every(({ stageId, vesselId }, i) => b[i]!.stageId === stageId && b[i]!.vesselId === vesselId);

/** A thing of a list at another place of it; the others keep their order. @example moved(["a", "b", "c"], 2, 0) // c, a, b */
export function moved<T>(list: readonly T[], from: number, to: number): readonly T[] {
  const thing = list[from];
  if (thing === undefined || from === to || to < 0 || to >= list.length) return list;
  const others = list.filter((_, i) => i !== from);
  return [...others.slice(0, to), thing, ...others.slice(to)];
}

/** What water meets in this order: solids first, then chlorine, then the membrane, air, and resin last. */
export const USUAL_ORDER = ["sediment", "carbon", "membrane", "degasser", "resin"] as const;

/** Where a new stage usually goes: behind the last that the water should meet before it. */
export const usualPlace = (
  stages: readonly { readonly kind: (typeof USUAL_ORDER)[number] }[],
  kind: (typeof USUAL_ORDER)[number],
): number => {
  const rank = USUAL_ORDER.indexOf(kind);
  const after = stages.map((each) => USUAL_ORDER.indexOf(each.kind) <= rank).lastIndexOf(true);
  return after + 1;
};
