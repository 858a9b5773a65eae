import {
  MARKS,
  unwrap,
  workTrain,
  type Arrangement,
  type Charge,
  type Place,
  type ReadingRecord,
  type Rig,
  type StandingInput,
  type Vessel,
  type Visit,
  type WorkedTrain,
} from "../src/index";
import { DAY, iso, meter, stagesOf, START, vesselOf, weekdays, type StageTold } from "./told";

/** What was read at one visit, ppm: at the feed, and behind each named stage. */
export interface Read {
  readonly feed?: number;
  readonly [stage: `stage-${number}`]: number;
  /** Of the last vessel, by a log that names no stage. */
  readonly last?: number;
}

/** A train told day by day: 100 L a weekday at 160 ppm, 11.5 L of resin in each vessel. */
export interface TrainTold {
  /** In the order of the flow; those of resin are the places. */
  readonly stages?: readonly StageTold[];
  /** What was read each weekday. */
  readonly days: readonly Read[];
  readonly litres?: number;
  readonly arrangements: readonly Arrangement[];
  readonly charges: readonly Charge[];
  readonly rigs?: readonly Rig[];
  readonly silence?: number;
  readonly visits?: readonly Visit[];
  readonly use?: Rig["use"];
}

/** Before the first visit. */
export const BEFORE = START - DAY / 3;
/** The evening of the nth weekday, after its visit. */
export const evening = (day: number) => weekdays(day + 1)[day]! + 3_600_000;

/** The nth weekday's arrangement: vessels by the stages of the train, `undefined` for an empty place. */
export const arranged = (
  id: string,
  at: number,
  vessels: readonly (string | undefined)[],
  rigId = "rig",
  first = 0,
): Arrangement => ({
  ...{ id, rigId, at: iso(at) },
  places: vessels.map((vesselId, i): Place => ({
    stageId: `stage-${first + i}`,
    ...(vesselId === undefined ? {} : { vesselId }),
  })),
});

export const filled = (vesselId: string, at: number, more: Partial<Charge> = {}): Charge => ({
  ...{ id: `${vesselId} of ${at}`, vesselId, rigId: "rig", grade: "virgin", resinLitres: 11.5, packing: "settled" },
  filledAt: iso(at),
  ...more,
});

export const trainRig = (stages: readonly StageTold[], more: Partial<Rig> = {}): Rig => ({
  ...{ id: "rig", name: "Van", use: "glass", tapId: "tap", flow: 3.2, jobName: "house", litresPerJob: 40 },
  stages: stagesOf(...stages),
  ...more,
});

const TWO: readonly StageTold[] = [{ kind: "resin" }, { kind: "resin" }];

function readingsOf(read: Read, name: string): ReadingRecord[] {
  return Object.entries(read).map(([point, value], i): ReadingRecord => {
    const head = { id: `${name}-${i}`, value, meterId: "meter" };
    if (point === "feed") return { ...head, point: "feed" };
    return point === "last" ? { ...head, point: "output" } : { ...head, point: "output", stageId: point };
  });
}

export function visitsOfTrain({ days, litres = 100 }: Pick<TrainTold, "days" | "litres">): Visit[] {
  const moments = weekdays(days.length);
  return days.map((read, i) => ({
    ...{ id: `v${i}`, rigId: "rig", tapId: "tap", at: iso(moments[i]!) },
    water: { by: "total", total: (i + 1) * litres },
    readings: readingsOf({ feed: 160, ...read }, `v${i}`),
  }));
}

export function trainFacts(told: TrainTold): StandingInput {
  const rig = trainRig(told.stages ?? TWO, told.use ? { use: told.use } : {});
  const visits = told.visits ?? visitsOfTrain(told);
  const last = visits.length > 0 ? Date.parse(visits[visits.length - 1]!.at) : BEFORE;
  const now = last + (told.silence ?? 0) * DAY + 2 * 3_600_000;
  const names = [...new Set(told.charges.map(({ vesselId }) => vesselId))];
  const vessels = names.map((id): Vessel => ({ ...vesselOf({ marks: MARKS["glass-10"] }), id, name: `Vessel ${id}` }));
  const tap = { id: "tap", siteId: "site", name: "Tap", low: 145, typical: 160, high: 180, scale: "nacl" as const };
  return {
    ...{ rig, vessel: vessels[0]!, now, visits },
    today: iso(now).slice(0, 10),
    dateOf: (at) => iso(at).slice(0, 10),
    taps: new Map([["tap", tap]]),
    meters: new Map([["meter", meter]]),
    charges: [...told.charges].sort((a, b) => Date.parse(a.filledAt) - Date.parse(b.filledAt)),
    train: { rigs: [rig, ...(told.rigs ?? [])], vessels, arrangements: told.arrangements },
  };
}

export const trainOf = (told: TrainTold): WorkedTrain => unwrap(workTrain(trainFacts(told)));
