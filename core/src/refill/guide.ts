import { cartridgeSteps, HOUSING_TOOLS } from "./cartridge-steps";
import type { Guided } from "./refill-step.record";
import type { GuideSetting, GuideStep } from "./step";
import { exchangeSteps, refillSteps, topUpSteps, vesselTools } from "./vessel-steps";

/** Parts that are serviced, not filled. */
export const CARTRIDGES = ["sediment", "carbon", "membrane"] as const;
export const isCartridgeWork = (guided: Guided): guided is (typeof CARTRIDGES)[number] =>
  (CARTRIDGES as readonly Guided[]).includes(guided);

/** Work at which beads go in. */
export const isFilling = (guided: Guided) =>
  guided === "refill" || guided === "early" || guided === "emergency" || guided === "top-up";

/** What is laid at hand before anything is opened, and counted again at the end. */
export const toolsFor = (setting: GuideSetting): readonly string[] =>
  isCartridgeWork(setting.guided) ? HOUSING_TOOLS : vesselTools(setting);

/** The last one: what was done is looked over and kept as one act. */
export const FINISH = "finish";

/**
 * The steps of one piece of work, one action each, for this vessel and this crew's school.
 *
 * @example guideFor({ guided: "refill", kind: "floated-tank", ways: usualWays("floated-tank", 0.75), … })
 *   // lay at hand, last reading, pressure down, … fill to 75 %, settle, wet, float the riser in, … first reading, tidy up
 */
export function guideFor(setting: GuideSetting): readonly GuideStep[] {
  const steps = stepsOf(setting);
  if (setting.isHeavy) return steps;
  return steps.map((step) => ({
    ...step,
    cautions: step.cautions.filter((caution) => caution !== "lift"),
    scene: { ...step.scene, heavy: false },
  }));
}

function stepsOf(setting: GuideSetting): readonly GuideStep[] {
  const { guided } = setting;
  if (isCartridgeWork(guided)) return cartridgeSteps(setting);
  if (guided === "top-up") return topUpSteps(setting);
  if (guided === "swap" || guided === "exchange") return exchangeSteps(setting);
  return refillSteps(setting);
}
