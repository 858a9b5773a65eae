import { ANION_SPECIES, CATION_SPECIES, SPECIES } from "../water/species";
import { freshStage, type ColumnPlan, type WorkingStage } from "./train";

/** Shares of the sites at one moment, per bed and side: cells from the inlet × ions, that of fresh resin last. */
export interface Profile {
  readonly litres: number;
  readonly stages: readonly { readonly cation?: Float64Array; readonly anion?: Float64Array }[];
}

const IONS = SPECIES.length;
const ANIONS_FROM = CATION_SPECIES.length;

/** Room for what of a liquid goes through each kind of beads. */
export const besideBed = () => ({
  cations: new Float64Array(CATION_SPECIES.length + 1),
  anions: new Float64Array(ANION_SPECIES.length + 1),
});

/** Tells a bed the litres of the steps to come. */
export function prepareBed({ cation, anion, bypass }: WorkingStage, litres: number): void {
  const through = litres * (1 - bypass);
  cation?.prepare(through);
  anion?.prepare(through);
}

/**
 * One step's liquid through one bed, in place; what goes round the beads is mixed in again behind it.
 * @param liquid meq/L, in the order of `SPECIES`
 */
export function passBed(
  { cation, anion, bypass }: WorkingStage,
  liquid: Float64Array,
  { cations, anions }: ReturnType<typeof besideBed>,
): void {
  const through = 1 - bypass;
  if (cation) {
    for (let i = 0; i < ANIONS_FROM; i += 1) cations[i] = liquid[i]!;
    cation.step(cations);
    for (let i = 0; i < ANIONS_FROM; i += 1) liquid[i] = bypass * liquid[i]! + through * cations[i]!;
  }
  if (anion) {
    for (let i = ANIONS_FROM; i < IONS; i += 1) anions[i - ANIONS_FROM] = liquid[i]!;
    anion.step(anions);
    for (let i = ANIONS_FROM; i < IONS; i += 1) liquid[i] = bypass * liquid[i]! + through * anions[i - ANIONS_FROM]!;
  }
}

/**
 * A column simulation that can be taken some steps at a time, so that a worker can tell how far it is and be stopped.
 *
 * @example
 * const run = new ColumnRun(unwrap(planColumn({ feed, stages })));
 * while (!run.done) run.advance(50);
 * run.balanceError; // below 1e-9
 */
export class ColumnRun {
  /** Product of each step, meq/L, in the order of `SPECIES`. */
  readonly product: Float64Array;
  /** Litres at the middle of each step. */
  readonly middles: Float64Array;
  readonly profiles: Profile[] = [];
  readonly steps: number;
  private readonly feed: Float64Array;
  private readonly liquid = new Float64Array(IONS);
  private readonly beside = besideBed();
  private readonly left = new Float64Array(IONS);
  private readonly held = new Float64Array(IONS);
  private stages: WorkingStage[];
  private litres = 0;
  private stepsDone = 0;
  private segment = 0;
  private stepsInSegment = 0;

  constructor(readonly plan: ColumnPlan) {
    this.steps = plan.segments.reduce((sum, { steps }) => sum + steps, 0);
    this.product = new Float64Array(this.steps * IONS);
    this.middles = new Float64Array(this.steps);
    this.feed = Float64Array.from(SPECIES, (species) => plan.feed[species]);
    this.stages = plan.stages.map(freshStage);
    for (const stage of this.stages) this.count(stage, -1);
    this.prepare();
  }

  get done(): boolean {
    return this.stepsDone === this.steps;
  }

  /** Share of the steps taken, 0 to 1. */
  get progress(): number {
    return this.stepsDone / this.steps;
  }

  /** Steps taken so far: rows of the product that are known. */
  get stepsTaken(): number {
    return this.stepsDone;
  }

  get totalLitres(): number {
    return this.litres;
  }

  /** Takes up to this many steps. */
  advance(most: number): void {
    const until = Math.min(this.steps, this.stepsDone + most);
    while (this.stepsDone < until) {
      this.step(this.stepLitres);
      this.keepProfileWhenDue();
      if (this.stepsInSegment === this.plan.segments[this.segment]!.steps) this.endSegment();
    }
  }

  private get stepLitres(): number {
    const { litres, steps } = this.plan.segments[this.segment]!;
    return litres / steps;
  }

  private prepare(): void {
    for (const stage of this.stages) prepareBed(stage, this.stepLitres);
  }

  private step(litres: number): void {
    const { liquid, product, left, stepsDone } = this;
    liquid.set(this.feed);
    for (const stage of this.stages) passBed(stage, liquid, this.beside);
    for (let i = 0; i < IONS; i += 1) {
      product[stepsDone * IONS + i] = liquid[i]!;
      left[i]! += liquid[i]! * litres;
    }
    this.middles[stepsDone] = this.litres + litres / 2;
    this.litres += litres;
    this.stepsDone += 1;
    this.stepsInSegment += 1;
  }

  private keepProfileWhenDue(): void {
    const { profiles: wanted } = this.plan;
    if (this.stepsDone < Math.round(((this.profiles.length + 1) * this.steps) / wanted)) return;
    this.profiles.push(this.profileNow());
  }

  /** The beds as they stand now. */
  profileNow(): Profile {
    const stages = this.stages.map(({ cation, anion }) => ({
      ...(cation ? { cation: cation.shares.slice() } : {}),
      ...(anion ? { anion: anion.shares.slice() } : {}),
    }));
    return { litres: this.litres, stages };
  }

  /** At a change the lead goes out, the others move forward and fresh resin follows. */
  private endSegment(): void {
    this.segment += 1;
    this.stepsInSegment = 0;
    if (this.segment >= this.plan.segments.length) return;
    const [spent, ...others] = this.stages;
    this.count(spent!, 1);
    const fresh = freshStage(this.plan.stages[this.plan.stages.length - 1]!);
    this.count(fresh, -1);
    this.stages = [...others, fresh];
    this.prepare();
  }

  private count({ cation, anion }: WorkingStage, sign: 1 | -1): void {
    for (let i = 0; i < ANIONS_FROM && cation; i += 1) this.held[i]! += sign * cation.held(i);
    for (let i = ANIONS_FROM; i < IONS && anion; i += 1) this.held[i]! += sign * anion.held(i - ANIONS_FROM);
  }

  /**
   * Largest of the species' |fed - left - held|, as a share of what was fed of it (of everything fed, for a species that is
   * not in the feed). Held is the beds' final less initial shares, left is summed from the product.
   */
  get balanceError(): number {
    const held = this.held.slice();
    this.stages.forEach(({ cation, anion }) => {
      for (let i = 0; i < ANIONS_FROM && cation; i += 1) held[i]! += cation.held(i);
      for (let i = ANIONS_FROM; i < IONS && anion; i += 1) held[i]! += anion.held(i - ANIONS_FROM);
    });
    const everything = this.feed.reduce((sum, each) => sum + each, 0) * this.litres;
    let worst = 0;
    for (let i = 0; i < IONS; i += 1) {
      const fed = this.feed[i]! * this.litres;
      const error = Math.abs(fed - this.left[i]! - held[i]!);
      worst = Math.max(worst, error / (fed > 0 ? fed : everything));
    }
    return worst;
  }
}
