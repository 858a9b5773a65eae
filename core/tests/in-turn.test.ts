import { constantPattern, tabled } from "../src/front/front-table";
import { litresUntilPassed, passedBy, type BedInTurn } from "../src/front/in-turn";

const bed = (meq: number, transferUnits: number, used = 0): BedInTurn => ({
  meq,
  bypass: 0.01,
  used: () => used,
  front: () => constantPattern(transferUnits),
});
/** Beads that let all through: whatever stands behind or before them works as if alone. */
const spent: BedInTurn = { meq: 10_000, bypass: 0, used: () => 0, front: () => tabled(() => 1) };
const FEED = 400;

describe("beds in turn", () => {
  // Long before the front, in it, and so far behind it that all passes.
  const loads = [20, 300, 3_000, 30_000];
  test.each(loads)("one among spent beds does what it does alone, by %p meq behind it", (load) => {
    const own = bed(10_000, 12);
    const alone = litresUntilPassed(load, [[own]], "anions", FEED);
    for (const beds of [
      [[own], [spent]],
      [[spent], [own]],
    ])
      expect(litresUntilPassed(load, beds, "anions", FEED) / alone).toBeCloseTo(1, 3);
  });
  test.each(loads)("what comes through two in the litres until %p meq have passed is that", (load) => {
    const beds = [[bed(10_000, 12, 4_000)], [bed(8_000, 20)]];
    const litres = litresUntilPassed(load, beds, "cations", FEED);
    expect(passedBy((litres * FEED) / 100, beds, "cations") / load).toBeCloseTo(1, 2);
  });
  test("where nothing takes a load, all of it has passed", () => {
    const none: BedInTurn = { ...spent, front: () => undefined };
    expect(litresUntilPassed(80, [[none]], "cations", FEED)).toBe(20);
    expect(passedBy(80, [[none]], "cations")).toBe(80);
  });
});
