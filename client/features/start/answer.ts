import {
  learn,
  shownLitres,
  type DatedLesson,
  type DepletionAnswer,
  type Fault,
  type Id,
  type Meter,
  type Result,
  type Scale,
  type Standing,
  type ThreeOf,
} from "@winter-bead/core";
import {
  ageing,
  startingRecords,
  type Ageing,
  type StartAnswers,
  type StartingRecords,
} from "@winter-bead/core/src/start";
import { assess, assessQuickly, type Assessment, type RigFacts } from "../rack/assess";

/** What a first day is asked with; without a scale the answer spans those that ppm meters have. */
export interface StartQuestion extends Omit<StartAnswers, "meter"> {
  readonly meter: Meter | { readonly scale: Scale | "unknown" };
  /** ms since 1970. */
  readonly now: number;
}

export interface StartAnswer {
  readonly facts: Pick<RigFacts, "rig" | "vessel">;
  readonly standing: Standing;
  /** Litres to the limit, of an aquarium and where the feed meets the limit to the first leak; where the scale is not known from the least to the most of them. */
  readonly left: ThreeOf<number> | undefined;
  readonly dates: DepletionAnswer | undefined;
  /** Litres that the same number means on each scale. */
  readonly byScale: readonly { readonly scale: Scale; readonly litres: number }[];
  /** The range once a first charge has run to its limit. */
  readonly narrowed: ThreeOf<number> | undefined;
  /** What standing takes of a charge that lasts for years. */
  readonly ageing: Ageing | undefined;
  /** By conductivity alone, until what its water is made of is worked out. */
  readonly isFirst?: boolean;
}

const SCALES: readonly Scale[] = ["nacl", "442", "kcl", "ec"];
const OF_PPM_METERS: readonly Scale[] = ["nacl", "442", "kcl"];
/** Where nobody knows the scale, the one on which a number means the most ions is kept: the litres are the fewest. */
export const UNKNOWN_AS: Scale = "nacl";

const factsOf = (
  { tap, meter, vessel, rig, arrangement, charge, feedTest }: StartingRecords,
  now: number,
): RigFacts => ({
  ...{ rig, vessel, now },
  train: { rigs: [rig], vessels: [vessel], arrangements: [arrangement] },
  elsewhere: { visits: [], charges: [] },
  ...{ taps: [tap], meters: [meter], visits: [], charges: [charge], reports: [] },
  feedTests: feedTest ? [feedTest] : [],
});

/** What one charge teaches that held exactly what its grade promised. */
const lessonAsPromised = (vesselId: Id): DatedLesson => ({
  ...{ chargeId: "as-promised", vesselId, sd: 0.03, reached: 0, word: "limit", endedAt: 0 },
});

function recordsOn(question: StartQuestion, scale: Scale | undefined): Result<StartingRecords> {
  const { now, meter, ...answers } = question;
  let made = 0;
  const read = scale === undefined ? (meter as Meter) : { scale };
  return startingRecords({ ...answers, meter: read }, () => `start-${(made += 1)}`, now);
}

/** On the scale that the meter has, or that is taken for it. */
const recordsKnown = (question: StartQuestion) => {
  const { meter } = question;
  return recordsOn(question, "id" in meter ? undefined : meter.scale === "unknown" ? UNKNOWN_AS : meter.scale);
};

/**
 * What stands first, where the curves of a water whose carbon dioxide nobody measured take long: litres by its conductivity
 * alone, in closed form. For a worker that is not at work on the whole answer.
 */
export function answerStartFirst(question: StartQuestion): StartAnswer | undefined {
  const records = recordsKnown(question);
  if (!records.ok) return undefined;
  const facts = { ...factsOf(records.value, question.now), isPlain: true };
  const { standing } = assessQuickly(facts);
  const left = standing && shownLitres(standing, facts.rig);
  // A water that meets the limit by its conductivity may leak before: nothing is said of it first.
  if (!left) return undefined;
  return {
    facts: { rig: facts.rig, vessel: facts.vessel },
    ...{ standing, left, dates: undefined, byScale: [], narrowed: undefined, ageing: undefined, isFirst: true },
  };
}

/** Litres, date, and what would narrow them, from the same books as the rack's: for a worker. */
export function answerStart(question: StartQuestion): StartAnswer | { readonly fault: Fault } {
  const { meter, now, jobsPerWeek, litresPerJob } = question;
  const records = recordsKnown(question);
  if (!records.ok) return { fault: records.fault };
  const facts = factsOf(records.value, now);
  const { standing, dates, because } = assess(facts, []);
  if (!standing) return { fault: { code: "no-answer", message: because ?? "" } };
  const shownOf = (of: Assessment) => of.standing && shownLitres(of.standing, facts.rig);
  const own = shownLitres(standing, facts.rig);
  const onScale = (scale: Scale) => {
    const other = recordsOn(question, scale);
    return other.ok ? shownOf(assessQuickly(factsOf(other.value, now))) : undefined;
  };
  const all = question.tap ? [] : SCALES.map((scale) => ({ scale, left: onScale(scale) }));
  const spans = all.flatMap(({ scale, left }) => (left && OF_PPM_METERS.includes(scale) ? [left] : []));
  const isUnknown = !("id" in meter) && meter.scale === "unknown" && spans.length > 0;
  const left =
    isUnknown && own
      ? {
          low: Math.min(...spans.map(({ low }) => low)),
          typical: own.typical,
          high: Math.max(...spans.map(({ high }) => high)),
        }
      : own;
  const taught = learn([lessonAsPromised(facts.vessel.id)], facts.vessel.id);
  return {
    facts: { rig: facts.rig, vessel: facts.vessel },
    standing,
    left,
    dates,
    byScale: all.flatMap((each) => (each.left ? [{ scale: each.scale, litres: each.left.typical }] : [])),
    narrowed: shownOf(assessQuickly(facts, new Map([[facts.vessel.id, taught]]))),
    ageing: own && ageing(own.typical, jobsPerWeek, litresPerJob),
  };
}
