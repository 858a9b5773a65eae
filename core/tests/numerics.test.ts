import fc from "fast-check";
import { leastSquares3 } from "../src/numerics/least-squares";
import { logNormalCdf } from "../src/numerics/normal";
import { nearestRank, NORMAL_90, RANGE_10_90_IN_SD, weightedQuantile } from "../src/numerics/quantile";
import { risingRoot } from "../src/numerics/root";
import {
  capacityGrid,
  capacityOf,
  capacityRange,
  finite,
  frontBelief,
  learnWidths,
  MARKS,
  meanBreakthrough,
  flowPaths,
  priorWidths,
  throughputsAt,
  within,
  fail,
  succeed,
  unwrap,
  type FrontReading,
} from "../src/index";

describe("roots", () => {
  test("of rising functions are found wherever they lie", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 99, noNaN: true }), fc.constantFrom(1, 3, 9), (where, power) => {
        const root = risingRoot((x) => x ** power - where ** power, 0, 100);
        expect(Math.abs(root - where) / where).toBeLessThan(1e-4);
      }),
    );
  });
  test("at or beyond an end are that end", () => {
    expect(risingRoot((x) => x + 1, 0, 5)).toBe(0);
    expect(risingRoot((x) => x - 9, 0, 5)).toBe(5);
    expect(risingRoot((x) => x, 0, 5)).toBe(0);
  });
});

describe("the normal distribution", () => {
  test("has its known values, and both tails add up", () => {
    expect(Math.exp(logNormalCdf(0))).toBeCloseTo(0.5, 6);
    expect(Math.exp(logNormalCdf(NORMAL_90))).toBeCloseTo(0.9, 6);
    expect(Math.exp(logNormalCdf(-1.959964))).toBeCloseTo(0.025, 6);
    fc.assert(
      fc.property(fc.double({ min: -7, max: 7, noNaN: true }), (z) => {
        expect(Math.exp(logNormalCdf(z)) + Math.exp(logNormalCdf(-z))).toBeCloseTo(1, 6);
      }),
    );
  });
  test("stays finite far out in the tail, where a probability underflows", () => {
    expect(logNormalCdf(-200)).toBeLessThan(-20_000);
    expect(Number.isFinite(logNormalCdf(-1e6))).toBe(true);
    expect(logNormalCdf(40)).toBeCloseTo(0, 12);
  });
  test("spans 2.563 standard deviations between its 10 and 90 % points", () => {
    expect(RANGE_10_90_IN_SD).toBeCloseTo(2.563, 3);
  });
});

describe("quantiles", () => {
  test("by nearest rank", () => {
    expect([0, 0.1, 0.5, 0.9, 1].map((share) => nearestRank([1, 2, 3, 4, 5, 6, 7, 8, 9, 10], share))).toEqual([
      1, 1, 5, 9, 10,
    ]);
  });
  test("by weight", () => {
    expect(weightedQuantile([1, 2, 3], [1, 8, 1], 0.5)).toBe(2);
    expect(weightedQuantile([1, 2, 3], [9, 0, 1], 0.95)).toBe(3);
    expect(weightedQuantile([1, 2, 3], [0, 0, 0], 0.5)).toBe(1);
  });
});

describe("results", () => {
  test("keep the way to the field as they come out", () => {
    const inner = fail("out-of-range", "No.", "volume");
    expect(within("bed", inner)).toEqual({
      ok: false,
      fault: { code: "out-of-range", message: "No.", path: "bed.volume" },
    });
    expect(within("bed", fail("odd", "No."))).toMatchObject({ fault: { path: "bed" } });
    expect(within("bed", succeed(3))).toEqual({ ok: true, value: 3 });
  });
  test("let no number through that is none, however deep", () => {
    expect(finite({ a: [{ b: 1 }], c: "text", d: null }).ok).toBe(true);
    for (const bad of [NaN, Infinity, -Infinity]) expect(finite({ a: [{ b: bad }] }).ok).toBe(false);
  });
  test("unwrapped throw their sentence", () => {
    expect(() => unwrap(fail("odd", "Close the bypass."))).toThrow("Close the bypass.");
  });
});

describe("what the readings say of the front", () => {
  const transferUnits = 30;
  const feedEc25 = 320;
  const truth = { capacity: 0.5, width: 0.1 };
  const grid = capacityGrid(0.56, []);
  const readingAt = (used: number, width = truth.width): FrontReading => ({
    used,
    ec25: feedEc25 * meanBreakthrough(used / truth.capacity, transferUnits, flowPaths(width)),
    feedEc25,
    sd: 2,
  });
  const fullFront = (width = truth.width) =>
    [0.2, 0.3, 0.36, 0.4, 0.42, 0.44, 0.46, 0.48].map((used) => readingAt(used, width));
  const ask = (readings: readonly FrontReading[]) => ({
    grid,
    widths: priorWidths(),
    readings,
    transferUnits,
    floor: 0,
  });

  test("finds the capacity that made them", () => {
    const { low, median, high } = capacityRange(capacityOf(frontBelief(ask(fullFront()))));
    expect(median).toBeGreaterThan(0.46);
    expect(median).toBeLessThan(0.54);
    expect(high / low).toBeLessThan(1.15);
  });
  test("learns a wide front from a wide one and a sharp one from a sharp one", () => {
    const meanWidth = (width: number) => {
      const learnt = learnWidths(ask(fullFront(width)));
      return learnt.width.reduce((sum, each, i) => sum + each * learnt.weight[i]!, 0);
    };
    expect(meanWidth(0.15)).toBeGreaterThan(1.5 * meanWidth(0.03));
  });
  test("weights are shares of one belief", () => {
    const { weight } = frontBelief(ask(fullFront()));
    const total = weight.reduce((sum, row) => sum + row.reduce((inner, each) => inner + each, 0), 0);
    expect(total).toBeCloseTo(1, 9);
    expect(priorWidths().weight.reduce((sum, each) => sum + each, 0)).toBeCloseTo(1, 12);
  });
  test("no reading leaves the count as it was", () => {
    const [before, after] = [capacityRange(grid), capacityRange(capacityOf(frontBelief(ask([]))))];
    expect(after.median).toBeCloseTo(before.median, 6);
    expect(after.low).toBeCloseTo(before.low, 6);
  });
  test("one stray reading among clean ones hardly counts", () => {
    const cleanReadings = [0.1, 0.15, 0.2, 0.22].map((used) => ({ ...readingAt(used), ec25: 0 }));
    const stray: FrontReading = { used: 0.23, ec25: 40, feedEc25, sd: 2 };
    const [without, withStray] = [cleanReadings, [...cleanReadings, stray]].map(
      (readings) => capacityRange(capacityOf(frontBelief(ask(readings)))).median,
    );
    expect(withStray!).toBeGreaterThan(0.85 * without!);
  });
  test("a mark is reached later on a sharp front than on a wide one", () => {
    const limit = MARKS["glass-10"].limit * 2;
    const throughputs = throughputsAt(limit, feedEc25, 0, transferUnits, priorWidths());
    expect([...throughputs]).toEqual([...throughputs].sort((a, b) => b - a));
    expect(throughputsAt(limit, 10, 0, transferUnits, priorWidths())[0]).toBeCloseTo(1 + 1 / transferUnits, 9);
  });
});

describe("three unknowns by least squares", () => {
  const row = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -5, max: 5, noNaN: true }))) as unknown as fc.Arbitrary<
    readonly [number, number, number]
  >;
  test("are found again from exact values, and leave residuals at right angles to the rows", () => {
    fc.assert(
      fc.property(
        row,
        fc.array(row, { minLength: 3, maxLength: 20 }),
        fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 20, maxLength: 20 }),
        (wanted, some, noise) => {
          const rows = [...some, [1, 0, 0] as const, [0, 1, 0] as const, [0, 0, 1] as const];
          const value = (each: readonly number[]) => each.reduce((sum, x, i) => sum + x * wanted[i]!, 0);
          const exact = leastSquares3(rows, rows.map(value))!;
          exact.forEach((found, i) => expect(found).toBeCloseTo(wanted[i]!, 6));
          const values = rows.map((each, i) => value(each) + noise[i % 20]!);
          const fitted = leastSquares3(rows, values)!;
          const residuals = rows.map((each, i) => values[i]! - each.reduce((sum, x, j) => sum + x * fitted[j]!, 0));
          for (const column of [0, 1, 2])
            expect(rows.reduce((sum, each, i) => sum + each[column]! * residuals[i]!, 0)).toBeCloseTo(0, 6);
        },
      ),
    );
  });

  test("rows that don't determine them give nothing", () => {
    expect(
      leastSquares3(
        [
          [1, 2, 3],
          [2, 4, 6],
          [1, 0, 0],
        ],
        [1, 2, 3],
      ),
    ).toBeUndefined();
  });
});
