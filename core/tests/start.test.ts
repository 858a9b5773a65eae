import fc from "fast-check";
import { unwrap, type Scale } from "../src/index";
import { GENERIC_SIZES } from "../src/plan/options";
import {
  feeding,
  lostToAgeing,
  sizeOfLitres,
  startingRecords,
  TRADES,
  type StartAnswers,
  type Trade,
} from "../src/start";

const NOW = Date.parse("2027-03-01T08:00:00Z");
const TRADE_NAMES = Object.keys(TRADES) as Trade[];
const uuid = () => {
  let made = 0;
  return () => `019f066c-2ae0-794e-9ebd-${String((made += 1)).padStart(12, "0")}`;
};
const answersOf = (trade: Trade, more: Partial<StartAnswers> = {}): StartAnswers => {
  const { grossVolume, behindMembrane, surfaces, jobsPerWeek, litresPerJob, toolFlow, rigName } = TRADES[trade];
  return {
    ...{ trade, shown: 143, meter: { scale: "nacl" as Scale }, grossVolume, behindMembrane, marks: surfaces[0].marks },
    ...{ jobsPerWeek, litresPerJob, toolFlow, grade: "virgin", name: rigName },
    ...more,
  };
};
const made = (trade: Trade, more: Partial<StartAnswers> = {}) =>
  unwrap(startingRecords(answersOf(trade, more), uuid(), NOW));

describe("the records of a first day", () => {
  test.each(TRADE_NAMES)("of %s name each other, with the trade's train", (trade) => {
    const { site, tap, meter, vessel, rig, charge, feedTest } = made(trade);
    expect([tap.siteId, rig.tapId, charge.vesselId, charge.rigId]).toEqual([site!.id, tap.id, vessel.id, rig.id]);
    expect(rig.stages[rig.stages.length - 1]).toEqual({ kind: "resin", vesselId: vessel.id });
    expect(rig.stages.some(({ kind }) => kind === "membrane")).toBe(TRADES[trade].behindMembrane);
    expect(feedTest).toMatchObject({ tapId: tap.id, meterId: meter.id, value: 143 });
    expect(charge.resinLitres).toBeLessThanOrEqual(vessel.grossVolume);
  });
  test("one reading may be of an odd day: the tap's range is that of days to come, on the meter's own scale", () => {
    const { tap } = made("windows", { shown: 424, meter: { scale: "ec" } });
    expect([tap.low, tap.typical, tap.high, tap.scale]).toEqual([354, 424, 508, "ec"]);
    const on442 = made("windows", { shown: 210, meter: { scale: "442" } }).tap;
    expect(on442.low / 210).toBeCloseTo(354 / 424, 2);
    expect(on442.scale).toBe("442");
  });
  test("a tap and a meter that are there already are used, and asked for no reading", () => {
    const known = made("windows");
    const again = made("cars", { tap: known.tap, meter: known.meter, shown: undefined });
    expect(again.isNew).toEqual({ tap: false, meter: false });
    expect([again.site, again.feedTest]).toEqual([undefined, undefined]);
    expect(again.rig.tapId).toBe(known.tap.id);
  });
  test("what is missing or beyond reason is a fault at its answer", () => {
    const fault = (more: Partial<StartAnswers>) => {
      const answer = startingRecords(answersOf("windows", more), uuid(), NOW);
      return answer.ok ? undefined : answer.fault.path;
    };
    expect(fault({ shown: undefined })).toBe("shown");
    expect(fault({ shown: 0 })).toBe("shown");
    expect(fault({ shown: -3 })).toMatch(/^shown/);
    expect(fault({ grossVolume: 0 })).toBe("grossVolume");
    expect(fault({ grossVolume: 1e6 })).toBe("grossVolume");
  });
  test("a charge in use is taken over as it was said", () =>
    expect(made("windows", { partUsed: { by: "jobs", jobs: 12 } }).charge.partUsed).toEqual({ by: "jobs", jobs: 12 }));
});

describe("a vessel of any size", () => {
  test("of a usual size is that one, in between it is shaped like its neighbour", () => {
    for (const size of GENERIC_SIZES) expect(sizeOfLitres(size.grossVolume)).toEqual(size);
    const tank = sizeOfLitres(25);
    expect([tank.kind, tank.diameter]).toEqual(["screw-head-tank", 245]);
    expect(tank.usualFlow).toBeLessThan(4);
  });
  test("grows with its litres, and its height with their cube root", () => {
    const height = ({ grossVolume, diameter }: ReturnType<typeof sizeOfLitres>) => grossVolume / diameter ** 2;
    fc.assert(
      fc.property(fc.double({ min: 20.5, max: 39, noNaN: true }), (litres) => {
        const [one, more] = [sizeOfLitres(litres), sizeOfLitres(1.05 * litres)];
        if (one.name !== more.name) return;
        expect(height(more) / height(one)).toBeCloseTo(Math.cbrt(1.05), 1);
        expect(more.emptyWeight).toBeGreaterThanOrEqual(one.emptyWeight);
      }),
    );
  });
});

describe("a pressure washer", () => {
  const washer = (more: object) => feeding({ wanted: 7, tap: 12, resin: 24, diameter: 254, grade: "virgin", ...more })!;
  test("starves on a tap that gives less than it draws", () => expect(washer({ tap: 6.9 }).state).toBe("tap-short"));
  test("outruns a bed of few litres, which takes two thirds of its litres a minute", () => {
    expect(washer({ resin: 6, diameter: 152 })).toMatchObject({ state: "bed-short", bedTakes: 4 });
    expect(washer({ resin: 12 }).state).toBe("fits");
  });
  test("takes more of the pressure the slimmer the bed", () =>
    expect(washer({ diameter: 152 }).pressureLoss).toBeGreaterThan(washer({}).pressureLoss * 3));
});

test("a charge that stands for years ages: some six in a hundred a year, and never all", () => {
  expect(lostToAgeing(1)).toBeCloseTo(0.0584, 4);
  expect(lostToAgeing(2)).toBeCloseTo(0.1133, 4);
  expect(lostToAgeing(50)).toBeLessThan(1);
});
