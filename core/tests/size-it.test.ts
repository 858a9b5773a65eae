import { runs } from "./runs";
import fc from "fast-check";
import {
  describeWater,
  explainTimes,
  unwrap,
  type Claim,
  type DemandItem,
  type HabitName,
  type LoggedDay,
  type OptionSpec,
  type Practice,
  type SizeInput,
  type Water,
  type Use,
} from "../src/index";
import {
  bestSides,
  DEFAULT_PRICES,
  bringClaims,
  bucketFlow,
  byLimitSchool,
  costChange,
  crossing,
  demand,
  explainChangedAt,
  explainClaim,
  explainClaimConstant,
  explainCrossing,
  explainDemand,
  explainDemandSpread,
  explainHabit,
  explainOnlyBelow,
  explainEnds,
  explainOption,
  explainOutcome,
  explainSaving,
  explainWithout,
  generateOptions,
  GENERIC_SIZES,
  judgeFlow,
  loggedDemand,
  optionFigures,
  optionSchools,
  planFigures,
  planOutcome,
  ownBuilds,
  planQuestion,
  PRACTICE_ASSUMPTIONS,
  habitAgain,
  rankHabits,
  scenario,
  size,
  stageWorth,
  WITHOUT_ASSUMPTIONS,
  withoutOwnWater,
} from "../src/sizing";
import { evaluateExplanation } from "./evaluate-formula";
import { expectTrue } from "./explained";

const water = (value: number, part: Partial<Water> = {}): Water => ({
  reading: { value, scale: "nacl" },
  ph: 7.3,
  alkalinity: 118,
  silica: 6,
  temperature: 14,
  ...part,
});
const houses: DemandItem = { by: "jobs", name: "houses", perWeek: 22, litresEach: 60, quality: "guessed" };
const work = (part: Partial<SizeInput> = {}): SizeInput => ({
  demand: { items: [houses] },
  waters: { low: water(150), typical: water(168), high: water(192) },
  limit: { value: 10, scale: "nacl" },
  peakFlow: 3,
  ...part,
});
const { usualFlow: _usual, ...tankSize } = GENERIC_SIZES[4]!;
const tank = { vessel: tankSize, train: "single", grade: "virgin", supply: "bag" } as const;
const option = (before: OptionSpec["before"] = "nothing"): OptionSpec => ({ ...tank, before });
const euro = { currency: "EUR", from: "an assumption of 2026-11-25", assumed: true };

test("an option's ends rest on a weak and a strong batch where batches differ, its middle on the usual one", () => {
  const one = water(168);
  const question = unwrap(planQuestion(work({ waters: { low: one, typical: one, high: one } })));
  const litresOf = (grade: OptionSpec["grade"]) => unwrap(optionFigures({ ...option(), grade }, question)).litres;
  const { low, typical, high } = litresOf("regenerated");
  expect([low / typical, high / typical].map((ratio) => ratio.toFixed(4))).toEqual(["0.8333", "1.2500"]);
  expect(litresOf("virgin").low).toBe(litresOf("virgin").high);
});

describe("where a membrane begins to pay", () => {
  const small = work({ demand: { items: [{ ...houses, perWeek: 3 }] } });
  const found = unwrap(crossing({ work: small, option: tank }));

  /** Both yearly costs at a feed, straight from the options. */
  const { co2 } = unwrap(describeWater(water(168)));
  const costsAt = (ec25: number, asked: SizeInput) => {
    const question = unwrap(planQuestion(asked));
    const plain = { reading: { value: ec25, scale: "ec" as const }, co2, silica: 6, temperature: 14 };
    const waters = { low: plain, typical: plain, high: plain };
    const cost = (before: OptionSpec["before"]) => unwrap(scenario(option(before), { ...question, waters })).cost.total;
    return [cost("nothing"), cost("membrane")] as const;
  };

  test("both cost the same there, resin alone is dearer above and cheaper below", () => {
    const at = found.paysFrom.typical!;
    const [alone, behindIt] = costsAt(at, small);
    expect(alone / behindIt).toBeCloseTo(1, 3);
    expect(found.costThere).toBeCloseTo(alone, 0);
    const above = costsAt(1.3 * at, small);
    const below = costsAt(0.7 * at, small);
    expect(above[0]).toBeGreaterThan(above[1]);
    expect(below[0]).toBeLessThan(below[1]);
  });

  test("it pays earlier with more work and weaker resin, and the drawn curves are ranges in order", () => {
    const { low, typical, high } = found.paysFrom;
    expect(low!).toBeLessThan(typical!);
    expect(typical!).toBeLessThan(high!);
    for (const { alone, behind } of found.curve)
      for (const side of [alone, behind]) {
        expect(side.low).toBeLessThanOrEqual(side.typical);
        expect(side.typical).toBeLessThanOrEqual(side.high);
      }
    const busy = unwrap(crossing({ work: work(), option: tank }));
    expect(busy.paysFrom.typical!).toBeLessThan(typical!);
  });

  test("carbon dioxide costs money behind the membrane, and counts for the first leak more than for the meter", () => {
    expect(found.atTap.behind!).toBeGreaterThan(found.atTap.behindWithoutCo2!);
    const meter = unwrap(crossing({ work: { ...small, until: "meter" }, option: tank }));
    expect(meter.ifMeter).toBeCloseTo(meter.paysFrom.typical!, 6);
    expect(meter.ifLeak).toBeCloseTo(found.paysFrom.typical!, 6);
    expect(meter.atTap.behindWithoutCo2).toBeCloseTo(meter.atTap.behind!, 6);
  });

  test("work too little for it to pay ever is said by leaving it out; a wrong figure is refused where it stands", () => {
    const hardly = work({ demand: { items: [{ ...houses, perWeek: 0.02 }] } });
    expect(unwrap(crossing({ work: hardly, option: tank })).paysFrom.typical).toBeUndefined();
    const bad = crossing({ work: work({ peakFlow: -1 }), option: tank });
    expect(bad.ok ? "" : bad.fault.path).toBe("work.peakFlow");
    expect(crossing({ work: small, option: tank, before: "nothing" })).toMatchObject({ fault: { code: "no-stage" } });
  });
});

describe("what a pump or a barrel is worth", () => {
  test("its parts add up to what it changes, and it pays when that is below nothing", () => {
    for (const before of ["nothing", "membrane", "membrane-and-aeration"] as const) {
      for (const worth of unwrap(stageWorth({ work: work(), option: option(before) }))) {
        const { total, ...parts } = worth.change;
        expect(Object.values(parts).reduce((sum, part) => sum + part, 0)).toBeCloseTo(total, 9);
        expect(worth.with.cost.total - worth.without.cost.total).toBeCloseTo(total, 9);
        expect(worth.pays).toBe(total < 0);
        if (worth.addition === "second-membrane") {
          expect(worth.change.waste).toBeLessThan(-0.4 * worth.without.cost.waste);
          expect(worth.change.resin).toBeGreaterThan(0);
        } else expect(worth.change.resin).toBeLessThan(0);
      }
    }
  });

  test("only what isn't there yet is offered", () => {
    const offered = (before: OptionSpec["before"]) =>
      unwrap(stageWorth({ work: work(), option: option(before) })).map(({ addition }) => addition);
    expect(offered("nothing")).toEqual(["membrane", "aeration"]);
    expect(offered("aeration")).toEqual(["membrane"]);
    expect(offered("membrane")).toEqual(["booster", "aeration", "second-membrane"]);
    expect(offered("boosted-membrane-and-aeration")).toEqual(["second-membrane"]);
    const both = work({ before: { secondMembrane: true } });
    expect(unwrap(stageWorth({ work: both, option: option("boosted-membrane-and-aeration") }))).toEqual([]);
  });

  test("a barrel's bother is its labour: with a wage of nothing it saves more", () => {
    const barrel = (wage: number) =>
      unwrap(
        stageWorth({ work: work({ prices: { ...unwrap(planQuestion(work())).prices, wage } }), option: option() }),
      ).find(({ addition }) => addition === "aeration")!;
    expect(barrel(0).change.labour).toBe(0);
    expect(barrel(0).saves).toBeGreaterThan(barrel(30).saves);
    expect(costChange(barrel(0).with.cost, barrel(0).with.cost).total).toBe(0);
  });
});

describe("makers' claims", () => {
  const waters = work().waters;
  const claim = (part: Partial<Claim>): Claim => ({ name: "A", litres: 4000, scale: "nacl", ...part });
  const one = (part: Partial<Claim>) => unwrap(bringClaims({ claims: [claim(part)], waters }))[0]!;

  test("litres scale with the feed, and the capacity is the load by the resin", () => {
    const answer = one({ ppm: 84, resinLitres: 15, price: 100 });
    expect(answer.litres!.typical).toBeCloseTo(2000, 6);
    expect(answer.litres!.low).toBeCloseTo((4000 * 84) / 192, 6);
    expect(answer.capacity).toBeCloseTo((4000 * 1.68) / 15_000, 9);
    expect(answer.litresPerMoney).toBeCloseTo(20, 6);
    expect(answer.per1000Litres).toBeCloseTo(50, 6);
    expect(answer.litresToLeak!.typical).toBeLessThan(answer.litres!.typical);
    expect(answer).toMatchObject({ tooHigh: false, missing: [] });
  });

  test("the same claim on the natural-water scale is less water", () => {
    const nacl = one({ ppm: 100, resinLitres: 15 });
    const natural = one({ ppm: 100, scale: "442", resinLitres: 15 });
    expect(nacl.litres!.typical / natural.litres!.typical).toBeCloseTo(1.4, 9);
  });

  test("beyond what the beads hold is flagged, and where it stands among the constants in use", () => {
    expect(one({ ppm: 84, resinLitres: 9 })).toMatchObject({ tooHigh: true, band: "above" });
    expect(one({ ppm: 84, resinLitres: 12 })).toMatchObject({ tooHigh: false, band: "within" });
    expect(one({ ppm: 84, resinLitres: 30 })).toMatchObject({ tooHigh: false, band: "below" });
  });

  test("a claim that is too high is weighed by what its beads hold", () => {
    const wild = one({ ppm: 84, resinLitres: 5, price: 50 });
    expect(wild.litres!.typical).toBeCloseTo(2000, 6);
    expect(wild.credible).toBeCloseTo((0.56 * 5000) / 3.36, 6);
    expect(wild.litresPerMoney).toBeCloseTo(wild.credible! / 50, 9);
    const claims = [
      claim({ name: "wild", ppm: 84, resinLitres: 5, price: 50 }),
      claim({ name: "sober", ppm: 50, resinLitres: 9, price: 50 }),
    ];
    const [sober, last] = unwrap(bringClaims({ claims, waters }));
    expect([sober!.name, last!.name]).toEqual(["sober", "wild"]);
    expectTrue(explainClaim(claims[0]!, last!, 336, euro).per1000Litres!);
  });

  test("a set is bought once and filled again; over the years of the work the cheaper stands first", () => {
    const over = { years: 5, litresPerYear: 10_000, resinPrice: 9 };
    const claims = [
      claim({ name: "set", ppm: 84, resinLitres: 14, price: 200, priceOf: "set", refillPrice: 60 }),
      claim({ name: "fillings", ppm: 84, resinLitres: 14, price: 100 }),
      claim({ name: "set, own resin", ppm: 84, resinLitres: 14, price: 90, priceOf: "set" }),
      claim({ name: "no price", ppm: 84, resinLitres: 14 }),
    ];
    const answers = unwrap(bringClaims({ claims, waters, over }));
    expect(answers.map(({ name }) => name)).toEqual(["set", "fillings", "set, own resin", "no price"]);
    // 50,000 L at 2,000 L a filling are 25 fillings.
    expect(answers.map(({ overYears }) => overYears?.cost)).toEqual([
      expect.closeTo(200 + 24 * 60, 6),
      expect.closeTo(25 * 100, 6),
      expect.closeTo(90 + 24 * 14 * 9, 6),
      undefined,
    ]);
    for (const answer of answers)
      if (answer.overYears) {
        const explained = explainClaim(claims[answer.index]!, answer, 336, euro, over).overYears!;
        expect(explained.value).toBe(answer.overYears.per1000Litres);
        expectTrue(explained);
      }
    const idle = unwrap(bringClaims({ claims, waters, over: { ...over, litresPerYear: 100 } }));
    expect(idle.find(({ name }) => name === "set")!.overYears).toMatchObject({ fillings: 1, cost: 200 });
  });

  test("stand beside the same resin self-built and second-hand, at your own prices", () => {
    const [built, used] = unwrap(ownBuilds(8.5, waters.typical, DEFAULT_PRICES));
    expect(built).toMatchObject({ priceOf: "set", refillPrice: 8.5 * 9 });
    expect(built!.price).toBeCloseTo(45 + 4 * 10 + 76.5, 6);
    expect(used!.price).toBeCloseTo(0.4 * 85 + 76.5, 6);
    const answer = unwrap(bringClaims({ claims: [built!], waters }))[0]!;
    expect(answer.tooHigh).toBe(false);
    expect(answer.litres!.typical).toBeCloseTo((0.56 * 8500) / 3.36, 6);
  });

  test("a claim without a feed is not compared; it says below which feed it could be true", () => {
    const answer = one({ resinLitres: 10 });
    expect(answer.litres).toBeUndefined();
    expect(answer.missing.join(" ")).toMatch(/says no feed.*Without a price/);
    // At that feed virgin resin holds just the litres: q V / L.
    expect((0.56 * 10_000) / (answer.onlyBelow! / 100)).toBeCloseTo(4000, 6);
  });

  test("the better buy stands first, what can't be compared last", () => {
    const claims = [
      claim({ name: "none" }),
      claim({ name: "dear", ppm: 100, price: 200 }),
      claim({ name: "cheap", ppm: 100, price: 90 }),
    ];
    expect(unwrap(bringClaims({ claims, waters })).map(({ name }) => name)).toEqual(["cheap", "dear", "none"]);
    const bad = bringClaims({ claims: [claim({ litres: -4 })], waters });
    expect(bad.ok ? "" : bad.fault).toMatchObject({ path: "claims.0.litres" });
    expect(bringClaims({ claims: [claim({ name: " " })], waters })).toMatchObject({ fault: { code: "no-name" } });
  });
});

describe("habits", () => {
  const practice: Practice = { ...PRACTICE_ASSUMPTIONS, lowerFlow: 2.4, otherTap: water(96) };
  const ranked = (
    before: OptionSpec["before"] = "nothing",
    part: Partial<Practice> = {},
    asked = work(),
    use: Use = "glass",
  ) => unwrap(rankHabits({ work: asked, use, option: option(before), practice: { ...practice, ...part } }));
  const named = (name: HabitName, ...rest: Parameters<typeof ranked>) =>
    ranked(...rest).find((habit) => habit.name === name);

  test("each again, for the figures it was ranked with and for others, is what ranking all would say of it", () => {
    for (const before of ["nothing", "membrane"] as const)
      for (const habit of ranked(before)) {
        const same = { work: work(), option: option(before), practice };
        expect(habitAgain(habit, same)).toEqual(habit);
        const slower = { ...same, practice: { ...practice, pauseShare: 0.4, lowerFlow: 2, months: 6 } };
        const anew = unwrap(rankHabits(slower)).find(({ name }) => name === habit.name);
        expect(habitAgain(habit, slower)).toEqual(anew);
      }
    const [first] = ranked();
    expect(
      habitAgain(first!, { work: work(), option: option(), practice: { ...practice, months: -1 } }),
    ).toBeUndefined();
  });

  test("RO saves the same wherever it is said: best against best", () => {
    for (const until of ["leak", "meter"] as const)
      for (const use of ["glass", "aquarium"] as const) {
        const asked = work({ until });
        const { alone, membrane } = unwrap(bestSides(asked));
        const saved = alone!.cost.total - membrane!.cost.total;
        const { atTap, sides } = unwrap(crossing({ work: asked }));
        expect([sides.alone, sides.behind]).toEqual([alone!.spec, membrane!.spec]);
        expect(atTap.alone! - atTap.behind!).toBeCloseTo(saved, 6);
        expect(named("membrane", "nothing", {}, asked, use)!.money).toBeCloseTo(saved, 6);
        const { options } = unwrap(size(asked));
        expect(options.find(({ spec, feasible }) => feasible && spec.before === "nothing")!.cost.total).toBe(
          alone!.cost.total,
        );
      }
  });

  test("stand by the money they bring, and each is the difference of two years", () => {
    const habits = ranked();
    expect(habits.map(({ money }) => money)).toEqual(habits.map(({ money }) => money).sort((a, b) => b - a));
    for (const { money, now, then } of habits) {
      expect(money).toBeCloseTo(now.cost - then.cost, 6);
      for (const year of [now, then])
        expect((year.litresPerYear / year.litresPerCharge) * year.perRefill + year.besides).toBeCloseTo(year.cost, 6);
    }
  });

  const COMMON = ["aeration", "better-tap", "lead-lag", "packing", "sealed-storage"];
  test.each<[Use, OptionSpec["before"], readonly string[]]>([
    ["glass", "nothing", [...COMMON, "lower-flow", "membrane", "shut-off", "upright"]],
    ["paint", "nothing", [...COMMON, "lower-flow", "membrane", "shut-off", "tap-wash", "upright"]],
    ["aquarium", "nothing", [...COMMON, "membrane"]],
    // The membrane is slower than the tool: it fills a tank, whose flow saves no water.
    ["glass", "membrane", [...COMMON, "divert-start", "long-runs", "shut-off", "upright"]],
    ["paint", "membrane", [...COMMON, "divert-start", "long-runs", "shut-off", "tap-wash", "upright"]],
    ["aquarium", "membrane", [...COMMON, "divert-start", "long-runs"]],
  ])("of %s behind %s are its own", (use, before, names) => {
    const found = ranked(before, {}, work(), use).map(({ name }) => name as string);
    expect([...found].sort()).toEqual([...names].sort());
  });

  test("have their price, and the weeks until it is paid", () => {
    const off = named("shut-off")!;
    expect(off.oneOff).toBe(18);
    expect(off.paidInWeeks).toBeCloseTo((52 * 18) / off.money, 9);
    const ro = named("membrane")!;
    const { membrane } = unwrap(bestSides(work()));
    const pump = membrane!.spec.before.startsWith("boosted") ? 95 : 0;
    const tank = membrane!.spec.before.endsWith("aeration") ? 80 : 130;
    expect(ro.oneOff).toBeCloseTo(260 + pump + tank, 6);
    expect(ro.paidInWeeks).toBeCloseTo((52 * ro.oneOff) / (ro.money + ro.oneOff / 5), 6);
    expect(named("packing")).toMatchObject({ oneOff: 0 });
    expect(named("packing")!.paidInWeeks).toBeUndefined();
    const never = ranked().find(({ money, oneOff }) => money < 0 && oneOff > 0 && money + oneOff / 5 <= 0);
    if (never) expect(never.paidInWeeks).toBeUndefined();
  });

  test("shutting off at a fifth of pauses spares a fifth of the water and more than a tenth of the money", () => {
    const habit = named("shut-off")!;
    expect(habit.litres).toBeCloseTo(0.2 * 22 * 60 * 52, 6);
    expect(habit.money / habit.now.cost).toBeGreaterThan(0.1);
    expect(named("shut-off", "nothing", { pauseShare: 0 })!.money).toBeCloseTo(0, 9);
  });

  test("what is done already isn't praised again", () => {
    expect(named("packing", "nothing", { packing: "settled" })).toBeUndefined();
    expect(named("sealed-storage", "nothing", { container: "sealed-foil" })).toBeUndefined();
    expect(named("lower-flow", "nothing", { lowerFlow: 3 })).toBeUndefined();
    expect(named("better-tap", "nothing", {})!.money).toBeGreaterThan(0);
    const { otherTap: _, ...without } = practice;
    expect(
      unwrap(rankHabits({ work: work(), option: option(), practice: without })).some(
        ({ name }) => name === "better-tap",
      ),
    ).toBe(false);
    expect(named("membrane", "membrane")).toBeUndefined();
    expect(
      unwrap(rankHabits({ work: work(), option: { ...option(), train: "lead-lag" }, practice })).map(
        ({ name }) => name,
      ),
    ).not.toContain("lead-lag");
  });

  test("loose beads cost a fifth of the life; a leaning vessel whose bypass alone is above the limit gives nothing", () => {
    const loose = named("packing", "nothing", { packing: "loose-cartridge" })!;
    expect(loose.now.litresPerCharge / loose.then.litresPerCharge).toBeCloseTo(0.8, 6);
    const leaning = named("upright", "nothing", { leaningBypass: 0.1 })!;
    expect(leaning.outOfReachNow).toBe(true);
  });

  test("diverting pays only behind a membrane, longer where a start begins higher, and half the starts spare half", () => {
    expect(named("divert-start")).toBeUndefined();
    const usual = named("divert-start", "membrane", { startTimes: 20 })!;
    const higher = named("divert-start", "membrane", { startTimes: 60 })!;
    expect(higher.divertSeconds!).toBeGreaterThan(usual.divertSeconds!);
    expect(usual.money).toBeGreaterThan(0);
    const runs = (startsPerWeek: number) => named("long-runs", "membrane", { startsPerWeek })!.litres;
    expect(runs(6) / runs(3)).toBeCloseTo(2, 1);
    expect(named("divert-start", "membrane", { startTimes: 1 })).toMatchObject({ divertSeconds: 0, money: 0 });
  });

  test("a wrong figure of the practice is refused where it stands", () => {
    const refused = (part: Partial<Practice>) => {
      const answer = rankHabits({ work: work(), option: option(), practice: { ...practice, ...part } });
      return answer.ok ? "" : answer.fault.path;
    };
    expect(refused({ pauseShare: 1.2 })).toBe("practice.pauseShare");
    expect(refused({ packing: "heaped" as never })).toBe("practice.packing");
    expect(refused({ container: "sock" as never })).toBe("practice.container");
    expect(refused({ otherTap: {} })).toMatch(/^practice.otherTap/);
  });
});

describe("before and beside the vessel", () => {
  test("a bucket gives the flow, and a brush that gets too much is told by how much", () => {
    expect(unwrap(bucketFlow({ litres: 10, seconds: 150 }))).toBeCloseTo(4, 9);
    expect(bucketFlow({ litres: 10, seconds: 0 }).ok).toBe(false);
    expect(judgeFlow("brush", 3)).toEqual({ state: "fits", aim: 3, saves: 0 });
    expect(judgeFlow("brush", 5)).toEqual({ state: "too-much", aim: 4, saves: 1 - 4 / 5 });
    expect(judgeFlow("brush", 1).state).toBe("too-little");
    expect(judgeFlow("brush", 3, "far-past")).toMatchObject({ state: "too-much", aim: 3 * 0.7 });
    expect(judgeFlow("brush", 1.6, "far-past").aim).toBe(1.5);
    expect(judgeFlow("aquarium", 0.3).state).toBe("fits");
  });

  test("the log gives the demand: mean week, its quality, and the season once there is a year", () => {
    const day = (i: number) => new Date(Date.UTC(2026, 0, 5 + i)).toISOString().slice(0, 10);
    const days = (count: number, litres: (date: string) => number): LoggedDay[] =>
      Array.from({ length: count }, (_, i) => ({
        date: day(i),
        litres: litres(day(i)),
        quality: i % 3 ? "timed" : "metered",
      }));
    expect(
      loggedDemand(
        days(5, () => 100),
        day(5),
      ),
    ).toBeUndefined();
    const month = loggedDemand(
      days(28, () => 100),
      day(28),
    )!;
    expect(month).toMatchObject({ quality: "timed" });
    expect([month.litresPerWeek, month.weeks]).toEqual([700, 4]);
    expect(month.season).toBeUndefined();
    const year = loggedDemand(
      days(365, (date) => (date.slice(5, 7) === "07" ? 300 : 100)),
      day(365),
    )!;
    expect(Math.max(...year.season!)).toBe(year.season![6]);
    expect(year.season!.reduce((sum, each) => sum + each, 0) / 12).toBeCloseTo(1, 1);
    expect(loggedDemand([], day(9))).toBeUndefined();
  });

  test("under each school of limits the resin goes a little further, and nine tenths is nine tenths", () => {
    const question = unwrap(planQuestion(work()));
    const [ten, twenty, thirty] = unwrap(byLimitSchool(option(), question, "glass"));
    expect(ten!.litres).toBeLessThan(twenty!.litres);
    expect(twenty!.litres).toBeLessThan(thirty!.litres);
    expect(ten!.cost).toBeGreaterThan(thirty!.cost);
    const [one, , ninth] = unwrap(byLimitSchool(option(), question, "aquarium"));
    expect(ninth!.litres / one!.litres).toBeCloseTo(0.9, 9);
    expect(ninth!.cost).toBeGreaterThan(one!.cost);
    const barrels = unwrap(byLimitSchool(option("aeration"), question, "aquarium"));
    // The barrels take the same time however often the resin is changed.
    const labour = unwrap(scenario(option("aeration"), { ...question, limit: { value: 1, scale: "nacl" } })).barrels;
    expect(barrels[2]!.besides).toBeGreaterThan(labour);
    const whole = { ...explainDemand([houses]), value: one!.cost, formula: "w1" };
    const changed = explainChangedAt(
      { ...whole, inputs: [{ ...whole.inputs[0]!, value: one!.cost }] },
      ninth!.besides,
      0.9,
    );
    expect(changed.value).toBeCloseTo(ninth!.cost, 9);
    expect(evaluateExplanation(changed)).toBeCloseTo(ninth!.cost, 9);
  });

  test("each school of arithmetic speaks of the water that reaches the resin, and of all the vessels filled", () => {
    const question = unwrap(planQuestion(work()));
    const by = (spec: OptionSpec) =>
      Object.fromEntries(
        unwrap(optionSchools(spec, question, { constant: 200_000 })).map(({ school, typical }) => [school, typical]),
      );
    const alone = by(option());
    expect(alone["constant"]).toBeCloseTo((200_000 / 168) * ((28 * 0.86) / 28.316846592) * 3.785411784, 3);
    expect(alone["chemistry"]).toBeCloseTo(unwrap(optionFigures(option(), question)).lives.leak.typical, 6);
    expect(by({ ...option(), train: "twin" })["constant"]).toBeCloseTo(2 * alone["constant"]!, 6);
    expect(by(option("membrane"))["constant"]).toBeGreaterThan(10 * alone["constant"]!);
    const feeble = { ...question, setup: { ...question.setup, tapPressure: 5 } };
    expect(optionSchools(option("membrane"), feeble, { constant: 200_000 }).ok).toBe(false);
  });

  test("bought water and wiping are what it has to beat", () => {
    const wanted = unwrap(demand({ items: [houses] }));
    const without = unwrap(withoutOwnWater(wanted, { ...WITHOUT_ASSUMPTIONS, wage: 30 }));
    expect(without.bought).toBeCloseTo(22 * 60 * 52 * 0.25, 6);
    expect(without.tripsPerYear).toBeCloseTo((22 * 60 * 52) / 80, 6);
    expect(without.wiping).toBeCloseTo((22 * 52 * 12 * 30) / 60, 6);
    for (const each of Object.values(explainWithout(wanted, { ...WITHOUT_ASSUMPTIONS, wage: 30 }, without, "EUR")))
      expectTrue(each);
    const tanks: DemandItem = { by: "total", litresPerWeek: 100, quality: "metered" };
    expect(
      unwrap(withoutOwnWater(unwrap(demand({ items: [tanks] })), { ...WITHOUT_ASSUMPTIONS, wage: 30 })).wiping,
    ).toBeUndefined();
    expect(withoutOwnWater(wanted, { ...WITHOUT_ASSUMPTIONS, wage: 30, litresPerTrip: 0 }).ok).toBe(false);
  });
});

describe("a plan held against what happened", () => {
  const question = unwrap(planQuestion(work()));
  const figures = unwrap(optionFigures(option(), question));
  const expected = planFigures(figures, question.demand);
  const actual = { weeks: 10, litres: 13_200, charges: [figures.litres.typical], chargeSoFar: 100 };

  test("as planned, everything is within its range and the money is the plan's", () => {
    const lines = planOutcome(expected, actual);
    expect(lines.map(({ what, state }) => [what, state])).toEqual([
      ["week", "as-planned"],
      ["charge", "as-planned"],
      ["refills", "as-planned"],
      ["cost", "as-planned"],
    ]);
    expect(lines[3]!.actual).toBeCloseTo(expected.cost.total, 6);
    expect(lines[3]!.planned).toEqual({
      low: figures.costRange.low,
      typical: expected.cost.total,
      high: figures.costRange.high,
    });
  });

  test("twice the water and half the life are said, and what they cost", () => {
    const lines = planOutcome(expected, { ...actual, litres: 26_400, charges: [0.5 * figures.litres.low] });
    expect(lines.map(({ state }) => state)).toEqual(["above", "below", "above", "above"]);
  });

  test("each line explains itself from the log", () => {
    for (const told of [actual, { ...actual, charges: [], chargeSoFar: 2 * figures.litres.high }]) {
      const lines = planOutcome(expected, told);
      const explained = explainOutcome(expected, told, lines, "EUR");
      expect(Object.keys(explained)).toEqual(lines.map(({ what }) => what));
      for (const { what, actual: value } of lines) {
        expectTrue(explained[what]!);
        expect(explained[what]!.value).toBe(value);
      }
    }
    const only = planOutcome(expected, { ...actual, charges: [] });
    expect(Object.keys(explainOutcome(expected, actual, only, "EUR"))).toEqual(["week"]);
  });

  test("the first week says nothing, and a charge in use only once it has outdone the plan", () => {
    expect(planOutcome(expected, { ...actual, weeks: 0.5 })).toEqual([]);
    expect(planOutcome(expected, { ...actual, charges: [] })).toHaveLength(1);
    const outdone = planOutcome(expected, { ...actual, charges: [], chargeSoFar: 2 * figures.litres.high });
    expect(outdone[1]).toMatchObject({ what: "charge", state: "above" });
  });
});

describe("every number explains itself", () => {
  test("of every kind of option, down to its inputs", () => {
    const cases = fc.record({
      spec: fc.constantFrom(...generateOptions([{ ...GENERIC_SIZES[4]!, name: "Old tank" }])),
      until: fc.constantFrom("leak" as const, "meter" as const),
      perWeek: fc.constantFrom(0.5, 22),
      feed: fc.double({ min: 60, max: 400, noNaN: true }),
      before: fc.constantFrom({}, { fillFlow: 0.9 }, { secondMembrane: true }),
    });
    fc.assert(
      fc.property(cases, ({ spec, until, feed, perWeek, before }) => {
        const waters = { low: water(0.9 * feed), typical: water(feed), high: water(1.1 * feed) };
        const question = unwrap(
          planQuestion(work({ waters, until, before, demand: { items: [{ ...houses, perWeek }] } })),
        );
        const figures = unwrap(optionFigures(spec, question));
        const explained = explainOption(figures, question, euro);
        expect(explained.ok).toBe(figures.litres.typical > 0);
        if (!explained.ok) return;
        const { parts, ...rest } = explained.value;
        for (const explanation of [...Object.values(rest), ...Object.values(parts)]) expectTrue(explanation);
        expect(rest.litres.value).toBeCloseTo(figures.litres.typical, 6);
        expect(rest.cost.value).toBeCloseTo(figures.cost.total, 6);
        expect(60 * rest.hours.value).toBeCloseTo(figures.minutesPerYear, 6);
        expect(rest.purchase.value).toBeCloseTo(figures.purchase, 6);
        expect(rest.resin.value).toBeCloseTo(figures.resinPerYear, 6);
        expect(rest.water.value).toBeCloseTo(figures.waterPerYear, 6);
        expect(rest.waste?.value ?? 0).toBeCloseTo(figures.wastePerYear, 6);
        expect(rest.energy?.value ?? 0).toBeCloseTo(figures.energyPerYear, 6);
        const { prices } = question;
        expect(figures.cost.energy).toBeCloseTo(figures.energyPerYear * prices.power, 6);
        expect(figures.cost.water).toBeCloseTo((figures.waterPerYear * prices.water) / 1000, 6);
        expect(rest.pressure.value).toBeCloseTo(figures.pressureLoss, 6);
        expect(rest.daysBusiest.value).toBeCloseTo(figures.daysBusiest.typical, 6);
        if (figures.litres.low <= 0) return;
        const { litres, daysBusiest, daysQuietest, cost } = unwrap(explainEnds(figures, question, euro));
        for (const [ends, range] of [
          [litres, figures.litres],
          [daysBusiest, figures.daysBusiest],
          [daysQuietest, figures.daysQuietest],
          [cost, figures.costRange],
        ] as const)
          for (const end of ["low", "high"] as const) {
            expectTrue(ends[end]);
            expect(ends[end].value / range[end]).toBeCloseTo(1, 9);
          }
      }),
      { numRuns: runs(150) },
    );
  });

  test("of the demand, of claims, of habits and of a crossing", () => {
    expectTrue(
      explainDemand([
        houses,
        { by: "rinse", perWeek: 15, minutes: 6, flow: 4, quality: "timed" },
        { by: "tank", volume: 400, changeShare: 0.15, changesPerWeek: 2, evaporation: 3, quality: "metered" },
        { by: "total", litresPerWeek: 900, quality: "metered" },
      ]),
    );
    const stated: Claim = { name: "A", litres: 4000, ppm: 100, scale: "442", resinLitres: 12, price: 80 };
    const [answer] = unwrap(bringClaims({ claims: [stated], waters: work().waters }));
    const explained = explainClaim(stated, answer!, 336, euro);
    for (const each of Object.values(explained)) expectTrue(each);
    expect(explained.litres!.value).toBeCloseTo(answer!.litres!.typical, 9);
    expect(Object.keys(explained).sort()).toEqual([
      "byChemistry",
      "capacity",
      "litres",
      "litresToLeak",
      "per1000Litres",
    ]);
    expect(explained.byChemistry!.value).toBeCloseTo(answer!.byChemistry!, 9);
    expect(explainClaim({ name: "B", litres: 100, scale: "nacl" }, answer!, 336, euro)).toEqual({});
    expectTrue(explainClaimConstant(answer!.capacity!));
    expectTrue(explainOnlyBelow(stated, "nacl")!);
    expect(explainOnlyBelow({ name: "B", litres: 100, scale: "nacl" }, "nacl")).toBeUndefined();
    const practice = { ...PRACTICE_ASSUMPTIONS, lowerFlow: 2.4 };
    for (const habit of unwrap(rankHabits({ work: work(), option: option("membrane"), practice }))) {
      const { money, litres } = explainHabit(habit, euro);
      expectTrue(money);
      expectTrue(litres);
    }
    expectTrue(explainCrossing(180, "nacl", 1200, "EUR"));
    const mixed: DemandItem[] = [houses, { by: "total", litresPerWeek: 900, quality: "metered" }];
    const { week } = unwrap(demand({ items: mixed }));
    expectTrue(explainDemandSpread(mixed, week.high));
    const [dear, cheap] = [explainDemand([houses]), explainDemand(mixed)];
    expectTrue(explainSaving("Saved", dear, cheap));
    expectTrue(explainTimes(dear, 2));
    expect(explainTimes(dear, 2).value).toBe(2 * dear.value);
    expect(explainTimes(dear, 1)).toBe(dear);
  });
});

test("an option asked for by its figures stands in the ranking with the same ones", () => {
  const { options } = unwrap(size(work()));
  const found = options.find(({ name }) => name === "Tank, virgin resin")!;
  const { place: _, dominated: _d, because: _b, ...figures } = found;
  expect(unwrap(optionFigures(option(), unwrap(planQuestion(work()))))).toEqual(figures);
});
