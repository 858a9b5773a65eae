import { date, number, optional, reference, scale, text } from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";

/** Where water is drawn, and what its feed is like over the seasons; low, typical and high stand on `scale`. */
export const TAP = kind({
  name: "taps",
  table: "tap",
  one: "tap",
  many: "taps",
  fields: {
    siteId: reference("sites", "The tap's site", { label: "Site" }),
    name: text("The tap's name", { label: "Name" }),
    low: number(RANGES.value, { label: "Low" }),
    typical: number(RANGES.value, { label: "Typical" }),
    high: number(RANGES.value, { label: "High" }),
    scale: scale("The scale of these figures", { label: "Scale" }),
    temperature: optional(number(RANGES.temperature, { quantity: "temperature" })),
    ph: optional(number(RANGES.ph)),
    alkalinity: optional(number(RANGES.alkalinity)),
    silica: optional(number(RANGES.silica)),
    retiredOn: optional(date("The day it was retired", { label: "Retired on" })),
  },
  rules: [
    {
      path: "typical",
      fault: "The feed's low, typical and high must rise in that order.",
      holds: (it) => it.low <= it.typical && it.typical <= it.high,
    },
  ],
  sample: {
    siteId: sampleId("sites"),
    name: "Tap by the gate",
    low: 140,
    typical: 160,
    high: 190,
    scale: 0.64,
    temperature: 12.5,
    ph: 7.3,
    alkalinity: 110,
    silica: 6,
    retiredOn: "2027-09-30",
  },
});

export interface Tap extends RecordOf<typeof TAP> {}
