import { groupsOf } from "../belief/groups";
import { chargeAt, chargeBelief, inTurn, outputOf, type ChargeBelief } from "../belief/charge-belief";
import { ownerBelief, type OwnerBelief } from "../belief/owner";
import { shareAt } from "../front/front-table";
import { byLoad, type ByLoad } from "../front/product-curve";
import { loadSdOf, loadUsed, meqOf } from "../ledger/water-used";
import type { Id } from "../descriptor/identity";
import type { Vessel } from "../vessel/vessel.record";
import { median } from "../numerics/quantile";
import { RememberedOf } from "../numerics/remembered";
import type { ChargeLedger, LedgerFacts, LedgerLine } from "./ledger-facts";
import { hydraulicsOf, scaleOfCharge } from "./hydraulics";
import { usedBefore } from "./used-before";

/** What left a bed at one visit. */
export interface Leaving {
  /** µS/cm. */
  readonly ec25: number;
  /** Read there, or between two readings there; else believed. */
  readonly isRead: boolean;
  /** Where the composition is known: share of each of the tap's loads that leaves, by curve. */
  readonly loads?: ByLoad<readonly number[]>;
}

/** Draws of the belief over which what leaves is averaged. */
const DRAWS = 200;
/** Least load at which a curve is read. */
const LEAST = 1e-9;

const ofTheGrade = ownerBelief([], "");
/** What is believed of the resin in a vessel. */
export const ownerOf = ({ owners }: Pick<LedgerFacts, "owners">, vesselId: Id): OwnerBelief =>
  owners?.get(vesselId) ?? ofTheGrade;

/** The vessel of a charge, among those that the facts tell of. */
export const vesselOf = ({ train }: LedgerFacts, vesselId: Id): Vessel | undefined =>
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
  const isComposed = composedOf(ledger, facts);
  const believed = !isComposed && middles.every(isBetween) ? [] : believedAt(ledger, facts);
  /** Outside its readings an ended charge let through no more than its first, and no less than its last. */
  const beside = (at: number, ec25: number) => {
    if (!ledger.charge.ended || !first || !last) return ec25;
    return at < first.litres ? Math.min(ec25, first.ec25) : Math.max(ec25, last.ec25);
  };
  return middles.map((at, i): Leaving => {
    const { loads } = believed[i] ?? {};
    if (!isBetween(at)) return { ec25: beside(at, believed[i]?.ec25 ?? 0), isRead: false, ...(loads ? { loads } : {}) };
    while (points[next]!.litres < at) next += 1;
    const [from, to] = [points[Math.max(0, next - 1)]!, points[next]!];
    const part = to.litres > from.litres ? (at - from.litres) / (to.litres - from.litres) : 1;
    const ec25 = from.ec25 + part * (to.ec25 - from.ec25);
    return { ec25, isRead: true, ...(loads ? { loads: noLess(loads, ec25 / lines[i]!.tapEc25) } : {}) };
  });
}

/** No less of a load passes than a meter sees. */
const noLess = (loads: ByLoad<readonly number[]>, share: number): ByLoad<readonly number[]> =>
  byLoad((of) => loads[of].map((each) => Math.max(each, Math.min(1, share))));

/** What the water of a charge hangs on, as it was at its end or is now. */
function waterOf({ charge, lines }: ChargeLedger, facts: LedgerFacts) {
  const vessel = vesselOf(facts, charge.vesselId);
  const last = lines[lines.length - 1];
  const rig = facts.train?.rigs.find(({ id }) => id === last?.rigId) ?? facts.rig;
  const hydraulics = vessel && hydraulicsOf(charge, { ...facts, rig, vessel });
  return vessel && last && hydraulics?.ok ? { vessel, last, rig, hydraulics: hydraulics.value } : undefined;
}

const composedOf = (ledger: ChargeLedger, facts: LedgerFacts): boolean =>
  (waterOf(ledger, facts)?.hydraulics.plain.waters.length ?? 0) > 0;

interface BelievedLeaving {
  readonly ec25: number;
  readonly loads?: ByLoad<readonly number[]>;
}

/** What was believed of beds that others stood behind, by all that it hangs on: those of some years. */
const MOST_KNOWN = 500;
const known = new RememberedOf<OwnerBelief, readonly BelievedLeaving[]>(MOST_KNOWN);

/** What is believed to leave with the water of each visit. */
function believedAt(ledger: ChargeLedger, facts: LedgerFacts): readonly BelievedLeaving[] {
  const { charge, lines, outputs } = ledger;
  const water = waterOf(ledger, facts);
  if (!water) return lines.map(() => ({ ec25: 0 }));
  const { vessel, last, rig, hydraulics } = water;
  const used = loadUsed(lines);
  const scale = scaleOfCharge(vessel, hydraulics, last.tapEc25);
  // Where what leaves an ended charge is not followed load by load its count tells, within its readings.
  const isComposed = hydraulics.plain.waters.length > 0;
  const groups = !charge.ended || isComposed ? groupsOf(outputs, charge.resinLitres) : [];
  const owner = ownerOf(facts, charge.vesselId);
  const before = usedBefore(charge.partUsed, {
    litresPerJob: rig.litresPerJob,
    week: rig.litresPerJob * (rig.jobsPerWeek ?? 0),
    feedEc25: last.tapEc25,
    promised: Math.exp(scale.logPromised),
  });
  const loadSd = loadSdOf(used);
  const all = lines.map(({ litres, feedEc25, loadEc25, loads }) => [litres, feedEc25, loadEc25, loads]);
  const key = `${JSON.stringify([loadSd, before.used, groups, all, scale.tapId])} ${scale.key}`;
  return known.about(owner).of(key, () => {
    const belief = chargeBelief(owner, loadSd, groups, scale, before.used);
    const seen = seenLeaving(belief, lines);
    const composed = scale.curves[0]!.loads && scale.curves.length === hydraulics.plain.curves.length;
    const loads = composed ? loadsLeaving(belief, lines) : [];
    return seen.map((ec25, i) => (loads[i] ? { ec25, loads: loads[i] } : { ec25 }));
  });
}

/** µS/cm believed to leave with each line's water. */
function seenLeaving(belief: ChargeBelief, lines: readonly LedgerLine[]): readonly number[] {
  const draws = Array.from({ length: DRAWS }, (_, i) => outputOf(belief, chargeAt(belief, (i + 0.5) / DRAWS)));
  let meq = 0;
  return lines.map((line) => {
    const gain = meqOf(line);
    const middle = Math.max(meq + gain / 2, LEAST);
    meq += gain;
    return (line.feedEc25 * draws.reduce((sum, share) => sum + share(middle), 0)) / DRAWS;
  });
}

/** Draws of each curve over which the loads that leave are averaged. */
const LOAD_DRAWS = 40;
const NOTHING = () => 0;

/** Share of each of the tap's loads believed to leave with each line's water, by curve. */
function loadsLeaving(belief: ChargeBelief, lines: readonly LedgerLine[]): readonly ByLoad<readonly number[]>[] {
  const ofCurve = belief.scale.curves.map((_, curve) => {
    const beds = Array.from({ length: LOAD_DRAWS }, (_draw, i) =>
      inTurn(belief, chargeAt(belief, (i + 0.5) / LOAD_DRAWS, curve), NOTHING),
    );
    return byLoad((of) => {
      let meq = 0;
      return lines.map(({ litres, tapEc25, loads }) => {
        const reaching = loads?.[of][curve] ?? 1;
        const gain = (reaching * litres * tapEc25) / 100;
        const middle = Math.max(meq + gain / 2, LEAST);
        meq += gain;
        const through = beds.reduce((sum, { meq: whole, bypass, front }) => {
          const table = front(of);
          return sum + (table ? bypass + (1 - bypass) * shareAt(table, Math.log(middle / whole)) : 1);
        }, 0);
        return reaching * Math.min(1, through / LOAD_DRAWS);
      });
    });
  });
  return lines.map((_, i) => byLoad((of) => ofCurve.map((curve) => curve[of][i]!)));
}
