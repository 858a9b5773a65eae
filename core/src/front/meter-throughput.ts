import { DEFAULT_SPREAD } from "../bed/bed";
import { SPECIES, type IonFeed } from "../water/species";
import type { Sides } from "../resin/capacity";
import { IONS } from "../water/conductivity";
import { firstPass } from "./front-table";
import { frontOf, productCurve, type CurveWater } from "./product-curve";

/** Beds whose curves are made: N of each; between them ln T goes by a straight line in 1/N, as the front itself does. */
const TABLED_UNITS = [4, 8, 16, 32, 64, 128, 256] as const;

const known = new Map<string, number>();
const MOST_KNOWN = 4000;

function atTabled(units: number, water: CurveWater, sides: Sides, share: number): number {
  const ions = SPECIES.map((each) => water.ions[each].toPrecision(6));
  const ratio = (sides.cation / sides.anion).toPrecision(6);
  const key = [units, water.ec25.toPrecision(6), ratio, share.toPrecision(6), ...ions].join(" ");
  const before = known.get(key);
  if (before !== undefined) return before;
  if (known.size >= MOST_KNOWN) known.clear();
  const made = firstPass(frontOf(productCurve(units, water, sides), DEFAULT_SPREAD), share);
  known.set(key, made);
  return made;
}

/**
 * Throughput at which a meter shows a limit, in a bed of usual spread and a water whose composition is known: the visible
 * load as a share of the smaller side's capacity, by the same curve as the rack's.
 *
 * @param share of the feed's conductivity that the limit is, what goes round the beads taken off; above 0
 * @example meterThroughput(34, water, { cation: 0.68, anion: 0.56 }, 30 / 400) // 1.1 in alkaline water
 */
export function meterThroughput(transferUnits: number, water: CurveWater, sides: Sides, share: number): number {
  const last = TABLED_UNITS.length - 1;
  const above = TABLED_UNITS.findIndex((units) => units >= transferUnits);
  if (above <= 0) return Math.exp(atTabled(TABLED_UNITS[above === 0 ? 0 : last]!, water, sides, share));
  const [low, high] = [TABLED_UNITS[above - 1]!, TABLED_UNITS[above]!];
  const part = (1 / low - 1 / transferUnits) / (1 / low - 1 / high);
  const [from, to] = [atTabled(low, water, sides, share), atTabled(high, water, sides, share)];
  return Math.exp(from + part * (to - from));
}

/** First dissociation constant of carbonic acid at 25 °C, mol/L (Plummer and Busenberg 1982). */
const CARBONIC_ACID = 4.45e-7;

/**
 * Conductivity on which a meter stands once the anion beads are spent and the cation beads are not: bicarbonate leaves as
 * carbonic acid, µS/cm.
 *
 * @param inorganicCarbon mmol/L
 * @example carbonicPlateau(125 / 50.04) // 13.1
 */
export const carbonicPlateau = (inorganicCarbon: number): number =>
  1000 * (IONS.h.conductivity + IONS.hco3.conductivity) * Math.sqrt((CARBONIC_ACID * inorganicCarbon) / 1000);

/** Whether the carbonic acid of a spent anion side alone shows a limit: behind a membrane the meter then sees the first end. */
export const plateauShows = ({ hco3 }: IonFeed, limitEc25: number): boolean => carbonicPlateau(hco3) >= limitEc25;
