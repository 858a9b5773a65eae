/** What things cost, in the user's money; every figure a planning assumption until the user changes it. */
export interface Prices {
  /** A litre of resin from a bag. */
  readonly resin: { readonly virgin: number; readonly dyed: number; readonly regenerated: number };
  /** Share of the bag's price that resin in bulk costs. */
  readonly bulkShare: number;
  /** Each order of resin. */
  readonly delivery: number;
  /** A litre of vessel volume, head and fittings included, on top of `vesselBase`. */
  readonly vesselPerLitre: number;
  readonly vesselBase: number;
  /** A membrane unit with its housings. */
  readonly membraneUnit: number;
  /** A new membrane, and how many years it lasts. */
  readonly membrane: number;
  readonly membraneYears: number;
  /** Sediment and carbon cartridges of a year before a membrane. */
  readonly prefiltersPerYear: number;
  /** A pump that raises the pressure on a membrane. */
  readonly boosterPump: number;
  /** A tank for water that is made ahead, with the pump that brings it to the tool. */
  readonly madeWaterTank: number;
  /** A barrel with its air pump. */
  readonly aerator: number;
  /** Minutes that one barrel of aerated water takes: filling, switching, cleaning. */
  readonly minutesPerBatch: number;
  /** Minutes that one tank of made water takes: switching on, looking, switching off. Older lists don't say it. */
  readonly minutesPerTank?: number | undefined;
  /** L a week that flush a membrane before and after its runs. */
  readonly flushPerWeek?: number | undefined;
  /** Money a year for the room that a membrane, its filters and its tank take. */
  readonly roomPerYear?: number | undefined;
  /** A cubic metre of tap water, and of waste. */
  readonly water: number;
  readonly waste: number;
  /** A kilowatt hour. */
  readonly power: number;
  /** An hour of work. */
  readonly wage: number;
  readonly minutesPerRefill: number;
  /** Years over which a purchase is spread. */
  readonly years: number;
}

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
  years: 5,
} as const satisfies Prices;
/** When these were set down. */
export const DEFAULT_PRICES_DATE = "2026-11-25";

/** W of a pump on a membrane or on a tank, and of an air pump; planning assumptions. */
export const PUMP_WATTS = 60;
export const AIR_PUMP_WATTS = 8;
/** Bulk comes for several charges at once: share of a delivery that one charge bears; a planning assumption. */
export const BULK_ORDERS = 0.3;

/** What a membrane takes beside its water, in the figures of a list or, where an older one doesn't say, of the defaults. */
export const membraneBother = ({ minutesPerTank, flushPerWeek, roomPerYear }: Prices) => ({
  minutesPerTank: minutesPerTank ?? DEFAULT_PRICES.minutesPerTank,
  flushPerWeek: flushPerWeek ?? DEFAULT_PRICES.flushPerWeek,
  roomPerYear: roomPerYear ?? DEFAULT_PRICES.roomPerYear,
});
