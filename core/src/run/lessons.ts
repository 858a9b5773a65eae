import { describeBed, type BedAnswer } from "../bed/bed";
import { groupsOf } from "../belief/groups";
import { lessonOf, ownerBelief, type EndedChargeFacts, type Lesson, type OwnerBelief } from "../belief/owner";
import { chargeScale, type ChargeScale } from "../belief/weigh";
import { productCurve, type ProductCurve } from "../front/product-curve";
import { loadUsed } from "../ledger/water-used";
import { Remembered } from "../numerics/remembered";
import type { Id } from "../descriptor/identity";
import type { Tap } from "../feed/tap.record";
import type { Charge } from "../resin/charge.record";
import type { Vessel } from "../vessel/vessel.record";
import type { WaterReport } from "../water/water-report.record";
import { GRADE_CAPACITIES, GRADE_HEALTH, smallerSide } from "../resin/capacity";
import { PACKING_FACTORS, storageFactor } from "../resin/storage";
import { fail, succeed, within, type Result } from "../result";
import { scaleFactor } from "../water/meter";
import { rigLedger, type LedgerFacts, type RigLedger } from "./charge-ledger";
import { time } from "./readings";
import { compositionAtResin, type KnownComposition } from "./tap-composition";

/** A vessel of a rig with its books: what can teach. */
export interface VesselFacts extends LedgerFacts {
  readonly vessel: Vessel;
  readonly reports?: readonly WaterReport[];
}

/** Share of capacity that storage and packing leave. */
export function chargeCondition(charge: Charge): number {
  const stored = charge.stored ? storageFactor(charge.stored) : undefined;
  return (stored?.ok ? stored.value : 1) * PACKING_FACTORS[charge.packing];
}

/** eq/L of the smaller side of a charge's grade. */
export const gradeCapacityOf = (charge: Charge) => smallerSide(GRADE_CAPACITIES[charge.grade]);
const chargeMeq = (charge: Charge) => 1000 * charge.resinLitres * gradeCapacityOf(charge) * chargeCondition(charge);
/** µS/cm of a vessel's limit. */
export const limitOf = ({ marks }: Vessel) => marks.limit / scaleFactor(marks.scale);

/** A charge as the water meets it. */
export interface Hydraulics {
  readonly bed: BedAnswer;
  readonly curve: ProductCurve;
  readonly composition: KnownComposition | undefined;
}

/** Bed, front and water of a charge; a fault where the rig has no tap or the bed is none. */
export function hydraulicsOf(charge: Charge, { rig, vessel, taps, reports }: VesselFacts): Result<Hydraulics> {
  const tap = taps.get(rig.tapId);
  if (!tap) return fail("no-tap", "This rig has no tap.");
  const bed = within("bed", bedOf(charge, vessel, rig.flow, tap));
  if (!bed.ok) return bed;
  const composition = compositionAtResin(rig, tap, reports);
  const curve = productCurve(bed.value.transferUnits, composition, GRADE_CAPACITIES[charge.grade]);
  return succeed({ bed: bed.value, curve, composition });
}

const bedOf = (charge: Charge, vessel: Vessel, flow: number, { temperature }: Tap): Result<BedAnswer> =>
  describeBed({
    volume: charge.resinLitres,
    diameter: vessel.diameter,
    flow,
    health: GRADE_HEALTH[charge.grade],
    ...(temperature === undefined ? {} : { temperature }),
  });

/** The scale of a charge: what its resin should hold up to the limit, at a feed in µS/cm. */
export const scaleOfCharge = (charge: Charge, vessel: Vessel, { curve }: Hydraulics, feedEc25: number): ChargeScale =>
  chargeScale(chargeMeq(charge), curve, limitOf(vessel), feedEc25);

/** A lesson with the moment its charge ended, so that those of a whole crew can be told in their order. */
export interface DatedLesson extends Lesson {
  readonly endedAt: number;
}

/** A crew's ended charges of some years; one lesson is some 15 kB. */
const MOST_LESSONS = 500;
/** By all that it was learnt from: what a charge taught is learnt again only when that changes. */
const taught = new Remembered<Lesson | undefined>(MOST_LESSONS);

/** What was learnt, by what it was learnt from: plain data, to be kept while the app is closed. */
export type Taught = readonly (readonly [from: string, lesson: Lesson | undefined])[];

export const taughtSoFar = (): Taught => taught.entries();
/** Takes back what was kept: of the same arithmetic only, for a lesson is not asked how it came about. */
export const recallTaught = (kept: Taught): void => kept.forEach(([from, lesson]) => taught.of(from, () => lesson));

function lessonOnce(facts: EndedChargeFacts): Lesson | undefined {
  const { scale, ...rest } = facts;
  const { curve, logPromised, logLimit } = scale;
  return taught.of(`${JSON.stringify(rest)} ${curve.key} ${logPromised} ${logLimit.join(" ")}`, () => lessonOf(facts));
}

/** What the ended charges of a vessel teach; those that ended by a fault, began part-used or are left out teach nothing. */
export function lessonsOf(facts: VesselFacts): readonly DatedLesson[] {
  return vesselLedger(facts).charges.flatMap(({ charge, lines, outputs }): DatedLesson[] => {
    const { ended } = charge;
    if (!ended || ended.why === "fault" || charge.leftOut || charge.partUsed) return [];
    const feedAtEnd = lines[lines.length - 1]?.feedEc25 ?? 0;
    const hydraulics = hydraulicsOf(charge, facts);
    if (!hydraulics.ok || !(feedAtEnd > 0)) return [];
    const { meq, sd } = loadUsed(lines);
    const lesson = lessonOnce({
      chargeId: charge.id,
      vesselId: charge.vesselId,
      load: meq,
      sd,
      word: ended.why,
      groups: groupsOf(outputs, charge.resinLitres),
      limitEc25: limitOf(facts.vessel),
      scale: scaleOfCharge(charge, facts.vessel, hydraulics.value, feedAtEnd),
    });
    return lesson ? [{ ...lesson, endedAt: time(ended.at) }] : [];
  });
}

/** The books of one vessel of a rig. */
export const vesselLedger = (facts: VesselFacts): RigLedger =>
  rigLedger({ ...facts, charges: facts.charges.filter((charge) => charge.vesselId === facts.vessel.id) });

/** What a crew's ended charges taught of its resin, and of the front in one vessel. */
export function learn(lessons: readonly DatedLesson[], vesselId: Id): OwnerBelief {
  return ownerBelief(
    [...lessons].sort((a, b) => a.endedAt - b.endedAt),
    vesselId,
  );
}
