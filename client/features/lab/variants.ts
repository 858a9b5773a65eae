import {
  aerate,
  behindMembrane,
  CO2_MG_PER_MMOL,
  describeCapacity,
  GRADE_CAPACITIES,
  GRADE_HEALTH,
  withCarbonDioxide,
  type Bed,
  type ColumnMarks,
  type ColumnQuestion,
  type ColumnStage,
  type FeedIons,
  type Grade,
  type LifeInput,
  type Reading,
} from "@winter-bead/core";

/** One bed and its work, from which every variant is made. */
export interface LabBed {
  readonly grade: Grade;
  /** L of resin. */
  readonly resin: number;
  /** mm. */
  readonly diameter: number;
  /** L/min. */
  readonly flow: number;
  /** °C. */
  readonly temperature: number;
}

export interface LabSetup {
  readonly water: FeedIons;
  readonly bed: LabBed;
  readonly limit: Reading;
  readonly marks: ColumnMarks;
  readonly litresPerDay: number;
  /** Equal cells that a bed is cut into. */
  readonly cells: number;
}

export const VARIANTS = [
  "as-it-is",
  "half-flow",
  "two-in-series",
  "lead-lag",
  "separate",
  "regenerated",
  "on-its-side",
  "aerated",
  "after-ro",
] as const;
export type Variant = (typeof VARIANTS)[number];
/** A refill done rightly, and the same with its mistakes: what the practice shows beside each other. */
export type Practised = "done-right" | "as-you-did";
export const MOST_VARIANTS = 4;

/** What a variant takes for granted; planning assumptions. */
export const LAB_ASSUMPTIONS = {
  /** Share of the water that runs through the gap above the beads. */
  bypass: 0.03,
  aerationHours: 8,
  /** Of the membrane. */
  rejection: 0.96,
  /** eq/L of separate beds: strong-acid cation resin, strong-base anion resin. */
  cationBed: 1.8,
  anionBed: 1.05,
} as const;

export const VARIANT_WORDS: Readonly<Record<Variant | Practised, { readonly name: string; readonly what: string }>> = {
  "done-right": { name: "Done right", what: "filled to the mark, settled, sealed, upright, rinsed" },
  "as-you-did": { name: "As you did it", what: "what goes round the beads, what is lost and what lies loose" },
  "as-it-is": { name: "As it is", what: "one mixed bed" },
  "half-flow": { name: "Half the flow", what: "the same bed at half the flow" },
  "two-in-series": { name: "Two in series", what: "two of these beds, one behind the other" },
  "lead-lag": {
    name: "Lead and lag",
    what: "two in series; when the lead alone reaches the limit it goes out, the lag moves up, fresh resin follows",
  },
  separate: { name: "Separate beds", what: "the same resin volume as cation bed, anion bed and mixed bed" },
  regenerated: { name: "Regenerated resin", what: "less capacity and slower beads" },
  "on-its-side": {
    name: "On its side",
    what: `${100 * LAB_ASSUMPTIONS.bypass} % of the water runs through a gap above the beads`,
  },
  aerated: { name: "Aerated", what: `the feed stood ${LAB_ASSUMPTIONS.aerationHours} hours in an aerated barrel` },
  "after-ro": {
    name: "After RO",
    what: `behind a membrane that holds back ${100 * LAB_ASSUMPTIONS.rejection} %; carbon dioxide passes`,
  },
};

/** A variant made ready for the column. */
export interface LabQuestion {
  readonly variant: Variant | Practised;
  readonly question: ColumnQuestion;
  /** The lead is changed once it reaches the limit by itself. */
  readonly changesLead: boolean;
  /** L of all beds, a change's fresh one too, for litres per litre of resin. */
  readonly resin: number;
}

const bedOf = ({ resin, diameter, flow, temperature, grade }: LabBed, part: Partial<Bed> = {}): Bed => ({
  volume: resin,
  diameter,
  flow,
  temperature,
  health: GRADE_HEALTH[grade],
  ...part,
});

const mixed = (bed: LabBed, part: Partial<Bed> = {}): ColumnStage => ({
  kind: "mixed",
  capacity: { grade: bed.grade },
  bed: bedOf(bed, part),
});

const THIRD = 1 / 3;

function stagesOf(variant: Variant, bed: LabBed): ColumnStage[] {
  const { bypass, cationBed, anionBed } = LAB_ASSUMPTIONS;
  if (variant === "half-flow") return [mixed(bed, { flow: bed.flow / 2 })];
  if (variant === "two-in-series" || variant === "lead-lag") return [mixed(bed), mixed(bed)];
  if (variant === "regenerated") return [mixed({ ...bed, grade: "regenerated" })];
  if (variant === "on-its-side") return [mixed(bed, { bypass })];
  if (variant === "separate") {
    const third = { volume: bed.resin * THIRD, diameter: bed.diameter * Math.sqrt(THIRD) };
    return [
      { kind: "cation", capacity: { cation: cationBed, anion: 1 }, bed: bedOf(bed, { ...third, health: 1 }) },
      { kind: "anion", capacity: { cation: 1, anion: anionBed }, bed: bedOf(bed, { ...third, health: 1 }) },
      mixed(bed, third),
    ];
  }
  return [mixed(bed)];
}

function feedOf(variant: Variant, water: FeedIons): FeedIons {
  if (variant === "after-ro") return behindMembrane(water, 1 - LAB_ASSUMPTIONS.rejection);
  if (variant !== "aerated") return water;
  const stood = aerate({ co2: Math.min(5000, water.co2 * CO2_MG_PER_MMOL), hours: LAB_ASSUMPTIONS.aerationHours });
  return withCarbonDioxide(water, stood.ok ? Math.min(water.co2, stood.value.co2 / CO2_MG_PER_MMOL) : water.co2);
}

/** Frames kept of the bed, so that the picture moves smoothly. */
const FRAMES = 180;

/** A bed as a life has it, for the column. */
function stageOf({ capacity, bed, packing = 1 }: LifeInput): ColumnStage {
  const sides = describeCapacity(capacity);
  const { cation, anion } = sides.ok ? sides.value : GRADE_CAPACITIES.virgin;
  return { kind: "mixed", capacity: { cation: packing * cation, anion: packing * anion }, bed };
}

/** A refill done rightly and the same as it was done, on the same water. */
export const practisedQuestions = (
  { water, limit, marks, cells }: LabSetup,
  right: LifeInput,
  done: LifeInput,
): readonly LabQuestion[] =>
  (
    [
      ["done-right", right],
      ["as-you-did", done],
    ] as const
  ).map(([variant, life]) => ({
    variant,
    question: { feed: water.feed, stages: [stageOf(life)], limit, marks, cells, profiles: FRAMES },
    changesLead: false,
    resin: life.bed.volume,
  }));

/** The column's question for each chosen variant of one bed. */
export function labQuestions({ water, bed, limit, marks, cells }: LabSetup, chosen: readonly Variant[]): LabQuestion[] {
  return chosen.map((variant) => {
    const stages = stagesOf(variant, bed);
    const changesLead = variant === "lead-lag";
    const volumes = stages.reduce((sum, stage) => sum + stage.bed.volume, 0);
    return {
      variant,
      question: { feed: feedOf(variant, water).feed, stages, limit, marks, cells, profiles: FRAMES },
      changesLead,
      resin: volumes + (changesLead ? bed.resin : 0),
    };
  });
}
