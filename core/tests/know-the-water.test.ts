import fc from "fast-check";
import {
  behindMembrane,
  CAUSES,
  checkMeter,
  describeReport,
  diagnose,
  EQUIVALENT_WEIGHTS,
  explainAeration,
  explainCarbonDioxide,
  explainConductivity,
  explainDaysToSettle,
  explainHiddenShare,
  explainImbalance,
  explainMeterCheck,
  explainTapRange,
  ionFeed,
  missingFrom,
  OBSERVATION_NAMES,
  observationWords,
  questionReading,
  readReport,
  reconcile,
  tapRange,
  recordedEc25,
  unwrap,
  waterOfReport,
  withCarbonDioxide,
  type Observations,
  type Scale,
  type TapReading,
} from "../src/index";
import evidence from "../src/diagnosis/evidence.json";
import { expectTrue } from "./explained";

const DAY = 86_400_000;
const START = Date.parse("2026-01-01T08:00:00Z");
const days = (values: readonly number[], every = 3): TapReading[] =>
  values.map((ec25, i) => ({ at: START + i * every * DAY, ec25 }));

describe("the range of a tap", () => {
  const values = fc.array(fc.double({ min: 20, max: 1500, noNaN: true }), { minLength: 1, maxLength: 40 });

  test("rises from low to high, whatever the order of the readings, and scales with them", () => {
    fc.assert(
      fc.property(values, fc.double({ min: 0.2, max: 5, noNaN: true }), (some, factor) => {
        const readings = days(some);
        const range = unwrap(tapRange(readings));
        expect(range.low).toBeLessThan(range.typical);
        expect(range.high).toBeGreaterThan(range.typical);
        expect(unwrap(tapRange([...readings].reverse()))).toEqual(range);
        const scaled = unwrap(tapRange(readings.map(({ at, ec25 }) => ({ at, ec25: ec25 * factor }))));
        expect(scaled.high / range.high).toBeCloseTo(factor, 6);
        for (const explanation of [explainTapRange(range, "low"), explainTapRange(range, "high")])
          expectTrue(explanation);
      }),
    );
  });

  test("one reading is a wide range, many alike a narrow one that is settled", () => {
    const one = unwrap(tapRange(days([400])));
    const many = unwrap(tapRange(days(Array.from({ length: 30 }, (_, i) => 400 + (i % 3)))));
    expect(one.high / one.low).toBeGreaterThan(1.3);
    expect(many.high / many.low).toBeLessThan(1.15);
    expect(one.moreDays).toBeGreaterThan(5);
    expect(many.moreDays).toBe(0);
    expectTrue(explainDaysToSettle(one));
  });

  test("several readings of one day count as one day", () => {
    const sameDay = [400, 410, 390].map((ec25, i) => ({ at: START + i * 3_600_000, ec25 }));
    expect(unwrap(tapRange(sameDay))).toMatchObject({ days: 1, readings: 3 });
    expect(tapRange([{ at: START, ec25: 0 }]).ok).toBe(false);
  });

  const season = (at: number) => 300 * Math.exp(0.15 * Math.cos(2 * Math.PI * (at / DAY / 365.25 - 0.6)));

  test("a year of readings shows its season, also when they crowd into one part of it", () => {
    const even = Array.from({ length: 40 }, (_, i) => START + i * 10 * DAY);
    const crowded = [...even.filter((_, i) => i % 4 === 0), ...even.slice(30)].sort((a, b) => a - b);
    for (const times of [even, crowded]) {
      const range = unwrap(tapRange(times.map((at) => ({ at, ec25: season(at) }))));
      expect(range.season!.swing).toBeCloseTo(0.15, 1);
      expect(Math.abs(range.season!.peakDay - 219)).toBeLessThan(12);
      expect(range.typical / 300).toBeCloseTo(1, 1);
      expect(range.season!.months.map(({ month }) => month)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12]);
      const highest = range.season!.months.reduce((a, b) => (a.typical > b.typical ? a : b));
      expect([7, 8]).toContain(highest.month);
    }
    expect(unwrap(tapRange(days([300, 310, 305, 300, 290], 20))).season).toBeUndefined();
  });

  test("a steady rise is a clear drift, scatter is none, and one odd reading is none", () => {
    const drift = (some: readonly number[]) => unwrap(tapRange(days(some))).drift!;
    const rising = drift(Array.from({ length: 20 }, (_, i) => 300 * 1.01 ** i));
    expect(rising.clear).toBe(true);
    expect(rising.perMonth).toBeCloseTo(1.01 ** (365.25 / 12 / 3) - 1, 3);
    const scatter = [300, 310, 295, 305, 300, 298, 307, 301];
    expect(drift(scatter).clear).toBe(false);
    expect(drift([...scatter, 900]).clear).toBe(false);
    expect(unwrap(tapRange(days([300, 310]))).drift).toBeUndefined();
  });
});

describe("a reading that does not fit is questioned", () => {
  const range = unwrap(tapRange(days(Array.from({ length: 12 }, (_, i) => 400 + 5 * (i % 4)))));
  const ask = (value: number, scale: Scale = "nacl") =>
    questionReading(
      { value, scale, ec25: value / { nacl: 0.5, "442": 0.7, kcl: 0.53, ec: 1 }[scale as "nacl"] },
      range,
      [{ name: "Row tap", typical: 640 }],
    )?.possibilities.join(" ");

  test.each([
    [204, undefined],
    [285, /stood on 442/],
    [407, /stood on µS\/cm/],
    [320, /reads like Row tap/i],
    [320, /may have stood/],
    [3, /product line/],
    [140, /dry or dirty probe/],
  ])("%d ppm: %s", (value, words) => {
    if (words === undefined) expect(ask(value)).toBeUndefined();
    else expect(ask(value)).toMatch(words);
  });

  test("with one day known nothing is questioned", () => {
    const little = unwrap(tapRange(days([400])));
    expect(questionReading({ value: 900, scale: "ec", ec25: 900 }, little, [])).toBeUndefined();
  });
});

describe("meters", () => {
  const scales: readonly Scale[] = ["nacl", "442", "kcl", "ec", 0.64];
  const factor = (scale: Scale) =>
    typeof scale === "number" ? scale : { nacl: 0.5, "442": 0.7, kcl: 0.53, ec: 1 }[scale];

  test("two good meters in one cup agree, whatever their scales", () => {
    for (const a of scales)
      for (const b of scales) {
        const pair = {
          first: { value: Math.round(420 * factor(a)), scale: a },
          second: { value: Math.round(420 * factor(b)), scale: b },
        };
        const { agree, scaleRatio, shownRatio } = unwrap(reconcile(pair));
        expect(agree).toBe(true);
        expect(Math.abs(shownRatio / scaleRatio - 1)).toBeLessThan(0.02);
      }
  });

  test("a meter on another setting than believed is found out", () => {
    const { agree, wouldExplain } = unwrap(
      reconcile({ first: { value: 210, scale: "nacl" }, second: { value: 294, scale: "nacl" } }),
    );
    expect(agree).toBe(false);
    expect(wouldExplain).toContain("442");
    const broken = unwrap(reconcile({ first: { value: 210, scale: "nacl" }, second: { value: 250, scale: "nacl" } }));
    expect([broken.agree, broken.wouldExplain]).toEqual([false, []]);
  });

  test("temperature is taken out of a meter that does not compensate", () => {
    const cold = { value: 100 * (1 - 0.0191 * 15), scale: "ec" as const, compensated: false, temperature: 10 };
    expect(unwrap(reconcile({ first: { value: 100, scale: "ec" }, second: cold })).restRatio).toBeCloseTo(1, 9);
    expect(reconcile({ first: { value: 0, scale: "ec" }, second: cold }).ok).toBe(false);
  });

  test("against a standard its error and own factor come out, its offset taken off", () => {
    const good = unwrap(checkMeter({ scale: "nacl", standardEc25: 1413, shown: 712 }));
    expect(good).toMatchObject({ good: true });
    expect(good.error).toBeCloseTo(712 / 706.5 - 1, 9);
    const high = unwrap(checkMeter({ scale: "442", standardEc25: 1413, shown: 1100, offset: 4 }));
    expect(high.good).toBe(false);
    expect(high.ownFactor).toBeCloseTo(1096 / 1413, 9);
    expect(checkMeter({ scale: "ec", standardEc25: 84, shown: 0 }).ok).toBe(false);
    const explained = unwrap(explainMeterCheck({ scale: "442", standardEc25: 1413, shown: 1100, offset: 4 }));
    expectTrue(explained);
    expect(explained.value / 100).toBeCloseTo(high.error, 9);
  });

  test("an offset in pure water comes off every reading of that meter, and never goes below 0", () => {
    const meter = { id: "m", name: "Pocket", scale: "nacl" as const, compensated: true, offset: 2 };
    const meters = new Map([["m", meter]]);
    expect(recordedEc25({ meterId: "m", value: 100 }, meters)).toBeCloseTo(196, 9);
    expect(recordedEc25({ meterId: "m", value: 1 }, meters)).toBe(0);
    expect(recordedEc25({ meterId: "m", scale: "ec", value: 100 }, meters)).toBe(100);
  });
});

const REPORT = {
  ca: 46,
  mg: 10,
  na: 21,
  k: 3,
  cl: 28,
  so4: 27,
  no3: 8,
  alkalinity: 140,
  ph: 7.2,
  silica: 8,
  chloramine: 1,
  ec25: 420,
  temperature: 14,
};

describe("a report read", () => {
  test("a good one balances, agrees with its conductivity, and shows what a meter does not", () => {
    const { water, conductivityAgrees, hidden, cationSum, anionSum } = unwrap(describeReport(REPORT));
    expect(Math.abs(water.imbalance!)).toBeLessThan(0.05);
    expect(conductivityAgrees).toBe(true);
    expect(hidden.share).toBeCloseTo((hidden.co2 + hidden.silica) / water.anionLoad, 9);
    expect(hidden.visible + hidden.co2 + hidden.silica).toBeCloseTo(water.anionLoad, 9);
    expect(hidden.ammonia).toBeCloseTo(1 / 70.906, 6);
    expect([cationSum, anionSum].map((sum) => sum.toFixed(1))).toEqual(["4.1", "4.3"]);
    expectTrue(explainHiddenShare(hidden));
    expectTrue(explainImbalance(cationSum, anionSum));
    const { ec25: _measured, ...ions } = REPORT;
    const summed = explainConductivity(ions);
    expectTrue(summed);
    expect(summed.value).toBeCloseTo(unwrap(describeReport(REPORT)).computedEc25!, 9);
    expectTrue(explainAeration(water.co2, 8));
    const carbonic = explainCarbonDioxide({ ph: 7.2, alkalinity: 140, ec25: 420, temperature: 14 });
    expectTrue(carbonic);
    expect(carbonic.value).toBeCloseTo(water.co2, 9);
  });

  test("a mistyped ion shows in the balance and in the conductivity", () => {
    const { water, conductivityAgrees } = unwrap(describeReport({ ...REPORT, ca: 4.6 }));
    expect(water.warnings.map(({ code }) => code)).toContain("analysis-untrustworthy");
    expect(conductivityAgrees).toBe(false);
  });

  test("a conductivity alone will do, nothing at all will not", () => {
    expect(unwrap(describeReport({ ec25: 300 })).hidden).toMatchObject({ visible: 3, share: 0 });
    expect(describeReport({ ph: 7 }).ok).toBe(false);
    expect(missingFrom({ ec25: 300 })).toContain("calcium");
  });
});

describe("a report in any units", () => {
  const valueOf = (parameter: string, value: number | string, unit?: string) =>
    readReport([{ parameter, value, unit }]);
  test.each([
    ["Calcium", 1.2, "mmol/L", "ca", 1.2 * 2 * EQUIVALENT_WEIGHTS.ca],
    ["Calcium", 2.4, "meq/L", "ca", 2.4 * EQUIVALENT_WEIGHTS.ca],
    ["calcium", 120, "mg/L as CaCO3", "ca", (120 / 50.04) * EQUIVALENT_WEIGHTS.ca],
    ["Sodium", 21_000, "µg/L", "na", 21],
    ["Sulphate", 0.027, "g/L", "so4", 27],
    ["Nitrate (as N)", 2, "mg/L", "no3", (2 * 62.005) / 14.007],
    ["Nitrate", 2, "mg/L as N", "no3", (2 * 62.005) / 14.007],
    ["Bicarbonate", 122, "mg/L", "alkalinity", (122 * 50.04) / 61.017],
    ["Total alkalinity", 100, "mg/L as CaCO3", "alkalinity", 100],
    ["Silica", 5, "mg/L as Si", "silica", (5 * 60.084) / 28.0855],
    ["Conductivity", 42, "mS/m", "ec25", 420],
    ["Conductivity", 0.42, "mS/cm", "ec25", 420],
    ["Electrical conductivity", 420, "µS/cm at 25 °C", "ec25", 420],
    ["pH", "7,2", "", "ph", 7.2],
    ["Ammonium", "<0.05", "mg/L", "nh4", 0],
  ] as const)("%s %s %s", (parameter, value, unit, field, expected) => {
    const { values, complaints } = valueOf(parameter, value, unit);
    expect(complaints).toEqual([]);
    expect(values[field]).toBeCloseTo(expected, 6);
  });

  test.each([
    ["Calcium", 54_000, "mg/L", /wrong by a thousand/],
    ["Calcium", 54, "furlongs", /no unit for it/],
    ["Calcium", 54, undefined, /without a unit/],
    ["Calcium", "see note", "mg/L", /is no number/],
    ["pH", 17, "", /pH must be/],
  ] as const)("what cannot be is left out with a sentence: %s %s %s", (parameter, value, unit, words) => {
    const { values, complaints } = valueOf(parameter, value, unit);
    expect(values).toEqual({});
    expect(complaints[0]!.message).toMatch(words);
  });

  test("one bad line does not take the others with it, and what nobody needs is named", () => {
    const { values, complaints, ignored } = readReport([
      { parameter: "Calcium", value: 40, unit: "mg/L" },
      { parameter: "Magnesium", value: 10, unit: "stones" },
      { parameter: "Turbidity", value: 0.2, unit: "NTU" },
      { parameter: "Ca", value: 50, unit: "mg/L" },
    ]);
    expect(values).toEqual({ ca: 40 });
    expect(complaints.map(({ parameter }) => parameter)).toEqual(["Magnesium", "Ca"]);
    expect(ignored).toEqual(["Turbidity"]);
  });

  test("whatever text comes, an answer comes", () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ parameter: fc.string(), value: fc.oneof(fc.string(), fc.double()), unit: fc.string() })),
        (lines) => {
          for (const value of Object.values(readReport(lines).values)) expect(Number.isFinite(value)).toBe(true);
        },
      ),
    );
  });
});

describe("the ions of a water, for the column", () => {
  test("an analysis is taken as it is, fluoride as chloride, carbon dioxide with the alkalinity", () => {
    const water = waterOfReport({ ...REPORT, f: 1.9 });
    const { feed, co2, assumed } = unwrap(ionFeed(water, 0.01));
    expect(assumed).toEqual([]);
    expect(feed.ca).toBeCloseTo(46 / 20.039, 9);
    expect(feed.cl).toBeCloseTo(28 / 35.453 + 1.9 / 18.998 + 0.01, 9);
    expect(feed.hco3).toBeCloseTo(140 / 50.04 + co2, 9);
    expect(feed.nh4).toBeCloseTo(0.01, 9);
  });

  test("a meter alone gives its load by a usual mix, and says so", () => {
    const { feed, assumed } = unwrap(ionFeed({ reading: { value: 200, scale: "nacl" }, alkalinity: 100 }));
    expect(assumed).toEqual(["cations", "anions"]);
    expect(feed.na + feed.k + feed.mg + feed.ca).toBeCloseTo(4, 9);
    expect(feed.cl + feed.no3 + feed.so4 + feed.hco3).toBeCloseTo(4, 9);
  });

  test("behind a membrane the salt goes down and the carbon dioxide stays; aeration takes only that", () => {
    const water = unwrap(ionFeed(waterOfReport(REPORT)));
    const behind = behindMembrane(water, 0.04);
    expect(behind.feed.ca / water.feed.ca).toBeCloseTo(0.04, 9);
    expect(behind.co2).toBe(water.co2);
    expect(behind.feed.hco3).toBeGreaterThan(water.co2);
    const aerated = withCarbonDioxide(water, 0.02);
    expect(water.feed.hco3 - aerated.feed.hco3).toBeCloseTo(water.co2 - 0.02, 9);
    expect(aerated.feed.ca).toBe(water.feed.ca);
  });
});

describe("diagnosis", () => {
  const observations = fc.record(
    Object.fromEntries(OBSERVATION_NAMES.map((name) => [name, fc.constantFrom(true, false, undefined)])),
  ) as fc.Arbitrary<Observations>;

  test("every weight of the table names a known cause, and each observation speaks both ways", () => {
    for (const [name, { yes, no, weights }] of Object.entries(evidence.observations)) {
      expect([name, yes.length > 0 && no.length > 0]).toEqual([name, true]);
      for (const [cause, pair] of Object.entries(weights)) {
        expect(CAUSES).toContain(cause);
        expect(pair).toHaveLength(2);
        expect(pair[0]! * pair[1]!).toBeLessThanOrEqual(0.21);
      }
    }
  });

  test("the log-odds are the prior and the reasons, and the order follows them", () => {
    fc.assert(
      fc.property(observations, (seen) => {
        const suspects = diagnose(seen);
        expect(suspects).toHaveLength(CAUSES.length);
        suspects.forEach(({ cause, logOdds, reasonsFor, reasonsAgainst }, i) => {
          const sum = [...reasonsFor, ...reasonsAgainst].reduce(
            (total, { weight }) => total + weight,
            evidence.causes[cause].prior,
          );
          expect(logOdds).toBeCloseTo(sum, 9);
          if (i > 0) expect(logOdds).toBeLessThanOrEqual(suspects[i - 1]!.logOdds);
        });
      }),
    );
  });

  test.each<[Observations, string]>([
    [{ "just-refilled": true, "falls-while-running": true }, "rinse-up"],
    [{ stood: true, "falls-while-running": true, "just-refilled": false }, "creep"],
    [{ "nearly-used": true, "rising-over-days": true }, "exhausted"],
    [{ "just-refilled": true, "fixed-share-of-feed": true, "falls-while-running": false }, "bypass"],
    [
      { "just-refilled": true, "near-feed": true, "fixed-share-of-feed": false, "falls-while-running": false },
      "wrong-resin",
    ],
    [
      { "nearly-used": false, "on-its-side": true, "just-refilled": false, "falls-while-running": false },
      "channelling",
    ],
    [{ "nearly-used": false, "meters-disagree": true, "rising-over-days": false }, "meter-fault"],
    [{ "feed-above-range": true, "nearly-used": false }, "feed-jump"],
    [{ "much-carbon-dioxide": true, "nearly-used": false, "rising-over-days": true }, "co2-passing"],
  ])("%j points at %s first", (seen, cause) => {
    expect(diagnose(seen)[0]!.cause).toBe(cause);
  });

  test("an observation nobody made has no words in the reasons", () => {
    const { reasonsFor, reasonsAgainst } = diagnose({ stood: true }).find(({ cause }) => cause === "creep")!;
    expect(reasonsFor.map(({ words }) => words)).toEqual([observationWords("stood").yes]);
    expect(reasonsAgainst).toEqual([]);
  });
});
