import fc from "fast-check";
import { leastSquares3 } from "../src/numerics/least-squares";
import { logNormalCdf } from "../src/numerics/normal";
import {
  median,
  nearestRank,
  NORMAL_90,
  RANGE_10_90_IN_SD,
  RunningMedian,
  weightedQuantile,
} from "../src/numerics/quantile";
import { Remembered } from "../src/numerics/remembered";
import { firstFrom } from "../src/numerics/search";
import { risingRoot, risingRootNear } from "../src/numerics/root";
import { finite, roundedOutward, within, fail, succeed, unwrap } from "../src/index";

describe("roots", () => {
  test("of rising functions are found wherever they lie", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 99, noNaN: true }), fc.constantFrom(1, 3, 9), (where, power) => {
        const root = risingRoot((x) => x ** power - where ** power, 0, 100);
        expect(Math.abs(root - where) / where).toBeLessThan(1e-4);
      }),
    );
  });
  test("of functions whose slope is known are found from any guess, and as exactly as numbers go", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 99, noNaN: true }),
        fc.double({ min: 0, max: 100, noNaN: true }),
        fc.constantFrom(1, 3, 9),
        (where, guess, power) => {
          const over = (x: number) => ({ value: x ** power - where ** power, slope: power * x ** (power - 1) });
          expect(risingRootNear(over, guess, 0, 100) / where).toBeCloseTo(1, 9);
        },
      ),
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

describe("what is kept to be asked again", () => {
  test("a running median is the median of all that came", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -50, max: 50 })), (values) => {
        const running = new RunningMedian();
        values.forEach((value, i) => {
          expect(running.value).toBe(median(values.slice(0, i)));
          running.add(value);
        });
        expect(running.value).toBe(median(values));
      }),
    );
  });
  test("an answer is made once for a key, and again once it was let go", () => {
    const kept = new Remembered<number>(2);
    let made = 0;
    const ask = (key: string) => kept.of(key, () => (made += 1));
    expect([ask("a"), ask("b"), ask("a")]).toEqual([1, 2, 1]);
    ask("c"); // lets b go: a was asked for later
    expect([kept.get("a"), kept.get("b"), kept.get("c")]).toEqual([1, undefined, 3]);
    expect(ask("b")).toBe(4);
  });
});

test("what holds from a place on is found at its first", () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 60 }), (count, from) => {
      expect(firstFrom(count, (place) => place >= from)).toBe(Math.min(count, from));
    }),
  );
});

describe("a range rounded outward", () => {
  test("goes to a step of 1, 2 or 5 at or below a tenth of its width", () => {
    const ends = (low: number, high: number) => Object.values(roundedOutward(low, high));
    expect(ends(24.1, 57.3)).toEqual([24, 58]);
    expect(ends(0, 107.4)).toEqual([0, 110]);
    expect(ends(1183.5, 2722)).toEqual([1100, 2800]);
    expect(ends(0.31, 0.62)).toEqual([0.3, 0.62]);
    expect(ends(7, 7)).toEqual([7, 7]);
    expect(ends(20, 40)).toEqual([20, 40]);
  });
  test("never claims more than it was given, nor much less", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1e5, noNaN: true }),
        fc.double({ min: 0.01, max: 1e5, noNaN: true }),
        (from, width) => {
          const { low, high } = roundedOutward(from, from + width);
          expect(low).toBeLessThanOrEqual(from + 1e-6 * width);
          expect(high).toBeGreaterThanOrEqual(from + width - 1e-6 * width);
          expect(high - low).toBeLessThanOrEqual(1.2 * width + 1e-6);
        },
      ),
    );
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
