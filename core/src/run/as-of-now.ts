import type { Instant } from "../descriptor/identity";
import type { Charge } from "../resin/charge.record";
import { time } from "./readings";

/** Milliseconds by which a time may lie ahead and still count: a zone set wrongly, a clock that runs fast. */
const MOST_AHEAD = 86_400_000;

/**
 * Whether something is dated so far ahead that the clock which dated it was wrong: it is kept and shown, and left out of
 * what is believed until its time is put right.
 *
 * @param now milliseconds since 1970
 * @example isFarAhead("2028-03-01T08:00:00Z", Date.parse("2027-03-01T08:00:00Z")) // true
 */
export const isFarAhead = (at: Instant, now: number): boolean => time(at) - now > MOST_AHEAD;

const isAhead = (at: Instant, now: number) => time(at) > now;

/** The moment as which one that lies ahead counts. */
export type Counted = (at: Instant) => Instant;

type Dated = readonly { readonly at: Instant }[];

function* momentsOf(dated: readonly Dated[], charges: readonly Charge[]): Generator<Instant> {
  for (const list of dated) for (const { at } of list) yield at;
  for (const { filledAt, ended } of charges) {
    yield filledAt;
    if (ended) yield ended.at;
  }
}

/**
 * The newest moment that does not lie ahead of the clock, ms since 1970: what was kept just now is not yet to come for who
 * looks at the clock less often.
 *
 * @param clock milliseconds since 1970
 * @example newestUntil(clock, [[{ at: aMinuteAgo }, { at: inAnHour }]]) // a minute ago
 */
export function newestUntil(clock: number, dated: readonly Dated[], charges: readonly Charge[] = []): number {
  let newest = 0;
  for (const at of momentsOf(dated, charges)) {
    const moment = time(at);
    if (moment <= clock && moment > newest) newest = moment;
  }
  return newest;
}

/**
 * What moments that lie ahead by up to a day count as: the last milliseconds before now, in their own order. Of things that
 * hang on each other it is asked once for all, so that a reading logged before a refill stays before it.
 *
 * @param now milliseconds since 1970
 * @param dated lists of records by their one time; charges begin and end
 * @example countedOf(now, [visitsOfThreeHoursAhead, [rotation]])(rotation.at) // now, and the visit before it a millisecond earlier
 */
export function countedOf(now: number, dated: readonly Dated[], charges: readonly Charge[] = []): Counted {
  const ahead = new Set<number>();
  for (const at of momentsOf(dated, charges)) if (isAhead(at, now) && !isFarAhead(at, now)) ahead.add(time(at));
  const ordered = [...ahead].sort((a, b) => a - b);
  const counted = new Map(ordered.map((at, i) => [at, new Date(now - (ordered.length - 1 - i)).toISOString()]));
  return (at) => counted.get(time(at)) ?? at;
}

/**
 * Records as they count now: what is dated ahead by up to a day counts as of now, what is further ahead is left out. Their
 * order stays; where nothing lies ahead they are given back as they are.
 *
 * @param now milliseconds since 1970: the clock's, and never that of a record
 * @param counted of all that hang on each other; of these records alone where it is left out
 * @example asOfNow([{ at: "2027-03-01T11:00:00Z" }], Date.parse("2027-03-01T08:00:00Z")) // [{ at: "2027-03-01T08:00:00.000Z" }]
 */
export function asOfNow<T extends { readonly at: Instant }>(
  records: readonly T[],
  now: number,
  counted?: Counted,
): readonly T[] {
  if (!records.some(({ at }) => isAhead(at, now))) return records;
  const countedAt = counted ?? countedOf(now, [records]);
  return records.flatMap((each) => {
    if (isFarAhead(each.at, now)) return [];
    return [isAhead(each.at, now) ? { ...each, at: countedAt(each.at) } : each];
  });
}

/**
 * Charges as they count now, by the same rule: one filled far ahead is not there yet, one ended far ahead still runs.
 *
 * @param now milliseconds since 1970
 * @param counted of all that hang on each other; of these charges alone where it is left out
 */
export function chargesAsOfNow(charges: readonly Charge[], now: number, counted?: Counted): readonly Charge[] {
  const ends = ({ ended }: Charge) => ended !== undefined && isAhead(ended.at, now);
  if (!charges.some((each) => isAhead(each.filledAt, now) || ends(each))) return charges;
  const countedAt = counted ?? countedOf(now, [], charges);
  return charges.flatMap((charge): Charge[] => {
    if (isFarAhead(charge.filledAt, now)) return [];
    const begun = isAhead(charge.filledAt, now) ? { ...charge, filledAt: countedAt(charge.filledAt) } : charge;
    const { ended, ...running } = begun;
    if (!ended || !isAhead(ended.at, now)) return [begun];
    return [isFarAhead(ended.at, now) ? running : { ...begun, ended: { ...ended, at: countedAt(ended.at) } }];
  });
}
