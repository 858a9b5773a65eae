import { RANGES, VESSEL_KIND } from "@winter-bead/core";
import { MISTAKE_NAMES, type PractiseInput, type RefillInput } from "@winter-bead/core/src/refill";
import { z } from "zod";
import { bed, capacity, reading, water } from "./compute-shapes";
import { flag, known, numberIn, oneOf, text } from "./fields";

const figure = z.number();
const litres = numberIn({ ...RANGES.volume, name: "The litres" });
const MOST_BAGS = 200;

export const refillRequest = known({
  vessel: known({
    grossVolume: numberIn({ ...RANGES.volume, name: "The vessel's volume" }),
    diameter: numberIn(RANGES.diameter),
    emptyWeight: numberIn(RANGES.weight).optional(),
  }),
  ways: known({
    fillTo: numberIn({ name: "The fill", unit: "as a share", above: 0, to: 1 }),
    scoop: numberIn({ name: "The scoop", unit: "L", above: 0, to: 100 }),
  }),
  inIt: litres.optional(),
  toFill: litres.optional(),
  bags: z
    .array(
      known({
        id: text("The bag's id", 100),
        litres: numberIn({ name: "The litres of a bag", unit: "L", from: 0, to: 10_000 }),
      }),
      { error: "bags must be a list." },
    )
    .max(MOST_BAGS, `At most ${MOST_BAGS} bags.`)
    .optional(),
}) satisfies z.ZodType<RefillInput>;

export const refillShape = z.strictObject({
  amounts: z.record(z.string(), z.strictObject({ value: figure, unit: z.string(), twoPeople: z.boolean().optional() })),
  bags: z.array(z.strictObject({ id: z.string(), taken: figure, left: figure })),
  missing: figure,
});

const money = (name: string) => numberIn({ name, unit: "of your money", from: 0, to: 1_000_000 });

export const practiseRequest = known({
  life: known({
    water,
    capacity,
    bed,
    limit: reading,
    storage: numberIn(RANGES.factor).optional(),
    packing: numberIn(RANGES.factor).optional(),
  }),
  kind: oneOf(VESSEL_KIND),
  mistakes: z
    .array(z.enum(MISTAKE_NAMES as [(typeof MISTAKE_NAMES)[number]], { error: "Name mistakes of the list." }), {
      error: "mistakes must be a list.",
    })
    .max(MISTAKE_NAMES.length, "Each mistake once."),
  until: z.enum(["leak", "meter"], { error: "Until anything leaks, or until the meter shows it." }).optional(),
  behindMembrane: flag.optional(),
  litresPerJob: numberIn({ ...RANGES.volume, to: 100_000, name: "The litres of a job" }),
  resinPrice: money("A litre of resin"),
  wage: money("An hour of work"),
  spoiltJob: money("A job done again"),
  currency: text("The currency", 10),
}) satisfies z.ZodType<PractiseInput>;

const practised = z.strictObject({ litres: figure, firstReading: figure, aboveLimit: figure, money: figure });
export const practiseShape = z.strictObject({ right: practised, done: practised });
