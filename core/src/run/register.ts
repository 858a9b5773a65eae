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
  /** No total came before: how much this one stands for is not known. */
  readonly isFirstTotal?: boolean;
}

const nothingCounted: Counted = { litres: 0, quality: "metered" };
const MINUTE = 60_000;
const DAY = 86_400_000;
/** A hand can't tell minutes: a total is believed for at least this long a run at the rig's flow. */
const LEAST_MINUTES = 180;
const FLOW_MARGIN = 1.5;
/** Work of a day that nobody expects: so many times the usual visit, a day since the last one. */
const MOST_VISITS = 8;

/** Litres that a rig's flow can have made in a time, ms. */
const byFlow = (rig: Rig, elapsed: number) => FLOW_MARGIN * rig.flow * Math.max(LEAST_MINUTES, elapsed / MINUTE);

/** Litres between two totals that an old hand would not ask about. */
export function plausibleLitres(rig: Rig, usualLitres: number, elapsed: number): number {
  const byWork = MOST_VISITS * Math.max(usualLitres, rig.litresPerJob) * (1 + elapsed / DAY);
  return Math.min(byFlow(rig, elapsed), Math.max(byWork, byFlow(rig, 0)));
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

/** How a total does not fit: far above the last one, or below it while the next ones go on from there. */
export type Doubt = "far-above" | "fell";

/** Totals behind one that tell whether it was right. */
const LATER = 3;

/**
 * Totals that are left out until they are confirmed or the next ones bear them out: those that rose by more than this rig can
 * have drawn, and those that fell though the ones behind go on from before.
 *
 * @returns by the id of their visit
 */
export function doubtfulTotals(rig: Rig, visits: readonly Visit[], charges: readonly Charge[]): ReadonlyMap<Id, Doubt> {
  const doubtful = new Map<Id, Doubt>();
  const totals = totalsOf(visits, charges);
  const steps = new RunningMedian();
  let before: Total | undefined;
  // What was just believed is usual now, however little it was before.
  let newest = 0;
  const usual = () => Math.max(steps.value, newest);
  totals.forEach((each, i) => {
    const rise = before && !each.replaced ? each.total - before.total : 0;
    const doubt = before && each.visitId && !each.confirmed ? doubtOf(before, each, i) : undefined;
    if (doubt) {
      doubtful.set(each.visitId!, doubt);
      return;
    }
    if (rise > 0) {
      steps.add(rise);
      newest = rise;
    }
    before = each;
  });
  return doubtful;

  function doubtOf(last: Total, each: Total, i: number): Doubt | undefined {
    const rise = each.replaced ? 0 : each.total - last.total;
    const later = until(totals.slice(i + 1, i + 1 + LATER), ({ replaced }) => replaced);
    if (rise > plausibleLitres(rig, usual(), each.at - last.at))
      return isBorneOut(each, later, rig, usual()) ? undefined : "far-above";
    if (rise < 0 && rig.meterRollsOverAt === undefined)
      return isBorneOut(last, later, rig, usual()) ? "fell" : undefined;
    return undefined;
  }
}

/** What stands before the first for which something holds. */
function until<Of>(all: readonly Of[], holds: (one: Of) => boolean): readonly Of[] {
  const first = all.findIndex(holds);
  return first < 0 ? all : all.slice(0, first);
}

/** Whether totals go on from one: a usual step, or twice what the flow allows; and more of them than lie below it. */
function isBorneOut(each: Total, later: readonly Total[], rig: Rig, usual: number): boolean {
  const step = ({ total }: Total) => total - each.total;
  const goOn = later.filter((next) => step(next) >= 0 && step(next) <= byFlow(rig, next.at - each.at));
  const isUsual = goOn.some((next) => step(next) <= plausibleLitres(rig, usual, next.at - each.at));
  return goOn.length >= (isUsual ? 1 : 2) && goOn.length > later.filter((next) => step(next) < 0).length;
}

const DOUBTED: Readonly<Record<Doubt, string>> = {
  "far-above":
    "This total is far above the last one. Its water is not counted until you confirm it, or the next ones bear it out.",
  fell: "This total is below the last one, and the next ones go on from there. It is left out.",
};

/** Follows the rig's water meter from visit to visit and from filling to filling. */
export class Register {
  private total: number | undefined;
  private carried = 0;

  constructor(
    private readonly rollsOverAt: number | undefined,
    private readonly doubtful: ReadonlyMap<Id, Doubt>,
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
    const doubt = this.doubtful.get(visit.id);
    if (doubt) return { ...nothingCounted, trouble: DOUBTED[doubt] };
    // A new meter came after the last visit: what was logged before it ran through another one, or none.
    if (water.replaced) [this.total, this.carried] = [0, 0];
    return this.advance(water.total);
  }

  private advance(total: number): Counted {
    const before = this.total;
    const alreadyCounted = this.carried;
    this.total = total;
    this.carried = 0;
    if (before === undefined) return { ...nothingCounted, isFirstTotal: true };
    const litres = registerDifference(before, total, this.rollsOverAt);
    if (!litres.ok) return { ...nothingCounted, trouble: litres.fault.message };
    return { litres: Math.max(0, litres.value - alreadyCounted), quality: "metered" };
  }
}
