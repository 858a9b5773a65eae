import { describeBed, OWN_BEADS, type Bed } from "../bed/bed";
import { checkRanges, RANGES } from "../ranges";
import { describeCapacity, type Capacity, type Sides } from "../resin/capacity";
import { fail, succeed, within, type Result } from "../result";
import type { Warning } from "../water/water";
import { Exchanger, type ExchangerPlan } from "./exchanger";
import {
  ANION_SPECIES,
  anionsOf,
  CATION_SPECIES,
  cationsOf,
  completeFeed,
  NEUTRALIZED,
  SEPARATION,
  SODIUM_LEFT_BY_REGENERATION,
  SPECIES,
  strongAnionsOf,
  UNNEUTRALIZED,
  type IonFeed,
  type PartialFeed,
} from "../water/species";

/** One bed of a train: both kinds of beads, or one kind alone. */
export interface ColumnStage {
  readonly kind: "mixed" | "cation" | "anion";
  /** Of a single bed, its own side counts. */
  readonly capacity: Capacity;
  readonly bed: Bed;
}

export interface ColumnInput {
  readonly feed: PartialFeed;
  /** In the order the water meets them. */
  readonly stages: readonly ColumnStage[];
  /** Equal cells a bed is cut into (default 100). */
  readonly cells?: number;
  /** Share of the stoichiometric litres to run to (default 1.6). */
  readonly until?: number;
  /** Litres at which the lead goes out, the others move forward and fresh resin follows; mixed beds of one kind only. */
  readonly changes?: readonly number[];
  /** Resin profiles to keep on the way, evenly spaced (default 10). */
  readonly profiles?: number;
}

export const DEFAULT_CELLS = 100;
export const DEFAULT_UNTIL = 1.6;
const DEFAULT_PROFILES = 10;
/** Cells × steps × species beyond which a run is refused. */
export const LARGEST_RUN = 2e8;
const LEAST_STEPS = 400;
const MOST_MOVED_A_STEP = 0.1;
const MOST_OF_A_CELL = 0.5;

/** A bed with its figures worked out and both sides' plans. */
interface PlannedStage {
  readonly bypass: number;
  readonly cation?: ExchangerPlan;
  readonly anion?: ExchangerPlan;
}

/** A stretch of the run between two changes, in equal steps. */
interface Segment {
  readonly steps: number;
  readonly litres: number;
}

export interface ColumnPlan {
  readonly feed: IonFeed;
  readonly cells: number;
  readonly stages: readonly PlannedStage[];
  readonly segments: readonly Segment[];
  readonly profiles: number;
  /** Litres that would fill every site of the smaller side. */
  readonly stoichiometricLitres: number;
  /** Cells × steps × species. */
  readonly size: number;
  readonly warnings: readonly Warning[];
}

const alphasOf = (side: "cation" | "anion", own: number) => [
  ...(side === "cation" ? CATION_SPECIES : ANION_SPECIES).map((species) => SEPARATION[species]),
  own,
];

const FRESH = [0, 0, 0, 0, 0, 1] as const;
const FRESH_CATION_BED = [SODIUM_LEFT_BY_REGENERATION, 0, 0, 0, 0, 1 - SODIUM_LEFT_BY_REGENERATION] as const;

interface Surroundings {
  readonly feed: IonFeed;
  readonly cells: number;
  /** Kinds of the beds before this one. */
  readonly ahead: readonly ColumnStage["kind"][];
}

function planStage(stage: ColumnStage, surroundings: Surroundings): Result<PlannedStage> {
  const capacity = within("capacity", describeCapacity(stage.capacity));
  if (!capacity.ok) return capacity;
  const ownBeads = stage.kind === "mixed" ? OWN_BEADS.mixed : OWN_BEADS.single;
  const bed = within("bed", describeBed(stage.bed, ownBeads));
  if (!bed.ok) return bed;
  const { volume, bypass = 0 } = stage.bed;
  const { transferUnits } = bed.value;
  return succeed(
    exchangersOf({ kind: stage.kind, sides: capacity.value, volume, transferUnits, bypass }, surroundings),
  );
}

interface DescribedBed {
  readonly kind: ColumnStage["kind"];
  readonly sides: Sides;
  /** L. */
  readonly volume: number;
  readonly transferUnits: number;
  readonly bypass: number;
}

/** Both kinds of beads of a bed, as the column's steps need them. */
function exchangersOf(bed: DescribedBed, { feed, cells, ahead }: Surroundings): PlannedStage {
  const { kind, sides, volume, transferUnits, bypass } = bed;
  const mixed = kind === "mixed";
  const shared = { cells, transferUnits };
  const millequivalents = 1000 * volume;
  const acidMeetsBase = mixed || ahead.includes("mixed");
  const neutralizedAcid = acidMeetsBase || ahead.includes("anion");
  const neutralizedBase = acidMeetsBase || ahead.includes("cation");
  return {
    bypass,
    ...(kind === "anion"
      ? {}
      : {
          cation: {
            ...shared,
            alphas: alphasOf("cation", neutralizedAcid ? NEUTRALIZED : UNNEUTRALIZED.cation),
            start: mixed ? FRESH : FRESH_CATION_BED,
            capacity: millequivalents * sides.cation,
            leastStrength: neutralizedAcid ? 0 : strongAnionsOf(feed),
            feedStrength: cationsOf(feed),
          },
        }),
    ...(kind === "cation"
      ? {}
      : {
          anion: {
            ...shared,
            alphas: alphasOf("anion", neutralizedBase ? NEUTRALIZED : UNNEUTRALIZED.anion),
            start: FRESH,
            capacity: millequivalents * sides.anion,
            leastStrength: neutralizedBase ? 0 : cationsOf(feed),
            feedStrength: anionsOf(feed),
          },
        }),
  };
}

/** A litre of beads as a product curve asks of it. */
export interface OneLitre {
  readonly kind: ColumnStage["kind"];
  /** Kinds of the beds before it. */
  readonly ahead: readonly ColumnStage["kind"][];
  readonly transferUnits: number;
  readonly litres: number;
  readonly cells: number;
}

/** A run of one litre of resin whose transfer units are known, through so many litres: what a product curve is made of. */
export function planOneLitre(feed: IonFeed, sides: Sides, { litres, ...litre }: OneLitre): ColumnPlan {
  const { kind, ahead, transferUnits, cells } = litre;
  const described: DescribedBed = { kind, sides, volume: 1, transferUnits, bypass: 0 };
  const stages = [exchangersOf(described, { feed, cells, ahead })];
  const mostInAStep = Math.min(litres / LEAST_STEPS, largestStep(stages, cells));
  const segments = segmentsOf(litres, [], mostInAStep);
  return {
    feed,
    cells,
    stages,
    segments,
    profiles: 1,
    stoichiometricLitres: stoichiometric(stages, feed),
    size: segments[0]!.steps * cells * SPECIES.length,
    warnings: [],
  };
}

function warningsOf(stages: readonly ColumnStage[]): Warning[] {
  const warnings: Warning[] = [];
  if (stages[0]?.kind === "anion") {
    warnings.push({
      code: "anion-first",
      message: "An anion bed first meets hard water: lime scales it. Put a cation bed before it.",
    });
  }
  if (stages.some((stage) => stage.kind !== "mixed" && "grade" in stage.capacity)) {
    warnings.push({
      code: "single-bed-grade",
      message: "A grade says what mixed resin holds: a separate bed's own capacity is larger. Enter it in eq/L.",
    });
  }
  return warnings;
}

const SIDES = ["cation", "anion"] as const;

/** Litres at which the smaller side of all beds together would be full; Infinity when nothing in the feed loads it. */
function stoichiometric(stages: readonly PlannedStage[], feed: IonFeed): number {
  const litres = SIDES.map((side) => {
    const capacity = stages.reduce((sum, stage) => sum + (stage[side]?.capacity ?? 0), 0);
    const load = side === "cation" ? cationsOf(feed) : anionsOf(feed);
    return capacity > 0 && load > 0 ? capacity / load : Infinity;
  });
  return Math.min(...litres);
}

/** Litres that no cell may exceed in one step. */
function largestStep(stages: readonly PlannedStage[], cells: number): number {
  let litres = Infinity;
  for (const stage of stages) {
    for (const side of SIDES) {
      const plan = stage[side];
      const strength = plan ? Math.max(plan.feedStrength, plan.leastStrength) : 0;
      if (!plan || strength === 0) continue;
      const taken = 1 - Math.exp(-plan.transferUnits / cells);
      const share = Math.min(MOST_MOVED_A_STEP / taken, MOST_OF_A_CELL);
      litres = Math.min(litres, (share * plan.capacity) / cells / strength / (1 - stage.bypass));
    }
  }
  return litres;
}

function segmentsOf(litres: number, changes: readonly number[], mostInAStep: number): Segment[] {
  const bounds = [0, ...changes.filter((at) => at < litres), litres];
  return bounds.slice(1).map((end, i) => {
    const length = end - bounds[i]!;
    return { litres: length, steps: Math.max(1, Math.ceil(length / mostInAStep)) };
  });
}

function checkChanges(changes: readonly number[], stages: readonly ColumnStage[]): Result<true> {
  if (changes.length === 0) return succeed(true);
  if (stages.length < 2 || stages.some((stage) => stage.kind !== "mixed"))
    return fail("no-lag", "Only a train of two or more mixed beds can have its lead changed.", "changes");
  const rising = changes.every((at, i) => Number.isFinite(at) && at > (changes[i - 1] ?? 0));
  return rising ? succeed(true) : fail("changes-order", "The changes must lie at rising litres above 0.", "changes");
}

const feedRanges = Object.fromEntries(SPECIES.map((species) => [species, RANGES.feedIon])) as {
  readonly [species in keyof IonFeed]: typeof RANGES.feedIon;
};

function checkInput(input: ColumnInput): Result<true> {
  const { stages, cells, until, changes = [] } = input;
  const ranges = checkRanges({ cells, until }, { cells: RANGES.cells, until: RANGES.until });
  if (!ranges.ok) return ranges;
  if (cells !== undefined && !Number.isInteger(cells))
    return fail("cells", "The cells must be a whole number.", "cells");
  const ions = within("feed", checkRanges(input.feed, feedRanges));
  if (!ions.ok) return ions;
  const feed = completeFeed(input.feed);
  if (cationsOf(feed) + anionsOf(feed) === 0)
    return fail("empty-feed", "Every ion of the feed is 0; there is nothing to take out.", "feed");
  if (stages.length < 1 || stages.length > 6) return fail("stages", "A train has one to six beds.", "stages");
  return checkChanges(changes, stages);
}

/**
 * What a run will do: beds, litres, steps. A step moves no cell by more than a tenth of its sites, is at most 1/400 of the
 * run and at most half a cell's capacity.
 *
 * @returns a fault for a figure outside its range, a feed without ions, or a run above 2e8 cells × steps × species
 */
export function planColumn(input: ColumnInput): Result<ColumnPlan> {
  const checked = checkInput(input);
  if (!checked.ok) return checked;
  const { cells = DEFAULT_CELLS, until = DEFAULT_UNTIL, changes = [], profiles = DEFAULT_PROFILES } = input;
  const feed = completeFeed(input.feed);
  const stages: PlannedStage[] = [];
  for (const [i, stage] of input.stages.entries()) {
    const ahead = input.stages.slice(0, i).map((each) => each.kind);
    const planned = within(`stages.${i}`, planStage(stage, { feed, cells, ahead }));
    if (!planned.ok) return planned;
    stages.push(planned.value);
  }
  const stoichiometricLitres = stoichiometric(stages, feed);
  if (!Number.isFinite(stoichiometricLitres))
    return fail("nothing-to-take", "None of these beds takes anything that is in this feed.", "stages");
  const litres = until * stoichiometricLitres * (1 + changes.length / stages.length);
  const mostInAStep = Math.min(litres / LEAST_STEPS, largestStep(stages, cells));
  const segments = segmentsOf(litres, changes, mostInAStep);
  const steps = segments.reduce((sum, segment) => sum + segment.steps, 0);
  const size = steps * cells * stages.length * SPECIES.length;
  if (!(size <= LARGEST_RUN)) {
    return fail(
      "too-large",
      "This run is too large: over 200 million cell steps. Take fewer cells or beds, or run it less far.",
      "cells",
    );
  }
  const warnings = warningsOf(input.stages);
  return succeed({ feed, cells, stages, segments, profiles, stoichiometricLitres, size, warnings });
}

/** Both kinds of beads of one bed at work. */
export interface WorkingStage {
  readonly bypass: number;
  readonly cation?: Exchanger;
  readonly anion?: Exchanger;
}

export const freshStage = ({ bypass, cation, anion }: PlannedStage): WorkingStage => ({
  bypass,
  ...(cation ? { cation: new Exchanger(cation) } : {}),
  ...(anion ? { anion: new Exchanger(anion) } : {}),
});
