import { group, number, optional, type Quantity, type ValueOf } from "../descriptor/field";
import { RANGES } from "../ranges";

const money = (called: string, label: string, quantity?: Quantity) =>
  number(RANGES.price, { called, label, ...(quantity ? { quantity } : {}) });
const minutes = (called: string, label: string) => number({ name: called, unit: "min", from: 0, to: 1_000 }, { label });
const years = (called: string, label: string) => number({ name: called, unit: "years", above: 0, to: 100 }, { label });

/** What things cost, in the user's money; every figure a planning assumption until the user changes it. */
export const PRICES = group("The prices", {
  /** A litre of resin from a bag. */
  resin: group("Resin", {
    virgin: money("Virgin resin", "Virgin", "perResinVolume"),
    dyed: money("Dyed resin", "Virgin, dyed", "perResinVolume"),
    regenerated: money("Regenerated resin", "Regenerated", "perResinVolume"),
  }),
  /** Share of the bag's price that resin in bulk costs. */
  bulkShare: number(RANGES.factor, { label: "Bulk resin costs" }),
  /** Each order of resin. */
  delivery: money("A delivery", "A delivery"),
  /** A litre of vessel volume, head and fittings included, on top of `vesselBase`. */
  vesselPerLitre: money("A litre of vessel", "and its size", "perVolume"),
  vesselBase: money("A vessel's fittings", "A vessel’s fittings"),
  /** A membrane unit with its housings. */
  membraneUnit: money("A membrane unit", "Membrane unit"),
  /** A new membrane, and how many years it lasts. */
  membrane: money("A membrane", "A new membrane"),
  membraneYears: years("The membrane's life", "It lasts"),
  /** Sediment and carbon cartridges of a year before a membrane. */
  prefiltersPerYear: money("A year's prefilters", "Prefilters"),
  /** A pump that raises the pressure on a membrane. */
  boosterPump: money("A booster pump", "Booster pump"),
  /** A tank for water that is made ahead, with the pump that brings it to the tool. */
  madeWaterTank: money("A tank for made water", "Tank and pump for made water"),
  /** A barrel with its air pump. */
  aerator: money("An aerated barrel", "Barrel with air pump"),
  /** Minutes that one barrel of aerated water takes: filling, switching, cleaning. */
  minutesPerBatch: minutes("The minutes of a barrel", "A barrel takes"),
  /** Minutes that one tank of made water takes: switching on, looking, switching off. Older lists don't say it. */
  minutesPerTank: optional(minutes("The minutes of a tank", "A tank of made water takes")),
  /** L a week that flush a membrane before and after its runs. */
  flushPerWeek: optional(
    number(RANGES.litres, {
      called: "The water that flushes a membrane",
      label: "Flushes a membrane",
      quantity: "volume",
    }),
  ),
  /** Money a year for the room that a membrane, its filters and its tank take. */
  roomPerYear: optional(money("The room for a membrane", "Room for RO")),
  /** A cubic metre of tap water, and of waste. */
  water: money("A cubic metre of water", "Tap water", "perBulk"),
  waste: money("A cubic metre of waste", "Waste water", "perBulk"),
  /** A kilowatt hour. */
  power: money("A kilowatt hour", "Power"),
  /** An hour of work. */
  wage: money("An hour of work", "An hour of your work"),
  minutesPerRefill: minutes("The minutes of a refill", "A refill takes"),
  /** Days from an order of resin to its arrival. Older lists don't say it. */
  deliveryDays: optional(
    number({ name: "The days of a delivery", unit: "days", from: 0, to: 365 }, { label: "A delivery takes" }),
  ),
  /** What a job costs that has to be done again: spots on glass, a harmed tank. */
  spoiltJob: optional(money("A job done again", "A job done again")),
  /** Years over which a purchase is spread. */
  years: years("The years of a purchase", "A purchase is spread over"),
});

export interface Prices extends ValueOf<typeof PRICES> {}

export const DEFAULT_PRICES = {
  resin: { virgin: 9, dyed: 9.5, regenerated: 5.5 },
  bulkShare: 0.8,
  delivery: 9,
  vesselPerLitre: 4,
  vesselBase: 45,
  membraneUnit: 260,
  membrane: 70,
  membraneYears: 3,
  prefiltersPerYear: 40,
  boosterPump: 95,
  madeWaterTank: 130,
  aerator: 80,
  minutesPerBatch: 6,
  minutesPerTank: 3,
  flushPerWeek: 25,
  roomPerYear: 30,
  water: 2.4,
  waste: 2,
  power: 0.32,
  wage: 30,
  minutesPerRefill: 10,
  deliveryDays: 4,
  spoiltJob: 30,
  years: 5,
} as const satisfies Prices;
/** When these were set down. */
export const DEFAULT_PRICES_DATE = "2026-11-25";

/** W of a pump on a membrane or on a tank, and of an air pump; planning assumptions. */
export const PUMP_WATTS = 60;
export const AIR_PUMP_WATTS = 8;
/** Bulk comes for several charges at once: share of a delivery that one charge bears; a planning assumption. */
export const BULK_ORDERS = 0.3;

/** What waiting and a spoilt job cost, in the figures of a list or, where an older one doesn't say, of the defaults. */
export const lateness = ({ deliveryDays, spoiltJob }: Prices) => ({
  deliveryDays: deliveryDays ?? DEFAULT_PRICES.deliveryDays,
  spoiltJob: spoiltJob ?? DEFAULT_PRICES.spoiltJob,
});

/** What a membrane takes beside its water, in the figures of a list or, where an older one doesn't say, of the defaults. */
export const membraneBother = ({ minutesPerTank, flushPerWeek, roomPerYear }: Prices) => ({
  minutesPerTank: minutesPerTank ?? DEFAULT_PRICES.minutesPerTank,
  flushPerWeek: flushPerWeek ?? DEFAULT_PRICES.flushPerWeek,
  roomPerYear: roomPerYear ?? DEFAULT_PRICES.roomPerYear,
});
