import { checkRanges, RANGES } from "../ranges";
import { fail, finite, succeed, type Result } from "../result";

/** Carbon dioxide in balance with air at 25 °C, mg/L. */
export const CO2_IN_BALANCE_WITH_AIR = 0.6;
/** First-order loss in a bubbled barrel whose pump nobody knows, per hour: a planning assumption. */
export const AERATION_RATE = 0.5;
/** Share of its balance with the water to which a rising bubble fills: a planning assumption. */
export const BUBBLE_FILL = 0.6;

const AERATED_AT = 15; // °C
const KELVIN = 273.15;
/** L·atm/(mol·K). */
const GAS_CONSTANT = 0.082057;

export interface AerationInput {
  /** mg/L before. */
  readonly co2: number;
  /** mg/L in balance with the air above it (default 0.6). */
  readonly air?: number;
  /** Per hour (default 0.5, an assumption); or what the pump does, below. */
  readonly rate?: number;
  /** Air through the stone, L/min; goes with `volume`, in place of `rate`. */
  readonly airFlow?: number;
  /** L of water in the barrel. */
  readonly volume?: number;
  /** °C of the water (default 15); tells with the pump only. */
  readonly temperature?: number;
  readonly hours: number;
}

export interface AerationAnswer {
  /** mg/L after. */
  readonly co2: number;
  /** Share of the carbon dioxide load gone, below 0 when the water takes some up. */
  readonly saved: number;
}

/**
 * Litres of gas that hold as much carbon dioxide as a litre of water in balance with them: `1/(K_H R T)`, with Henry's
 * constant of Plummer and Busenberg 1982.
 *
 * @param temperature °C
 * @example gasToWater(25) // 1.2
 */
export function gasToWater(temperature: number): number {
  const T = temperature + KELVIN;
  const logHenry = 108.3865 + 0.01985076 * T - 6919.53 / T - 40.45154 * Math.log10(T) + 669365 / (T * T);
  return 1 / (10 ** logHenry * GAS_CONSTANT * T);
}

/**
 * Loss of carbon dioxide by a pump, per hour: each litre of air takes along what it can hold, filled to six tenths.
 *
 * @param airFlow L/min
 * @param volume L of water
 * @param temperature °C
 * @example bubblingRate(3, 200, 15) // 0.50 per hour
 */
export const bubblingRate = (airFlow: number, volume: number, temperature: number) =>
  ((BUBBLE_FILL * 60 * airFlow) / volume) * gasToWater(temperature);

function rateOf({ rate, airFlow, volume, temperature = AERATED_AT }: AerationInput): Result<number> {
  if (airFlow === undefined && volume === undefined) return succeed(rate ?? AERATION_RATE);
  if (rate !== undefined)
    return fail("two-rates", "Give either the rate or the pump's air with the water's volume, not both.", "rate");
  if (airFlow === undefined) return fail("no-air-flow", "How much air does the pump give, in L/min?", "airFlow");
  if (volume === undefined) return fail("no-volume", "How much water stands in the barrel, in L?", "volume");
  return succeed(bubblingRate(airFlow, volume, temperature));
}

/**
 * Carbon dioxide left after aeration: `C = Cair + (C0 - Cair) exp(-k t)`, first-order gas transfer (Lewis and Whitman
 * 1924); k is given, assumed, or follows from pump and volume.
 *
 * @returns a fault for a figure outside its range, or a pump half described
 * @example aerate({ co2: 23, hours: 9 }) // { co2: 0.849, saved: 0.963 }
 */
export function aerate(input: AerationInput): Result<AerationAnswer> {
  const ranges = checkRanges(input, {
    co2: RANGES.co2,
    air: RANGES.co2,
    rate: RANGES.rate,
    airFlow: RANGES.airFlow,
    volume: RANGES.barrel,
    temperature: RANGES.temperature,
    hours: RANGES.hours,
  });
  if (!ranges.ok) return ranges;
  const rate = rateOf(input);
  if (!rate.ok) return rate;
  const { co2: before, air = CO2_IN_BALANCE_WITH_AIR, hours } = input;
  const after = air + (before - air) * Math.exp(-rate.value * hours);
  return finite({ co2: after, saved: before === 0 ? 0 : (before - after) / before });
}
