import { DRAINED_RESIN_WEIGHT, LITRES_PER_CUBIC_FOOT, type DemandItem } from "@winter-bead/core";
import { litres, shown, threeDigits, type Units } from "../../ui/format";

/**
 * One kind of work in words.
 * @example itemInWords({ by: "total", name: "rig", litresPerWeek: 900, quality: "metered" }, "metric") // "rig: 900 L (metered)"
 */
export function itemInWords(item: DemandItem, units: Units): string {
  const name = item.name ?? "jobs";
  const quality = `(${item.quality})`;
  if (item.by === "jobs") return `${threeDigits(item.perWeek)} ${name} of ${litres(item.litresEach, units)} ${quality}`;
  if (item.by === "rinse") {
    const flow = shown("flow", item.flow, units);
    return `${threeDigits(item.perWeek)} ${name} of ${threeDigits(item.minutes)} min at ${flow.text} ${flow.unit} ${quality}`;
  }
  if (item.by === "tank")
    return `${name}: ${litres(item.volume, units)}, ${threeDigits(100 * item.changeShare)} % changed ${threeDigits(item.changesPerWeek)} times a week, ${litres(item.evaporation, units)} evaporating a day ${quality}`;
  return `${name}: ${litres(item.litresPerWeek, units)} ${quality}`;
}

/** What resin weighs, for those who buy it by weight. */
export function resinByWeight(units: Units): string {
  const us = units === "us";
  const { text, unit } = shown("weight", DRAINED_RESIN_WEIGHT * (us ? LITRES_PER_CUBIC_FOOT : 1), units);
  return `Sold by weight? A ${us ? "cubic foot" : "litre"} of drained resin weighs about ${text} ${unit}: a planning assumption.`;
}
