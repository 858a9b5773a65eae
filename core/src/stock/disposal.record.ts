import { date, note, number, text } from "../descriptor/field";
import { kind, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";

/** Spent resin that was taken away. */
export const DISPOSAL = kind({
  name: "disposals",
  table: "disposal",
  one: "disposal",
  many: "disposals",
  fields: {
    on: date("The day it was taken away", { label: "On" }),
    litres: number(RANGES.volume, { called: "The spent resin", label: "Spent resin", quantity: "resinVolume" }),
    to: text("Where it went", { label: "Where it went", most: 120 }),
    note,
  },
  sample: { on: "2027-02-20", litres: 48, to: "Town's recycling yard, bagged", note: "They asked for two bags." },
});

export interface Disposal extends RecordOf<typeof DISPOSAL> {}
