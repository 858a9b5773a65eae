import {
  aerate,
  depletion,
  describeBed,
  describeCapacity,
  describeWater,
  life,
  lifeRange,
  ownCapacity,
  RANGES,
  type AerationInput,
  type Analysis,
  type Bed,
  type Capacity,
  type DepletionInput,
  type LifeInput,
  type LifeRangeInput,
  type OwnCapacityInput,
  type Reading,
  type Result,
  type Water,
} from "@winter-bead/core";
import { z } from "zod";
import { flag, grade, known, numberIn, scale } from "./fields";
import { fieldErrorsOf, type FieldError } from "./problem";

/** Shapes shared by the calculations. */
export const reading = known({
  value: numberIn(RANGES.value),
  scale,
  temperature: numberIn(RANGES.temperature).optional(),
  compensated: flag.optional(),
}).meta({ id: "Reading" }) satisfies z.ZodType<Reading>;

const ion = numberIn(RANGES.ion).optional();
export const analysis = known({
  ca: ion,
  mg: ion,
  na: ion,
  k: ion,
  nh4: ion,
  cl: ion,
  so4: ion,
  no3: ion,
  f: ion,
  alkalinity: ion,
}).meta({
  id: "Analysis",
  description: "mg/L of each ion, nitrogen as the ion; alkalinity as CaCO3",
}) satisfies z.ZodType<Analysis>;

export const water = known({
  reading: reading.optional(),
  analysis: analysis.optional(),
  ph: numberIn(RANGES.ph).optional(),
  alkalinity: numberIn(RANGES.alkalinity).optional(),
  silica: numberIn(RANGES.silica).optional(),
  co2: numberIn(RANGES.co2).optional(),
  temperature: numberIn(RANGES.temperature).optional(),
}).meta({ id: "Water", description: "At least one of reading and analysis" }) satisfies z.ZodType<Water>;

const FOUR_WAYS =
  "Say what the resin holds in one of four ways: a grade, a constant with its scale, a maker's rating (litres, ppm, scale, resin litres), or both sides in eq/L.";

export const capacity = z
  .union(
    [
      known({ grade }),
      known({ constant: numberIn(RANGES.constant), scale }),
      known({
        ratedLitres: numberIn(RANGES.ratedLitres),
        ratedPpm: numberIn(RANGES.ratedPpm),
        scale,
        resinLitres: numberIn(RANGES.volume),
      }),
      known({ cation: numberIn(RANGES.capacity), anion: numberIn(RANGES.capacity) }),
    ],
    { error: FOUR_WAYS },
  )
  .meta({ id: "Capacity" }) satisfies z.ZodType<Capacity>;

export const bed = known({
  volume: numberIn(RANGES.volume),
  diameter: numberIn(RANGES.diameter),
  flow: numberIn(RANGES.flow),
  temperature: numberIn(RANGES.temperature).optional(),
  health: numberIn(RANGES.health).optional(),
  spread: numberIn(RANGES.spread).optional(),
  bypass: numberIn(RANGES.bypass).optional(),
}).meta({ id: "Bed" }) satisfies z.ZodType<Bed>;

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
      ended: z.enum(["limit", "early"]),
      water: z.enum(["metered", "timed", "guessed"]),
    }),
    { error: "charges must be a list." },
  )
  .max(1000, "At most 1,000 charges.");

/** Either the answer, or every complaint about the request. */
export type ComputeOutcome =
  { readonly ok: true; readonly value: unknown } | { readonly ok: false; readonly errors: readonly FieldError[] };

export interface Endpoint {
  readonly summary: string;
  readonly request: z.ZodType;
  readonly answer: z.ZodType;
  /** Checks a body of unknown shape and computes. */
  readonly compute: (body: unknown) => ComputeOutcome;
}

function endpoint<Request>(
  summary: string,
  request: z.ZodType<Request>,
  answer: z.ZodType,
  run: (request: Request) => Result<unknown>,
): Endpoint {
  const compute = (body: unknown): ComputeOutcome => {
    const checked = request.safeParse(body);
    if (!checked.success) return { ok: false, errors: fieldErrorsOf(checked.error) };
    const outcome = run(checked.data);
    if (outcome.ok) return outcome;
    return { ok: false, errors: [{ path: outcome.fault.path ?? "", message: outcome.fault.message }] };
  };
  return { summary, request, answer, compute };
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
      hours: numberIn(RANGES.hours),
    }) satisfies z.ZodType<AerationInput>,
    z.strictObject({ co2: figure, saved: figure }),
    aerate,
  ),
  "own-capacity": endpoint(
    "An owner's own capacity from past charges",
    known({
      grade,
      charges: listed,
      inUse: known({ capacity: numberIn(RANGES.capacity) }).optional(),
    }) satisfies z.ZodType<OwnCapacityInput>,
    z.strictObject({ median: figure, low: figure, high: figure }),
    ownCapacity,
  ),
  depletion: endpoint(
    "Early, likely and late date of the limit",
    known({
      capacityLeft: known({ median: positive, low: positive, high: positive }),
      daily: z
        .array(perWeekday, { error: "Give the use of seven days, Monday first." })
        .length(7, "Give the use of seven days, Monday first."),
      load: known({ low: load, typical: load, high: load }),
      start: z.string({ error: "The start must be a real date such as 2027-03-01." }),
      paths: z
        .int({ error: "paths must be a whole number." })
        .min(100, "At least 100 paths.")
        .max(100_000, "At most 100,000 paths.")
        .optional(),
      seed: z.int({ error: "The seed must be a whole number." }).optional(),
    }) satisfies z.ZodType<DepletionInput>,
    z.strictObject({ early: z.iso.date(), likely: z.iso.date(), late: z.iso.date() }),
    depletion,
  ),
} as const;

export type ComputeName = keyof typeof COMPUTE;
