import { fail, succeed, type Result } from "./result";

/** The numbers a field may hold. Both the core and the wire schemas read this one table. */
export interface Range {
  /** What the technician calls it. */
  readonly name: string;
  readonly unit: string;
  /** Smallest value allowed, itself included. */
  readonly from?: number;
  /** Every value must be larger than this. */
  readonly above?: number;
  /** Largest value allowed, itself included. */
  readonly to?: number;
  /** Every value must be smaller than this. */
  readonly below?: number;
}

export const RANGES = {
  value: { name: "The reading", unit: "ppm or µS/cm", above: 0, to: 100_000 },
  observed: { name: "The reading", unit: "ppm or µS/cm", from: 0, to: 100_000 },
  scaleFactor: { name: "The meter's own factor", unit: "ppm per µS/cm", from: 0.4, to: 1 },
  temperature: { name: "The temperature", unit: "°C", from: 0, to: 60 },
  ion: { name: "The concentration", unit: "mg/L", from: 0, to: 20_000 },
  alkalinity: { name: "The alkalinity", unit: "mg/L as CaCO3", from: 0, to: 5_000 },
  ph: { name: "The pH", unit: "", from: 0, to: 14 },
  silica: { name: "The silica", unit: "mg/L", from: 0, to: 500 },
  co2: { name: "The carbon dioxide", unit: "mg/L", from: 0, to: 5_000 },
  constant: { name: "The trade constant", unit: "US gal·ppm per ft³", above: 0, to: 2_000_000 },
  ratedLitres: { name: "The rated volume", unit: "L", above: 0, to: 10_000_000 },
  ratedPpm: { name: "The rating's feed", unit: "ppm", above: 0, to: 100_000 },
  volume: { name: "The resin volume", unit: "L", above: 0, to: 2_000 },
  capacity: { name: "The capacity", unit: "eq/L", above: 0, to: 5 },
  diameter: { name: "The inner diameter", unit: "mm", above: 0, to: 3_000 },
  height: { name: "The inner height", unit: "mm", above: 0, to: 5_000 },
  flow: { name: "The flow", unit: "L/min", above: 0, to: 1_000 },
  health: { name: "The kinetic health", unit: "", above: 0, to: 2 },
  spread: { name: "The spread of the front", unit: "", from: 0, to: 0.5 },
  bypass: { name: "The bypass share", unit: "", from: 0, below: 1 },
  factor: { name: "The factor", unit: "", above: 0, to: 1.5 },
  rate: { name: "The aeration rate", unit: "per hour", from: 0, to: 1_000 },
  airFlow: { name: "The air of the pump", unit: "L/min", above: 0, to: 1_000 },
  barrel: { name: "The water in the barrel", unit: "L", above: 0, to: 100_000 },
  hours: { name: "The aeration time", unit: "h", from: 0, to: 10_000 },
  months: { name: "The time", unit: "months", from: 0, to: 1_200 },
  meq: { name: "The capacity left", unit: "meq", above: 0, to: 1e9 },
  load: { name: "The load", unit: "meq/L", above: 0, to: 10_000 },
  jobsPerWeek: { name: "The jobs of a week", unit: "", above: 0, to: 10_000 },
  dailyLitres: { name: "The water used", unit: "L", from: 0, to: 1_000_000 },
  litres: { name: "The water", unit: "L", from: 0, to: 1_000_000 },
  weight: { name: "The empty weight", unit: "kg", from: 0, to: 5_000 },
  share: { name: "The share", unit: "", from: 0, to: 1 },
  millimoles: { name: "The concentration", unit: "mmol/L", from: 0, to: 1_000 },
  feedIon: { name: "The ion", unit: "meq/L", from: 0, to: 200 },
  cells: { name: "The number of cells", unit: "", from: 5, to: 1_000 },
  until: { name: "The share of the stoichiometric litres", unit: "", above: 0, to: 20 },
  columnMark: { name: "The mark", unit: "mg/L", from: 0, to: 1_000 },
  pressure: { name: "The pressure", unit: "kPa", from: 0, to: 10_000 },
  recovery: { name: "The recovery", unit: "", above: 0, to: 0.95 },
  ratedRecovery: { name: "The membrane's rated recovery", unit: "", from: 0, to: 0.95 },
  rejection: { name: "The rejection", unit: "", above: 0, below: 1 },
  seconds: { name: "The time", unit: "s", from: 0, to: 1_000_000 },
  price: { name: "The price", unit: "units of your money", from: 0, to: 1_000_000 },
  starts: { name: "The starts a week", unit: "", from: 0, to: 10_000 },
} as const satisfies Record<string, Range>;

const unitAfter = (range: Range) => (range.unit === "" ? "" : ` ${range.unit}`);

const FIGURES = new Intl.NumberFormat("en-US", { maximumFractionDigits: 6 });
const plain = (value: number) => FIGURES.format(value);

/** The range in words: `above 0 and at most 2,000 L`. */
export function rangeInWords(range: Range): string {
  const low = range.above !== undefined ? `above ${plain(range.above)}` : `${plain(range.from ?? 0)} or more`;
  const high = range.below !== undefined ? `below ${plain(range.below)}` : `at most ${plain(range.to ?? Infinity)}`;
  return `${low} and ${high}${unitAfter(range)}`;
}

/** The sentence for a number outside its range: `The resin volume must be above 0 and at most 2,000 L.` */
export const outOfRangeSentence = (range: Range) => `${range.name} must be ${rangeInWords(range)}.`;

export function isWithin(value: number, range: Range): boolean {
  if (!Number.isFinite(value)) return false;
  if (range.from !== undefined && value < range.from) return false;
  if (range.above !== undefined && value <= range.above) return false;
  if (range.to !== undefined && value > range.to) return false;
  return range.below === undefined || value < range.below;
}

/**
 * Checks named numbers against their ranges; absent ones pass. The first one outside is the fault.
 *
 * @example checkRanges({ volume: -1 }, { volume: RANGES.volume }) // fault at `volume`
 */
export function checkRanges<T extends object>(values: T, ranges: { readonly [key in keyof T]?: Range }): Result<true> {
  for (const key of Object.keys(ranges) as (keyof T & string)[]) {
    const value: unknown = values[key];
    const range = ranges[key] as Range;
    if (value === undefined) continue;
    if (typeof value !== "number" || !isWithin(value, range))
      return fail("out-of-range", outOfRangeSentence(range), key);
  }
  return succeed(true);
}
