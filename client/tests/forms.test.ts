import fc from "fast-check";
import { MARKS, type Use } from "@winter-bead/core";
import { marksChoiceOf, marksOptions, usualMarks, VESSEL_PRESETS } from "../features/setup/presets";
import { fromPreset, fromTap, parse, startWith } from "../features/size/typed";
import { answerLitres } from "../features/size/litres";
import { tap } from "./sample-rig";

const unitSystems = ["metric", "us"] as const;

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

describe("sizing as typed", () => {
  const history = { low: 0.44, median: 0.5, high: 0.56 };
  const answered = (more: object, units: (typeof unitSystems)[number] = "metric") => {
    const { question, errors } = parse({ ...startWith(units), ...more }, units, history);
    const outcome = question && answerLitres(question, units);
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
