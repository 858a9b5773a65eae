import type { Bed } from "../bed/bed";
import { describeCapacity, type Capacity } from "../resin/capacity";
import { succeed, within, type Result } from "../result";
import { positiveConductivityAt25, type Reading } from "../water/meter";
import { firstReach, productSeries } from "../column/column";
import { ColumnRun } from "../column/run";
import { conductivityOfRow, LEAKING } from "./product-curve";
import { SPECIES, type PartialFeed, type Species } from "../water/species";
import { planColumn } from "../column/train";

export interface TwoLivesInput {
  readonly feed: PartialFeed;
  readonly capacity: Capacity;
  readonly bed: Bed;
  readonly limit: Reading;
  /** Storage times packing (default 1). */
  readonly factor?: number;
}

export interface TwoLives {
  /** Litres at the tap until the first ion that the load counts passes a twentieth of its feed. */
  readonly untilLeak: number;
  /** Litres at the tap until the meter reaches the limit; absent when it never does. */
  readonly untilMeter?: number;
  readonly leaksFirst: Species;
}

/** Coarser than the Lab's: two litres figures are wanted, not a picture. */
const CELLS = 60;
const UNTIL = 4;
const STEPS_AT_ONCE = 12;

/**
 * Until anything leaks, and until the meter shows it: carbon dioxide and silica hardly move a meter, so in alkaline water
 * the second life is longer. By the column simulation, stopped when the limit is reached.
 *
 * @returns litres at the tap, or the fault of a figure
 * @example twoLives({ feed, capacity: { grade: "virgin" }, bed, limit: { value: 10, scale: "nacl" } })
 */
export function twoLives({ feed, capacity, bed, limit, factor = 1 }: TwoLivesInput): Result<TwoLives> {
  const sides = within("capacity", describeCapacity(capacity));
  if (!sides.ok) return sides;
  const mark = within("limit", positiveConductivityAt25(limit));
  if (!mark.ok) return mark;
  const { cation, anion } = sides.value;
  const stages = [{ kind: "mixed" as const, capacity: { cation: cation * factor, anion: anion * factor }, bed }];
  const plan = planColumn({ feed, stages, cells: CELLS, until: UNTIL, profiles: 1 });
  if (!plan.ok) return plan;
  const run = new ColumnRun(plan.value);
  let rows = 0;
  while (!run.done) {
    run.advance(STEPS_AT_ONCE);
    rows = Math.min(run.steps, rows + STEPS_AT_ONCE);
    if (conductivityOfRow(run.product, rows - 1) >= mark.value) break;
  }
  return livesOf(run, rows, plan.value.feed, mark.value);
}

function livesOf(run: ColumnRun, rows: number, feed: PartialFeed, limitEc25: number): Result<TwoLives> {
  const litres = run.middles.subarray(0, rows);
  const series = productSeries(litres, run.product.subarray(0, rows * SPECIES.length));
  if (!series.ok) return series;
  const untilMeter = firstReach(litres, series.value.ec25, limitEc25);
  let [untilLeak, leaksFirst] = [untilMeter ?? run.totalLitres, SPECIES[0]!];
  for (const [i, species] of SPECIES.entries()) {
    const fed = feed[species] ?? 0;
    if (fed === 0) continue;
    const shares = Float64Array.from(litres, (_, row) => run.product[row * SPECIES.length + i]! / fed);
    const at = firstReach(litres, shares, LEAKING);
    if (at !== undefined && at < untilLeak) [untilLeak, leaksFirst] = [at, species];
  }
  return succeed({ untilLeak, leaksFirst, ...(untilMeter === undefined ? {} : { untilMeter }) });
}
