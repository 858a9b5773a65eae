import { clockNow } from "../../data/clock";
import type { DepletionAnswer, Id } from "@winter-bead/core";
import { useEffect, useMemo } from "react";
import { useNewestAnswer } from "../../data/newest-answer";
import { dateInWords, localDate } from "../../ui/format";
import { assessQuickly, withTyped, type Assessment } from "../rack/assess";
import { assessTyped, datesTyped, holdForTyping, type Typed } from "../rack/assess-service";
import type { RigView } from "../rack/useRigs";
import type { DraftVisit } from "./draft-visit";
import { useRested } from "./useRested";

/** Id of the visit that is being typed. */
export const DRAFT: Id = "draft";
/** ms without a key after which the dates are simulated. */
const REST = 150;
const WORKING_IT_OUT: Assessment = { because: "Working it out…" };

/** The likely day, and the early and the late one where they are others. */
function spanInWords({ early, likely, late }: DepletionAnswer, today: string): string {
  const [from, middle, to] = [early, likely, late].map((day) => dateInWords(day, today));
  return from === to ? middle! : `${middle}, ${from} to ${to}`;
}

/** Where no worker answers, the page itself does. */
const answerTo = (asked: Typed): Promise<Assessment> =>
  assessTyped(asked).catch(() => assessQuickly(withTyped(asked.facts, asked.visit), asked.owners));

const itself = (asked: Typed) => asked;

/**
 * How the rig stands with what is typed: the rack's own answer while nothing is, then the worker's, digit by digit. Until it
 * is known what all ended charges taught, the last answer stands: half the facts would give another number.
 */
export function useLive({ facts, assessment: last, awaited }: RigView, { body, atFilling }: DraftVisit) {
  const owners = last?.owners;
  const typed = JSON.stringify([body ?? null, atFilling]);
  const asked = useMemo(
    (): Typed | undefined =>
      body && !awaited
        ? {
            facts,
            owners,
            visit: { ...body, atFilling, id: DRAFT, at: new Date(Math.max(facts.now, clockNow())).toISOString() },
          }
        : undefined,
    // The text stands for the visit: a new object with the same content changes nothing.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [facts, owners, awaited, typed],
  );
  useEffect(() => {
    if (!awaited) void holdForTyping(facts, owners);
  }, [facts, owners, awaited]);
  const live = useNewestAnswer(asked, answerTo, itself);
  const rested = useRested(asked, REST);
  const dated = useNewestAnswer(asked && rested, datesTyped, itself);
  const assessment = live.answer ?? last ?? WORKING_IT_OUT;
  const dates = dated.answered ? dated.answer : last?.dates;
  return { assessment, dateWords: dates ? spanInWords(dates, localDate(facts.now)) : "" };
}
