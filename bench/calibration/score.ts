import {
  learn,
  lessonsOf,
  standingDates,
  workStanding,
  type StandingInput,
  type WorkedStanding,
} from "../../core/src/index";
import { dateOf, Owner, type World } from "./world";

/** Shares of the promised capacity at which the shown range is held against the truth. */
export const ASKED_AT = [0.15, 0.5, 0.8, 1] as const;
const DATES_ON = [2, 5] as const;
const SILENT_ON = [3, 8] as const;

/** How the invented charges of one world came out. */
export interface Score {
  charges: number;
  asked: number[];
  inside: number[];
  below: number[];
  bias: number;
  /** Shares of life at which the first watch and the first finish came. */
  watch: number[];
  finish: number[];
  breaches: number;
  unwarned: number;
  falseFinish: number;
  dated: number[];
  held: number[];
}

export const emptyScore = (): Score => ({
  charges: 0,
  asked: [0, 0, 0, 0],
  inside: [0, 0, 0, 0],
  below: [0, 0, 0, 0],
  bias: 0,
  watch: [],
  finish: [],
  breaches: 0,
  unwarned: 0,
  falseFinish: 0,
  dated: [0, 0],
  held: [0, 0],
});

export function added(a: Score, b: Score): Score {
  const lists = (key: "asked" | "inside" | "below" | "dated" | "held") => a[key].map((value, i) => value + b[key][i]!);
  return {
    charges: a.charges + b.charges,
    asked: lists("asked"),
    inside: lists("inside"),
    below: lists("below"),
    bias: a.bias + b.bias,
    watch: [...a.watch, ...b.watch],
    finish: [...a.finish, ...b.finish],
    breaches: a.breaches + b.breaches,
    unwarned: a.unwarned + b.unwarned,
    falseFinish: a.falseFinish + b.falseFinish,
    dated: lists("dated"),
    held: lists("held"),
  };
}

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** One invented owner, judged visit by visit through the last charge. */
export function scoreOwner(world: World, seed: number): Score {
  const score = emptyScore();
  const { charges, facts } = new Owner(world, seed).tell();
  const judged = charges[charges.length - 1]!;
  const before = charges.slice(0, -1);
  const past = before.flatMap((each) => each.visits);
  const all = [...before.map((each) => each.charge), judged.charge];
  const inputAt = (now: number): StandingInput => ({
    ...facts,
    charges: all,
    visits: [...past, ...judged.visits.filter((visit) => Date.parse(visit.at) <= now)],
    now,
    today: dateOf(now),
  });
  const start = inputAt(Date.parse(judged.charge.filledAt) + HOUR);
  const owner = learn(lessonsOf(start), "vessel");
  const standingAt = (now: number): WorkedStanding | undefined => {
    const worked = workStanding(inputAt(now), owner);
    return worked.ok ? worked.value : undefined;
  };
  score.charges = 1;
  if (world.silentFrom !== undefined) {
    const last = judged.visits[judged.visits.length - 1];
    for (const [i, days] of SILENT_ON.entries()) {
      if (!last) continue;
      const now = Date.parse(last.at) + days * DAY;
      const here = [...judged.true].reverse().find(({ at }) => at < now);
      if (!here || here.asLogged >= judged.atLimit) continue;
      compare(score, i, standingAt(now), judged.atLimit - here.asLogged, judged.atLimit);
    }
    return score;
  }
  const reached = ASKED_AT.map(() => false);
  let [warned, watched, finished, breached] = [false, false, false, false];
  judged.visits.forEach((visit, i) => {
    const now = Date.parse(visit.at) + 2 * HOUR;
    const here = [...judged.true].reverse().find(({ at }) => at <= now)!;
    const worked = standingAt(now);
    if (!worked) return;
    const { standing: where } = worked;
    const share = where.used.meq / judged.promised;
    ASKED_AT.forEach((at, k) => {
      if (reached[k] || share < at) return;
      reached[k] = true;
      if (here.asLogged < judged.atLimit) compare(score, k, worked, judged.atLimit - here.asLogged, judged.atLimit);
    });
    const life = here.asLogged / judged.atLimit;
    const { state } = where.verdict;
    if (!breached && here.asLogged >= judged.atHard) {
      breached = true;
      // What is beyond the mark at its first reading could not be warned of.
      if (i > 0) score.breaches += 1;
      if (i > 0 && !warned) score.unwarned += 1;
    }
    if (state !== "fine") warned = true;
    if (state !== "fine" && !watched) [watched, score.watch] = [true, [life]];
    if ((state === "finish" || state === "change") && !finished) {
      [finished, score.finish] = [true, [life]];
      if (life < 0.9) score.falseFinish += 1;
    }
    const on = DATES_ON.indexOf((i + 1) as 2);
    if (on >= 0 && here.asLogged < judged.atLimit) holdDates(score, on, worked, judged.limitAt);
  });
  return score;
}

function compare(score: Score, k: number, worked: WorkedStanding | undefined, truth: number, life: number): void {
  const left = worked?.standing.leftTo === "limit" ? worked.standing.left : undefined;
  score.asked[k]! += 1;
  if (!left) return;
  if (truth >= left.low && truth <= left.high) score.inside[k]! += 1;
  if (truth < left.low) score.below[k]! += 1;
  score.bias += (left.typical - truth) / life;
}

function holdDates(score: Score, on: number, worked: WorkedStanding, limitAt: number): void {
  const dates = standingDates(worked);
  score.dated[on]! += 1;
  if (!dates.ok || limitAt === Infinity) return;
  const truth = dateOf(limitAt);
  if (truth >= dates.value.early && truth <= dates.value.late) score.held[on]! += 1;
}
