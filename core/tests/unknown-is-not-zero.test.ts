import {
  beforeResin,
  compositionAtResin,
  explainHeadline,
  headlineOf,
  likelyCauses,
  MARKS,
  passagesRead,
  trainWorth,
  verdictTitle,
  verdictWords,
  withBefore,
  DEFAULT_PRICES,
  type BeforeFacts,
  type MembraneCheck,
  type PressureCheck,
  type Rig,
  type Service,
  type Tap,
  type Visit,
  type Wording,
} from "../src/index";
import { passage, stepOf } from "../src/run/readings";
import { shareWords } from "../src/run/verdict-words";
import { carbonDioxideOf, FIFTHS, usualAlkalinity } from "../src/water/unmeasured";
import { expectTrue } from "./explained";
import {
  clean,
  DAY,
  iso,
  meter,
  rigOf,
  standingOf,
  START,
  stagesOf,
  vesselOf,
  workOf,
  type StageTold,
  type Told,
} from "./told";
import { arranged, BEFORE, filled, trainOf } from "./train-told";

const wording: Wording = {
  litres: (litres) => `${Math.round(litres)} L`,
  litresRange: (low, high) => `${Math.round(low)} to ${Math.round(high)} L`,
  scaleUnit: (scale) => `ppm ${scale}`,
  day: (at) => iso(at).slice(0, 10),
};
const spoken = (told: Told) => ({ rig: rigOf(told), vessel: vesselOf(told) });
const AQUARIUM: Partial<Told> = {
  use: "aquarium",
  marks: MARKS["aquarium-1"],
  resin: 2,
  diameter: 100,
  flow: 1,
  litresPerJob: 60,
  litres: 60,
  feed: 0,
  stages: [{ kind: "membrane", rejection: 0.95 }],
};
const tapOf = (more: Partial<Tap>): Partial<Tap> => ({ low: 190, typical: 200, high: 210, ...more });

describe("carbon dioxide that nobody measured", () => {
  test.each([
    ["nothing", { ec25: 400 }, 5, 1],
    ["pH alone", { ec25: 400, ph: 7 }, 20.4, 0.45],
    ["alkalinity alone", { ec25: 400, alkalinity: 100 }, 5.1, 0.92],
    ["both", { ec25: 400, alkalinity: 100, ph: 7 }, 20.4, 0],
    ["itself", { ec25: 400, co2: 12, ph: 7 }, 12, 0],
  ])("is known by %s", (_, values, median, sd) => {
    const known = carbonDioxideOf(values);
    expect(known.median / median).toBeCloseTo(1, 1);
    expect(known.sd).toBe(sd);
  });
  test("half of the anions of a usual tap are bicarbonate, and its five values are the means of a normal's fifths", () => {
    expect(usualAlkalinity(400)).toBeCloseTo(0.5 * 4 * 50.04, 0);
    expect(FIFTHS.reduce<number>((sum, z) => sum + z, 0)).toBeCloseTo(0, 9);
    expect(FIFTHS.reduce<number>((sum, z) => sum + z * z, 0) / 5).toBeCloseTo(0.9, 1);
  });
  test("behind a membrane silica that nobody measured is 8 mg/L at the tap", () => {
    const stages = [{ id: "m", kind: "membrane", rejection: 0.95 }];
    const tap = { id: "tap", typical: 200, scale: "nacl", low: 190, high: 210 } as Tap;
    const water = compositionAtResin({ stages } as unknown as Rig, tap)!;
    expect(water.silica).toBeCloseTo((0.05 * 8) / 60.08, 5);
  });
  const told = (more: Partial<Tap>): Told => ({ ...AQUARIUM, outputs: clean(5), tap: tapOf(more) });
  const widthOf = (more: Partial<Tap>) => {
    const { leak } = standingOf(told(more));
    return leak!.high / leak!.low;
  };
  test("widens what is left, and each thing that is measured narrows it", () => {
    const widths = [
      widthOf({}),
      widthOf({ alkalinity: 100 }),
      widthOf({ ph: 7.6 }),
      widthOf({ alkalinity: 100, ph: 7.6 }),
    ];
    expect(widths).toEqual([...widths].sort((a, b) => b - a));
    expect(widths[0]! / widths[3]!).toBeGreaterThan(1.5);
  });
  test("is named, with what would narrow the range and to what", () => {
    const where = standingOf(told({}));
    const { low, high } = where.carbon!.narrowed;
    const sentence = `How much carbon dioxide your tap brings was never measured, and no membrane holds it back: with your tap’s KH and pH it would be about ${wording.litresRange(low, high)}.`;
    expect(verdictWords(where, spoken(told({})), wording).more).toContain(sentence);
    expect(high - low).toBeLessThan(0.8 * (where.leak!.high - where.leak!.low));
    const known = standingOf(told({ alkalinity: 100, ph: 7.6 }));
    expect(known.carbon).toBeUndefined();
    // What a measurement leaves is what the middle of what is believed would be.
    const middle = standingOf(told({ co2: undefined, ph: 7.6, alkalinity: usualAlkalinity(400) } as Partial<Tap>));
    expect(low / middle.leak!.low).toBeGreaterThan(0.75);
    expect(low / middle.leak!.low).toBeLessThan(1.33);
    expect(standingOf(told({ ph: 7.6 })).carbon!.by).toBe("ph");
    expect(verdictWords(standingOf(told({ ph: 7.6 })), spoken(told({})), wording).more.join(" ")).toMatch(
      /with your tap’s KH it/,
    );
    expect(verdictWords(standingOf(told({ alkalinity: 90 })), spoken(told({})), wording).more.join(" ")).toMatch(
      /with your tap’s pH it/,
    );
  });
  test("its explanation stays true, to the leak and to the limit", () => {
    expectTrue(explainHeadline(standingOf(told({})), spoken(told({})))!);
    const glass: Told = { ...told({}), use: "glass", marks: MARKS["glass-10"] };
    expectTrue(
      explainHeadline(
        standingOf({ ...glass, marks: { ...MARKS["glass-10"], watch: 1, limit: 2, hard: 4 } }),
        spoken(glass),
      )!,
    );
  });
  test("readings weigh it: one that stays clean beyond where much of it would show leaves less", () => {
    const marks = { watch: 0.5, limit: 1, hard: 3, scale: "nacl" as const };
    const much = (outputs: Told["outputs"]) => {
      const { belief } = workOf({ ...told({}), use: "glass", marks, outputs, litres: 150 });
      const ofCurve = belief.rows.length / 5;
      return belief.rows.slice(4 * ofCurve).reduce((sum, each) => sum + each, 0);
    };
    expect(much([])).toBeCloseTo(0.2, 6);
    expect(much(clean(20))).toBeLessThan(0.1);
  });
});

describe("a feed that meets the limit", () => {
  const told: Told = { ...AQUARIUM, outputs: clean(5), tap: tapOf({ low: 15, typical: 18, high: 20 }) };
  test("does not end the count: the first leak stands large, with what can be watched instead", () => {
    const where = standingOf(told);
    expect(where.feedMeetsLimit).toBe(true);
    expect(where.left).toBeUndefined();
    for (const use of ["aquarium", "glass"] as const) {
      const headline = headlineOf(where, { ...spoken(told), rig: rigOf({ ...told, use }) })!;
      expect(headline).toEqual({ litres: where.leak, to: "to the first leak" });
    }
    expect(verdictWords(where, spoken(told), wording).reason).toMatch(
      /left until anything leaks\. The feed itself meets your limit, so the meter won’t show the end: a silica test, the colour of dyed resin or the months will\.$/,
    );
    expectTrue(explainHeadline(where, spoken(told))!);
    expect(workOf(told).mark).toBeDefined();
  });
  test("of a water nobody knows says so, and dates nothing", () => {
    const unknown: Told = { outputs: clean(5), tap: { low: 3, typical: 4, high: 5 }, feed: 0 };
    const where = standingOf(unknown);
    expect(headlineOf(where, spoken(unknown))).toBeUndefined();
    expect(verdictWords(where, spoken(unknown), wording).reason).toMatch(
      /a meter shows no end\. With the tap’s KH and pH/,
    );
    expect(workOf(unknown).mark).toBeUndefined();
  });
});

describe("a reading of 0", () => {
  test("is below a step of its meter, as fine as that was seen to show", () => {
    expect([stepOf([]), stepOf([0, 12]), stepOf([0, 3.5]), stepOf([0.25, 3])]).toEqual([1, 1, 0.1, 0.01]);
  });
  const behind = (values: readonly number[], typical = 20): Told => ({
    outputs: clean(values.length),
    feed: 0,
    stages: [{ kind: "membrane", rejection: 0.95 }],
    tap: { low: 0.9 * typical, typical, high: 1.1 * typical },
    amend: (visits) =>
      visits.map((visit, i) => ({
        ...visit,
        readings: [...visit.readings, { id: `m${i}`, point: "after-membrane", value: values[i]!, meterId: "meter" }],
      })) as readonly Visit[],
  });
  test("behind the membrane is a reading: a quarter of a step loads the resin", () => {
    expect(standingOf(behind([0, 0, 0])).feed.typical).toBeCloseTo(0.25 * 2, 9);
    expect(standingOf(behind([0.3, 0, 0])).feed.typical).toBeCloseTo(0.025 * 2, 9);
    expect(standingOf(behind([0, 0, 0])).feed.isRead).toBe(true);
  });
  test("is far from usual only where half a step is", () => {
    // 1 ppm is usual behind it: half a step is half of that, near enough; 5 ppm are not.
    expect(standingOf(behind([0])).heldBack.feeds).toEqual([]);
    expect(standingOf(behind([0], 100)).heldBack.feeds).toHaveLength(1);
  });
});

describe("carbonic acid that ends a charge early", () => {
  const alkaline = (limit: number, use: Told["use"] = "glass"): Told => ({
    outputs: clean(3),
    ...(use ? { use } : {}),
    marks: { watch: limit / 2, limit, hard: 40, scale: "ec" },
    tap: { low: 400, typical: 420, high: 440, scale: "ec", alkalinity: 125, ph: 7.8, silica: 5 },
    feed: 0,
  });
  test("is said with the mark that it would not meet", () => {
    const { plateau } = standingOf(alkaline(10));
    expect(plateau!.ec25).toBeCloseTo(13.3, 0);
    expect(plateau!.raised).toBe(Math.ceil(1.2 * plateau!.ec25));
    expect(plateau!.early).toBeGreaterThan(0.1);
    expect(verdictWords(standingOf(alkaline(10)), spoken(alkaline(10)), wording).more.join(" ")).toMatch(
      /About 13 ppm ec of what comes out at the end is carbonic acid: it dries away without a spot\. Your mark of 10 ends the charge \S+ \S+ early; a mark of 17 would not\.$/,
    );
  });
  test("is nothing to a higher mark, nor to what swims", () => {
    expect(standingOf(alkaline(18)).plateau).toBeUndefined();
    expect(standingOf(alkaline(10, "aquarium")).plateau).toBeUndefined();
    expect(standingOf({ ...alkaline(10), tap: { low: 400, typical: 420, high: 440 } }).plateau).toBeUndefined();
  });
  test.each([
    [0.1, "a tenth"],
    [0.2, "a fifth"],
    [0.25, "a quarter"],
    [0.33, "a third"],
    [0.5, "half"],
    [0.7, "more than half"],
  ])("%d is %s", (share, words) => expect(shareWords(share)).toBe(words));
});

describe("two membranes", () => {
  const of = (...stages: readonly StageTold[]) => passage({ stages: stagesOf(...stages) });
  const first = { kind: "membrane", rejection: 0.95 } as const;
  test("product through both multiplies; one on what the first wastes mixes", () => {
    expect(of(first)).toBeCloseTo(0.05, 12);
    expect(of(first, { ...first, fedBy: "product" })).toBeCloseTo(0.0025, 12);
    expect(of(first, first)).toBeCloseTo(0.0025, 12);
    // 0.4 made of 1: the rest carries (1 - 0.4 × 0.05)/0.6, of which 0.24 more are made.
    const waste = (1 - 0.4 * 0.05) / 0.6;
    expect(of(first, { ...first, fedBy: "reject" })).toBeCloseTo((0.05 * 0.4 + 0.05 * waste * 0.24) / 0.64, 12);
    // Nothing before it wastes anything.
    expect(of({ ...first, fedBy: "reject" })).toBeCloseTo(0.05, 12);
  });
});

describe("what stands before the resin", () => {
  const rig = rigOf(AQUARIUM);
  const at = (day: number) => iso(START + day * DAY);
  const facts = (more: Partial<BeforeFacts>): BeforeFacts => ({
    ...{ rig, visits: [], membraneChecks: [], pressureChecks: [], services: [] },
    meters: new Map([["meter", meter]]),
    ...more,
  });
  const check = (day: number, feed: number, product: number, more: Partial<MembraneCheck> = {}) =>
    ({
      id: `c${day}`,
      rigId: "rig",
      at: at(day),
      scale: "nacl",
      feed,
      product,
      clean: false,
      ...more,
    }) as MembraneCheck;
  const logged = (day: number, feed: number, product: number): Visit => ({
    ...{ id: `v${day}`, rigId: "rig", tapId: "tap", at: at(day) },
    readings: [
      { id: "f", point: "feed", value: feed, meterId: "meter" },
      { id: "m", point: "after-membrane", value: product, meterId: "meter" },
    ],
  });
  test("a check and the log both tell what a membrane lets through, a check with whatever was read", () => {
    const read = passagesRead(
      facts({ membraneChecks: [check(2, 40, 3)], visits: [logged(1, 200, 10), logged(3, 200, 0)] }),
    );
    expect(read.map(({ passage: share, by }) => [share, by])).toEqual([
      [0.05, "log"],
      [0.075, "check"],
      [0.00125, "log"],
    ]);
    expect(passagesRead(facts({ membraneChecks: [check(1, 40, 41)] }))).toEqual([]);
    expect(passagesRead(facts({ visits: [{ ...logged(1, 200, 10), rigId: "other" }] }))).toEqual([]);
  });
  const usual = [1, 2, 3, 4].map((day) => logged(day, 200, 10));
  test("a membrane climbs when it is above its own usual twice running", () => {
    expect(beforeResin(facts({ visits: [...usual, logged(5, 200, 16)] })).climbing).toBeUndefined();
    const twice = beforeResin(facts({ visits: [...usual, logged(5, 200, 16), logged(6, 200, 17)] }));
    expect(twice.climbing).toMatchObject({ passage: 0.085, usual: 0.05 });
    expect(beforeResin(facts({ visits: [...usual, logged(5, 200, 14), logged(6, 200, 14)] })).climbing).toBeUndefined();
    // Three looks make a usual; a check when it was clean is one by itself.
    const two = [...usual.slice(0, 2), logged(5, 200, 16), logged(6, 200, 16)];
    expect(beforeResin(facts({ visits: two })).climbing).toBeUndefined();
    const three = [...usual.slice(0, 3), logged(5, 200, 16), logged(6, 200, 16)];
    expect(beforeResin(facts({ visits: three })).climbing?.usual).toBe(0.05);
    // What is usual is that of the first seven.
    const first = [10, 10, 10, 12, 12, 12, 12, 10, 10].map((out, i) => logged(i / 4, 200, out));
    expect(beforeResin(facts({ visits: [...first, logged(5, 200, 19), logged(6, 200, 19)] })).climbing?.usual).toBe(
      0.06,
    );
    const since = [check(4, 200, 10, { clean: true })];
    expect(beforeResin(facts({ visits: two, membraneChecks: since })).climbing?.usual).toBe(0.05);
    const renewed = [{ id: "s", rigId: "rig", part: "membrane", at: at(5.5) }] as unknown as Service[];
    expect(beforeResin(facts({ visits: two, membraneChecks: since, services: renewed })).climbing).toBeUndefined();
  });
  const strip = (day: number, chlorine: number) =>
    ({ id: `p${day}`, rigId: "rig", at: at(day), chlorine }) as PressureCheck;
  const carbon = (day: number) => ({ id: "k", rigId: "rig", part: "carbon", at: at(day) }) as unknown as Service;
  test("chlorine behind the carbon stops the filling until the carbon is new or a strip finds none", () => {
    expect(beforeResin(facts({ pressureChecks: [strip(1, 0.1)] })).chlorineAt).toBe(START + DAY);
    expect(beforeResin(facts({ pressureChecks: [strip(1, 0.05)] })).chlorineAt).toBeUndefined();
    expect(beforeResin(facts({ pressureChecks: [strip(1, 0.5), strip(2, 0)] })).chlorineAt).toBeUndefined();
    expect(beforeResin(facts({ pressureChecks: [strip(1, 0.5)], services: [carbon(2)] })).chlorineAt).toBeUndefined();
    expect(beforeResin(facts({ pressureChecks: [strip(3, 0.5)], services: [carbon(2)] })).chlorineAt).toBeDefined();
    const seen = [check(2, 200, 10, { seen: { "chlorine-behind-carbon": true } })];
    expect(beforeResin(facts({ membraneChecks: seen })).chlorineAt).toBe(START + 2 * DAY);
    // Where neither a membrane nor an animal is harmed nothing is stopped.
    expect(
      beforeResin(facts({ pressureChecks: [strip(1, 1)], rig: rigOf({ use: "glass" }) })).chlorineAt,
    ).toBeUndefined();
  });
  test("is said first, in the verdict, the title and the words", () => {
    const told: Told = { ...AQUARIUM, outputs: clean(5) };
    const where = standingOf(told);
    const before = { chlorineAt: START, climbing: { passage: 0.08, usual: 0.05, at: START } };
    const asked = { ...where, verdict: withBefore(where.verdict, before) };
    expect(asked.verdict).toEqual({ state: "finish", reasons: ["chlorine", "membrane-climbs"] });
    expect(headlineOf(asked, { ...spoken(told), before })).toEqual({ word: "Don’t fill" });
    expect(verdictTitle(asked, { use: "paint" } as never)).toBe("Change the carbon");
    const { reason, more } = verdictWords(asked, { ...spoken(told), before }, wording);
    expect(reason).toBe(
      "Chlorine shows behind the carbon since 2027-03-01: it kills what swims, and eats the membrane. Don’t fill; change the carbon, then test again.",
    );
    expect(more[0]).toBe("The membrane lets 8 % through, usually 5 %: check it before the resin pays for it.");
    expect(withBefore(where.verdict, {})).toEqual(where.verdict);
    expect(withBefore({ state: "change", reasons: ["above-hard"] }, before).state).toBe("change");
  });
});

describe("readings that the count does not explain", () => {
  test("lead to their likely causes, the way round the beads before spent resin", () => {
    const told: Told = { outputs: [0, 14, 15, 16] };
    const causes = likelyCauses(standingOf(told)).map(({ cause }) => cause);
    expect(causes.indexOf("bypass")).toBeLessThan(causes.indexOf("exhausted"));
    const late = likelyCauses(standingOf({ outputs: [...clean(22), 14, 15, 16] })).map(({ cause }) => cause);
    expect(late[0]).toBe("exhausted");
  });
  test("lean on how much of the capacity is used, and on how near the feed it reads", () => {
    const where = standingOf({ outputs: [0, 14, 15, 16] });
    const orderAt = (more: Partial<typeof where>) =>
      likelyCauses({ ...where, ...more }).map(({ cause, logOdds }) => `${cause} ${logOdds}`);
    const read = (share: number) => ({ groups: [{ ...where.groups[0]!, ec25: share * where.feed.typical }] });
    expect(orderAt({ promisedShare: 0.9 })).not.toEqual(orderAt({ promisedShare: 0.89 }));
    expect(orderAt({ promisedShare: 0.89 })).toEqual(orderAt({ promisedShare: 0.06 }));
    expect(orderAt({ promisedShare: 0.05 })).not.toEqual(orderAt({ promisedShare: 0.06 }));
    expect(orderAt(read(0.8))).not.toEqual(orderAt(read(0.79)));
    expect(orderAt(read(0.8))).toEqual(orderAt(read(0.9)));
  });
});

describe("a train behind a membrane", () => {
  const told = (count: number) => ({
    stages: [{ kind: "membrane", rejection: 0.95 }, { kind: "resin" }, { kind: "resin" }] as const,
    arrangements: [arranged("first", BEFORE, ["a", "b"], "rig", 1)],
    charges: [filled("a", BEFORE, { resinLitres: 1.4 }), filled("b", BEFORE, { resinLitres: 1.4 })],
    days: Array.from({ length: count }, () => ({ last: 0, feed: 160 })),
    use: "aquarium" as const,
  });
  test("never holds more than all its anion beds, and its lag is loaded by what no meter sees", () => {
    const { beds } = trainOf(told(1));
    const [lead, lag] = beds.map(({ worked }) => worked);
    const { leak } = lag!.standing;
    // Each litre brings at least the median's carbonic acid: of 320 µS/cm, 4 mg/L.
    const most = (2 * 1.4 * 560 * Math.exp(0.25 * 1.2816)) / (4 / 44.01) / Math.exp(-1.2816);
    expect(leak!.high).toBeLessThan(most);
    expect(leak!.typical).toBeGreaterThan(lead!.standing.leak!.typical);
    // Twice the beads, and at 140 bed volumes an hour a front that is twice as sharp for its bed.
    expect(leak!.typical).toBeLessThan(3.2 * lead!.standing.leak!.typical);
    // Nobody reads behind them: by the count the lead's anion beads give way long before a meter would show it.
    const unread = {
      ...told(20),
      charges: [filled("a", BEFORE), filled("b", BEFORE)],
      litres: 1100,
      days: Array.from({ length: 20 }, () => ({ feed: 160 })),
    };
    const { ledger, promisedShare } = trainOf(unread).beds[1]!.worked.standing;
    const seen = ledger.lines.reduce((sum, { litres, feedEc25 }) => sum + (litres * feedEc25) / 100, 0);
    const { anions, cations } = ledger.loads!;
    expect(anions).toEqual([...anions].sort((a, b) => a - b));
    expect(anions.reduce((sum, each) => sum + each, 0) / 5).toBeGreaterThan(1.5 * seen);
    for (const each of cations) expect(each).toBeLessThan(0.2 * seen);
    // The share that asks for a change is of what ends it, the anion beads.
    expect(promisedShare).toBeGreaterThan(0.05);
    for (const { worked } of beds)
      expectTrue(explainHeadline(worked.standing, { rig: rigOf(AQUARIUM), vessel: vesselOf({}) })!);
  });
  test("tells what each act would give to the first leak", () => {
    const acts = trainWorth(trainOf(told(20)), { use: "aquarium" }, DEFAULT_PRICES, 20);
    expect(acts.map(({ act }) => act)).toEqual(["rotate", "run-lead", "run-out", "replace-all"]);
    const [rotate, runLead, runOut, all] = acts.map(({ litres }) => litres.typical);
    expect(all).toBeGreaterThan(rotate!);
    expect(rotate).toBeGreaterThan(runOut!);
    expect(runLead).toBeGreaterThan(rotate!);
  });
});
