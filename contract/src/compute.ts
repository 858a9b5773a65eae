import {
  GRADE,
  aerate,
  ANION_SPECIES,
  CATION_SPECIES,
  column,
  compare,
  depletion,
  describeComposition,
  describeBed,
  describeCapacity,
  describeWater,
  life,
  lifeRange,
  membrane,
  ownCapacity,
  RANGES,
  rigStanding,
  rigTrainWorth,
  type AerationInput,
  type ChargeFigures,
  type ColumnQuestion,
  type CompareInput,
  type Composition,
  type CreepInput,
  type DepletionInput,
  type LifeInput,
  type LifeRangeInput,
  type MembraneInput,
  type PartialFeed,
  type OwnCapacityInput,
  type Result,
} from "@winter-bead/core";
import { bringClaims, crossing, rankHabits, size, stageWorth } from "@winter-bead/core/src/sizing";
import { practiseAnswer, refillAnswer } from "@winter-bead/core/src/refill";
import { creep } from "@winter-bead/core/src/membrane/creep";
import { z } from "zod";
import { bed, capacity, reading, water } from "./compute-shapes";
import { date, known, numberIn, oneOf, scale } from "./fields";
import { fieldErrorsOf, type FieldError } from "./problem";
import {
  claimsAnswer,
  claimsRequest,
  crossingAnswer,
  crossingRequest,
  habitsAnswer,
  habitsRequest,
  sizeAnswer,
  sizeRequest,
  worthAnswer,
  worthRequest,
} from "./size";
import { practiseRequest, practiseShape, refillRequest, refillShape } from "./refill";
import { standingAnswer, standingRequest, trainWorthAnswer, trainWorthRequest } from "./standing";

const figure = z.number();
const warnings = z.array(z.strictObject({ code: z.string(), message: z.string() })).readonly();
const threeOf = <S extends z.ZodType>(schema: S) => known({ low: schema, typical: schema, high: schema });

const lifeShape = {
  capacity,
  bed,
  limit: reading,
  storage: numberIn(RANGES.factor).optional(),
  packing: numberIn(RANGES.factor).optional(),
};
const lifeRequest = known({ water, ...lifeShape }) satisfies z.ZodType<LifeInput>;
const lifeRangeRequest = known({
  ...lifeShape,
  waters: threeOf(water),
  capacity: capacity.optional(),
  capacities: threeOf(capacity).optional(),
}) satisfies z.ZodType<LifeRangeInput>;

const lifeFigures = {
  litres: figure,
  gallons: figure,
  throughput: figure,
  limitingSide: z.enum(["cation", "anion"]),
  transferUnits: figure,
  reachable: z.boolean(),
  reason: z.string().optional(),
  warnings,
};

const positive = numberIn(RANGES.meq);
const load = numberIn(RANGES.load);
const perWeekday = known({ mean: numberIn(RANGES.dailyLitres), sd: numberIn(RANGES.dailyLitres) });

const listed = z
  .array(
    known({
      capacity: numberIn(RANGES.capacity),
      ended: z.enum(["limit", "early"], { error: "A charge ended at its limit, or early." }),
      water: z.enum(["metered", "timed", "guessed"], { error: "The water is metered, timed or guessed." }),
    }),
    { error: "charges must be a list." },
  )
  .max(1000, "At most 1,000 charges.");

const millimoles = numberIn(RANGES.millimoles).optional();
const composition = known({
  na: millimoles,
  nh4: millimoles,
  k: millimoles,
  mg: millimoles,
  ca: millimoles,
  cl: millimoles,
  no3: millimoles,
  so4: millimoles,
  f: millimoles,
  inorganicCarbon: millimoles,
  silica: millimoles,
}) satisfies z.ZodType<Composition>;

const feedIon = numberIn(RANGES.feedIon).optional();
const ionFeed = known({
  na: feedIon,
  nh4: feedIon,
  k: feedIon,
  mg: feedIon,
  ca: feedIon,
  sio2: feedIon,
  hco3: feedIon,
  cl: feedIon,
  no3: feedIon,
  so4: feedIon,
}).meta({
  id: "IonFeed",
  description: "meq/L of each ion; sio2 and hco3 (carbon dioxide and alkalinity together) in mmol/L",
}) satisfies z.ZodType<PartialFeed>;

const columnRequest = known({
  feed: ionFeed,
  stages: z
    .array(
      known({
        kind: z.enum(["mixed", "cation", "anion"], { error: "A bed is mixed, cation or anion." }),
        capacity,
        bed,
      }),
      { error: "The stages must be a list of beds." },
    )
    .min(1, "A train has one to six beds.")
    .max(6, "A train has one to six beds."),
  cells: z
    .int({ error: "The cells must be a whole number." })
    .min(RANGES.cells.from, "From 5 to 1,000 cells.")
    .max(RANGES.cells.to, "From 5 to 1,000 cells.")
    .optional(),
  limit: reading,
  marks: known({
    silica: numberIn(RANGES.columnMark).optional(),
    ammonia: numberIn(RANGES.columnMark).optional(),
  }).optional(),
  until: numberIn(RANGES.until).optional(),
}) satisfies z.ZodType<ColumnQuestion>;

const productRow = z.strictObject({
  litres: figure,
  ec25: figure,
  ph: figure,
  silica: figure,
  ammonia: figure,
  ...Object.fromEntries([...CATION_SPECIES, ...ANION_SPECIES].map((species) => [species, figure])),
});
const shares = z.array(z.array(figure).readonly()).readonly().optional();

const columnAnswer = z.strictObject({
  litresToLimit: figure.optional(),
  litresToSilica: figure.optional(),
  litresToAmmonia: figure.optional(),
  silentWindow: figure.optional(),
  balanceError: figure,
  product: z.array(productRow).readonly(),
  profile: z
    .array(
      z.strictObject({
        litres: figure,
        stages: z.array(z.strictObject({ cation: shares, anion: shares })).readonly(),
      }),
    )
    .readonly(),
  warnings,
});

const pressure = numberIn(RANGES.pressure);
const membraneRequest = known({
  feed: known({
    ec25: numberIn(RANGES.value),
    temperature: numberIn(RANGES.temperature),
    pressure,
    co2: numberIn(RANGES.co2).optional(),
  }),
  recovery: numberIn(RANGES.recovery),
  rated: known({
    flow: numberIn(RANGES.flow),
    rejection: numberIn(RANGES.rejection),
    pressure,
    ec25: numberIn(RANGES.value),
    recovery: numberIn(RANGES.ratedRecovery),
    temperature: numberIn(RANGES.temperature).optional(),
  }),
  permeatePressure: pressure.optional(),
}) satisfies z.ZodType<MembraneInput>;

const creepRequest = known({
  readings: z
    .array(known({ seconds: numberIn(RANGES.seconds), value: numberIn(RANGES.value) }), {
      error: "The readings must be a list.",
    })
    .min(4, "Take at least four readings.")
    .max(1000, "At most 1,000 readings."),
  scale,
  flow: numberIn(RANGES.flow),
  startsPerWeek: numberIn(RANGES.starts).optional(),
  pricePerEquivalent: numberIn(RANGES.price).optional(),
  pricePerLitre: numberIn({ ...RANGES.price, above: 0, name: "The price of a litre" }).optional(),
}) satisfies z.ZodType<CreepInput>;

const chargeFigures = known({
  capacity: numberIn(RANGES.capacity),
  resin: numberIn(RANGES.volume),
  load,
  waterPerJob: numberIn({ ...RANGES.litres, above: 0, name: "The water of a job" }),
}) satisfies z.ZodType<ChargeFigures>;

/** Either the answer, or every complaint about the request. */
export type ComputeOutcome =
  { readonly ok: true; readonly value: unknown } | { readonly ok: false; readonly errors: readonly FieldError[] };

export interface Endpoint {
  readonly summary: string;
  readonly request: z.ZodType;
  readonly answer: z.ZodType;
  /** Checks a body of unknown shape and computes. */
  readonly compute: (body: unknown) => ComputeOutcome;
  /** Every complaint about a body's form; none when it may be computed. */
  readonly check: (body: unknown) => readonly FieldError[];
  /** Takes so long that a server must not do it between its requests. */
  readonly heavy: boolean;
}

function endpoint<Request>(
  summary: string,
  request: z.ZodType<Request>,
  answer: z.ZodType,
  run: (request: Request) => Result<unknown>,
  heavy = false,
): Endpoint {
  const compute = (body: unknown): ComputeOutcome => {
    const checked = request.safeParse(body);
    if (!checked.success) return { ok: false, errors: fieldErrorsOf(checked.error) };
    const outcome = run(checked.data);
    if (outcome.ok) return outcome;
    return { ok: false, errors: [{ path: outcome.fault.path ?? "", message: outcome.fault.message }] };
  };
  const check = (body: unknown) => {
    const checked = request.safeParse(body);
    return checked.success ? [] : fieldErrorsOf(checked.error);
  };
  return { summary, request, answer, compute, check, heavy };
}

/** Every public calculation: one entry checks requests, runs the core and describes itself in the OpenAPI document. */
export const COMPUTE = {
  water: endpoint(
    "Conductivity, loads and carbon dioxide of a feed",
    water,
    z.strictObject({
      ec25: figure,
      ppm: z.strictObject({ nacl: figure, "442": figure, kcl: figure }),
      cationLoad: figure,
      anionLoad: figure,
      asCaCO3: figure,
      co2: figure,
      imbalance: figure.optional(),
      warnings,
    }),
    describeWater,
  ),
  capacity: endpoint(
    "Any statement of resin capacity on one footing",
    capacity,
    z.strictObject({ cation: figure, anion: figure, constant: figure, kilograins: figure }),
    describeCapacity,
  ),
  bed: endpoint(
    "Contact time, pressure loss and transfer units of a bed",
    bed,
    z.strictObject({
      contactSeconds: figure,
      bedVolumesPerHour: figure,
      depth: figure,
      velocity: figure,
      pressureLoss: figure,
      reynolds: figure,
      transferUnits: figure,
      warnings,
    }),
    describeBed,
  ),
  life: endpoint(
    "Litres until the limit, with the breakthrough curve",
    lifeRequest,
    z.strictObject({ ...lifeFigures, curve: z.array(z.strictObject({ litres: figure, ec25: figure })).readonly() }),
    life,
  ),
  "life-range": endpoint(
    "Litres until the limit as a range",
    lifeRangeRequest,
    z.strictObject({
      low: z.strictObject(lifeFigures),
      typical: z.strictObject(lifeFigures),
      high: z.strictObject(lifeFigures),
    }),
    lifeRange,
  ),
  degas: endpoint(
    "Carbon dioxide left after aeration",
    known({
      co2: numberIn(RANGES.co2),
      air: numberIn(RANGES.co2).optional(),
      rate: numberIn(RANGES.rate).optional(),
      airFlow: numberIn(RANGES.airFlow).optional(),
      volume: numberIn(RANGES.barrel).optional(),
      temperature: numberIn(RANGES.temperature).optional(),
      hours: numberIn(RANGES.hours),
    }) satisfies z.ZodType<AerationInput>,
    z.strictObject({ co2: figure, saved: figure }),
    aerate,
  ),
  composition: endpoint(
    "pH and conductivity of given ions",
    composition,
    z.strictObject({ ph: figure, ec25: figure, ppm: figure }),
    describeComposition,
  ),
  column: endpoint("How a train of beds gives way, ion by ion", columnRequest, columnAnswer, column, true),
  membrane: endpoint(
    "What a reverse-osmosis membrane makes of a feed",
    membraneRequest,
    z.strictObject({
      netPressure: figure,
      flow: figure,
      ec25: figure,
      rejection: figure,
      wasteRatio: figure,
      co2: figure,
    }),
    membrane,
  ),
  creep: endpoint(
    "Start-up creep after standing, and how long diverting it pays",
    creepRequest,
    z.strictObject({
      initial: figure,
      floor: figure,
      tau: figure,
      loadPerStart: figure,
      divertSeconds: figure.optional(),
      costPerYear: figure.optional(),
      fitError: figure,
    }),
    creep,
    true,
  ),
  compare: endpoint(
    "Why two charges differ, in jobs",
    known({ first: chargeFigures, second: chargeFigures }) satisfies z.ZodType<CompareInput>,
    z.strictObject({
      jobsFirst: figure,
      jobsSecond: figure,
      effects: z.strictObject({ capacity: figure, resin: figure, load: figure, waterPerJob: figure }),
    }),
    compare,
  ),
  "own-capacity": endpoint(
    "An owner's own capacity from past charges",
    known({
      grade: oneOf(GRADE),
      charges: listed,
      inUse: known({ capacity: numberIn(RANGES.capacity) }).optional(),
    }) satisfies z.ZodType<OwnCapacityInput>,
    z.strictObject({ median: figure, low: figure, high: figure }),
    ownCapacity,
    true,
  ),
  size: endpoint(
    "Vessels, trains and resins ranked for this work and this tap, with what each costs",
    sizeRequest,
    sizeAnswer,
    size,
    true,
  ),
  crossing: endpoint(
    "The feed at which a stage before the resin begins to pay, both cost curves, and what carbon dioxide does to it",
    crossingRequest,
    crossingAnswer,
    crossing,
    true,
  ),
  worth: endpoint(
    "A membrane, a booster pump or a degassing barrel against the resin it saves in a year",
    worthRequest,
    worthAnswer,
    stageWorth,
    true,
  ),
  claims: endpoint(
    "Makers' statements at one tap, per unit of money, as one capacity",
    claimsRequest,
    claimsAnswer,
    bringClaims,
    true,
  ),
  habits: endpoint(
    "Habits ranked by litres and money a year for one user's figures",
    habitsRequest,
    habitsAnswer,
    rankHabits,
    true,
  ),
  depletion: endpoint(
    "Early, likely and late date of the limit",
    known({
      capacityLeft: known({ median: positive, low: positive, high: positive }),
      daily: z
        .array(perWeekday, { error: "Give the use of seven days, Monday first." })
        .length(7, "Give the use of seven days, Monday first."),
      load: known({ low: load, typical: load, high: load }),
      start: date("The start"),
      paths: z
        .int({ error: "paths must be a whole number." })
        .min(100, "At least 100 paths.")
        .max(100_000, "At most 100,000 paths.")
        .optional(),
      seed: z.int({ error: "The seed must be a whole number." }).optional(),
    }) satisfies z.ZodType<DepletionInput>,
    z.strictObject({ early: z.iso.date(), likely: z.iso.date(), late: z.iso.date() }),
    depletion,
    true,
  ),
  standing: endpoint(
    "Litres left, dates and verdict of a rig from its records: what the rack shows",
    standingRequest,
    standingAnswer,
    rigStanding,
    true,
  ),
  "train-worth": endpoint(
    "What each act on a train would give: rotate, run the lead to near exhaustion, use all up, refill all",
    trainWorthRequest,
    trainWorthAnswer,
    rigTrainWorth,
    true,
  ),
  refill: endpoint(
    "Litres, scoops, water and weights of a refill, and the bags it takes",
    refillRequest,
    refillShape,
    refillAnswer,
  ),
  practise: endpoint(
    "A refill done rightly and with mistakes: litres, first reading and money of both",
    practiseRequest,
    practiseShape,
    practiseAnswer,
    true,
  ),
} as const;

export type ComputeName = keyof typeof COMPUTE;
