import {
  CONTAINER,
  GRADE,
  PACKING,
  PRICES,
  RANGES,
  USE,
  VESSEL_KIND,
  type ClaimsInput,
  type CrossingInput,
  type HabitsInput,
  type OptionSpec,
  type Practice,
  type Prices,
  type SizeInput,
  type StageWorthInput,
  type VesselSize,
} from "@winter-bead/core";
import { BEFORE_CHANGES, BOUNDS, CLAIM, DEMAND_ITEM } from "@winter-bead/core/src/plan/asked";
import { z } from "zod";
import { reading, water } from "./compute-shapes";
import { schemaOfField } from "./from-descriptor";
import { flag, known, numberIn, oneOf, text } from "./fields";

const grade = oneOf(GRADE);

/** What things cost. */
export const prices = schemaOfField(PRICES).meta({
  description: "In your money; all of them, or none for the dated defaults",
}) satisfies z.ZodType<Prices>;

const vesselSize = known({
  name: text("The vessel's name"),
  kind: oneOf(VESSEL_KIND),
  grossVolume: numberIn({ ...RANGES.volume, name: "The vessel's volume" }),
  diameter: numberIn(RANGES.diameter),
  emptyWeight: numberIn(RANGES.weight),
  fillFraction: numberIn({ ...RANGES.share, above: 0, name: "The fill" }),
  own: flag.optional(),
}) satisfies z.ZodType<VesselSize>;

const before = z.enum(
  ["nothing", "aeration", "membrane", "membrane-and-aeration", "boosted-membrane", "boosted-membrane-and-aeration"],
  { error: "Choose what stands before the resin." },
);
const train = z.enum(["single", "twin", "lead-lag"], {
  error: "Choose one vessel, two side by side, or two in series.",
});
const supply = z.enum(["bag", "bulk"], { error: "Choose resin from the bag or in bulk." });
const withoutBefore = { vessel: vesselSize, train, grade, supply };

/** One way to do the work. */
export const optionSpec = known({ ...withoutBefore, before }) satisfies z.ZodType<OptionSpec>;

const setup = schemaOfField(BEFORE_CHANGES).meta({ description: BEFORE_CHANGES.called });

export const sizeRequest = known({
  demand: known({
    items: z
      .array(schemaOfField(DEMAND_ITEM), { error: "Give a list of the work that takes water." })
      .min(1, "Enter some work that takes water.")
      .max(50, "At most 50 kinds of work."),
    season: z
      .array(numberIn({ name: "A month's factor", unit: "", from: 0, to: 20 }))
      .length(12, "A season is twelve factors, January first.")
      .optional(),
  }),
  waters: known({ low: water, typical: water, high: water }),
  limit: reading,
  peakFlow: schemaOfField(BOUNDS.peakFlow),
  liftLimit: schemaOfField(BOUNDS.liftLimit),
  budget: schemaOfField(BOUNDS.budget),
  pressure: schemaOfField(BOUNDS.pressure),
  prices: prices.optional(),
  until: z
    .enum(["leak", "meter"], {
      error: "A charge counts as used up at the first leak, or when a meter shows the limit.",
    })
    .optional(),
  before: setup.optional(),
  priority: z.enum(["money", "weight", "refills"], { error: "Rank by money, weight or refills." }).optional(),
  own: z.array(vesselSize).max(20, "At most 20 vessels of your own.").optional(),
  use: oneOf(USE).optional(),
}) satisfies z.ZodType<SizeInput>;

/** A figure of an answer, with its meaning and unit. */
const figure = (meaning: string) => z.number().describe(meaning);
const three = (meaning: string) =>
  z.strictObject({ low: z.number(), typical: z.number(), high: z.number() }).describe(meaning);

const yearlyCost = z.strictObject({
  resin: figure("Resin, money a year"),
  delivery: figure("Deliveries, money a year"),
  labour: figure("Work at refills and barrels, money a year"),
  water: figure("Tap water, money a year"),
  waste: figure("Waste water, money a year"),
  energy: figure("Power of pumps, money a year"),
  consumables: figure("Membranes, prefilters and the room for them, money a year"),
  purchase: figure("What is bought, spread over its years, money a year"),
  total: figure("The sum of the parts, money a year"),
});

/** Figures of an option that a kept plan keeps. */
const keptFigures = {
  litres: three("L of one charge until it counts as used up"),
  resinLitres: figure("L of resin that one refill takes"),
  daysBusiest: three("Days between refills in the busiest month"),
  daysQuietest: three("Days between refills in the quietest month"),
  flow: figure("L/min through one vessel"),
  contactSeconds: figure("Contact time, s"),
  bedVolumesPerHour: figure("Bed volumes an hour"),
  pressureLoss: figure("kPa through the beads of the train"),
  weight: figure("kg of one wet vessel"),
  purchase: figure("Money to buy"),
  refillsPerYear: figure("Refills a year"),
  minutesPerYear: figure("Minutes of work a year"),
  wastePerYear: figure("L to waste a year"),
  cost: yearlyCost,
  costRange: z.strictObject({ low: z.number(), high: z.number() }).describe("Money a year, both corners"),
  per1000Litres: figure("Money for 1000 L"),
  perJob: figure("Money for a job").optional(),
};

/** What a kept plan expects. */
export const planFigures = known({ ...keptFigures, week: three("L in a usual week"), year: three("L in a year") });

export const sizeAnswer = z.strictObject({
  demand: z.strictObject({
    week: three("L in a usual week, 10 and 90 %"),
    year: three("L in a year"),
    busiest: figure("L a week in the month with the most work"),
    quietest: figure("L a week in the month with the least"),
    jobsPerYear: figure("Jobs in a year; 0 when none are counted"),
  }),
  options: z
    .array(
      z.strictObject({
        place: z.int().describe("1 is the best by what matters"),
        name: z.string(),
        because: z.string().describe("Why it stands there"),
        feasible: z.boolean(),
        dominated: z.boolean().describe("Another is at least as good in money, weight and refills, and better in one"),
        reasons: z.array(z.string()).readonly().describe("Why it can't do the work; empty when it can"),
        spec: z.strictObject({
          vessel: z.looseObject({ name: z.string(), grossVolume: figure("L") }),
          train,
          before,
          grade,
          supply,
        }),
        ...keptFigures,
        resinPerYear: figure("L of resin a year"),
        waterPerYear: figure("L of tap water a year, what is wasted too"),
        energyPerYear: figure("kWh of pumps a year"),
        lives: z.strictObject({
          leak: three("L until anything leaks"),
          meter: three("L until a meter shows the limit"),
        }),
        resinFeed: figure("µS/cm of what reaches the resin"),
        polishes: z.boolean().describe("What reaches the resin meets the limit already"),
        twoPeople: z.boolean().describe("Too heavy for one person"),
        endsFirst: z.enum(["cation", "anion"]),
      }),
    )
    .readonly(),
});

export const crossingRequest = known({
  work: sizeRequest,
  option: known(withoutBefore).optional(),
  before: before.optional(),
}) satisfies z.ZodType<CrossingInput>;

const paysFrom = figure("µS/cm above which it pays").optional();
export const crossingAnswer = z.strictObject({
  sides: z.strictObject({ alone: z.looseObject({ before }), behind: z.looseObject({ before }) }),
  feed: three("The tap's own feed, µS/cm"),
  curve: z
    .array(
      z.strictObject({
        ec25: figure("µS/cm"),
        alone: three("Money a year, resin alone"),
        behind: three("Money a year behind the stage"),
      }),
    )
    .readonly(),
  paysFrom: z.strictObject({ low: paysFrom, typical: paysFrom, high: paysFrom }),
  ifLeak: paysFrom,
  ifMeter: paysFrom,
  withoutCo2: paysFrom,
  aerated: paysFrom,
  atTap: z.strictObject({
    alone: figure("Money a year, resin alone").optional(),
    behind: figure("Money a year behind the stage").optional(),
    behindWithoutCo2: figure("The same were there no carbon dioxide").optional(),
  }),
  costThere: figure("Money a year where both meet").optional(),
});

export const worthRequest = known({ work: sizeRequest, option: optionSpec }) satisfies z.ZodType<StageWorthInput>;

const yearAtWork = z.strictObject({
  spec: z.looseObject({ before }),
  litresPerYear: figure("L a year"),
  litresPerCharge: figure("L of one charge"),
  refills: figure("Refills a year"),
  cost: yearlyCost,
  barrels: figure("Aerated barrels a year"),
});
export const worthAnswer = z
  .array(
    z.strictObject({
      addition: z.enum(["membrane", "booster", "aeration", "second-membrane"]),
      without: yearAtWork,
      with: yearAtWork,
      change: yearlyCost,
      saves: figure("Money a year; below 0 it costs"),
      pays: z.boolean(),
    }),
  )
  .readonly();

export const claimsRequest = known({
  claims: z
    .array(schemaOfField(CLAIM), { error: "Give a list of statements." })
    .min(1, "Enter a maker's statement.")
    .max(50, "At most 50 statements."),
  waters: known({ low: water, typical: water, high: water }),
  over: known({
    years: numberIn({ name: "The years", unit: "years", above: 0, to: 50 }),
    litresPerYear: numberIn({ ...RANGES.litres, above: 0, name: "The water of a year", to: 1e8 }),
    resinPrice: numberIn({ ...RANGES.price, name: "The price of resin" }),
  }).optional(),
}) satisfies z.ZodType<ClaimsInput>;

export const claimsAnswer = z
  .array(
    z.strictObject({
      index: z.int(),
      name: z.string(),
      litres: three("L at your tap by what a meter sees").optional(),
      litresToLeak: three("L at your tap, carbon dioxide and silica counted").optional(),
      capacity: figure("eq per litre of resin that it takes for granted").optional(),
      constant: figure("The same in US gal·ppm per ft³ on the sodium-chloride scale").optional(),
      band: z.enum(["below", "within", "above"]).optional(),
      tooHigh: z.boolean(),
      byChemistry: figure("L at your tap of virgin resin of that volume").optional(),
      credible: figure("L at your tap that can be believed").optional(),
      litresPerMoney: figure("Believed L for one unit of money").optional(),
      per1000Litres: figure("Money for 1000 believed L").optional(),
      overYears: z
        .strictObject({
          fillings: figure("Fillings in those years"),
          first: figure("Money at first"),
          later: figure("Money for each later filling"),
          cost: figure("Money in all"),
          per1000Litres: figure("Money for 1000 L"),
        })
        .optional(),
      onlyBelow: figure("µS/cm above which it can't be true").optional(),
      missing: z.array(z.string()).readonly().describe("What the statement leaves out"),
    }),
  )
  .readonly();

const share = (called: string) => numberIn({ ...RANGES.share, name: called });
const practice = known({
  pauseShare: share("The share of pauses"),
  lowerFlow: numberIn({ ...RANGES.flow, name: "The lower flow" }),
  washShare: share("The share of washing"),
  startsPerWeek: numberIn(RANGES.starts),
  startTimes: numberIn({ name: "The start above the usual reading", unit: "times", from: 1, to: 1_000 }),
  startTau: numberIn({ ...RANGES.seconds, name: "The fall of the start" }),
  packing: oneOf(PACKING),
  leaningBypass: numberIn(RANGES.bypass),
  container: oneOf(CONTAINER),
  months: numberIn(RANGES.months),
  otherTap: water.optional(),
}) satisfies z.ZodType<Practice>;

export const habitsRequest = known({
  work: sizeRequest,
  use: oneOf(USE).optional(),
  option: optionSpec,
  practice,
}) satisfies z.ZodType<HabitsInput>;

const yearOf = z.strictObject({
  litresPerYear: figure("L a year"),
  litresPerCharge: figure("L of one charge"),
  perRefill: figure("Money at each refill"),
  besides: figure("Money a year beside the refills"),
  cost: figure("Money a year"),
});
export const habitsAnswer = z
  .array(
    z.strictObject({
      name: z.enum([
        "shut-off",
        "lower-flow",
        "tap-wash",
        "divert-start",
        "long-runs",
        "better-tap",
        "packing",
        "upright",
        "sealed-storage",
        "aeration",
        "membrane",
        "lead-lag",
      ]),
      litres: figure("L of a charge's life that it spares in a year"),
      money: figure("Money a year that it saves; below 0 it costs"),
      oneOff: figure("Money that it takes once"),
      paidInWeeks: figure("Weeks until that is paid").optional(),
      now: yearOf,
      then: yearOf,
      divertSeconds: figure("s to divert at a start").optional(),
      outOfReachNow: z.boolean().optional(),
      sides: z
        .strictObject({ alone: z.looseObject({ before }), membrane: z.looseObject({ before }) })
        .describe("For a membrane: the cheapest way without one and with one, which were held against each other")
        .optional(),
    }),
  )
  .readonly();
