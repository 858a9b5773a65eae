import type { Id, Instant } from "../descriptor/identity";
import type { Found, Guided, Outcome, RefillStep } from "./refill-step.record";
import type { GuideStep } from "./step";
import type { Ways } from "./ways";

/** Where one step of a piece of work stands, whichever phone did it. */
export interface StepState {
  readonly outcome: Extract<Outcome, "done" | "skipped" | "failed" | "waiting">;
  readonly at: Instant;
  /** When a running time is over. */
  readonly until?: Instant | undefined;
  readonly note?: string | undefined;
}

/** A piece of guided work, put together from its steps. */
export interface GuidedWork {
  readonly id: Id;
  readonly guided: Guided;
  readonly rigId: Id;
  readonly vesselId?: Id | undefined;
  readonly startedAt: Instant;
  readonly lastAt: Instant;
  readonly steps: ReadonlyMap<string, StepState>;
  /** The school as it was last chosen in this work. */
  readonly ways?: Ways | undefined;
  /** What was found, the newest of each. */
  readonly found: Found;
  /** What was found at which step. */
  readonly foundAt: ReadonlyMap<string, Found>;
  readonly ended?: "finished" | "given-up";
}

/** Oldest first; at the same instant by id, so that every phone has the same order. */
const inOrder = (a: RefillStep, b: RefillStep) =>
  Date.parse(a.at) - Date.parse(b.at) || (a.id < b.id ? -1 : Number(a.id > b.id));

function workOf(id: Id, all: readonly RefillStep[]): GuidedWork {
  const steps = [...all].sort(inOrder);
  const first = steps[0]!;
  const states = new Map<string, StepState>();
  const foundAt = new Map<string, Found>();
  let found: Found = {};
  let ways: Ways | undefined;
  let ended: GuidedWork["ended"];
  for (const { step, outcome, at, until, note, ways: chosen, found: seen } of steps) {
    if (outcome === "finished") ended = "finished";
    else if (outcome === "given-up") ended ??= "given-up";
    else if (outcome !== "reopened") states.set(step, { outcome, at, until, note });
    if (chosen) ways = chosen;
    if (seen) {
      found = { ...found, ...seen };
      foundAt.set(step, { ...foundAt.get(step), ...seen });
    }
  }
  return {
    id,
    guided: first.guided,
    rigId: first.rigId,
    vesselId: first.vesselId,
    startedAt: first.at,
    lastAt: steps[steps.length - 1]!.at,
    steps: states,
    ways,
    found,
    foundAt,
    ...(ended ? { ended } : {}),
  };
}

/** Every piece of guided work that steps tell of, the one that was worked on last first. */
export function worksOf(steps: readonly RefillStep[]): readonly GuidedWork[] {
  const byWork = new Map<Id, RefillStep[]>();
  for (const step of steps) byWork.set(step.workId, [...(byWork.get(step.workId) ?? []), step]);
  return [...byWork].map(([id, all]) => workOf(id, all)).sort((a, b) => (a.lastAt < b.lastAt ? 1 : -1));
}

const isClosed = (state: StepState | undefined) => state?.outcome === "done" || state?.outcome === "skipped";

/** The first step that is neither done nor left out; past the last one where all are. */
export const openStep = (guide: readonly GuideStep[], work: Pick<GuidedWork, "steps"> | undefined): number => {
  const at = guide.findIndex(({ id }) => !isClosed(work?.steps.get(id)));
  return at < 0 ? guide.length : at;
};

/** What the same piece of work is called on every phone that begins it: what it is done to, and for the how-many-eth time. */
export const workKey = (
  guided: Guided,
  target: Pick<GuidedWork, "rigId" | "vesselId">,
  works: readonly GuidedWork[],
): string => {
  const isSame = (work: GuidedWork) =>
    work.guided === guided && work.rigId === target.rigId && work.vesselId === target.vesselId;
  const round = works.filter((work) => isSame(work) && work.ended !== undefined).length;
  return [guided, target.rigId, target.vesselId ?? "", round].join(" ");
};

/** Loose parts or tools that were there at the start and are not there at the end; below 0 where more were counted. */
export function missing(work: Pick<GuidedWork, "foundAt">, what: "parts" | "tools", now: number): number | undefined {
  const before = work.foundAt.get(what === "parts" ? "parts" : "ready")?.[what];
  return before === undefined ? undefined : before - now;
}

/** What a crew chose the last time for such a vessel: the school that it follows until it chooses another. */
export const lastWays = (works: readonly GuidedWork[], ofVessel: (vesselId: Id) => boolean): Ways | undefined =>
  works.find(({ ways, vesselId }) => ways !== undefined && vesselId !== undefined && ofVessel(vesselId))?.ways;

/** A longer silence between two steps is a pause, ms. */
const PAUSE = 30 * 60_000;

/**
 * Minutes that hands were at work: from step to step, without the pauses, up to now.
 * @param now milliseconds since 1970
 * @example a step at 8:00, one at 8:10, the next at 14:00, now 14:05: 15
 */
export function minutesAtWork(steps: readonly Pick<RefillStep, "at">[], now: number): number {
  const times = [...steps.map(({ at }) => Date.parse(at)), now].sort((a, b) => a - b);
  return times.slice(1).reduce((sum, at, i) => sum + (at - times[i]! <= PAUSE ? at - times[i]! : 0), 0) / 60_000;
}

/** The steps by which the new beads are known to be in, the first that is done counts. */
const FILLED_BY = ["fill", "settle", "wet", "float", "wipe", "close", "vessel-in", "connect", "purge"];

/** When the new charge began: when beads went in, or the vessel came, and never after its first reading. */
export function filledAt(work: Pick<GuidedWork, "steps">, now: number): number {
  const doneAt = (step: string) => {
    const state = work.steps.get(step);
    return state?.outcome === "done" ? [Date.parse(state.at)] : [];
  };
  const first = doneAt("first-reading").map((at) => at - 1000);
  const filled = FILLED_BY.flatMap(doneAt)[0] ?? now;
  return Math.min(filled, ...first);
}
