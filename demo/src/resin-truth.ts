import {
  describeBed,
  flowPaths,
  GRADE_CAPACITIES,
  GRADE_HEALTH,
  meanBreakthrough,
  smallerSide,
  unwrap,
  type Grade,
} from "@winter-bead/core";
import type { Chance } from "./chance";

export interface TrueCharge {
  readonly grade: Grade;
  readonly resinLitres: number;
  readonly diameter: number;
  readonly flow: number;
}

/** Resin as it really behaves in the story: a little weaker than its grade, with carbon dioxide that no meter sees. */
export class ResinTruth {
  private readonly capacityMeq: number;
  private readonly transferUnits: number;
  private readonly spread: number;
  private usedMeq = 0;

  constructor(
    charge: TrueCharge,
    chance: Chance,
    private readonly hiddenShare: number,
    fixedStrength?: number,
  ) {
    const { grade, resinLitres, diameter, flow } = charge;
    const drawn = Math.exp(chance.normal(-0.05, 0.07));
    const strength = fixedStrength ?? drawn;
    this.capacityMeq = smallerSide(GRADE_CAPACITIES[grade]) * strength * resinLitres * 1000;
    this.transferUnits = unwrap(
      describeBed({ volume: resinLitres, diameter, flow, temperature: 12, health: GRADE_HEALTH[grade] }),
    ).transferUnits;
    this.spread = chance.between(0.05, 0.1);
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
    return feedEc25 * meanBreakthrough(this.throughput, this.transferUnits, flowPaths(this.spread));
  }
}
