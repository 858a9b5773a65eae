import { doubt, tapRangeOf } from "../features/log/doubt";
import { EMPTY_DRAFT, type LogDraft } from "../features/log/draft-visit";
import { assess, assessAll, assessQuickly } from "../features/rack/assess";
import { lastReading, lastWater, usualMeter } from "../features/log/last-values";
import { headlineShown, leakWords, STATE_WORDS, verdictWords } from "../features/rack/words";
import { aloneIn, charge, clean, DAY, rigWith, START } from "./sample-rig";
import type { Use } from "@winter-bead/core";

const said = (outputs: readonly number[], use: Use = "paint", units: "metric" | "us" = "metric") => {
  const facts = rigWith(outputs, use);
  const { standing, verdict } = assessQuickly(facts);
  return { ...verdictWords(facts, standing!, units), state: verdict!.state, standing: standing!, facts };
};

describe("the verdict in words", () => {
  test("fine, with what was read, the marks and the litres left", () => {
    const { title, reason } = said(clean(3));
    expect(title).toBe("Fine");
    expect(reason).toMatch(/^Out 0 ppm NaCl, below your watch point of 6\. .* L left to your limit of 10 ppm NaCl\.$/);
  });

  test("watch as the front comes, by the reading or by the count", () => {
    expect(said([...clean(15), 3, 7]).reason).toMatch(/above your watch point of 6, the limit is 10/);
    const counted = said([...clean(16), 2, 4]);
    expect(counted.title).toBe("Watch");
    expect(counted.reason).toMatch(/may go through before the next reading: read before each car/);
  });

  test("finish and rinse more, with the litres before the stop point", () => {
    const { title, reason } = said([...clean(15), 3, 7, 12]);
    expect(title).toBe("Finish, rinse more");
    expect(reason).toMatch(/Out 12 ppm NaCl, your limit is 10\. .* L left before your stop point of 20/);
  });

  test("change now above the stop point", () => {
    const { title, reason } = said([...clean(14), 4, 12, 24, 41]);
    expect(title).toBe("Change now");
    expect(reason).toMatch(/above your stop point of 20/);
  });

  test("look again, when one odd value stands far before the front: the word large, the litres if it was wrong small", () => {
    expect(said([...clean(4), 14])).toMatchObject({ title: "Look again", state: "watch" });
    const facts = rigWith([...clean(4), 40]);
    const standing = assessQuickly(facts).standing!;
    const { reason, more } = verdictWords(facts, standing, "metric");
    expect(reason).toMatch(/above your stop point of 20\. Don’t use this water\. Let it run a minute and look again/);
    const { big, small, range } = headlineShown(standing, facts, "metric")!;
    expect([big, small]).toEqual(["Look again", expect.stringMatching(/^if it was wrong: [\d,]+ L$/)]);
    expect(more).toContain(`If it was wrong, ${range} are left.`);
    expect(headlineShown(standing, facts, "us")!.small).toMatch(/^if it was wrong: [\d,]+ US gal$/);
  });

  test("stop filling, for an aquarium above its limit", () => {
    const { title, reason } = said([...clean(10), 1.2, 1.4, 1.5], "aquarium");
    expect(title).toBe("Stop filling");
    expect(reason).toMatch(/^Out 1\.5 ppm NaCl, your limit is 1: what leaks now harms unseen/);
  });

  test("watch, for an aquarium at nine tenths of its capacity whatever the meter says", () => {
    const { title, reason } = said(clean(21), "aquarium");
    expect(title).toBe("Watch");
    expect(reason).toMatch(/you act at 90 %/);
  });

  test("in gallons for who reads gallons", () => expect(said(clean(3), "paint", "us").reason).toMatch(/US gal/));

  test("every state has its word", () => {
    expect(Object.values(STATE_WORDS)).toEqual(["fine", "watch", "finish", "change"]);
  });
});

describe("the first leak in words", () => {
  const chemistry = { alkalinity: 200, ph: 7, silica: 12 };
  const leaky = (use: Use) => {
    const base = rigWith(clean(3), use);
    const facts = { ...base, taps: [{ ...base.taps[0]!, ...chemistry }] };
    return { facts, standing: assessQuickly(facts).standing! };
  };
  test("beside the meter's life, with what goes first and whether a meter shows it", () => {
    const { facts, standing } = leaky("paint");
    const { range, rest } = leakWords(facts, standing, "metric")!;
    expect(range).toMatch(/^Until anything leaks: \d.* L$/);
    expect(rest).toBe("; silica goes first, and the meter doesn’t show it.");
    expect(leakWords(rigWith(clean(3)), assessQuickly(rigWith(clean(3))).standing!, "metric")).toBeUndefined();
  });
  test("before it, for an aquarium", () => {
    const { facts, standing } = leaky("aquarium");
    const { range, rest } = leakWords(facts, standing, "metric")!;
    expect(range).toBe("Silica goes first");
    expect(rest).toBe(", and the meter shows it soon after.");
  });
});

describe("a whole assessment", () => {
  test("has what was learnt, standing, verdict, dates in order and the front to draw", () => {
    const { owners, standing, verdict, dates, front } = assess(rigWith(clean(6)));
    expect(owners!.get("vessel")!.taught).toBe(0);
    expect(standing!.used.litres).toBe(600);
    expect(verdict!.state).toBe("fine");
    expect(dates!.early <= dates!.likely && dates!.likely <= dates!.late).toBe(true);
    for (const [i, point] of front!.entries()) {
      expect(point.early >= point.likely && point.likely >= point.late).toBe(true);
      if (i > 0) expect(point.likely).toBeGreaterThanOrEqual(front![i - 1]!.likely);
    }
    expect(front![0]!.likely).toBeLessThan(0.1);
    expect(front![front!.length - 1]!.early).toBeCloseTo(320, 0);
  });
  test("passes no reading by: the line meets a front that was read", () => {
    const facts = rigWith([...clean(14), 2, 5, 9]);
    const { front } = assess(facts);
    const near = front!.reduce((best, point) =>
      Math.abs(point.litres - 1700) < Math.abs(best.litres - 1700) ? point : best,
    );
    expect(near.late).toBeLessThan(18);
    expect(near.early).toBeGreaterThan(18);
  });
  test("says why there is none: no charge", () =>
    expect(assess({ ...rigWith([0]), charges: [] }).because).toMatch(/^No charge is in use/));
  test("goes by a job where no water was ever logged", () => {
    const unused = rigWith([0]);
    const dry = { ...unused, visits: unused.visits.map((visit) => ({ ...visit, water: undefined })) };
    expect(assess(dry).dates).toBeDefined();
  });
  test("what one rig's charges taught counts for another's", () => {
    const ended = { at: new Date(START + 30 * DAY).toISOString(), why: "limit" as const };
    const past = { ...rigWith([...clean(8), 4, 9, 14]), charges: [{ ...charge, ended }] };
    const stranger = { rig: { ...past.rig, id: "other" }, vessel: { ...past.vessel, id: "else" } };
    const fresh = { ...rigWith(clean(2)), ...stranger, ...aloneIn(stranger.rig, stranger.vessel) };
    const visits = fresh.visits.map((visit) => ({ ...visit, rigId: "other" }));
    const facts = { ...fresh, visits, charges: [{ ...charge, rigId: "other", vesselId: "else" }] };
    const [, other] = assessAll([past, facts]);
    expect(other!.owners!.get("else")!.taught).toBe(1);
    expect(other!.standing!.ownCapacity.median).toBeLessThan(0.95 * assess(facts).standing!.ownCapacity.median);
  });
});

describe("what the log offers again", () => {
  const facts = rigWith([0, 2, 3]);
  test("is the newest reading of a point, at this tap when asked", () => {
    expect(lastReading(facts.visits, "output")).toMatchObject({ value: 3, meterId: "meter" });
    expect(lastReading(facts.visits, "feed", { tapId: "tap" })!.value).toBe(160);
    expect(lastReading(facts.visits, "feed", { tapId: "another tap" })).toBeUndefined();
    expect(lastReading(facts.visits, "after-membrane")).toBeUndefined();
  });
  test("is the last way of counting water and the last total, the filling's before the first visit", () => {
    expect(lastWater(facts.visits, 0)).toEqual({ water: { by: "total", total: 300 }, total: 300 });
    expect(lastWater([], charge.startTotal)).toEqual({ water: undefined, total: 0 });
  });
  test("is the meter used last; retired, the crew's only other one; of several it is asked, never guessed", () => {
    const [meter] = facts.meters as [(typeof facts.meters)[number]];
    const other = { ...meter, id: "other" };
    const gone = { ...meter, retiredOn: "2027-01-01" };
    expect(usualMeter(facts.visits, [other, meter])).toBe("meter");
    expect(usualMeter(facts.visits, [gone, other])).toBe("other");
    expect(usualMeter(facts.visits, [gone, other, { ...other, id: "third" }])).toBeUndefined();
    expect(usualMeter([], [meter])).toBe("meter");
    expect(usualMeter([], [])).toBeUndefined();
  });
});

describe("a reading that would surprise an old hand is questioned", () => {
  const facts = rigWith(clean(6));
  const range = tapRangeOf(facts, "tap");
  const ask = (part: Partial<LogDraft>) =>
    doubt(facts, { ...EMPTY_DRAFT, meterId: "meter", tapId: "tap", ...part }, range);

  test.each<[Partial<LogDraft>, RegExp | undefined]>([
    [{ feed: "163" }, undefined],
    [{ feed: "163", output: "0" }, undefined],
    [{ feed: "20", output: "31" }, /in and out crossed/],
    [{ feed: "226" }, /Far from what Bay tap usually gives\. If the meter stood on 442/],
    [{ feed: "900" }, /may have stood/],
    [{ feed: "2" }, /product line/],
  ])("%j: %s", (part, words) => {
    if (words === undefined) expect(ask(part)).toBeUndefined();
    else expect(ask(part)).toMatch(words);
  });

  test("a tap nobody has read is not questioned", () => {
    expect(tapRangeOf(facts, "other")).toBeUndefined();
    expect(doubt(facts, { ...EMPTY_DRAFT, meterId: "meter", tapId: "tap", feed: "900" }, undefined)).toBeUndefined();
  });
});
