import { choice, group, number, optional, scale, type ValueOf } from "../descriptor/field";
import { RANGES } from "../ranges";
import { scaleFactor, type Scale } from "../water/meter";

/** What the product water is for; it decides the marks. */
export const USE = choice(
  "What the water is for",
  { glass: "Glass", paint: "Paint", aquarium: "Aquarium" },
  { fault: "Say what the water is for: glass, paint or aquarium.", label: "What for" },
);
export type Use = ValueOf<typeof USE>;

const mark = (label: string) => number(RANGES.value, { called: "The mark", label });

/** Outputs at which a technician watches, acts and stops, and the share of capacity that may fire first. */
export const MARKS_OF_VESSEL = group(
  "The marks",
  {
    watch: mark("Watch from"),
    limit: mark("Limit"),
    hard: mark("Stop at"),
    scale: scale("The scale of the marks", { label: "On the scale of a meter that shows" }),
    /** 0.9: act when nine tenths of the capacity are used, whatever the meter says. */
    capacityUsed: optional(number({ ...RANGES.share, above: 0 }, { called: "The share of capacity" })),
  },
  {
    rules: [
      {
        path: "limit",
        fault: "Watch, limit and stop point must rise in that order.",
        holds: (it) => it.watch <= it.limit && it.limit <= it.hard,
      },
    ],
  },
);
export interface Marks extends ValueOf<typeof MARKS_OF_VESSEL> {}

/** Default marks; each can be changed for a vessel. */
export const MARKS = {
  "glass-10": { watch: 6, limit: 10, hard: 20, scale: "nacl" },
  "glass-20": { watch: 12, limit: 20, hard: 30, scale: "nacl" },
  "aquarium-1": { watch: 0.5, limit: 1, hard: 2, scale: "nacl", capacityUsed: 0.9 },
  "aquarium-2": { watch: 1, limit: 2, hard: 4, scale: "nacl", capacityUsed: 0.9 },
} as const satisfies Record<string, Marks>;

/** The three marks as another scale shows them. @example marksOn("442", MARKS["glass-10"]).limit // 14.0 */
export function marksOn(shown: Scale, marks: Marks): Pick<Marks, "watch" | "limit" | "hard"> {
  const times = scaleFactor(shown) / scaleFactor(marks.scale);
  return { watch: marks.watch * times, limit: marks.limit * times, hard: marks.hard * times };
}
