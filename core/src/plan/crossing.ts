import type { ThreeOf } from "../life/life-range";
import { NORMAL_90 } from "../numerics/quantile";
import { risingRoot } from "../numerics/root";
import { OWNER_SD } from "../belief/grids";
import { fail, finite, succeed, within, type Result } from "../result";
import { describeWater, type Water } from "../water/water";
import type { PlanQuestion, Until } from "./figures";
import { bestSides } from "./best-sides";
import { BEFORE_WORDS, beforeWith, type Before, type OptionSpec } from "./options";
import { oneWater, scenario } from "./scenario";
import { planQuestion, type SizeInput } from "./size";

export interface CrossingInput {
  /** The work and its prices; its waters give the chemistry beside the salt. */
  readonly work: SizeInput;
  /** The vessel, train, grade and supply that stand on both sides; the cheapest of each side where absent. */
  readonly option?: Omit<OptionSpec, "before"> | undefined;
  /** What is compared with resin alone (default a membrane). */
  readonly before?: Before | undefined;
}

/** Yearly cost at one feed, money: the ends are corners of demand and of what resin holds. */
export interface CostPoint {
  /** µS/cm at 25 °C. */
  readonly ec25: number;
  readonly alone: ThreeOf<number>;
  readonly behind: ThreeOf<number>;
}

/** A feed in µS/cm above which the stage pays; absent where it doesn't within the range looked at. */
export type PaysFrom = number | undefined;

export interface CrossingAnswer {
  /** What is compared. */
  readonly sides: { readonly alone: OptionSpec; readonly behind: OptionSpec };
  /** The tap's own feed, µS/cm. */
  readonly feed: ThreeOf<number>;
  readonly curve: readonly CostPoint[];
  /** From most to least work and from the weakest to the strongest resin: `low` is the earliest. */
  readonly paysFrom: { readonly low?: number; readonly typical?: number; readonly high?: number };
  /** The same when the charge counts as used at the first leak, at what a meter shows, and were there no carbon dioxide. */
  readonly ifLeak?: number;
  readonly ifMeter?: number;
  readonly withoutCo2?: number;
  /** With an aerated barrel after the membrane. */
  readonly aerated?: number;
  /** Money a year at the tap's typical feed: resin alone, behind the stage, and behind it were there no carbon dioxide. */
  readonly atTap: { readonly alone?: number; readonly behind?: number; readonly behindWithoutCo2?: number };
  /** Money a year at the typical crossing. */
  readonly costThere?: number;
}

/** µS/cm between which a crossing is looked for, and how many points are drawn. */
export const CROSSING_LOOKED = { from: 30, to: 3000 } as const;
const POINTS = 41;

interface Corner {
  readonly litresPerYear: number;
  /** Share of the grade's capacity. */
  readonly capacity: number;
}

/** The owner's resin holds between these shares of its grade's figure, 10 to 90 %. */
export const CAPACITY_CORNERS = {
  low: Math.exp(-NORMAL_90 * OWNER_SD),
  typical: 1,
  high: Math.exp(NORMAL_90 * OWNER_SD),
} as const;

/** Corners in the order of cost: `low` is the least work with the strongest resin. */
const cornersOf = ({ demand }: PlanQuestion): ThreeOf<Corner> => ({
  low: { litresPerYear: demand.year.low, capacity: CAPACITY_CORNERS.high },
  typical: { litresPerYear: demand.year.typical, capacity: CAPACITY_CORNERS.typical },
  high: { litresPerYear: demand.year.high, capacity: CAPACITY_CORNERS.low },
});

/** The tap's water with another salt load; what no meter sees stays. */
function waterAt(water: Water, co2: number, ec25: number): Water {
  const { silica, temperature } = water;
  return {
    reading: { value: ec25, scale: "ec" },
    co2,
    ...(silica === undefined ? {} : { silica }),
    ...(temperature === undefined ? {} : { temperature }),
  };
}

/** Both sides of the comparison, at any feed. */
class Sides {
  private readonly water: Water;
  private readonly co2: number;

  private readonly question: PlanQuestion;

  constructor(
    question: PlanQuestion,
    private readonly alone: OptionSpec,
    private readonly behind: OptionSpec,
    co2?: number,
  ) {
    this.water = question.usual ?? question.waters.typical;
    this.question = { ...question, usual: this.water };
    const described = describeWater(this.water);
    this.co2 = co2 ?? (described.ok ? described.value.co2 : 0);
  }

  cost(side: "alone" | "behind", ec25: number, { litresPerYear, capacity }: Corner): number | undefined {
    const { care = {} } = this.question;
    const water = waterAt(this.water, this.co2, ec25);
    const answer = scenario(
      this[side],
      {
        ...this.question,
        waters: oneWater(water),
        care: { ...care, packing: (care.packing ?? 1) * capacity },
      },
      litresPerYear,
    );
    return answer.ok ? answer.value.cost.total : undefined;
  }

  /** Where the two costs meet, µS/cm. */
  meet(corner: Corner, until: Until = this.question.until): PaysFrom {
    const sides = until === this.question.until ? this : this.countingTo(until);
    const gain = (ec25: number) =>
      (sides.cost("alone", ec25, corner) ?? Infinity) - (sides.cost("behind", ec25, corner) ?? Infinity);
    const finiteGain = (ec25: number) => {
      const value = gain(ec25);
      return Number.isNaN(value) ? -1e9 : Math.max(-1e9, Math.min(1e9, value));
    };
    if (finiteGain(CROSSING_LOOKED.to) < 0) return undefined;
    if (finiteGain(CROSSING_LOOKED.from) >= 0) return CROSSING_LOOKED.from;
    return risingRoot(finiteGain, CROSSING_LOOKED.from, CROSSING_LOOKED.to);
  }

  private countingTo(until: Until): Sides {
    return new Sides({ ...this.question, until }, this.alone, this.behind, this.co2);
  }
}

const only = <K extends string>(key: K, value: number | undefined) =>
  value === undefined ? {} : ({ [key]: value } as Record<K, number>);

function curveOf(sides: Sides, corners: ThreeOf<Corner>, to: number): CostPoint[] {
  const points: CostPoint[] = [];
  for (let i = 0; i < POINTS; i += 1) {
    const ec25 = CROSSING_LOOKED.from + ((to - CROSSING_LOOKED.from) * i) / (POINTS - 1);
    const at = (side: "alone" | "behind"): ThreeOf<number> | undefined => {
      const [low, typical, high] = [corners.low, corners.typical, corners.high].map((corner) =>
        sides.cost(side, ec25, corner),
      );
      return low === undefined || typical === undefined || high === undefined ? undefined : { low, typical, high };
    };
    const [alone, behind] = [at("alone"), at("behind")];
    if (alone && behind) points.push({ ec25, alone, behind });
  }
  return points;
}

/** The same vessel on both sides, or the cheapest of each. */
function comparedSides(
  work: SizeInput,
  option: CrossingInput["option"],
  before: Before,
): Result<{ readonly alone: OptionSpec; readonly behind: OptionSpec }> {
  if (option) return succeed({ alone: { ...option, before: "nothing" }, behind: { ...option, before } });
  const best = bestSides(work);
  if (!best.ok) return best;
  const { alone, membrane } = best.value;
  const one = alone?.spec ?? membrane?.spec;
  if (!one) return fail("unreachable", "Neither resin alone nor resin behind a membrane does this work.", "work");
  return succeed({ alone: alone?.spec ?? { ...one, before: "nothing" }, behind: membrane?.spec ?? { ...one, before } });
}

/**
 * The feed at which a stage before the resin begins to pay: where its yearly cost and that of resin alone meet, found by
 * root finding, with the spread of demand (10 to 90 %) and of what resin holds, and what carbon dioxide does to it.
 *
 * @returns a fault for a figure outside its range, or an option that can't do the work at all
 * @example crossing({ work, option }).value.paysFrom.typical // 88.7 µS/cm, for 1,200 L a week through a tank
 */
export function crossing({ work, option, before = "membrane" }: CrossingInput): Result<CrossingAnswer> {
  const question = within("work", planQuestion(work));
  if (!question.ok) return question;
  if (before === "nothing") return fail("no-stage", "Choose what is to stand before the resin.", "before");
  const feed: number[] = [];
  for (const key of ["low", "typical", "high"] as const) {
    const water = describeWater(question.value.waters[key]);
    if (!water.ok) return within(`work.waters.${key}`, water);
    feed.push(water.value.ec25);
  }
  const [low, typical, high] = feed as [number, number, number];
  const compared = comparedSides(work, option, before);
  if (!compared.ok) return compared;
  const { alone, behind } = compared.value;
  const sides = new Sides(question.value, alone, behind);
  const withoutCo2 = new Sides(question.value, alone, behind, 0);
  const corners = cornersOf(question.value);
  const usual = sides.meet(corners.typical);
  const drawnTo = Math.min(CROSSING_LOOKED.to, 1.5 * Math.max(high, usual === undefined ? 0 : usual, 150));
  const curve = curveOf(sides, corners, drawnTo);
  if (curve.length === 0)
    return fail("unreachable", `Neither resin alone nor resin ${BEFORE_WORDS[before]} does this work.`, "option");
  const aerated = { ...behind, before: beforeWith(behind.before, "aeration") ?? behind.before };
  return finite({
    sides: compared.value,
    feed: { low, typical, high },
    curve,
    paysFrom: {
      ...only("low", sides.meet(corners.high)),
      ...only("typical", usual),
      ...only("high", sides.meet(corners.low)),
    },
    ...only("ifLeak", sides.meet(corners.typical, "leak")),
    ...only("ifMeter", sides.meet(corners.typical, "meter")),
    ...only("withoutCo2", withoutCo2.meet(corners.typical)),
    ...only("aerated", new Sides(question.value, alone, aerated).meet(corners.typical)),
    atTap: {
      ...only("alone", sides.cost("alone", typical, corners.typical)),
      ...only("behind", sides.cost("behind", typical, corners.typical)),
      ...only("behindWithoutCo2", withoutCo2.cost("behind", typical, corners.typical)),
    },
    ...only("costThere", usual === undefined ? undefined : sides.cost("alone", usual, corners.typical)),
  });
}
