import { positiveConductivityAt25, type Reading } from "../water/meter";
import { speciate } from "../water/composition";
import { SILICA_MG_PER_MMOL } from "../water/carbon-dioxide";
import { EQUIVALENT_WEIGHTS } from "../water/analysis";
import { checkRanges, RANGES } from "../ranges";
import { finite, succeed, within, type Result } from "../result";
import type { Warning } from "../water/water";
import { ANION_SPECIES, CATION_SPECIES, CHARGES, SPECIES, type Species } from "../water/species";
import { ColumnRun, type Profile } from "./run";
import { planColumn, type ColumnInput } from "./train";

/** Concentrations in the product at which a user wants to know, mg/L. */
export interface ColumnMarks {
  /** As SiO2. */
  readonly silica?: number;
  /** As NH4. */
  readonly ammonia?: number;
}

export interface ColumnQuestion extends ColumnInput {
  readonly limit: Reading;
  readonly marks?: ColumnMarks;
}

/** Product water at one moment; ions in meq/L. */
export type ProductRow = { readonly [species in Species]: number } & {
  /** At the middle of the step. */
  readonly litres: number;
  readonly ec25: number;
  readonly ph: number;
  /** mg/L as SiO2. */
  readonly silica: number;
  /** mg/L as NH4. */
  readonly ammonia: number;
};

/** When the product passes its marks, litres at the tap; absent when it does not in this run. */
export interface ColumnEnds {
  readonly litresToLimit?: number;
  readonly litresToSilica?: number;
  readonly litresToAmmonia?: number;
  /** Litres between the first mark and the limit: what the meter does not show. */
  readonly silentWindow?: number;
}

export interface ColumnAnswer extends ColumnEnds {
  readonly balanceError: number;
  readonly product: readonly ProductRow[];
  readonly profile: readonly {
    readonly litres: number;
    readonly stages: readonly {
      readonly cation?: readonly (readonly number[])[];
      readonly anion?: readonly (readonly number[])[];
    }[];
  }[];
  readonly warnings: readonly Warning[];
}

/** Product of every step as numbers by column, so that nothing is rounded away before the marks are looked for. */
export interface ProductSeries {
  readonly litres: Float64Array;
  readonly ec25: Float64Array;
  readonly ph: Float64Array;
  readonly silica: Float64Array;
  readonly ammonia: Float64Array;
  /** meq/L, row by row in the order of `SPECIES`. */
  readonly ions: Float64Array;
}

const SILICA_AT = SPECIES.indexOf("sio2");
const AMMONIA_AT = SPECIES.indexOf("nh4");

/** pH, conductivity, silica and ammonia of product rows in meq/L. */
export function productSeries(litres: Float64Array, ions: Float64Array): Result<ProductSeries> {
  const rows = litres.length;
  const [ec25, ph] = [new Float64Array(rows), new Float64Array(rows)];
  const [silica, ammonia] = [new Float64Array(rows), new Float64Array(rows)];
  const of = (row: number, species: Species) =>
    ions[row * SPECIES.length + SPECIES.indexOf(species)]! / CHARGES[species];
  for (let row = 0; row < rows; row += 1) {
    const solved = speciate({
      na: of(row, "na"),
      nh4: of(row, "nh4"),
      k: of(row, "k"),
      mg: of(row, "mg"),
      ca: of(row, "ca"),
      cl: of(row, "cl"),
      no3: of(row, "no3"),
      so4: of(row, "so4"),
      inorganicCarbon: of(row, "hco3"),
      silica: of(row, "sio2"),
    });
    if (!solved.ok) return within("feed", solved);
    ec25[row] = solved.value.ec25;
    ph[row] = solved.value.ph;
    silica[row] = ions[row * SPECIES.length + SILICA_AT]! * SILICA_MG_PER_MMOL;
    ammonia[row] = ions[row * SPECIES.length + AMMONIA_AT]! * EQUIVALENT_WEIGHTS.nh4;
  }
  return succeed({ litres, ec25, ph, silica, ammonia, ions });
}

/** Litres at which a series first reaches a mark, between the steps' middles by a straight line; 0 from the start. */
export function firstReach(litres: ArrayLike<number>, values: ArrayLike<number>, mark: number): number | undefined {
  if (values[0]! >= mark) return 0;
  for (let i = 1; i < values.length; i += 1) {
    const [before, after] = [values[i - 1]!, values[i]!];
    if (after >= mark) return litres[i - 1]! + ((litres[i]! - litres[i - 1]!) * (mark - before)) / (after - before);
  }
  return undefined;
}

/** When a product passes the limit (µS/cm) and the marks. */
export function columnEnds(series: ProductSeries, limitEc25: number, marks: ColumnMarks = {}): ColumnEnds {
  const { litres } = series;
  const litresToLimit = firstReach(litres, series.ec25, limitEc25);
  const reach = (values: Float64Array, mark: number | undefined) =>
    mark === undefined ? undefined : firstReach(litres, values, mark);
  const litresToSilica = reach(series.silica, marks.silica);
  const litresToAmmonia = reach(series.ammonia, marks.ammonia);
  const firstMark = Math.min(litresToSilica ?? Infinity, litresToAmmonia ?? Infinity);
  return {
    ...(litresToLimit === undefined ? {} : { litresToLimit }),
    ...(litresToSilica === undefined ? {} : { litresToSilica }),
    ...(litresToAmmonia === undefined ? {} : { litresToAmmonia }),
    ...(litresToLimit === undefined || firstMark === Infinity
      ? {}
      : { silentWindow: Math.max(0, litresToLimit - firstMark) }),
  };
}

const PRODUCT_ROWS = 200;

/** Steps in a row joined, litre by litre, so that about 200 rows tell the whole run and still balance. */
export function thinned(run: ColumnRun, most = PRODUCT_ROWS): { litres: Float64Array; ions: Float64Array } {
  const group = Math.ceil(run.steps / most);
  const rows = Math.ceil(run.steps / group);
  const litres = new Float64Array(rows);
  const ions = new Float64Array(rows * SPECIES.length);
  for (let row = 0; row < rows; row += 1) {
    const [from, to] = [row * group, Math.min(run.steps, (row + 1) * group)];
    litres[row] = (run.middles[from]! + run.middles[to - 1]!) / 2;
    for (let i = 0; i < SPECIES.length; i += 1) {
      let sum = 0;
      for (let step = from; step < to; step += 1) sum += run.product[step * SPECIES.length + i]!;
      ions[row * SPECIES.length + i] = sum / (to - from);
    }
  }
  return { litres, ions };
}

const inRows = (shares: Float64Array, ions: number) =>
  Array.from({ length: shares.length / ions }, (_, cell) => [...shares.subarray(cell * ions, (cell + 1) * ions)]);

const inCells = ({ cation, anion }: Profile["stages"][number]) => ({
  ...(cation ? { cation: inRows(cation, CATION_SPECIES.length + 1) } : {}),
  ...(anion ? { anion: inRows(anion, ANION_SPECIES.length + 1) } : {}),
});

function productRows({ litres, ec25, ph, silica, ammonia, ions }: ProductSeries): ProductRow[] {
  return Array.from(litres, (at, row) => ({
    litres: at,
    ec25: ec25[row]!,
    ph: ph[row]!,
    silica: silica[row]!,
    ammonia: ammonia[row]!,
    ...(Object.fromEntries(SPECIES.map((species, i) => [species, ions[row * SPECIES.length + i]!])) as {
      readonly [species in Species]: number;
    }),
  }));
}

/** A finished run's product, ends and profiles. */
export function columnAnswer(run: ColumnRun, question: ColumnQuestion): Result<ColumnAnswer> {
  const limit = within("limit", positiveConductivityAt25(question.limit));
  if (!limit.ok) return limit;
  const fine = productSeries(run.middles, run.product);
  if (!fine.ok) return fine;
  const { litres, ions } = thinned(run);
  const shown = productSeries(litres, ions);
  if (!shown.ok) return shown;
  return finite({
    ...columnEnds(fine.value, limit.value, question.marks),
    balanceError: run.balanceError,
    product: productRows(shown.value),
    profile: run.profiles.map((profile) => ({ litres: profile.litres, stages: profile.stages.map(inCells) })),
    warnings: run.plan.warnings,
  });
}

/** What can be refused before any work is done. */
export function checkColumn(question: ColumnQuestion): Result<true> {
  const marks = within(
    "marks",
    checkRanges(question.marks ?? {}, { silica: RANGES.columnMark, ammonia: RANGES.columnMark }),
  );
  if (!marks.ok) return marks;
  const limit = within("limit", positiveConductivityAt25(question.limit));
  return limit.ok ? succeed(true) : limit;
}

/**
 * How a train of beds gives way, ion by ion: product against litres, when the meter shows it and when something leaks that
 * no meter shows, and the resin by depth. Two exchangers in one bed, film control, constant separation factors
 * (Helfferich 1962; Hall et al. 1966); heavy, tens of milliseconds, so call it in a worker.
 *
 * @returns litres at the tap; a mark that is not reached is absent
 * @example column({ feed, stages: [{ kind: "mixed", capacity: { grade: "virgin" }, bed: { volume: 12.2, diameter: 185,
 *   flow: 3.1 } }], limit: { value: 10, scale: "nacl" }, marks: { silica: 1 } }) // silica at 1,545 L, the meter at 2,168 L
 */
export function column(question: ColumnQuestion): Result<ColumnAnswer> {
  const checked = checkColumn(question);
  if (!checked.ok) return checked;
  const plan = planColumn(question);
  if (!plan.ok) return plan;
  const run = new ColumnRun(plan.value);
  run.advance(run.steps);
  return columnAnswer(run, question);
}
