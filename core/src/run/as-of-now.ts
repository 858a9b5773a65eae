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

/**
 * Records as they count now: what is dated ahead by up to a day counts as of now, what is further ahead is left out. Their
 * order stays; where nothing lies ahead they are given back as they are.
 *
 * @param now milliseconds since 1970: the clock's, and never that of a record
 * @example asOfNow([{ at: "2027-03-01T11:00:00Z" }], Date.parse("2027-03-01T08:00:00Z")) // [{ at: "2027-03-01T08:00:00.000Z" }]
 */
export function asOfNow<T extends { readonly at: Instant }>(records: readonly T[], now: number): readonly T[] {
  if (!records.some(({ at }) => isAhead(at, now))) return records;
  const at = new Date(now).toISOString();
  return records.flatMap((each) => (isFarAhead(each.at, now) ? [] : [isAhead(each.at, now) ? { ...each, at } : each]));
}

/**
 * Charges as they count now, by the same rule: one filled far ahead is not there yet, one ended far ahead still runs.
 *
 * @param now milliseconds since 1970
 */
export function chargesAsOfNow(charges: readonly Charge[], now: number): readonly Charge[] {
  const ends = ({ ended }: Charge) => ended !== undefined && isAhead(ended.at, now);
  if (!charges.some((each) => isAhead(each.filledAt, now) || ends(each))) return charges;
  const at = new Date(now).toISOString();
  return charges.flatMap((charge): Charge[] => {
    if (isFarAhead(charge.filledAt, now)) return [];
    const begun = isAhead(charge.filledAt, now) ? { ...charge, filledAt: at } : charge;
    const { ended, ...running } = begun;
    if (!ended || !isAhead(ended.at, now)) return [begun];
    return [isFarAhead(ended.at, now) ? running : { ...begun, ended: { ...ended, at } }];
  });
}
