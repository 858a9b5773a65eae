import type { BeforeSetup, BehindBefore } from "./before";
import { filledAtOnce, hasMembrane, isAerated, isBoosted, resinIn, vesselsIn, type OptionSpec } from "./options";
import { WEEKS_A_YEAR } from "./demand";
import { AIR_PUMP_WATTS, BULK_ORDERS, membraneBother, PUMP_WATTS, type Prices } from "./prices";

/** Money of a year, part by part; the parts add up to the total. */
export interface YearlyCost {
  readonly resin: number;
  readonly delivery: number;
  /** Refills, barrels and tanks, by the wage. */
  readonly labour: number;
  readonly water: number;
  readonly waste: number;
  readonly energy: number;
  /** Membranes and prefilters, and the room they take. */
  readonly consumables: number;
  /** The purchase, spread over its years. */
  readonly purchase: number;
  readonly total: number;
}

export const NO_COST: YearlyCost = {
  resin: 0,
  delivery: 0,
  labour: 0,
  water: 0,
  waste: 0,
  energy: 0,
  consumables: 0,
  purchase: 0,
  total: 0,
};

/** Vessels that are still to be bought: the one that the user has needs its twin or its lag. */
export const vesselsToBuy = (spec: OptionSpec): number => vesselsIn(spec) - (spec.vessel.own ? 1 : 0);

/** A litre of resin as this option buys it. @example resinPrice(spec, DEFAULT_PRICES) // 9 */
export const resinPrice = ({ grade, supply }: OptionSpec, prices: Prices): number =>
  prices.resin[grade] * (supply === "bulk" ? prices.bulkShare : 1);

/** Money for the first filling of a lag, which waits behind its lead; every later one is a refill. */
export const guardFill = (spec: OptionSpec, prices: Prices): number =>
  spec.train === "lead-lag" ? resinIn(spec.vessel) * resinPrice(spec, prices) : 0;

/** Membranes that an option works with. */
export const membranesIn = ({ before }: Pick<OptionSpec, "before">, { secondMembrane }: BeforeSetup): number =>
  hasMembrane(before) ? (secondMembrane ? 2 : 1) : 0;

/** Money for a second membrane: the membrane, and a housing at the price of a vessel's fittings. */
export const secondMembranePrice = ({ membrane, vesselBase }: Prices): number => membrane + vesselBase;

/** Money to buy what an option needs; a vessel the user has costs nothing. */
export function purchaseOf(spec: OptionSpec, setup: BeforeSetup, buysTank: boolean, prices: Prices): number {
  const { vessel, before } = spec;
  return (
    vesselsToBuy(spec) * (prices.vesselBase + prices.vesselPerLitre * vessel.grossVolume) +
    (hasMembrane(before) ? prices.membraneUnit : 0) +
    (membranesIn(spec, setup) > 1 ? secondMembranePrice(prices) : 0) +
    (isBoosted(before) ? prices.boosterPump : 0) +
    (isAerated(before) ? prices.aerator : 0) +
    (buysTank ? prices.madeWaterTank : 0) +
    guardFill(spec, prices)
  );
}

/** Hours of pumps in a year: on the membrane, from the tank to the tool, and of air. */
export function pumpHours(
  { before }: OptionSpec,
  ways: BehindBefore,
  { aerationHours, batch }: BeforeSetup,
  peakFlow: number,
  litresPerYear: number,
) {
  const hoursAt = (flow: number) => litresPerYear / flow / 60;
  return {
    booster: isBoosted(before) && ways.makingFlow ? hoursAt(ways.makingFlow) : 0,
    toTool: ways.stored || isAerated(before) ? hoursAt(peakFlow) : 0,
    air: isAerated(before) ? (aerationHours * litresPerYear) / batch : 0,
  };
}

/** Minutes that a barrel of aerated water takes, or a tank that a membrane fills ahead; none where water comes straight. */
export function minutesAhead({ before }: Pick<OptionSpec, "before">, ways: BehindBefore, prices: Prices): number {
  if (isAerated(before)) return prices.minutesPerBatch;
  return ways.stored && hasMembrane(before) ? membraneBother(prices).minutesPerTank : 0;
}

/** Money of a year for the labour of barrels and tanks, a part of the labour that doesn't hang on the refills. */
export const barrelLabour = (
  spec: OptionSpec,
  ways: BehindBefore,
  { batch }: BeforeSetup,
  prices: Prices,
  litresPerYear: number,
): number => ((litresPerYear / batch) * minutesAhead(spec, ways, prices) * prices.wage) / 60;

/** L of a year that flush a membrane. */
export const flushOf = ({ before }: Pick<OptionSpec, "before">, prices: Prices): number =>
  hasMembrane(before) ? WEEKS_A_YEAR * membraneBother(prices).flushPerWeek : 0;

/** kWh of a year. @example energyOf({ booster: 100, toTool: 0, air: 0 }) // 6 */
export const energyOf = ({ booster, toTool, air }: ReturnType<typeof pumpHours>): number =>
  ((booster + toTool) * PUMP_WATTS + air * AIR_PUMP_WATTS) / 1000;

export interface CostQuestion {
  readonly spec: OptionSpec;
  readonly ways: BehindBefore;
  readonly prices: Prices;
  readonly setup: BeforeSetup;
  /** L/min at the tool. */
  readonly peakFlow: number;
}

/**
 * Money of a year for these litres, when a charge lasts so many.
 * @param litresPerYear L a year
 * @param litresPerCharge L that one refill brings
 */
export function yearlyCost(question: CostQuestion, litresPerYear: number, litresPerCharge: number): YearlyCost {
  const { spec, ways, prices, setup, peakFlow } = question;
  const refills = litresPerYear / litresPerCharge;
  const wasteLitres = litresPerYear * ways.wasteRatio + (litresPerYear > 0 ? flushOf(spec, prices) : 0);
  const hours = pumpHours(spec, ways, setup, peakFlow, litresPerYear);
  const minutes =
    refills * filledAtOnce(spec) * prices.minutesPerRefill +
    (litresPerYear / setup.batch) * minutesAhead(spec, ways, prices);
  const parts = {
    resin: refills * filledAtOnce(spec) * resinIn(spec.vessel) * resinPrice(spec, prices),
    delivery: refills * prices.delivery * (spec.supply === "bulk" ? BULK_ORDERS : 1),
    labour: (minutes * prices.wage) / 60,
    water: ((litresPerYear + wasteLitres) * prices.water) / 1000,
    waste: (wasteLitres * prices.waste) / 1000,
    energy: energyOf(hours) * prices.power,
    consumables: hasMembrane(spec.before)
      ? prices.prefiltersPerYear +
        (membranesIn(spec, setup) * prices.membrane) / prices.membraneYears +
        membraneBother(prices).roomPerYear
      : 0,
    purchase: purchaseOf(spec, setup, ways.buysTank, prices) / prices.years,
  };
  return { ...parts, total: Object.values(parts).reduce((sum, part) => sum + part, 0) };
}
