import { runs } from "./runs";
import fc from "fast-check";
import {
  compare,
  describeComposition,
  explainMembrane,
  explainRated,
  FLOW_WATCH,
  logarithmicMean,
  membrane,
  membraneState,
  membraneWear,
  nextStep,
  unwrap,
  type ChargeFigures,
  type CreepInput,
  type MembraneFigures,
  type MembraneInput,
} from "../src/index";
import { creep } from "../src/membrane/creep";
import { rejected, twoInARow } from "../src/membrane/two-in-a-row";
import { expectTrue } from "./explained";

const amount = (max: number) => fc.double({ min: 0, max, noNaN: true });

describe("composition", () => {
  test.each([
    [{}, 7, 0.055],
    [{ inorganicCarbon: 0.014 }, 5.64, 0.9],
    [{ na: 1, cl: 1 }, 7, 123.7],
    [{ ca: 5, cl: 10 }, 7, 1203],
    [{ na: 10, so4: 5 }, 7, 1124],
  ])("%j has pH %d and %d µS/cm, as measured", (ions, ph, ec25) => {
    const answer = unwrap(describeComposition(ions));
    expect(answer.ph).toBeCloseTo(ph, 1);
    expect(Math.abs(answer.ec25 / ec25 - 1)).toBeLessThan(0.01);
  });

  test("strong acid lowers the pH, strong base raises it, and nothing conducts less than pure water", () => {
    fc.assert(
      fc.property(amount(5), amount(5), amount(3), amount(1), (na, cl, inorganicCarbon, silica) => {
        const base = { na, cl, inorganicCarbon, silica };
        const answer = unwrap(describeComposition(base));
        expect(answer.ec25).toBeGreaterThanOrEqual(0.05);
        expect(unwrap(describeComposition({ ...base, cl: cl + 0.1 })).ph).toBeLessThan(answer.ph);
        expect(unwrap(describeComposition({ ...base, na: na + 0.1 })).ph).toBeGreaterThan(answer.ph);
      }),
    );
  });

  test("ions that no pH balances are refused with a sentence", () => {
    const answer = describeComposition({ cl: 1000, no3: 1000 });
    expect(answer.ok ? "" : answer.fault.code).toBe("no-ph");
    expect(describeComposition({ na: -1 }).ok).toBe(false);
  });
});

const rated = { flow: 0.19, rejection: 0.97, pressure: 345, ec25: 1000, recovery: 0.15 };
const works = fc.record({
  ec25: fc.double({ min: 50, max: 1500, noNaN: true }),
  temperature: fc.double({ min: 2, max: 40, noNaN: true }),
  pressure: fc.double({ min: 250, max: 1200, noNaN: true }),
  recovery: fc.double({ min: 0.05, max: 0.6, noNaN: true }),
});
const inputOf = ({ ec25, temperature, pressure, recovery }: { [name: string]: number }): MembraneInput => ({
  feed: { ec25: ec25!, temperature: temperature!, pressure: pressure! },
  recovery: recovery!,
  rated,
});

describe("membrane", () => {
  test("a membrane that does what it should keeps its normalized flow whatever the water and the day", () => {
    const figures = (input: MembraneInput): MembraneFigures | undefined => {
      const made = membrane(input);
      if (!made.ok) return undefined;
      return {
        feedEc25: input.feed.ec25,
        productEc25: made.value.ec25,
        temperature: input.feed.temperature,
        pressure: input.feed.pressure,
        productFlow: made.value.flow,
        wasteFlow: made.value.flow * made.value.wasteRatio,
      };
    };
    const clean = figures(inputOf({ ec25: 400, temperature: 15, pressure: 400, recovery: 0.25 }))!;
    fc.assert(
      fc.property(works, (work) => {
        const today = figures(inputOf(work));
        if (!today) return;
        const state = unwrap(membraneState(today, clean));
        expect(state.flowShare).toBeCloseTo(1, 9);
        expect(state.recovery).toBeCloseTo(work.recovery, 9);
      }),
    );
  });

  test("more pressure makes more and purer water; more recovery wastes less and passes more", () => {
    fc.assert(
      fc.property(works, (work) => {
        const answer = membrane(inputOf(work));
        const pressed = membrane(inputOf({ ...work, pressure: work.pressure * 1.1 }));
        const recovered = membrane(inputOf({ ...work, recovery: work.recovery * 1.1 }));
        if (!answer.ok || !pressed.ok || !recovered.ok) return;
        expect(pressed.value.flow).toBeGreaterThan(answer.value.flow);
        expect(pressed.value.ec25).toBeLessThanOrEqual(answer.value.ec25);
        expect(recovered.value.wasteRatio).toBeLessThan(answer.value.wasteRatio);
        expect(recovered.value.ec25).toBeGreaterThanOrEqual(answer.value.ec25);
      }),
    );
  });

  test("a second membrane on the waste of the first: no salt and no water is lost, and less runs away", () => {
    let balanced = 0;
    fc.assert(
      fc.property(works, (work) => {
        const both = twoInARow(inputOf(work));
        const one = membrane(inputOf(work));
        if (!both.ok || !one.ok) return;
        balanced += 1;
        const { flow, ec25, wasteRatio, first, second, firstRecovery } = both.value;
        const fed = first.flow / firstRecovery;
        const between = fed - first.flow;
        const wasted = flow * wasteRatio;
        expect(second.flow / work.recovery).toBeCloseTo(between, 6);
        expect(fed / (flow + wasted)).toBeCloseTo(1, 9);
        const left = rejected(rejected(work.ec25, first.ec25, firstRecovery), second.ec25, work.recovery);
        expect((flow * ec25 + wasted * left) / (fed * work.ec25)).toBeCloseTo(1, 9);
        expect(wasteRatio).toBeLessThan(one.value.wasteRatio);
        expect(flow).toBeLessThan(2.1 * one.value.flow);
        expect(second.ec25).toBeGreaterThan(first.ec25);
      }),
    );
    expect(balanced).toBeGreaterThan(20);
  });

  test("what drives nothing through the second of two membranes is said", () => {
    const feeble = inputOf({ ec25: 9000, temperature: 12, pressure: 480, recovery: 0.5 });
    expect(twoInARow(feeble)).toMatchObject({ ok: false, fault: { code: "no-driving-pressure" } });
    expect(twoInARow({ ...feeble, recovery: 0 })).toMatchObject({ ok: false });
  });

  const clean: MembraneFigures = {
    feedEc25: 420,
    productEc25: 13,
    temperature: 17,
    pressure: 410,
    permeatePressure: 10,
    productFlow: 0.12,
    wasteFlow: 0.36,
  };
  const first = (today: Partial<MembraneFigures>, seen = {}) =>
    unwrap(membraneWear({ ...clean, ...today }, clean, seen))[0]!;

  test("flow lost at full pressure points at the membrane, lost with the pressure at what clogs before it", () => {
    expect(first({ productFlow: 0.098 }).cause).toBe("membrane-worn");
    expect(first({ pressure: 330, productFlow: 0.094 }, { "sediment-old": true }).cause).toBe("prefilter-clogged");
    expect(first({ productEc25: 26 }).cause).toBe("membrane-worn");
    expect(first({ pressure: 360 }, { "chlorine-behind-carbon": true, "carbon-old": true }).cause).toBe("carbon-spent");
  });

  test("nothing is cited that nobody looked at, and what to try next has the most chance for its money", () => {
    const suspects = unwrap(membraneWear({ ...clean, pressure: 330, productFlow: 0.094 }, clean, {}));
    for (const { reasonsFor, reasonsAgainst } of suspects)
      expect([...reasonsFor, ...reasonsAgainst].map(({ observation }) => observation)).not.toContain(
        "pressure-falls-running",
      );
    const likeliest = (chance: number, cause: "membrane-worn" | "prefilter-clogged") => ({
      ...suspects[0]!,
      cause,
      chance,
    });
    const both = [likeliest(0.6, "membrane-worn"), likeliest(0.4, "prefilter-clogged")];
    expect(nextStep(both, 70)).toMatchObject({ suspect: { cause: "prefilter-clogged" }, costs: 10 });
    expect(nextStep([both[0]!, likeliest(0.05, "prefilter-clogged")], 70)!.costs).toBe(70);
    expect(nextStep([likeliest(0.1, "membrane-worn")], 70)).toBeUndefined();
  });

  test("each suspect names what speaks for it and what against", () => {
    const { reasonsFor, reasonsAgainst } = first({ productFlow: 0.098 }, { "membrane-old": false });
    expect(reasonsFor.map(({ observation }) => observation)).toContain("flow-lost");
    expect(reasonsAgainst.map(({ observation }) => observation)).toContain("membrane-old");
  });

  test("what it should make explains itself", () => {
    fc.assert(
      fc.property(works, (work) => {
        const explained = explainRated(inputOf(work));
        if (!explained.ok) return;
        expectTrue(explained.value.flow);
        expectTrue(explained.value.product);
      }),
      { numRuns: runs(30) },
    );
  });

  test("a product above the feed, or no driving pressure, is refused", () => {
    expect(membraneState({ ...clean, productEc25: 500 }).ok).toBe(false);
    expect(membraneState({ ...clean, pressure: 20 }).ok).toBe(false);
  });

  test("each of its figures can be worked again from its explanation", () => {
    const today = { ...clean, temperature: 9, productFlow: 0.08 };
    const { rejection, recovery, waste, flow } = unwrap(explainMembrane(today, clean));
    for (const explanation of [rejection, recovery, waste, flow]) expectTrue(explanation);
    expect(flow.value / 100).toBeCloseTo(unwrap(membraneState(today, clean)).flowShare!, 9);
    expect(flow.value / 100).toBeLessThan(FLOW_WATCH);
  });
});

describe("start-up creep", () => {
  const times = [0, 12, 30, 55, 90, 140, 220, 340];
  const curve = (initial: number, floor: number, tau: number): CreepInput => ({
    readings: times.map((seconds) => ({ seconds, value: floor + (initial - floor) * Math.exp(-seconds / tau) })),
    scale: "ec",
    flow: 1.4,
  });

  test("a clean curve is found again", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 400, noNaN: true }),
        fc.double({ min: 0.02, max: 0.7, noNaN: true }),
        fc.double({ min: 15, max: 160, noNaN: true }),
        (initial, share, tau) => {
          const floor = initial * share;
          const found = unwrap(creep(curve(initial, floor, tau)));
          expect(Math.abs(found.initial / initial - 1)).toBeLessThan(1e-3);
          expect(Math.abs(found.tau / tau - 1)).toBeLessThan(1e-3);
          expect(found.fitError).toBeLessThan(1e-3 * initial);
          const area = (1.4 * (initial - floor) * (tau / 60)) / 100;
          expect(Math.abs(found.loadPerStart / area - 1)).toBeLessThan(3e-3);
        },
      ),
      { numRuns: runs(60) },
    );
  });

  test("the order of the readings does not matter, and money scales as it should", () => {
    const input = { ...curve(150, 18, 52), startsPerWeek: 5, pricePerEquivalent: 11, pricePerLitre: 0.002 };
    const forwards = unwrap(creep(input));
    const backwards = unwrap(creep({ ...input, readings: [...input.readings].reverse() }));
    expect(backwards).toEqual(forwards);
    expect(forwards.costPerYear).toBeCloseTo((forwards.loadPerStart * 5 * 52 * 11) / 1000, 9);
    const cheaper = unwrap(creep({ ...input, pricePerLitre: 0.001 }));
    expect(cheaper.divertSeconds! - forwards.divertSeconds!).toBeCloseTo(forwards.tau * Math.LN2, 6);
  });

  test("a first reading two or three τ late still tells the start, with a meter's own noise too", () => {
    const noise = [1.01, 0.985, 1.02, 0.99, 1.005, 0.98, 1.015, 1];
    for (const late of [26, 39]) {
      const readings = times.map((seconds, i) => ({
        seconds: late + seconds / 4,
        value: (18 + 240 * Math.exp(-(late + seconds / 4) / 13)) * noise[i]!,
      }));
      const found = unwrap(creep({ readings, scale: "ec", flow: 1.4 }));
      expect(Math.abs(found.floor / 18 - 1)).toBeLessThan(0.03);
      expect(Math.abs(found.tau / 13 - 1)).toBeLessThan(0.35);
    }
  });

  test("any falling set has its curve or a sentence, and a floor is never below nothing", () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.1, max: 5000, noNaN: true }), { minLength: 4, maxLength: 12 }),
        fc.double({ min: 0.5, max: 500, noNaN: true }),
        (values, gap) => {
          const readings = [...values].sort((a, b) => b - a).map((value, i) => ({ seconds: i * gap, value }));
          const answer = creep({ readings, scale: "ec", flow: 2 });
          if (Math.max(...values) === Math.min(...values)) return expect(answer.ok).toBe(false);
          const { initial, floor, fitError } = unwrap(answer);
          expect(floor).toBeGreaterThanOrEqual(0);
          expect(initial).toBeGreaterThan(floor);
          const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
          const flat = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
          expect(fitError).toBeLessThan(flat);
        },
      ),
      { numRuns: runs(200) },
    );
  });

  test("a straight fall to nearly nothing is fitted with its floor at 0", () => {
    const readings = [40, 30, 20, 10, 1].map((value, i) => ({ seconds: 60 * i, value }));
    const found = unwrap(creep({ readings, scale: "ec", flow: 1 }));
    expect(found.floor).toBe(0);
    expect(found.initial).toBeCloseTo(42.1, 1);
  });

  test.each([[[60, 40, 20]], [[10, 11, 13, 20]], [[10, 10, 10, 10]]])(
    "%j can't be fitted, and that is said",
    (values) => {
      const readings = values.map((value, i) => ({ seconds: 30 * i, value }));
      const answer = creep({ readings, scale: "ec", flow: 1 });
      expect(answer.ok ? "" : answer.fault.code).toBe("no-fit");
    },
  );
});

describe("why two charges differ", () => {
  const positive = fc.double({ min: 0.05, max: 4, noNaN: true });
  const charge = fc.record({
    capacity: positive,
    resin: positive.map((value) => 10 * value),
    load: positive,
    waterPerJob: positive.map((value) => 50 * value),
  });

  test("the effects add up to the difference exactly, and turn round with the charges", () => {
    fc.assert(
      fc.property(charge, charge, (first, second) => {
        const { jobsFirst, jobsSecond, effects } = unwrap(compare({ first, second }));
        const sum = Object.values(effects).reduce((total, effect) => total + effect, 0);
        expect(Math.abs(sum - (jobsSecond - jobsFirst))).toBeLessThan(1e-9 * (1 + jobsFirst + jobsSecond));
        const turned = unwrap(compare({ first: second, second: first })).effects;
        for (const factor of Object.keys(effects) as (keyof ChargeFigures)[])
          expect(Math.abs(turned[factor] + effects[factor])).toBeLessThan(1e-9 * (1 + Math.abs(effects[factor])));
      }),
    );
  });

  test("the logarithmic mean lies between its numbers", () => {
    fc.assert(
      fc.property(positive, positive, (a, b) => {
        const mean = logarithmicMean(a, b);
        expect(mean).toBeGreaterThanOrEqual(Math.min(a, b) * (1 - 1e-12));
        expect(mean).toBeLessThanOrEqual(Math.max(a, b) * (1 + 1e-12));
      }),
    );
  });

  test("a figure of 0 is refused at its place", () => {
    const good = { capacity: 0.5, resin: 10, load: 3, waterPerJob: 100 };
    const answer = compare({ first: good, second: { ...good, load: 0 } });
    expect(answer.ok ? "" : answer.fault.path).toBe("second.load");
  });
});
