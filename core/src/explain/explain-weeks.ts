import { MONTHLY_STORAGE_LOSS, WARM_TIMES } from "../resin/storage";
import type { BagSizeAnswer, BagSizeQuestion } from "../stock/bag-size";
import type { BagInStock } from "../stock/stock";
import { PATHS, type DayAhead } from "../weeks/forecast";
import type { WeeksAhead } from "../weeks/weeks-ahead";
import { BUSY, earlyAgainstLate, SETTING_OUT, type PlannedTask } from "../weeks/propose";
import { given, planningAssumption, type Explanation } from "./explanation";

/**
 * What a task costs on its day: what is thrown away of the resin or the part, what may come too late before, and the time.
 * @returns nothing for a task whose day was accepted, or that is due with no weighing
 */
export function explainDay(task: PlannedTask, { currency }: Pick<WeeksAhead, "currency">): Explanation | undefined {
  const weighed = earlyAgainstLate(task);
  const { worth } = task;
  if (!weighed || !worth) return undefined;
  const { here } = weighed;
  const isRefill = task.task === "refill";
  const from = isRefill ? `${PATHS} drawn futures of this vessel` : "its last service and its months";
  return {
    name: "What this day costs",
    value: here.early + here.late + here.time,
    unit: currency,
    formula: "min(1, u / l) × (p + m × w / 60) + o × c + (m + s) × w / 60 × (1 + (b - 1) × f)",
    words: isRefill
      ? "the share of the charge that is still unused, of its resin and its work; litres of booked work without water until then, at the price of doing it again; and the time, dearer on a full day"
      : "the share of its life that is still unused; days that it is overdue; and the time, dearer on a full day",
    inputs: [
      given(
        "u",
        isRefill ? "Still in it that morning, on average" : "Days before it is due",
        here.unused,
        isRefill ? "L" : "days",
        from,
      ),
      given(
        "l",
        isRefill ? "A fresh charge" : "It lasts",
        worth.lasts,
        isRefill ? "L" : "days",
        isRefill ? "what your charges hold, at this feed" : "the usual months",
      ),
      given(
        "p",
        isRefill ? "Resin of a refill" : "A new one",
        worth.price,
        currency,
        isRefill ? "your prices" : "planning assumption",
      ),
      given(
        "m",
        "It takes",
        worth.minutes,
        "min",
        isRefill ? "your last refills, else your prices" : "planning assumption",
      ),
      given("w", "An hour of your work", worth.wage, `${currency}/h`, "your prices"),
      given(
        "o",
        isRefill ? "Booked litres without water until then, on average" : "Days overdue",
        here.overdue,
        isRefill ? "L" : "days",
        from,
      ),
      given(
        "c",
        isRefill ? "A litre of spoilt work" : "A day too late",
        worth.late,
        isRefill ? `${currency}/L` : `${currency}/day`,
        isRefill ? "a job done again by the litres of a job" : "planning assumption",
      ),
      planningAssumption("s", "Setting out, whatever is done there", SETTING_OUT, "min"),
      planningAssumption("b", "A minute of a full day beside one of a quiet day", BUSY, ""),
      given("f", "How full the day is", here.full, "", "booked and usual work"),
    ],
    school: "expected cost, early against late",
    source: "Metropolis and Ulam 1949 (Monte Carlo); the day of least expected cost",
  };
}

/** The odds that a vessel has run out by an evening: futures in which it has, of all that were drawn. */
export const explainOdds = (day: DayAhead): Explanation => ({
  name: "Chance that it has run out by that evening",
  value: day.outBy,
  unit: "",
  formula: "n / a",
  words:
    "futures in which it has run out, of all that are drawn: each with what the charge may hold, by your past charges and this one's readings, the feed as it may be, your pace, and each day's water about what is booked or usual",
  inputs: [
    given("n", "Futures in which it has", day.outFutures, "", "drawn from the same belief as its dates"),
    given("a", "Futures drawn", PATHS, "", "the same each time, by their seed"),
  ],
  school: "your own history",
  source: "Metropolis and Ulam 1949 (Monte Carlo)",
});

/** What a bag is worth: the loss of each month by how it was closed, doubled in the warm. */
export function explainWorth({ bag, worth }: Pick<BagInStock, "bag" | "worth">): Explanation {
  const { sealedAs, closedAs, sealedMonths, openMonths, hereMonths } = worth;
  const sealed = MONTHLY_STORAGE_LOSS[sealedAs];
  const warm = bag.warm ? WARM_TIMES : 1;
  const age = worth.ageUnknown ? "nobody knows when it was made: ask the seller" : "the day it was made";
  return {
    name: "Worth beside fresh resin",
    value: worth.share.typical,
    unit: "",
    formula: "(1 - d)^m × (1 - d × w)^h × (1 - c × w)^o",
    words: "what each month has left: in the maker's packing at the seller, then here, then open",
    inputs: [
      planningAssumption("d", "Lost a month in the maker's packing", sealed, ""),
      given("m", "Months at the seller", sealedMonths.typical - hereMonths, "months", age),
      {
        ...given(
          "w",
          "Times as fast in a vehicle or the sun",
          warm,
          "",
          bag.warm ? "planning assumption" : "it is kept cool",
        ),
        assumption: bag.warm,
      },
      given("h", "Months here, sealed", hereMonths, "months", "the days it was bought and opened"),
      planningAssumption("c", "Lost a month as it is closed now", MONTHLY_STORAGE_LOSS[closedAs], ""),
      given("o", "Months open", openMonths, "months", "the day it was opened"),
    ],
    school: "resin chemistry",
    source: "planning assumptions of the trade: monthly losses by packing",
  };
}

/** What a litre as good as fresh costs in a size, over two years of refills. */
export function explainSize(
  { form, litres, price, isOwn, bags, orders, fresh, perFreshLitre }: BagSizeAnswer,
  { everyMonths, closed, warm, delivery }: BagSizeQuestion,
  currency: string,
): Explanation {
  const loss = MONTHLY_STORAGE_LOSS[closed] * (warm ? WARM_TIMES : 1);
  const refills = `a refill every ${everyMonths.toFixed(1)} months`;
  const ages =
    form === "cartridge"
      ? `${litres.toFixed(1)} L each, opened when they are used`
      : `rests first, each less ${loss} of itself a month since it was opened`;
  return {
    name: form === "cartridge" ? "A litre in ready-filled cartridges" : "A litre in bags of this size",
    value: perFreshLitre,
    unit: `${currency}/L`,
    formula: "(n × p + k × d) / f",
    words: "what two years of refills cost in this size, for each litre as good as fresh",
    inputs: [
      given("n", form === "cartridge" ? "Cartridges" : "Bags", bags, "", refills),
      isOwn
        ? given("p", "One of them", price, currency, "as you last bought it")
        : planningAssumption("p", "One of them, from your price of a litre", price, currency),
      given("k", "Deliveries", orders, "", "one for each refill that opens something new"),
      given("d", "A delivery", delivery, currency, "your prices"),
      given("f", "Litres as good as fresh", fresh, "L", ages),
    ],
    school: "resin chemistry",
    source: "planning assumptions of the trade: sizes, their prices, monthly losses",
  };
}
