import {
  choice,
  flag,
  group,
  instant,
  list,
  note,
  number,
  optional,
  reference,
  variants,
  type ValueOf,
} from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";
import { GRADE } from "./capacity";
import { CONTAINER, PACKING } from "./storage";

/** Which beads fill the vessel. */
const BEADS = choice(
  "The beads",
  { mixed: "Mixed bed", cation: "Cation beads alone", anion: "Anion beads alone" },
  { fault: "Choose mixed, cation or anion beads.", label: "Beads" },
);

/** Why a charge was changed. */
export const END_REASON = choice(
  "Why it is changed",
  { limit: "Reached its limit", early: "Early, on purpose", fault: "A fault" },
  { fault: "Say why it ended: limit, early or fault." },
);
export type EndReason = ValueOf<typeof END_REASON>;

/** What had gone through a charge that was taken over part-used, as far as anybody knows. */
const PART_USED = variants(
  "What it had done before",
  "by",
  {
    jobs: { jobs: number({ name: "The jobs before", unit: "", above: 0, to: 100_000 }) },
    weeks: { weeks: number({ name: "The weeks since it was filled", unit: "weeks", above: 0, to: 1_000 }) },
    unknown: {},
  },
  { fault: "Say how many jobs it has done, how many weeks ago it was filled, or that nobody knows." },
);
export type PartUsed = ValueOf<typeof PART_USED>;

/** One filling of one vessel. */
export const CHARGE = kind({
  name: "charges",
  table: "charge",
  one: "charge",
  many: "charges",
  fields: {
    vesselId: reference("vessels", "The vessel"),
    /** The rig it served. */
    rigId: reference("rigs", "The rig"),
    grade: GRADE,
    /** Mixed where nothing is said. */
    beads: optional(BEADS),
    resinLitres: number(RANGES.volume, { label: "Resin put in", quantity: "resinVolume" }),
    packing: PACKING,
    stored: optional(
      group("How the bag was kept", {
        container: CONTAINER,
        months: number(RANGES.months, { label: "Kept for" }),
        warm: flag("In a vehicle or in the sun"),
      }),
    ),
    /** The bags it was filled from, and how much of each; nothing where nobody counted. */
    from: optional(
      list(
        "The bags",
        group("A bag", {
          bagId: reference("bags", "The bag"),
          litres: number(RANGES.volume, {
            called: "The resin from it",
            label: "Litres of it",
            quantity: "resinVolume",
          }),
        }),
        { least: 1, most: 12, tooFew: "Name a bag, or none.", tooMany: "At most 12 bags." },
      ),
    ),
    /** How long the refill took. */
    minutes: optional(
      number({ name: "The minutes of the refill", unit: "min", from: 0, to: 1_000 }, { label: "It took" }),
    ),
    /** When it was filled, or taken over part-used. */
    filledAt: instant("The time of the filling", { label: "Filled" }),
    partUsed: optional(PART_USED),
    /** The water meter's total then. */
    startTotal: optional(
      number(
        { ...RANGES.litres, to: 1e9 },
        { called: "The meter total", label: "Water meter then", quantity: "volume" },
      ),
    ),
    ended: optional(
      group("Its end", {
        at: instant("The time it ended", { label: "Ended" }),
        why: END_REASON,
        /** The reason was asked about, since the readings say another, and stands. */
        confirmed: optional(flag("Looked at again and right, whatever the readings say")),
        note,
      }),
    ),
    /** Known to be odd: nothing is learnt from it. */
    leftOut: optional(flag("Left out of what is learnt")),
  },
  rules: [
    {
      path: "ended.at",
      fault: "A charge cannot end before it was filled.",
      holds: (it) => it.ended === undefined || Date.parse(it.ended.at) >= Date.parse(it.filledAt),
    },
  ],
  sample: {
    vesselId: sampleId("vessels"),
    rigId: sampleId("rigs"),
    grade: "dyed",
    beads: "mixed",
    resinLitres: 23.5,
    packing: "poured",
    stored: { container: "rolled-or-zip", months: 3, warm: true },
    from: [{ bagId: sampleId("bags"), litres: 23.5 }],
    minutes: 25,
    filledAt: "2027-01-11T07:00:00.000Z",
    partUsed: { by: "jobs", jobs: 40 },
    startTotal: 900.25,
    ended: { at: "2027-03-01T17:00:00.000Z", why: "early", confirmed: true, note: "Before the holidays." },
    leftOut: true,
  },
  further: [
    {
      vesselId: sampleId("vessels"),
      rigId: sampleId("rigs"),
      grade: "regenerated",
      beads: "cation",
      resinLitres: 20,
      packing: "loose-cartridge",
      filledAt: "2027-03-01T17:00:00.000Z",
      partUsed: { by: "weeks", weeks: 6 },
    },
    {
      vesselId: sampleId("vessels"),
      rigId: sampleId("rigs"),
      grade: "virgin",
      beads: "anion",
      resinLitres: 21,
      packing: "settled",
      filledAt: "2027-03-02T17:00:00.000Z",
      partUsed: { by: "unknown" },
    },
  ],
});

export interface Charge extends RecordOf<typeof CHARGE> {}
