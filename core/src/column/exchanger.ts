/** Liquid below this share of the feed changes nothing that could be seen: it passes as it is. */
const TRACE = 1e-14;
/** A last step of Newton below this leaves nothing to gain: its error is the square. */
const CLOSE = 1e-7;
/** Within this of the root Newton's straight line is as good as the logarithm. */
const NEAR = 0.05;
const NEWTON_STEPS = 60;
const IONS = 6;

/** The next guess of ln S by Newton, or a point inside the bracket when Newton leaves it. */
function nextGuess(sum: number, move: number, low: number, high: number): number {
  const next = move > 1 || move < -1 ? NaN : sum * (1 + move * (1 + 0.5 * move));
  if (next > low && next < high) return next;
  if (high === Infinity) return 4 * sum;
  return low === 0 ? sum / 4 : Math.sqrt(low * high);
}

export interface ExchangerPlan {
  readonly cells: number;
  /** Separation factors of the ions, that of fresh resin last. */
  readonly alphas: readonly number[];
  /** Share of the sites of each ion at the start, that of fresh resin last; they sum to 1. */
  readonly start: readonly number[];
  /** Transfer units of the whole bed. */
  readonly transferUnits: number;
  /** meq of the whole bed. */
  readonly capacity: number;
  /** meq/L that the liquid carries at least, its missing part being acid or base; 0 where it is neutralized. */
  readonly leastStrength: number;
  /** meq/L of the feed, for what counts as a trace. */
  readonly feedStrength: number;
}

/**
 * One kind of beads in one bed, cut into equal cells from inlet to outlet, with film transfer towards equilibrium
 * `c*ᵢ = C (xᵢ/αᵢ) / Σ (xⱼ/αⱼ)` (constant separation factors, Helfferich 1962; linear driving force in the film,
 * Glueckauf 1955).
 *
 * A step is backward Euler in each cell: with `β = (1 - exp(-N/n)) ΔV / (qV/n)` and `wⱼ = xⱼ + β cⱼ`, the root S of
 * `Σ wⱼ αⱼ S/(αⱼ S + β C) = 1` gives new shares `wⱼ αⱼ S/(αⱼ S + β C)`, which stay positive whatever the step. Since
 * `Σ wⱼ = 1 + β C`, the same root solves `Σ wⱼ/(αⱼ S + β C) = 1`, which keeps its digits in the thinnest liquid.
 */
export class Exchanger {
  /** Shares of the sites, cell by cell from the inlet, in the order of the plan. */
  readonly shares: Float64Array;
  private readonly alphas: Float64Array;
  private readonly sums: Float64Array;
  private readonly passed: number;
  private beta = 0;

  constructor(readonly plan: ExchangerPlan) {
    const { cells, alphas, start, transferUnits } = plan;
    this.alphas = Float64Array.from(alphas);
    this.shares = new Float64Array(cells * IONS);
    for (let i = 0; i < this.shares.length; i += 1) this.shares[i] = start[i % IONS]!;
    const sum = start.reduce((total, share, j) => total + share / alphas[j]!, 0);
    this.sums = new Float64Array(cells).fill(sum);
    this.passed = Math.exp(-transferUnits / cells);
  }

  /** Sets the litres of a step. */
  prepare(litres: number): void {
    const cellCapacity = this.plan.capacity / this.plan.cells;
    this.beta = ((1 - this.passed) * litres) / cellCapacity;
  }

  /**
   * Takes one step's liquid through all cells; `liquid` (meq/L of each ion) leaves as the product. The six ions stand as
   * variables of their own and not in loops: it is the inner loop of everything, and this makes it several times faster.
   */
  step(liquid: Float64Array): void {
    const { shares, sums, beta, alphas } = this;
    const { cells, leastStrength, feedStrength } = this.plan;
    const taken = 1 - this.passed;
    const trace = TRACE * feedStrength;
    const [a0, a1, a2] = [alphas[0]!, alphas[1]!, alphas[2]!];
    const [a3, a4, a5] = [alphas[3]!, alphas[4]!, alphas[5]!];
    let [c0, c1, c2, c3, c4] = [liquid[0]!, liquid[1]!, liquid[2]!, liquid[3]!, liquid[4]!];
    for (let cell = 0; cell < cells; cell += 1) {
      const present = c0 + c1 + c2 + c3 + c4;
      const strength = present > leastStrength ? present : leastStrength;
      if (strength <= trace) break;
      const at = cell * IONS;
      const pull = beta * strength;
      const w0 = shares[at]! + beta * c0;
      const w1 = shares[at + 1]! + beta * c1;
      const w2 = shares[at + 2]! + beta * c2;
      const w3 = shares[at + 3]! + beta * c3;
      const w4 = shares[at + 4]! + beta * c4;
      const w5 = shares[at + 5]! + beta * (strength - present);

      let sum = sums[cell]!;
      let low = 0;
      let high = Infinity;
      for (let round = 0; round < NEWTON_STEPS; round += 1) {
        const d0 = 1 / (a0 * sum + pull);
        const d1 = 1 / (a1 * sum + pull);
        const d2 = 1 / (a2 * sum + pull);
        const d3 = 1 / (a3 * sum + pull);
        const d4 = 1 / (a4 * sum + pull);
        const d5 = 1 / (a5 * sum + pull);
        const balanced = w0 * d0 + w1 * d1 + w2 * d2 + w3 * d3 + w4 * d4 + w5 * d5;
        const bound = w0 * d0 * d0 + w1 * d1 * d1 + w2 * d2 * d2 + w3 * d3 * d3 + w4 * d4 * d4 + w5 * d5 * d5;
        const excess = balanced - 1;
        const far = excess > NEAR || excess < -NEAR;
        const move = (far ? Math.log(balanced) * balanced : excess) / (balanced - pull * bound);
        if (move < CLOSE && move > -CLOSE) {
          sum *= 1 + move;
          break;
        }
        if (excess > 0) low = sum;
        else high = sum;
        sum = nextGuess(sum, move, low, high);
      }
      sums[cell] = sum;

      const b0 = w0 / (a0 * sum + pull);
      const b1 = w1 / (a1 * sum + pull);
      const b2 = w2 / (a2 * sum + pull);
      const b3 = w3 / (a3 * sum + pull);
      const b4 = w4 / (a4 * sum + pull);
      shares[at] = b0 * a0 * sum;
      shares[at + 1] = b1 * a1 * sum;
      shares[at + 2] = b2 * a2 * sum;
      shares[at + 3] = b3 * a3 * sum;
      shares[at + 4] = b4 * a4 * sum;
      shares[at + 5] = (w5 * a5 * sum) / (a5 * sum + pull);
      c0 -= taken * (c0 - strength * b0);
      c1 -= taken * (c1 - strength * b1);
      c2 -= taken * (c2 - strength * b2);
      c3 -= taken * (c3 - strength * b3);
      c4 -= taken * (c4 - strength * b4);
    }
    [liquid[0], liquid[1], liquid[2], liquid[3], liquid[4]] = [c0, c1, c2, c3, c4];
  }

  /** After shares were put in by hand: what each step begins from is found anew. */
  settle(): void {
    for (let cell = 0; cell < this.plan.cells; cell += 1) {
      let sum = 0;
      for (let ion = 0; ion < IONS; ion += 1) sum += this.shares[cell * IONS + ion]! / this.alphas[ion]!;
      this.sums[cell] = sum;
    }
  }

  /** meq of one ion on the beads. */
  held(ion: number): number {
    let total = 0;
    for (let i = ion; i < this.shares.length; i += IONS) total += this.shares[i]!;
    return (total * this.plan.capacity) / this.plan.cells;
  }
}
