import {
  explainLeakLeft,
  explainLeft,
  leakLeft,
  lessons,
  MARKS,
  standing,
  unseenBehindMembrane,
  unwrap,
  verdict,
  type Charge,
  type Meter,
  type Rig,
  type Standing,
  type StandingInput,
  type Tap,
  type VerdictInput,
  type Vessel,
  type Visit,
} from "../src/index";
import { evaluateExplanation } from "./evaluate-formula";
import { expectTrue } from "./explained";

const DAY = 86_400_000;
const START = Date.UTC(2027, 2, 1, 8);
const iso = (milliseconds: number) => new Date(milliseconds).toISOString();

const vessel: Vessel = {
  id: "vessel",
  name: "Bottle",
  kind: "inner-seal-bottle",
  grossVolume: 14,
  diameter: 180,
  fillFraction: 0.85,
  marks: MARKS["glass-10"],
};
const rig: Rig = {
  id: "rig",
  name: "Bay",
  use: "glass",
  tapId: "tap",
  flow: 3.2,
  stages: [{ kind: "resin", vesselId: "vessel" }],
  jobName: "car",
  litresPerJob: 40,
};
const tap: Tap = { id: "tap", siteId: "site", name: "Tap", low: 150, typical: 160, high: 175, scale: "nacl" };
const meter: Meter = { id: "meter", name: "Pocket", scale: "nacl", compensated: true };
const charge: Charge = {
  id: "charge",
  vesselId: "vessel",
  rigId: "rig",
  grade: "virgin",
  resinLitres: 11.5,
  packing: "settled",
  filledAt: iso(START - DAY),
  startTotal: 0,
};

interface Told {
  readonly outputs: readonly number[];
  readonly litresADay?: number;
  readonly before?: readonly Charge[];
  readonly tap?: Tap;
  readonly feed?: number;
}

function facts({ outputs, litresADay = 100, before = [], tap: stated = tap, feed = 160 }: Told): StandingInput {
  const visits: Visit[] = outputs.map((value, i) => ({
    id: `v${i}`,
    rigId: "rig",
    tapId: "tap",
    at: iso(START + i * DAY),
    water: { by: "total", total: (i + 1) * litresADay },
    readings: [
      { id: `o${i}`, point: "output", value, meterId: "meter" },
      ...(feed > 0 ? [{ id: `f${i}`, point: "feed" as const, value: feed, meterId: "meter" }] : []),
    ],
  }));
  const now = START + outputs.length * DAY;
  return {
    rig,
    vessel,
    taps: new Map([["tap", stated]]),
    meters: new Map([["meter", meter]]),
    visits,
    charges: [...before, charge],
    now,
    today: iso(now).slice(0, 10),
    dateOf: (at) => iso(at).slice(0, 10),
  };
}

const where = (told: Told): Standing => unwrap(standing(facts(told)));
const clean = (count: number) => Array<number>(count).fill(0);

describe("where a charge stands", () => {
  test("a fresh charge has its whole life before it, as a range", () => {
    const { left, leftTo, throughput } = where({ outputs: [0] });
    expect(leftTo).toBe("limit");
    expect(left.low < left.typical && left.typical < left.high).toBe(true);
    expect(throughput.typical).toBeLessThan(0.1);
  });
  test("what was put on it is gone from what is left", () => {
    const [early, later] = [where({ outputs: clean(3) }), where({ outputs: clean(9) })];
    expect(later.left.typical).toBeLessThan(early.left.typical - 400);
    expect(later.front.typical).toBeGreaterThan(early.front.typical);
  });
  test("clean readings late in the charge say that the resin holds at least this much", () => {
    expect(where({ outputs: clean(19) }).capacity.low).toBeGreaterThan(where({ outputs: clean(3) }).capacity.low);
  });
  test("one odd reading moves it little, two rising ones much", () => {
    const [none, one, two] = [
      where({ outputs: clean(10) }),
      where({ outputs: [...clean(9), 14] }),
      where({ outputs: [...clean(8), 8, 15] }),
    ];
    expect(one.capacity.median).toBeGreaterThan(0.85 * none.capacity.median);
    expect(two.capacity.median).toBeLessThan(0.85 * none.capacity.median);
  });
  test("the range narrows once readings rise on the front", () => {
    const width = ({ left }: Standing) => left.high - left.low;
    expect(width(where({ outputs: [...clean(15), 2, 5, 9] }))).toBeLessThan(0.4 * width(where({ outputs: clean(12) })));
  });
  test("above the limit the litres run to the hard mark", () => {
    const { leftTo, left, leftToHard } = where({ outputs: [...clean(15), 3, 12] });
    expect(leftTo).toBe("hard");
    expect(left).toEqual(leftToHard);
    expect(left.typical).toBeLessThan(120);
  });
  test("past charges teach what this resin holds", () => {
    const past = (i: number): Charge => ({
      ...charge,
      id: `past${i}`,
      startTotal: 0,
      filledAt: iso(START - (40 - 10 * i) * DAY),
      ended: { at: iso(START - (32 - 10 * i) * DAY), why: "limit" },
    });
    const told = facts({ outputs: [0] });
    const before = [past(0), past(1)];
    const visits: Visit[] = before.map((each, i) => ({
      id: `p${i}`,
      rigId: "rig",
      tapId: "tap",
      at: iso(Date.parse(each.filledAt) + DAY),
      water: { by: "total", total: 1100 },
      readings: [{ id: `pf${i}`, point: "feed", value: 160, meterId: "meter" }],
    }));
    const input = { ...told, charges: [...before, { ...charge, startTotal: 0 }], visits: [...visits, ...told.visits] };
    const learnt = unwrap(lessons(input));
    expect(learnt.ended).toHaveLength(2);
    expect(unwrap(standing(input, learnt)).capacity.median).toBeLessThan(0.42);
    expect(unwrap(standing(input))).toEqual(unwrap(standing(input, learnt)));
  });
  test("a wider feed range widens the litres left, and an unread feed the front", () => {
    const wide = { ...tap, low: 100, high: 260 };
    const [narrow, broad] = [where({ outputs: clean(6), feed: 0 }), where({ outputs: clean(6), feed: 0, tap: wide })];
    expect(broad.left.high - broad.left.low).toBeGreaterThan(narrow.left.high - narrow.left.low);
    expect(broad.front.high - broad.front.low).toBeGreaterThan(narrow.front.high - narrow.front.low);
  });
  test("an empty vessel has no standing but a sentence", () => {
    const none = standing({ ...facts({ outputs: [0] }), charges: [] });
    expect(none.ok ? "" : none.fault.message).toMatch(/no charge/);
  });
  test("the litres left explain themselves", () => {
    for (const outputs of [[0], clean(9), [...clean(15), 3, 12]]) {
      const explanation = explainLeft(where({ outputs }));
      expect(evaluateExplanation(explanation)).toBeCloseTo(explanation.value, 6);
    }
  });
});

describe("the verdict", () => {
  const about = (ppm: readonly number[], more: Partial<VerdictInput> = {}) =>
    verdict({
      use: "glass",
      marks: MARKS["glass-10"],
      outputs: ppm.map((value) => value * 2),
      left: { low: 300, typical: 400 },
      spentShare: 0.95,
      capacityShare: 0.85,
      litresPerJob: 40,
      ...more,
    });
  const fresh = { spentShare: 0.4, capacityShare: 0.36 };

  test("goes from fine over watch and finish to change as the output rises", () => {
    expect(
      [[0], [0, 7], [0, 7, 12], [0, 7, 12, 21]].map((ppm) => about(ppm, ppm.length === 1 ? fresh : {}).state),
    ).toEqual(["fine", "watch", "finish", "change"]);
  });
  test("asks to read again when the front is far", () => {
    expect(about([0, 14], fresh)).toMatchObject({ state: "watch", reason: "odd-reading" });
    expect(about([0, 14, 15], fresh)).toMatchObject({ state: "finish" });
    expect(about([0, 40], fresh)).toMatchObject({ state: "change", reason: "odd-reading-above-hard" });
  });
  test("watches when the count says the end is near, whatever the meter shows", () => {
    expect(about([0]).reason).toBe("nearly-used");
    expect(about([0], { ...fresh, left: { low: 20, typical: 60 } }).reason).toBe("short-of-a-job");
  });
  test("of an aquarium rests on several readings and on nine tenths of the capacity", () => {
    const aquarium = { use: "aquarium" as const, marks: MARKS["aquarium-1"], ...fresh };
    expect(about([0, 0, 1], aquarium).state).toBe("fine");
    expect(about([1, 1, 1.2], aquarium)).toMatchObject({ state: "finish", reason: "above-limit" });
    expect(about([0, 0, 0], { ...aquarium, capacityShare: 0.91 })).toMatchObject({
      state: "change",
      reason: "capacity-used",
    });
  });
  test("without a reading rests on the count", () =>
    expect(about([], fresh)).toEqual({ state: "fine", reason: "no-reading" }));
});

describe("until anything leaks", () => {
  const where = unwrap(standing(facts({ outputs: [0, 0, 0, 0] })));

  test("comes earlier by what no meter shows, and never below nothing", () => {
    expect(leakLeft(where, { co2: 0, silica: 0 }).typical).toBeCloseTo(where.left.typical, 6);
    const little = leakLeft(where, { co2: 0.2, silica: 0.1 });
    const much = leakLeft(where, { co2: 2, silica: 0.1 });
    expect(little.typical).toBeLessThan(where.left.typical);
    expect(much.typical).toBeLessThan(little.typical);
    expect(leakLeft(where, { co2: 1e6, silica: 0 })).toEqual({ low: 0, typical: 0, high: 0 });
    for (const { low, typical, high } of [little, much]) {
      expect(low).toBeLessThanOrEqual(typical);
      expect(high).toBeGreaterThanOrEqual(typical);
    }
  });

  test("its whole life is the meter's by the ratio of the loads", () => {
    const unseen = { co2: 0.5, silica: 0.3 };
    const whole = where.used.litres + where.left.typical;
    const visible = where.feed.typical / 100;
    expect(where.used.litres + leakLeft(where, unseen).typical).toBeCloseTo((whole * visible) / (visible + 0.8), 6);
    expectTrue(explainLeakLeft(where, unseen));
    expectTrue(explainLeakLeft(where, { co2: 1e4, silica: 0 }));
  });

  test("behind a membrane only the silica shrinks", () => {
    expect(unseenBehindMembrane({ co2: 0.5, silica: 0.2 }, 0.95)).toEqual({
      co2: 0.5,
      silica: expect.closeTo(0.01, 9),
    });
  });
});
