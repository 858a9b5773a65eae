import { Remembered } from "../numerics/remembered";
import { CATION_SPECIES, CHARGES, SPECIES, type IonFeed, type Species } from "../water/species";
import { ColumnRun } from "../column/run";
import { planOneLitre, type ColumnStage, type OneLitre } from "../column/train";
import type { Beads, Sides } from "../resin/capacity";
import { smallerSide } from "../resin/capacity";
import { speciate } from "../water/composition";
import { visibleLoad } from "../water/water";
import { constantPattern, spreadOver, TABLE_LOW, TABLE_POINTS, TABLE_STEP, type FrontTable } from "./front-table";

/**
 * What a bed is loaded with: the cation beads with cations, the anion beads with all anions, carbonic acid and silica among
 * them. The anions of strong acids are counted apart too: they push the weak ones out, so that they come when the beads
 * are full of them.
 */
export const LOADS = ["cations", "anions", "strong"] as const;
export type Load = (typeof LOADS)[number];
export type ByLoad<T> = { readonly [load in Load]: T };

export const byLoad = <T>(of: (load: Load) => T): ByLoad<T> => ({
  cations: of("cations"),
  anions: of("anions"),
  strong: of("strong"),
});

/** What a bed lets through load by load, over the grid of ln T. */
export interface LoadCurves {
  /** Share of the feed's equivalents: what a bed behind is loaded with. */
  readonly passes: ByLoad<FrontTable>;
  /** What a meter would show were the other beads fresh for ever, as a share of the feed's conductivity; of the anions the weak acids' alone. */
  readonly seen: ByLoad<FrontTable>;
  /** T at which the first of its ions passes a twentieth of its feed; endless where none does. */
  readonly leaks: ByLoad<number>;
}

/**
 * How a bed gives way in one water: X, its output as a share of the feed's conductivity, against T, the meter-visible load
 * put on as a share of the smaller side's capacity. The rack, the planner, the Lab and the look back all take it from here.
 */
export interface ProductCurve {
  /** What it hangs on: curves of one key are the same. */
  readonly key: string;
  readonly transferUnits: number;
  /** For even flow, where the water's composition is known; else the constant pattern, the same for every water. */
  readonly composed?: FrontTable;
  /** T at which the first ion that the load counts passes a twentieth of its feed, and which one. */
  readonly leak?: { readonly throughput: number; readonly species: Species };
  /** Load by load, where the composition is known: worked out once it is asked for. */
  readonly loads?: () => LoadCurves;
  /** Loads that it has beads for. */
  readonly takes?: readonly Load[];
}

/** A water for a curve: its ions, and what a meter reads in it. */
export interface CurveWater {
  readonly ions: IonFeed;
  /** µS/cm at 25 °C, as stated for the tap: X is a share of it. */
  readonly ec25: number;
}

/** Share of its feed at which an ion counts as leaking. */
export const LEAKING = 0.05;
/** Ammonia is looked for only where it is most of the cations, as behind a membrane in chloraminated water. */
const MOST = 0.5;
/** Coarser than the Lab's: the front is spread over flow paths afterwards, and 100 cells move it by a thousandth. */
const CELLS = 30;
/** T to run to; level after it, and from where the bed has nothing left to give. */
const RUN_TO = 3;
const SPENT = 0.995;
const STEPS_AT_ONCE = 20;

const MOST_CURVES = 60;
/** Made once for a question: tens of milliseconds where the composition is known. */
const curves = new Remembered<ProductCurve>(MOST_CURVES);

const digits = (value: number) => value.toPrecision(4);

/** The product curve of a bed in a water of which nobody knows the composition: the constant pattern. */
export const constantCurve = (transferUnits: number): ProductCurve => ({ key: digits(transferUnits), transferUnits });

/**
 * The product curve of a mixed bed.
 *
 * @param transferUnits N of the bed, above 0
 * @param water the composition where it is known: alkalinity at least; without it the smaller side is taken to end it
 * @param sides of the resin's grade; only their ratio matters
 * @example productCurve(34) // the constant pattern: X = 1/e at T = 1
 * @example productCurve(34, { ions, ec25: 400 }, { cation: 0.68, anion: 0.56 }) // with a carbonic plateau before T = 1.2
 */
export function productCurve(transferUnits: number, water?: CurveWater, sides?: Sides): ProductCurve {
  if (!water || !sides) return constantCurve(transferUnits);
  return curveOnce({ kind: "mixed", ahead: [], transferUnits }, water, sides);
}

/**
 * The curve of a bed of one kind of beads: its own side of the water alone, as if the other were taken out elsewhere.
 * @param ahead kinds of the beds before it: they tell whether what it gives off is neutralized
 * @param capacity eq/L of its beads
 */
export const singleCurve = (
  kind: Beads,
  ahead: readonly ColumnStage["kind"][],
  transferUnits: number,
  water: CurveWater,
  capacity: number,
): ProductCurve => curveOnce({ kind, ahead, transferUnits }, water, { cation: capacity, anion: capacity });

type Litre = Pick<OneLitre, "kind" | "ahead" | "transferUnits">;

function curveOnce(litre: Litre, water: CurveWater, sides: Sides): ProductCurve {
  const { kind, ahead, transferUnits } = litre;
  const figures = [transferUnits, water.ec25, sides.cation, sides.anion, ...SPECIES.map((each) => water.ions[each])];
  const key = [kind, ...ahead, ...figures.map(digits)].join(" ");
  return curves.of(key, () => ({ key, ...composedCurve(litre, water, sides) }));
}

function composedCurve(litre: Litre, { ions, ec25 }: CurveWater, sides: Sides): Omit<ProductCurve, "key"> {
  const litresPerThroughput = (1000 * smallerSide(sides)) / visibleLoad(ec25);
  const run = new ColumnRun(
    planOneLitre(ions, sides, { ...litre, litres: RUN_TO * litresPerThroughput, cells: CELLS }),
  );
  const fed = Float64Array.from(SPECIES, (species) => ions[species]);
  // What the other side of a single bed would take is no product of it.
  const isOwn = (species: number) => litre.kind === "mixed" || species < CATIONS === (litre.kind === "cation");
  const own = (rows: Float64Array, row: number) =>
    conductivityOfRow(rows.subarray(row * SPECIES.length, (row + 1) * SPECIES.length).map(onlyOf(isOwn)), 0);
  const spent = SPENT * own(fed, 0);
  const outputs: number[] = [];
  while (!run.done) {
    run.advance(STEPS_AT_ONCE);
    while (outputs.length < run.stepsTaken) outputs.push(own(run.product, outputs.length));
    if (outputs[outputs.length - 1]! >= spent) break;
  }
  const throughputs = run.middles.subarray(0, outputs.length).map((each) => each / litresPerThroughput);
  const leak = firstLeak(run.product, throughputs, ions, isOwn);
  let known: LoadCurves | undefined;
  return {
    transferUnits: litre.transferUnits,
    composed: onTable(
      throughputs,
      Float64Array.from(outputs, (output) => output / ec25),
    ),
    ...(leak ? { leak } : {}),
    takes: TAKEN_BY[litre.kind],
    loads: () => (known ??= loadCurves(run, litresPerThroughput, { ions, ec25 })),
  };
}

const CATIONS = CATION_SPECIES.length;
const FIRST_STRONG = SPECIES.indexOf("cl");
/** What each kind of beads takes. */
const TAKEN_BY: Readonly<Record<ColumnStage["kind"], readonly Load[]>> = {
  mixed: LOADS,
  cation: ["cations"],
  anion: ["anions", "strong"],
};
type IsOf = (species: number) => boolean;
const onlyOf = (isOf: IsOf) => (each: number, species: number) => (isOf(species) ? each : 0);
const IS_OF: ByLoad<IsOf> = {
  cations: (species) => species < CATIONS,
  anions: (species) => species >= CATIONS,
  strong: (species) => species >= FIRST_STRONG,
};
/** Which of them a meter sees leave: with the strong acids the weak ones have come before. */
const SEEN_OF: ByLoad<IsOf> = {
  cations: IS_OF.cations,
  anions: (species) => species >= CATIONS && species < FIRST_STRONG,
  strong: IS_OF.anions,
};

const sum = (values: Float64Array, isOf: IsOf) =>
  values.reduce((total, each, species) => (isOf(species) ? total + each : total), 0);

/** What passes load by load: the run goes on until all of each does, for a meter sees acid as much as the feed before. */
function loadCurves(run: ColumnRun, litresPerThroughput: number, { ions, ec25 }: CurveWater): LoadCurves {
  const fed = Float64Array.from(SPECIES, (species) => ions[species]);
  const rowOf = (row: number) => run.product.subarray(row * SPECIES.length, (row + 1) * SPECIES.length);
  const isSpent = () => {
    const last = rowOf(run.stepsTaken - 1);
    return LOADS.every((load) => sum(last, IS_OF[load]) >= SPENT * sum(fed, IS_OF[load]));
  };
  while (!run.done && !isSpent()) run.advance(STEPS_AT_ONCE);
  const throughputs = run.middles.subarray(0, run.stepsTaken).map((each) => each / litresPerThroughput);
  const table = (of: (row: Float64Array) => number) =>
    onTable(
      throughputs,
      Float64Array.from(throughputs, (_, row) => of(rowOf(row))),
    );
  return {
    passes: byLoad((load) => {
      const all = sum(fed, IS_OF[load]);
      return table((row) => (all > 0 ? sum(row, IS_OF[load]) / all : 0));
    }),
    seen: byLoad((load) => table((row) => conductivityOfRow(row.map(onlyOf(SEEN_OF[load])), 0) / ec25)),
    leaks: byLoad((load) => firstLeak(run.product, throughputs, ions, IS_OF[load])?.throughput ?? Infinity),
  };
}

/** µS/cm of a product row in meq/L. */
export function conductivityOfRow(rows: Float64Array, row: number): number {
  const of = (species: Species) => rows[row * SPECIES.length + SPECIES.indexOf(species)]! / CHARGES[species];
  const solved = speciate({
    na: of("na"),
    nh4: of("nh4"),
    k: of("k"),
    mg: of("mg"),
    ca: of("ca"),
    cl: of("cl"),
    no3: of("no3"),
    so4: of("so4"),
    inorganicCarbon: of("hco3"),
    silica: of("sio2"),
  });
  return solved.ok ? solved.value.ec25 : 0;
}

/** Values at rising throughputs, brought to the table's even grid of ln T; level beyond both ends. */
function onTable(throughputs: Float64Array, values: Float64Array): FrontTable {
  const last = values.length - 1;
  let row = 0;
  return Float64Array.from({ length: TABLE_POINTS }, (_, point) => {
    const throughput = Math.exp(TABLE_LOW + TABLE_STEP * point);
    while (row < last && throughputs[row + 1]! <= throughput) row += 1;
    if (throughput <= throughputs[0]!) return values[0]!;
    if (row >= last) return values[last]!;
    const part = (throughput - throughputs[row]!) / (throughputs[row + 1]! - throughputs[row]!);
    return values[row]! + part * (values[row + 1]! - values[row]!);
  });
}

function firstLeak(product: Float64Array, throughputs: Float64Array, ions: IonFeed, isOf: IsOf): ProductCurve["leak"] {
  const cations = CATION_SPECIES.reduce((sum, species) => sum + ions[species], 0);
  let first: ProductCurve["leak"];
  for (const [i, species] of SPECIES.entries()) {
    const fed = ions[species];
    if (fed <= 0 || !isOf(i) || (species === "nh4" && fed < MOST * cations)) continue;
    for (let row = 0; row < throughputs.length; row += 1) {
      if (first && throughputs[row]! >= first.throughput) break;
      if (product[row * SPECIES.length + i]! < LEAKING * fed) continue;
      first = { throughput: throughputs[row]!, species };
      break;
    }
  }
  return first;
}

/** Widths of a front that are weighed against each other, as coefficient of variation. */
export const FRONT_WIDTHS: Float64Array = Float64Array.from({ length: 8 }, (_, i) => 0.015 * (0.24 / 0.015) ** (i / 7));

/** A front of 0.02 is sharper than film transfer foretells for a bed of few transfer units, and yet is seen. */
const SHARPEST = 3;

/** X over ln T of a curve whose front has this width. */
export function frontOf({ transferUnits, composed }: Omit<ProductCurve, "key">, width: number): FrontTable {
  return spreadOver(composed ?? constantPattern(Math.max(transferUnits, SHARPEST / width)), width);
}

const tables = new Remembered<readonly FrontTable[]>(MOST_CURVES);

const lanes = new Remembered<readonly FrontTable[]>(MOST_CURVES);

/** The fronts of several curves, one curve after the other: the same table for the same curves. */
export const frontsOfAll = (curves: readonly ProductCurve[]): readonly FrontTable[] =>
  curves.length === 1
    ? frontsOf(curves[0]!)
    : lanes.of(curves.map(({ key }) => key).join("|"), () => curves.flatMap(frontsOf));

/** A curve at each of `FRONT_WIDTHS`, made once. */
export const frontsOf = (curve: ProductCurve): readonly FrontTable[] =>
  tables.of(curve.key, () => Array.from(FRONT_WIDTHS, (width) => frontOf(curve, width)));

const passing = new Remembered<FrontTable>(MOST_CURVES * 2 * LOADS.length);

/**
 * Share of one load that a curve lets through, over ln T.
 *
 * @param width of the front; 0 is even flow
 * @returns nothing where the bed has no beads for it, or nobody knows the composition
 */
export function passFront({ key, takes, loads }: ProductCurve, of: Load, width: number): FrontTable | undefined {
  if (!loads || !takes!.includes(of)) return undefined;
  return passing.of(`${of} ${width} ${key}`, () => spreadOver(loads().passes[of], width));
}

const showing = new Remembered<FrontTable>(MOST_CURVES * 2 * LOADS.length);

/** What a meter would see of one load alone, over ln T: of a bed whose loads did not come together. @see passFront */
export function seenFront({ key, takes, loads }: ProductCurve, of: Load, width: number): FrontTable | undefined {
  if (!loads || !takes!.includes(of)) return undefined;
  return showing.of(`${of} ${width} ${key}`, () => spreadOver(loads().seen[of], width));
}
