import { useEffect, useMemo, useRef, useState } from "react";
import { knownWork, type Id, type Vessel, type WorkBook } from "@winter-bead/core";
import { useRecords } from "../../data/store";
import { localDate } from "../../ui/format";
import { inBooks, type Assessment, type RigFacts } from "./assess";
import { assessAllInWorker } from "./assess-service";
import { keepAssessment, lastAssessment } from "./kept-assessments";

const MINUTE = 60_000;

/** The present, renewed when the day turns or the app comes back to the front. */
export function useNow(): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const renew = () =>
      setNow((before) =>
        localDate(before) === localDate(Date.now()) && Date.now() - before < 30 * MINUTE ? before : Date.now(),
      );
    const timer = setInterval(renew, MINUTE);
    document.addEventListener("visibilitychange", renew);
    return () => {
      clearInterval(timer);
      document.removeEventListener("visibilitychange", renew);
    };
  }, []);
  return now;
}

export interface RigView {
  readonly facts: RigFacts;
  readonly assessment: Assessment | undefined;
  /** When the assessment was worked out, where it may not know of everything yet. */
  readonly asOf?: number | undefined;
  /** Set until the worker has answered for the first time: what the crew's ended charges taught is not known yet. */
  readonly awaited?: true;
}

interface Answer {
  readonly assessment: Assessment;
  /** Set where the newest facts could not be worked out: the answer is one from before. */
  readonly asOf?: number;
}

const COULD_NOT = "This could not be worked out on this device just now. Everything logged is kept.";

/** The worker's answers, or the last ones there were where it gave none. */
async function answersTo(all: readonly RigFacts[]): Promise<ReadonlyMap<Id, Answer>> {
  try {
    const assessments = await assessAllInWorker(all);
    return new Map(
      all.map(({ rig }, i) => [rig.id, { assessment: keepAssessment(rig.id, assessments[i]!).assessment }]),
    );
  } catch {
    return new Map(
      all.map(({ rig }) => {
        const last = lastAssessment(rig.id);
        return [rig.id, last ? { assessment: last.assessment, asOf: last.at } : { assessment: { because: COULD_NOT } }];
      }),
    );
  }
}

export interface Rigs {
  readonly rigs: readonly RigView[];
  readonly pending: boolean;
}

const NO_FACTS: readonly RigFacts[] = [];
/** What is booked, and the usual weeks; where they are not on this device yet, the log alone tells. */
export function useWorkBook(): WorkBook {
  const { records: bookings } = useRecords("bookings");
  const { records: usualWeeks } = useRecords("usual-weeks");
  const { records: daysOff } = useRecords("days-off");
  return useMemo(() => ({ bookings, usualWeeks, daysOff }), [bookings, usualWeeks, daysOff]);
}

/** The facts of every rig, once all of them are here: half the facts would give a wrong number. */
export function useRigFacts(): { readonly facts: readonly RigFacts[]; readonly pending: boolean } {
  const rigs = useRecords("rigs");
  const vessels = useRecords("vessels");
  const taps = useRecords("taps");
  const meters = useRecords("meters");
  const charges = useRecords("charges");
  const visits = useRecords("visits");
  const feedTests = useRecords("feed-tests");
  const reports = useRecords("water-reports");
  const book = useWorkBook();
  const now = useNow();
  const newest = visits.records.reduce((latest, visit) => Math.max(latest, Date.parse(visit.at)), 0);
  const moment = Math.max(now, newest);
  const pending = [rigs, vessels, taps, meters, charges, visits, feedTests, reports].some((each) => each.pending);
  const facts = useMemo(() => {
    if (pending) return NO_FACTS;
    const byTime = [...visits.records].sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
    const byFilling = [...charges.records].sort((a, b) => Date.parse(a.filledAt) - Date.parse(b.filledAt));
    const vesselById = new Map<Id, Vessel>(vessels.records.map((vessel) => [vessel.id, vessel]));
    return rigs.records.flatMap((rig): RigFacts[] => {
      const stage = rig.stages.find((each) => each.kind === "resin");
      const vessel = stage?.kind === "resin" ? vesselById.get(stage.vesselId) : undefined;
      if (!vessel) return [];
      const own = {
        rig,
        vessel,
        taps: taps.records,
        meters: meters.records,
        feedTests: feedTests.records,
        reports: reports.records,
        now: moment,
        visits: byTime.filter((visit) => visit.rigId === rig.id),
        charges: byFilling.filter((charge) => charge.rigId === rig.id),
      };
      return [{ ...own, bookings: knownWork(inBooks(own), book) }];
    });
  }, [
    rigs.records,
    vessels.records,
    taps.records,
    meters.records,
    charges.records,
    visits.records,
    feedTests.records,
    reports.records,
    book,
    moment,
    pending,
  ]);
  return { facts, pending };
}

/** Asks the worker about every rig whenever the facts change; while it works only the newest facts wait. */
export function useRigs(): Rigs {
  const { facts, pending } = useRigFacts();
  const [answers, setAnswers] = useState<ReadonlyMap<Id, Answer>>(new Map());
  const wanted = useRef<readonly RigFacts[] | undefined>(undefined);
  const working = useRef(false);
  useEffect(() => {
    wanted.current = facts;
    const work = async () => {
      working.current = true;
      for (let next = wanted.current; next; next = wanted.current) {
        wanted.current = undefined;
        setAnswers(await answersTo(next));
      }
      working.current = false;
    };
    if (!working.current) void work();
  }, [facts]);
  const rigs = useMemo(
    () =>
      facts.map((each): RigView => {
        const answer = answers.get(each.rig.id);
        if (answer) return { facts: each, assessment: answer.assessment, asOf: answer.asOf };
        const last = lastAssessment(each.rig.id);
        return { facts: each, assessment: last?.assessment, asOf: last?.at, awaited: true };
      }),
    [facts, answers],
  );
  return { rigs, pending };
}

const URGENCY = { change: 0, finish: 1, watch: 2, fine: 3 } as const;

/** Neediest first. */
export const byNeed = (a: RigView, b: RigView) => need(a) - need(b);

const need = ({ assessment }: RigView) =>
  (assessment?.verdict ? URGENCY[assessment.verdict.state] : 4) +
  Math.min(0.99, (assessment?.standing?.left?.low ?? 1e6) / 1e6);
