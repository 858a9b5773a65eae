import { runs } from "./runs";
import fc from "fast-check";
import {
  ANION_SPECIES,
  anionsOf,
  CATION_SPECIES,
  cationsOf,
  column,
  ColumnRun,
  completeFeed,
  describeBed,
  firstReach,
  OWN_BEADS,
  planColumn,
  SPECIES,
  throughputAt,
  twoLives,
  unwrap,
  type ColumnInput,
  type ColumnStage,
  type PartialFeed,
  type Species,
} from "../src/index";

const TAP = { na: 0.9, nh4: 0.03, k: 0.08, mg: 0.7, ca: 1.9, cl: 0.8, no3: 0.25, so4: 0.55, hco3: 2.2, sio2: 0.16 };
const bed = { volume: 12.2, diameter: 185, flow: 3.1 };
const mixed = (part: Partial<ColumnStage["bed"]> = {}): ColumnStage => ({
  kind: "mixed",
  capacity: { grade: "virgin" },
  bed: { ...bed, ...part },
});
const run = (input: ColumnInput): ColumnRun => {
  const done = new ColumnRun(unwrap(planColumn(input)));
  done.advance(done.steps);
  return done;
};
const series = (done: ColumnRun, species: Species) =>
  Float64Array.from(done.middles, (_, row) => done.product[row * SPECIES.length + SPECIES.indexOf(species)]!);
const at = (done: ColumnRun, species: Species, litres: number) => {
  const values = series(done, species);
  const after = done.middles.findIndex((middle) => middle >= litres);
  const [x0, x1] = [done.middles[after - 1]!, done.middles[after]!];
  return values[after - 1]! + ((values[after]! - values[after - 1]!) * (litres - x0)) / (x1 - x0);
};

const feeds = fc
  .record(Object.fromEntries(SPECIES.map((species) => [species, fc.constantFrom(0, 0.02, 0.4, 1.7)])))
  .map((feed) => feed as PartialFeed)
  .filter((feed) => cationsOf(completeFeed(feed)) > 0 && anionsOf(completeFeed(feed)) > 0);
const stages = fc
  .record({
    kind: fc.constantFrom("mixed" as const, "cation" as const, "anion" as const),
    volume: fc.double({ min: 1, max: 15, noNaN: true }),
    flow: fc.double({ min: 0.3, max: 5, noNaN: true }),
    bypass: fc.constantFrom(0, 0.04),
  })
  .map(({ kind, volume, flow, bypass }): ColumnStage => ({
    kind,
    capacity: { cation: 1.1, anion: 0.7 },
    bed: { volume, diameter: 140, flow, bypass },
  }));

describe("mass", () => {
  test("what was fed of each ion is what left and what is held, over any train, bypass and change", () => {
    fc.assert(
      fc.property(feeds, fc.array(stages, { minLength: 1, maxLength: 3 }), (feed, train) => {
        const plan = planColumn({ feed, stages: train, cells: 20, until: 1.4 });
        if (!plan.ok) return expect(plan.fault.code).toBe("nothing-to-take");
        const done = new ColumnRun(plan.value);
        const start = done.profileNow();
        done.advance(done.steps);
        const end = done.profileNow();
        const stepLitres = done.totalLitres / done.steps;
        for (const [side, species] of [
          ["cation", CATION_SPECIES],
          ["anion", ANION_SPECIES],
        ] as const) {
          species.forEach((ion, i) => {
            const fed = (feed[ion] ?? 0) * done.totalLitres;
            const left = series(done, ion).reduce((sum, load) => sum + load * stepLitres, 0);
            const held = end.stages.reduce((sum, stage, s) => {
              const [after, before] = [stage[side], start.stages[s]![side]];
              const perCell = (1000 * train[s]!.bed.volume * (side === "cation" ? 1.1 : 0.7)) / 20;
              if (!after || !before) return sum;
              let change = 0;
              for (let cell = 0; cell < 20; cell += 1) change += after[cell * 6 + i]! - before[cell * 6 + i]!;
              return sum + change * perCell;
            }, 0);
            const scale = fed > 0 ? fed : done.totalLitres;
            expect(Math.abs(fed - left - held)).toBeLessThanOrEqual(1e-9 * scale);
          });
        }
        expect(done.balanceError).toBeLessThanOrEqual(1e-9);
      }),
      { numRuns: runs(60), endOnFailure: true },
    );
  });

  test("shares stay from 0 to 1 and sum to 1 in every cell", () => {
    fc.assert(
      fc.property(feeds, fc.array(stages, { minLength: 1, maxLength: 2 }), (feed, train) => {
        const plan = planColumn({ feed, stages: train, cells: 15, until: 2, profiles: 6 });
        if (!plan.ok) return;
        const done = new ColumnRun(plan.value);
        done.advance(done.steps);
        for (const { stages: profile } of done.profiles)
          for (const stage of profile)
            for (const shares of [stage.cation, stage.anion]) {
              if (!shares) continue;
              for (let cell = 0; cell < 15; cell += 1) {
                const own = shares.subarray(cell * 6, cell * 6 + 6);
                expect(own.every((share) => share >= 0 && share <= 1 + 1e-9)).toBe(true);
                expect(Math.abs(own.reduce((sum, share) => sum + share, 0) - 1)).toBeLessThan(1e-9);
              }
            }
      }),
      { numRuns: runs(40), endOnFailure: true },
    );
  });

  test("taken a few steps at a time it gives the same as at once", () => {
    const plan = unwrap(planColumn({ feed: TAP, stages: [mixed()], cells: 30 }));
    const [whole, pieces] = [new ColumnRun(plan), new ColumnRun(plan)];
    whole.advance(whole.steps);
    while (!pieces.done) pieces.advance(7);
    expect(pieces.progress).toBe(1);
    expect(pieces.product).toEqual(whole.product);
    expect(pieces.profiles.map(({ litres }) => litres)).toEqual(whole.profiles.map(({ litres }) => litres));
  });
});

describe("against what is known", () => {
  const single = (cells: number) =>
    run({
      feed: { na: 2.6, cl: 2.6 },
      stages: [{ ...mixed(), capacity: { cation: 0.58, anion: 0.58 } }],
      cells,
      until: 1.3,
    });
  const throughput = (done: ColumnRun, share: number) => {
    const litres = firstReach(done.middles, series(done, "na"), 2.6 * share)!;
    return (2.6 * litres) / (1000 * 12.2 * 0.58);
  };

  test.each([0.02, 0.05, 0.2, 0.5])("one strong ion meets the closed form at %d of the feed", (share) => {
    const { transferUnits } = unwrap(describeBed(bed, OWN_BEADS.mixed));
    const closed = unwrap(throughputAt(share, transferUnits, 0));
    expect(Math.abs(throughput(single(100), share) / closed - 1)).toBeLessThan(0.005);
    expect(Math.abs(throughput(single(400), share) / closed - 1)).toBeLessThan(0.001);
  });

  test("the answer converges as cells grow", () => {
    const limit = (cells: number) =>
      unwrap(
        column({ feed: TAP, stages: [mixed()], cells, limit: { value: 10, scale: "nacl" }, marks: { silica: 1 } }),
      );
    const [coarse, usual, fine] = [limit(25), limit(100), limit(400)];
    for (const key of ["litresToLimit", "litresToSilica"] as const) {
      const errors = [coarse, usual].map((answer) => Math.abs(answer[key]! / fine[key]! - 1));
      expect(errors[1]!).toBeLessThan(errors[0]! / 2);
      expect(errors[1]!).toBeLessThan(0.01);
    }
  });

  test("sodium leaves at the whole cation load after T = 1, calcium once the beads hold its share", () => {
    const feed = { na: 1, ca: 1.5, cl: 2.5 };
    const done = run({ feed, stages: [{ ...mixed(), capacity: { cation: 0.6, anion: 5 } }], cells: 200, until: 20 });
    const stoichiometric = (1000 * 12.2 * 0.6) / 2.5;
    expect(at(done, "na", 1.15 * stoichiometric)).toBeCloseTo(2.5, 2);
    const { cation } = done.profileNow().stages[0]!;
    const calciumShare = cation![4]!;
    const expected = (calciumShare * 2.5) / 1.5;
    const litres = firstReach(done.middles, series(done, "ca"), 0.75)!;
    expect(Math.abs(litres / stoichiometric / expected - 1)).toBeLessThan(0.03);
    expect(calciumShare).toBeCloseTo((1.5 * 50) / (1.5 * 50 + 1), 6);
  });

  test("ions leave in the order in which they are held, and the weakest overshoots its feed", () => {
    const done = run({ feed: TAP, stages: [mixed()], until: 12, cells: 60 });
    const half = (species: Species) => firstReach(done.middles, series(done, species), 0.5 * TAP[species]);
    const times = (species: readonly Species[]) => species.map((each) => half(each) ?? Infinity);
    for (const order of [times(["na", "nh4", "k", "mg", "ca"]), times(["sio2", "hco3", "cl", "no3", "so4"])])
      expect(order).toEqual([...order].sort((a, b) => a - b));
    expect(Math.max(...series(done, "na"))).toBeGreaterThan(2 * TAP.na);
    expect(Math.max(...series(done, "sio2"))).toBeGreaterThan(1.1 * TAP.sio2);
    expect(Math.max(...series(done, "so4"))).toBeLessThan(1.001 * TAP.so4);
  });

  test("a spent bed gives back its feed", () => {
    const done = run({ feed: { na: 1, cl: 0.6, hco3: 0.4 }, stages: [mixed({ volume: 2 })], cells: 20, until: 15 });
    for (const species of ["na", "cl", "hco3"] as const)
      expect(at(done, species, 0.98 * done.totalLitres)).toBeCloseTo({ na: 1, cl: 0.6, hco3: 0.4 }[species], 6);
  });
});

/** Made by a separate implementation with bisection and plain lists: litres, cations after the cation bed, anions after the anion bed, both after the mixed bed. */
const THREE_BEDS: readonly (readonly [number, readonly number[], readonly number[], readonly number[]])[] = [
  [44.302, [0.022535211, 0], [0, 0, 0], [0, 0]],
  [439.13, [0.022535211, 0], [0, 0, 0], [0, 0]],
  [879.036, [0.022535211, 0], [0.162355517, 0.05672413, 0], [0, 0]],
  [1099.767, [0.022535255, 0], [0.183252905, 3.776747072, 0], [0, 0]],
  [1429.309, [0.023048933, 0], [0.183252272, 3.776703394, 4.4334e-5], [1.463554969, 2.496445031]],
  [1648.485, [0.280060381, 0.001117987], [0.183167104, 3.770560009, 0.00627288], [0.183252878, 3.776747122]],
  [1978.026, [3.420447018, 0.07440813], [0.163885747, 2.379735176, 1.416369647], [0.183252878, 3.776747118]],
];

describe("cation, anion and mixed bed in a row", () => {
  const own = { volume: 3.4, diameter: 95, flow: 0.9 };
  const three: readonly ColumnStage[] = [
    { kind: "cation", capacity: { cation: 1.85, anion: 1 }, bed: own },
    { kind: "anion", capacity: { cation: 1, anion: 1.05 }, bed: own },
    { kind: "mixed", capacity: { cation: 0.66, anion: 0.55 }, bed: own },
  ];
  const trains = [1, 2, 3].map((count) => run({ feed: TAP, stages: three.slice(0, count), until: 2.3 }));

  test.each(THREE_BEDS)("at %d L the product of each bed is that of a separate implementation", (litres, c, a, m) => {
    const near = (value: number, expected: number) =>
      expect(Math.abs(value - expected)).toBeLessThan(0.03 * expected + 2e-3);
    near(at(trains[0]!, "na", litres), c[0]!);
    near(at(trains[0]!, "nh4", litres), c[1]!);
    near(at(trains[1]!, "sio2", litres), a[0]!);
    near(at(trains[1]!, "hco3", litres), a[1]!);
    near(at(trains[1]!, "cl", litres), a[2]!);
    near(at(trains[2]!, "sio2", litres), m[0]!);
    near(at(trains[2]!, "hco3", litres), m[1]!);
  });

  test("the cation bed leaks sodium from the start and gives acid; the mixed bed at the end takes it out", () => {
    const limit = { value: 1, scale: "ec" as const };
    const answers = [1, 2, 3].map((count) =>
      unwrap(column({ feed: TAP, stages: three.slice(0, count), until: 0.4, limit, cells: 40 })),
    );
    expect(answers[0]!.product[60]!.ph).toBeLessThan(3.2);
    expect(answers[1]!.product[60]!.ph).toBeGreaterThan(8.5);
    expect(answers[2]!.product[60]!.ec25).toBeLessThan(0.1);
    expect(answers.map(({ litresToLimit }) => litresToLimit)).toEqual([0, 0, undefined]);
  });

  test("an anion bed first is warned of, and so is a grade for a separate bed", () => {
    const answer = unwrap(
      column({
        feed: TAP,
        stages: [{ kind: "anion", capacity: { grade: "virgin" }, bed: own }],
        until: 0.3,
        cells: 10,
        limit: { value: 10, scale: "nacl" },
      }),
    );
    expect(answer.warnings.map(({ code }) => code)).toEqual(["anion-first", "single-bed-grade"]);
  });
});

describe("lead and lag", () => {
  const small = mixed({ volume: 4.3, diameter: 110, flow: 1.4 });
  test("at a change the lag's beads move to the front and fresh resin follows", () => {
    const changeAt = 500;
    const plan = unwrap(planColumn({ feed: TAP, stages: [small, small], cells: 40, changes: [changeAt] }));
    const done = new ColumnRun(plan);
    let before = done.profileNow();
    while (done.totalLitres < changeAt - 1e-6) {
      before = done.profileNow();
      done.advance(1);
    }
    const lag = before.stages[1]!.anion!;
    const [lead, fresh] = done.profileNow().stages;
    const moved = lead!.anion!.reduce((worst, share, i) => Math.max(worst, Math.abs(share - lag[i]!)), 0);
    expect(moved).toBeLessThan(0.05);
    expect(fresh!.anion!.filter((_, i) => i % 6 === 5).every((share) => share > 0.999)).toBe(true);
    done.advance(done.steps);
    expect(done.balanceError).toBeLessThan(1e-9);
  });

  test("a change keeps the product clean for longer than no change", () => {
    const litres = (changes: number[]) => {
      const done = run({ feed: TAP, stages: [small, small], cells: 40, changes });
      return firstReach(done.middles, series(done, "sio2"), 0.02)!;
    };
    expect(litres([700])).toBeGreaterThan(1.3 * litres([]));
  });

  test("only mixed beds can be changed, at rising litres", () => {
    const fault = (input: ColumnInput) => {
      const plan = planColumn(input);
      return plan.ok ? undefined : plan.fault.code;
    };
    expect(fault({ feed: TAP, stages: [small], changes: [10] })).toBe("no-lag");
    expect(fault({ feed: TAP, stages: [small, small], changes: [10, 5] })).toBe("changes-order");
  });
});

describe("refused before any work", () => {
  test.each([
    [{ feed: {}, stages: [mixed()] }, "empty-feed"],
    [{ feed: { cl: 1 }, stages: [{ ...mixed(), kind: "cation" as const }] }, "nothing-to-take"],
    [{ feed: TAP, stages: [] }, "stages"],
    [{ feed: { na: 201, cl: 1 }, stages: [mixed()] }, "out-of-range"],
    [{ feed: TAP, stages: [mixed()], cells: 7.5 }, "cells"],
    [{ feed: TAP, stages: Array.from({ length: 6 }, () => mixed()), cells: 1000, until: 20 }, "too-large"],
  ])("%#", (input, code) => {
    const plan = planColumn(input as ColumnInput);
    expect(plan.ok ? "" : plan.fault.code).toBe(code);
  });
});

describe("two lives", () => {
  const lives = (feed: PartialFeed) =>
    unwrap(twoLives({ feed, capacity: { grade: "virgin" }, bed, limit: { value: 10, scale: "nacl" } }));

  test("in alkaline water silica leaks long before the meter shows it", () => {
    const { untilLeak, untilMeter, leaksFirst } = lives(TAP);
    expect(leaksFirst).toBe("sio2");
    expect(untilMeter! / untilLeak).toBeGreaterThan(1.25);
  });

  test("without weak acids both come together", () => {
    const { untilLeak, untilMeter } = lives({ na: 2, ca: 1, cl: 2, so4: 1 });
    expect(Math.abs(untilMeter! / untilLeak - 1)).toBeLessThan(0.03);
  });

  test("storage and packing shorten both alike", () => {
    const factor = 0.8;
    const shorter = unwrap(
      twoLives({ feed: TAP, capacity: { grade: "virgin" }, bed, limit: { value: 10, scale: "nacl" }, factor }),
    );
    const whole = lives(TAP);
    expect(shorter.untilLeak / whole.untilLeak).toBeCloseTo(factor, 2);
    expect(shorter.untilMeter! / whole.untilMeter!).toBeCloseTo(factor, 2);
  });
});
