import { describeBed, OWN_BEADS, type BedAnswer } from "../bed/bed";
import { chargeScale, type ChargeScale } from "../belief/weigh";
import { constantCurve, productCurve, singleCurve } from "../front/product-curve";
import type { Id } from "../descriptor/identity";
import type { Tap } from "../feed/tap.record";
import type { Charge } from "../resin/charge.record";
import type { Rig } from "../rig/rig.record";
import type { Vessel } from "../vessel/vessel.record";
import type { WaterReport } from "../water/water-report.record";
import { GRADE_CAPACITIES, GRADE_HEALTH, SINGLE_BEADS, smallerSide, type Beads, type Sides } from "../resin/capacity";
import { PACKING_FACTORS, storageFactor } from "../resin/storage";
import { fail, succeed, within, type Result } from "../result";
import { scaleFactor } from "../water/meter";
import { anionsOf, cationsOf } from "../water/species";
import type { CarbonDioxideKnown } from "../water/unmeasured";
import type { PlainBed } from "./in-place";
import { watersAtResin, type KnownComposition } from "./tap-composition";

/** A vessel with what its bed's work hangs on. */
export interface BedFacts {
  readonly rig: Rig;
  readonly vessel: Vessel;
  readonly taps: ReadonlyMap<Id, Tap>;
  readonly reports?: readonly WaterReport[];
  /** By what a meter sees alone, in closed form: no curve of the water's composition is made. */
  readonly isPlain?: boolean;
}

/** Share of capacity that storage and packing leave. */
export function chargeCondition(charge: Charge): number {
  const stored = charge.stored ? storageFactor(charge.stored) : undefined;
  return (stored?.ok ? stored.value : 1) * PACKING_FACTORS[charge.packing];
}

/** eq/L of a charge's beads: of a mixed bed its smaller side, of one kind of beads alone their own. */
export const gradeCapacityOf = ({ grade, beads = "mixed" }: Pick<Charge, "grade" | "beads">) =>
  beads === "mixed" ? smallerSide(GRADE_CAPACITIES[grade]) : SINGLE_BEADS[grade][beads];

/** meq of a charge by its grade, storage and packing. */
export const chargeMeq = (charge: Charge) =>
  1000 * charge.resinLitres * gradeCapacityOf(charge) * chargeCondition(charge);

/** µS/cm of a vessel's limit, and of its stop point. */
export const limitOf = ({ marks }: Vessel) => marks.limit / scaleFactor(marks.scale);
export const hardOf = ({ marks }: Vessel) => marks.hard / scaleFactor(marks.scale);

/** A charge as the water meets it. */
export interface Hydraulics {
  readonly bed: BedAnswer;
  /** The bed by its grade alone, with its curves by rising carbon dioxide: one where it is known. */
  readonly plain: PlainBed;
  readonly tapId: Id;
  /** What is known of the carbon dioxide; absent where no composition is known. */
  readonly carbon: CarbonDioxideKnown | undefined;
  /** Of one kind of beads alone: load that a meter sees beside all that its side takes; 1 where nobody knows the water. */
  readonly seenShare: number;
}

/** What one kind of beads takes of a water, meq/L: the anion beads also what no meter sees. */
const sideLoad = ({ ions }: KnownComposition, beads: Beads) => (beads === "cation" ? cationsOf(ions) : anionsOf(ions));

/** Kinds of the beds that usually stand before one: an anion bed follows its cation bed. */
const USUAL_AHEAD = { mixed: [], cation: [], anion: ["cation"] } as const;

/** meq of each kind of beads, storage and packing in it. */
export function sidesOf(charge: Charge): Sides {
  const { grade, beads = "mixed", resinLitres } = charge;
  const whole = 1000 * resinLitres * chargeCondition(charge);
  const { cation, anion } = beads === "mixed" ? GRADE_CAPACITIES[grade] : { cation: 0, anion: 0, ...own(grade, beads) };
  return { cation: whole * cation, anion: whole * anion };
}
const own = (grade: Charge["grade"], beads: Beads) => ({ [beads]: SINGLE_BEADS[grade][beads] });

/** Bed, front and water of a charge; a fault where the rig has no tap or the bed is none. */
export function hydraulicsOf(charge: Charge, { rig, vessel, taps, reports, isPlain }: BedFacts): Result<Hydraulics> {
  const tap = taps.get(rig.tapId);
  if (!tap) return fail("no-tap", "This rig has no tap.");
  const { beads = "mixed", grade } = charge;
  const bed = within("bed", bedOf(charge, vessel, rig.flow, tap));
  if (!bed.ok) return bed;
  const { waters: all = [], carbon } = (isPlain ? undefined : watersAtResin(rig, tap, reports)) ?? {};
  const water = all[all.length >> 1];
  const { transferUnits } = bed.value;
  const curveIn = (each: KnownComposition) =>
    beads === "mixed"
      ? productCurve(transferUnits, each, GRADE_CAPACITIES[grade])
      : singleCurve(beads, USUAL_AHEAD[beads], transferUnits, each, SINGLE_BEADS[grade][beads]);
  const each = all.map(curveIn);
  // Behind a barrel that takes the carbon dioxide out all of them are one.
  const isOne = each.every(({ key }) => key === each[0]?.key);
  const [curves, waters] = isOne ? [each.slice(0, 1), all.slice(0, 1)] : [each, all];
  return succeed({
    bed: bed.value,
    tapId: tap.id,
    carbon,
    seenShare: beads === "mixed" || !water ? 1 : Math.min(1, water.ec25 / 100 / sideLoad(water, beads)),
    plain: {
      ...{ kind: beads, meq: chargeMeq(charge), sides: sidesOf(charge), transferUnits, waters },
      curves: water ? curves : [constantCurve(transferUnits)],
    },
  });
}

const bedOf = (charge: Charge, vessel: Vessel, flow: number, { temperature }: Tap): Result<BedAnswer> =>
  describeBed(
    {
      volume: charge.resinLitres,
      diameter: vessel.diameter,
      flow,
      health: GRADE_HEALTH[charge.grade],
      ...(temperature === undefined ? {} : { temperature }),
    },
    (charge.beads ?? "mixed") === "mixed" ? OWN_BEADS.mixed : OWN_BEADS.single,
  );

/** The scale of a charge: what its resin should hold up to the limit, at a feed in µS/cm. */
export function scaleOfCharge(vessel: Vessel, { plain, seenShare, tapId }: Hydraulics, feedEc25: number): ChargeScale {
  const limit = limitOf(vessel);
  // What regeneration left on a cation bed may be above a limit from the first litre on: then its front alone is counted.
  const isMetAtOnce =
    plain.kind !== "mixed" && plain.curves.some(({ composed }) => composed && composed[0]! * feedEc25 >= limit);
  const [meq, curves] = isMetAtOnce
    ? [seenShare * plain.meq, [constantCurve(plain.transferUnits)]]
    : [plain.meq, plain.curves];
  return chargeScale(meq, curves, limit, feedEc25, tapId);
}
