import { runs } from "./runs";
import fc from "fast-check";
import {
  breakthrough,
  flowPaths,
  flowVerdict,
  frontDepth,
  life,
  lifeRange,
  livesBySchool,
  meanBreakthrough,
  shareTaken,
  spentThroughput,
  spreadOfSchools,
  throughputAt,
  throughputBetween,
  unwrap,
  workOutLife,
  type LifeInput,
} from "../src/index";

const transferUnits = fc.double({ min: 0.3, max: 80, noNaN: true });
const spread = fc.double({ min: 0.01, max: 0.3, noNaN: true });

const lifeInput = fc
  .record({
    feed: fc.double({ min: 40, max: 900, noNaN: true }),
    volume: fc.double({ min: 0.8, max: 60, noNaN: true }),
    diameter: fc.double({ min: 55, max: 330, noNaN: true }),
    flow: fc.double({ min: 0.1, max: 8, noNaN: true }),
    limit: fc.double({ min: 0.5, max: 30, noNaN: true }),
    bypass: fc.constantFrom(0, 0.01),
    grade: fc.constantFrom("virgin" as const, "dyed" as const, "regenerated" as const),
  })
  .map(({ feed, volume, diameter, flow, limit, bypass, grade }): LifeInput => ({
    water: { reading: { value: feed, scale: "nacl" } },
    capacity: { grade },
    bed: { volume, diameter, flow, bypass },
    limit: { value: limit, scale: "nacl" },
  }));

const withFeed = (input: LifeInput, factor: number): LifeInput => ({
  ...input,
  water: { reading: { value: input.water.reading!.value * factor, scale: "nacl" } },
});

describe("the breakthrough curve", () => {
  test("rises from exp(-N) to 1", () => {
    fc.assert(
      fc.property(
        transferUnits,
        fc.array(fc.double({ min: 0, max: 6, noNaN: true }), { minLength: 2, maxLength: 20 }),
        (n, throughputs) => {
          const shares = throughputs.sort((a, b) => a - b).map((t) => breakthrough(t, n));
          for (let i = 1; i < shares.length; i += 1) expect(shares[i]!).toBeGreaterThanOrEqual(shares[i - 1]!);
          expect(breakthrough(0, n)).toBeCloseTo(Math.exp(-n), 12);
          expect(breakthrough(spentThroughput(n) + 1e-9, n)).toBeCloseTo(1, 8);
        },
      ),
    );
  });

  test("holds exactly one capacity, with even and with uneven flow", () => {
    fc.assert(
      fc.property(transferUnits, fc.oneof(fc.constant(0), spread), (n, cv) => {
        const paths = flowPaths(cv);
        const end = spentThroughput(n) * paths.capacity[paths.capacity.length - 1]!;
        const steps = 6000;
        let held = 0;
        for (let i = 0; i < steps; i += 1)
          held += ((1 - meanBreakthrough((end * (i + 0.5)) / steps, n, paths)) * end) / steps;
        expect(held).toBeCloseTo(1, 2);
      }),
      { numRuns: runs(40) },
    );
  });

  test("is undone by the throughput at a share", () => {
    fc.assert(
      fc.property(
        transferUnits,
        fc.oneof(fc.constant(0), spread),
        fc.double({ min: 0.001, max: 0.999, noNaN: true }),
        (n, cv, part) => {
          const share = Math.exp(-n) + part * (1 - Math.exp(-n));
          const reached = throughputAt(share, n, cv);
          if (!reached.ok) return;
          expect(meanBreakthrough(reached.value, n, flowPaths(cv))).toBeCloseTo(share, 6);
        },
      ),
    );
  });

  test("in the bed, beads fill from the inlet and the front stands where half are taken", () => {
    fc.assert(
      fc.property(transferUnits, fc.double({ min: 0, max: 1.2, noNaN: true }), (n, t) => {
        const shares = Array.from({ length: 21 }, (_, i) => shareTaken(t, i / 20, n));
        for (let i = 1; i < shares.length; i += 1) expect(shares[i]!).toBeLessThanOrEqual(shares[i - 1]! + 1e-12);
        const depth = frontDepth(t, n);
        if (t * n >= 1 && depth > 0 && depth < 1) expect(shareTaken(t, depth, n)).toBeCloseTo(0.5, 6);
      }),
    );
  });
});

describe("a life", () => {
  test("falls as the feed rises", () => {
    fc.assert(
      fc.property(lifeInput, fc.double({ min: 1.01, max: 3, noNaN: true }), (input, factor) => {
        const [soft, hard] = [unwrap(life(input)), unwrap(life(withFeed(input, factor)))];
        if (soft.reachable && input.limit.value < input.water.reading!.value)
          expect(hard.litres).toBeLessThan(soft.litres);
      }),
      { numRuns: runs(60) },
    );
  });

  test("keeps its throughput when volume, cross-section and flow grow together", () => {
    fc.assert(
      fc.property(lifeInput, fc.double({ min: 0.2, max: 5, noNaN: true }), (input, factor) => {
        const { volume, diameter, flow } = input.bed;
        if (diameter * Math.sqrt(factor) > 3000) return;
        const scaled = {
          ...input,
          bed: { ...input.bed, volume: volume * factor, diameter: diameter * Math.sqrt(factor), flow: flow * factor },
        };
        const [one, other] = [unwrap(life(input)), unwrap(life(scaled))];
        expect(other.throughput).toBeCloseTo(one.throughput, 6);
        expect(other.litres).toBeCloseTo(one.litres * factor, 0);
      }),
      { numRuns: runs(60) },
    );
  });

  test("has a curve that reaches the limit at its litres", () => {
    const input: LifeInput = {
      water: { reading: { value: 163, scale: "nacl" } },
      capacity: { grade: "virgin" },
      bed: { volume: 10.4, diameter: 165, flow: 3.4 },
      limit: { value: 8, scale: "nacl" },
    };
    const { curve, litres } = unwrap(life(input));
    expect(curve).toHaveLength(101);
    const after = curve.findIndex((point) => point.litres >= litres);
    expect(curve[after - 1]!.ec25).toBeLessThan(16);
    expect(curve[after]!.ec25).toBeGreaterThanOrEqual(16);
  });

  test("between two marks is what lies between their lives", () => {
    fc.assert(
      fc.property(lifeInput, (input) => {
        const at = (limit: number) => unwrap(life({ ...input, limit: { value: limit, scale: "nacl" } }));
        const working = unwrap(workOutLife(input));
        const feed = input.water.reading!.value;
        const [low, high] = [0.05 * feed, 0.15 * feed];
        if (!at(low).reachable) return;
        const between = unwrap(throughputBetween(working, 2 * low, 2 * high)) * working.litresPerThroughput;
        expect(between).toBeCloseTo(at(high).litres - at(low).litres, 1);
      }),
      { numRuns: runs(40) },
    );
  });

  test("as a range is ordered, whatever the water", () => {
    fc.assert(
      fc.property(
        lifeInput,
        fc.array(fc.double({ min: 0.3, max: 3, noNaN: true }), { minLength: 3, maxLength: 3 }),
        (input, factors) => {
          const [low, typical, high] = factors.sort((a, b) => a - b).map((factor) => withFeed(input, factor).water) as [
            LifeInput["water"],
            LifeInput["water"],
            LifeInput["water"],
          ];
          const { water: _water, ...rest } = input;
          const range = unwrap(lifeRange({ ...rest, waters: { low, typical, high } }));
          expect(range.low.litres).toBeLessThanOrEqual(range.typical.litres);
          expect(range.typical.litres).toBeLessThanOrEqual(range.high.litres);
        },
      ),
      { numRuns: runs(40) },
    );
  });

  test("typical is the typical water's own, also where its carbon dioxide makes it the shortest of the three", () => {
    const asked = {
      capacity: { grade: "virgin" as const },
      bed: { volume: 12, diameter: 180, flow: 3 },
      limit: { value: 10, scale: "nacl" as const },
    };
    const water = (value: number, co2: number) => ({ reading: { value, scale: "nacl" as const }, co2 });
    const waters = { low: water(150, 2), typical: water(155, 40), high: water(160, 2) };
    const range = unwrap(lifeRange({ ...asked, waters }));
    expect(range.typical.litres).toBeCloseTo(unwrap(life({ ...asked, water: waters.typical })).litres, 6);
    expect(range.low.litres).toBe(range.typical.litres);
    expect(range.high.litres).toBeGreaterThan(range.typical.litres);
  });

  test("of regenerated resin spreads with its batches, of virgin resin with the water alone", () => {
    const water = { reading: { value: 160, scale: "nacl" as const } };
    const chemistry = (grade: "virgin" | "regenerated") =>
      unwrap(
        livesBySchool({
          waters: { low: water, typical: water, high: water },
          capacity: { grade },
          bed: { volume: 12, diameter: 180, flow: 3 },
          limit: { value: 10, scale: "nacl" },
          constant: 200_000,
        }),
      ).find(({ school }) => school === "chemistry")!;
    const exchanged = chemistry("regenerated");
    expect(exchanged.low / exchanged.typical).toBeCloseTo(0.3 / 0.36, 6);
    expect(exchanged.high / exchanged.typical).toBeCloseTo(0.45 / 0.36, 6);
    expect(chemistry("virgin").low).toBe(chemistry("virgin").high);
  });

  test("of every school stands beside the others with the spread", () => {
    const water = (value: number) => ({ reading: { value, scale: "nacl" as const } });
    const lives = unwrap(
      livesBySchool({
        waters: { low: water(130), typical: water(160), high: water(210) },
        capacity: { grade: "virgin" },
        bed: { volume: 12, diameter: 180, flow: 3 },
        limit: { value: 10, scale: "nacl" },
        constant: 200_000,
        rating: { ratedLitres: 1600, ratedPpm: 180, scale: "nacl", resinLitres: 10 },
        history: { low: 0.44, median: 0.5, high: 0.56 },
      }),
    );
    expect(lives.map((each) => each.school)).toEqual(["constant", "rating", "chemistry", "history"]);
    for (const each of lives) expect(each.low < each.typical && each.typical < each.high).toBe(true);
    expect(lives[0]!.typical).toBeCloseTo((200_000 / 160) * (12 / 28.316846592) * 3.785411784, 6);
    expect(unwrap(spreadOfSchools(lives)).ratio).toBeGreaterThan(1);
  });

  test("at a lower flow gains a little by contact and the rest by plain saving", () => {
    const input: LifeInput = {
      water: { reading: { value: 160, scale: "nacl" } },
      capacity: { grade: "virgin" },
      bed: { volume: 11.9, diameter: 180, flow: 3.2 },
      limit: { value: 10, scale: "nacl" },
    };
    const { now, lower, byContact, bySaving } = unwrap(flowVerdict(input, 2.4, 20));
    expect(byContact).toBeGreaterThan(0);
    expect(byContact).toBeLessThan(0.05);
    expect(bySaving).toBeCloseTo(1 / 3, 9);
    expect(lower.jobs / now.jobs).toBeCloseTo((1 + byContact) * (1 + bySaving), 9);
    expect(flowVerdict(input, 3.2, 20).ok).toBe(false);
  });

  test("from a bed with a figure outside its range is a fault with a sentence, not a number", () => {
    const answer = life({
      water: { reading: { value: 160, scale: "nacl" } },
      capacity: { grade: "virgin" },
      bed: { volume: -3, diameter: 165, flow: 3.4 },
      limit: { value: 8, scale: "nacl" },
    });
    expect(answer).toEqual({
      ok: false,
      fault: {
        code: "out-of-range",
        path: "bed.volume",
        message: "The resin volume must be above 0 and at most 2,000 L.",
      },
    });
  });
});
