import { shareAt, type FrontTable } from "./front-table";
import { PassedOn } from "./passed-on";
import type { Load } from "./product-curve";

/** What is followed from bed to bed: each load of a water whose composition is known, else what a meter sees of it. */
export type Carried = Load | "seen";

/**
 * One bed of a train as one future has it. Loads are in meq of the tap's meter-visible load: of a bed behind others as much of
 * it as would bring what came through.
 */
export interface BedInTurn {
  /** Load at T = 1. */
  readonly meq: number;
  /** Share of each load that it lets through over ln T; nothing where it has no beads for it: all passes. */
  readonly front: (of: Carried) => FrontTable | undefined;
  /** Share of the water that goes round the beads. */
  readonly bypass: number;
  readonly used: (of: Carried) => number;
}

/** Beds in the order the water meets them; a cation and an anion bed that follow each other do the work of one. */
export type InTurn = readonly (readonly BedInTurn[])[];

/** Of what a bed holds: a step of the run, across the front of a bed ahead. */
const STEP = 0.02;
/** From here on beds ahead let all through. */
const SPENT = 0.995;
/** So many times what a bed holds, then it is called endless. */
const ENDLESS = 20;
/** Least load at which a curve is read. */
const LEAST = 1e-9;

/** A bed as one load fills it. */
interface Filled {
  readonly meq: number;
  readonly front: FrontTable;
  readonly bypass: number;
  used: number;
}

/** Beds as one load fills them, litre by litre. */
export class Filling {
  private readonly units: readonly (readonly Filled[])[];

  constructor(
    beds: InTurn,
    of: Carried,
    private readonly feed: number,
  ) {
    this.units = beds
      .map((unit) =>
        unit.flatMap((bed): Filled[] => {
          const front = bed.front(of);
          return front ? [{ meq: bed.meq, front, bypass: bed.bypass, used: bed.used(of) }] : [];
        }),
      )
      .filter((unit) => unit.length > 0);
  }

  /** The one bed that this load fills, where there is one. */
  get only(): Filled | undefined {
    return this.units.length === 1 && this.units[0]!.length === 1 ? this.units[0]![0] : undefined;
  }

  get isNone(): boolean {
    return this.units.length === 0;
  }

  /** A step's litres that follow the fronts of all beds. */
  get step(): number {
    let least = Infinity;
    for (const unit of this.units) for (const { meq } of unit) least = Math.min(least, meq);
    return (100 * STEP * least) / this.feed;
  }

  /** Takes so many litres through. @returns what leaves the last of them in their middle, as µS/cm of the tap's */
  take(litres: number): number {
    let reaching = this.feed;
    for (const unit of this.units) {
      const gain = (litres * reaching) / 100;
      // Of cation and anion beds that do the work of one, the one that lets more through tells what a meter sees.
      let through = 0;
      for (const bed of unit) {
        const { meq, front, bypass } = bed;
        const share = shareAt(front, Math.log(Math.max(LEAST, bed.used + gain / 2) / meq));
        through = Math.max(through, bypass + (1 - bypass) * share);
        bed.used += gain;
      }
      reaching *= Math.min(1, through);
    }
    return reaching;
  }
}

/**
 * Litres at the tap until so much of a load has come through beds.
 *
 * @param load meq more than now
 * @param feed µS/cm of the tap's, at the first bed
 */
export function litresUntilPassed(load: number, beds: InTurn, of: Carried, feed: number): number {
  if (load <= 0) return 0;
  if (load === Infinity) return Infinity;
  const filling = new Filling(beds, of, feed);
  if (filling.isNone) return (100 * load) / feed;
  const { only } = filling;
  if (only) {
    const { meq, used } = only;
    const on = new PassedOn(only.front, only.bypass);
    return (100 * (meq * on.until(on.by(used / meq) + load / meq) - used)) / feed;
  }
  const { step } = filling;
  const most = (ENDLESS * step) / STEP;
  let [litres, passed] = [0, 0];
  while (litres < most) {
    const leaving = filling.take(step);
    const gain = (leaving * step) / 100;
    if (passed + gain >= load) return litres + (step * (load - passed)) / gain;
    litres += step;
    passed += gain;
    if (leaving >= SPENT * feed) return litres + (100 * (load - passed)) / leaving;
  }
  return litres;
}

/** So finely beds are filled to tell what came through them. */
const STEPS = 400;

/** meq of a load that beds have let through once the first was given so much of it. @param load meq */
export function passedBy(load: number, beds: InTurn, of: Carried): number {
  if (load === Infinity) return Infinity;
  const filling = new Filling(beds, of, 100);
  if (filling.isNone) return load;
  const { only } = filling;
  if (only) return only.meq * new PassedOn(only.front, only.bypass).by((only.used + load) / only.meq);
  let passed = 0;
  for (let i = 0; i < STEPS; i += 1) passed += (filling.take(load / STEPS) * load) / STEPS / 100;
  return passed;
}
