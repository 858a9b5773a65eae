import {
  BYPASS_PRIOR,
  BYPASSES,
  capacityWeights,
  chargeAt,
  chargeBelief,
  chargePrior,
  constantPattern,
  FRONT_WIDTHS,
  firstPass,
  flowPaths,
  frontsOf,
  GRADE_CAPACITIES,
  groupsOf,
  leftQuantile,
  lessonOf,
  loadAtMark,
  markOf,
  meanBreakthrough,
  ownerBelief,
  productCurve,
  shapeOf,
  shareAt,
  shareReachedBy,
  spreadOver,
  throughputAt,
  unwrap,
  widened,
  widthPrior,
  xAt,
  xQuantile,
  type CurveWater,
  type ReadingGroup,
} from "../src/index";
import { carbonicPlateau } from "../src/front/meter-throughput";
import { agree, isUnsettled, largestAgreement } from "../src/belief/groups";
import { cellsOf, chargeScale, markOffsets, weigh, wrongShare } from "../src/belief/weigh";

const FEED = 320;
const LIMIT = 20;
const MEQ = 6440;
const N = 34;
const curve = productCurve(N);
const scale = chargeScale(MEQ, [curve], LIMIT, FEED);
const CELLS = cellsOf(scale);
const promised = Math.exp(scale.logPromised);
const nobody = ownerBelief([], "vessel");
/** Readings of a charge as its front of a width and a capacity would give them. */
const readings = (shares: readonly number[], { x = 0, width = 0.05, bypass = 0 } = {}): ReadingGroup[] =>
  shares.map((share) => {
    const meq = share * promised;
    const atLimit = unwrap(throughputAt(LIMIT / FEED, Math.max(N, 3 / width), width));
    const bed = meanBreakthrough((share * atLimit) / Math.exp(x), Math.max(N, 3 / width), flowPaths(width));
    const ec25 = FEED * (bypass + (1 - bypass) * bed);
    return { from: meq / 3.2, litres: meq / 3.2, meq, ec25, feedEc25: FEED, ppm: 2, agreeing: 1, looks: [ec25] };
  });
const median = (groups: readonly ReadingGroup[]) =>
  xQuantile(capacityWeights(chargeBelief(nobody, 0.03, groups, scale)), 0.5);

describe("a tabled front", () => {
  test("is the averaged curve, whatever the width", () => {
    for (const width of [0.015, 0.05, 0.24]) {
      const table = spreadOver(constantPattern(N), width);
      for (const throughput of [0.6, 0.8, 0.95, 1.1]) {
        const exact = meanBreakthrough(throughput, N, flowPaths(width));
        expect(shareAt(table, Math.log(throughput))).toBeCloseTo(exact, 2);
      }
      const limit = unwrap(throughputAt(0.0625, N, width));
      expect(Math.exp(firstPass(table, 0.0625))).toBeCloseTo(limit, 4);
    }
  });
  test("is sharper than film transfer foretells where it is narrow", () => {
    const [narrow] = frontsOf(curve);
    const limit = unwrap(throughputAt(0.0625, 3 / FRONT_WIDTHS[0]!, FRONT_WIDTHS[0]!));
    expect(limit).toBeGreaterThan(unwrap(throughputAt(0.0625, N, FRONT_WIDTHS[0]!)));
    expect(Math.exp(firstPass(narrow!, 0.0625))).toBeCloseTo(limit, 3);
  });
  test("has its eight widths from 0.015 to 0.24", () =>
    expect([...FRONT_WIDTHS].map((width) => Number(width.toFixed(4)))).toEqual([
      0.015, 0.0223, 0.0331, 0.0492, 0.0731, 0.1087, 0.1615, 0.24,
    ]));
});

describe("the product curve of a water whose alkalinity is known", () => {
  const alkaline = (alkalinity: number): CurveWater => {
    const hco3 = alkalinity / 50.04;
    const rest = 4 - hco3;
    const ions = { na: rest, nh4: 0, k: 0, mg: 0, ca: hco3, cl: rest, no3: 0, so4: 0, hco3, sio2: 0.1 };
    return { ions, ec25: 400 };
  };
  const sides = GRADE_CAPACITIES.virgin;

  test("stands on the carbonic plateau between the anion beads' end and the cation beads'", () => {
    for (const [alkalinity, plateau] of [
      [125, 394_300 * Math.sqrt((4.45e-7 * 125) / 50_040)],
      [60, 394_300 * Math.sqrt((4.45e-7 * 60) / 50_040)],
    ] as const) {
      const { composed } = productCurve(100, alkaline(alkalinity), sides);
      const shown = 400 * shareAt(composed!, Math.log(1.15));
      // Bicarbonate that piled up in the bed leaves above what is fed.
      expect(shown).toBeGreaterThan(0.95 * plateau);
      expect(shown).toBeLessThan(1.8 * plateau);
    }
  });
  test("lets a meter last longer where the limit lies above the plateau, and ends there where it lies below", () => {
    const { composed } = productCurve(N, alkaline(125), sides);
    const front = spreadOver(composed!, 0.05);
    expect(Math.exp(firstPass(front, 30 / 400))).toBeGreaterThan(1.1);
    expect(Math.exp(firstPass(front, 8 / 400))).toBeLessThan(0.97);
    expect(Math.exp(firstPass(spreadOver(constantPattern(N), 0.05), 30 / 400))).toBeLessThan(0.95);
  });
  test("goes on until the bed has nothing left to give, and what was piled up leaves above the feed", () => {
    const { composed } = productCurve(30, alkaline(125), sides);
    expect(shareAt(composed!, Math.log(1.4))).toBeCloseTo(0.914, 2);
    expect(shareAt(composed!, Math.log(2.5))).toBeGreaterThan(1);
  });
  test("leaks from a twentieth of what is fed, where few transfer units smear the front", () =>
    expect(productCurve(5, alkaline(125), sides).leak!.throughput).toBeCloseTo(0.446, 2));
  test("its plateau is carbonic acid's, by the first constant of its dissociation", () =>
    expect(carbonicPlateau(125 / 50.04)).toBeCloseTo(13.15, 1));
  test("names what leaks first, and ammonia only where it is most of the cations", () => {
    expect(productCurve(N, alkaline(125), sides).leak!.species).toBe("sio2");
    const { ions } = alkaline(125);
    const feeds = (nh4: number) => ({
      ions: { ...ions, sio2: 0, hco3: 0.1, cl: 3.9, na: 4 - nh4, ca: 0, nh4 },
      ec25: 400,
    });
    // Anion beads in plenty, so that the cation side leaks first.
    const plenty = { cation: 0.3, anion: 0.6 };
    expect(productCurve(N, feeds(0.4), plenty).leak!.species).toBe("na");
    expect(productCurve(N, feeds(4), plenty).leak!.species).toBe("nh4");
  });
});

describe("looks and their groups", () => {
  const MINUTE = 60_000;
  const look = (visit: number, ec25: number, { litres = 600, minutes = 0 } = {}) => ({
    ...{ visitId: `visit-${visit}`, at: minutes * MINUTE, litres, meq: 3.2 * litres },
    ...{ ec25, feedEc25: FEED, ppm: 2 },
  });
  const told = (...looks: ReturnType<typeof look>[]) =>
    groupsOf(looks, 11.5).map(({ litres, ec25, agreeing, looks: all }) => [litres, ec25, agreeing, all]);

  test("the dips of a visit are one look, their median, however many", () => {
    expect(told(look(1, 28), look(1, 2), look(1, 4))).toEqual([[600, 4, 1, [4]]]);
  });
  test("within one bed volume and half an hour of the first they look at one thing", () => {
    const within = { litres: 611.5, minutes: 30 };
    expect(told(look(1, 28), look(2, 27, within))).toEqual([[611.5, 27.5, 2, [28, 27]]]);
    expect(told(look(1, 28), look(2, 27, { minutes: 31 }))).toHaveLength(2);
    expect(told(look(1, 28), look(2, 27, { litres: 611.6 }))).toHaveLength(2);
    // Of the group's first, not of the one before.
    expect(told(look(1, 28), look(2, 27, { minutes: 20 }), look(3, 26, { minutes: 40 }))).toHaveLength(2);
  });
  test("the value is the middle of the largest set that agrees; of two as large that with the newest look", () => {
    expect(told(look(1, 28), look(2, 0), look(3, 27))).toEqual([[600, 27.5, 2, [28, 0, 27]]]);
    expect(told(look(1, 28), look(2, 0))).toEqual([[600, 0, 1, [28, 0]]]);
    expect(told(look(1, 0), look(2, 28))).toEqual([[600, 28, 1, [0, 28]]]);
    expect(largestAgreement([10, 10.9, 12, 13.2, 14.4], 1)).toEqual([12, 13.2, 14.4]);
  });
  test("they agree within a fifth of the smaller, or one part in a million", () => {
    expect([agree(10, 12, 1), agree(10, 12.1, 1), agree(0, 1, 1), agree(0.2, 1.3, 1)]).toEqual([
      true,
      false,
      true,
      false,
    ]);
  });
  test("a look at a mark that no other agrees with is unsettled until two outvote it", () => {
    const isOpen = (...values: number[]) => {
      const [group] = groupsOf(
        values.map((value, i) => look(i, value)),
        11.5,
      );
      return isUnsettled(group!, 20);
    };
    expect([isOpen(28), isOpen(28, 0), isOpen(0, 28)]).toEqual([true, true, true]);
    expect([isOpen(28, 27), isOpen(28, 0, 0), isOpen(19)]).toEqual([false, false, false]);
    // Two that contradict each other too outvote nothing.
    expect(isOpen(28, 0, 10)).toBe(true);
  });
  test("agreeing looks are less often simply wrong", () => {
    expect([1, 2, 3, 9].map(wrongShare)).toEqual([0.08, 0.0048, 0.004, 0.004]);
  });
});

describe("what is believed before any reading", () => {
  test("an owner's resin scatters by a quarter, a charge by more", () => {
    expect(xQuantile(nobody.capacity, 0.9)).toBeCloseTo(0.25 * 1.28155, 3);
    const charge = chargePrior(nobody.capacity, 0.03);
    expect(xQuantile(charge, 0.9)).toBeCloseTo(0.3763, 4);
    expect(xQuantile(charge, 0.01)).toBeCloseTo(-0.738, 2);
    const dead = charge.reduce((sum, weight, i) => sum + (xAt(i) < -1.5 ? weight : 0), 0);
    expect(dead).toBeCloseTo(0.005 * ((Math.exp(-1.5) - Math.exp(-2.4)) / (1 - Math.exp(-2.4))), 4);
  });
  test("its front is 0.05 wide, give or take, and four vessels in five are tight", () => {
    const weights = widthPrior();
    const mean = weights.reduce((sum, weight, i) => sum + weight * Math.log(FRONT_WIDTHS[i]!), 0);
    const spread = weights.reduce((sum, weight, i) => sum + weight * (Math.log(FRONT_WIDTHS[i]!) - mean) ** 2, 0);
    expect(Math.exp(mean)).toBeCloseTo(0.0516, 3);
    expect(Math.sqrt(spread)).toBeCloseTo(0.645, 3);
    expect(BYPASS_PRIOR[0]).toBeCloseTo(0.8, 12);
    expect([BYPASSES[0], BYPASSES[1], BYPASSES[16]].map((share) => share!.toFixed(3))).toEqual([
      "0.000",
      "0.002",
      "0.100",
    ]);
  });
  test("widening adds in squares", () => {
    const wide = widened(nobody.capacity, 0.12);
    expect(xQuantile(wide, 0.9)).toBeCloseTo(Math.hypot(0.25, 0.12) * 1.28155, 3);
  });
});

describe("what readings do to a belief", () => {
  test("a reading of a spent bed is as likely as meter and shape allow, and one in twelve is simply wrong", () => {
    const weights = new Float64Array(CELLS).fill(1);
    const seen = 0.8 * FEED;
    weigh(weights, [{ ...readings([1])[0]!, meq: 1000 * promised, ec25: seen }], scale);
    const offset = 2 * 2;
    const sd = (FEED * Math.hypot(0.03, 0.25)) / (FEED + offset);
    const z = Math.log((seen + offset) / (FEED + offset)) / sd;
    const likely = (0.92 / (sd * Math.sqrt(2 * Math.PI))) * Math.exp(-0.5 * z * z) + 0.08 / 5;
    // Spent, every row lets the whole feed through.
    expect(weights[0]).toBeCloseTo(likely, 7);
    expect(weights[CELLS - 1]).toBeCloseTo(likely, 7);
  });
  test("a mark is met up to 99 % of the feed, one beyond as if it were there", () => {
    const [at98, at99, beyond] = [0.98, 0.99, 2].map((share) => markOffsets(share * FEED, FEED, scale)[51]!);
    expect(at98).toBeLessThan(at99!);
    expect(beyond).toBe(at99);
    expect(shareAt(frontsOf(curve)[3]!, scale.logLimit[3]! + beyond!)).toBeCloseTo(0.99, 4);
  });
  test("a rising front says what the charge holds, whatever its width", () => {
    for (const width of [0.02, 0.05, 0.1])
      for (const x of [-0.3, 0, 0.2]) {
        const shares = [0.5, 0.8, 0.9, 0.95, 1, 1.04].map((share) => share * Math.exp(x));
        expect(median(readings(shares, { x, width }))).toBeCloseTo(x, 1);
      }
  });
  test("a constant share of the feed is bypass, a wide front a width", () => {
    const leaky = chargeBelief(nobody, 0.03, readings([0.1, 0.3, 0.5, 0.6, 0.7], { bypass: 0.02 }), scale);
    expect(shapeOf(leaky).bypass).toBeCloseTo(0.02, 2);
    expect(shapeOf(leaky).tight).toBeLessThan(0.05);
    const wide = chargeBelief(nobody, 0.03, readings([0.5, 0.6, 0.7, 0.8, 0.9, 0.95], { width: 0.2 }), scale);
    expect(shapeOf(wide).width).toBeGreaterThan(0.1);
  });
  test("one odd reading moves it little, two that rise much", () => {
    const clean = readings([0.1, 0.2, 0.3, 0.35]);
    const odd = { ...readings([0.4])[0]!, ec25: 28 };
    const second = { ...readings([0.45])[0]!, ec25: 60 };
    expect(median([...clean, odd])).toBeCloseTo(median(clean), 1);
    expect(median([...clean, odd, second])).toBeLessThan(median(clean) - 0.1);
  });
  test("a mark is reached at its load: the limit whatever the width, a stop point after it, at once behind a bypass", () => {
    const belief = chargeBelief(nobody, 0.03, [], scale);
    const limit = markOf(LIMIT, FEED, belief);
    const hard = markOf(40, FEED, belief);
    FRONT_WIDTHS.forEach((_, width) => {
      expect(limit.offsets[width * 17]).toBeCloseTo(0, 12);
      expect(hard.offsets[width * 17]).toBeGreaterThan(0);
    });
    const quarter = markOf(LIMIT / 4, FEED, belief);
    expect(quarter.offsets[16]).toBe(-Infinity);
    expect(shareReachedBy(belief, limit, 1e-9)).toBeGreaterThan(0);
    expect(shareReachedBy(belief, limit, promised)).toBeCloseTo(0.55, 1);
  });
  test("weighed one after the other they say what they say together, however they contradict", () => {
    const odd = readings([0.5, 0.9], { x: -1.6 });
    const all = [...readings([0.1, 0.3, 0.5, 0.7, 0.9]), ...odd, ...readings([0.95, 0.99], { bypass: 0.03 })];
    const weights = (groups: readonly ReadingGroup[]) => capacityWeights(chargeBelief(nobody, 0.03, groups, scale));
    const together = new Float64Array(CELLS);
    const fresh = chargePrior(nobody.capacity, 0.03);
    for (let i = 0; i < CELLS; i += 1) {
      const [row, x] = [Math.floor(i / fresh.length), i % fresh.length];
      const [width, bypass] = [Math.floor(row / BYPASSES.length), row % BYPASSES.length];
      together[i] = fresh[x]! * nobody.widths[width]! * BYPASS_PRIOR[bypass]!;
    }
    weigh(together, all, scale, 0);
    const total = together.reduce((sum, each) => sum + each, 0);
    all.forEach((_, i) => weights(all.slice(0, i + 1)));
    const oneByOne = weights(all);
    for (let x = 0; x < fresh.length; x += 1) {
      let whole = 0;
      for (let row = 0; row < CELLS / fresh.length; row += 1) whole += together[row * fresh.length + x]! / total;
      expect(Math.abs(oneByOne[x]! - whole)).toBeLessThan(1e-9);
    }
  });
  test("the same readings of another charge are not taken for this one's", () => {
    const groups = readings([0.3, 0.9, 0.99]);
    const better = chargeScale(1.3 * MEQ, [curve], LIMIT, FEED);
    const middle = (of: typeof scale) => xQuantile(capacityWeights(chargeBelief(nobody, 0.03, groups, of)), 0.5);
    expect(middle(scale)).toBeGreaterThan(middle(better) + 0.15);
    expect(middle(scale)).toBe(median(groups));
  });
  test("drawn charges and the litres left are of the same belief", () => {
    const belief = chargeBelief(nobody, 0.03, readings([0.2, 0.4]), scale);
    const mark = markOf(LIMIT, FEED, belief);
    const draws = 20_000;
    const loads = Float64Array.from({ length: draws }, (_, i) =>
      loadAtMark(belief, mark, chargeAt(belief, (i + 0.5) / draws)),
    ).sort();
    const question = { used: 0.4 * promised, feed: { median: FEED, sd: 0 }, sinceLog: { median: 0, sd: 0 } };
    for (const share of [0.1, 0.5, 0.9]) {
      const left = Math.max(0, (loads[Math.floor(share * draws)]! - 0.4 * promised) / 3.2);
      expect(leftQuantile(belief, mark, question, share)).toBeCloseTo(left, -1);
    }
  });
  test("a spread of the feed and of what went since widen the range about the same middle", () => {
    const belief = chargeBelief(nobody, 0.03, readings([0.5, 0.8, 0.9, 0.95]), scale);
    const mark = markOf(LIMIT, FEED, belief);
    const ask = (sd: number, gone: number, goneSd: number) => ({
      used: 0.5 * promised,
      feed: { median: FEED, sd },
      sinceLog: { median: gone, sd: goneSd },
    });
    const range = (question: ReturnType<typeof ask>) =>
      [0.1, 0.5, 0.9].map((share) => leftQuantile(belief, mark, question, share)) as [number, number, number];
    const [sharp, wide, later] = [range(ask(0, 0, 0)), range(ask(0.2, 0, 0)), range(ask(0, 200, 60))];
    expect(wide[2] - wide[0]).toBeGreaterThan(1.1 * (sharp[2] - sharp[0]));
    expect(wide[1]).toBeCloseTo(sharp[1], -2);
    expect(later[1]).toBeCloseTo(sharp[1] - 200, -1);
  });
});

describe("what ended charges teach", () => {
  const ended = (x: number, width: number, word: "limit" | "early" = "limit", last = 1.02) =>
    lessonOf({
      chargeId: "past",
      vesselId: "vessel",
      load: last * Math.exp(x) * promised,
      sd: 0.03,
      word,
      groups: readings(
        [0.5, 0.8, 0.9, 0.96, last].map((share) => share * Math.exp(x)),
        { x, width },
      ),
      scale,
      limitEc25: LIMIT,
    })!;
  test("their capacity, narrower with each", () => {
    const widths = [1, 3, 8].map((count) => {
      const { capacity } = ownerBelief(Array(count).fill(ended(-0.2, 0.05)), "vessel");
      expect(xQuantile(capacity, 0.5)).toBeLessThan(-0.1);
      return xQuantile(capacity, 0.9) - xQuantile(capacity, 0.1);
    });
    expect(widths[1]!).toBeLessThan(widths[0]!);
    expect(widths[2]!).toBeLessThan(widths[1]!);
  });
  test("the width of the front only to their own vessel", () => {
    const lessons = Array(4).fill(ended(0, 0.15)) as ReturnType<typeof ended>[];
    const mean = (vesselId: string) =>
      ownerBelief(lessons, vesselId).widths.reduce((sum, weight, i) => sum + weight * FRONT_WIDTHS[i]!, 0);
    expect(mean("vessel")).toBeGreaterThan(0.11);
    expect(mean("another")).toBeCloseTo(0.065, 2);
  });
  test("readings count, not the word beside them", () => {
    const clean = (word: "limit" | "early") => {
      const { likelihood } = ended(0, 0.05, word, 0.7);
      return likelihood!;
    };
    expect([...clean("limit")]).toEqual([...clean("early")]);
  });
  test("without a reading near its end the count and the word speak", () => {
    const byCount = (word: "limit" | "early") => {
      const lesson = lessonOf({
        chargeId: "a",
        vesselId: "b",
        load: 0.7 * promised,
        sd: 0.15,
        word,
        groups: [],
        scale,
        limitEc25: LIMIT,
      })!;
      expect(lesson.likelihood).toBeUndefined();
      expect(lesson.reached).toBeCloseTo(Math.log(0.7), 9);
      return xQuantile(ownerBelief([lesson], "b").capacity, 0.5);
    };
    // Two normals, 0.25 about 0 and hypot(0.12, 0.15) about ln 0.7, give -0.2243; that one charge in seven is off, less.
    const known = Math.hypot(0.12, 0.15) ** 2;
    expect(byCount("limit")).toBeGreaterThan((Math.log(0.7) * 0.25 ** 2) / (0.25 ** 2 + known));
    expect(byCount("limit")).toBeCloseTo(-0.2132, 4);
    expect(byCount("early")).toBeGreaterThan(0);
    expect(byCount("early")).toBeLessThan(0.1);
  });
  test("readings speak where the last is in the last 15 % of the load", () => {
    const at = (share: number) =>
      lessonOf({
        chargeId: "a",
        vesselId: "b",
        load: promised,
        sd: 0.03,
        word: "limit",
        groups: readings([share]),
        scale,
        limitEc25: LIMIT,
      })!;
    expect(at(0.84).likelihood).toBeUndefined();
    expect(at(0.86).likelihood).toBeDefined();
  });
  test("a limit that came between two looks is taken for between them", () => {
    const [clean] = readings([0.7]);
    const told = (end: number) =>
      lessonOf({
        chargeId: "a",
        vesselId: "b",
        load: end * promised,
        sd: 0.03,
        word: "limit",
        groups: [{ ...clean!, ec25: 0 }],
        scale,
        limitEc25: LIMIT,
      })!;
    const median = (end: number) => xQuantile(ownerBelief([told(end)], "b").capacity, 0.5);
    expect(told(1).lastBelow).toBeCloseTo(Math.log(0.7), 9);
    const [point] = [told(1)].map(({ lastBelow: _, ...lesson }) => lesson);
    expect(median(1)).toBeLessThan(xQuantile(ownerBelief([point!], "b").capacity, 0.5) - 0.05);
    // A narrow interval is a point.
    const near = { ...told(1), lastBelow: -0.001 };
    expect(xQuantile(ownerBelief([near], "b").capacity, 0.5)).toBeCloseTo(
      xQuantile(ownerBelief([point!], "b").capacity, 0.5),
      2,
    );
  });
  test("a charge that took nothing teaches nothing", () =>
    expect(
      lessonOf({ chargeId: "a", vesselId: "b", load: 0, sd: 0, word: "limit", groups: [], scale, limitEc25: LIMIT }),
    ).toBeUndefined());
});
