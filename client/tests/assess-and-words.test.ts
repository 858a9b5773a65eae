import { doubt, tapRangeOf } from "../features/run/doubt";
import { EMPTY_DRAFT, type LogDraft } from "../features/run/draft-visit";
import { assess, assessQuickly } from "../features/run/assess";
import { predictedFront } from "../features/history/predicted-front";
import { lastReading, lastWater, usualMeter } from "../features/run/last-values";
import { leftWords, litresLeft, STATE_WORDS, verdictWords } from "../features/run/words";
import { charge, clean, rigWith } from "./sample-rig";
import type { Use } from "@winter-bead/core";

const said = (outputs: readonly number[], use: Use = "paint", units: "metric" | "us" = "metric") => {
  const facts = rigWith(outputs, use);
  const { standing, verdict } = assessQuickly(facts);
  return { ...verdictWords(facts, verdict!, standing!, units), state: verdict!.state, standing: standing!, facts };
};

describe("the verdict in words", () => {
  test("fine, with what was read, the marks and the litres left", () => {
    const { title, reason } = said(clean(3));
    expect(title).toBe("Fine");
    expect(reason).toMatch(/^Out 0 ppm NaCl, below your watch mark of 6\. .* L to your limit of 10\.$/);
  });

  test("watch as the front comes, by the reading or by the count", () => {
    expect(said([...clean(15), 3, 7]).reason).toMatch(/above your watch mark of 6, the limit is 10/);
    const counted = said([...clean(16), 2, 4]);
    expect(counted.title).toBe("Watch");
    expect(counted.reason).toMatch(/% of the capacity is used|less than one car/);
  });

  test("finish and rinse more, with the litres before the hard mark", () => {
    const { title, reason } = said([...clean(15), 3, 12]);
    expect(title).toBe("Finish, rinse more");
    expect(reason).toMatch(/Out 12 ppm NaCl, your limit is 10\. .* L left before your hard mark of 20/);
  });

  test("change now above the hard mark", () => {
    const { title, reason } = said([...clean(14), 4, 12, 24]);
    expect(title).toBe("Change now");
    expect(reason).toMatch(/above your hard mark of 20/);
  });

  test("read it again, when one odd value stands far before the front", () => {
    expect(said([...clean(4), 14])).toMatchObject({ title: "Watch: read it again", state: "watch" });
    expect(said([...clean(4), 40])).toMatchObject({ title: "Stop and read it again", state: "change" });
  });

  test("stop filling, for an aquarium above its limit", () => {
    const { title, reason } = said([...clean(10), 1.2, 1.4, 1.5], "aquarium");
    expect(title).toBe("Stop filling");
    expect(reason).toMatch(/Mean of the last readings 1\.37 ppm NaCl/);
  });

  test("change, for an aquarium at nine tenths of its capacity whatever the meter says", () => {
    const { title, reason } = said(clean(21), "aquarium");
    expect(title).toBe("Change now");
    expect(reason).toMatch(/you act at 90 %/);
  });

  test("in gallons for who reads gallons", () => expect(said(clean(3), "paint", "us").reason).toMatch(/US gal/));

  test("every state has its word", () => {
    expect(Object.values(STATE_WORDS)).toEqual(["fine", "watch", "finish", "change"]);
  });
});

describe("litres left", () => {
  test("run to the limit, then to the hard mark, then there are none", () => {
    const before = said(clean(3));
    expect(leftWords(before.standing, before.facts)).toBe("left");
    const above = said([...clean(15), 3, 12]);
    expect(leftWords(above.standing, above.facts)).toBe("to 20");
    const over = said([...clean(14), 4, 12, 24]);
    expect(litresLeft(over.standing, { state: "change", reason: "above-hard" }).typical).toBe(0);
  });
});

describe("a whole assessment", () => {
  test("has lessons, standing, verdict and dates in order", () => {
    const { lessons, standing, verdict, dates } = assess(rigWith(clean(6)));
    expect(lessons!.ended).toEqual([]);
    expect(standing!.used.litres).toBe(600);
    expect(verdict!.state).toBe("fine");
    expect(dates!.early <= dates!.likely && dates!.likely <= dates!.late).toBe(true);
  });
  test("says why there is none: no charge, or no water to go by", () => {
    expect(assess({ ...rigWith([0]), charges: [] }).because).toMatch(/no charge/);
    const unused = rigWith([0]);
    const dry = { ...unused, visits: unused.visits.map((visit) => ({ ...visit, water: undefined })) };
    expect(assess(dry)).toMatchObject({ because: expect.stringMatching(/no date/), verdict: { state: "fine" } });
  });
});

describe("the predicted front", () => {
  const standing = assessQuickly(rigWith(clean(6))).standing!;
  const front = predictedFront(standing, "nacl", 2500);
  test("rises, early before likely before late", () => {
    for (const [i, point] of front.entries()) {
      expect(point.early >= point.likely && point.likely >= point.late).toBe(true);
      if (i > 0) expect(point.likely).toBeGreaterThanOrEqual(front[i - 1]!.likely);
    }
  });
  test("ends at the feed and begins at the clean reading", () => {
    expect(front[0]!.likely).toBeLessThan(0.1);
    expect(front[front.length - 1]!.likely).toBeCloseTo(160, 0);
  });
});

describe("what the log offers again", () => {
  const facts = rigWith([0, 2, 3]);
  test("is the newest reading of a point, at this tap when asked", () => {
    expect(lastReading(facts.visits, "output")).toMatchObject({ value: 3, meterId: "meter" });
    expect(lastReading(facts.visits, "feed", "tap")!.value).toBe(160);
    expect(lastReading(facts.visits, "feed", "another tap")).toBeUndefined();
    expect(lastReading(facts.visits, "after-membrane")).toBeUndefined();
  });
  test("is the last way of counting water and the last total, the filling's before the first visit", () => {
    expect(lastWater(facts.visits, 0)).toEqual({ water: { by: "total", total: 300 }, total: 300 });
    expect(lastWater([], charge.startTotal)).toEqual({ water: undefined, total: 0 });
  });
  test("is the meter used last, else the crew's first", () => {
    expect(usualMeter(facts.visits, [])).toBe("meter");
    expect(usualMeter([], facts.meters)).toBe("meter");
    expect(usualMeter([], [])).toBe("");
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
