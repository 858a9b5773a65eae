import {
  CHEMISTRY_CEILING,
  convertExplanation,
  describeBed,
  describeCapacity,
  explainBed,
  explainConstantLife,
  explainLife,
  explainRatedLife,
  explainWeight,
  flowVerdict,
  frontDepth,
  GRADE_CAPACITIES,
  GRADE_HEALTH,
  livesBySchool,
  spreadOfSchools,
  wetWeight,
  workOutLife,
  lifeFigures,
  describeWater,
  type BedAnswer,
  type Capacity,
  type CapacityRange,
  type Explanation,
  type Fault,
  type FlowVerdict,
  type Grade,
  type LifeFigures,
  type LifeInput,
  type Result,
  type Scale,
  type School,
  type SchoolLife,
  type ThreeOf,
  type Water,
  type Batch,
} from "@winter-bead/core";
import { perGallon, type Units } from "../../ui/format";

/** What the screen knows of feed, resin, vessel and work, in internal units. */
export interface LitresQuestion {
  readonly feed: ThreeOf<number>;
  readonly scale: Scale;
  readonly temperature: number;
  readonly ph?: number | undefined;
  readonly alkalinity?: number | undefined;
  readonly silica?: number | undefined;
  readonly grade: Grade;
  readonly resin: number;
  readonly diameter: number;
  readonly grossVolume: number;
  readonly emptyWeight: number;
  readonly flow: number;
  readonly limit: number;
  /** ppm NaCl. */
  readonly packing: number;
  readonly storage: number;
  readonly spread: number;
  readonly bypass: number;
  readonly constant: number;
  readonly rating?: Extract<Capacity, { ratedLitres: number }> | undefined;
  readonly history?: CapacityRange | undefined;
}

export interface LitresAnswer {
  readonly schools: readonly SchoolLife[];
  readonly spread: { readonly least: number; readonly most: number; readonly ratio: number };
  readonly life: LifeFigures;
  readonly bed: BedAnswer;
  readonly weight: { readonly kilograms: number; readonly twoPeople: boolean } | undefined;
  readonly weightExplanation: Explanation | undefined;
  /** What a quarter less flow would bring; absent when the limit is out of reach. */
  readonly flow: FlowVerdict | undefined;
  /** Capacity that the maker's rating claims, eq/L, when it is more than resin holds. */
  readonly claimTooHigh: number | undefined;
  /** Carbon dioxide or silica count in the load, so this life ends before a meter shows it. */
  readonly hiddenLoad: boolean;
  readonly explanations: Partial<Record<School, Explanation>>;
  readonly bedExplanations: {
    readonly contact: Explanation;
    readonly bedVolumes: Explanation;
    readonly pressure: Explanation;
  };
  /** The bed once half the typical life has gone through. */
  readonly column: { readonly litres: number; readonly throughput: number; readonly front: ThreeOf<number> };
}

/** Share of the typical life after which the bead column is drawn. */
export const DRAWN_AFTER = 0.5;

/** The lower flow compared: three quarters. */
const LOWER_FLOW = 0.75;
/** The comparison is in shares, so any one length of job serves. */
const MINUTES_PER_JOB = 10;

function claimTooHigh(rating: LitresQuestion["rating"]): number | undefined {
  const claim = rating && describeCapacity(rating);
  return claim?.ok && claim.value.cation > CHEMISTRY_CEILING ? claim.value.cation : undefined;
}

function waterOf(question: LitresQuestion, value: number): Water {
  const { scale, temperature, ph, alkalinity, silica } = question;
  return {
    reading: { value, scale },
    temperature,
    ...(ph === undefined ? {} : { ph }),
    ...(alkalinity === undefined ? {} : { alkalinity }),
    ...(silica === undefined ? {} : { silica }),
  };
}

/** The chemistry school's question for one feed value. */
export function lifeInput(question: LitresQuestion, feed: number, batch: Batch = "usual"): LifeInput {
  const { grade, resin, diameter, flow, temperature, spread, bypass, limit, storage, packing } = question;
  return {
    water: waterOf(question, feed),
    capacity: { grade, batch },
    limit: { value: limit, scale: "nacl" },
    storage,
    packing,
    bed: { volume: resin, diameter, flow, temperature, health: GRADE_HEALTH[grade], spread, bypass },
  };
}

/** Depths of the front after some litres, for the lowest, the typical and the highest feed. */
export function frontAfter(
  question: LitresQuestion,
  litres: number,
): Result<{ readonly throughput: number; readonly front: ThreeOf<number> }> {
  const throughputs: Partial<Record<keyof ThreeOf<number>, number>> = {};
  let transferUnits = 1;
  for (const key of ["low", "typical", "high"] as const) {
    const working = workOutLife(lifeInput(question, question.feed[key]));
    if (!working.ok) return working;
    throughputs[key] = litres / working.value.litresPerThroughput;
    transferUnits = working.value.bed.transferUnits;
  }
  const { low, typical, high } = throughputs as ThreeOf<number>;
  return {
    ok: true,
    value: {
      throughput: typical,
      front: {
        low: frontDepth(low, transferUnits),
        typical: frontDepth(typical, transferUnits),
        high: frontDepth(high, transferUnits),
      },
    },
  };
}

function explanationsOf(question: LitresQuestion, units: Units): Partial<Record<School, Explanation>> {
  const typical = lifeInput(question, question.feed.typical);
  const water = describeWater(typical.water);
  const inUnits = (explanation: Explanation) =>
    units === "us" ? convertExplanation(explanation, "US gal", perGallon) : explanation;
  const chemistry = explainLife(typical);
  const rated =
    question.rating && water.ok ? explainRatedLife(question.rating, water.value.ec25, question.resin) : undefined;
  const { history } = question;
  const own =
    history && water.ok
      ? explainLife({
          ...typical,
          water: { reading: { value: water.value.ec25, scale: "ec" } },
          capacity: { cation: history.median, anion: history.median },
        })
      : undefined;
  return {
    ...(water.ok
      ? { constant: inUnits(explainConstantLife(question.constant, water.value.ppm.nacl, question.resin)) }
      : {}),
    ...(rated?.ok ? { rating: inUnits(rated.value) } : {}),
    ...(chemistry.ok ? { chemistry: inUnits(chemistry.value) } : {}),
    ...(own?.ok
      ? {
          history: inUnits({
            ...own.value,
            name: "Life by your own history",
            school: "your own past charges, on the load a meter sees",
          }),
        }
      : {}),
  };
}

/** Life by each school with its spread, what ends it, the bed's figures and the working of every number. */
export function answerLitres(
  question: LitresQuestion,
  units: Units,
): { readonly answer: LitresAnswer } | { readonly fault: Fault } {
  const typical = lifeInput(question, question.feed.typical);
  const waters = {
    low: waterOf(question, question.feed.low),
    typical: typical.water,
    high: waterOf(question, question.feed.high),
  };
  const schools = livesBySchool({
    ...typical,
    waters,
    constant: question.constant,
    ...(question.rating ? { rating: question.rating } : {}),
    ...(question.history ? { history: question.history } : {}),
  });
  if (!schools.ok) return { fault: schools.fault };
  const spread = spreadOfSchools(schools.value);
  if (!spread.ok) return { fault: spread.fault };
  const working = workOutLife(typical);
  if (!working.ok) return { fault: working.fault };
  const life = lifeFigures(working.value);
  if (!life.ok) return { fault: life.fault };
  const bed = describeBed(typical.bed);
  if (!bed.ok) return { fault: bed.fault };
  const bedExplanations = explainBed(typical.bed);
  if (!bedExplanations.ok) return { fault: bedExplanations.fault };
  const litres = DRAWN_AFTER * life.value.litres;
  const front = frontAfter(question, litres);
  if (!front.ok) return { fault: front.fault };
  const weighed = {
    empty: question.emptyWeight,
    resin: question.resin,
    grossVolume: Math.max(question.grossVolume, question.resin),
  };
  const weight = wetWeight(weighed);
  const weightExplanation = explainWeight(weighed);
  const flow = flowVerdict(typical, LOWER_FLOW * question.flow, MINUTES_PER_JOB);
  return {
    answer: {
      schools: schools.value,
      spread: spread.value,
      life: life.value,
      bed: bed.value,
      weight: weight.ok ? weight.value : undefined,
      weightExplanation: weightExplanation.ok ? weightExplanation.value : undefined,
      flow: flow.ok ? flow.value : undefined,
      claimTooHigh: claimTooHigh(question.rating),
      hiddenLoad: working.value.water.anionLoad > working.value.water.cationLoad,
      explanations: explanationsOf(question, units),
      bedExplanations: bedExplanations.value,
      column: { litres, ...front.value },
    },
  };
}

export const gradeSides = (grade: Grade) => GRADE_CAPACITIES[grade];
