import { runs } from "./runs";
import fc from "fast-check";
import {
  aerate,
  checkRanges,
  depletion,
  describeBed,
  describeCapacity,
  describeWater,
  flowVerdict,
  isWithin,
  life,
  ownCapacity,
  RANGES,
  spreadOfSchools,
  standingFactor,
  storageFactor,
  wetWeight,
  type Range,
} from "../src/index";
import { anyNumber, expectAnswerOrSentence } from "./answer-or-sentence";

describe("whatever figures come in, an answer is finite or a sentence", () => {
  const figures = <K extends string>(...names: readonly K[]) =>
    fc.record(Object.fromEntries(names.map((name) => [name, anyNumber]))) as fc.Arbitrary<Record<K, number>>;

  test("of a bed", () => {
    fc.assert(
      fc.property(figures("volume", "diameter", "flow", "temperature", "health"), (bed) =>
        expectAnswerOrSentence(describeBed(bed)),
      ),
    );
  });

  test("of a water", () => {
    fc.assert(
      fc.property(figures("value", "ph", "alkalinity", "silica", "temperature"), ({ value, ...rest }) =>
        expectAnswerOrSentence(describeWater({ reading: { value, scale: "nacl" }, ...rest })),
      ),
    );
  });

  test("of an analysis", () => {
    fc.assert(
      fc.property(figures("ca", "mg", "na", "cl", "so4", "alkalinity"), (analysis) =>
        expectAnswerOrSentence(describeWater({ analysis })),
      ),
    );
  });

  test("of a capacity in any of its four ways", () => {
    fc.assert(
      fc.property(figures("constant", "litres", "ppm", "resin", "cation", "anion"), (given) => {
        expectAnswerOrSentence(describeCapacity({ constant: given.constant, scale: "442" }));
        expectAnswerOrSentence(describeCapacity({ cation: given.cation, anion: given.anion }));
        expectAnswerOrSentence(
          describeCapacity({ ratedLitres: given.litres, ratedPpm: given.ppm, scale: "nacl", resinLitres: given.resin }),
        );
      }),
    );
  });

  test("of a life", () => {
    fc.assert(
      fc.property(figures("feed", "volume", "diameter", "flow", "limit", "bypass", "spread"), (given) => {
        const input = {
          water: { reading: { value: given.feed, scale: "nacl" as const } },
          capacity: { grade: "virgin" as const },
          bed: {
            volume: given.volume,
            diameter: given.diameter,
            flow: given.flow,
            bypass: given.bypass,
            spread: given.spread,
          },
          limit: { value: given.limit, scale: "nacl" as const },
        };
        expectAnswerOrSentence(life(input));
        expectAnswerOrSentence(flowVerdict(input, given.flow / 2, 10));
      }),
    );
  });

  test("of aeration, weight, storage and standing", () => {
    fc.assert(
      fc.property(figures("a", "b", "c", "d"), ({ a, b, c, d }) => {
        expectAnswerOrSentence(aerate({ co2: a, air: b, rate: c, hours: d }));
        expectAnswerOrSentence(wetWeight({ empty: a, resin: b, grossVolume: c }));
        expectAnswerOrSentence(storageFactor({ container: "left-open", months: a, warm: true }));
        expectAnswerOrSentence(standingFactor(b));
      }),
    );
  });

  test("of past charges", () => {
    fc.assert(
      fc.property(fc.array(anyNumber, { maxLength: 5 }), anyNumber, (capacities, inUse) =>
        expectAnswerOrSentence(
          ownCapacity({
            grade: "regenerated",
            charges: capacities.map((capacity) => ({ capacity, ended: "early", water: "timed" })),
            inUse: { capacity: inUse },
          }),
        ),
      ),
      { numRuns: runs(40) },
    );
  });

  test("of a date", () => {
    fc.assert(
      fc.property(figures("left", "load", "mean", "sd"), fc.string(), ({ left, load, mean, sd }, start) => {
        const range = { low: left, median: left, high: left };
        const daily = Array.from({ length: 7 }, () => ({ mean, sd }));
        const input = { capacityLeft: range, daily, load: { low: load, typical: load, high: load }, paths: 100 };
        expectAnswerOrSentence(depletion({ ...input, start: "2027-03-01" }));
        expectAnswerOrSentence(depletion({ ...input, start }));
      }),
      { numRuns: runs(40) },
    );
  });
});

describe("ranges", () => {
  test("let absent figures pass and stop at the first wrong one", () => {
    const ranges = { volume: RANGES.volume, flow: RANGES.flow };
    expect(checkRanges<{ volume?: number; flow?: number }>({}, ranges).ok).toBe(true);
    const wrong = checkRanges({ volume: 0, flow: 0 }, ranges);
    expect(wrong.ok ? "" : wrong.fault.path).toBe("volume");
  });

  test("have a name, a sentence and an inside", () => {
    for (const range of Object.values(RANGES) as Range[]) {
      expect(range.name).toMatch(/^The /);
      const low = range.above ?? range.from ?? 0;
      const high = range.below ?? range.to ?? 1;
      expect(isWithin((low + high) / 2, range)).toBe(true);
    }
  });
});

test("schools that all give nothing have no spread", () => {
  const none = { low: 0, typical: 0, high: 0 };
  expect(spreadOfSchools([{ school: "chemistry", ...none }]).ok).toBe(false);
});
