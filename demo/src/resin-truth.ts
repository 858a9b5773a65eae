import {
  describeBed,
  frontOf,
  GRADE_CAPACITIES,
  GRADE_HEALTH,
  productCurve,
  shareAt,
  smallerSide,
  unwrap,
  type CurveWater,
  type FrontTable,
  type Grade,
} from "@winter-bead/core";
import type { Chance } from "./chance";

export interface TrueCharge {
  readonly grade: Grade;
  readonly resinLitres: number;
  readonly diameter: number;
  readonly flow: number;
}

const fronts = new Map<string, FrontTable>();

/** How a bed of the story gives way; widths go by steps, so that few are ever made. */
function frontIn(charge: TrueCharge, water: CurveWater | undefined, spread: number): FrontTable {
  const { grade, resinLitres, diameter, flow } = charge;
  const width = Math.round(spread / WIDTH_STEP) * WIDTH_STEP;
  const { transferUnits } = unwrap(
    describeBed({ volume: resinLitres, diameter, flow, temperature: 12, health: GRADE_HEALTH[grade] }),
  );
  const key = JSON.stringify([transferUnits.toPrecision(2), grade, width.toFixed(3), water]);
  const known = fronts.get(key);
  if (known) return known;
  const curve = productCurve(Number(transferUnits.toPrecision(2)), water, GRADE_CAPACITIES[grade]);
  const made = frontOf(curve, width);
  fronts.set(key, made);
  return made;
}

const WIDTH_STEP = 0.005;

/**
 * Resin as it really behaves in the story: a little weaker than its grade; where the tap's alkalinity is known, with its
 * carbonic plateau, else with a share of load that no meter sees.
 */
export class ResinTruth {
  private readonly capacityMeq: number;
  private readonly front: FrontTable;
  private usedMeq = 0;

  constructor(
    charge: TrueCharge,
    chance: Chance,
    private readonly hiddenShare: number,
    fixedStrength?: number,
    water?: CurveWater,
  ) {
    const { grade, resinLitres } = charge;
    const drawn = Math.exp(chance.normal(-0.05, 0.07));
    const strength = fixedStrength ?? drawn;
    this.capacityMeq = smallerSide(GRADE_CAPACITIES[grade]) * strength * resinLitres * 1000;
    this.front = frontIn(charge, water, chance.between(0.05, 0.1));
  }

  /** Resin that served before the story begins. */
  beginAt(throughput: number): void {
    this.usedMeq = throughput * this.capacityMeq;
  }

  treat(litres: number, feedEc25: number): void {
    this.usedMeq += (litres * feedEc25 * (1 + this.hiddenShare)) / 100;
  }

  /** Share of the capacity taken. */
  get throughput(): number {
    return this.usedMeq / this.capacityMeq;
  }

  /** µS/cm at the outlet. */
  output(feedEc25: number): number {
    return feedEc25 * shareAt(this.front, Math.log(Math.max(this.throughput, 1e-9)));
  }
}
