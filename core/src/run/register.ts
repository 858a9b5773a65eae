import { registerDifference, type WaterQuality } from "../ledger/water-used";
import { RunningMedian } from "../numerics/quantile";
import type { Id } from "../descriptor/identity";
import type { Charge } from "../resin/charge.record";
import type { Rig } from "../rig/rig.record";
import type { Visit } from "../rig/visit.record";
import { time } from "./readings";

export interface Counted {
  readonly litres: number;
  readonly quality: WaterQuality;
  /** Why the water could not be counted. */
  readonly trouble?: string;
}

const nothingCounted: Counted = { litres: 0, quality: "metered" };
const MINUTE = 60_000;
const DAY = 86_400_000;
/** A hand can't tell minutes: a total is believed for at least this long a run at the rig's flow. */
const LEAST_MINUTES = 180;
const FLOW_MARGIN = 1.5;
/** Work of a day that nobody expects: so many times the usual visit, a day since the last one. */
const MOST_VISITS = 8;

/** Litres between two totals that an old hand would not ask about. */
export function plausibleLitres(rig: Rig, usualLitres: number, elapsed: number): number {
  const byFlow = FLOW_MARGIN * rig.flow * Math.max(LEAST_MINUTES, elapsed / MINUTE);
  const byWork = MOST_VISITS * Math.max(usualLitres, rig.litresPerJob) * (1 + elapsed / DAY);
  return Math.min(byFlow, Math.max(byWork, FLOW_MARGIN * rig.flow * LEAST_MINUTES));
}

interface Total {
  /** Absent for a filling's. */
  readonly visitId?: Id;
  readonly at: number;
  readonly total: number;
  readonly confirmed: boolean;
  readonly replaced: boolean;
}

function totalsOf(visits: readonly Visit[], charges: readonly Charge[]): Total[] {
  const totals = visits.flatMap(({ id, at, water }): Total[] => {
    if (water?.by !== "total") return [];
    const { total, confirmed = false, replaced = false } = water;
    return [{ visitId: id, at: time(at), total, confirmed, replaced }];
  });
  for (const { filledAt, startTotal } of charges)
    if (startTotal !== undefined)
      totals.push({ at: time(filledAt), total: startTotal, confirmed: true, replaced: false });
  return totals.sort((a, b) => a.at - b.at);
}

/**
 * Totals that rose by more than this rig can have drawn, not confirmed and not borne out by the next one: mistyped, as it
 * seems. They are left out until then.
 *
 * @returns ids of their visits
 */
export function doubtfulTotals(rig: Rig, visits: readonly Visit[], charges: readonly Charge[]): ReadonlySet<Id> {
  const doubtful = new Set<Id>();
  const totals = totalsOf(visits, charges);
  const steps = new RunningMedian();
  let before: Total | undefined;
  totals.forEach((each, i) => {
    const rise = before && !each.replaced ? each.total - before.total : 0;
    const most = before ? plausibleLitres(rig, steps.value, each.at - before.at) : Infinity;
    if (each.visitId && rise > most && !each.confirmed && !isBorneOut(each, totals[i + 1], rig, steps.value)) {
      doubtful.add(each.visitId);
      return;
    }
    if (rise > 0) steps.add(rise);
    before = each;
  });
  return doubtful;
}

function isBorneOut(each: Total, next: Total | undefined, rig: Rig, usual: number): boolean {
  if (!next || next.replaced || next.total < each.total) return false;
  return next.total - each.total <= plausibleLitres(rig, usual, next.at - each.at);
}

const DOUBTED =
  "This total is far above the last one. Its water is not counted until you confirm it, or the next total bears it out.";

/** Follows the rig's water meter from visit to visit and from filling to filling. */
export class Register {
  private total: number | undefined;
  private carried = 0;

  constructor(
    private readonly rollsOverAt: number | undefined,
    private readonly doubtful: ReadonlySet<Id>,
  ) {}

  /** A total noted at a filling: what came since the last one belongs to the charge before. */
  restart(total: number): number {
    return this.advance(total).litres;
  }

  count(visit: Visit): Counted {
    const { water } = visit;
    if (!water) return nothingCounted;
    if (water.by === "timed") {
      this.carried += water.minutes * water.flow;
      return { litres: water.minutes * water.flow, quality: "timed" };
    }
    if (water.by === "jobs") {
      this.carried += water.jobs * water.litresPerJob;
      return { litres: water.jobs * water.litresPerJob, quality: "guessed" };
    }
    if (this.doubtful.has(visit.id)) return { ...nothingCounted, trouble: DOUBTED };
    if (water.replaced) this.total = 0;
    return this.advance(water.total);
  }

  private advance(total: number): Counted {
    const before = this.total;
    const alreadyCounted = this.carried;
    this.total = total;
    this.carried = 0;
    if (before === undefined) return nothingCounted;
    const litres = registerDifference(before, total, this.rollsOverAt);
    if (!litres.ok) return { ...nothingCounted, trouble: litres.fault.message };
    return { litres: Math.max(0, litres.value - alreadyCounted), quality: "metered" };
  }
}
