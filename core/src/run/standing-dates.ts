import { chargeAt, outputOf, type Mark } from "../belief/charge-belief";
import { daysBetween, weekdayOf } from "../dates/calendar";
import { DAY_SD, PACE_SD, type KnownWork } from "../dates/expected-use";
import { chance, datesOf, DEFAULT_PATHS, NO_USE, WorkToCome, type DepletionAnswer } from "../dates/futures";
import { fail, succeed, type Result } from "../result";
import { drawnLeft, leftBehind, outputsToCome } from "./in-series";
import { trendLeft } from "../verdict/slow-rise";
import type { Standing, WorkedStanding } from "./standing";

/** Seeded, so that the same facts give the same dates. */
const SEED = 20;
/** How far a future's pace is off: less, the longer the log. */
export const paceSd = ({ use }: Standing): number => PACE_SD / Math.sqrt(1 + use.weeksLogged);

/**
 * Feed and litres left of one future: what its charge holds to a mark, less what is used and what went since the log.
 * @param place of the belief's whole, 0 to 1
 * @param normal standard normal draws
 */
export function drawLeft(
  { belief, question, ahead }: Pick<WorkedStanding, "belief" | "question" | "ahead">,
  mark: Mark,
  place: number,
  normal: () => number,
): { readonly feed: number; readonly left: number } {
  const feed = question.feed.median * Math.exp(question.feed.sd * normal());
  const gone = Math.max(0, question.sinceLog.median + question.sinceLog.sd * normal());
  const bed = { belief, used: question.used, loads: question.loads };
  const left = drawnLeft(bed, mark, ahead, chargeAt(belief, place), (each) => elsewhere(place, each), feed);
  return { feed, left: Math.max(0, left - gone) };
}

/**
 * Each future's litres no later than the readings' own trend gives at the same rank.
 * @param left litres left, one a future; changed in place
 */
export function noLaterThanTrend(
  left: Float64Array,
  { trend, question }: Pick<WorkedStanding, "trend" | "question">,
): void {
  if (!trend) return;
  const order = Uint32Array.from(left.keys()).sort((a, b) => left[a]! - left[b]!);
  order.forEach((future, rank) => {
    const byTrend = trendLeft(trend, (rank + 0.5) / left.length, question.sinceLog.median);
    left[future] = Math.min(left[future]!, byTrend);
  });
}

/** A place between 0 and 1 for a bed ahead, its own for each draw of the last bed. */
export const elsewhere = (place: number, bed: number) => (place * (DEFAULT_PATHS + 1) * Math.sqrt(bed + 2) * 7) % 1;

/** Days from the first day to come on which the mark falls, one a simulated future, ascending. */
export function standingDays(worked: WorkedStanding, bookings: readonly KnownWork[] = []): Result<Int32Array> {
  const { standing: where, mark, firstDay } = worked;
  if (!mark) return fail("no-mark", "There is no mark to come, so there is no date.");
  const { use } = where;
  const uses = (mean: number) => ({ mean, sd: DAY_SD * mean });
  const booked = new Map(bookings.map(({ on, litres }) => [daysBetween(firstDay, on), uses(litres)]));
  const work = new WorkToCome(use.weekdays.map(uses), weekdayOf(firstDay), booked);
  if (!work.isAny) return NO_USE;
  const { uniform, normal } = chance(SEED);
  const pace = paceSd(where);
  const days = new Int32Array(DEFAULT_PATHS);
  // One draw a slice of the belief: all of it is drawn, none of it twice.
  const left = Float64Array.from(
    days,
    (_, path) => drawLeft(worked, mark, (path + uniform()) / DEFAULT_PATHS, normal).left,
  );
  noLaterThanTrend(left, worked);
  left.forEach((litres, path) => {
    days[path] = litres > 0 ? work.dayOfEnd(litres, Math.exp(pace * normal()), normal) : 0;
  });
  return succeed(days.sort());
}

/** Early, likely and late day on which the mark falls (Metropolis and Ulam 1949, the Monte Carlo method). */
export function standingDates(worked: WorkedStanding, bookings?: readonly KnownWork[]): Result<DepletionAnswer> {
  const days = standingDays(worked, bookings);
  return days.ok ? datesOf(days.value, worked.firstDay) : days;
}

/** Output to expect at one point of a charge, µS/cm: early, likely and late front. */
export interface ExpectedOutput {
  readonly litres: number;
  readonly early: number;
  readonly likely: number;
  readonly late: number;
}

const BAND_POINTS = 60;
const BAND_DRAWS = 400;
/** Drawn a little beyond the late stop point. */
const BAND_MARGIN = 1.04;

/** Output over litres as the belief has it: the middle and the 10 and 90 % points of many drawn charges. */
export function expectedOutputs(
  { standing: where, belief, toHard, question, ahead }: WorkedStanding,
  until?: number,
): readonly ExpectedOutput[] {
  const { used, feed } = where;
  const untilLitres =
    until ?? BAND_MARGIN * Math.max(used.litres + leftBehind(belief, toHard, ahead, question, 0.9), 1);
  const loadSoFar = used.litres > 0 ? used.meq / used.litres : feed.typical / 100;
  const places = Array.from({ length: BAND_DRAWS }, (_, i) => (i + 0.5) / BAND_DRAWS);
  const draws = places.map((place) => chargeAt(belief, place));
  const shares = draws.map((drawn) => outputOf(belief, drawn));
  const toCome = Array.from({ length: BAND_POINTS + 1 }, (_, i) =>
    Math.max(0, (untilLitres * i) / BAND_POINTS - used.litres),
  );
  const behind =
    ahead.length === 0
      ? undefined
      : draws.map((drawn, i) =>
          outputsToCome(
            { belief, used: used.meq },
            ahead,
            drawn,
            (bed) => elsewhere(places[i]!, bed),
            feed.typical,
            toCome,
          ),
        );
  return Array.from({ length: BAND_POINTS + 1 }, (_, i) => {
    const litres = (untilLitres * i) / BAND_POINTS;
    const isPast = litres <= used.litres;
    const meq = isPast ? litres * loadSoFar : used.meq + ((litres - used.litres) * feed.typical) / 100;
    const fed = isPast ? 100 * loadSoFar : feed.typical;
    const outputs = Float64Array.from(shares, (share, k) =>
      behind && !isPast ? behind[k]![i]! : fed * share(Math.max(meq, 1e-9)),
    ).sort();
    const at = (share: number) => outputs[Math.floor(share * BAND_DRAWS)]!;
    return { litres, early: at(0.9), likely: at(0.5), late: at(0.1) };
  });
}
