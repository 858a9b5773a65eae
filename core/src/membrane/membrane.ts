import { checkRanges, RANGES } from "../ranges";
import { fail, finite, within, type Result } from "../result";
import { KELVIN_AT_ZERO_CELSIUS, toKelvin } from "../units/constants";

/** Share of its feed that a household membrane makes into product: a planning assumption. */
export const USUAL_RECOVERY = 0.4;

/** A membrane's own test, as its maker states it. */
export interface RatedMembrane {
  /** L/min of product. */
  readonly flow: number;
  /** Share of the feed's conductivity held back. */
  readonly rejection: number;
  /** kPa. */
  readonly pressure: number;
  /** µS/cm of the test water. */
  readonly ec25: number;
  /** Share of the feed that became product; 0 for none stated. */
  readonly recovery: number;
  /** °C (default 25). */
  readonly temperature?: number;
}

export interface MembraneInput {
  readonly feed: {
    readonly ec25: number;
    readonly temperature: number;
    /** kPa. */
    readonly pressure: number;
    /** mg/L of free carbon dioxide (default 0). */
    readonly co2?: number;
  };
  /** Share of the feed that becomes product. */
  readonly recovery: number;
  readonly rated: RatedMembrane;
  /** kPa behind the membrane (default 0). */
  readonly permeatePressure?: number;
}

export interface MembraneAnswer {
  /** Net driving pressure, kPa. */
  readonly netPressure: number;
  /** Product, L/min. */
  readonly flow: number;
  /** Product, µS/cm. */
  readonly ec25: number;
  readonly rejection: number;
  /** Litres wasted for a litre made. */
  readonly wasteRatio: number;
  /** mg/L: free carbon dioxide passes unhindered. */
  readonly co2: number;
}

/** kPa of osmotic pressure per µS/cm: van 't Hoff for a natural mix, a planning assumption. */
export const OSMOTIC_PER_CONDUCTIVITY = 0.04;
const RATED_TEMPERATURE = 25;
/** K: how the water permeability of a polyamide membrane follows temperature, above and below 25 °C. */
const PERMEABILITY_SLOPE = { warm: 2640, cold: 3020 } as const;

/** Mean conductivity along the feed side, µS/cm: `EC ln(1/(1-Y))/Y`. @example concentrated(1000, 0.15) // 1083 */
export const concentrated = (ec25: number, recovery: number) =>
  recovery < 1e-9 ? ec25 : (ec25 * Math.log(1 / (1 - recovery))) / recovery;

/**
 * Temperature correction factor of the flow against 25 °C. @example temperatureCorrection(9) // 0.563
 */
export function temperatureCorrection(celsius: number): number {
  const slope = celsius >= RATED_TEMPERATURE ? PERMEABILITY_SLOPE.warm : PERMEABILITY_SLOPE.cold;
  return Math.exp(slope * (1 / (KELVIN_AT_ZERO_CELSIUS + RATED_TEMPERATURE) - 1 / toKelvin(celsius)));
}

/**
 * Net driving pressure, kPa: feed less permeate less the difference of osmotic pressure.
 * @returns a fault at or below 0, where no water passes
 */
export function netDrivingPressure(
  pressure: number,
  permeatePressure: number,
  ec25: number,
  recovery: number,
): Result<number> {
  const net = pressure - permeatePressure - OSMOTIC_PER_CONDUCTIVITY * concentrated(ec25, recovery);
  return net > 0
    ? finite(net)
    : fail(
        "no-driving-pressure",
        "The osmotic pressure of this feed is as high as the pressure on it: nothing passes the membrane. It wants more pressure or a lower recovery.",
        "pressure",
      );
}

/** Refuses a membrane's own test with a figure outside its range. */
export const checkRated = (rated: RatedMembrane): Result<true> =>
  checkRanges(rated, {
    flow: RANGES.flow,
    rejection: RANGES.rejection,
    pressure: RANGES.pressure,
    ec25: RANGES.value,
    recovery: RANGES.ratedRecovery,
    temperature: RANGES.temperature,
  });

function checkMembrane({ feed, recovery, rated, permeatePressure }: MembraneInput): Result<true> {
  const { value: ec25, temperature, pressure, co2 } = RANGES;
  const own = checkRanges({ recovery, permeatePressure }, { recovery: RANGES.recovery, permeatePressure: pressure });
  if (!own.ok) return own;
  const feedChecked = within("feed", checkRanges(feed, { ec25, temperature, pressure, co2 }));
  return feedChecked.ok ? within("rated", checkRated(rated)) : feedChecked;
}

/**
 * What a membrane makes of a feed: flow by net driving pressure and temperature, salt passage by solution and diffusion
 * (Baker 2012, Membrane Technology and Applications; van 't Hoff 1887 for the osmotic pressure).
 *
 * @returns a fault for a figure outside its range or a net driving pressure at or below 0
 * @example membrane({ feed: { ec25: 430, temperature: 9, pressure: 365, co2: 14 }, recovery: 0.25,
 *   rated: { flow: 0.19, rejection: 0.97, pressure: 345, ec25: 1000, recovery: 0.15 } }) // 0.122 L/min at 12.0 µS/cm
 */
export function membrane(input: MembraneInput): Result<MembraneAnswer> {
  const checked = checkMembrane(input);
  if (!checked.ok) return checked;
  const { feed, recovery, rated, permeatePressure = 0 } = input;
  const net = within("feed", netDrivingPressure(feed.pressure, permeatePressure, feed.ec25, recovery));
  if (!net.ok) return net;
  const ratedNet = within("rated", netDrivingPressure(rated.pressure, 0, rated.ec25, rated.recovery));
  if (!ratedNet.ok) return ratedNet;
  const ratio = net.value / ratedNet.value;
  const warmth =
    temperatureCorrection(feed.temperature) / temperatureCorrection(rated.temperature ?? RATED_TEMPERATURE);
  const ratedPassage = ((1 - rated.rejection) * rated.ec25) / concentrated(rated.ec25, rated.recovery);
  const passage = ratedPassage / (ratedPassage + (1 - ratedPassage) * ratio);
  const ec25 = Math.min(concentrated(feed.ec25, recovery) * passage, feed.ec25);
  return finite({
    netPressure: net.value,
    flow: rated.flow * ratio * warmth,
    ec25,
    rejection: 1 - ec25 / feed.ec25,
    wasteRatio: (1 - recovery) / recovery,
    co2: feed.co2 ?? 0,
  });
}
