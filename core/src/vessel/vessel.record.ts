import { choice, date, number, optional, text, type ValueOf } from "../descriptor/field";
import { kind, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";
import { MARKS_OF_VESSEL } from "./marks";

export const VESSEL_KIND = choice(
  "The kind of vessel",
  {
    "screw-head-tank": "Tank, screw head",
    "inner-seal-bottle": "Bottle, inner seal",
    "floated-tank": "Tank, floated in",
    cartridge: "Cartridge",
  },
  { fault: "Choose the kind of vessel.", label: "Kind" },
);
export type VesselKind = ValueOf<typeof VESSEL_KIND>;

/** Which way the water goes through the beads. */
export const flowsUp = (kind: VesselKind) => kind === "cartridge";

/** What holds the beads. */
export const VESSEL = kind({
  name: "vessels",
  table: "vessel",
  one: "vessel",
  many: "vessels",
  fields: {
    name: text("The vessel's name", { label: "Name" }),
    kind: VESSEL_KIND,
    grossVolume: number(RANGES.volume, {
      called: "The vessel's volume",
      label: "Volume inside",
      quantity: "volume",
    }),
    diameter: number(RANGES.diameter, { quantity: "length" }),
    emptyWeight: optional(number(RANGES.weight, { label: "Weight empty", quantity: "weight" })),
    /** Share of the inside to fill with resin. */
    fillFraction: number({ ...RANGES.share, above: 0 }, { called: "The fill", label: "Filled to", quantity: "share" }),
    marks: MARKS_OF_VESSEL,
    retiredOn: optional(date("The day it was retired", { label: "Retired on" })),
  },
  sample: {
    name: "Tank on the left",
    kind: "inner-seal-bottle",
    grossVolume: 28.3,
    diameter: 230.5,
    emptyWeight: 9.25,
    fillFraction: 0.85,
    marks: { watch: 0.5, limit: 1, hard: 2, scale: "kcl", capacityUsed: 0.9 },
    retiredOn: "2027-10-01",
  },
});

export interface Vessel extends RecordOf<typeof VESSEL> {}
