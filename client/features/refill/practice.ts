import {
  CO2_MG_PER_MMOL,
  EQUIVALENT_WEIGHTS,
  SILICA_MG_PER_MMOL,
  type KnownComposition,
  ionFeed,
  MARKS,
  waterOfReport,
  type FeedIons,
  type LifeInput,
  type Use,
  type Vessel,
} from "@winter-bead/core";
import {
  effectsFor,
  EFFECT_NAMES,
  guideFor,
  HEAVY_FROM,
  MISTAKES,
  MISTAKE_NAMES,
  refillAmounts,
  together,
  usualWays,
  type Effect,
  type GuideSetting,
  type GuideStep,
  type MistakeName,
} from "@winter-bead/core/src/refill";
import type { CrewPrices } from "../size/usePrices";
import { GENERIC_SIZES } from "@winter-bead/core/src/sizing";

/** What the practice is about: a vessel and its work, of the crew's own or a usual one. */
export interface Practised {
  readonly vessel: Vessel;
  readonly use: Use;
  /** L/min. */
  readonly flow: number;
  readonly litresPerJob: number;
  readonly jobName: string;
  /** µS/cm at the resin, and whether it was read. */
  readonly feed: number;
  readonly feedIsRead: boolean;
  /** What reaches its resin ion by ion, where the tap's alkalinity is known. */
  readonly water?: KnownComposition | undefined;
  readonly behindMembrane?: boolean;
}

/** µS/cm of the sample water, where no tap was read. */
export const SAMPLE_FEED = 420;

/** A usual vessel of each kind, for who has none yet. */
export const USUAL_VESSELS: readonly Practised[] = [
  ...GENERIC_SIZES.filter(({ name }) => name === "Tank" || name === "Large bottle" || name === "Small cartridge"),
  {
    ...GENERIC_SIZES.find(({ name }) => name === "Tank")!,
    name: "Floated tank",
    kind: "floated-tank" as const,
    fillFraction: 0.75,
  },
].map(({ usualFlow, name, ...size }) => ({
  vessel: { id: name, name, ...size, marks: MARKS[size.kind === "cartridge" ? "aquarium-2" : "glass-10"] },
  use: size.kind === "cartridge" ? ("aquarium" as const) : ("glass" as const),
  flow: usualFlow,
  litresPerJob: size.kind === "cartridge" ? 40 : 60,
  jobName: size.kind === "cartridge" ? "water change" : "house",
  feed: size.kind === "cartridge" ? SAMPLE_FEED / 20 : SAMPLE_FEED,
  feedIsRead: false,
}));

/** The guide that is practised: a refill of a vessel that holds spent beads. */
export function practiceSetting({ vessel, use }: Practised): GuideSetting {
  const ways = usualWays(vessel.kind, vessel.fillFraction);
  return {
    ...{ guided: "refill", kind: vessel.kind, ways, use, isEmpty: false, behindMembrane: false },
    isHeavy: refillAmounts({ vessel, ways })["wet-weight"]!.value >= HEAVY_FROM,
  };
}

export const practiceSteps = (about: Practised): readonly GuideStep[] => guideFor(practiceSetting(about));

/** The mistake that tempts at a step; none at most. */
export const mistakeAt = (step: GuideStep): MistakeName | undefined =>
  MISTAKE_NAMES.find((name) => MISTAKES[name].step === step.id);

/** Mistakes that this vessel leaves room for, in the order of the guide. */
export const mistakesOf = (about: Practised): readonly MistakeName[] =>
  practiceSteps(about).flatMap((step) => mistakeAt(step) ?? []);

/** What no meter shows of a water: mg/L as CaCO3, of carbon dioxide and of silica. */
const unseenIn = ({ ions, co2, silica }: KnownComposition) => ({
  alkalinity: (ions.hco3 - co2) * EQUIVALENT_WEIGHTS.alkalinity,
  co2: co2 * CO2_MG_PER_MMOL,
  silica: silica * SILICA_MG_PER_MMOL,
});

/** The vessel filled rightly. */
export const rightLife = ({ vessel, flow, feed, water }: Practised): LifeInput => ({
  water: { reading: { value: feed, scale: "ec" }, ...(water ? unseenIn(water) : {}) },
  capacity: { grade: "virgin" },
  bed: { volume: vessel.grossVolume * vessel.fillFraction, diameter: vessel.diameter, flow },
  limit: { value: vessel.marks.limit, scale: vessel.marks.scale },
});

/** The ions of that water: a usual mix of what a meter shows. */
export function practiceWater({ feed }: Practised): FeedIons | undefined {
  const made = ionFeed(waterOfReport({ ec25: feed }), 0);
  return made.ok ? made.value : undefined;
}

export const practiceInput = (about: Practised, { prices, currency }: CrewPrices) => ({
  life: rightLife(about),
  until: about.use === "aquarium" ? ("leak" as const) : ("meter" as const),
  behindMembrane: about.behindMembrane === true,
  litresPerJob: about.litresPerJob,
  resinPrice: prices.resin.virgin,
  wage: prices.wage,
  spoiltJob: prices.spoiltJob ?? prices.wage,
  currency,
});

/** Figures of the table that somebody changed, by mistake and effect. */
export type OwnEffects = Readonly<Partial<Record<MistakeName, Partial<Effect>>>>;

export const effectOf = (about: Practised, name: MistakeName, own: OwnEffects): Effect => ({
  ...effectsFor(about.vessel.kind)[name],
  ...own[name],
});

export const allOf = (about: Practised, names: readonly MistakeName[], own: OwnEffects): Effect =>
  together(names.map((name) => effectOf(about, name, own)));

/** The figures of an effect that do something. */
export const told = (effect: Effect): readonly (keyof Effect)[] =>
  EFFECT_NAMES.filter((name) => (name === "packing" ? effect.packing !== 1 : effect[name] !== 0));
