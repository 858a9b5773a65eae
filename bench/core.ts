import { performance } from "node:perf_hooks";
import {
  column,
  ColumnRun,
  learn,
  lessonsOf,
  MARKS,
  workStanding,
  workTrain,
  type Charge,
  type StandingInput,
  type Visit,
  depletion,
  describeReport,
  life,
  lifeRange,
  livesBySchool,
  planColumn,
  tapRange,
  SPECIES,
  twoLives,
  unwrap,
  type LifeInput,
} from "../core/src/index";
import { size } from "../core/src/sizing";
import { creep } from "../core/src/membrane/creep";

/** A fixed loop of floating-point work, to compare machines and moments: 1e6 exponentials. */
function referenceLoop(): number {
  let sum = 0;
  for (let i = 0; i < 1_000_000; i += 1) sum += Math.exp(-(i % 1000) / 1000);
  return sum;
}

interface Cost {
  /** ms a call. */
  readonly each: number;
  /** The same as a share of the reference loop in the same round. */
  readonly ratio: number;
}

/** Median cost of a call, over rounds that alternate with the reference loop. */
function cost(calls: number, work: () => unknown): Cost {
  for (let i = 0; i < calls / 5; i += 1) work();
  referenceLoop();
  const ratios: number[] = [];
  const times: number[] = [];
  for (let round = 0; round < 9; round += 1) {
    let start = performance.now();
    referenceLoop();
    const reference = performance.now() - start;
    start = performance.now();
    for (let i = 0; i < calls; i += 1) work();
    const each = (performance.now() - start) / calls;
    times.push(each);
    ratios.push(each / reference);
  }
  const median = (values: number[]) => values.sort((a, b) => a - b)[4]!;
  return { each: median(times), ratio: median(ratios) };
}

function measure(name: string, calls: number, work: () => unknown): void {
  const { each, ratio } = cost(calls, work);
  console.log(
    `${name}: ${(1000 * each).toFixed(1)} µs a call, ${ratio.toFixed(4)} of the reference loop (1e6 exponentials)`,
  );
}

const input: LifeInput = {
  water: { reading: { value: 163, scale: "nacl" } },
  capacity: { grade: "virgin" },
  bed: { volume: 10.4, diameter: 165, flow: 3.4 },
  limit: { value: 8, scale: "nacl" },
};
const water = (value: number) => ({ reading: { value, scale: "nacl" as const } });
const { water: _water, ...rest } = input;
const waters = { low: water(130), typical: water(163), high: water(210) };
const week = [150, 150, 150, 150, 150, 0, 0].map((mean) => ({ mean, sd: mean / 6 }));

measure("life, with its curve of 101 points", 200, () => unwrap(life(input)));
measure("life-range", 200, () => unwrap(lifeRange({ ...rest, waters })));
measure("lives by school (what a digit typed on Size costs)", 100, () =>
  unwrap(livesBySchool({ ...input, waters, constant: 200_000 })),
);
measure("depletion, 4,000 futures", 5, () =>
  unwrap(
    depletion({
      capacityLeft: { low: 16100, median: 17500, high: 19000 },
      daily: week,
      load: { low: 3.4, typical: 3.5, high: 3.6 },
      start: "2027-03-01",
      seed: 7,
    }),
  ),
);

const feed = { na: 0.9, nh4: 0.03, k: 0.08, mg: 0.7, ca: 1.9, cl: 0.8, no3: 0.25, so4: 0.55, hco3: 2.2, sio2: 0.16 };
const bed = { volume: 12.2, diameter: 185, flow: 3.1 };
const stage = { kind: "mixed" as const, capacity: { grade: "virgin" as const }, bed };
const limit = { value: 10, scale: "nacl" as const };

/** The whole simulation of one bed: 100 cells, 10 species, to 1.6 of the stoichiometric litres. */
function measureColumn(): void {
  const plan = unwrap(planColumn({ feed, stages: [stage] }));
  const { each, ratio } = cost(3, () => {
    const run = new ColumnRun(plan);
    run.advance(run.steps);
    return run;
  });
  const { steps } = new ColumnRun(plan);
  const nanoseconds = (1e6 * each) / (plan.cells * SPECIES.length * steps);
  console.log(
    `column, ${plan.cells} cells x ${SPECIES.length} species x ${steps} steps: ${each.toFixed(1)} ms, ${nanoseconds.toFixed(1)} ns per cell-species-step, ${ratio.toFixed(3)} of the reference loop`,
  );
}
measureColumn();
measure("column as the API answers it, pH and profiles included", 3, () =>
  unwrap(column({ feed, stages: [stage], limit })),
);
measure("two lives of one bed", 5, () => unwrap(twoLives({ feed, capacity: { grade: "virgin" }, bed, limit })));
const days = Array.from({ length: 400 }, (_, i) => ({
  at: i * 86_400_000,
  ec25: 300 + 40 * Math.cos(i / 58) + (i % 7),
}));
measure("range, drift and season of 400 days of readings", 5, () => unwrap(tapRange(days)));
measure("a report judged (what a digit typed in it costs)", 500, () =>
  unwrap(
    describeReport({ ca: 40, mg: 8, na: 15, cl: 22, so4: 21, no3: 8, alkalinity: 118, ph: 7.3, silica: 6, ec25: 340 }),
  ),
);
const readings = [0, 20, 45, 80, 120, 180, 260].map((seconds) => ({
  seconds,
  value: 9 + 74 * Math.exp(-seconds / 52),
}));
measure("start-up creep fitted", 50, () => unwrap(creep({ readings, scale: "nacl", flow: 1.7 })));

const worked = { by: "jobs" as const, perWeek: 22, litresEach: 60, quality: "guessed" as const };
const alkaline = (value: number) => ({
  reading: { value, scale: "nacl" as const },
  ph: 7.3,
  alkalinity: 118,
  silica: 6,
});
const priced = unwrap(
  size({
    demand: { items: [worked] },
    waters: { low: alkaline(150), typical: alkaline(168), high: alkaline(192) },
    limit,
    peakFlow: 3,
  }),
).options.length;
const sized = cost(2, () =>
  unwrap(
    size({
      demand: { items: [worked] },
      waters: { low: alkaline(150), typical: alkaline(168), high: alkaline(192) },
      limit,
      peakFlow: 3,
    }),
  ),
);
console.log(
  `${priced} options priced with ranges and ranked: ${sized.each.toFixed(1)} ms (${((500 * sized.each) / priced).toFixed(0)} ms for 500), ${sized.ratio.toFixed(2)} of the reference loop`,
);

/** A rig with a thousand visits and thirteen ended charges, and one more reading that is being typed. */
function measureTyping(): void {
  const DAY = 86_400_000;
  const [start, visitsEach, charges] = [Date.parse("2026-01-05T08:00:00Z"), 72, 14];
  const at = (i: number) => new Date(start + (i * DAY) / 3).toISOString();
  const outputs = (k: number) => Math.round(14 * Math.exp((k - visitsEach + 1) / 4));
  const visits = Array.from({ length: charges * visitsEach }, (_, i): Visit => ({
    ...{ id: `visit-${i}`, rigId: "rig", tapId: "tap", at: at(i) },
    water: { by: "total", total: 24 * i },
    readings: [
      { id: `out-${i}`, point: "output", scale: "nacl", value: outputs(i % visitsEach) },
      ...(i % 5 === 0
        ? [{ id: `in-${i}`, point: "feed" as const, scale: "nacl" as const, value: 155 + (i % 20) }]
        : []),
    ],
  }));
  const filled = Array.from({ length: charges }, (_, i): Charge => ({
    ...{ id: `charge-${i}`, vesselId: "vessel", rigId: "rig", grade: "virgin", resinLitres: 11.9, packing: "settled" },
    filledAt: at(i * visitsEach - 0.5),
    ...(i < charges - 1 ? { ended: { at: at((i + 1) * visitsEach - 0.6), why: "limit" as const } } : {}),
  }));
  const now = Date.parse(at(charges * visitsEach));
  const facts: StandingInput = {
    rig: {
      ...{ id: "rig", name: "Van", use: "glass", tapId: "tap", flow: 3, jobName: "house", litresPerJob: 60 },
      stages: [{ id: "stage", kind: "resin" }],
    },
    vessel: {
      ...{
        id: "vessel",
        name: "Bottle",
        kind: "inner-seal-bottle",
        grossVolume: 14,
        diameter: 180,
        fillFraction: 0.85,
      },
      marks: MARKS["glass-10"],
    },
    taps: new Map([
      ["tap", { id: "tap", siteId: "site", name: "Tap", low: 140, typical: 160, high: 185, scale: "nacl" }],
    ]),
    ...{ meters: new Map(), visits, charges: filled, now, today: "2026-12-20" },
    dateOf: (milliseconds) => new Date(milliseconds).toISOString().slice(0, 10),
  };
  const owner = learn(lessonsOf(facts), "vessel");
  let digit = 0;
  measure("a key on the log of a rig with 1,000 visits", 20, () => {
    digit = (digit + 1) % 10;
    const typed: Visit = {
      ...{ id: "draft", rigId: "rig", tapId: "tap", at: new Date(now).toISOString() },
      readings: [{ id: "draft-out", point: "output", scale: "nacl", value: digit }],
    };
    return unwrap(workStanding({ ...facts, visits: [...visits, typed] }, owner));
  });
  measure("what 13 ended charges taught, asked again", 5, () => lessonsOf(facts));

  // The same log as of two in a row, the lead emptied every 72 visits and hung in behind: each charge guards, then leads.
  const [lead, lag] = [facts.vessel, { ...facts.vessel, id: "other" }];
  const vessels = [lead, lag];
  const turn = (i: number) => (i === 0 ? at(-1) : at(i * visitsEach - 0.5));
  const train: StandingInput = {
    ...facts,
    rig: { ...facts.rig, stages: vessels.map((_, i) => ({ id: `stage-${i}`, kind: "resin" })) },
    visits: visits.map((visit) => ({
      ...visit,
      readings: visit.readings.flatMap((each) =>
        each.point === "output"
          ? [
              { ...each, stageId: "stage-0" },
              { ...each, id: `${each.id}-behind`, value: 0, stageId: "stage-1" },
            ]
          : [each],
      ),
    })),
    charges: Array.from({ length: charges + 1 }, (_, i): Charge => ({
      ...{ ...filled[0]!, id: `charge-${i}`, vesselId: vessels[i % 2]!.id, filledAt: turn(Math.max(0, i - 1)) },
      ended: { at: turn(i + 1), why: "limit" as const },
    })).map(({ ended, ...open }, i) => (i < charges - 1 ? { ...open, ended: ended! } : open)),
    train: {
      ...{ rigs: [facts.rig], vessels },
      arrangements: Array.from({ length: charges }, (_, i) => ({
        ...{ id: `arrangement-${i}`, rigId: "rig", at: turn(i) },
        places: [0, 1].map((place) => ({ stageId: `stage-${place}`, vesselId: vessels[(i + place) % 2]!.id })),
      })),
    },
  };
  const lessons = lessonsOf(train);
  const owners = new Map(vessels.map(({ id }) => [id, learn(lessons, id)]));
  measure("the same key on the log of a train of two with 14 rotations", 10, () => {
    digit = (digit + 1) % 10;
    const typed: Visit = {
      ...{ id: "draft", rigId: "rig", tapId: "tap", at: new Date(now).toISOString() },
      readings: [{ id: "draft-out", point: "output", scale: "nacl", value: digit, stageId: "stage-0" }],
    };
    return unwrap(workTrain({ ...train, owners, visits: [...train.visits, typed] }));
  });
}
measureTyping();
