import {
  MARKS,
  unwrap,
  workStanding,
  type Arrangement,
  type Charge,
  type FeedTest,
  type Marks,
  type Meter,
  type Rig,
  type Stage,
  type Standing,
  type StandingInput,
  type Tap,
  type Use,
  type Vessel,
  type Visit,
  type VisitWater,
  type WaterReport,
  type WorkedStanding,
} from "../src/index";

export const DAY = 86_400_000;
export const iso = (milliseconds: number) => new Date(milliseconds).toISOString();

type WithoutId<S> = S extends unknown ? Omit<S, "id"> : never;
/** A stage without its id: it gets one by its place. */
export type StageTold = WithoutId<Stage>;

/** Stages with ids by their places. */
export const stagesOf = (...told: readonly StageTold[]): readonly Stage[] =>
  told.map((stage, i) => ({ id: `stage-${i}`, ...stage }) as Stage);

/** What happened at one rig, told day by day: the rest is as usual (11.5 L of virgin resin, 160 ppm, a limit of 10). */
export interface Told {
  /** Output readings of each visit, a visit a weekday; `undefined` reads nothing. */
  readonly outputs: readonly (number | readonly number[] | undefined)[];
  /** L of each visit. */
  readonly litres?: number;
  /** Feed read at each visit, ppm; 0 reads none. */
  readonly feed?: number;
  readonly use?: Use;
  readonly marks?: Marks;
  readonly resin?: number;
  readonly diameter?: number;
  readonly flow?: number;
  readonly grade?: Charge["grade"];
  readonly tap?: Partial<Tap>;
  /** What stands before the vessel. */
  readonly stages?: readonly StageTold[];
  readonly litresPerJob?: number;
  readonly jobsPerWeek?: number;
  /** Days without a visit after the last one. */
  readonly silence?: number;
  /** Looked at again after the last visit, each ten minutes later and with no water typed. */
  readonly again?: readonly number[];
  /** Changes the visits as they were told. */
  readonly amend?: (visits: readonly Visit[]) => readonly Visit[];
  readonly before?: { readonly charges: readonly Charge[]; readonly visits: readonly Visit[] };
  readonly tests?: readonly FeedTest[];
  readonly reports?: readonly WaterReport[];
  /** First visit, milliseconds. */
  readonly start?: number;
}

/** A Monday. */
export const START = Date.UTC(2027, 2, 1, 16, 30);
const isWeekend = (at: number) => [0, 6].includes(new Date(at).getUTCDay());

/** The moments of so many visits, a weekday each. */
export function weekdays(count: number, start = START): number[] {
  const found: number[] = [];
  for (let at = start; found.length < count; at += DAY) if (!isWeekend(at)) found.push(at);
  return found;
}

export const meter: Meter = { id: "meter", name: "Pocket", scale: "nacl", compensated: true };

export function rigOf({ use = "glass", flow = 3.2, stages = [], litresPerJob = 40, jobsPerWeek }: Partial<Told>): Rig {
  return {
    id: "rig",
    name: "Bay",
    use,
    tapId: "tap",
    flow,
    stages: stagesOf(...stages, { kind: "resin" }),
    jobName: "car",
    litresPerJob,
    ...(jobsPerWeek === undefined ? {} : { jobsPerWeek }),
  };
}

export function vesselOf({ marks = MARKS["glass-10"], resin = 11.5, diameter = 180 }: Partial<Told>): Vessel {
  return {
    id: "vessel",
    name: "Bottle",
    kind: "inner-seal-bottle",
    grossVolume: resin / 0.85,
    diameter,
    fillFraction: 0.85,
    marks,
  };
}

export const chargeOf = ({ resin = 11.5, grade = "virgin", start = START }: Partial<Told>): Charge => ({
  id: "charge",
  vesselId: "vessel",
  rigId: "rig",
  grade,
  resinLitres: resin,
  packing: "settled",
  filledAt: iso(start - DAY / 3),
  startTotal: 0,
});

/** Visits a weekday each, by the meter's total. */
export function visitsOf({ outputs, litres = 100, feed = 160, start = START }: Told, name = "v", from = 0): Visit[] {
  const moments = weekdays(outputs.length, start);
  return outputs.map((output, i): Visit => {
    const values = output === undefined ? [] : Array.isArray(output) ? (output as number[]) : [output as number];
    const water: VisitWater = { by: "total", total: from + (i + 1) * litres };
    return {
      id: `${name}${i}`,
      rigId: "rig",
      tapId: "tap",
      at: iso(moments[i]!),
      water,
      readings: [
        ...values.map((value, k) => ({ id: `${name}o${i}-${k}`, point: "output" as const, value, meterId: "meter" })),
        ...(feed > 0 ? [{ id: `${name}f${i}`, point: "feed" as const, value: feed, meterId: "meter" }] : []),
      ],
    };
  });
}

function againOf({ again = [], outputs, start = START }: Told): Visit[] {
  const last = weekdays(outputs.length, start)[outputs.length - 1]!;
  return again.map((value, i) => ({
    ...{ id: `again${i}`, rigId: "rig", tapId: "tap", at: iso(last + (i + 1) * 600_000) },
    readings: [{ id: `again-o${i}`, point: "output" as const, value, meterId: "meter" }],
  }));
}

/** What the core is asked for a told rig. */
export function factsOf(told: Told): StandingInput {
  const { silence = 0, before = { charges: [], visits: [] }, amend = (visits) => visits, start = START } = told;
  const own = [...visitsOf(told), ...againOf(told)];
  const last = own.length > 0 ? Date.parse(own[own.length - 1]!.at) : start - DAY / 3;
  const now = last + silence * DAY + 2 * 3_600_000;
  const tap: Tap = {
    id: "tap",
    siteId: "site",
    name: "Tap",
    low: 145,
    typical: 160,
    high: 180,
    scale: "nacl",
    ...told.tap,
  };
  return {
    rig: rigOf(told),
    vessel: vesselOf(told),
    taps: new Map([["tap", tap]]),
    meters: new Map([["meter", meter]]),
    visits: [...before.visits, ...amend(own)],
    charges: [...before.charges, chargeOf(told)],
    ...(told.tests ? { feedTests: told.tests } : {}),
    ...(told.reports ? { reports: told.reports } : {}),
    now,
    today: iso(now).slice(0, 10),
    dateOf: (at) => iso(at).slice(0, 10),
  };
}

export const workOf = (told: Told): WorkedStanding => unwrap(workStanding(factsOf(told)));
export const standingOf = (told: Told): Standing => workOf(told).standing;
export const clean = (count: number): number[] => Array<number>(count).fill(0);

/** The told vessel in its rig's last stage, since ever. */
export const hungIn = ({ rig, vessel }: Pick<StandingInput, "rig" | "vessel">): Arrangement => ({
  ...{ id: `hung-${rig.id}`, rigId: rig.id, at: iso(START - DAY) },
  places: [{ stageId: rig.stages[rig.stages.length - 1]!.id, vesselId: vessel.id }],
});
