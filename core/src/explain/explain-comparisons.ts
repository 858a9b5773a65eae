import { given, planningAssumption, type Explanation } from "./explanation";
import type { PriceWords } from "./explain-plan";
import type { WithoutAnswer, WithoutInput } from "../plan/alternatives";
import type { Claim, ClaimAnswer, ClaimOverYears, ClaimYears } from "../plan/claims";
import type { Demand } from "../plan/demand";
import { litresSpared, type Habit, type YearOf } from "../plan/habits";
import type { OutcomeLine, PlanActual, PlanFigures } from "../plan/outcome";
import { CONSTANT_PER_CAPACITY, GRADE_CAPACITIES, smallerSide } from "../resin/capacity";
import { scaleFactor, type Scale } from "../water/meter";

const COSTING = "cost accounting: what a year takes, at these prices";
const RATING = "the maker's rating, scaled";

function explainYear(
  name: string,
  { litresPerYear, litresPerCharge, perRefill, besides, cost }: YearOf,
  currency: string,
) {
  return {
    name,
    value: cost,
    unit: `${currency} a year`,
    formula: "Y / V × c + b",
    words: "refills of the year, each at its price, and what doesn't hang on them",
    school: COSTING,
    source: "definition",
    inputs: [
      given("Y", "Water of the year", litresPerYear, "L", "the work"),
      given("V", "Water of one refill", litresPerCharge, "L", "the life of a charge"),
      given("c", "Money of one refill", perRefill, currency, "resin, delivery and your time"),
      given("b", "Beside the refills", besides, currency, "purchase, water, waste, power, prefilters"),
    ],
  } satisfies Explanation;
}

/** How a habit's money and litres came about. */
export function explainHabit(
  { now, then, money }: Habit,
  { currency }: PriceWords,
): { readonly money: Explanation; readonly litres: Explanation } {
  const before = explainYear("A year without it", now, currency);
  const after = explainYear("A year with it", then, currency);
  const common = { school: COSTING, source: "definition" };
  return {
    money: {
      ...common,
      name: "What it brings in a year",
      value: money,
      unit: `${currency} a year`,
      formula: "A − B",
      words: "the year without it, less the year with it",
      inputs: [
        given("A", before.name, before.value, currency, "its own working", before),
        given("B", after.name, after.value, currency, "its own working", after),
      ],
    },
    litres: {
      ...common,
      name: "Life it spares in a year",
      value: litresSpared(now, then),
      unit: "L a year",
      formula: "(Y / V − y / v) × V",
      words: "refills spared, each worth what a charge gives without it",
      inputs: [
        given("Y", "Water of the year without it", now.litresPerYear, "L", "the work"),
        given("V", "Water of one refill without it", now.litresPerCharge, "L", "the life of a charge"),
        given("y", "Water of the year with it", then.litresPerYear, "L", "the work"),
        given("v", "Water of one refill with it", then.litresPerCharge, "L", "the life of a charge"),
      ],
    },
  };
}

/** The workings of one statement; what it leaves open is absent. */
export interface ClaimExplanations {
  readonly litres?: Explanation;
  readonly litresToLeak?: Explanation;
  readonly capacity?: Explanation;
  readonly per1000Litres?: Explanation;
  readonly overYears?: Explanation;
  readonly byChemistry?: Explanation;
}

const explainByChemistry = (resinLitres: number, value: number, ec25: number): Explanation => ({
  name: "What virgin resin of that volume gives",
  value,
  unit: "L",
  formula: "1000 × q × B / (EC / 100)",
  words: "capacity of the resin by the load that a meter sees at your tap",
  school: "resin chemistry, no kinetics",
  source: "Standard Methods 1030 E",
  inputs: [
    planningAssumption("q", "Virgin resin", smallerSide(GRADE_CAPACITIES.virgin), "eq/L"),
    given("B", "Resin in it", resinLitres, "L", "the statement"),
    given("EC", "Your feed at 25 °C", ec25, "µS/cm", "your tap"),
  ],
});

/** Price of the first filling by the water it gives: the claim's, or what the beads hold where it is too high. */
const explainPer1000 = (
  value: number,
  price: number,
  currency: string,
  held: Explanation | undefined,
  claimed: Explanation,
): Explanation => ({
  name: "Resin for 1000 litres at your tap",
  value,
  unit: `${currency} per 1000 L`,
  formula: "1000 × p / l",
  words: "price of a filling by the water it gives at your tap",
  school: RATING,
  source: "trade practice",
  inputs: [
    given("p", "Price of a filling", price, currency, "the statement"),
    held
      ? given("l", "What the beads hold", held.value, "L", "chemistry", held)
      : given("l", "At your tap", claimed.value, "L", "the claim, scaled", claimed),
  ],
});

const explainOverYears = (
  { first, later, per1000Litres }: ClaimOverYears,
  credible: number,
  { years, litresPerYear }: ClaimYears,
  currency: string,
): Explanation => ({
  name: "Your work for 1000 litres, over the years",
  value: per1000Litres,
  unit: `${currency} per 1000 L`,
  formula: "1000 × (a + (max(1, y × Y / l) − 1) × r) / (y × Y)",
  words: "what is paid at first and for every later filling, by all the water of those years",
  school: RATING,
  source: "definition",
  inputs: [
    given("a", "Paid at first", first, currency, "the statement"),
    given("r", "Paid for each later filling", later, currency, "the statement, or your own price of resin"),
    given("l", "Believed water of a filling", credible, "L", "the claim, or what the beads hold"),
    given("Y", "Water of a year", litresPerYear, "L", "your work"),
    given("y", "Years", years, "years", "your prices"),
  ],
});

/** How a maker's statement came to the user's tap; what it leaves open has no working. */
export function explainClaim(
  claim: Claim,
  answer: ClaimAnswer,
  ec25: number,
  { currency }: PriceWords,
  over?: ClaimYears,
): ClaimExplanations {
  const common = { school: RATING, source: "trade practice" };
  const { ppm, resinLitres, price } = claim;
  const chemistry: Pick<ClaimExplanations, "byChemistry"> =
    resinLitres === undefined || answer.byChemistry === undefined
      ? {}
      : { byChemistry: explainByChemistry(resinLitres, answer.byChemistry, ec25) };
  if (ppm === undefined || !answer.litres) return chemistry;
  const stated = [
    given("Vr", "Claimed water", claim.litres, "L", "the statement"),
    given("R", "At a feed of", ppm, "ppm", "the statement"),
    given("s", "Scale of the statement", scaleFactor(claim.scale), "per µS/cm", "the statement, else an assumption"),
  ];
  const litres: Explanation = {
    ...common,
    name: "At your tap",
    value: answer.litres.typical,
    unit: "L",
    formula: "Vr × (R / s) / EC",
    words: "the claimed water, scaled from the claim's feed to yours",
    inputs: [...stated, given("EC", "Your feed at 25 °C", ec25, "µS/cm", "your tap")],
  };
  return {
    ...chemistry,
    litres,
    ...(answer.litresToLeak === undefined
      ? {}
      : {
          litresToLeak: {
            ...common,
            name: "At your tap, what no meter sees counted",
            value: answer.litresToLeak.typical,
            unit: "L",
            formula: "Vr × (R / s) / 100 / L",
            words: "load of the claimed water by the larger load of a litre of yours",
            inputs: [
              ...stated,
              given(
                "L",
                "Larger load of your tap",
                (answer.litres.typical * ec25) / 100 / answer.litresToLeak.typical,
                "meq/L",
                "cations, or anions with carbon dioxide and silica",
              ),
            ],
          },
        }),
    ...(resinLitres === undefined || answer.capacity === undefined
      ? {}
      : {
          capacity: {
            ...common,
            name: "Capacity it takes for granted",
            value: answer.capacity,
            unit: "eq/L",
            formula: "Vr × (R / s) / 100 / (1000 × B)",
            words: "load of the claimed water by the litres of resin",
            inputs: [...stated, given("B", "Resin in it", resinLitres, "L", "the statement")],
          },
        }),
    ...(over && answer.overYears && answer.credible !== undefined
      ? { overYears: explainOverYears(answer.overYears, answer.credible, over, currency) }
      : {}),
    ...(price === undefined || answer.per1000Litres === undefined
      ? {}
      : {
          per1000Litres: explainPer1000(
            answer.per1000Litres,
            price,
            currency,
            answer.tooHigh ? chemistry.byChemistry : undefined,
            litres,
          ),
        }),
  };
}

/** How the trade constant of a claim came about. */
export const explainClaimConstant = (capacity: number): Explanation => ({
  name: "The same as a trade constant",
  value: capacity * CONSTANT_PER_CAPACITY,
  unit: "gal·ppm/ft³ NaCl",
  formula: "q × k",
  words: "capacity per litre of resin, in the trade's own units",
  school: RATING,
  source: "definition",
  inputs: [
    given("q", "Capacity", capacity, "eq/L", "the claim"),
    given("k", "gal·ppm/ft³ for 1 eq/L", CONSTANT_PER_CAPACITY, "", "exact by definition"),
  ],
});

/** Above which feed a claim without one can't be true, on the user's scale. */
export function explainOnlyBelow(claim: Claim, scale: Scale): Explanation | undefined {
  if (claim.resinLitres === undefined) return undefined;
  const q = smallerSide(GRADE_CAPACITIES.virgin);
  return {
    name: "True only below",
    value: (scaleFactor(scale) * 100 * q * 1000 * claim.resinLitres) / claim.litres,
    unit: scale === "ec" ? "µS/cm" : "ppm",
    formula: "s × 100 × q × 1000 × B / Vr",
    words: "the feed at which virgin resin of that volume gives just those litres",
    school: "resin chemistry, no kinetics",
    source: "Standard Methods 1030 E",
    inputs: [
      given("s", "Scale", scaleFactor(scale), "per µS/cm", "your scale"),
      planningAssumption("q", "Virgin resin", q, "eq/L"),
      given("B", "Resin in it", claim.resinLitres, "L", "the statement"),
      given("Vr", "Claimed water", claim.litres, "L", "the statement"),
    ],
  };
}

/** The feed at which a stage begins to pay, on the user's scale. */
export function explainCrossing(ec25: number, scale: Scale, cost: number | undefined, currency: string): Explanation {
  const there =
    cost === undefined ? "" : `: there both cost ${Math.round(cost).toLocaleString("en-US")} ${currency} a year`;
  return {
    name: "It begins to pay at a feed of",
    value: ec25 * scaleFactor(scale),
    unit: scale === "ec" ? "µS/cm" : "ppm",
    formula: "EC × s",
    words: "where the yearly costs of resin alone and of resin behind the stage meet",
    school: COSTING,
    source: "root finding, Dowell and Jarratt 1971",
    inputs: [
      given("EC", "Feed where both cost the same", ec25, "µS/cm", `found by trying feeds${there}`),
      given("s", "Scale", scaleFactor(scale), "per µS/cm", "your scale"),
    ],
  };
}

/** What bought water, its trips, and wiping in place of pure water would come to in a year. */
export function explainWithout(
  { year, jobsPerYear }: Demand,
  asked: WithoutInput,
  answer: WithoutAnswer,
  currency: string,
): { readonly bought: Explanation; readonly trips: Explanation; readonly wiping?: Explanation } {
  const common = { unit: `${currency} a year`, school: COSTING, source: "definition" };
  const wage = given("w", "An hour of work", asked.wage, currency, "your prices");
  return {
    bought: {
      ...common,
      name: "Bought water",
      value: answer.bought,
      formula: "Y × p",
      words: "water of a year by its price",
      inputs: [
        given("Y", "Water of a year", year.typical, "L", "the work and its seasons"),
        planningAssumption("p", "A litre of bought pure water", asked.pricePerLitre, currency),
      ],
    },
    trips: {
      ...common,
      name: "Trips to carry it",
      value: answer.trips,
      formula: "Y / c × m × w / 60",
      words: "trips of a year by the time of one",
      inputs: [
        given("Y", "Water of a year", year.typical, "L", "the work and its seasons"),
        planningAssumption("c", "Water of one trip", asked.litresPerTrip, "L"),
        planningAssumption("m", "Minutes of a trip", asked.minutesPerTrip, "min"),
        wage,
      ],
    },
    ...(answer.wiping === undefined
      ? {}
      : {
          wiping: {
            ...common,
            name: "Wiping dry, or coming again",
            value: answer.wiping,
            formula: "J × m × w / 60",
            words: "jobs of a year by the time it takes without pure water",
            inputs: [
              given("J", "Jobs of a year", jobsPerYear, "", "the work and its seasons"),
              planningAssumption("m", "Minutes of wiping a job", asked.minutesPerJob, "min"),
              wage,
            ],
          },
        }),
  };
}

/** What one way of a year saves against another: the difference of their costs, each with its working. */
export const explainSaving = (name: string, without: Explanation, withIt: Explanation): Explanation => ({
  name,
  value: without.value - withIt.value,
  unit: without.unit,
  formula: "A − B",
  words: "the year without it, less the year with it",
  school: COSTING,
  source: "definition",
  inputs: [
    given("A", "A year without it", without.value, without.unit, "its own working", without),
    given("B", "A year with it", withIt.value, withIt.unit, "its own working", withIt),
  ],
});

/** How each line of a plan held against its log came about. */
export function explainOutcome(
  expected: PlanFigures,
  actual: PlanActual,
  lines: readonly OutcomeLine[],
  currency: string,
): Readonly<Partial<Record<OutcomeLine["what"], Explanation>>> {
  const common = { school: "your own log", source: "definition" };
  const valueOf = (what: OutcomeLine["what"]) => lines.find((line) => line.what === what)?.actual ?? 0;
  const week: Explanation = {
    ...common,
    name: "Water of a week",
    value: valueOf("week"),
    unit: "L a week",
    formula: "V / w",
    words: "water logged since the plan is in use, by its weeks",
    inputs: [
      given("V", "Water logged", actual.litres, "L", "the log"),
      given("w", "Weeks in use", actual.weeks, "weeks", "the plan and today"),
    ],
  };
  if (lines.length < 2) return { week };
  const { cost, refillsPerYear, year } = expected;
  const total = actual.charges.reduce((sum, each) => sum + each, 0);
  const ended = actual.charges.length > 0;
  const charge: Explanation = {
    ...common,
    name: "Water of one refill",
    value: valueOf("charge"),
    unit: "L",
    formula: "V / n",
    words: ended ? "mean of the charges that reached their limit" : "the charge in use, which has outdone the plan",
    inputs: [
      given("V", "Water of these charges", ended ? total : actual.chargeSoFar, "L", "the log"),
      given("n", "Charges", ended ? actual.charges.length : 1, "", "the log"),
    ],
  };
  const refills: Explanation = {
    ...common,
    name: "Refills a year",
    value: valueOf("refills"),
    unit: "a year",
    formula: "52 × q / v",
    words: "water of a year at this pace, by the water of one refill",
    inputs: [
      given("q", "Water of a week", week.value, "L", "the log", week),
      given("v", "Water of one refill", charge.value, "L", "the log", charge),
    ],
  };
  const byWater = (cost.water + cost.waste + cost.energy) / year.typical;
  const perRefill = refillsPerYear > 0 ? (cost.resin + cost.delivery + cost.labour) / refillsPerYear : 0;
  return {
    week,
    charge,
    refills,
    cost: {
      ...common,
      name: "Cost of a year",
      value: valueOf("cost"),
      unit: `${currency} a year`,
      formula: "n × c + 52 × q × p + f",
      words: "refills at the plan’s prices, water by the litre, and what is fixed",
      inputs: [
        given("n", "Refills a year", refills.value, "", "the log", refills),
        given("c", "Money of one refill", perRefill, currency, "the plan: resin, delivery, time"),
        given("q", "Water of a week", week.value, "L", "the log", week),
        given("p", "Water, waste and power of a litre", byWater, currency, "the plan"),
        given("f", "Membrane, prefilters and purchase", cost.consumables + cost.purchase, currency, "the plan"),
      ],
    },
  };
}

/** What a year costs when each charge is changed at a share of its life: what hangs on refills, divided by that share. */
export function explainChangedAt(whole: Explanation, besides: number, share: number): Explanation {
  return {
    ...whole,
    value: besides + (whole.value - besides) / share,
    formula: "b + (C − b) / s",
    words: "what hangs on the refills comes so much oftener, the rest stays",
    inputs: [
      given("C", "A year when it is used to its limit", whole.value, whole.unit, "its own working", whole),
      given("b", "Beside the refills", besides, whole.unit, "purchase, water, waste, power, prefilters"),
      planningAssumption("s", "Share of its life at which it is changed", share, ""),
    ],
  };
}
