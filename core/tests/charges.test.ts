import { runs } from "./runs";
import fc from "fast-check";
import {
  chargeLedgers,
  isAgainstReadings,
  lessonsOf,
  reasonSeen,
  unwrap,
  workStanding,
  type Charge,
  type StandingInput,
} from "../src/index";
import { leftOfPartUsed } from "../src/belief/part-used";
import { chargePrior, ownerPrior, xQuantile } from "../src/belief/grids";
import { usedBefore } from "../src/run/used-before";
import { chargeOf, clean, factsOf, iso, standingOf, START, DAY, vesselOf, type Told } from "./told";

const ledgerOf = (told: Told) => chargeLedgers(factsOf(told))[0]!;
const workStandingOf = (facts: StandingInput) => unwrap(workStanding(facts));
const seenOf = (told: Told) => reasonSeen(ledgerOf(told), vesselOf(told));

describe("the reason that is offered when a charge ends", () => {
  test("is the one that the last readings bear out, on the meter's own scale", () => {
    expect(seenOf({ outputs: [...clean(8), 3, 12] })).toEqual({ why: "limit", output: 12, limit: 10, scale: "nacl" });
    expect(seenOf({ outputs: [...clean(8), 3] })).toEqual({ why: "early", output: 3, limit: 10, scale: "nacl" });
  });
  test("is none where nothing was read near the end", () => {
    expect(seenOf({ outputs: [0, 0, undefined, undefined, undefined] })).toBeUndefined();
    expect(seenOf({ outputs: [] })).toBeUndefined();
  });
  test("is asked about when another is chosen, a fault never", () => {
    const early = seenOf({ outputs: [...clean(8), 3] });
    expect([isAgainstReadings("limit", early), isAgainstReadings("early", early)]).toEqual([true, false]);
    expect([isAgainstReadings("fault", early), isAgainstReadings("limit", undefined)]).toEqual([false, false]);
  });
});

describe("what an ended charge teaches", () => {
  const ended = (more: Partial<Charge>) => {
    const facts = factsOf({ outputs: [...clean(12), 14] });
    const charge = { ...chargeOf({}), ended: { at: iso(START + 30 * DAY), why: "limit" as const }, ...more };
    return lessonsOf({ ...facts, charges: [charge] });
  };
  test("is nothing where it is left out, began part-used, or ended by a fault", () => {
    expect(ended({})).toHaveLength(1);
    expect(ended({ leftOut: true })).toEqual([]);
    expect(ended({ partUsed: { by: "unknown" } })).toEqual([]);
    expect(ended({ ended: { at: iso(START + 30 * DAY), why: "fault" } })).toEqual([]);
  });
  test("is kept while its records stay, and learnt again when a reading, its reason or its resin is corrected", () => {
    const [first] = ended({});
    expect(ended({})[0]!.likelihood).toBe(first!.likelihood);
    expect(ended({ resinLitres: 8 })[0]!.reached).toBeGreaterThan(first!.reached);
    expect(ended({ ended: { at: iso(START + 30 * DAY), why: "early" } })[0]!.word).toBe("early");
    const facts = factsOf({ outputs: [...clean(12), 3] });
    const charge = { ...chargeOf({}), ended: { at: iso(START + 30 * DAY), why: "limit" as const } };
    const [corrected] = lessonsOf({ ...facts, charges: [charge] });
    expect([...corrected!.likelihood!]).not.toEqual([...first!.likelihood!]);
  });
});

describe("a charge taken over part-used", () => {
  const takenOver = (partUsed: NonNullable<Charge["partUsed"]>, told: Told = { outputs: clean(2) }) => {
    const before = { charges: [], visits: [] };
    const facts = factsOf({ ...told, before });
    return standingOfCharge({ ...chargeOf(told), partUsed }, facts);
  };
  const standingOfCharge = (charge: Charge, facts: ReturnType<typeof factsOf>) => {
    const worked = workStandingOf({ ...facts, charges: [charge] });
    return worked.standing;
  };

  test("has less left than a fresh one, and its range is wider", () => {
    const fresh = standingOf({ outputs: clean(2) }).left!;
    const used = takenOver({ by: "jobs", jobs: 20 }).left!;
    expect(used.typical).toBeLessThan(fresh.typical - 500);
    expect(used.high / Math.max(1, used.low)).toBeGreaterThan(fresh.high / fresh.low);
  });
  test("of which nobody knows anything may be near its end or nearly fresh", () => {
    const { left, front, usedBefore: before } = takenOver({ by: "unknown" });
    expect(left!.low).toBeLessThan(0.25 * standingOf({ outputs: clean(2) }).left!.typical);
    expect(left!.high).toBeGreaterThan(0.8 * standingOf({ outputs: clean(2) }).left!.typical);
    expect(front.typical).toBeGreaterThan(standingOf({ outputs: clean(2) }).front.typical);
    expect(before!.litres).toBeGreaterThan(0);
  });
  test("is soon moved by what its readings say", () => {
    const steep = takenOver({ by: "unknown" }, { outputs: [0, 1, 6, 18] });
    expect(steep.left?.typical ?? 0).toBeLessThan(0.2 * takenOver({ by: "unknown" }).left!.typical);
    expect(steep.verdict.state).not.toBe("fine");
    const cleanLong = takenOver({ by: "jobs", jobs: 20 }, { outputs: clean(15) });
    expect(cleanLong.capacity.low).toBeGreaterThan(takenOver({ by: "jobs", jobs: 20 }).capacity.low);
  });
  test("counts what went before by jobs, by weeks of usual work, or as half where nobody knows", () => {
    const usual = { litresPerJob: 60, week: 800, feedEc25: 320, promised: 6000 };
    expect(usedBefore({ by: "jobs", jobs: 10 }, usual)).toMatchObject({
      litres: 600,
      meq: 1920,
      used: { share: 0.32, sd: 0.35 },
    });
    expect(usedBefore({ by: "weeks", weeks: 2 }, usual)).toMatchObject({
      litres: 1600,
      meq: 5120,
      used: { sd: 0.5 },
    });
    expect(usedBefore({ by: "unknown" }, usual)).toMatchObject({ meq: 3000, used: "unknown" });
    expect(usedBefore(undefined, usual)).toEqual({ meq: 0, litres: 0 });
  });
  test("the belief in what is left keeps its whole weight, and falls with what is gone", () => {
    const prior = chargePrior(ownerPrior(), 0.03);
    fc.assert(
      fc.property(
        fc.double({ min: 0.05, max: 0.8, noNaN: true }),
        fc.double({ min: 0.05, max: 0.6, noNaN: true }),
        (share, sd) => {
          const left = leftOfPartUsed(prior, { share, sd });
          expect(left.reduce((sum, each) => sum + each, 0)).toBeCloseTo(1, 6);
          expect(xQuantile(left, 0.5)).toBeLessThan(xQuantile(prior, 0.5));
          const more = leftOfPartUsed(prior, { share: share + 0.1, sd });
          expect(xQuantile(more, 0.5)).toBeLessThanOrEqual(xQuantile(left, 0.5) + 1e-9);
        },
      ),
      { numRuns: runs(30) },
    );
    expect(Math.exp(xQuantile(leftOfPartUsed(prior, { share: 0.5, sd: 0.1 }), 0.5))).toBeCloseTo(0.5, 1);
  });
});
