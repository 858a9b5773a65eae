import { checkRanges, RANGES } from "../ranges";
import { fail, finite, within, type Result } from "../result";
import { netDrivingPressure, temperatureCorrection } from "./membrane";

/** One look at a working membrane. */
export interface MembraneFigures {
  /** µS/cm. */
  readonly feedEc25: number;
  /** µS/cm. */
  readonly productEc25: number;
  /** °C of the feed. */
  readonly temperature: number;
  /** kPa before the membrane, running. */
  readonly pressure: number;
  /** kPa behind it (default 0). */
  readonly permeatePressure?: number | undefined;
  /** L/min. */
  readonly productFlow: number;
  /** L/min to drain. */
  readonly wasteFlow: number;
}

export interface MembraneState {
  /** 1 - product / feed. */
  readonly rejection: number;
  /** Share of the feed that becomes product. */
  readonly recovery: number;
  /** Litres wasted for a litre made. */
  readonly wasteRatio: number;
  /** kPa. */
  readonly netPressure: number;
  /** Flow freed of temperature and pressure, L/min per kPa at 25 °C. */
  readonly normalizedFlow: number;
  /** Normalized flow against the clean baseline's; absent without one. */
  readonly flowShare?: number;
  /** Salt passage against the clean baseline's; absent without one. */
  readonly passageRatio?: number;
}

/** A normalized flow below these shares of the clean one wants cleaning, or a new membrane. */
export const FLOW_WATCH = 0.9;
export const FLOW_LOST = 0.85;

function checkFigures(figures: MembraneFigures): Result<true> {
  return checkRanges(figures, {
    feedEc25: { ...RANGES.value, name: "The feed", unit: "µS/cm" },
    productEc25: { ...RANGES.observed, name: "The product", unit: "µS/cm" },
    temperature: RANGES.temperature,
    pressure: RANGES.pressure,
    permeatePressure: RANGES.pressure,
    productFlow: { ...RANGES.flow, name: "The product's flow" },
    wasteFlow: { ...RANGES.flow, name: "The waste's flow" },
  });
}

/**
 * Rejection, recovery, waste and the flow freed of temperature and pressure: `Qp / (TCF NDP)` (ASTM D4516, standard
 * practice for standardizing reverse osmosis performance data).
 *
 * @param clean the figures of the membrane when it was new or cleaned
 * @returns a fault for a figure outside its range or a net driving pressure at or below 0
 * @example membraneState({ feedEc25: 430, productEc25: 12, temperature: 9, pressure: 365, productFlow: 0.122,
 *   wasteFlow: 0.366 }) // rejection 0.972, recovery 0.25
 */
export function membraneState(figures: MembraneFigures, clean?: MembraneFigures): Result<MembraneState> {
  const checked = checkFigures(figures);
  if (!checked.ok) return checked;
  const { feedEc25, productEc25, temperature, pressure, permeatePressure = 0, productFlow, wasteFlow } = figures;
  if (productEc25 > feedEc25)
    return fail(
      "product-above-feed",
      "The product reads above the feed: the two lines are swapped, or the readings are.",
      "productEc25",
    );
  const recovery = productFlow / (productFlow + wasteFlow);
  const net = netDrivingPressure(pressure, permeatePressure, feedEc25, recovery);
  if (!net.ok) return net;
  const rejection = 1 - productEc25 / feedEc25;
  const normalizedFlow = productFlow / (temperatureCorrection(temperature) * net.value);
  const state = { rejection, recovery, wasteRatio: wasteFlow / productFlow, netPressure: net.value, normalizedFlow };
  if (!clean) return finite(state);
  const baseline = within("clean", membraneState(clean));
  if (!baseline.ok) return baseline;
  const passage = 1 - baseline.value.rejection;
  return finite({
    ...state,
    flowShare: normalizedFlow / baseline.value.normalizedFlow,
    ...(passage > 0 ? { passageRatio: (1 - rejection) / passage } : {}),
  });
}
