import { runs } from "./runs";
import fc from "fast-check";
import { describeWater, unwrap, type Water } from "../src/index";
import {
  behind,
  BEFORE,
  bringClaims,
  bucketFlow,
  costChange,
  crossing,
  DEFAULT_PRICES,
  demand,
  explainOption,
  generateOptions,
  GENERIC_SIZES,
  judgeFlow,
  litresStanding,
  loggedDemand,
  optionFigures,
  planFigures,
  planOutcome,
  planQuestion,
  PRACTICE_ASSUMPTIONS,
  rankHabits,
  resinIn,
  scenario,
  size,
  sizeOf,
  stageWorth,
  TOOL_FLOWS,
  withoutOwnWater,
  WITHOUT_ASSUMPTIONS,
  yearlyCost,
  type DemandItem,
  type OptionSpec,
  type Prices,
  type SizeInput,
} from "../src/sizing";
import { anyNumber, expectAnswerOrSentence } from "./answer-or-sentence";

const water = (value: number, part: Partial<Water> = {}): Water => ({
  reading: { value, scale: "nacl" },
  ph: 7.3,
  alkalinity: 118,
  silica: 6,
  ...part,
});
const houses: DemandItem = { by: "jobs", perWeek: 22, litresEach: 60, quality: "guessed" };
const work = (part: Partial<SizeInput> = {}): SizeInput => ({
  demand: { items: [houses] },
  waters: { low: water(150), typical: water(168), high: water(192) },
  limit: { value: 10, scale: "nacl" },
  peakFlow: 3,
  ...part,
});
const tank = { vessel: sizeOf(GENERIC_SIZES[4]!), train: "single", grade: "virgin", supply: "bag" } as const;
const specs = generateOptions([]);
const anySpec = fc.constantFrom(...specs);

/** Work and a tap that somebody might really have. */
const likely = fc.record({
  perWeek: fc.double({ min: 1, max: 60, noNaN: true }),
  litresEach: fc.double({ min: 10, max: 150, noNaN: true }),
  feed: fc.double({ min: 40, max: 450, noNaN: true }),
  peakFlow: fc.double({ min: 0.3, max: 6, noNaN: true }),
});
const workOf = ({
  perWeek,
  litresEach,
  feed,
  peakFlow,
}: {
  perWeek: number;
  litresEach: number;
  feed: number;
  peakFlow: number;
}) =>
  work({
    demand: { items: [{ by: "jobs", perWeek, litresEach, quality: "timed" }] },
    waters: { low: water(0.9 * feed), typical: water(feed), high: water(1.1 * feed) },
    peakFlow,
  });

describe("whatever figures come in, an answer is finite or a sentence", () => {
  test("of the work", () => {
    fc.assert(
      fc.property(anyNumber, anyNumber, anyNumber, anyNumber, (a, b, c, d) => {
        const items: DemandItem[] = [
          { by: "jobs", perWeek: a, litresEach: b, quality: "guessed" },
          { by: "rinse", perWeek: b, minutes: c, flow: d, quality: "timed" },
          { by: "tank", volume: a, changeShare: c, changesPerWeek: d, evaporation: b, quality: "metered" },
          { by: "total", litresPerWeek: d, quality: "metered" },
        ];
        for (const item of items) expectAnswerOrSentence(demand({ items: [item] }));
        expectAnswerOrSentence(demand({ items: [houses], season: Array<number>(12).fill(a) }));
      }),
    );
  });

  test("of the bounds, the water and the stages before the resin", () => {
    fc.assert(
      fc.property(anyNumber, anyNumber, anyNumber, anyNumber, (a, b, c, d) => {
        expectAnswerOrSentence(planQuestion(work({ peakFlow: a, liftLimit: b, budget: c })));
        expectAnswerOrSentence(
          planQuestion(work({ pressure: { supply: a, needed: b }, limit: { value: c, scale: d } })),
        );
        expectAnswerOrSentence(
          planQuestion(work({ before: { recovery: a, tapPressure: b, aerationHours: c, batch: d } })),
        );
        expectAnswerOrSentence(planQuestion(work({ before: { fillFlow: a } })));
        for (const before of BEFORE) expectAnswerOrSentence(behind(before, water(a, { temperature: b }), c));
      }),
      { numRuns: runs(60) },
    );
  });

  test("of an option with any price and any vessel", () => {
    fc.assert(
      fc.property(anySpec, anyNumber, anyNumber, anyNumber, (spec, a, b, c) => {
        const prices: Prices = { ...DEFAULT_PRICES, wage: a, years: b, membraneYears: c };
        expectAnswerOrSentence(optionFigures(spec, unwrap(planQuestion(work({ prices })))));
        const vessel = { ...spec.vessel, grossVolume: a, diameter: b, fillFraction: c };
        expectAnswerOrSentence(optionFigures({ ...spec, vessel }, unwrap(planQuestion(work()))));
      }),
      { numRuns: runs(80) },
    );
  });

  test("of claims, habits, crossings and what stands beside them", () => {
    fc.assert(
      fc.property(anyNumber, anyNumber, anyNumber, anyNumber, (a, b, c, d) => {
        const claims = [{ name: "A", litres: a, ppm: b, scale: "nacl" as const, resinLitres: c, price: d }];
        expectAnswerOrSentence(bringClaims({ claims, waters: work().waters }));
        const practice = { ...PRACTICE_ASSUMPTIONS, lowerFlow: a, pauseShare: b, startTimes: c, months: d };
        expectAnswerOrSentence(rankHabits({ work: work(), option: { ...tank, before: "membrane" }, practice }));
        expectAnswerOrSentence(bucketFlow({ litres: a, seconds: b }));
        const asked = { ...WITHOUT_ASSUMPTIONS, wage: a, litresPerTrip: b, minutesPerJob: c };
        expectAnswerOrSentence(withoutOwnWater(unwrap(demand({ items: [houses] })), asked));
      }),
      { numRuns: runs(60) },
    );
    fc.assert(
      fc.property(anyNumber, anyNumber, (a, b) => {
        const asked = work({
          prices: { ...DEFAULT_PRICES, membraneUnit: a, resin: { ...DEFAULT_PRICES.resin, virgin: b } },
        });
        expectAnswerOrSentence(crossing({ work: asked, option: tank }));
        expectAnswerOrSentence(stageWorth({ work: asked, option: { ...tank, before: "nothing" } }));
      }),
      { numRuns: runs(12) },
    );
  });
});

describe("whatever the work, the tap and the option", () => {
  test("a cost is its parts, and all prices twice are the money twice", () => {
    fc.assert(
      fc.property(anySpec, likely, (spec, given) => {
        const twice: Prices = {
          ...DEFAULT_PRICES,
          ...Object.fromEntries(
            (
              [
                "delivery",
                "vesselPerLitre",
                "vesselBase",
                "membraneUnit",
                "membrane",
                "prefiltersPerYear",
                "boosterPump",
                "madeWaterTank",
                "aerator",
                "roomPerYear",
                "water",
                "waste",
                "power",
                "wage",
              ] as const
            ).map((name) => [name, 2 * DEFAULT_PRICES[name]]),
          ),
          resin: { virgin: 18, dyed: 19, regenerated: 11 },
        };
        const at = (prices: Prices) => unwrap(optionFigures(spec, unwrap(planQuestion({ ...workOf(given), prices }))));
        const [once, doubled] = [at(DEFAULT_PRICES), at(twice)];
        expect(doubled.cost.total).toBeCloseTo(2 * once.cost.total, 6);
        const { total, ...parts } = once.cost;
        expect(Object.values(parts).reduce((sum, part) => sum + part, 0)).toBeCloseTo(total, 6);
        for (const part of Object.values(parts)) expect(part).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: runs(80) },
    );
  });

  test("ranges are in order, the meter's life is never the shorter, and a refill every so often is the year", () => {
    fc.assert(
      fc.property(anySpec, likely, (spec, given) => {
        const question = unwrap(planQuestion(workOf(given)));
        const figures = unwrap(optionFigures(spec, question));
        const { leak, meter } = figures.lives;
        for (const range of [leak, meter, figures.daysBusiest, figures.daysQuietest]) {
          expect(range.low).toBeLessThanOrEqual(range.typical);
          expect(range.typical).toBeLessThanOrEqual(range.high);
        }
        for (const end of ["low", "typical", "high"] as const) expect(meter[end]).toBeGreaterThanOrEqual(leak[end]);
        expect(figures.refillsPerYear * figures.litres.typical).toBeCloseTo(
          figures.litres.typical > 0 ? question.demand.year.typical : 0,
          3,
        );
        expect(figures.feasible).toBe(figures.reasons.length === 0);
        expect(figures.resinLitres).toBeCloseTo(resinIn(spec.vessel) * (spec.train === "twin" ? 2 : 1), 9);
      }),
      { numRuns: runs(120) },
    );
  });

  test("no option that another beats in everything stands first, whatever matters most", () => {
    fc.assert(
      fc.property(
        likely,
        fc.constantFrom("money" as const, "weight" as const, "refills" as const),
        (given, priority) => {
          const { options } = unwrap(size({ ...workOf(given), priority }));
          const [first] = options;
          expect(first!.dominated).toBe(false);
          const feasible = options.filter((option) => option.feasible);
          const place = options.findIndex((option) => !option.feasible);
          expect(place === -1 ? feasible.length : place).toBe(feasible.length);
        },
      ),
      { numRuns: runs(12) },
    );
  });

  test("aeration never adds carbon dioxide, a booster never lets more salt through, and neither changes what is fed", () => {
    fc.assert(
      fc.property(likely, fc.double({ min: 2, max: 30, noNaN: true }), ({ feed, peakFlow }, temperature) => {
        const fed = water(feed, { temperature });
        const of = (before: (typeof BEFORE)[number]) => unwrap(behind(before, fed, peakFlow));
        const seen = (before: (typeof BEFORE)[number]) => unwrap(describeWater(of(before).water));
        expect(seen("aeration").co2).toBeLessThanOrEqual(seen("nothing").co2);
        expect(seen("membrane-and-aeration").co2).toBeLessThanOrEqual(seen("membrane").co2);
        expect(seen("boosted-membrane").ec25).toBeLessThan(seen("membrane").ec25);
        expect(of("boosted-membrane").makingFlow!).toBeGreaterThan(of("membrane").makingFlow!);
        expect(of("membrane").wasteRatio).toBeCloseTo(1.5, 9);
        expect(seen("nothing").ec25).toBe(unwrap(describeWater(fed)).ec25);
      }),
    );
  });

  test("a tank filled slower never shortens the life, costs pressure or buys more; behind a membrane it changes no life", () => {
    const tankFilled = (given: Parameters<typeof workOf>[0], fillFlow: number) =>
      unwrap(planQuestion({ ...workOf(given), before: { fillFlow } }));
    fc.assert(
      fc.property(
        anySpec,
        likely,
        fc.double({ min: 0.2, max: 3, noNaN: true }),
        fc.double({ min: 0.1, max: 1, noNaN: true }),
        (spec, given, fillFlow, share) => {
          const of = (flow: number) => unwrap(optionFigures(spec, tankFilled(given, flow)));
          const [faster, slower] = [of(fillFlow), of(share * fillFlow)];
          const straight = unwrap(optionFigures(spec, unwrap(planQuestion(workOf(given)))));
          expect(slower.purchase).toBe(faster.purchase);
          expect(slower.purchase).toBeLessThanOrEqual(straight.purchase);
          if (spec.before.includes("membrane")) expect(slower.litres).toEqual(faster.litres);
          else {
            expect(slower.pressureLoss).toBeLessThanOrEqual(faster.pressureLoss);
            // Where the front is sharp already, uneven flow alone decides, and it does not go by the flow's speed.
            for (const end of ["low", "typical", "high"] as const)
              expect(slower.litres[end]).toBeGreaterThanOrEqual(0.995 * faster.litres[end]);
          }
        },
      ),
      { numRuns: runs(120) },
    );
  });

  test("what a year takes is what its parts cost, at any price", () => {
    fc.assert(
      fc.property(anySpec, likely, fc.double({ min: 0.01, max: 100, noNaN: true }), (spec, given, price) => {
        const prices: Prices = { ...DEFAULT_PRICES, power: price, water: price, waste: 2 * price };
        const figures = unwrap(optionFigures(spec, unwrap(planQuestion({ ...workOf(given), prices }))));
        if (figures.refillsPerYear === 0) return;
        expect(figures.cost.energy).toBeCloseTo(price * figures.energyPerYear, 6);
        expect(figures.cost.water).toBeCloseTo((price * figures.waterPerYear) / 1000, 6);
        expect(figures.cost.waste).toBeCloseTo((2 * price * figures.wastePerYear) / 1000, 6);
        expect(figures.resinPerYear).toBeCloseTo(figures.refillsPerYear * figures.resinLitres, 6);
      }),
      { numRuns: runs(60) },
    );
  });

  test("a charge that stands loses the more the longer it stands, and never comes to nothing", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 1e6, noNaN: true }),
        fc.double({ min: 10, max: 1e6, noNaN: true }),
        (litres, perYear) => {
          const left = litresStanding(litres, perYear);
          expect(left).toBeGreaterThan(0);
          expect(left).toBeLessThanOrEqual(litres);
          expect(litresStanding(litres, 2 * perYear)).toBeGreaterThanOrEqual(left);
          // Days of it: more work never lengthens them.
          expect(litresStanding(litres, 2 * perYear) / (2 * perYear)).toBeLessThanOrEqual(left / perYear);
        },
      ),
    );
  });

  test("less water, or more of it from the same charge, never costs more", () => {
    fc.assert(
      fc.property(anySpec, likely, fc.double({ min: 0.1, max: 1, noNaN: true }), (spec, given, share) => {
        const question = unwrap(planQuestion(workOf(given)));
        const now = scenario(spec, question);
        if (!now.ok) return;
        const less = unwrap(scenario(spec, question, now.value.litresPerYear * share));
        expect(less.cost.total).toBeLessThanOrEqual(now.value.cost.total + 1e-9);
        const asked = { spec, ways: unwrap(behind(spec.before, question.waters.typical, question.peakFlow)) };
        const cost = (litresPerCharge: number) =>
          yearlyCost({ ...asked, prices: DEFAULT_PRICES, setup: question.setup, peakFlow: 3 }, 10_000, litresPerCharge);
        expect(cost(900 / share).total).toBeLessThanOrEqual(cost(900).total);
        expect(costChange(cost(900), cost(900 / share)).water).toBeCloseTo(0, 9);
      }),
      { numRuns: runs(100) },
    );
  });

  test("dearer resin makes a membrane pay earlier, a dearer membrane later", () => {
    const small = { items: [{ ...houses, perWeek: 3 }] };
    const from = (part: Partial<Prices>) =>
      unwrap(crossing({ work: work({ demand: small, prices: { ...DEFAULT_PRICES, ...part } }), option: tank })).paysFrom
        .typical!;
    const usual = from({});
    expect(from({ resin: { virgin: 14, dyed: 14, regenerated: 9 } })).toBeLessThan(usual);
    expect(from({ membraneUnit: 420 })).toBeGreaterThan(usual);
    expect(from({ waste: 6 })).toBeGreaterThan(usual);
    expect(from({ boosterPump: 900 })).toBeCloseTo(usual, 9);
  });

  test("a judged flow is never above what the tool can use nor above what it is", () => {
    fc.assert(
      fc.property(
        fc.constantFrom("brush" as const, "lance" as const, "aquarium" as const),
        fc.double({ min: 0.01, max: 50, noNaN: true }),
        fc.constantFrom("among" as const, "past" as const, "far-past" as const),
        (tool, flow, reach) => {
          const { aim, saves, state } = judgeFlow(tool, flow, reach);
          expect(aim).toBeLessThanOrEqual(TOOL_FLOWS[tool].to);
          expect(saves).toBeGreaterThanOrEqual(0);
          if (state !== "too-little") expect(aim).toBeLessThanOrEqual(flow);
          expect(saves > 0).toBe(state === "too-much");
        },
      ),
    );
  });

  test("demand out of a log is the log's own mean, whatever the order of its days", () => {
    const day = (i: number) => new Date(Date.UTC(2026, 2, 2 + i)).toISOString().slice(0, 10);
    const days = fc.array(fc.double({ min: 0, max: 500, noNaN: true }), { minLength: 10, maxLength: 60 });
    fc.assert(
      fc.property(days, (litres) => {
        fc.pre(litres.some((each) => each > 1));
        const logged = litres.map((each, i) => ({ date: day(i), litres: each, quality: "timed" as const }));
        const found = loggedDemand(logged, day(litres.length));
        const mean = litres.reduce((sum, each) => sum + each, 0) / litres.length;
        expect(found!.litresPerWeek).toBeCloseTo(7 * mean, 6);
        expect(loggedDemand([...logged].reverse(), day(litres.length))).toEqual({
          ...found,
          litresPerWeek: expect.closeTo(found!.litresPerWeek, 6),
        });
      }),
    );
  });

  test("a plan whose log is just the plan is as planned", () => {
    fc.assert(
      fc.property(anySpec, likely, (spec, given) => {
        const question = unwrap(planQuestion(workOf(given)));
        const figures = unwrap(optionFigures(spec, question));
        if (figures.litres.typical <= 0) return;
        const expected = planFigures(figures, question.demand);
        const told = {
          weeks: 52,
          litres: question.demand.year.typical,
          charges: [figures.litres.typical],
          chargeSoFar: 0,
        };
        const lines = planOutcome(expected, told);
        expect(lines.map(({ state }) => state)).toEqual(Array(4).fill("as-planned"));
        expect(lines[3]!.actual).toBeCloseTo(figures.cost.total, 4);
      }),
      { numRuns: runs(80) },
    );
  });

  test("an option that gives nothing is explained by a sentence, one that gives something by its workings", () => {
    const strict = unwrap(planQuestion(work({ limit: { value: 0.001, scale: "nacl" }, peakFlow: 6 })));
    const words = { currency: "EUR", from: "here", assumed: true };
    const of = (spec: OptionSpec) => explainOption(unwrap(optionFigures(spec, strict)), strict, words);
    const [small, large] = [specs[0]!, specs.find(({ vessel }) => vessel.name === "Large tank")!];
    expect(of(small).ok).toBe(false);
    expectAnswerOrSentence(of(small));
    expect(of(large).ok).toBe(unwrap(optionFigures(large, strict)).litres.typical > 0);
  });
});
