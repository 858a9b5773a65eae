import { choice, instant, note, number, optional, reference, type ValueOf } from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";

/** What wears beside the resin. */
export const PART = choice(
  "The part",
  {
    sediment: "Sediment cartridge",
    carbon: "Carbon cartridge",
    membrane: "Membrane",
    seals: "O-rings and seals",
    strainer: "Inlet strainer",
  },
  { fault: "Say what was done: sediment, carbon, membrane, seals or strainer." },
);
export type Part = ValueOf<typeof PART>;

/** Upkeep of a part of a rig, as it was done. */
export const SERVICE = kind({
  name: "services",
  table: "service",
  one: "service",
  many: "services",
  fields: {
    rigId: reference("rigs", "The rig"),
    part: PART,
    at: instant("The time of the service", { label: "When" }),
    /** In place of the usual months. */
    everyMonths: optional(
      number({ name: "The months until the next", unit: "months", above: 0, to: 240 }, { label: "Again after" }),
    ),
    /** g of chlorine that a carbon cartridge takes, by its data sheet. */
    chlorineGrams: optional(
      number(
        { name: "The chlorine it takes", unit: "g", above: 0, to: 100_000 },
        { label: "Chlorine it takes, by its data sheet" },
      ),
    ),
    note,
  },
  sample: {
    rigId: sampleId("rigs"),
    part: "carbon",
    at: "2027-01-11T07:20:00.000Z",
    everyMonths: 6,
    chlorineGrams: 45,
    note: "Rinsed to drain for ten minutes.",
  },
});

export interface Service extends RecordOf<typeof SERVICE> {}
