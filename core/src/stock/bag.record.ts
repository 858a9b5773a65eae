import { choice, currency, date, flag, group, note, number, optional, text, type ValueOf } from "../descriptor/field";
import { kind, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";
import { GRADE } from "../resin/capacity";
import { CONTAINER } from "../resin/storage";

/** In what resin is bought. */
export const BAG_FORM = choice(
  "What it is",
  { loose: "Loose resin", cartridge: "Ready-filled cartridge" },
  { fault: "Say whether it is loose resin or a ready-filled cartridge." },
);
export type BagForm = ValueOf<typeof BAG_FORM>;

/** How it was closed where it was filled. */
const FACTORY_PACKING = choice(
  "How it was packed",
  { film: "Film", foil: "Foil", vacuum: "Foil, vacuum", pail: "Pail with a lid" },
  { fault: "Say how it was packed: film, foil, vacuum or pail." },
);
export type FactoryPacking = ValueOf<typeof FACTORY_PACKING>;

const WHY_GONE = choice(
  "Where the rest went",
  { "thrown-away": "Thrown away", spilled: "Spilled", given: "Given away or sold", mixed: "Into another bag" },
  { fault: "Say where the rest went." },
);

/** Resin that was bought: what is left of it is derived from what went into vessels. */
export const BAG = kind({
  name: "bags",
  table: "bag",
  one: "bag",
  many: "bags",
  fields: {
    name: text("The bag's name", { label: "Called", most: 60 }),
    form: BAG_FORM,
    grade: GRADE,
    /** As bought. */
    litres: number(RANGES.volume, { called: "The resin in it", label: "Holds", quantity: "resinVolume" }),
    lot: optional(text("The lot", { most: 60 })),
    price: optional(number(RANGES.price, { called: "The price of the bag", label: "Price of all of it" })),
    currency: optional(currency()),
    madeOn: optional(date("The day it was made", { label: "Made on" })),
    boughtOn: date("The day it was bought", { label: "Bought on" }),
    openedOn: optional(date("The day it was opened", { label: "Opened on" })),
    packing: FACTORY_PACKING,
    /** How it is closed since it was opened. */
    closed: optional({ ...CONTAINER, called: "How it is closed now" }),
    /** In a vehicle or in the sun. */
    warm: flag("Kept in a vehicle or in the sun"),
    place: optional(text("Where it stands", { most: 60 })),
    /** What was in it when somebody looked: counts in place of the sum. */
    counted: optional(
      group("What was counted", {
        on: date("The day of the count", { label: "Counted on" }),
        litres: number(
          { ...RANGES.volume, above: undefined, from: 0 },
          { called: "What was in it", quantity: "resinVolume" },
        ),
      }),
    ),
    /** The rest did not go into a vessel. */
    gone: optional(group("Where the rest went", { on: date("The day the rest went"), why: WHY_GONE })),
    note,
  },
  rules: [
    {
      path: "openedOn",
      fault: "It cannot be opened before it was made.",
      holds: (it) => it.openedOn === undefined || it.madeOn === undefined || it.openedOn >= it.madeOn,
    },
    {
      path: "madeOn",
      fault: "It cannot be bought before it was made.",
      holds: (it) => it.madeOn === undefined || it.boughtOn >= it.madeOn,
    },
  ],
  sample: {
    name: "Blue sack",
    form: "loose",
    grade: "dyed",
    litres: 25,
    lot: "K-2041",
    price: 210,
    currency: "EUR",
    madeOn: "2026-07-10",
    boughtOn: "2026-10-01",
    openedOn: "2026-10-20",
    packing: "foil",
    closed: "rolled-or-zip",
    warm: true,
    place: "Shelf in the workshop",
    counted: { on: "2026-11-10", litres: 11.5 },
    gone: { on: "2027-01-10", why: "spilled" },
    note: "Second of two.",
  },
  further: [
    {
      name: "Cartridge 1",
      form: "cartridge",
      grade: "virgin",
      litres: 1.4,
      boughtOn: "2026-10-01",
      packing: "vacuum",
      warm: false,
    },
  ],
});

export interface Bag extends RecordOf<typeof BAG> {}
