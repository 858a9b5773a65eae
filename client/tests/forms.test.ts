import fc from "fast-check";
import { MARKS, type Use } from "@winter-bead/core";
import { complaintsAbout } from "../features/vessels/check-record";
import { chargeBody, endedBody, overfull, usualCharge, type ChargeValues } from "../features/vessels/charge-values";
import { marksChoiceOf, marksOptions, usualMarks, VESSEL_PRESETS } from "../features/vessels/presets";
import { rigBody, rigValues, vesselBody } from "../features/vessels/rig-values";
import { tapBody, tapValues, toScale } from "../features/vessels/tap-values";
import { fromPreset, fromTap, parse, startWith } from "../features/plan/typed";
import { answerGallons } from "../features/plan/gallons";
import { charge, rig, tap, vessel } from "./sample-rig";

const ID = "01890000-0000-7000-8000-000000000001";
const unitSystems = ["metric", "us"] as const;
const now = new Date("2027-03-01T08:10:00Z");

describe("a tap as typed", () => {
  test.each(unitSystems)("comes back as it was kept, in %s units", (units) => {
    const known = { ...tap, siteId: ID, temperature: 12.5, ph: 7.2, alkalinity: 120, silica: 6 };
    const body = tapBody(tapValues(known, undefined, units), ID, units);
    expect(body).toMatchObject({
      low: 150,
      typical: 160,
      high: 175,
      scale: "nacl",
      ph: 7.2,
      alkalinity: 120,
      silica: 6,
    });
    expect(body.temperature).toBeCloseTo(12.5, 3);
    expect(complaintsAbout("taps", body)).toEqual([]);
  });
  test("with one reading alone spans 15 % either way", () => {
    const typed = { ...tapValues(undefined, ID, "metric"), name: "Yard", typical: "200" };
    const { low, typical, high } = tapBody(typed, ID, "metric");
    expect([low, typical, high].map(Math.round)).toEqual([170, 200, 230]);
  });
  test("without a number is complained about at its field", () => {
    const typed = { ...tapValues(undefined, ID, "metric"), name: "Yard", typical: "about 200" };
    expect(complaintsAbout("taps", tapBody(typed, ID, "metric")).map((each) => each.path)).toContain("typical");
  });
  test("names its scale as the form does", () => {
    expect([toScale("442"), toScale("ec"), toScale("0.64")]).toEqual(["442", "ec", 0.64]);
  });
});

describe("a rig and its vessel as typed", () => {
  test.each(unitSystems)("come back as they were kept, in %s units", (units) => {
    const values = rigValues({ ...rig, tapId: ID }, vessel, ID, units);
    const body = vesselBody(values, units);
    expect(body).toMatchObject({ name: "Bottle", kind: "inner-seal-bottle", marks: vessel.marks });
    expect(body.grossVolume).toBeCloseTo(14, 2);
    expect(body.diameter).toBeCloseTo(180, 1);
    expect(rigBody(values, ID, units, rig)).toMatchObject({ name: "Bay", use: "paint", jobName: "car" });
    expect(complaintsAbout("vessels", body)).toEqual([]);
    expect(complaintsAbout("rigs", rigBody(values, ID, units, rig))).toEqual([]);
  });
  test("take their size from diameter and height", () => {
    const values = {
      ...rigValues(undefined, undefined, ID, "metric"),
      sizeBy: "height" as const,
      diameter: "180",
      height: "550",
    };
    expect(vesselBody(values, "metric").grossVolume).toBeCloseTo(14, 1);
  });
  test("put a membrane and its filters before the resin", () => {
    const values = { ...rigValues(undefined, undefined, ID, "metric"), before: "membrane", rejection: "96" };
    expect(rigBody(values, ID, "metric", undefined).stages).toEqual([
      { kind: "sediment" },
      { kind: "carbon" },
      { kind: "membrane", rejection: 0.96 },
      { kind: "resin", vesselId: ID },
    ]);
  });
  test("carry own marks, for an aquarium with its share of capacity", () => {
    const own = {
      ...rigValues(undefined, undefined, ID, "metric"),
      marks: "own" as const,
      watch: "3",
      limit: "5",
      hard: "9",
    };
    expect(vesselBody(own, "metric").marks).toEqual({ watch: 3, limit: 5, hard: 9, scale: "nacl" });
    expect(vesselBody({ ...own, use: "aquarium" }, "metric").marks.capacityUsed).toBe(0.9);
  });
});

describe("presets", () => {
  test("are sizes that hold together, smallest first, of no maker", () => {
    const volumes = VESSEL_PRESETS.map((preset) => preset.grossVolume);
    expect(volumes).toEqual([...volumes].sort((a, b) => a - b));
    for (const preset of VESSEL_PRESETS) {
      const height = (preset.grossVolume * 1e6) / ((Math.PI / 4) * preset.diameter ** 2);
      expect(height / preset.diameter).toBeGreaterThan(1.5);
      expect(height / preset.diameter).toBeLessThan(8);
    }
  });
  test.each(["glass", "paint", "aquarium"] as Use[])("of marks for %s begin with the usual school", (use) => {
    expect(marksOptions(use).map((option) => option.value)).toContain(usualMarks(use));
  });
  test("of marks are known again", () => {
    for (const [name, marks] of Object.entries(MARKS)) expect(marksChoiceOf(marks)).toBe(name);
    expect(marksChoiceOf({ watch: 3, limit: 5, hard: 9, scale: "nacl" })).toBe("own");
  });
});

describe("a refill as typed", () => {
  const typed = (more: Partial<ChargeValues> = {}): ChargeValues => ({
    ...usualCharge(vessel, charge, "metric"),
    ...more,
  });
  const body = (more: Partial<ChargeValues> = {}) => chargeBody(typed(more), { ...vessel, id: ID }, ID, "metric", now);

  test("begins with the vessel's usual fill of the resin used before", () => {
    expect(typed()).toMatchObject({ grade: "virgin", resinLitres: "11.9" });
    expect(usualCharge(vessel, undefined, "us").resinLitres).toBe("0.4202");
    expect(complaintsAbout("charges", body())).toEqual([]);
  });
  test("remembers how the bag was kept, when it was", () => {
    expect(body().stored).toBeUndefined();
    expect(body({ container: "rolled-or-zip", months: "6", warm: "yes" }).stored).toEqual({
      container: "rolled-or-zip",
      months: 6,
      warm: true,
    });
    expect(complaintsAbout("charges", body({ container: "left-open", months: "?" }))[0]!.path).toBe("stored.months");
  });
  test("of more resin than the vessel holds is questioned", () => {
    expect(overfull({ resinLitres: 15 }, vessel)).toHaveLength(1);
    expect(overfull({ resinLitres: 14 }, vessel)).toHaveLength(0);
  });
  test("ends the old charge with its reason and keeps the rest of it", () => {
    const ended = endedBody({ ...charge, vesselId: ID, rigId: ID }, typed({ why: "early", note: "Quiet day" }), now);
    expect(ended).toMatchObject({
      resinLitres: 11.5,
      ended: { why: "early", note: "Quiet day", at: now.toISOString() },
    });
    expect(complaintsAbout("charges", { ...ended, filledAt: "2027-02-01T00:00:00Z" })).toEqual([]);
  });
});

describe("sizing as typed", () => {
  const history = { low: 0.44, median: 0.5, high: 0.56 };
  const answered = (more: object, units: (typeof unitSystems)[number] = "metric") => {
    const { question, errors } = parse({ ...startWith(units), ...more }, units, history);
    const outcome = question && answerGallons(question, units);
    return { errors, answer: outcome && "answer" in outcome ? outcome.answer : undefined };
  };

  test.each(unitSystems)("answers under four schools from the start, in %s units", (units) => {
    const { answer, errors } = answered({}, units);
    expect(errors).toEqual({});
    expect(answer!.schools.map((life) => life.school)).toEqual(["constant", "chemistry", "history"]);
    const rated = answered({ ratedVolume: "5000", ratedPpm: "90", ratedResin: "8" }, units).answer!;
    expect(rated.schools.map((life) => life.school)).toEqual(["constant", "rating", "chemistry", "history"]);
    expect(answer!.explanations.chemistry!.unit).toBe(units === "us" ? "US gal" : "L");
  });
  test("is the same water in either unit system", () => {
    const [metric, us] = unitSystems.map((units) => answered({}, units).answer!.life.litres);
    expect(us! / metric!).toBeCloseTo(1, 3);
  });
  test("keeps the rest when one field is wrong, and says which", () => {
    fc.assert(
      fc.property(
        fc.constantFrom("low", "typical", "high", "resin", "diameter", "flow", "limit", "spread"),
        (field) => {
          const { answer, errors } = answered({ [field]: "12a" });
          expect(answer).toBeUndefined();
          expect(Object.keys(errors)).toContain(field);
        },
      ),
    );
  });
  test("asks for a rising range", () => {
    expect(answered({ low: "200" }).errors.low).toMatch(/must not exceed/);
    expect(answered({ high: "100" }).errors.high).toMatch(/must not be below/);
  });
  test("leaves out the rating when none is entered, and flags one beyond the beads' chemistry", () => {
    expect(answered({ ratedVolume: "" }).answer!.schools.map((life) => life.school)).not.toContain("rating");
    const claim = { ratedPpm: "180", ratedResin: "10" };
    expect(answered({ ...claim, ratedVolume: "1550" }).answer!.claimTooHigh).toBeUndefined();
    expect(answered({ ...claim, ratedVolume: "1600" }).answer!.claimTooHigh).toBeCloseTo(0.576, 3);
    expect(answered({ ...claim, ratedVolume: "4000" }).answer!.claimTooHigh).toBeCloseTo(1.44, 2);
  });
  test("says when carbon dioxide and silica count", () => {
    expect(answered({}).answer!.hiddenLoad).toBe(false);
    const { answer } = answered({ ph: "6.9", alkalinity: "120", silica: "8" });
    expect(answer!.hiddenLoad).toBe(true);
    expect(answer!.life.litres).toBeLessThan(answered({}).answer!.life.litres);
  });
  test("keeps a limit out of reach an answer, not an error", () => {
    const { answer } = answered({ bypass: "0.2" });
    expect(answer!.life).toMatchObject({ reachable: false, litres: 0 });
    expect(answer!.life.reason).toMatch(/bypass/);
    expect(answer!.flow).toBeUndefined();
  });
  test("takes a tap as it is known, emptying what is not", () => {
    expect(fromTap({ ...tap, ph: 7.1 }, "metric")).toEqual({
      low: "150",
      typical: "160",
      high: "175",
      scale: "nacl",
      ph: "7.1",
      alkalinity: "",
      silica: "",
    });
  });
  test.each(VESSEL_PRESETS.map((preset) => [preset.name, preset] as const))("starts from a %s", (_name, preset) => {
    const { answer, errors } = answered(fromPreset(preset, "metric"));
    expect(errors).toEqual({});
    expect(answer!.weight!.kilograms).toBeGreaterThan(preset.emptyWeight);
  });
});
