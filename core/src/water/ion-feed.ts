import { completeFeed, type IonFeed } from "./species";
import { finite, type Result } from "../result";
import { EQUIVALENT_WEIGHTS, equivalentSums, type Analysis } from "./analysis";
import { CO2_MG_PER_MMOL, SILICA_MG_PER_MMOL } from "./carbon-dioxide";
import { describeWater, visibleLoad, type Water } from "./water";

/** A water ion by ion, for the column; what nobody measured is filled in by a usual mix, and said. */
export interface FeedIons {
  readonly feed: IonFeed;
  /** mmol/L of the feed's `hco3` that is free carbon dioxide. */
  readonly co2: number;
  /** Which parts are a planning assumption. */
  readonly assumed: readonly ("cations" | "anions" | "alkalinity")[];
}

/** Shares of each side by equivalents in a usual hard-to-middling tap water, where not even the alkalinity is known: planning assumptions. */
export const USUAL_CATIONS = { na: 0.23, k: 0.02, mg: 0.2, ca: 0.55 } as const;
/** Of the anions, bicarbonate, where no alkalinity is known. */
export const USUAL_ALKALINITY_SHARE = 0.6;
/** Of the anions beside bicarbonate. */
export const USUAL_STRONG_ANIONS = { cl: 0.55, no3: 0.1, so4: 0.35 } as const;

const per = (analysis: Analysis, ion: keyof Analysis) => (analysis[ion] ?? 0) / EQUIVALENT_WEIGHTS[ion];

const spread = <T extends string>(shares: Readonly<Record<T, number>>, load: number) =>
  Object.fromEntries(Object.entries<number>(shares).map(([ion, share]) => [ion, share * load])) as Record<T, number>;

/** Cations where nobody measured them: as much calcium as bicarbonate and the rest sodium, else a usual mix. */
function cationsFrom(analysis: Analysis | undefined, load: number, alkalinity: number | undefined) {
  if (!analysis || equivalentSums(analysis).cations === 0) {
    if (alkalinity === undefined) return { ions: { ...spread(USUAL_CATIONS, load), nh4: 0 }, assumed: true };
    const ca = Math.min(load, alkalinity / EQUIVALENT_WEIGHTS.alkalinity);
    return { ions: { na: load - ca, nh4: 0, k: 0, mg: 0, ca }, assumed: true };
  }
  const ions = {
    na: per(analysis, "na"),
    nh4: per(analysis, "nh4"),
    k: per(analysis, "k"),
    mg: per(analysis, "mg"),
    ca: per(analysis, "ca"),
  };
  return { ions, assumed: false };
}

const hasAnions = (analysis: Analysis | undefined) =>
  analysis !== undefined && ["cl", "so4", "no3", "f"].some((ion) => (analysis[ion as keyof Analysis] ?? 0) > 0);

/**
 * The ions of a water: from its analysis where there is one; else by its conductivity and alkalinity, or by a usual mix. Fluoride counts as
 * chloride, carbon dioxide as `hco3`.
 *
 * @param ammonium meq/L that carbon leaves of chloramine (default 0)
 * @returns meq/L (mmol/L for `hco3` and `sio2`), or the fault of the water
 * @example ionFeed({ reading: { value: 212, scale: "nacl" }, alkalinity: 140 }) // ca and hco3 2.80, na and cl 1.44; the mix assumed
 */
export function ionFeed(water: Water, ammonium = 0): Result<FeedIons> {
  const described = describeWater(water);
  if (!described.ok) return described;
  const { analysis } = water;
  const { cationLoad, ec25, co2: co2Milligrams } = described.value;
  const alkalinity = analysis?.alkalinity ?? water.alkalinity;
  const co2 = co2Milligrams / CO2_MG_PER_MMOL;
  const cations = cationsFrom(analysis, cationLoad, alkalinity);
  const anionsKnown = hasAnions(analysis);
  const anionSum = anionsKnown ? equivalentSums(analysis!).anions : water.reading ? visibleLoad(ec25) : cationLoad;
  const bicarbonate =
    alkalinity === undefined
      ? anionsKnown
        ? 0
        : USUAL_ALKALINITY_SHARE * anionSum
      : Math.min(alkalinity / EQUIVALENT_WEIGHTS.alkalinity, anionsKnown ? Infinity : anionSum);
  const rest = Math.max(0, anionSum - bicarbonate);
  const strong = anionsKnown
    ? { cl: per(analysis!, "cl") + per(analysis!, "f"), no3: per(analysis!, "no3"), so4: per(analysis!, "so4") }
    : alkalinity === undefined
      ? spread(USUAL_STRONG_ANIONS, rest)
      : { cl: rest, no3: 0, so4: 0 };
  const assumed = [
    ...(cations.assumed ? (["cations"] as const) : []),
    ...(anionsKnown ? [] : (["anions"] as const)),
    ...(alkalinity === undefined ? (["alkalinity"] as const) : []),
  ];
  const feed = completeFeed({
    ...cations.ions,
    nh4: cations.ions.nh4 + ammonium,
    ...strong,
    cl: strong.cl + ammonium,
    hco3: bicarbonate + co2,
    sio2: (water.silica ?? 0) / SILICA_MG_PER_MMOL,
  });
  return finite({ feed, co2, assumed });
}

/**
 * The same water behind a membrane: each ion by its salt passage, free carbon dioxide unhindered.
 * @param passage share of the salt that passes, 0 to 1
 */
export function behindMembrane({ feed, co2, assumed }: FeedIons, passage: number): FeedIons {
  const passed = Object.fromEntries(Object.entries(feed).map(([ion, load]) => [ion, load * passage])) as IonFeed;
  return { feed: { ...passed, hco3: (feed.hco3 - co2) * passage + co2 }, co2, assumed };
}

/** The same water with its free carbon dioxide brought to this, mmol/L. */
export const withCarbonDioxide = ({ feed, co2, assumed }: FeedIons, left: number): FeedIons => ({
  feed: { ...feed, hco3: feed.hco3 - co2 + left },
  co2: left,
  assumed,
});
