import fc from "fast-check";
import {
  aerate,
  cylinderLitres,
  carbonicPk1,
  conductivityAt25,
  conductivityOf,
  describeCapacity,
  describeWater,
  isIsoDate,
  onScale,
  standingFactor,
  storageFactor,
  unwrap,
  US_UNITS,
  wetWeight,
  type Analysis,
  type Scale,
} from "../src/index";

const scale = fc.oneof(
  fc.constantFrom<Scale>("nacl", "442", "kcl", "ec"),
  fc.double({ min: 0.4, max: 1, noNaN: true }),
);

describe("a meter", () => {
  test("reads back what its scale makes of a conductivity", () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 90_000, noNaN: true }), scale, (ec25, s) => {
        expect(unwrap(conductivityAt25({ value: onScale(ec25, s), scale: s }))).toBeCloseTo(ec25, 6);
      }),
    );
  });
  test("without compensation reads low in cold water and is brought to 25 °C", () => {
    const cold = unwrap(conductivityAt25({ value: 100, scale: "ec", temperature: 10, compensated: false }));
    expect(cold).toBeCloseTo(100 / (1 - 0.0191 * 15), 9);
  });
  test("may well show 0", () => expect(unwrap(conductivityAt25({ value: 0, scale: "nacl" }))).toBe(0));
  test("with an unknown scale is refused", () => {
    for (const s of ["640", 1.2, Number.NaN]) expect(conductivityAt25({ value: 10, scale: s as Scale }).ok).toBe(false);
  });
});

describe("units", () => {
  test("go to US customary and back", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...Object.values(US_UNITS)),
        fc.double({ min: -40, max: 1e6, noNaN: true }),
        (pair, value) => {
          expect(pair.toInternal(pair.toShown(value))).toBeCloseTo(value, 6);
        },
      ),
    );
  });
  test("are the exact ones", () => {
    expect(US_UNITS.volume.toInternal(1)).toBe(3.785411784);
    expect(US_UNITS.pressure.toInternal(1)).toBeCloseTo(6.894757293, 9);
    expect(US_UNITS.temperature.toShown(100)).toBe(212);
  });
});

describe("a feed", () => {
  test("twice as hard brings twice the load", () => {
    const [one, two] = [212, 424].map((value) => unwrap(describeWater({ reading: { value, scale: "nacl" } })));
    expect(two!.cationLoad).toBeCloseTo(2 * one!.cationLoad, 9);
  });
  test("with carbon dioxide and silica loads the anion beads alone", () => {
    const water = unwrap(describeWater({ reading: { value: 400, scale: "ec" }, co2: 44.0095, silica: 60.084 }));
    expect(water.cationLoad).toBe(4);
    expect(water.anionLoad).toBeCloseTo(6, 9);
  });
  test("whose analysis lacks a side takes it from the reading, else from the other side, and says so", () => {
    const analysis: Analysis = { ca: 40.078 };
    const alone = unwrap(describeWater({ analysis }));
    expect([alone.cationLoad, alone.anionLoad]).toEqual([alone.cationLoad, alone.cationLoad]);
    expect(alone.warnings.map((warning) => warning.code)).toContain("side-missing");
    expect(alone.imbalance).toBeUndefined();
    expect(unwrap(describeWater({ analysis, reading: { value: 300, scale: "ec" } })).anionLoad).toBe(3);
  });
  test("with two different alkalinities, or an analysis of zeros, is refused", () => {
    expect(describeWater({ analysis: { ca: 40, alkalinity: 90 }, alkalinity: 100 }).ok).toBe(false);
    expect(describeWater({ analysis: { ca: 0, cl: 0 } }).ok).toBe(false);
  });
  test("a doubtful analysis warns, a worse one says so plainly", () => {
    const codes = (cl: number) =>
      unwrap(describeWater({ analysis: { ca: 40.078, cl } })).warnings.map((warning) => warning.code);
    expect(codes(70.906)).toEqual([]);
    expect(codes(61)).toEqual(["analysis-doubtful"]);
    expect(codes(50)).toEqual(["analysis-untrustworthy"]);
  });
  test("conducts as potassium chloride standards do", () => {
    expect(conductivityOf({ k: 10, cl: 10 })).toBeCloseTo(1411, 0);
    expect(conductivityOf({ na: 1, cl: 1 })).toBeCloseTo(123.9, 1);
  });
  test("carbonic acid has pK1 6.352 at 25 °C", () => expect(carbonicPk1(25)).toBeCloseTo(6.352, 3));
  test("aerated long enough is in balance with air", () => {
    expect(unwrap(aerate({ co2: 30, hours: 500 })).co2).toBeCloseTo(0.6, 6);
    expect(unwrap(aerate({ co2: 0, hours: 5 })).saved).toBe(0);
  });
  test("what a barrel is worth rests on its pump, and cold water holds on to its gas", () => {
    const left = (airFlow: number, temperature = 15) =>
      unwrap(aerate({ co2: 30, hours: 5, airFlow, volume: 200, temperature })).co2;
    expect(left(3)).toBeCloseTo(3.0, 1);
    expect(left(6)).toBeLessThan(left(3) / 2);
    const unsaid = unwrap(aerate({ co2: 30, hours: 5, airFlow: 3, volume: 200 })).co2;
    expect(unsaid).toBeCloseTo(left(3, 15), 12);
    expect(left(3, 5)).toBeGreaterThan(left(3, 25) + 0.5);
  });
  test("a pump half described, or described twice, is asked about", () => {
    const pathOf = (more: object) => {
      const answer = aerate({ co2: 20, hours: 2, ...more });
      return answer.ok ? undefined : answer.fault.path;
    };
    expect(pathOf({ airFlow: 3 })).toBe("volume");
    expect(pathOf({ volume: 200 })).toBe("airFlow");
    expect(pathOf({ airFlow: 3, volume: 200, rate: 0.4 })).toBe("rate");
  });
  test("half an analysis conducts as much as the side it has: there is no charge balance to work from", () => {
    const half = unwrap(describeWater({ analysis: { cl: 70.906 } }));
    expect(half.ec25).toBeCloseTo(200, 9);
    expect(half.cationLoad).toBeCloseTo(2, 9);
    expect(half.imbalance).toBeUndefined();
    expect(unwrap(describeWater({ analysis: { cl: 70.906, na: 45.98 } })).ec25).toBeGreaterThan(220);
  });
});

describe("resin", () => {
  test("stated in any of four ways comes to one footing", () => {
    const virgin = unwrap(describeCapacity({ grade: "virgin" }));
    const again = unwrap(describeCapacity({ constant: virgin.constant, scale: "nacl" }));
    expect(again.cation).toBeCloseTo(0.56, 9);
    expect(
      unwrap(describeCapacity({ ratedLitres: 1000, ratedPpm: 100, scale: "nacl", resinLitres: 10 })).anion,
    ).toBeCloseTo(0.2, 9);
  });
  test("loses capacity in store, twice as fast in a van", () => {
    expect(unwrap(storageFactor({ container: "rolled-or-zip", months: 6 }))).toBeCloseTo(0.98 ** 6, 12);
    expect(unwrap(storageFactor({ container: "rolled-or-zip", months: 6, warm: true }))).toBeCloseTo(0.96 ** 6, 12);
    expect(unwrap(standingFactor(24))).toBeCloseTo(0.995 ** 24, 12);
  });
  test("and its water make the wet weight, flagged over 25 kg", () => {
    const weight = unwrap(wetWeight({ empty: 7.5, resin: 24, grossVolume: 28 }));
    expect(weight.kilograms).toBeCloseTo(7.5 + 1.08 * 24 + 4, 9);
    expect(weight.twoPeople).toBe(true);
    expect(wetWeight({ empty: 1, resin: 15, grossVolume: 14 }).ok).toBe(false);
  });
  test("fits a cylinder", () => expect(cylinderLitres(180, 550)).toBeCloseTo(14, 1));
});

test("a date is a real day", () => {
  expect(["2027-02-28", "2028-02-29"].every(isIsoDate)).toBe(true);
  expect(["2027-02-29", "2027-2-3", "27-02-03", "2027-13-01"].some(isIsoDate)).toBe(false);
});
