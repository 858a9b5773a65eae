import { groupsOf } from "../belief/groups";
import { chargeAt, chargeBelief, outputOf } from "../belief/charge-belief";
import { ownerBelief, type OwnerBelief } from "../belief/owner";
import { loadUsed } from "../ledger/water-used";
import type { Id } from "../descriptor/identity";
import type { Vessel } from "../vessel/vessel.record";
import { median } from "../numerics/quantile";
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
const DRAWS = 400;
/** Spread of a load nobody has put on yet. */
const FRESH_SD = 0.03;

const ofTheGrade = ownerBelief([], "");
/** What is believed of the resin in a vessel. */
export const ownerOf = ({ owners }: Pick<LedgerFacts, "owners">, vesselId: Id): OwnerBelief =>
  owners?.get(vesselId) ?? ofTheGrade;

/** The vessel of a charge, among those that the facts tell of. */
const vesselOf = ({ train }: LedgerFacts, vesselId: Id): Vessel | undefined =>
  train?.vessels.find((each) => each.id === vesselId);

/**
 * What left a bed at each of its visits: as it was read there, between two readings in a straight line over the litres, else
 * the mean over what is believed of the charge (Gelman et al. 2013, the posterior mean of a prediction).
 */
export function whatLeaves(ledger: ChargeLedger, facts: LedgerFacts): readonly Leaving[] {
  const { lines, outputs } = ledger;
  let litres = 0;
  const at = lines.map((line) => (litres += line.litres));
  const read = new Map<number, number>();
  lines.forEach(({ visit }, i) => {
    const own = visit ? outputs.filter((each) => each.visitId === visit.id) : [];
    if (own.length > 0) read.set(i, median(own.map((each) => each.ec25)));
  });
  const points = [...read.keys()];
  const believed = points.length === lines.length ? [] : believedAt(ledger, facts);
  let next = 0;
  return lines.map((_, i): Leaving => {
    const here = read.get(i);
    if (here !== undefined) {
      next += 1;
      return { ec25: here, isRead: true };
    }
    const [from, to] = [points[next - 1], points[next]];
    if (from === undefined || to === undefined) return { ec25: believed[i] ?? 0, isRead: false };
    const part = at[to]! > at[from]! ? (at[i]! - at[from]!) / (at[to]! - at[from]!) : 0;
    return { ec25: read.get(from)! + part * (read.get(to)! - read.get(from)!), isRead: true };
  });
}

/** µS/cm believed to leave at each visit. */
function believedAt({ charge, lines, outputs }: ChargeLedger, facts: LedgerFacts): readonly number[] {
  const vessel = vesselOf(facts, charge.vesselId);
  const hydraulics = vessel && hydraulicsOf(charge, { ...facts, vessel });
  const last = lines[lines.length - 1];
  if (!vessel || !hydraulics?.ok || !last) return lines.map(() => 0);
  const used = loadUsed(lines);
  const scale = scaleOfCharge(charge, vessel, hydraulics.value, last.tapEc25);
  const groups = groupsOf(outputs, charge.resinLitres);
  const owner = ownerOf(facts, charge.vesselId);
  const rig = facts.train?.rigs.find(({ id }) => id === last.rigId) ?? facts.rig;
  const before = usedBefore(charge.partUsed, {
    litresPerJob: rig.litresPerJob,
    week: rig.litresPerJob * (rig.jobsPerWeek ?? 0),
    feedEc25: last.tapEc25,
    promised: Math.exp(scale.logPromised),
  });
  const belief = chargeBelief(owner, used.meq > 0 ? used.sd : FRESH_SD, groups, scale, before.used);
  const draws = Array.from({ length: DRAWS }, (_, i) => outputOf(belief, chargeAt(belief, (i + 0.5) / DRAWS)));
  let meq = 0;
  return lines.map((line) => {
    meq += (line.litres * line.feedEc25) / 100;
    const share = draws.reduce((sum, drawn) => sum + drawn(Math.max(meq, 1e-9)), 0) / DRAWS;
    return line.feedEc25 * share;
  });
}
