import { GRADE, RANGES, type Analysis, type Bed, type Capacity, type Reading, type Water } from "@winter-bead/core";
import { z } from "zod";
import { flag, known, numberIn, oneOf, scale } from "./fields";

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
      known({ grade: oneOf(GRADE) }),
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
