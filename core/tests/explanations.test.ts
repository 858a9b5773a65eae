import { runs } from "./runs";
import fc from "fast-check";
import {
  convertExplanation,
  explainBed,
  explainConstantLife,
  explainLife,
  explainRatedLife,
  explainWeight,
  life,
  LITRES_PER_US_GALLON,
  unwrap,
  type LifeInput,
} from "../src/index";
import { expectTrue } from "./explained";

const feed = fc.oneof(
  fc
    .record({
      value: fc.double({ min: 30, max: 900, noNaN: true }),
      scale: fc.constantFrom("nacl" as const, "442" as const, "ec" as const, 0.64),
    })
    .map((reading) => ({ reading })),
  fc.constant({ reading: { value: 180, scale: "nacl" as const, temperature: 8, compensated: false } }),
  fc.constant({
    analysis: { ca: 62, mg: 9.5, na: 21, k: 2.8, cl: 34, so4: 41, no3: 17, alkalinity: 152 },
    ph: 7.6,
    silica: 6,
  }),
);

const lifeInputs = fc
  .record({
    water: feed,
    volume: fc.double({ min: 0.4, max: 40, noNaN: true }),
    flow: fc.double({ min: 0.2, max: 6, noNaN: true }),
    limit: fc.double({ min: 0.5, max: 200, noNaN: true }),
    bypass: fc.constantFrom(0, 0.02, 0.2),
    spread: fc.constantFrom(0, 0.05),
  })
  .map(({ water, volume, flow, limit, bypass, spread }): LifeInput => ({
    water,
    capacity: { grade: "virgin" },
    bed: { volume, diameter: 150, flow, bypass, spread },
    limit: { value: limit, scale: "nacl" },
    storage: 0.93,
    packing: 0.95,
  }));

describe("every explanation gives its own number", () => {
  test("of a life by chemistry, reachable or not, down to its inputs", () => {
    fc.assert(
      fc.property(lifeInputs, (input) => {
        const explanation = unwrap(explainLife(input));
        expect(explanation.value).toBeCloseTo(unwrap(life(input)).litres, 6);
        expectTrue(explanation);
      }),
      { numRuns: runs(120) },
    );
  });

  test("of the bare trade constant and the bare rating", () => {
    expectTrue(explainConstantLife(200_000, 160, 12));
    expectTrue(unwrap(explainRatedLife({ ratedLitres: 1600, ratedPpm: 180, scale: "442", resinLitres: 10 }, 320, 12)));
  });

  test("of contact time, bed volumes and pressure loss", () => {
    const { contact, bedVolumes, pressure } = unwrap(explainBed({ volume: 11.5, diameter: 180, flow: 3.2 }));
    for (const explanation of [contact, bedVolumes, pressure]) expectTrue(explanation);
    expect(pressure.value).toBeCloseTo(2.736, 3);
  });

  test("of the wet weight", () => {
    expectTrue(unwrap(explainWeight({ empty: 7.5, resin: 24, grossVolume: 28 })));
    expect(explainWeight({ empty: 7.5, resin: 30, grossVolume: 28 }).ok).toBe(false);
  });

  test("in gallons as in litres", () => {
    const converted = convertExplanation(explainConstantLife(200_000, 160, 12), "US gal", {
      symbol: "gal",
      name: "Litres in a US gallon",
      value: LITRES_PER_US_GALLON,
      unit: "L/US gal",
    });
    expectTrue(converted);
    expect(converted.value).toBeCloseTo((200_000 / 160) * (12 / 28.316846592), 6);
  });
});
