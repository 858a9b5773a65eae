import { TOGETHER, type Id, type Standing, type Visit } from "@winter-bead/core";
import type { RigFacts } from "../rack/assess";
import type { DraftVisit } from "./draft-visit";

/** ms that the water runs before it is looked at again. */
export const LET_RUN = 60_000;

const isLook = ({ readings }: Pick<Visit, "readings">) => readings.some(({ point }) => point === "output");

/**
 * When the newest look was taken that is to be repeated: at or above a mark, borne out by none, and no more than half an
 * hour old.
 * @returns milliseconds since 1970
 */
export function lookToRepeat(
  standing: Standing | undefined,
  { rig, visits }: Pick<RigFacts, "rig" | "visits">,
  now: number,
): number | undefined {
  if (!standing?.verdict.reasons.includes("odd-reading")) return undefined;
  const last = [...visits].reverse().find((visit) => visit.rigId === rig.id && isLook(visit));
  const at = last ? Date.parse(last.at) : NaN;
  return now - at < TOGETHER ? at : undefined;
}

/** Seconds that the water is still to run, none once it may be read. @example secondsToRun(0, 20_000) // 40 */
export const secondsToRun = (lookedAt: number, now: number): number =>
  Math.max(0, Math.ceil((lookedAt + LET_RUN - now) / 1000));

/** @example clockWords(65) // "1:05" */
export const clockWords = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;

/** What a word for water that nobody measured counts, in jobs. */
export const WORDS_FOR_WATER = { none: 0, little: 0.25, job: 1 } as const;
export type WordForWater = keyof typeof WORDS_FOR_WATER;

/** The newest water of a charge that nobody typed and that a word can tell; of a meter's first total the charge tells it. */
export const askedAbout = ({
  unlogged,
}: Standing): { readonly visitId: Id; readonly since: number; readonly at: number } | undefined =>
  unlogged.filter(({ isFirstTotal }) => !isFirstTotal).at(-1);

/** Whether what is typed is a look that asks to be repeated. */
export const isOddNow = (standing: Standing | undefined, { body }: DraftVisit): boolean =>
  Boolean(body && isLook(body)) && Boolean(standing?.verdict.reasons.includes("odd-reading"));
