import { unwrap, workOutLife, type Water } from "../src/index";
import {
  behind,
  bringClaims,
  bucketFlow,
  byLimitSchool,
  crossing,
  DEFAULT_PRICES,
  demand,
  generateOptions,
  GENERIC_SIZES,
  judgeFlow,
  litresStanding,
  loggedDemand,
  visibleRatio,
  optionFigures,
  optionLifeInput,
  optionSchools,
  planFigures,
  planOutcome,
  planQuestion,
  PRACTICE_ASSUMPTIONS,
  rankHabits,
  resinPrice,
  size,
  sizeOf,
  rejected,
  stageWorth,
  twoInARow,
  weeklyLitres,
  WITHOUT_ASSUMPTIONS,
  withoutOwnWater,
  type DemandItem,
  type SizeInput,
} from "../src/sizing";

/** The case that the docstrings of sizing speak of. */
const water = (value: number): Water => ({ reading: { value, scale: "nacl" }, ph: 7.3, alkalinity: 118, silica: 6 });
const houses: DemandItem = { by: "jobs", perWeek: 20, litresEach: 60, quality: "timed" };
const work: SizeInput = {
  demand: { items: [houses] },
  waters: { low: water(150), typical: water(168), high: water(192) },
  limit: { value: 10, scale: "nacl" },
  peakFlow: 3,
};
const question = unwrap(planQuestion(work));
const plain = { vessel: sizeOf(GENERIC_SIZES[4]!), train: "single", grade: "virgin", supply: "bag" } as const;
const option = { ...plain, before: "nothing" } as const;

describe("the docstrings' examples", () => {
  test("of the work and of what one never measured", () => {
    expect(weeklyLitres({ by: "jobs", perWeek: 20, litresEach: 60, quality: "guessed" })).toBe(1200);
    const { week } = unwrap(demand({ items: [houses] }));
    expect([week.low, week.typical, week.high].map(Math.round)).toEqual([969, 1200, 1431]);
    expect(unwrap(bucketFlow({ litres: 10, seconds: 150 }))).toBeCloseTo(4, 9);
    const judged = judgeFlow("brush", 5, "past");
    expect(judged).toMatchObject({ state: "too-much", aim: 4 });
    expect(judged.saves).toBeCloseTo(0.2, 9);
    expect(loggedDemand([{ date: "2027-03-01", litres: 420, quality: "metered" }], "2027-03-15")).toEqual({
      litresPerWeek: 210,
      weeks: 2,
      quality: "metered",
    });
  });

  test("of options and what stands before them", () => {
    expect(generateOptions([])).toHaveLength(432);
    expect(unwrap(behind("membrane", { reading: { value: 168, scale: "nacl" } }, 3)).flow).toBeCloseTo(0.776, 3);
    expect(unwrap(size(work)).options[0]!.name).toBe("Tank, after RO with a booster pump, regenerated resin in bulk");
    expect(resinPrice(option, DEFAULT_PRICES)).toBe(9);
    const ways = unwrap(behind("nothing", water(168), 3));
    expect(visibleRatio(unwrap(workOutLife(optionLifeInput(option, ways, question))))).toBeCloseTo(1.115, 3);
    expect(Math.round(litresStanding(30_000, 10_000))).toBe(27_072);
  });

  test("of what pays", () => {
    expect(unwrap(crossing({ work, option: plain })).paysFrom.typical!).toBeCloseTo(88.7, 1);
    const worth = unwrap(stageWorth({ work, option: { ...option, before: "membrane" } }));
    expect(worth.find(({ addition }) => addition === "booster")!.saves).toBeCloseTo(30.9, 1);
    const row = unwrap(
      twoInARow({
        feed: { ec25: 430, temperature: 9, pressure: 365 },
        recovery: 0.25,
        rated: { flow: 0.19, rejection: 0.97, pressure: 345, ec25: 1000, recovery: 0.15 },
      }),
    );
    expect(row.wasteRatio).toBeCloseTo(1.49, 2);
    expect(Math.round(rejected(420, 12, 0.25))).toBe(556);
    const practice = { ...PRACTICE_ASSUMPTIONS, lowerFlow: 2.4 };
    expect(unwrap(rankHabits({ work, option, practice }))[0]!.name).toBe("membrane");
    const without = unwrap(withoutOwnWater(question.demand, { ...WITHOUT_ASSUMPTIONS, wage: 30 }));
    expect([without.bought, without.tripsPerYear]).toEqual([15_600, 780]);
  });

  test("of schools, claims and outcomes", () => {
    const litres = unwrap(byLimitSchool(option, question, "glass")).map((each) => Math.round(each.litres));
    expect(litres).toEqual([3308, 3378, 3425]);
    expect(unwrap(optionSchools(option, question, { constant: 200_000 })).map(({ school }) => school)).toEqual([
      "constant",
      "chemistry",
    ]);
    const claims = [{ name: "A", litres: 4000, ppm: 100, scale: "nacl" as const, resinLitres: 10 }];
    const [claim] = unwrap(bringClaims({ claims, waters: work.waters }));
    expect(claim!.capacity).toBeCloseTo(0.8, 9);
    expect(claim!.tooHigh).toBe(true);
    const expected = planFigures(unwrap(optionFigures(option, question)), question.demand);
    const actual = { weeks: 10, litres: 12_500, charges: [3150], chargeSoFar: 700 };
    expect(planOutcome(expected, actual)[0]!.state).toBe("as-planned");
  });
});
