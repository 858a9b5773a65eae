import { onScale, type Standing, type ThreeOf, type Verdict } from "@winter-bead/core";
import { litres, litresRange, scaleUnit, threeDigits, type Units } from "../../ui/format";
import type { RigFacts } from "./assess";

export interface VerdictWords {
  readonly title: string;
  readonly reason: string;
}

const TITLES: Readonly<Record<Verdict["state"], string>> = {
  fine: "Fine",
  watch: "Watch",
  finish: "Finish, rinse more",
  change: "Change now",
};

/** One word beside the ring. */
export const STATE_WORDS: Readonly<Record<Verdict["state"], string>> = {
  fine: "fine",
  watch: "watch",
  finish: "finish",
  change: "change",
};

function titleOf({ state, reason }: Verdict, isAquarium: boolean): string {
  if (reason === "odd-reading") return "Watch: read it again";
  if (reason === "odd-reading-above-hard") return "Stop and read it again";
  if (state === "finish" && isAquarium) return "Stop filling";
  return TITLES[state];
}

/** The verdict in the trade's words, with its reason and the litres that count. */
export function verdictWords(facts: RigFacts, verdict: Verdict, where: Standing, units: Units): VerdictWords {
  const { rig, vessel } = facts;
  const { marks } = vessel;
  const unit = scaleUnit(marks.scale);
  const isAquarium = rig.use === "aquarium";
  const output =
    verdict.outputEc25 === undefined ? "" : `${threeDigits(onScale(verdict.outputEc25, marks.scale))} ${unit}`;
  const mean = isAquarium && where.outputs.length > 1 ? "mean of the last readings" : "out";
  const left = litresRange(where.left.low, where.left.high, units);
  const toHard = litresRange(where.leftToHard.low, where.leftToHard.high, units);
  const used = threeDigits(100 * where.throughput.typical);
  const promised = threeDigits(100 * where.promisedShare);
  const reasons: Readonly<Record<Verdict["reason"], string>> = {
    "no-reading": `No output reading of this charge yet. By the count ${left} to your limit of ${marks.limit} ${unit}.`,
    "below-watch": `${capital(mean)} ${output}, below your watch mark of ${marks.watch}. ${capital(left)} to your limit of ${marks.limit}.`,
    "above-watch": `${capital(mean)} ${output}: above your watch mark of ${marks.watch}, the limit is ${marks.limit}. ${capital(left)} left.`,
    "above-limit": isAquarium
      ? `${capital(mean)} ${output}, above your limit of ${marks.limit}: what leaks now harms unseen. Change before you fill on.`
      : `${capital(mean)} ${output}, your limit is ${marks.limit}. ${capital(toHard)} left before your hard mark of ${marks.hard}: finish today and rinse longer.`,
    "above-hard": `${capital(mean)} ${output}, above your hard mark of ${marks.hard}. This water leaves marks.`,
    "odd-reading": `Out ${output}, but the count says only ${used} % of the capacity is used and the reading before was clean. Let it run a minute and read again; look at the bypass and the probe.`,
    "odd-reading-above-hard": `Out ${output}, above your hard mark of ${marks.hard}, yet only ${used} % of the capacity is used. Don't use this water; run a minute, look at the bypass and the probe, read again.`,
    "capacity-used": `${promised} % of the capacity is used, and you act at ${threeDigits(100 * (marks.capacityUsed ?? 1))} %: ammonia and silica are let go first, unseen by the meter.`,
    "nearly-used": `${capital(mean)} ${output}, but ${used} % of the capacity is used: ${left} to your limit.`,
    "short-of-a-job": `${capital(left)} to your limit: at worst less than one ${rig.jobName} of ${litres(rig.litresPerJob, units)}.`,
  };
  return { title: titleOf(verdict, isAquarium), reason: reasons[verdict.reason] };
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

const NONE_LEFT: ThreeOf<number> = { low: 0, typical: 0, high: 0 };

/** Litres to show as left: none once the output itself is above the hard mark. */
export const litresLeft = (where: Standing, verdict: Verdict | undefined): ThreeOf<number> =>
  verdict?.reason === "above-hard" ? NONE_LEFT : where.left;

/** `left` or, above the limit, the mark the litres run to. */
export const leftWords = (where: Standing, facts: RigFacts) =>
  where.leftTo === "limit" ? "left" : `to ${facts.vessel.marks.hard}`;
