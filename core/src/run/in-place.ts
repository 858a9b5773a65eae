import { byLoad, passFront, productCurve, type ByLoad, type ProductCurve } from "../front/product-curve";
import { firstPass, type FrontTable } from "../front/front-table";
import { passedBy, type BedInTurn, type Carried } from "../front/in-turn";
import { Remembered } from "../numerics/remembered";
import { smallerSide, type Sides } from "../resin/capacity";
import type { KnownComposition } from "./tap-composition";

/** A bed as its grade and its figures say, without what is believed of it. */
export interface PlainBed {
  readonly kind: "mixed" | "cation" | "anion";
  /** Load at T = 1. */
  readonly meq: number;
  /** meq of each kind of its beads. */
  readonly sides: Sides;
  readonly transferUnits: number;
  /** By rising carbon dioxide, each with its water; none where no composition is known. */
  readonly curves: readonly ProductCurve[];
  readonly waters: readonly KnownComposition[];
}

/** What a bed is asked for: the first ion that leaks, or an output as a share of the tap's conductivity. */
export type Event = "leak" | number;

/** By curve: how much of each load a bed holds until an event in its place, as a share of its load at that event behind nothing. */
export type InPlace = readonly ByLoad<number>[];

/** T at which a curve reaches an event, as a bed behind nothing does, and load by load. */
interface Reached {
  readonly together: number;
  readonly loads: ByLoad<number>;
}

/** T at which a front first reaches a share; endless where it never does. */
const reaches = (front: FrontTable, share: number) =>
  front.some((value) => value >= share) ? Math.exp(firstPass(front, share)) : Infinity;

function reachedAt({ composed, leak, loads }: ProductCurve, event: Event): Reached {
  const { seen, leaks } = loads!();
  // Strong acids leak behind weak ones: what all anions do tells of both.
  if (event === "leak") return { together: leak?.throughput ?? Infinity, loads: { ...leaks, strong: Infinity } };
  const together = Math.exp(firstPass(composed!, event));
  const alone = byLoad((load) => reaches(seen[load], event));
  // Where carbonic acid alone is seen, nobody waits for the strong acids.
  const first = { ...alone, strong: alone.anions < Infinity ? Infinity : alone.strong };
  // Both kinds of beads give way a little at once, which no one of them shows by itself.
  const earliest = Math.min(first.cations, first.anions, first.strong);
  const by = earliest < Infinity ? together / earliest : 1;
  return { together, loads: byLoad((load) => first[load] * by) };
}

const NONE_USED = () => 0;

/** A plain bed as a train's future has it: fresh, with even flow. */
export const plainInTurn = ({ meq, curves }: PlainBed, curve: number): BedInTurn => ({
  meq,
  bypass: 0,
  used: NONE_USED,
  front: (of: Carried) => (of === "seen" ? undefined : passFront(curves[curve]!, of, 0)),
});

/** Of a bed so small beside those ahead that it adds nothing. */
const LEAST = 1e-9;
const MOST = 200;
const known = new Remembered<InPlace>(MOST);

/**
 * What a bed holds load by load until an event in its place. Mixed beds in a row work as one longer bed (the same column, cut
 * where one ends): by when that meets the event so much has come through those ahead.
 *
 * @param ahead beds before it, as the water meets them
 * @returns nothing where the water's composition is not known
 */
export function inPlace(bed: PlainBed, ahead: readonly (readonly PlainBed[])[], event: Event): InPlace | undefined {
  const all = [...ahead.flat(), bed];
  if (all.some(({ waters, curves }) => waters.length === 0 || curves.length !== bed.curves.length)) return undefined;
  const key = [
    event,
    ...all.map(({ kind, meq, curves }) => [kind, meq, ...curves.map((curve) => curve.key)].join(" ")),
  ];
  return known.of(key.join("|"), () =>
    bed.curves.map((curve, c) => {
      const own = reachedAt(curve, event);
      const held = ahead.length > 0 && all.every(({ kind }) => kind === "mixed") ? asOneBed(all, c, event) : undefined;
      return byLoad((load) => Math.max(LEAST, (held ? held[load] / bed.meq : own.loads[load]) / own.together));
    }),
  );
}

/** meq of each load that the last of mixed beds has taken once all, as one longer bed, meet an event. */
function asOneBed(beds: readonly PlainBed[], curve: number, event: Event): ByLoad<number> {
  const sum = (of: (bed: PlainBed) => number) => beds.reduce((all, bed) => all + of(bed), 0);
  const sides = { cation: sum((bed) => bed.sides.cation), anion: sum((bed) => bed.sides.anion) };
  const meq = smallerSide(sides);
  const long = productCurve(
    sum(({ transferUnits }) => transferUnits),
    beds[0]!.waters[curve],
    { cation: sides.cation / meq, anion: sides.anion / meq },
  );
  const ahead = beds.slice(0, -1).map((bed) => [plainInTurn(bed, curve)]);
  const { loads } = reachedAt(long, event);
  return byLoad((load) => passedBy(loads[load] * meq, ahead, load));
}
