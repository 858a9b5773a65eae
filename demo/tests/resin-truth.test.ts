import { Chance } from "../src/chance";
import { ResinTruth, type TrueCharge } from "../src/resin-truth";

const charge: TrueCharge = { grade: "virgin", resinLitres: 10, diameter: 160, flow: 3 };
const truth = (hiddenShare = 0, strength: number | undefined = 1) =>
  new ResinTruth(charge, new Chance(1), hiddenShare, strength);

describe("the story's resin", () => {
  test("takes load litre by litre until its capacity is gone", () => {
    const resin = truth();
    expect(resin.throughput).toBe(0);
    resin.treat(700, 400);
    expect(resin.throughput).toBeCloseTo((700 * 4) / 5600, 9);
    expect(resin.output(400)).toBeLessThan(0.1);
    resin.treat(1400, 400);
    expect(resin.output(400)).toBeCloseTo(400, 0);
  });

  test("ends sooner by what no meter sees", () => {
    const [plain, hidden] = [truth(0), truth(0.25)];
    for (const resin of [plain, hidden]) resin.treat(1000, 400);
    expect(hidden.throughput).toBeCloseTo(1.25 * plain.throughput, 9);
  });

  test("may have served before", () => {
    const resin = truth();
    resin.beginAt(0.4);
    resin.treat(140, 400);
    expect(resin.throughput).toBeCloseTo(0.5, 9);
  });

  test("is near its grade, each charge a little different", () => {
    const chance = new Chance(7);
    const throughputs = Array.from({ length: 40 }, () => {
      const resin = new ResinTruth(charge, chance, 0);
      resin.treat(1400, 400);
      return resin.throughput;
    });
    expect(Math.min(...throughputs)).toBeGreaterThan(0.8);
    expect(Math.max(...throughputs)).toBeLessThan(1.35);
    expect(new Set(throughputs.map((each) => each.toFixed(3))).size).toBeGreaterThan(30);
  });
});

describe("seeded chance", () => {
  test("tells the same story twice, and another with another seed", () => {
    const tell = (seed: number) => {
      const chance = new Chance(seed);
      return Array.from({ length: 20 }, () => chance.share());
    };
    expect(tell(3)).toEqual(tell(3));
    expect(tell(3)).not.toEqual(tell(4));
  });

  test("keeps to its ranges and shapes", () => {
    const chance = new Chance(11);
    const many = <T>(draw: () => T) => Array.from({ length: 4000 }, draw);
    expect(many(() => chance.whole(2, 4)).every((value) => [2, 3, 4].includes(value))).toBe(true);
    expect(many(() => chance.between(-1, 1)).every((value) => value > -1 && value < 1)).toBe(true);
    const happened = many(() => chance.happens(0.3)).filter(Boolean).length / 4000;
    expect(happened).toBeGreaterThan(0.26);
    expect(happened).toBeLessThan(0.34);
    const normals = many(() => chance.normal(5, 2));
    const mean = normals.reduce((sum, each) => sum + each, 0) / normals.length;
    expect(mean).toBeGreaterThan(4.8);
    expect(mean).toBeLessThan(5.2);
  });

  test("makes ids of version 7 that sort by their moment", () => {
    const chance = new Chance(5);
    const moments = [1_700_000_000_000, 1_750_000_000_000, 1_800_000_000_000];
    const ids = moments.map((moment) => chance.id(moment));
    for (const id of ids) expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
    expect(ids).toEqual([...ids].sort());
  });
});
