import { behind } from "../plan/before";
import { yearlyCost } from "../plan/cost";
import { BATCH_OF, type OptionFigures, type PlanQuestion } from "../plan/figures";
import { fail, succeed, type Result } from "../result";
import { given, type Explanation } from "./explanation";
import { explainLitres, explainParts, explainTotal, Working, type PriceWords } from "./explain-plan";

/** The least and the most of a range, each with its working. */
export interface Ends {
  readonly low: Explanation;
  readonly high: Explanation;
}

/** How the ends of an option's ranges came about: corners of the feed and of the work. */
export interface OptionEnds {
  readonly litres: Ends;
  readonly daysBusiest: Ends;
  readonly daysQuietest: Ends;
  readonly cost: Ends;
}

const FEEDS = ["low", "typical", "high"] as const;
const END_WORDS = { low: "Least", high: "Most" } as const;
type End = keyof typeof END_WORDS;

/** Water of one refill with the feed that gives just this end. */
function litresAt(option: OptionFigures, question: PlanQuestion, words: PriceWords, end: End): Result<Explanation> {
  const usual = behind(option.spec.before, question.waters.typical, question.peakFlow, question.setup);
  if (!usual.ok) return usual;
  for (const key of FEEDS) {
    const water = question.waters[key];
    const ways = behind(option.spec.before, water, question.peakFlow, question.setup);
    if (!ways.ok) return ways;
    const waters = { ...question.waters, typical: water };
    const corner = { ...question, waters, batch: BATCH_OF[key] };
    const explained = explainLitres(new Working(option, corner, words, ways.value, usual.value));
    if (!explained.ok) return explained;
    if (Math.abs(explained.value.value - option.litres[end]) <= 1e-9 * option.litres[end])
      return succeed({ ...explained.value, name: `${END_WORDS[end]} water of one refill` });
  }
  return fail("unreachable", "This gives no water.");
}

/** Days from the litres of one end and the work of the other. */
function daysAt(
  { demand }: PlanQuestion,
  name: string,
  perWeek: number,
  days: number,
  end: End,
  litres: Explanation,
): Explanation {
  const other = end === "low" ? demand.week.high : demand.week.low;
  return {
    name: `${END_WORDS[end]} ${name}`,
    value: days,
    unit: "days",
    formula: "7 × V × u / (w × o)",
    words: `water of one refill by the water of a week in that month, when the work is ${end === "low" ? "most" : "least"}`,
    school: litres.school,
    source: litres.source,
    inputs: [
      given("V", litres.name, litres.value, "L", "its own working", litres),
      given("u", "Water of a usual week", demand.week.typical, "L", "the work"),
      given("w", "Water of a week in that month", perWeek, "L", "the work and that month's factor"),
      given("o", `Water of a week, ${end === "low" ? "90" : "10"} %`, other, "L", "how well the work is known"),
    ],
  };
}

/** A year with the work of one end and the charge of the other, part by part. */
function costAt(work: Working, end: End): Explanation {
  const { option, question, ways, words } = work;
  const year = question.demand.year[end];
  const charge = option.litres[end === "low" ? "high" : "low"];
  const { prices, setup, peakFlow, demand } = question;
  const cost = yearlyCost({ spec: option.spec, ways, prices, setup, peakFlow }, year, charge);
  const corner = new Working(
    { ...option, cost, litres: { ...option.litres, typical: charge } },
    { ...question, demand: { ...demand, year: { ...demand.year, typical: year } } },
    words,
    ways,
  );
  return { ...explainTotal(corner, explainParts(corner)), name: `${END_WORDS[end]} that a year costs` };
}

/**
 * How the ends of an option's ranges came about.
 * @returns a fault for an option through which no water comes
 */
export function explainEnds(option: OptionFigures, question: PlanQuestion, words: PriceWords): Result<OptionEnds> {
  const ways = behind(option.spec.before, question.waters.typical, question.peakFlow, question.setup);
  if (!ways.ok) return ways;
  if (option.litres.low <= 0) return fail("unreachable", option.reasons[0] ?? "This gives no water.");
  const low = litresAt(option, question, words, "low");
  if (!low.ok) return low;
  const high = litresAt(option, question, words, "high");
  if (!high.ok) return high;
  const { busiest, quietest } = question.demand;
  const daysOf = (name: string, perWeek: number, range: OptionFigures["daysBusiest"]): Ends => ({
    low: daysAt(question, name, perWeek, range.low, "low", low.value),
    high: daysAt(question, name, perWeek, range.high, "high", high.value),
  });
  const work = new Working(option, question, words, ways.value);
  return succeed({
    litres: { low: low.value, high: high.value },
    daysBusiest: daysOf("days in the busiest month", busiest, option.daysBusiest),
    daysQuietest: daysOf("days in the quietest month", quietest, option.daysQuietest),
    cost: { low: costAt(work, "low"), high: costAt(work, "high") },
  });
}
