import {
  addDays,
  aerate,
  bubblingRate,
  breakthrough,
  carbonicPk1,
  checkRanges,
  conductivityAt25,
  conductivityOf,
  cylinderLitres,
  daysBetween,
  depletion,
  describeBed,
  describeCapacity,
  describeWater,
  equivalentSums,
  feedAt,
  flowPaths,
  flowVerdict,
  freeCarbonDioxide,
  gasToWater,
  frontDepth,
  isIsoDate,
  life,
  lifeRange,
  loadUsed,
  meanBreakthrough,
  onScale,
  orderBy,
  ownCapacity,
  rangeInWords,
  RANGES,
  registerDifference,
  scaleFactor,
  shareTaken,
  standingFactor,
  storageFactor,
  throughputAt,
  unwrap,
  US_UNITS,
  viscosity,
  visibleLoad,
  weekdayOf,
  wetWeight,
  type LifeInput,
} from "../src/index";

/** The worked example of each public docstring, as it stands there. */
const lifeExample: LifeInput = {
  water: { reading: { value: 163, scale: "nacl" } },
  capacity: { grade: "virgin" },
  bed: { volume: 10.4, diameter: 165, flow: 3.4 },
  limit: { value: 8, scale: "nacl" },
};

const near = (found: number, expected: number, digits = 3) =>
  expect(Number(found.toPrecision(digits))).toBe(Number(expected.toPrecision(digits)));

describe("the worked example of", () => {
  test("checkRanges", () => {
    const checked = checkRanges({ volume: -1 }, { volume: RANGES.volume });
    expect(checked.ok ? undefined : checked.fault.path).toBe("volume");
    expect(rangeInWords(RANGES.volume)).toBe("above 0 and at most 2,000 L");
  });

  test("US_UNITS", () => expect(US_UNITS.volume.toShown(3.785411784)).toBe(1));

  test("scaleFactor, conductivityAt25 and onScale", () => {
    expect(scaleFactor("442")).toBe(0.7);
    expect(unwrap(conductivityAt25({ value: 212, scale: "nacl" }))).toBe(424);
    expect(onScale(424, "nacl")).toBe(212);
  });

  test("equivalentSums", () => {
    const { cations, anions } = equivalentSums({ ca: 40.078, cl: 70.906 });
    near(cations, 2);
    near(anions, 2);
  });

  test("conductivityOf", () => near(conductivityOf({ k: 10, cl: 10 }), 1411, 4));

  test("carbonicPk1 and freeCarbonDioxide", () => {
    near(carbonicPk1(25), 6.352, 4);
    near(unwrap(freeCarbonDioxide({ ph: 7.15, alkalinity: 138, ec25: 395, temperature: 12 })), 22, 2);
  });

  test("aerate", () => {
    const { co2, saved } = unwrap(aerate({ co2: 23, hours: 9 }));
    near(co2, 0.849);
    near(saved, 0.963);
    near(gasToWater(25), 1.2, 2);
    near(bubblingRate(3, 200, 15), 0.5, 2);
  });

  test("describeWater and visibleLoad", () => {
    const water = unwrap(describeWater({ reading: { value: 212, scale: "nacl" } }));
    expect([water.ec25, water.cationLoad, water.anionLoad]).toEqual([424, 4.24, 4.24]);
    expect(visibleLoad(424)).toBe(4.24);
  });

  test("describeCapacity", () => {
    const virgin = unwrap(describeCapacity({ grade: "virgin" }));
    expect([virgin.cation, virgin.anion]).toEqual([0.68, 0.56]);
    near(virgin.constant, 209_455, 6);
    near(virgin.kilograins, 12.24, 4);
  });

  test("storageFactor and standingFactor", () => {
    near(unwrap(storageFactor({ container: "rolled-or-zip", months: 6 })), 0.886);
    near(unwrap(standingFactor(24)), 0.887);
  });

  test("viscosity and describeBed", () => {
    near(viscosity(25), 0.00089, 2);
    const bed = unwrap(describeBed({ volume: 11.5, diameter: 180, flow: 3.2 }));
    near(bed.contactSeconds, 216);
    near(bed.bedVolumesPerHour, 16.7);
    near(bed.pressureLoss, 2.74);
    near(bed.transferUnits, 34.3);
  });

  test("breakthrough, meanBreakthrough and throughputAt", () => {
    near(breakthrough(1, 30), Math.exp(-1), 9);
    near(meanBreakthrough(0.9, 31.6, flowPaths(0.05)), 0.047, 2);
    near(unwrap(throughputAt(0.049, 31.58, 0)), 0.936);
  });

  test("shareTaken and frontDepth", () => {
    expect(shareTaken(0.5, 0.1, 30)).toBe(1);
    near(frontDepth(0.5, 30), 0.49, 2);
  });

  test("life", () => {
    const answer = unwrap(life(lifeExample));
    near(answer.litres, 1610);
    expect(answer.limitingSide).toBe("anion");
  });

  test("lifeRange", () => {
    const water = (value: number) => ({ reading: { value, scale: "nacl" as const } });
    const range = unwrap(
      lifeRange({
        waters: { low: water(118), typical: water(156), high: water(223) },
        capacity: { grade: "regenerated" },
        bed: { volume: 18.5, diameter: 215, flow: 3.3 },
        limit: { value: 10, scale: "nacl" },
      }),
    );
    near(range.low.litres, 1358, 3);
    near(range.high.litres, 2614, 3);
  });

  test("flowVerdict", () => {
    const { byContact, bySaving } = unwrap(flowVerdict(lifeExample, 2.4, 18));
    near(byContact, 0.007, 1);
    near(bySaving, 0.417);
  });

  test("wetWeight and cylinderLitres", () => {
    const { kilograms, twoPeople } = unwrap(wetWeight({ empty: 6, resin: 11.5, grossVolume: 14 }));
    near(kilograms, 20.9);
    expect(twoPeople).toBe(false);
    near(cylinderLitres(180, 550), 14, 2);
  });

  test("registerDifference, loadUsed and feedAt", () => {
    expect(unwrap(registerDifference(99_980, 40, 100_000))).toBe(60);
    const { meq, sd } = loadUsed([{ litres: 100, quality: "timed", feedEc25: 400, feedSd: 0 }]);
    expect([meq, sd]).toEqual([400, 0.15]);
    expect(
      feedAt(
        [
          { at: 0, ec25: 300 },
          { at: 10, ec25: 400 },
        ],
        5,
      ),
    ).toBe(350);
  });

  test("ownCapacity", () => {
    const { median, low, high } = unwrap(ownCapacity({ grade: "dyed", charges: [] }));
    near(median, 0.54);
    near(low, 0.392);
    near(high, 0.744);
  });

  test("the calendar", () => {
    expect(isIsoDate("2027-02-30")).toBe(false);
    expect(addDays("2027-02-27", 3)).toBe("2027-03-02");
    expect(daysBetween("2027-02-27", "2027-03-02")).toBe(3);
    expect(weekdayOf("2027-03-01")).toBe(0);
    expect(orderBy("2027-04-12", 5)).toBe("2027-04-07");
  });

  test("depletion", () => {
    const worked = { mean: 150, sd: 25 };
    const idle = { mean: 0, sd: 0 };
    const answer = unwrap(
      depletion({
        capacityLeft: { median: 17_500, low: 16_100, high: 19_000 },
        daily: [worked, worked, worked, worked, worked, idle, idle],
        load: { low: 3.4, typical: 3.5, high: 3.6 },
        start: "2027-03-01",
        seed: 7,
      }),
    );
    expect(Math.abs(daysBetween("2027-04-15", answer.likely))).toBeLessThanOrEqual(1);
  });
});
