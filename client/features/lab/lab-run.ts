import {
  checkColumn,
  columnEnds,
  ColumnRun,
  onScale,
  planColumn,
  positiveConductivityAt25,
  productSeries,
  thinned,
  type ColumnEnds,
  type ColumnQuestion,
  type Fault,
  type Result,
} from "@winter-bead/core";
import type { LabQuestion } from "./variants";

/** The beds at one moment: shares by cell, in the order of the column's species. */
export interface LabFrame {
  readonly litres: number;
  readonly stages: readonly { readonly cation?: Float32Array; readonly anion?: Float32Array }[];
}

/** One variant run to its end, in a shape that a worker can hand over. */
export interface LabRun {
  readonly variant: LabQuestion["variant"];
  readonly resin: number;
  readonly totalLitres: number;
  readonly ends: ColumnEnds;
  /** Litres at which the lead was changed. */
  readonly changedAt?: number;
  readonly litres: Float64Array;
  /** On the limit's scale. */
  readonly ppm: Float64Array;
  readonly ph: Float64Array;
  /** mg/L. */
  readonly silica: Float64Array;
  readonly ammonia: Float64Array;
  readonly frames: readonly LabFrame[];
  readonly balanceError: number;
  readonly warnings: readonly string[];
}

const CHART_ROWS = 400;

function labRun(run: ColumnRun, { variant, question, resin }: LabQuestion, changedAt?: number): Result<LabRun> {
  const limit = positiveConductivityAt25(question.limit);
  if (!limit.ok) return limit;
  const fine = productSeries(run.middles, run.product);
  if (!fine.ok) return fine;
  const thin = thinned(run, CHART_ROWS);
  const shown = productSeries(thin.litres, thin.ions);
  if (!shown.ok) return shown;
  const small = (shares: Float64Array | undefined) => (shares ? Float32Array.from(shares) : undefined);
  return {
    ok: true,
    value: {
      variant,
      resin,
      totalLitres: run.totalLitres,
      ends: columnEnds(fine.value, limit.value, question.marks),
      ...(changedAt === undefined ? {} : { changedAt }),
      litres: thin.litres,
      ppm: shown.value.ec25.map((ec25) => onScale(ec25, question.limit.scale)),
      ph: shown.value.ph,
      silica: shown.value.silica,
      ammonia: shown.value.ammonia,
      frames: run.profiles.map(({ litres, stages }) => ({
        litres,
        stages: stages.map(({ cation, anion }) => ({
          ...(cation ? { cation: small(cation)! } : {}),
          ...(anion ? { anion: small(anion)! } : {}),
        })),
      })),
      balanceError: run.balanceError,
      warnings: run.plan.warnings.map(({ message }) => message),
    },
  };
}

/** Pauses between slices of the work; gives up the rest when it returns false. */
export type Between = (progress: number) => Promise<boolean>;

const SLICE = 12;
/** Share of the whole work that the lead by itself takes. */
const LEAD_SHARE = 0.25;

/** Runs a column in slices; undefined when it was given up on the way. */
async function runInSlices(question: ColumnQuestion, between: Between): Promise<Result<ColumnRun> | undefined> {
  const checked = checkColumn(question);
  if (!checked.ok) return checked;
  const plan = planColumn(question);
  if (!plan.ok) return plan;
  const run = new ColumnRun(plan.value);
  while (!run.done) {
    run.advance(SLICE);
    if (!(await between(run.progress))) return undefined;
  }
  return { ok: true, value: run };
}

/** Litres at which a lead by itself reaches the limit: then it is changed, the lag still guarding. */
function limitReached(run: ColumnRun, question: ColumnQuestion): number | undefined {
  const limit = positiveConductivityAt25(question.limit);
  const series = productSeries(run.middles, run.product);
  if (!limit.ok || !series.ok) return undefined;
  return columnEnds(series.value, limit.value).litresToLimit;
}

/** One variant from start to end; undefined when it was given up, a fault when it can't be run. */
export async function runVariant(
  labQuestion: LabQuestion,
  between: Between,
): Promise<{ readonly run: LabRun } | { readonly fault: Fault } | undefined> {
  const { question, changesLead } = labQuestion;
  let changes: readonly number[] = [];
  if (changesLead) {
    const lead = await runInSlices({ ...question, stages: question.stages.slice(0, 1) }, (progress) =>
      between(LEAD_SHARE * progress),
    );
    if (!lead) return undefined;
    if (!lead.ok) return { fault: lead.fault };
    const spent = limitReached(lead.value, question);
    changes = spent ? [spent] : [];
  }
  const from = changesLead ? LEAD_SHARE : 0;
  const run = await runInSlices({ ...question, changes }, (progress) => between(from + (1 - from) * progress));
  if (!run) return undefined;
  if (!run.ok) return { fault: run.fault };
  const answer = labRun(run.value, labQuestion, changes[0]);
  return answer.ok ? { run: answer.value } : { fault: answer.fault };
}
