import table from "./evidence.json";

export type Cause = keyof typeof table.causes;
export type ObservationName = keyof typeof table.observations;

/** What was seen: yes, no, or left out when nobody looked. */
export type Observations = { readonly [name in ObservationName]?: boolean | undefined };

export interface EvidenceReason {
  readonly observation: ObservationName;
  readonly words: string;
  /** Log-odds added (or taken, below 0). */
  readonly weight: number;
}

export interface Suspect {
  readonly cause: Cause;
  readonly name: string;
  /** Sum of the prior and all weights. */
  readonly logOdds: number;
  /** The same as a chance, 0 to 1, taken for itself: causes can come together. */
  readonly chance: number;
  readonly reasonsFor: readonly EvidenceReason[];
  readonly reasonsAgainst: readonly EvidenceReason[];
}

interface Observation {
  readonly yes: string;
  readonly no: string;
  readonly weights: { readonly [cause in Cause]?: readonly number[] };
}

const OBSERVATIONS = table.observations as unknown as Readonly<Record<ObservationName, Observation>>;
export const CAUSES = Object.keys(table.causes) as Cause[];
export const OBSERVATION_NAMES = Object.keys(OBSERVATIONS) as ObservationName[];

/** An observation in words, for yes and for no. */
export const observationWords = (name: ObservationName): { readonly yes: string; readonly no: string } =>
  OBSERVATIONS[name];

function reasonsFor(cause: Cause, seen: Observations): EvidenceReason[] {
  return OBSERVATION_NAMES.flatMap((observation) => {
    const answer = seen[observation];
    const { yes, no, weights } = OBSERVATIONS[observation];
    const weight = answer === undefined ? 0 : (weights[cause]?.[answer ? 0 : 1] ?? 0);
    return weight === 0 ? [] : [{ observation, words: answer ? yes : no, weight }];
  });
}

const heaviestFirst = (a: EvidenceReason, b: EvidenceReason) => Math.abs(b.weight) - Math.abs(a.weight);

/**
 * What may be behind a bad reading, likeliest first, each with its reasons for and against. Evidence adds log-odds to
 * causes (Good 1950, Probability and the Weighing of Evidence); the weights stand in `evidence.json`.
 *
 * @param among the causes to weigh (default all)
 * @example diagnose({ "just-refilled": true, "falls-while-running": true })[0].cause // "rinse-up"
 */
export function diagnose(seen: Observations, among: readonly Cause[] = CAUSES): readonly Suspect[] {
  return among
    .map((cause): Suspect => {
      const reasons = reasonsFor(cause, seen);
      const { name, prior } = table.causes[cause];
      const logOdds = reasons.reduce((sum, { weight }) => sum + weight, prior);
      return {
        cause,
        name,
        logOdds,
        chance: 1 / (1 + Math.exp(-logOdds)),
        reasonsFor: reasons.filter(({ weight }) => weight > 0).sort(heaviestFirst),
        reasonsAgainst: reasons.filter(({ weight }) => weight < 0).sort(heaviestFirst),
      };
    })
    .sort((a, b) => b.logOdds - a.logOdds);
}
