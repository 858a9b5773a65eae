import type { ByLoad } from "../front/product-curve";
import { median } from "../numerics/quantile";
import type { Id } from "../descriptor/identity";

/** One output reading as it is weighed. */
export interface WeighedReading {
  /** The visit it was typed in: the dips of one visit are one look. */
  readonly visitId: Id;
  /** Milliseconds since 1970. */
  readonly at: number;
  /** Litres treated by the charge when it was taken. */
  readonly litres: number;
  /** Meter-visible load on the resin by then, meq. */
  readonly meq: number;
  /** µS/cm at 25 °C. */
  readonly ec25: number;
  readonly feedEc25: number;
  /** What goes round its beads, where that is another water than what its front is a share of: behind a bed that holds back. */
  readonly roundEc25?: number;
  /** meq of each load by then and by curve, where they did not come together. */
  readonly loads?: ByLoad<readonly number[]>;
  /** µS/cm of one ppm on the reading's scale. */
  readonly ppm: number;
}

/** The dips typed in one visit: however often the probe goes in, one look. */
type Look = Omit<WeighedReading, "visitId">;

/** Looks within one bed volume and half an hour: they look at one thing. */
export interface ReadingGroup {
  /** Litres at its first look, and at its last. */
  readonly from: number;
  readonly litres: number;
  readonly meq: number;
  /** The median of its largest set of looks that agree. */
  readonly ec25: number;
  readonly feedEc25: number;
  readonly roundEc25?: number;
  readonly loads?: ByLoad<readonly number[]>;
  readonly ppm: number;
  /** Size of that set. */
  readonly agreeing: number;
  /** µS/cm of each look, in their order. */
  readonly looks: readonly number[];
}

/** Looks this long after a group's first are another group. */
export const TOGETHER = 30 * 60_000;
/** Two looks agree within this share of the smaller, or one ppm. */
const ALIKE = 0.2;
/** A reading with decimals is no whole number of parts in binary. */
const ROUNDING = 1e-9;

export const agree = (a: number, b: number, ppm: number) =>
  Math.abs(a - b) <= Math.max(ALIKE * Math.min(a, b), ppm) * (1 + ROUNDING);

/** Dips of each visit, as their median; the visits in the order they came. */
function looksOf(readings: readonly WeighedReading[]): readonly Look[] {
  const byVisit = new Map<Id, WeighedReading[]>();
  for (const reading of readings) {
    const dips = byVisit.get(reading.visitId);
    if (dips) dips.push(reading);
    else byVisit.set(reading.visitId, [reading]);
  }
  return [...byVisit.values()].map((dips) => {
    const { visitId: _visit, ...last } = dips[dips.length - 1]!;
    return { ...last, ec25: median(dips.map((dip) => dip.ec25)) };
  });
}

/**
 * The largest set of looks that agree pairwise; of two as large the one whose newest look is the newer.
 *
 * @param values in the order they came
 * @example largestAgreement([14, 0, 13], 1) // [14, 13]
 */
export function largestAgreement(values: readonly number[], ppm: number): readonly number[] {
  // What two values agree on, all between them do: sorted, every such set is a run.
  const order = values.map((value, place) => ({ value, place })).sort((a, b) => a.value - b.value);
  let best: { readonly run: typeof order; readonly newest: number } = { run: [], newest: -1 };
  for (let from = 0; from < order.length; from += 1) {
    let end = from;
    while (end < order.length && agree(order[from]!.value, order[end]!.value, ppm)) end += 1;
    const run = order.slice(from, end);
    const newest = Math.max(...run.map(({ place }) => place));
    if (run.length > best.run.length || (run.length === best.run.length && newest > best.newest))
      best = { run, newest };
  }
  return best.run.map(({ value }) => value);
}

/**
 * Output readings by groups: looks within one bed volume *and* half an hour of the group's first. A group stands at its last
 * look; a look hours later is another one, also where no water was typed between.
 *
 * @param readings oldest first
 * @param bedVolume litres of resin
 * @example groupsOf(nineDipsOfOneVisit, 11.5).length // 1
 */
export function groupsOf(readings: readonly WeighedReading[], bedVolume: number): readonly ReadingGroup[] {
  const groups: Look[][] = [];
  for (const look of looksOf(readings)) {
    const group = groups[groups.length - 1];
    const first = group?.[0];
    if (group && first && look.litres - first.litres <= bedVolume && look.at - first.at <= TOGETHER) group.push(look);
    else groups.push([look]);
  }
  return groups.map((looks) => {
    const { litres, meq, feedEc25, roundEc25, loads, ppm } = looks[looks.length - 1]!;
    const values = looks.map((look) => look.ec25);
    const agreeing = largestAgreement(values, ppm);
    return {
      ...{ from: looks[0]!.litres, litres, meq, ec25: median(agreeing), feedEc25, ppm },
      ...{ agreeing: agreeing.length, looks: values },
      ...(roundEc25 === undefined ? {} : { roundEc25 }),
      ...(loads ? { loads } : {}),
    };
  });
}

/** Looks that speak against one, from which on it counts as wrong. */
const OUTVOTED_BY = 2;

/**
 * Whether a group holds a look at or above a mark that no other agrees with, and that fewer than two others outvote: it is
 * to be looked at again, whatever its middle says.
 *
 * @param ec25 µS/cm of the mark
 * @example isUnsettled(groupOf([14, 0]), 10) // true: one against one
 */
export const isUnsettled = ({ looks, ppm }: ReadingGroup, ec25: number): boolean =>
  looks.some((look, i) => {
    if (look < ec25) return false;
    const others = looks.filter((_, k) => k !== i);
    return !others.some((other) => agree(other, look, ppm)) && largestAgreement(others, ppm).length < OUTVOTED_BY;
  });
