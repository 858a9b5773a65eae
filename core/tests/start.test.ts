import { unwrap, type Scale } from "../src/index";
import { expectTrue } from "./explained";
import { GENERIC_SIZES } from "../src/plan/options";
import {
  ageing,
  feeding,
  lostToAgeing,
  OPEN_TAP,
  sizeOfLitres,
  startingRecords,
  TRADES,
  WASHER,
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
    const { site, tap, meter, vessel, rig, arrangement, charge, feedTest } = made(trade);
    expect([tap.siteId, rig.tapId, charge.vesselId, charge.rigId]).toEqual([site!.id, tap.id, vessel.id, rig.id]);
    const last = rig.stages[rig.stages.length - 1]!;
    expect(last.kind).toBe("resin");
    expect([arrangement.rigId, arrangement.places]).toEqual([rig.id, [{ stageId: last.id, vesselId: vessel.id }]]);
    expect(new Set(rig.stages.map(({ id }) => id)).size).toBe(rig.stages.length);
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
    // A meter that read nothing is not kept, whatever its scale.
    expect(made("cars", { tap: known.tap, shown: undefined }).isNew).toEqual({ tap: false, meter: false });
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
  test("grows in all its lengths with the cube root of its litres, in its skin and its flow with the square of that", () => {
    const [small, large] = [sizeOfLitres(20.5), sizeOfLitres(40)];
    const times = 40 / 20.5;
    expect([small.name, large.name]).toEqual(["Tank", "Tank"]);
    expect(large.diameter / small.diameter).toBeCloseTo(Math.cbrt(times), 2);
    const skin = Math.cbrt(times) ** 2;
    expect(large.emptyWeight / small.emptyWeight / skin).toBeCloseTo(1, 1);
    expect([small.usualFlow, large.usualFlow]).toEqual([3.2, 5.1]);
    expect([small.emptyWeight, large.emptyWeight]).toEqual([6.1, 9.5]);
  });
});

describe("a pressure washer", () => {
  const washer = (more: object) => feeding({ wanted: 7, tap: 12, resin: 24, diameter: 254, grade: "virgin", ...more })!;
  test("starves on a tap that gives less than it draws", () => expect(washer({ tap: 6.9 }).state).toBe("tap-short"));
  test("outruns a bed of few litres, which takes two thirds of its litres a minute", () => {
    expect(washer({ resin: 6, diameter: 152 })).toMatchObject({ state: "bed-short", bedTakes: 4 });
    expect(washer({ resin: 12 }).state).toBe("fits");
    // 40 bed volumes an hour: 7 L/min is just what 10.5 L of resin keep up with.
    expect([washer({ resin: 10.4 }).state, washer({ resin: 10.6 }).state]).toEqual(["bed-short", "fits"]);
  });
  test("takes more of the pressure the slimmer the bed", () =>
    expect(washer({ diameter: 152 }).pressureLoss).toBeGreaterThan(washer({}).pressureLoss * 3));
});

describe("the usual figures of a first day", () => {
  test("are these, of each trade", () =>
    expect(
      Object.fromEntries(
        TRADE_NAMES.map((name) => {
          const { litresPerJob, jobsPerWeek, grossVolume, toolFlow, surfaces } = TRADES[name];
          return [
            name,
            [litresPerJob, jobsPerWeek, grossVolume, toolFlow, ...surfaces.map(({ marks }) => marks.limit)],
          ];
        }),
      ),
    ).toEqual({
      windows: [60, 20, 28, undefined, 10, 5, 20],
      cars: [40, 15, 14, 5, 10, 5, 20],
      "own-car": [40, 1, 7.5, 5, 10, 5, 20],
      aquarium: [45, 2, 1.5, undefined, 1, 2],
      other: [50, 5, 14, undefined, 10, 5, 20],
    }));
  test("a surface that dries at once is watched from 3 and never used above 10 ppm NaCl", () =>
    expect(TRADES.cars.surfaces[1]!.marks).toEqual({ watch: 3, limit: 5, hard: 10, scale: "nacl" }));
  test("a washer draws 7 and an open tap gives 12 L/min; a membrane in order lets a twentieth through", () => {
    expect([WASHER, OPEN_TAP]).toEqual([7, 12]);
    expect(made("aquarium").rig.stages[2]).toMatchObject({ kind: "membrane", rejection: 0.95 });
  });
});

describe("a charge that is used little", () => {
  test("lasts as long as its litres and jobs say, and ages from three quarters of a year on", () => {
    expect(ageing(4160, 1, 40)).toMatchObject({ years: 2, lost: lostToAgeing(2) });
    expect(ageing(0.74 * 2080, 1, 40)).toBeUndefined();
    expect(ageing(0.76 * 2080, 1, 40)?.years).toBeCloseTo(0.76, 9);
    expect(ageing(1000, 0, 40)).toBeUndefined();
  });
  test("its working, and that of what beads keep up with, give the shown numbers", () => {
    expectTrue(ageing(5000, 1.5, 35)!.explanation);
    expectTrue(feeding({ wanted: 7, tap: 12, resin: 6.4, diameter: 152, grade: "virgin" })!.explanation);
  });
});

test("a charge that stands for years ages: some six in a hundred a year, and never all", () => {
  expect(lostToAgeing(1)).toBeCloseTo(0.0584, 4);
  expect(lostToAgeing(2)).toBeCloseTo(0.1133, 4);
  expect(lostToAgeing(50)).toBeLessThan(1);
});
