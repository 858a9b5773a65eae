import { groupsOf } from "../belief/groups";
import { chargeAt, chargeBelief, outputOf } from "../belief/charge-belief";
import { ownerBelief, type OwnerBelief } from "../belief/owner";
import { loadSdOf, loadUsed } from "../ledger/water-used";
import type { Id } from "../descriptor/identity";
import type { Vessel } from "../vessel/vessel.record";
import { median } from "../numerics/quantile";
import { RememberedOf } from "../numerics/remembered";
import type { ChargeLedger, LedgerFacts } from "./ledger-facts";
import { hydraulicsOf, scaleOfCharge } from "./hydraulics";
import { usedBefore } from "./used-before";

/** What left a bed at one visit. */
export interface Leaving {
  /** µS/cm. */
  readonly ec25: number;
  /** Read there, or between two readings there; else believed. */
  readonly isRead: boolean;
}

/** Draws of the belief over which what leaves is averaged. */
const DRAWS = 200;

const ofTheGrade = ownerBelief([], "");
/** What is believed of the resin in a vessel. */
export const ownerOf = ({ owners }: Pick<LedgerFacts, "owners">, vesselId: Id): OwnerBelief =>
  owners?.get(vesselId) ?? ofTheGrade;

/** The vessel of a charge, among those that the facts tell of. */
const vesselOf = ({ train }: LedgerFacts, vesselId: Id): Vessel | undefined =>
  train?.vessels.find((each) => each.id === vesselId);

/** Readings behind a bed, one a visit: litres treated by then, and µS/cm. */
interface ReadPoint {
  readonly litres: number;
  readonly ec25: number;
}

function readPoints({ lines, outputs }: ChargeLedger): readonly ReadPoint[] {
  const byVisit = new Map<Id, number[]>();
  for (const { visitId, ec25 } of outputs) byVisit.set(visitId, [...(byVisit.get(visitId) ?? []), ec25]);
  let litres = 0;
  return lines.flatMap((line): ReadPoint[] => {
    litres += line.litres;
    const own = line.visit && byVisit.get(line.visit.id);
    return own ? [{ litres, ec25: median(own) }] : [];
  });
}

/**
 * What left a bed with the water of each of its visits, on the average of that water: between two readings there in a
 * straight line over the litres, else the mean over what is believed of the charge (Gelman et al. 2013, the posterior mean of
 * a prediction); of an ended charge within its first and its last reading. A reading stands behind its visit's water, so the water itself lies before it.
 */
export function whatLeaves(ledger: ChargeLedger, facts: LedgerFacts): readonly Leaving[] {
  const { lines } = ledger;
  const points = readPoints(ledger);
  const [first, last] = [points[0], points[points.length - 1]];
  let [litres, next] = [0, 0];
  const middles = lines.map((line) => (litres += line.litres) - line.litres / 2);
  const isBetween = (at: number) => first !== undefined && at >= first.litres && at <= last!.litres;
  const believed = middles.every(isBetween) ? [] : believedAt(ledger, facts);
  /** Outside its readings an ended charge let through no more than its first, and no less than its last. */
  const beside = (at: number, ec25: number) => {
    if (!ledger.charge.ended || !first || !last) return ec25;
    return at < first.litres ? Math.min(ec25, first.ec25) : Math.max(ec25, last.ec25);
  };
  return middles.map((at, i): Leaving => {
    if (!isBetween(at)) return { ec25: beside(at, believed[i] ?? 0), isRead: false };
    while (points[next]!.litres < at) next += 1;
    const [from, to] = [points[Math.max(0, next - 1)]!, points[next]!];
    const part = to.litres > from.litres ? (at - from.litres) / (to.litres - from.litres) : 1;
    return { ec25: from.ec25 + part * (to.ec25 - from.ec25), isRead: true };
  });
}

/** What was believed of beds that others stood behind, by all that it hangs on: those of some years. */
const MOST_KNOWN = 500;
const known = new RememberedOf<OwnerBelief, readonly number[]>(MOST_KNOWN);

/** µS/cm believed to leave with the water of each visit. */
function believedAt(ledger: ChargeLedger, facts: LedgerFacts): readonly number[] {
  const { charge, lines, outputs } = ledger;
  const vessel = vesselOf(facts, charge.vesselId);
  const hydraulics = vessel && hydraulicsOf(charge, { ...facts, vessel });
  const last = lines[lines.length - 1];
  if (!vessel || !hydraulics?.ok || !last) return lines.map(() => 0);
  const used = loadUsed(lines);
  const scale = scaleOfCharge(charge, vessel, hydraulics.value, last.tapEc25);
  // Of an ended charge its count tells, within its readings: what each of years of them believed is not weighed again.
  const groups = charge.ended ? [] : groupsOf(outputs, charge.resinLitres);
  const owner = ownerOf(facts, charge.vesselId);
  const rig = facts.train?.rigs.find(({ id }) => id === last.rigId) ?? facts.rig;
  const before = usedBefore(charge.partUsed, {
    litresPerJob: rig.litresPerJob,
    week: rig.litresPerJob * (rig.jobsPerWeek ?? 0),
    feedEc25: last.tapEc25,
    promised: Math.exp(scale.logPromised),
  });
  const loadSd = loadSdOf(used);
  const water = lines.map((line) => [line.litres, line.feedEc25]);
  const key = `${JSON.stringify([loadSd, before.used, groups, water, scale.tapId])} ${scale.key}`;
  return known.about(owner).of(key, () => {
    const belief = chargeBelief(owner, loadSd, groups, scale, before.used);
    const draws = Array.from({ length: DRAWS }, (_, i) => outputOf(belief, chargeAt(belief, (i + 0.5) / DRAWS)));
    let meq = 0;
    return lines.map((line) => {
      const gain = (line.litres * line.feedEc25) / 100;
      const middle = Math.max(meq + gain / 2, 1e-9);
      meq += gain;
      return (line.feedEc25 * draws.reduce((sum, share) => sum + share(middle), 0)) / DRAWS;
    });
  });
}
