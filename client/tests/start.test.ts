import { RECORDS } from "@winter-bead/contract/src/records";
import { startingRecords, TRADES, type Trade } from "@winter-bead/core/src/start";
import { answerStart, answerStartFirst, type StartAnswer, type StartQuestion } from "../features/start/answer";
import { parseStart, startDraft, startInOtherUnits, withTrade, type StartDraft } from "../features/start/start-form";

const NOTHING = { taps: [], meters: [] };
const typed = (more: Partial<StartDraft> = {}): StartDraft => ({
  ...startDraft("metric"),
  shown: "143",
  meter: "nacl",
  ...more,
});
const parsed = (more: Partial<StartDraft> = {}) => parseStart(typed(more), NOTHING, "metric");
const asked = (more: Partial<StartDraft> = {}): StartQuestion => ({
  ...parsed(more).question!,
  now: Date.parse("2027-03-01T08:00:00Z"),
});
const answered = (more: Partial<StartDraft> = {}): StartAnswer => {
  const answer = answerStart(asked(more));
  if ("fault" in answer) throw new Error(answer.fault.message);
  return answer;
};

describe("the three questions as typed", () => {
  test("say what is still open before anything is wrong", () => {
    expect(parsed({ shown: "" })).toMatchObject({ open: "shown", errors: {} });
    expect(parsed({ meter: "" })).toMatchObject({ open: "meter", errors: {} });
    expect(parsed().question).toMatchObject({ shown: 143, meter: { scale: "nacl" }, grossVolume: 28, jobsPerWeek: 20 });
  });
  test("of a tap that is known neither reading nor meter is asked", () => {
    const tap = { id: "tap", siteId: "site", name: "Yard", low: 140, typical: 160, high: 185, scale: "442" as const };
    const { question, open } = parseStart(
      typed({ shown: "", meter: "", tapId: "tap" }),
      { taps: [tap], meters: [] },
      "metric",
    );
    expect([open, question?.shown, question?.tap?.name, question?.meter]).toEqual([
      undefined,
      undefined,
      "Yard",
      { scale: "442" },
    ]);
  });
  test("what is no number or beyond reason is said at its field, and nothing is asked of the worker", () => {
    for (const [field, text] of [
      ["shown", "abc"],
      ["vessel", "0"],
      ["vessel", "99999"],
      ["jobs", "-1"],
      ["perJob", ""],
      ["name", " "],
    ] as const) {
      const { question, errors } = parsed({ [field]: text });
      expect([field, question, typeof errors[field]]).toEqual([field, undefined, "string"]);
    }
    expect(parsed({ used: "jobs", usedCount: "" }).errors.usedCount).toMatch(/about how many/);
    expect(parsed({ used: "weeks", usedCount: "6" }).question?.partUsed).toEqual({ by: "weeks", weeks: 6 });
  });
  test("another trade brings its own defaults, and leaves what the hand has changed", () => {
    const draft = typed({ jobs: "7" });
    const after = { ...draft, ...withTrade(draft, "aquarium", "metric") };
    expect(after).toMatchObject({ trade: "aquarium", jobs: "7", vessel: "1.5", before: "membrane", name: "Tank" });
    expect(after.shown).toBe("143");
    const back = { ...after, ...withTrade(after, "windows", "metric") };
    expect(back).toEqual(draft);
  });
  test("reads the same in gallons", () => {
    const us = startInOtherUnits(typed(), "metric", "us");
    const question = parseStart(us, NOTHING, "us").question!;
    expect(question.grossVolume).toBeCloseTo(28, 0);
    expect(question.litresPerJob).toBeCloseTo(60, 0);
  });
  test("a surface that dries quickly asks for a lower limit", () => {
    expect(parsed({ trade: "own-car", surface: "1" }).question!.marks.limit).toBe(5);
    expect(parsed({ trade: "aquarium", surface: "1" }).question!.marks).toMatchObject({ limit: 2, capacityUsed: 0.9 });
    // A trade with fewer surfaces than the one before falls back to its usual one.
    expect(parsed({ trade: "aquarium", surface: "2" }).question!.marks.limit).toBe(1);
  });
});

describe("the answer of a first day", () => {
  const windows = answered();
  test("is a range with its date, from the same books as the rack's", () => {
    const { low, typical, high } = windows.left!;
    expect(low).toBeLessThan(typical);
    expect(high).toBeGreaterThan(1.5 * low);
    expect(windows.dates!.likely > "2027-03-01").toBe(true);
    expect(windows.standing.used.litres).toBe(0);
  });
  test("tells what the same number means on each scale: the more µS a ppm stands for, the fewer litres", () => {
    const litres = new Map(windows.byScale.map(({ scale, litres: each }) => [scale, each]));
    expect(litres.get("nacl")).toBeCloseTo(windows.left!.typical, 6);
    expect(litres.get("442")! / litres.get("nacl")!).toBeGreaterThan(1.3);
    expect(litres.get("442")! / litres.get("nacl")!).toBeLessThan(1.5);
    expect(litres.get("ec")!).toBeGreaterThan(1.9 * litres.get("nacl")!);
  });
  test("without a scale it spans all that ppm meters have", () => {
    const unknown = answered({ meter: "unknown" });
    expect(unknown.left!.low).toBeCloseTo(windows.left!.low, 6);
    expect(unknown.left!.high).toBeCloseTo(answered({ meter: "442" }).left!.high, 6);
  });
  test("a first ended charge makes it narrower about the same middle", () => {
    const { narrowed, left } = windows;
    expect(narrowed!.high - narrowed!.low).toBeLessThan(0.85 * (left!.high - left!.low));
    expect(narrowed!.typical / left!.typical).toBeGreaterThan(0.85);
    expect(narrowed!.typical / left!.typical).toBeLessThan(1.15);
  });
  test("a charge in use has less left, one of years says how it ages", () => {
    expect(answered({ used: "jobs", usedCount: "30" }).left!.typical).toBeLessThan(windows.left!.typical - 1000);
    expect(windows.ageing).toBeUndefined();
    const years = answered({
      ...startDraft("metric"),
      ...withTrade(typed(), "own-car", "metric"),
      shown: "60",
      meter: "ec",
      vessel: "28",
    });
    expect(years.ageing!.years).toBeGreaterThan(3);
    expect(years.ageing!.lost).toBeGreaterThan(0.15);
  });
  test("stands first by the conductivity alone: behind a membrane that leaves the carbon dioxide out, and says so", () => {
    const plain = answerStartFirst(asked())!;
    expect(plain.left).toEqual(answered().left);
    const tank = { ...typed(), ...withTrade(typed(), "aquarium", "metric") };
    const first = answerStartFirst(asked(tank))!;
    const whole = answered(tank);
    expect([first.isFirst, first.standing.leak, first.standing.carbon]).toEqual([true, undefined, undefined]);
    expect([whole.isFirst, whole.standing.leak?.isUnseen]).toEqual([undefined, true]);
    expect(first.left!.typical).toBeGreaterThan(whole.left!.typical);
    expect(answerStartFirst({ ...asked(), grossVolume: 0 })).toBeUndefined();
    // Water that meets the limit by its conductivity may leak before: nothing is said of it first.
    expect(answerStartFirst(asked({ ...tank, shown: "3" }))).toBeUndefined();
  });
  test("every trade has an answer with its defaults", () => {
    for (const trade of Object.keys(TRADES) as (keyof typeof TRADES)[])
      expect([trade, answered({ ...withTrade(typed(), trade, "metric") }).left!.typical > 100]).toEqual([trade, true]);
  });
});

test("what a first day keeps is such as the server keeps, for every trade", () => {
  let made = 0;
  const newId = () => `019f066c-2ae0-794e-9ebd-${String((made += 1)).padStart(12, "0")}`;
  for (const trade of Object.keys(TRADES) as Trade[]) {
    const { meter: _, ...question } = parsed({ ...withTrade(typed(), trade, "metric") }).question!;
    const records = startingRecords(
      { ...question, meter: { scale: "nacl" } },
      newId,
      Date.parse("2027-03-01T08:00:00Z"),
    );
    if (!records.ok) throw new Error(records.fault.message);
    const { site, tap, meter, vessel, rig, charge, feedTest } = records.value;
    for (const [kind, record] of [
      ["sites", site],
      ["taps", tap],
      ["meters", meter],
      ["vessels", vessel],
      ["rigs", rig],
      ["charges", charge],
      ["feed-tests", feedTest],
    ] as const) {
      const { id: _id, ...body } = record!;
      expect([trade, kind, RECORDS[kind].safeParse(body).error]).toEqual([trade, kind, undefined]);
    }
  }
});
