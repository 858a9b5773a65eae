import { carbonDioxideOf, USUAL_SILICA } from "../water/unmeasured";
import { membrane, USUAL_RECOVERY, type RatedMembrane } from "../membrane/membrane";
import { twoInARow } from "../membrane/two-in-a-row";
import { checkRanges, RANGES } from "../ranges";
import { succeed, within, type Result } from "../result";
import { aerate } from "../water/aeration";
import { DEFAULT_TEMPERATURE, describeWater, type Water } from "../water/water";
import { hasMembrane, isAerated, isBoosted, type Before } from "./options";

/** What is taken for granted of the stages before the resin; every figure a planning assumption. */
export interface BeforeSetup {
  /** The membrane by its maker's test. */
  readonly rated: RatedMembrane;
  /** Share of the water that becomes product; with two membranes of what reaches the second. */
  readonly recovery: number;
  /** A second membrane like the first works on what that one wastes. */
  readonly secondMembrane?: boolean;
  /** kPa on the membrane from the tap while running, and with a booster pump. */
  readonly tapPressure: number;
  readonly boostedPressure: number;
  readonly aerationHours: number;
  /** L/min of air through the stone in the barrel. */
  readonly airFlow: number;
  /** L in the barrel that is aerated at once. */
  readonly batch: number;
  /** L/min at which the resin fills a tank that the user has, such as overnight; absent where it feeds the tool straight. */
  readonly fillFlow?: number;
}

export const BEFORE_ASSUMPTIONS: BeforeSetup = {
  rated: { flow: 1.3, rejection: 0.965, pressure: 414, ec25: 500, recovery: 0.15, temperature: 25 },
  recovery: USUAL_RECOVERY,
  tapPressure: 350,
  boostedPressure: 550,
  aerationHours: 8,
  airFlow: 3,
  batch: 200,
};

/** What reaches the resin, and how. */
export interface BehindBefore {
  readonly water: Water;
  /** L/min through the resin. */
  readonly flow: number;
  /** Litres wasted for a litre made. */
  readonly wasteRatio: number;
  /** L/min that the membrane makes; absent without one. */
  readonly makingFlow?: number;
  /** The water is made ahead into a tank: the user's own, or because the membrane is slower than the tool. */
  readonly stored: boolean;
  /** That tank and its pump are still to be bought. */
  readonly buysTank: boolean;
}

function behindMembrane(
  before: Before,
  water: Water,
  co2: number,
  ec25: number,
  setup: BeforeSetup,
): Result<{ readonly water: Water; readonly flow: number; readonly wasteRatio: number }> {
  const pressure = isBoosted(before) ? setup.boostedPressure : setup.tapPressure;
  const temperature = water.temperature ?? DEFAULT_TEMPERATURE;
  const make = setup.secondMembrane ? twoInARow : membrane;
  const made = make({ feed: { ec25, temperature, pressure }, recovery: setup.recovery, rated: setup.rated });
  if (!made.ok) return made;
  const passage = made.value.ec25 / ec25;
  const alkalinity = water.analysis?.alkalinity ?? water.alkalinity;
  return succeed({
    water: {
      reading: { value: made.value.ec25, scale: "ec" },
      co2,
      silica: (water.silica ?? USUAL_SILICA) * passage,
      temperature,
      ...(alkalinity === undefined ? {} : { alkalinity: alkalinity * passage }),
    },
    flow: made.value.flow,
    wasteRatio: made.value.wasteRatio,
  });
}

/** mg/L of free carbon dioxide: as measured, or so many standard deviations from what is likely. */
function unmeasured(water: Water, { ec25, co2 }: { readonly ec25: number; readonly co2: number }, z: number): number {
  const { ph, temperature, analysis } = water;
  const alkalinity = analysis?.alkalinity ?? water.alkalinity;
  const known = carbonDioxideOf({ ph, alkalinity, temperature, co2: water.co2, ec25 });
  return known.sd === 0 ? co2 : known.median * Math.exp(z * known.sd);
}

/**
 * The water that reaches the resin behind a stage, and its flow. A membrane takes salt and silica and lets carbon dioxide
 * pass; aeration takes carbon dioxide alone. A membrane slower than the tool fills a tank ahead, and the resin then sees the
 * membrane's flow; so it does where the user has such a tank, which is otherwise filled at `fillFlow`.
 *
 * @param peakFlow L/min at the tool
 * @param z standard deviations from the likely carbon dioxide, where nobody measured it and a membrane lets it pass
 * @returns a fault for a water without a reading, or a pressure that drives nothing through the membrane
 * @example behind("membrane", { reading: { value: 168, scale: "nacl" } }, 3).value.flow // 0.776 L/min
 */
export function behind(
  before: Before,
  water: Water,
  peakFlow: number,
  setup: BeforeSetup = BEFORE_ASSUMPTIONS,
  z = 0,
): Result<BehindBefore> {
  const flow = checkRanges({ peakFlow }, { peakFlow: { ...RANGES.flow, name: "The peak flow" } });
  if (!flow.ok) return flow;
  const described = describeWater(water);
  if (!described.ok) return described;
  const { ec25 } = described.value;
  // Where nobody measured it the carbon dioxide that a membrane lets pass is unknown, not zero.
  const co2 = hasMembrane(before) ? unmeasured(water, described.value, z) : described.value.co2;
  const ownTank = setup.fillFlow !== undefined;
  const unwasted = { flow: setup.fillFlow ?? peakFlow, wasteRatio: 0, stored: ownTank, buysTank: false };
  if (before === "nothing") return succeed({ water, ...unwasted });
  const warmth = water.temperature === undefined ? {} : { temperature: water.temperature };
  const aerated = isAerated(before)
    ? aerate({ co2, hours: setup.aerationHours, airFlow: setup.airFlow, volume: setup.batch, ...warmth })
    : succeed({ co2 });
  if (!aerated.ok) return within("hours", aerated);
  const left = Math.min(co2, aerated.value.co2);
  if (!hasMembrane(before)) return succeed({ water: { ...water, co2: left }, ...unwasted });
  const made = behindMembrane(before, water, left, ec25, setup);
  if (!made.ok) return made;
  const { flow: makingFlow, wasteRatio } = made.value;
  const slower = makingFlow < peakFlow;
  return succeed({
    water: made.value.water,
    flow: ownTank ? makingFlow : Math.min(peakFlow, makingFlow),
    wasteRatio,
    makingFlow,
    stored: ownTank || slower,
    buysTank: slower && !ownTank && !isAerated(before),
  });
}
