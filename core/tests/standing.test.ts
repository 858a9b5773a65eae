import {
  addDays,
  ageWords,
  bypassWords,
  compositionAtResin,
  expectedUse,
  explainHeadline,
  explainLeak,
  explainLeft,
  headlineOf,
  lastReadWords,
  learn,
  lessonsOf,
  markWords,
  MARKS,
  paceOf,
  riseWords,
  rigStanding,
  sinceLastLog,
  standing,
  standingDates,
  unloggedWords,
  unwrap,
  verdict,
  verdictWords,
  workStanding,
  workWords,
  type Charge,
  type ReadingGroup,
  type Standing,
  type ThreeOf,
  type VerdictInput,
  type Visit,
  type WaterReport,
  type Wording,
} from "../src/index";
import { largestAgreement } from "../src/belief/groups";
import { plausibleLitres } from "../src/run/register";
import { noLaterThanTrend } from "../src/run/standing-dates";
import { slowRise, trendLeft, trendPoints, trendTo } from "../src/verdict/slow-rise";
import { expectTrue } from "./explained";
import {
  chargeOf,
  clean,
  DAY,
  factsOf,
  hungIn,
  iso,
  rigOf,
  standingOf,
  START,
  vesselOf,
  visitsOf,
  weekdays,
  workOf,
  type Told,
} from "./told";

const wording: Wording = {
  litres: (litres) => `${Math.round(litres)} L`,
  litresRange: (low, high) => `${Math.round(low)} to ${Math.round(high)} L`,
  scaleUnit: (scale) => `ppm ${scale}`,
  day: (at) => new Date(at).toISOString().slice(0, 10),
};
const factsOfRig = (told: Told) => ({ rig: rigOf(told), vessel: vesselOf(told) });
const wordsOf = (told: Told) => verdictWords(standingOf(told), factsOfRig(told), wording);
const threeOf = ({ low, typical, high }: ThreeOf<number>) => [low, typical, high].map(Math.round);
const left = ({ left: litres }: Standing) => {
  if (!litres) throw new Error("No litres are shown.");
  return threeOf(litres);
};
const datesOf = (told: Told) => unwrap(standingDates(workOf(told)));
const AQUARIUM: Partial<Told> = {
  use: "aquarium",
  marks: MARKS["aquarium-1"],
  resin: 2,
  diameter: 100,
  flow: 1,
  litresPerJob: 60,
  litres: 60,
  feed: 0,
  stages: [{ kind: "membrane", rejection: 0.95 }],
};

describe("where a charge stands", () => {
  test("what was put on it is gone from what is left", () => {
    expect(left(standingOf({ outputs: clean(3) }))).toEqual([960, 1548, 2409]);
    expect(left(standingOf({ outputs: clean(9) }))).toEqual([394, 959, 1811]);
    expect(standingOf({ outputs: clean(9) }).front.typical).toBeGreaterThan(
      standingOf({ outputs: clean(3) }).front.typical,
    );
  });
  test("clean readings late in the charge say that the resin holds at least this much", () =>
    expect(standingOf({ outputs: clean(19) }).capacity.low).toBeGreaterThan(
      1.2 * standingOf({ outputs: clean(3) }).capacity.low,
    ));
  test("an empty vessel has no standing but a sentence", () => {
    const none = standing({ ...factsOf({ outputs: [0] }), charges: [] });
    expect(none.ok ? "" : none.fault.message).toMatch(/no charge/);
  });
  test("a feed that meets the limit leaves nothing to count, and says so", () => {
    const told: Told = { outputs: clean(3), feed: 8, tap: { low: 7, typical: 8, high: 9 } };
    const where = standingOf(told);
    expect([where.left, where.feedMeetsLimit, where.verdict.state]).toEqual([undefined, true, "fine"]);
    expect(wordsOf(told).reason).toContain("The feed itself meets your limit");
  });
});

describe("nine dips of one probe are one reading", () => {
  test("and so leave what one leaves", () => {
    const nine = standingOf({ outputs: [...clean(5), Array<number>(9).fill(14)] });
    expect(left(nine)).toEqual(left(standingOf({ outputs: [...clean(5), 14] })));
    expect(left(nine)[1]).toBeGreaterThan(1200);
    expect(nine.groups).toHaveLength(6);
  });
});

describe("the first week", () => {
  test("a weekday not yet seen is not a day of rest", () => {
    const { early, likely, late } = datesOf({ outputs: clean(2) });
    expect([early, likely, late]).toEqual(["2027-03-15", "2027-03-24", "2027-04-08"]);
  });
  test("jobs a week stated for the rig give a date before the first log", () => {
    expect(datesOf({ outputs: [], jobsPerWeek: 12.5 }).likely).toBe("2027-03-25");
    expect(datesOf({ outputs: [], jobsPerWeek: 25 }).likely < "2027-03-20").toBe(true);
  });
  test("water by weekday is drawn towards the usual work-day until it is known", () => {
    const monday = { date: "2027-03-01", litres: 100 };
    const use = expectedUse([monday], { litresPerJob: 40 });
    expect(use.weekdays.map((litres) => Number(litres.toFixed(2)))).toEqual([100, 100, 100, 100, 100, 30, 10]);
    const week = [0, 1, 2, 3].map((day) => ({ date: addDays("2027-03-01", day), litres: day === 2 ? 0 : 100 }));
    // Three days with water and a Wednesday without: a work-day is 300 L over 4 days.
    const [mon, , wed, , fri] = expectedUse(week, { litresPerJob: 40 }).weekdays;
    expect([mon, wed, fri].map((litres) => Number(litres!.toFixed(2)))).toEqual([83.33, 50, 75]);
  });
  test("stated work counts like a week of log", () => {
    const use = expectedUse([{ date: "2027-03-01", litres: 100 }], { litresPerJob: 40, jobsPerWeek: 27 });
    // (100 + 27 × 40) / (1 + 5.4) a work-day
    expect(use.weekdays[1]).toBeCloseTo(1180 / 6.4, 9);
    expect(expectedUse([], { litresPerJob: 40, jobsPerWeek: 27 }).weekdays[0]).toBeCloseTo(200, 9);
    expect(expectedUse([], { litresPerJob: 40 }).weekdays[6]).toBeCloseTo(4, 9);
  });
  test("a season ago is another season", () => {
    const old = Array.from({ length: 60 }, (_, i) => ({ date: addDays("2026-08-03", i), litres: 500 }));
    const now = Array.from({ length: 84 }, (_, i) => ({ date: addDays("2026-12-01", i), litres: 100 }));
    expect(expectedUse([...old, ...now], { litresPerJob: 40 }).weekdays[2]).toBeCloseTo(100, 9);
    // The oldest Tuesday of twelve weeks counts, the Monday before it not.
    const edge = [{ date: "2026-11-30", litres: 500 }, { date: "2026-12-01", litres: 500 }, ...now.slice(1)];
    const { weekdays: usual } = expectedUse(edge, { litresPerJob: 40 });
    const workday = 8800 / 84;
    expect(usual[1]).toBeCloseTo((1600 + 2 * workday) / 14, 9);
    expect(usual[0]).toBeCloseTo((1200 + 2 * workday) / 14, 9);
  });
});

describe("silence is not rest", () => {
  test("the litres go down, the date stays, and the words say how old the log is", () => {
    const [fresh, silent] = [standingOf({ outputs: clean(9) }), standingOf({ outputs: clean(9), silence: 9 })];
    expect(silent.sinceLog.days).toBe(9);
    expect([ageWords(silent), ageWords(fresh)]).toEqual(["log 9 days old", ""]);
    const since = (days: number) => ageWords({ ...silent, sinceLog: { ...silent.sinceLog, days } });
    expect([since(1), since(2)]).toEqual(["", "log 2 days old"]);
    expect(silent.sinceLog.litres).toBeCloseTo(611, 0);
    expect(left(silent)[1]).toBeCloseTo(left(fresh)[1]! - 600, -1);
    expect(datesOf({ outputs: clean(9) }).likely).toBe("2027-03-25");
    expect(datesOf({ outputs: clean(9), silence: 9 }).likely).toBe("2027-03-25");
    expect(silent.verdict).toEqual({ state: "watch", reasons: ["not-logged", "nearly-used"] });
    expect(wordsOf({ outputs: clean(9), silence: 9 }).reason).toBe(
      "Last logged 9 days ago; about 611 L may have gone since. The limit may be passed: log a reading.",
    );
  });
  test("what may have gone is the expected use of the days between, as sure as their number", () => {
    const use = expectedUse([{ date: "2027-03-01", litres: 100 }], { litresPerJob: 40 });
    const asked = (today: string, booked = new Map<string, number>()) => sinceLastLog("2027-03-01", today, use, booked);
    expect(asked("2027-03-02")).toEqual({ days: 1, litres: 0, sd: 0 });
    expect(asked("2027-03-04").litres).toBeCloseTo(200, 9);
    expect(asked("2027-03-04").sd).toBeCloseTo(Math.hypot(0.3 * 200, 0.5 * Math.hypot(100, 100)), 9);
    expect(asked("2027-03-04", new Map([["2027-03-03", 0]])).litres).toBeCloseTo(100, 9);
  });
  test("a charge filled long ago and never logged is not fresh", () => {
    const where = standingOf({ outputs: [], silence: 21 });
    expect(where.sinceLog.litres).toBeCloseTo(608, 0);
    expect(left(where)).toEqual([517, 1226, 2151]);
  });
  test("today's water is not charged twice", () => {
    const worked = workOf({ outputs: clean(9) });
    expect(worked.firstDay).toBe("2027-03-12");
    expect(workOf({ outputs: clean(9), silence: 1 }).firstDay).toBe("2027-03-12");
  });
});

describe("the front and the last readings agree", () => {
  const slow: Told = {
    outputs: [2, 3, 4.5, 7],
    litres: 250,
    feed: 120,
    resin: 12,
    tap: { low: 110, typical: 120, high: 130 },
    marks: { watch: 7.5, limit: 8, hard: 16, scale: "nacl" },
  };
  test("a rise that the curve does not make has its own litres to the limit", () => {
    const { standing: where, trend, mark } = workOf(slow);
    expect([where.verdict.state, where.isByTrend]).toEqual(["watch", true]);
    expect(left(where)).toEqual([80, 110, 152]);
    expect(wordsOf(slow).more.join(" ")).toMatch(
      /It rises more than beads at this load would.* are those of this rise/,
    );
    expect(headlineOf(where, factsOfRig(slow))).toEqual({ litres: where.left, to: "left" });
    expectTrue(explainLeft(where)!);
    expect(trend?.litres.typical).toBeCloseTo(110, 0);
    expect(mark).toBeDefined();
    // Water since that reading is gone from it, and what may have gone since the log.
    const later = standingOf({ ...slow, outputs: [...slow.outputs, undefined], litres: 250, silence: 0 });
    expect(left(later)).toEqual([0, 0, 0]);
  });
  test("its dates are of the smaller of both, rank by rank", () => {
    const worked = workOf({ ...slow, litresPerJob: 20 });
    const { trend: _none, ...belief } = worked;
    const [both, alone] = [worked, belief].map((each) => unwrap(standingDates(each)).late);
    expect(both! < alone!).toBe(true);
    const drawn = Float64Array.of(500, 20, 300, 100);
    noLaterThanTrend(drawn, worked);
    const [first, second, third] = [0.125, 0.375, 0.625].map((share) => trendLeft(worked.trend!, share));
    expect(Array.from(drawn)).toEqual([trendLeft(worked.trend!, 0.875), 20, third, Math.min(100, second!)]);
    expect(first).toBeGreaterThan(20);
    noLaterThanTrend(drawn, { question: worked.question });
    expect(drawn[1]).toBe(20);
  });
  test("to the stop point it goes by the same rule, once the limit is believed", () => {
    const above: Told = { ...slow, marks: { watch: 2.5, limit: 3, hard: 20, scale: "nacl" } };
    const where = standingOf(above);
    expect([where.verdict.state, where.leftTo, where.rise?.markEc25]).toEqual(["finish", "hard", 40]);
    expect(left(where)).toEqual([630, 1114, 1970]);
    expect(headlineOf(where, factsOfRig(above))).toEqual({ litres: where.left, to: "to the stop point" });
    expect(wordsOf(above).reason).toMatch(
      /^Out 7 ppm nacl, your limit is 3\. 630 to 1970 L left before your stop point/,
    );
    // Where only the two looks convince, the count does not explain it.
    const twice: Told = { ...slow, again: [7], marks: { watch: 5, limit: 6, hard: 20, scale: "nacl" } };
    const unlike = standingOf(twice);
    expect([unlike.verdict.state, unlike.isExplained, unlike.left]).toEqual(["finish", false, undefined]);
    expect(wordsOf(twice).reason).toMatch(
      /^Out 7, then 7 ppm nacl.* By the count it should hold longer, yet it rises: look for water round the beads/,
    );
    expect(wordsOf(twice).more.join(" ")).toMatch(/As it rises, 20 ppm nacl comes in \d+ to \d+ L\./);
    expect(headlineOf(unlike, factsOfRig(twice))).toEqual({ word: "Finish, rinse more" });
    // On the scale of the meter in hand.
    const outputs = unlike.outputs.map((each) => ({ ...each, scale: "442" as const }));
    expect(riseWords({ ...unlike, outputs }, vesselOf(twice), wording)).toMatch(/28 ppm 442 comes in/);
  });
  test("a rise that was foretold is none, nor one that falls back, stands within a step or is looked at again", () => {
    const group = (ec25: number, i: number): ReadingGroup => ({
      ...{ from: 300 * i, litres: 300 * i, meq: 1200 * i, ec25, feedEc25: 400, ppm: 2, agreeing: 1, looks: [ec25] },
    });
    const of = (outputs: readonly number[], foretold = 1) => slowRise(outputs.map(group), 20, () => foretold);
    expect(of([4, 6, 9, 14])).toBeDefined();
    expect([of([4, 6, 9, 14], 10), of([4, 6, 9, 14.1], 10) !== undefined]).toEqual([undefined, true]);
    expect([of([6, 8, 7, 12]), of([4, 6, 7.9, 14]), of([4, 6, 9])]).toEqual([undefined, undefined, undefined]);
    const doubted = [4, 6, 9, 24].map((ec25, i) => ({ ...group(ec25, i), looks: i === 3 ? [0, ec25] : [ec25] }));
    expect(slowRise(doubted, 20, () => 1)).toBeUndefined();
    // From a reading of nothing it starts below what the meter tells: a quarter of its step.
    expect(of([0, 3, 6, 12])!.factorPerMeq).toBeGreaterThan(of([1, 3, 6, 12])!.factorPerMeq);
    // Past the mark there is nothing left.
    expect(threeOf(trendTo(of([8, 12, 18, 24])!, 20, 400, 900).litres)).toEqual([0, 0, 0]);
    const trend = trendTo(of([8, 12, 18, 24])!, 40, 400, 1000);
    expect([trend.since, trendLeft(trend, 0.5), trendLeft(trend, 0.5, 50)].map(Math.round)).toEqual([100, 507, 457]);
    const drawn = trendPoints(trend);
    expect([drawn[0]!.litres, drawn[drawn.length - 1]!.litres]).toEqual([0, 900 + trend.litres.low]);
    expect(drawn[drawn.length - 1]!.ec25).toBeCloseTo(40, 6);
  });
  test("a constant share of the feed since the refill is bypass", () => {
    const where = standingOf({ outputs: Array(7).fill(3) as number[] });
    expect(where.shape.bypass).toBeCloseTo(0.0192, 4);
    expect(bypassWords(where)).toMatch(/^About 1.9 % of the feed goes round the beads since the refill/);
    expect(left(where)).toEqual([554, 1129, 1976]);
    expect(bypassWords(standingOf({ outputs: clean(7) }))).toBe("");
  });
});

describe("alkaline water", () => {
  const told = (outputs: readonly number[], alkalinity?: number): Told => ({
    outputs,
    tap: alkalinity === undefined ? {} : { alkalinity, ph: 7.4, silica: 8 },
  });
  const rising = [...clean(14), 2, 5, 7, 8];
  test("leaves litres beside a reading of 8 under a limit of 10", () => {
    expect(left(standingOf(told(rising, 125)))).toEqual([29, 131, 221]);
    expect(left(standingOf(told(rising)))[1]).toBeLessThan(30);
  });
  test("on the plateau the meter's life goes on", () => {
    const where = standingOf(told([...clean(16), 6, 7, 7, 7], 140));
    expect(left(where)[1]).toBeGreaterThan(130);
    expect(left(standingOf(told([...clean(16), 6, 7, 7, 7])))[1]).toBeLessThan(30);
    expect(where.limitThroughput).toBeGreaterThan(1.05);
  });
  test("counts a report's alkalinity like the tap's", () => {
    const report: WaterReport = {
      id: "report",
      tapId: "tap",
      sampledOn: "2027-02-01",
      source: "typed",
      values: { alkalinity: 125, ph: 7.4, silica: 8 },
    };
    const reported = standingOf({ outputs: rising, reports: [report] });
    expect(left(reported)).toEqual(left(standingOf(told(rising, 125))));
  });
});

describe("a worse reading", () => {
  const rise = [...clean(15), 2, 5, 9];
  test("never leaves more without saying that the mark changed", () => {
    const [before, above] = [standingOf({ outputs: rise }), standingOf({ outputs: [...rise, 12] })];
    expect([before.leftTo, above.leftTo]).toEqual(["limit", "hard"]);
    expect(headlineOf(above, factsOfRig({ outputs: [] }))).toEqual({ litres: above.left, to: "to the stop point" });
    expect(wordsOf({ outputs: [...rise, 12] }).reason).toMatch(/left before your stop point of 20/);
    const worse = standingOf({ outputs: [...rise, 19] });
    expect(left(worse)[1]).toBeLessThan(left(above)[1]!);
  });
  test("above the stop point no litres are promised, before the change is sure", () => {
    const told: Told = { outputs: [...rise, 25] };
    expect([standingOf(told).verdict.state, standingOf(told).left]).toEqual(["finish", undefined]);
    expect(wordsOf(told).reason).toMatch(/above your stop point of 20\. Don’t use this water; read again/);
  });
  test("a reading at a mark is at it, not above", () => {
    expect(wordsOf({ outputs: [...clean(15), 2, 6] }).reason).toMatch(
      /^Out 6 ppm nacl: at your watch point of 6, the limit is 10\./,
    );
    expect(wordsOf({ outputs: [...clean(15), 2, 7] }).reason).toMatch(/^Out 7 ppm nacl: above your watch point of 6/);
  });
  test("at change there are neither litres nor a date", () => {
    const told: Told = { outputs: [...rise, 19, 31, 44] };
    const where = standingOf(told);
    expect([where.verdict.state, where.left, where.leftTo]).toEqual(["change", undefined, "none"]);
    expect(lastReadWords(where, vesselOf(told), wording)).toBe("out 44 ppm nacl");
    expect(lastReadWords(standingOf({ outputs: [] }), vesselOf(told), wording)).toBe("");
    expect(standingDates(workOf(told)).ok).toBe(false);
    expect(headlineOf(where, factsOfRig(told))).toEqual({ word: "Don’t use this water" });
  });
  test("near the limit the late date stays near", () => {
    const { early, late } = datesOf({ outputs: rise, litres: 100 });
    expect([early, late]).toEqual(["2027-03-25", "2027-03-25"]);
  });
});

describe("an aquarium", () => {
  test("is not softened by zeros before: at the limit it asks for another reading, in the words as typed", () => {
    const marks = { watch: 1, limit: 2, hard: 4, scale: "ec" as const, capacityUsed: 0.9 };
    const microsiemens = (outputs: readonly number[]): Told => ({
      ...AQUARIUM,
      marks,
      outputs,
      amend: (visits) =>
        visits.map((visit) => ({
          ...visit,
          readings: visit.readings.map(({ id, point, value }) => ({ id, point, value, scale: "ec" as const })),
        })),
    });
    expect(standingOf(microsiemens([0, 0, 2])).verdict).toEqual({ state: "watch", reasons: ["odd-reading"] });
    expect(wordsOf(microsiemens([0, 0, 2])).reason).toMatch(
      /^Out 2 ppm ec; your limit is 2\. Let it run a minute and look again; look at the bypass and the probe\.$/,
    );
    expect(wordsOf(microsiemens([0, 0, 2])).more[0]).toMatch(/^If it was wrong, \d+ to [\d,]+ L are left\.$/);
    expect(wordsOf(microsiemens([0, 0, 4])).reason).toMatch(/^Out 4 ppm ec, at your stop point of 4\. Don’t use/);
    expect(standingOf(microsiemens([0, 0, 2, 2, 2])).verdict.state).toBe("finish");
    expect(standingOf(microsiemens([0, 0, 4, 4, 4])).verdict.state).toBe("change");
    expect(verdictWords(standingOf(microsiemens([0, 0, 2, 2, 2])), factsOfRig(microsiemens([])), wording).title).toBe(
      "Stop filling",
    );
  });
  test("counts to the first leak where the water is known, silica first", () => {
    const told: Told = {
      ...AQUARIUM,
      outputs: [0, 0],
      tap: { low: 200, typical: 220, high: 250, alkalinity: 200, ph: 6.9, silica: 12 },
    };
    const where = standingOf(told);
    expect(where.leak!.species).toBe("sio2");
    expect([where.leak!.low, where.leak!.high].map(Math.round)).toEqual([298, 823]);
    const headline = headlineOf(where, factsOfRig(told))!;
    expect(headline).toEqual({ litres: where.leak, to: "to the first leak" });
    expect(markWords(where, rigOf(told))).toBe("first leak");
    expect(wordsOf(told).reason).toMatch(
      /^Out 0 ppm nacl, below your watch point of \S+ 298 to 823 L left until anything leaks\.$/,
    );
    // 50 mg/L of carbon dioxide is 8.8 µS/cm, above the limit of 2: the meter's own life ends there too.
    expect(left(where)[2]).toBeLessThan(1000);
    expectTrue(explainLeak(where)!);
    expect(explainHeadline(where, factsOfRig(told))).toEqual(explainLeak(where));
    expect(explainHeadline(where, factsOfRig({ outputs: [] }))).toEqual(explainLeft(where));
    // Nine tenths of the way to the limit nothing is seen of it yet.
    const silent = standingOf({ outputs: [0], tap: { alkalinity: 20, ph: 8, silica: 10 } }).leak!;
    expect([silent.share.toFixed(2), silent.isUnseen]).toEqual(["0.89", true]);
  });
  test("its nine tenths work without any reading", () => {
    const told: Told = { ...AQUARIUM, outputs: Array<undefined>(180).fill(undefined) };
    const { verdict: asks, promisedShare } = standingOf(told);
    expect(promisedShare).toBeGreaterThan(0.9);
    expect(asks.reasons).toContain("capacity-used");
    const after = (visits: number) =>
      standingOf({ ...told, outputs: Array<undefined>(visits).fill(undefined) }).verdict;
    expect(after(10).reasons).toEqual([]);
    // With the carbonic acid unknown it may be near its end at half of the middle's share; known, it is far from it.
    expect(after(30).reasons).toEqual(["nearly-used"]);
    const known = { low: 300, typical: 320, high: 350, scale: "ec" as const, alkalinity: 60, ph: 8 };
    expect(standingOf({ ...told, tap: known, outputs: Array<undefined>(30).fill(undefined) }).verdict.reasons).toEqual(
      [],
    );
  });
});

describe("figures far from usual", () => {
  const withFeed = (value: number, from: number, confirmed?: true): Told => ({
    outputs: clean(6),
    amend: (visits) =>
      visits.map((visit, i) =>
        i < from
          ? visit
          : {
              ...visit,
              readings: visit.readings.map((reading) =>
                reading.point === "feed" ? { ...reading, value, ...(confirmed ? { confirmed } : {}) } : reading,
              ),
            },
      ),
  });
  test("a feed of 860 is asked about, and counts once confirmed or seen again", () => {
    const usual = standingOf({ outputs: clean(6) });
    const once = standingOf(withFeed(860, 5));
    expect(left(once)).toEqual(left(usual));
    expect(once.heldBack.feeds[0]).toMatchObject({ recordId: "v5", ec25: 1720, usual: 320 });
    expect(wordsOf(withFeed(860, 5)).more.join(" ")).toMatch(/A feed of 860 is far from the usual 160/);
    expect(standingOf(withFeed(860, 5, true)).feed.typical).toBe(1720);
    expect(standingOf(withFeed(860, 4)).feed.typical).toBe(1720);
    expect(standingOf(withFeed(225, 5)).feed.typical).toBe(450);
    expect(standingOf(withFeed(250, 5)).feed.typical).toBe(320);
    // A tap that is known to swing up to 240 is asked about beyond a quarter more than that.
    const swings = (value: number) => standingOf({ ...withFeed(value, 5), tap: { low: 107, high: 240 } }).feed.typical;
    expect([swings(260), swings(280)]).toEqual([520, 320]);
  });
  /** The feed of the last visit, after these were read before it. */
  const lastFeed = (values: readonly number[], more: Told = { outputs: clean(values.length) }) =>
    standingOf({
      ...more,
      amend: (visits) =>
        visits.map((visit, i) => ({
          ...visit,
          readings: visit.readings.map((reading) =>
            reading.point === "feed" ? { ...reading, value: values[i]! } : reading,
          ),
        })),
    }).feed.typical;
  test("seen again is within a quarter of it, the usual the middle of the last seven", () => {
    expect(lastFeed([160, 160, 860, 1050])).toBe(2100);
    expect(lastFeed([160, 160, 860, 1100])).toBe(320);
    expect(lastFeed([160, 160, 160, 160, 220, 220, 220, 280])).toBe(440);
  });
  test("behind a membrane far is three times as much", () => {
    const behind: Told = { outputs: clean(3), stages: [{ kind: "membrane", rejection: 0.9 }] };
    expect(lastFeed([160, 160, 470], behind)).toBeCloseTo(94, 9);
    expect(lastFeed([160, 160, 500], behind)).toBeCloseTo(32, 9);
  });
  test("a meter total 100,000 L higher is held back until it is confirmed or borne out", () => {
    const jump = (more: Partial<NonNullable<Visit["water"]>> = {}, last = 5): Told => ({
      outputs: clean(last + 1),
      amend: (visits) =>
        visits.map((visit, i) =>
          i < 5
            ? visit
            : { ...visit, water: { by: "total", total: 100_500 + 100 * (i - 4), ...more } as Visit["water"] },
        ),
    });
    const held = standingOf(jump());
    expect([held.used.litres, held.heldBack.totals]).toEqual([500, ["v5"]]);
    expect(standingOf(jump({ confirmed: true } as object)).used.litres).toBe(100_600);
    expect(standingOf(jump({}, 6)).used.litres).toBe(100_700);
    const first: Told = {
      outputs: clean(2),
      amend: ([one, two]) => [{ ...one!, water: { by: "total", total: 100_100 } }, two!],
    };
    expect(standingOf(first).used.litres).toBe(200);
  });
  const totals = (...of: readonly number[]): Told => ({
    outputs: clean(of.length),
    amend: (visits) => visits.map((visit, i) => ({ ...visit, water: { by: "total", total: of[i]! } })),
  });
  test("work that is far more than usual is borne out by the next two that go on, one that is alone is not", () => {
    // 100 L a day so far, then 2,000: each step too much for the usual work, none for the flow.
    expect(standingOf(totals(100, 200, 2200)).used.litres).toBe(200);
    expect(standingOf(totals(100, 200, 2200, 4200)).used.litres).toBe(200);
    expect(standingOf(totals(100, 200, 2200, 4200, 6200)).used.litres).toBe(6200);
    expect(standingOf(totals(100, 200, 3000, 400, 500)).used.litres).toBe(500);
    expect(standingOf(totals(100, 200, 3000, 400, 3100, 3200)).used.litres).toBe(3200);
  });
  test("a new meter counts from 0, what was logged in jobs before it ran through another", () => {
    const water: readonly Visit["water"][] = [
      { by: "jobs", jobs: 3, litresPerJob: 50 },
      { by: "total", total: 80, replaced: true },
      { by: "total", total: 200 },
    ];
    const told: Told = {
      outputs: clean(3),
      amend: (visits) => visits.map((visit, i) => ({ ...visit, water: water[i]! })),
    };
    expect(standingOf(told).used.litres).toBe(150 + 80 + 120);
  });
  test("a total that fell is left out where the next ones go on from before, else it is a new meter's", () => {
    expect(standingOf(totals(800, 900, 90, 1000, 1100)).used.litres).toBe(1100);
    expect(standingOf(totals(800, 900, 90, 190, 290)).used.litres).toBe(1100);
    expect(standingOf(totals(800, 900, 90, 1000)).heldBack.totals).toEqual([]);
  });
  test("the flow alone may say that a total cannot be", () => {
    const told = (total: number): Told => ({
      outputs: clean(1),
      litresPerJob: 4000,
      flow: 2,
      amend: ([visit]) => [{ ...visit!, water: { by: "total", total } }],
    });
    // Eight hours at 2 L/min, half as much again: 1,440 L.
    expect(standingOf(told(1400)).used.litres).toBe(1400);
    expect(standingOf(told(1500)).used.litres).toBe(0);
  });
  test("three hours at the flow are always believed, eight usual visits a day at most", () => {
    const rig = rigOf({ flow: 2, litresPerJob: 40 });
    expect(plausibleLitres(rig, 0, 0)).toBe(1.5 * 2 * 180);
    expect(plausibleLitres(rig, 100, DAY)).toBe(8 * 100 * 2);
    expect(plausibleLitres(rig, 1000, DAY)).toBe(1.5 * 2 * 1440);
  });
});

describe("the feed at the resin", () => {
  const RO: Told["stages"] = [{ kind: "membrane", rejection: 0.9 }];
  const at = (told: Told) => standingOf(told).feed;
  test("behind a membrane that nobody read is the tap's reading times what passes", () => {
    expect(at({ outputs: [0], feed: 200, stages: RO, tap: { low: 180, typical: 200, high: 220 } }).typical).toBeCloseTo(
      40,
      9,
    );
    expect(at({ outputs: [0], feed: 0, stages: RO }).typical).toBeCloseTo(32, 9);
    const read: Told = {
      outputs: [0],
      feed: 200,
      stages: RO,
      tap: { low: 180, typical: 200, high: 220 },
      amend: ([visit]) => [
        {
          ...visit!,
          readings: [...visit!.readings, { id: "m", point: "after-membrane", value: 12, meterId: "meter" }],
        },
      ],
    };
    expect(at(read).typical).toBeCloseTo(24, 9);
  });
  test("counts feed tests of the tap, and several readings of a visit as their median", () => {
    const test = { id: "t", tapId: "tap", at: iso(START - DAY), meterId: "meter", value: 200 };
    expect(at({ outputs: [0], feed: 0, tests: [test] }).typical).toBe(400);
    const several: Told = {
      outputs: [0],
      feed: 150,
      amend: ([visit]) => [
        {
          ...visit!,
          readings: [
            ...visit!.readings,
            { id: "a", point: "feed", value: 170, meterId: "meter" },
            { id: "b", point: "feed", value: 230, meterId: "meter" },
          ],
        },
      ],
    };
    expect(at(several).typical).toBe(340);
  });
  test("to come is that of the taps of the last three weeks, each by its water", () => {
    const elsewhere = (day: number): Told => ({
      outputs: clean(19),
      amend: (visits) =>
        visits.map((visit, i) =>
          i === day
            ? { ...visit, tapId: "other", readings: [{ id: "f", point: "feed", value: 300, meterId: "meter" }] }
            : visit,
        ),
    });
    // The first visit is 24 days before the last, the fifth 20: one of sixteen of three weeks.
    expect(at(elsewhere(0)).typical).toBeCloseTo(320, 9);
    expect(at(elsewhere(4)).typical).toBeCloseTo((15 * 320 + 600) / 16, 9);
  });
  test("is known to a twentieth where it was read within thirty days, else to its stated range", () => {
    expect(at({ outputs: [0] })).toMatchObject({ sd: 0.05, isRead: true });
    const unread = at({ outputs: [0], feed: 0, tap: { low: 120, typical: 160, high: 210 } });
    expect(unread.sd).toBeCloseTo(90 / 2.563 / 160, 4);
    expect(unread.isRead).toBe(false);
    expect(at({ outputs: [0], silence: 31, tap: { low: 120, high: 210 } }).isRead).toBe(false);
    expect(standingOf({ outputs: [0, 0], feed: 0, tap: { low: 120, high: 210 } }).used.sd).toBeCloseTo(
      Math.hypot(0.03, 90 / 2.563 / 160),
      4,
    );
  });
});

describe("the composition at the resin", () => {
  const tap = { id: "tap", siteId: "site", name: "Tap", low: 190, typical: 200, high: 210, scale: "nacl" as const };
  const known = { ...tap, alkalinity: 150, ph: 7, silica: 12 };
  const rig = rigOf({});
  const before = (...stages: NonNullable<Told["stages"]>) => rigOf({ stages });
  test("needs an alkalinity, of the tap or of its newest report", () => {
    expect(compositionAtResin(rig, tap)).toBeUndefined();
    const reports = [150, 90].map((alkalinity, i) => ({
      id: `r${i}`,
      tapId: "tap",
      sampledOn: `2027-0${2 - i}-01`,
      source: "typed" as const,
      values: { alkalinity, ph: 7 },
    }));
    expect(compositionAtResin(rig, tap, reports)!.ions.hco3 - compositionAtResin(rig, tap, reports)!.co2).toBeCloseTo(
      150 / 50.04,
      3,
    );
  });
  test("is as much calcium as bicarbonate, the rest sodium and chloride", () => {
    const { ions, co2, ec25 } = compositionAtResin(rig, known)!;
    const bicarbonate = 150 / 50.04;
    expect(ec25).toBe(400);
    expect([ions.ca, ions.na, ions.cl, ions.so4, ions.mg]).toEqual([
      expect.closeTo(bicarbonate, 6),
      expect.closeTo(4 - bicarbonate, 6),
      expect.closeTo(4 - bicarbonate, 6),
      0,
      0,
    ]);
    expect(ions.hco3 - co2).toBeCloseTo(bicarbonate, 6);
    expect(compositionAtResin(rig, { ...known, alkalinity: 400 })!.ions.na).toBe(0);
  });
  test("carbon dioxide passes a membrane, silica like salt, and a degassing barrel lets it go", () => {
    const plain = compositionAtResin(rig, known)!;
    const behind = compositionAtResin(before({ kind: "membrane", rejection: 0.9 }), known)!;
    expect(behind.co2).toBe(plain.co2);
    expect([behind.silica / plain.silica, behind.ec25 / plain.ec25]).toEqual([
      expect.closeTo(0.1, 9),
      expect.closeTo(0.1, 9),
    ]);
    const barrel = compositionAtResin(before({ kind: "degasser" }), known)!;
    expect(barrel.co2).toBeCloseTo(1.2 / 44.0095, 9);
    expect(plain.ions.hco3 - barrel.ions.hco3).toBeCloseTo(plain.co2 - barrel.co2, 9);
  });
});

describe("what a crew's ended charges teach", () => {
  const past = (count: number, shares: readonly number[], vesselId = "vessel") => {
    const charges: Charge[] = [];
    const visits: Visit[] = [];
    let from = 0;
    for (let i = 0; i < count; i += 1) {
      const start = START - (count - i) * 35 * DAY;
      const own = visitsOf({ outputs: shares, start }, `p${i}-`, from);
      const ended = { at: iso(Date.parse(own[own.length - 1]!.at) + 3_600_000), why: "limit" as const };
      charges.push({ ...chargeOf({ start }), id: `past${i}`, vesselId, startTotal: from, ended });
      visits.push(...own);
      from += shares.length * 100;
    }
    return { charges, visits, from };
  };
  const told = (count: number, shares: readonly number[]): Told => {
    const before = past(count, shares);
    return {
      outputs: clean(6),
      before,
      amend: (visits) =>
        visits.map((visit, i) => ({ ...visit, water: { by: "total" as const, total: before.from + (i + 1) * 100 } })),
    };
  };
  const facts = (count: number, shares: readonly number[]) => {
    const base = factsOf(told(count, shares));
    const from = past(count, shares).from;
    return {
      ...base,
      charges: base.charges.map((each) => (each.id === "charge" ? { ...each, startTotal: from } : each)),
    };
  };
  const weak = [...clean(11), 2, 5, 9, 13];
  test("how much the resin holds; the charge in use keeps its own scatter", () => {
    const range = (count: number) => {
      const { left: litres, ownCapacity } = unwrap(standing(facts(count, weak)));
      return [litres!.low, litres!.typical, litres!.high, ownCapacity.median].map((each) =>
        Number(each.toPrecision(3)),
      );
    };
    expect(range(0)).toEqual([665, 1250, 2110, 0.56]);
    expect(range(1)).toEqual([583, 916, 1370, 0.458]);
    expect(range(3)).toEqual([580, 857, 1200, 0.441]);
    expect(range(8)).toEqual([583, 839, 1160, 0.436]);
  });
  test("a fault teaches nothing, and what another rig taught counts here", () => {
    const { charges, ...rest } = facts(1, weak);
    const faulty = charges.map((each) =>
      each.ended ? { ...each, ended: { ...each.ended, why: "fault" as const } } : each,
    );
    expect(lessonsOf({ ...rest, charges: faulty })).toEqual([]);
    const lessons = lessonsOf({ ...rest, charges });
    expect(lessons).toHaveLength(1);
    const elsewhere = unwrap(standing(factsOf({ outputs: clean(6) }), learn(lessons, "vessel")));
    expect(elsewhere.ownCapacity.median).toBeCloseTo(0.458, 3);
  });
});

describe("the verdict", () => {
  /** A look each, or several of one group. */
  type Seen = number | readonly number[];
  const groupOf = (seen: Seen): ReadingGroup => {
    const looks = [seen].flat().map((value) => value * 2);
    const agreeing = largestAgreement(looks, 2);
    return {
      ...{ from: 0, litres: 0, meq: 0, ec25: agreeing[agreeing.length >> 1]!, feedEc25: 320, ppm: 2 },
      ...{ agreeing: agreeing.length, looks },
    };
  };
  const about = (ppm: readonly Seen[], more: Partial<VerdictInput> = {}) =>
    verdict({
      marks: MARKS["glass-10"],
      groups: ppm.map(groupOf),
      limitReached: 0,
      hardReached: 0,
      capacityShare: 0.3,
      left: { low: 300, lowWhenLogged: 300 },
      leftAlmostSurely: 200,
      pace: 60,
      ...more,
    });
  test("goes from fine over watch and finish to change", () => {
    expect(about([0]).state).toBe("fine");
    expect(about([0, 7])).toEqual({ state: "watch", reasons: ["above-watch"] });
    expect(about([0, 10], { limitReached: 0.8 }).state).toBe("finish");
    expect(about([0, 20], { limitReached: 1, hardReached: 0.8 }).state).toBe("change");
    expect(about([0, 20], { limitReached: 1, hardReached: 0.79 }).state).toBe("finish");
  });
  test("believes three running, or one that was looked at again, without the belief", () => {
    expect(about([0, 11, 12]).reasons).toEqual(["odd-reading"]);
    expect(about([10, 11, 12]).state).toBe("finish");
    expect(about([20, 21, 22]).state).toBe("change");
    expect(about([0, [11, 12]]).state).toBe("finish");
    expect(about([0, [21, 22]]).state).toBe("change");
    expect(about([0, [9, 9.5]]).reasons).toEqual(["above-watch"]);
  });
  test("never softens a look at a mark by one that contradicts it", () => {
    expect(about([0, [14, 0]])).toEqual({ state: "watch", reasons: ["odd-reading"] });
    expect(about([0, [14, 7]]).reasons).toEqual(["odd-reading", "above-watch"]);
    expect(about([0, [14, 0, 0]]).state).toBe("fine");
    // An earlier group's doubts are not this one's.
    expect(about([[14, 0], 0]).state).toBe("fine");
  });
  test("names every reason in its order", () => {
    const marks = MARKS["aquarium-1"];
    expect(
      about([0, 5], {
        marks,
        capacityShare: 0.9,
        left: { low: 0, lowWhenLogged: 5 },
        leftAlmostSurely: 0,
      }).reasons,
    ).toEqual(["odd-reading", "capacity-used", "not-logged", "nearly-used"]);
    expect(about([0], { leftAlmostSurely: 59 }).reasons).toEqual(["nearly-used"]);
    expect(about([0], { left: { low: 0, lowWhenLogged: 0 } }).reasons).toEqual([]);
  });
  test("warns by the water expected until the next reading", () => {
    expect(paceOf([300, 600, 900], 300, 40)).toBe(450);
    expect(paceOf([], 100, 40)).toBe(150);
    expect(paceOf([], undefined, 40)).toBe(60);
    expect(paceOf([10, 20], 100, 40)).toBe(40);
    // The two before the last ten are long past.
    const twelve = [1000, 2000, ...Array.from({ length: 10 }, (_, i) => 2400 + 100 * i)];
    expect(paceOf(twelve, 100, 40)).toBeCloseTo(1.5 * 130, 9);
  });
  test("almost surely leaves out two futures in a hundred", () => {
    const asked = (litres: number) => standingOf({ outputs: Array<undefined>(10).fill(undefined), litres });
    expect([asked(85), asked(86)].map(({ verdict: { state } }) => state)).toEqual(["fine", "watch"]);
  });
  test("above the limit there are litres to the stop point where the count explains it", () => {
    const asked = (litres: number) => standingOf({ outputs: [...clean(12), 12, 12, 12], litres });
    expect([asked(75), asked(80)].map((where) => where.left !== undefined)).toEqual([false, true]);
  });
  test("a bypass is said where a tight seal is the less likely", () => {
    expect(standingOf({ outputs: [2] }).shape.bypass).toBe(0);
    expect(standingOf({ outputs: [2, 2] }).shape.bypass).toBeCloseTo(0.0065, 4);
  });
  test("a vessel read once a week is watched a week ahead", () => {
    expect(standingOf({ outputs: clean(1), litres: 350 }).verdict.state).toBe("fine");
    expect(standingOf({ outputs: clean(2), litres: 350 }).verdict.reasons).toEqual(["nearly-used"]);
    expect(standingOf({ outputs: clean(8) }).verdict.state).toBe("fine");
  });
});

describe("litres in the rig's work", () => {
  const rig = { jobName: "house", litresPerJob: 40, flow: 3 };
  test.each([
    [560, "about 14 houses"],
    [61, "about 2 houses"],
    [45, "about one house"],
    [27, "about 9 minutes at your flow"],
    [3.3, "about a minute at your flow"],
    [1, "less than a minute at your flow"],
    [0, ""],
  ])("%p L", (litres, words) => expect(workWords(litres, rig)).toBe(words));
});

describe("the working of the litres left", () => {
  test("names what it rests on, nothing computed back, and its formula gives the middle of each", () => {
    for (const outputs of [[0], clean(9), [...clean(15), 3, 12]]) {
      const where = standingOf({ outputs });
      const explanation = explainLeft(where)!;
      expectTrue(explanation);
      expect(explanation.value).toBe(where.left!.typical);
      const by = Object.fromEntries(explanation.inputs.map(({ symbol, value }) => [symbol, value]));
      expect(by).toMatchObject({ q: where.capacity.median, V: 11.5, k: 1, m: where.used.meq, f: 320, u: 0 });
      expect(by.m).toBeCloseTo(outputs.length * 100 * 3.2, 6);
    }
    const nine = explainLeft(standingOf({ outputs: clean(9) }))!;
    expect(nine.median!.middleOfEach).toBeCloseTo(964, -1);
    expect(nine.median!.steps.map(({ unit }) => unit)).toEqual(["eq/L", "eq/L", "L", "eq/L", "L"]);
  });
  test("a spent charge shows no load of a million, and at change there is nothing to work", () => {
    const spent = explainLeft(standingOf({ outputs: [...clean(18), 4, 8, 9.9] }))!;
    for (const { value } of spent.inputs) expect(value).toBeLessThan(1e4);
    expect(explainLeft(standingOf({ outputs: [...clean(15), 5, 9, 19, 31, 44] }))).toBeUndefined();
  });
});

describe("a rig's standing over the API", () => {
  const ask = (told: Told, more: object = {}) => {
    const { rig, vessel, taps, meters, charges, visits, now } = factsOf(told);
    return rigStanding({
      now: iso(now),
      timeZone: "UTC",
      rig,
      arrangements: [hungIn({ rig, vessel })],
      vessels: [vessel],
      taps: [...taps.values()],
      meters: [...meters.values()],
      charges,
      visits,
      ...more,
    });
  };
  test("is the rack's own, from the same functions", () => {
    const [vessel] = unwrap(ask({ outputs: clean(9) })).vessels;
    const where = standingOf({ outputs: clean(9) });
    expect(vessel).toMatchObject({ left: where.left, capacity: where.capacity, treated: 900, leftTo: "limit" });
    expect(vessel!.dates).toEqual(datesOf({ outputs: clean(9) }));
  });
  test("leaves out what was taken back, and counts the days of the crew's own zone", () => {
    const base = factsOf({ outputs: clean(9) });
    const visits = base.visits.map((visit, i) => ({ ...visit, version: 2, voided: i === 8 }));
    expect(unwrap(ask({ outputs: clean(9) }, { visits })).vessels[0]!.treated).toBe(800);
    const late = iso(Date.UTC(2027, 2, 11, 23, 30));
    const days = (timeZone: string) =>
      unwrap(ask({ outputs: clean(9) }, { now: late, timeZone })).vessels[0]!.sinceLog.days;
    expect([days("UTC"), days("Pacific/Auckland")]).toEqual([0, 0]);
    expect(unwrap(ask({ outputs: clean(9) }, { now: late, timeZone: "Asia/Tokyo" })).vessels[0]!.sinceLog.days).toBe(0);
  });
  test("booked work replaces the expected use of its day", () => {
    const off = weekdays(5, Date.UTC(2027, 2, 12)).map((at) => ({ on: iso(at).slice(0, 10), litres: 0 }));
    const dates = (bookings?: typeof off) =>
      unwrap(ask({ outputs: clean(9) }, bookings ? { bookings } : {})).vessels[0]!.dates!;
    expect(dates(off).likely > dates().likely).toBe(true);
    const busy = [{ on: "2027-03-15", litres: 5000 }];
    expect(dates(busy).late).toBe("2027-03-15");
  });
  test("asks for what is not there, and for a zone that there is", () => {
    const missing = ask({ outputs: clean(1) }, { taps: [] });
    expect(missing.ok ? "" : missing.fault.path).toBe("rig.tapId");
    const nowhere = ask({ outputs: clean(1) }, { timeZone: "Mars/Base" });
    expect(nowhere.ok ? "" : nowhere.fault.message).toMatch(/time zone/);
  });
  test("an empty train is to be filled", () => {
    const empty = unwrap(ask({ outputs: [] }, { charges: [] }));
    expect(empty).toMatchObject({ vessels: [], train: { state: "change", reasons: [{ code: "no-charge" }] } });
  });
  test("a standing worked twice is the same", () => {
    const facts = factsOf({ outputs: clean(4) });
    expect(unwrap(workStanding(facts)).standing).toEqual(unwrap(standing(facts)));
  });
});

test("what was read is said once, however many reasons speak of it", () => {
  const told: readonly Told[] = [
    { outputs: [...clean(8), 12] },
    { outputs: [...clean(8), 14] },
    { outputs: [...clean(10), 3, 7] },
    { outputs: [...clean(12), 4] },
    { outputs: [...clean(12), 8, 12] },
    { outputs: clean(14) },
  ];
  let several = 0;
  for (const each of told) {
    const { reason, more } = wordsOf(each);
    const said = [reason, ...more].join(" ");
    expect([said, (said.match(/Out \d/g) ?? []).length <= 1]).toEqual([said, true]);
    if (standingOf(each).verdict.reasons.length > 1) several += 1;
  }
  expect(several).toBeGreaterThan(0);
});

describe("water that nobody typed is unknown", () => {
  const without = (...missing: readonly number[]): Told => ({
    outputs: clean(4),
    amend: (visits) =>
      visits.map(({ water, ...visit }, i) => (missing.includes(i) ? visit : { ...visit, water: water! })),
  });
  const unknown = (told: Told) => standingOf(told).unlogged.map(({ visitId }) => visitId);
  test("before a reading hours later, until a later total counts it; looks right after each other have none between", () => {
    expect(unknown(without())).toEqual([]);
    expect(unknown(without(3))).toEqual(["v3"]);
    expect(unknown(without(1, 3))).toEqual(["v3"]);
    expect(unknown(without(2, 3))).toEqual(["v2", "v3"]);
    expect(unknown({ ...without(3), again: [0] })).toEqual(["v3"]);
    expect(unknown({ outputs: clean(3), again: [0, 0] })).toEqual([]);
    const { unlogged } = standingOf(without(3));
    expect(unlogged[0]!.at - unlogged[0]!.since).toBe(DAY);
  });
  test("a word counts as a guess, none of it included", () => {
    const said = (jobs: number): Told => ({
      outputs: clean(4),
      amend: (visits) =>
        visits.map((visit, i) => (i < 3 ? visit : { ...visit, water: { by: "jobs", jobs, litresPerJob: 40 } })),
    });
    expect(unknown(said(0))).toEqual([]);
    expect([standingOf(said(0)).used.litres, standingOf(said(0.25)).used.litres]).toEqual([300, 310]);
  });
  test("before the first total of a meter, unless the charge says what it showed at the filling", () => {
    const told: Told = { outputs: clean(2) };
    const facts = factsOf(told);
    const first = unwrap(standing({ ...facts, charges: facts.charges.map(({ startTotal: _, ...charge }) => charge) }));
    expect(first.unlogged).toMatchObject([{ visitId: "v0", isFirstTotal: true }]);
    expect(first.used.litres).toBe(100);
    expect(unloggedWords(first)).toMatch(/before its first total is not known/);
    expect(unknown(told)).toEqual([]);
  });
});
