import { describeBed, OWN_BEADS, type BedAnswer } from "../bed/bed";
import { chargeScale, type ChargeScale } from "../belief/weigh";
import { productCurve, type ProductCurve } from "../front/product-curve";
import type { Id } from "../descriptor/identity";
import type { Tap } from "../feed/tap.record";
import type { Charge } from "../resin/charge.record";
import type { Rig } from "../rig/rig.record";
import type { Vessel } from "../vessel/vessel.record";
import type { WaterReport } from "../water/water-report.record";
import { GRADE_CAPACITIES, GRADE_HEALTH, SINGLE_BEADS, smallerSide, type Beads } from "../resin/capacity";
import { PACKING_FACTORS, storageFactor } from "../resin/storage";
import { fail, succeed, within, type Result } from "../result";
import { scaleFactor } from "../water/meter";
import type { CarbonDioxideKnown } from "../water/unmeasured";
import { watersAtResin, type KnownComposition } from "./tap-composition";

/** A vessel with what its bed's work hangs on. */
export interface BedFacts {
  readonly rig: Rig;
  readonly vessel: Vessel;
  readonly taps: ReadonlyMap<Id, Tap>;
  readonly reports?: readonly WaterReport[];
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
  /** By rising carbon dioxide: one where it is known. */
  readonly curves: readonly ProductCurve[];
  readonly tapId: Id;
  /** What is known of the carbon dioxide; absent where no composition is known. */
  readonly carbon: CarbonDioxideKnown | undefined;
  /** The likeliest. */
  readonly composition: KnownComposition | undefined;
  /** Of one kind of beads alone: load that a meter sees beside all that its side takes; 1 where nobody knows the water. */
  readonly seenShare: number;
}

/** What one kind of beads takes of a water, meq/L: the anion beads also what no meter sees. */
const sideLoad = ({ ions }: KnownComposition, beads: Beads) =>
  beads === "cation"
    ? ions.na + ions.nh4 + ions.k + ions.mg + ions.ca
    : ions.cl + ions.no3 + ions.so4 + ions.hco3 + ions.sio2;

const NO_WATER = { carbon: undefined, composition: undefined } as const;

/** Bed, front and water of a charge; a fault where the rig has no tap or the bed is none. */
export function hydraulicsOf(charge: Charge, { rig, vessel, taps, reports }: BedFacts): Result<Hydraulics> {
  const tap = taps.get(rig.tapId);
  if (!tap) return fail("no-tap", "This rig has no tap.");
  const { beads = "mixed" } = charge;
  const bed = within("bed", bedOf(charge, vessel, rig.flow, tap));
  if (!bed.ok) return bed;
  const { waters = [], carbon } = watersAtResin(rig, tap, reports) ?? {};
  const water = waters[waters.length >> 1];
  const { transferUnits } = bed.value;
  const seenShare = beads === "mixed" || !water ? 1 : Math.min(1, water.ec25 / 100 / sideLoad(water, beads));
  // The product of one kind of beads is no water whose curve a meter follows: its front alone counts.
  if (beads !== "mixed" || !water)
    return succeed({
      ...{ bed: bed.value, curves: [productCurve(transferUnits)], tapId: tap.id, seenShare },
      ...NO_WATER,
    });
  const sides = GRADE_CAPACITIES[charge.grade];
  const all = waters.map((each) => productCurve(transferUnits, each, sides));
  // Behind a barrel that takes the carbon dioxide out all of them are one.
  const curves = all.every(({ key }) => key === all[0]!.key) ? all.slice(0, 1) : all;
  return succeed({ bed: bed.value, curves, tapId: tap.id, carbon, composition: water, seenShare });
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
export const scaleOfCharge = (charge: Charge, vessel: Vessel, hydraulics: Hydraulics, feedEc25: number): ChargeScale =>
  chargeScale(hydraulics.seenShare * chargeMeq(charge), hydraulics.curves, limitOf(vessel), feedEc25, hydraulics.tapId);
