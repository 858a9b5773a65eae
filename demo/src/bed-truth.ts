import {
  besideBed,
  conductivityOfRow,
  freshStage,
  GRADE_CAPACITIES,
  passBed,
  planColumn,
  prepareBed,
  SPECIES,
  unwrap,
  type CurveWater,
  type WorkingStage,
} from "@winter-bead/core";
import type { Chance } from "./chance";
import type { TrueCharge } from "./resin-truth";

/** Few: a front of the story is as blunt as flow paths make it. */
const CELLS = 15;

/** Water on its way through a train: each ion in meq/L, in the order of `SPECIES`. */
export type Stream = Float64Array;

/** A tap's water that a meter reads as so much, its carbon dioxide unchanged by that. */
export function streamOf({ ions, ec25, co2 }: CurveWater & { readonly co2: number }, read: number): Stream {
  const scale = read / ec25;
  return Float64Array.from(SPECIES, (each) =>
    each === "hco3" ? co2 + (ions.hco3 - co2) * scale : each === "sio2" ? ions.sio2 : ions[each] * scale,
  );
}

/** µS/cm of a stream. */
export const readingOf = (stream: Stream): number => conductivityOfRow(stream, 0);

/**
 * A bed of a train as it really behaves in the story, cell by cell: what it lets through reaches the next one ion by ion, for
 * carbonic acid and silica load a bed long before a meter shows them.
 */
export class BedTruth {
  private readonly stage: WorkingStage;
  private readonly longest: number;

  constructor(charge: TrueCharge, chance: Chance, water: CurveWater) {
    const { grade, resinLitres, diameter, flow } = charge;
    const strength = Math.exp(chance.normal(-0.05, 0.07));
    const { cation, anion } = GRADE_CAPACITIES[grade];
    const capacity = { cation: cation * strength, anion: anion * strength };
    const bed = { volume: resinLitres, diameter, flow, temperature: 12 };
    const { stages, segments } = unwrap(
      planColumn({ feed: water.ions, stages: [{ kind: "mixed", capacity, bed }], cells: CELLS, profiles: 1 }),
    );
    this.stage = freshStage(stages[0]!);
    this.longest = segments[0]!.litres / segments[0]!.steps;
  }

  /** Takes litres through. @returns what leaves, in their mean */
  treat(litres: number, reaching: Stream): Stream {
    const steps = Math.max(1, Math.ceil(litres / this.longest));
    prepareBed(this.stage, litres / steps);
    const [liquid, leaving, beside] = [reaching.slice(), new Float64Array(SPECIES.length), besideBed()];
    for (let i = 0; i < steps; i += 1) {
      liquid.set(reaching);
      passBed(this.stage, liquid, beside);
      for (const each of SPECIES.keys()) leaving[each]! += liquid[each]! / steps;
    }
    return leaving;
  }
}
