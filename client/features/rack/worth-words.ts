import type { ActWorth } from "@winter-bead/core";
import { litres, litresRange, type Units } from "../../ui/format";
import { days, wholeMoney } from "../size/money";

/** Litres, days and money of an act. @example worthWords(worth, "EUR", "metric") // "2,800 to 4,100 L, about 33 days. …" */
export function worthWords(
  { litres: left, days: lasts, fillings, money, thrownAway, runsUntil }: ActWorth,
  currency: string,
  units: Units,
) {
  const lasting = (many: number | undefined) => (many === undefined ? "" : `, about ${days(many)}`);
  const until = `${litresRange(left.low, left.high, units)} from now${lasting(lasts)}`;
  if (fillings === 0) return `${until}; nothing to pay now, and then all of them are spent.`;
  const wasted = `${litres(thrownAway.litres, units)} of resin life (${wholeMoney(thrownAway.money, currency)}) thrown away`;
  if (!runsUntil) return `${until}; ${wholeMoney(money, currency)} now, ${wasted}.`;
  const share = Math.round(100 * runsUntil.risk);
  const risk = share < 1 ? "hardly ever" : `in ${share} of 100 futures`;
  return `${until}; the lead lasts about ${litres(runsUntil.litres, units)} more${lasting(runsUntil.days)}, then ${wholeMoney(money, currency)}, ${wasted}. The last one reaches its mark before that ${risk}.`;
}
