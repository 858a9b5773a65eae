import { unwrap, type Explanation, type Plan, type Tap, type Use } from "@winter-bead/core";
import {
  DEFAULT_PRICES,
  generateOptions,
  GENERIC_SIZES,
  optionFigures,
  planQuestion,
  rankHabits,
  size,
  PRACTICE_ASSUMPTIONS,
} from "@winter-bead/core/src/sizing";
import { complaintsAbout } from "./complaints";
import { buildRig, marksFor } from "../features/size/build-rig";
import { parseClaims, startClaims } from "../features/size/claims-as-typed";
import { HABIT_WORDS, habitBasis } from "../features/size/habit-words";
import { planBody, typedOfPlan } from "../features/size/keep-plan";
import { days, daysRange, minutesInWords, money, moneyRange } from "../features/size/money";
import { planCsv, planDocument, planJson } from "../features/size/plan-files";
import { loggedDays, planActual } from "../features/size/rig-log";
import { USE_PRESETS } from "../features/size/work-presets";
import { parseWork, startOfUse, startWork, typedItem, watersOf, type TypedWork } from "../features/size/work-as-typed";
import { evaluateExplanation } from "../../core/tests/evaluate-formula";
import { explainedIn } from "../ui/explain-units";
import { itemInWords, resinByWeight } from "../features/size/work-words";
import { DAY, rigWith, START, vessel } from "./sample-rig";

const ID = "01890000-0000-7000-8000-000000000001";
const TAP: Tap = {
  id: ID,
  siteId: "s",
  name: "Yard tap",
  low: 150,
  typical: 168,
  high: 192,
  scale: "nacl",
  ph: 7.3,
  alkalinity: 90,
};
const waters = watersOf(TAP, { alkalinity: 118, silica: 6 });
const facts = { waters, prices: DEFAULT_PRICES, own: [] };
const unitSystems = ["metric", "us"] as const;

describe("the work as typed", () => {
  test("a tap's three waters carry what its report says, before what the tap itself says", () => {
    expect(waters.typical).toEqual({
      reading: { value: 168, scale: "nacl" },
      ph: 7.3,
      alkalinity: 118,
      silica: 6,
    });
    expect([waters.low, waters.high].map((each) => each.reading!.value)).toEqual([150, 192]);
  });

  test("what stands there at first can be sized for every use, and in gallons it is the same work", () => {
    for (const use of Object.keys(USE_PRESETS) as Use[]) {
      const of = (units: "metric" | "us") =>
        parseWork({ ...startWork(units), ...startOfUse(use, units) }, facts, units).input!;
      const week = (input: ReturnType<typeof of>) => unwrap(size(input)).demand.week.typical;
      expect(week(of("us")) / week(of("metric"))).toBeCloseTo(1, 2);
      expect(of("us").peakFlow / of("metric").peakFlow).toBeCloseTo(1, 2);
      expect(unwrap(size(of("metric"))).options[0]!.feasible).toBe(true);
      expect(of("metric")).not.toHaveProperty("budget");
    }
    expect(parseWork(startWork("metric"), facts, "metric").input!.demand.items).toHaveLength(2);
  });

  test("glass and paint go by the meter, an aquarium by the first leak; vessels that are there count as own", () => {
    const of = (use: Use) =>
      parseWork(
        { ...startWork("metric"), ...startOfUse(use, "metric") },
        { ...facts, own: [...GENERIC_SIZES] },
        "metric",
      ).input!;
    expect([of("glass").until, of("paint").until, of("aquarium").until]).toEqual(["meter", "meter", "leak"]);
    expect(of("glass").own).toHaveLength(GENERIC_SIZES.length);
  });

  test("each wrong figure has its sentence at its place, and the rest is kept", () => {
    const typed: TypedWork = {
      ...startWork("metric"),
      items: [{ ...startWork("metric").items[0]!, key: "k", figures: { perWeek: "20", litresEach: "much" } }],
      season: "own",
      months: startWork("metric").months.map((month, i) => (i === 3 ? "-5" : month)),
      limit: "-1",
      budget: "x",
      supply: "1000000",
    };
    const { input, errors } = parseWork(typed, facts, "metric");
    expect(input).toBeUndefined();
    expect(Object.keys(errors).sort()).toEqual(["budget", "items.k.litresEach", "limit", "months.3", "supply"]);
    for (const sentence of Object.values(errors)) expect(sentence).toMatch(/^(The|A) .*\.$/);
  });

  test.each(unitSystems)("what stands before the resin is asked only where it was changed, in %s units", (units) => {
    const usual = startWork(units);
    expect(parseWork(usual, facts, units).input).not.toHaveProperty("before");
    const changed = parseWork({ ...usual, recovery: "25", rejection: "98" }, facts, units).input!.before!;
    expect(changed.recovery).toBeCloseTo(0.25, 9);
    expect(changed.rated!.rejection).toBeCloseTo(0.98, 9);
    expect(changed.rated!.flow).toBeCloseTo(1.3, 2);
    expect(changed.boostedPressure! / 550).toBeCloseTo(1, 2);
    expect(changed.batch! / 200).toBeCloseTo(1, 2);
    const { errors } = parseWork({ ...usual, recovery: "97", airHours: "long" }, facts, units);
    expect(Object.keys(errors).sort()).toEqual(["airHours", "recovery"]);
  });

  test("seasons, pressure and percent reach the question", () => {
    const tank = typedItem(USE_PRESETS.aquarium.work[0]!, "t", "metric");
    const typed = { ...startWork("metric"), items: [tank], season: "summer" as const, supply: "350", needed: "" };
    const { input } = parseWork(typed, facts, "metric");
    expect(input!.demand.items[0]).toMatchObject({ by: "tank", changeShare: 0.2, volume: 400 });
    expect(input!.demand.season![6]).toBeGreaterThan(input!.demand.season![0]!);
    expect(input!.pressure).toEqual({ supply: 350, needed: 0 });
  });
});

const input = parseWork({ ...startWork("metric"), season: "summer", budget: "9000" }, facts, "metric").input!;
const question = unwrap(planQuestion(input));

function planOf(pick: (spec: ReturnType<typeof generateOptions>[number]) => boolean, use: Use = "glass"): Plan {
  const spec = generateOptions([]).find(pick)!;
  const option = unwrap(optionFigures(spec, question));
  const parts = { option, demand: question.demand, work: input, tap: TAP, use, currency: "EUR" };
  return { id: ID, ...planBody({ ...parts, now: new Date("2027-03-01T08:10:00Z") }) };
}
const tankPlan = planOf(
  ({ vessel, train, before }) => vessel.name === "Tank" && train === "single" && before === "nothing",
);

describe("a kept plan", () => {
  test("is a record that the server takes, and holds what was chosen", () => {
    const { id: _, ...body } = tankPlan;
    expect(complaintsAbout("plans", body)).toEqual([]);
    expect(body).toMatchObject({ name: "Tank at Yard tap", jobName: "house", currency: "EUR" });
    const { total, ...parts } = body.expected.cost;
    expect(Object.values(parts).reduce((sum, part) => sum + part, 0)).toBeCloseTo(total, 9);
  });

  test.each(unitSystems)("can be typed again as it was, in %s units", (units) => {
    const typed = { ...startWork(units), ...typedOfPlan(tankPlan, units) };
    const again = parseWork(typed, facts, units).input!;
    const week = (of: typeof again) => unwrap(planQuestion(of)).demand.week.typical;
    expect(week(again) / week(input)).toBeCloseTo(1, 2);
    expect(again.demand.season!.map((share) => Number(share.toFixed(2)))).toEqual(input.demand.season);
    expect(again.budget).toBe(9000);
    expect(again).not.toHaveProperty("before");
    const leaner = { ...tankPlan, work: { ...tankPlan.work, before: { recovery: 0.25 } } };
    const typedLeaner = { ...startWork(units), ...typedOfPlan(leaner, units) };
    expect(parseWork(typedLeaner, facts, units).input!.before!.recovery).toBeCloseTo(0.25, 9);
    const two = { ...tankPlan, work: { ...tankPlan.work, before: { secondMembrane: true } } };
    const typedTwo = { ...startWork(units), ...typedOfPlan(two, units) };
    expect(parseWork(typedTwo, facts, units).input!.before).toMatchObject({ secondMembrane: true });
    const behindTwo = { ...two, option: { ...two.option, before: "membrane" as const } };
    const context = { tap: TAP, version: 1, units };
    expect(planCsv(behindTwo, context)).toContain("membranes,2,");
    expect(planCsv(two, context)).not.toContain("membranes,");
    expect(JSON.stringify(planDocument(behindTwo, context))).toContain("A second membrane works on the waste");
    const filled = { ...tankPlan, work: { ...tankPlan.work, before: { fillFlow: 0.8 } } };
    const typedFilled = { ...startWork(units), ...typedOfPlan(filled, units) };
    expect(parseWork(typedFilled, facts, units).input!.before!.fillFlow).toBeCloseTo(0.8, 3);
    const wrong = parseWork({ ...typedFilled, fillFlow: "slow" }, facts, units);
    expect(wrong.errors["fillFlow"]).toBe("The filling flow is not a number yet.");
    expect(parseWork({ ...typedFilled, comes: "straight" }, facts, units).input).not.toHaveProperty("before");
    expect(planCsv(filled, context)).toContain("tank filled ahead at,0.8,L/min");
    expect(JSON.stringify(planDocument(filled, context))).toMatch(/from a tank filled ahead at/);
    expect(again.limit).toEqual(input.limit);
  });

  test("becomes rig, vessel and charge that the server takes", () => {
    let count = 0;
    const newId = () => `01890000-0000-7000-8000-${String((count += 1)).padStart(12, "0")}`;
    const built = buildRig(tankPlan, newId, new Date("2027-03-02T08:00:00Z"));
    expect([built.vessels.length, built.charges.length]).toEqual([1, 1]);
    const taken = (kind: "vessels" | "rigs" | "charges", { id: _, ...body }: { id: string }) =>
      complaintsAbout(kind, body);
    expect(taken("vessels", built.vessels[0]!)).toEqual([]);
    expect(taken("rigs", built.rig)).toEqual([]);
    expect(taken("charges", built.charges[0]!)).toEqual([]);
    expect(built.charges[0]).toMatchObject({ vesselId: built.vessels[0]!.id, rigId: built.rig.id });
    expect(built.charges[0]!.resinLitres).toBeCloseTo(28 * 0.86, 9);
    // 20 maintenance and 2 first cleans: 1,420 L a week.
    expect(built.rig.litresPerJob).toBeCloseTo(1420 / 22, 6);
  });

  test("of two in series has two vessels in a row; two side by side are one of the same depth", () => {
    const of = (train: string, before = "nothing") =>
      buildRig(
        planOf((spec) => spec.vessel.name === "Tank" && spec.train === train && spec.before === before),
        () => ID,
        new Date(),
      );
    expect(of("lead-lag").vessels.map(({ name }) => name)).toEqual(["Tank", "Tank 2"]);
    const twin = of("twin");
    const [both] = twin.vessels;
    const [one] = of("single").vessels;
    const depth = ({ grossVolume, diameter }: typeof both & object) => grossVolume / diameter ** 2;
    expect(depth(both!)).toBeCloseTo(depth(one!), 9);
    expect(both!.grossVolume).toBe(56);
    expect(twin.rig.flow).toBeCloseTo(3, 9);
    expect(of("single", "membrane-and-aeration").rig.stages.map(({ kind }) => kind)).toEqual([
      "sediment",
      "carbon",
      "membrane",
      "degasser",
      "resin",
    ]);
  });

  test("that counts on a vessel the crew has uses it, and makes only the lag anew", () => {
    const own = { ...vessel, id: "own-vessel" };
    const lagged = planOf(
      ({ vessel: size, train, before }) => size.name === "Tank" && train === "lead-lag" && before === "nothing",
    );
    const alone = buildRig(tankPlan, () => "new", new Date(), own);
    expect(alone.vessels).toEqual([]);
    expect(alone.rig.stages).toEqual([{ id: "new", kind: "resin" }]);
    expect(alone.arrangement.places).toEqual([{ stageId: "new", vesselId: "own-vessel" }]);
    expect(alone.charges[0]!.resinLitres).toBeCloseTo(14 * 0.85, 9);
    const { vessels, rig, charges } = buildRig(lagged, () => "new", new Date(), own);
    expect(vessels.map(({ name }) => name)).toEqual(["Tank 2"]);
    expect(rig.stages).toHaveLength(2);
    expect(charges.map(({ vesselId }) => vesselId)).toEqual(["own-vessel", "new"]);
  });

  test("has the marks of the school that its limit belongs to, else its own", () => {
    const nacl = (value: number) => ({ value, scale: "nacl" as const });
    expect(marksFor(nacl(20), "glass").hard).toBe(30);
    expect(marksFor({ value: 20, scale: "442" }, "glass")).toEqual({ watch: 12, limit: 20, hard: 40, scale: "442" });
    expect(marksFor(nacl(1), "aquarium")).toMatchObject({ watch: 0.5, capacityUsed: 0.9 });
    expect(marksFor(nacl(15), "paint")).toMatchObject({ watch: 9, limit: 15, hard: 30 });
  });

  test("is held against the rig's log from the day it is in use", () => {
    const rig = rigWith([0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0]);
    expect(planActual({}, rig)).toBeUndefined();
    const since = (days: number) => planActual({ inUseSince: new Date(START + days * DAY - 1000).toISOString() }, rig)!;
    expect(since(0).litres).toBe(1400);
    expect(since(7)).toMatchObject({ litres: 700, charges: [], chargeSoFar: 0 });
    expect(since(7).weeks).toBeCloseTo(1, 2);
    expect(since(-2).chargeSoFar).toBe(1400);
    expect(loggedDays(rig).map(({ litres }) => litres)).toEqual(Array<number>(14).fill(100));
  });
});

describe("a plan as a file", () => {
  const context = { tap: TAP, version: 2, units: "metric" } as const;

  test("CSV has every figure once, with its unit", () => {
    const lines = planCsv(tankPlan, context).trim().split("\n");
    expect(lines[0]).toBe("what,value,unit");
    expect(lines).toContain("version,2,");
    expect(lines.find((line) => line.startsWith('"a year, in all"'))).toBe(
      `"a year, in all",${Number(tankPlan.expected.cost.total.toPrecision(6))},EUR`,
    );
    expect(new Set(lines.map((line) => line.split(/,(?=\S)/)[0])).size).toBe(lines.length);
  });

  test("JSON can be asked of the API again", () => {
    const { work, version, tapName } = JSON.parse(planJson(tankPlan, context)) as Plan & Record<string, unknown>;
    expect([version, tapName]).toEqual([2, "Yard tap"]);
    expect(unwrap(size(work)).options.find(({ name }) => name === "Tank, virgin resin")!.cost.total).toBeCloseTo(
      tankPlan.expected.cost.total,
      6,
    );
  });

  test("the page names the first few kinds of work and counts the others, so that it stays one", () => {
    const item = tankPlan.work.demand.items[0]!;
    const many = { ...tankPlan, work: { ...tankPlan.work, demand: { items: Array(50).fill(item) } } };
    expect(JSON.stringify(planDocument(many, context))).toContain("and 45 more");
    expect(JSON.stringify(planDocument(tankPlan, context))).not.toContain(" more.");
  });

  test("the page says what, what it costs and what to mind", () => {
    const page = JSON.stringify(planDocument(tankPlan, context));
    expect(page).toContain(tankPlan.name);
    expect(page).toMatch(/safety data sheet.*local authority/);
    expect(page).toContain(money(Math.round(tankPlan.expected.cost.total), "EUR"));
    expect(JSON.stringify(planDocument(tankPlan, { ...context, units: "us" }))).toMatch(
      /US gal.*LETTER|LETTER.*US gal/,
    );
  });
});

describe("claims and prices as typed", () => {
  test("a statement needs its water alone; what is wrong is said and the others stand", () => {
    const typed = startClaims("metric");
    const [first, second] = typed.claims;
    const { claims, errors } = parseClaims({
      ...typed,
      claims: [
        { ...first!, ppm: "", price: "cheap" },
        { ...second!, volume: "" },
      ],
    });
    expect(claims).toEqual([
      { name: first!.name, litres: 4000, scale: "442", resinLitres: 7, priceOf: "set", refillPrice: 70 },
    ]);
    expect(Object.keys(errors)).toEqual(["a.price"]);
    const us = parseClaims(startClaims("us")).claims;
    expect(us[0]!.litres).toBeCloseTo(4000, -1);
    expect(us[0]!.resinLitres).toBeCloseTo(7, 1);
    const gallons = parseClaims({ ...typed, claims: [{ ...first!, units: "us", volume: "1000", resin: "0.5" }] });
    expect(gallons.claims[0]!.litres).toBeCloseTo(3785.41, 2);
    expect(gallons.claims[0]!.resinLitres).toBeCloseTo(14.158, 3);
    const kilograms = parseClaims({ ...typed, claims: [{ ...first!, resin: "7", resinBy: "weight" }] });
    expect(kilograms.claims[0]!.resinLitres).toBeCloseTo(10, 9);
    expect(resinByWeight("metric")).toContain("A litre of drained resin weighs about 0.7 kg");
    expect(resinByWeight("us")).toContain("A cubic foot of drained resin weighs about 43.7 lb");
    const pounds = parseClaims({ ...typed, claims: [{ ...first!, units: "us", resin: "10", resinBy: "weight" }] });
    expect(pounds.claims[0]!.resinLitres).toBeCloseTo(6.4799, 3);
  });
});

describe("a working in the user's units", () => {
  const of = (unit: string): Explanation => ({
    name: "n",
    value: 100,
    unit,
    formula: "a",
    words: "w",
    inputs: [{ symbol: "a", name: "a", value: 100, unit, from: "here" }],
    school: "s",
    source: "s",
  });

  test.each([
    ["L", "US gal", 26.4172],
    ["L a week", "US gal a week", 26.4172],
    ["EUR per 1000 L", "EUR per 1000 US gal", 378.541],
    ["kg", "lb", 220.462],
    ["kPa", "psi", 14.5038],
    ["L of resin a year", "ft³ of resin a year", 3.53147],
    ["meq/L", "meq/L", 100],
    ["EUR a year", "EUR a year", 100],
  ])("%s is %s for a user of gallons, and its formula still gives its number", (unit, shownUnit, value) => {
    const explained = explainedIn("us", of(unit));
    expect(explained.unit).toBe(shownUnit);
    expect(explained.value).toBeCloseTo(value, 2);
    expect(evaluateExplanation(explained)).toBeCloseTo(explained.value, 9);
    expect(explainedIn("metric", of(unit))).toEqual(of(unit));
  });
});

test("each kind of work reads as a person says it", () => {
  const words = Object.values(USE_PRESETS).flatMap(({ work }) =>
    work.map((preset) => {
      const typed = { ...startWork("metric"), items: [typedItem(preset, "k", "metric")] };
      return itemInWords(parseWork(typed, facts, "metric").input!.demand.items[0]!, "metric");
    }),
  );
  expect(words).toContain("20 maintenance cleans of 60 L (guessed)");
  expect(words).toContain("15 rinses of 8 min at 5 L/min (timed)");
  expect(words).toContain("tanks: 400 L, 20 % changed 1 times a week, 3 L evaporating a day (timed)");
  expect(words).toContain("a meter’s total: 150 L (metered)");
});

test("money, days and years read as a person says them", () => {
  expect([money(1116.6, "EUR"), money(0.724, "EUR"), money(30, "GBP")]).toEqual(["€1,117", "€0.72", "£30"]);
  expect(money(12, "no")).toBe("12 no");
  expect(moneyRange(757.4, 1487, "USD")).toBe("$757 to $1,487");
  expect([minutesInWords(7.1), minutesInWords(250)]).toEqual(["7.1 min", "4.2 h"]);
  expect([days(3.21), days(146.5), days(800)]).toEqual(["3.2 days", "147 days", "2.2 years"]);
  expect([daysRange(12.1, 18.4), daysRange(7, 7), daysRange(400, 800), daysRange(600, 2000)]).toEqual([
    "12 to 18 days",
    "7 days",
    "13 to 27 months",
    "1.6 to 5.5 years",
  ]);
});

test("every habit has its name and says what its figure rests on", () => {
  const practice = { ...PRACTICE_ASSUMPTIONS, lowerFlow: 2.4, otherTap: waters.low };
  const [option] = generateOptions([]).filter(({ vessel, before }) => vessel.name === "Tank" && before === "membrane");
  for (const habit of unwrap(rankHabits({ work: input, option: option!, practice }))) {
    expect(HABIT_WORDS[habit.name]).toMatch(/^[A-Z]/);
    expect(habitBasis(habit, practice, "us", "Row tap")).toMatch(/^\S.*[^.]$/);
  }
});
