import { runs } from "./runs";
import fc from "fast-check";
import {
  checkMeter,
  column,
  compare,
  describeComposition,
  describeReport,
  ionFeed,
  membrane,
  membraneState,
  planColumn,
  reconcile,
  SPECIES,
  tapRange,
  twoLives,
} from "../src/index";
import { creep } from "../src/membrane/creep";
import { anyNumber, expectAnswerOrSentence } from "./answer-or-sentence";

const figures = <K extends string>(...names: readonly K[]) =>
  fc.record(Object.fromEntries(names.map((name) => [name, anyNumber]))) as fc.Arbitrary<Record<K, number>>;
const scale = fc.constantFrom("nacl" as const, "442" as const, "ec" as const, 0.64, 7);

describe("whatever figures come in, an answer is finite or a sentence", () => {
  test("of a composition", () => {
    fc.assert(
      fc.property(figures("na", "ca", "cl", "so4", "nh4", "inorganicCarbon", "silica"), (ions) =>
        expectAnswerOrSentence(describeComposition(ions)),
      ),
    );
  });

  test("of a membrane as rated, and as checked", () => {
    fc.assert(
      fc.property(figures("ec25", "temperature", "pressure", "recovery", "flow", "rejection"), (it) => {
        const { ec25, temperature, pressure, recovery, flow, rejection } = it;
        const rated = { flow, rejection, pressure, ec25, recovery };
        expectAnswerOrSentence(membrane({ feed: { ec25, temperature, pressure }, recovery, rated }));
        const figuresOfCheck = {
          feedEc25: ec25,
          productEc25: ec25 * rejection,
          temperature,
          pressure,
          productFlow: flow,
          wasteFlow: recovery,
        };
        expectAnswerOrSentence(membraneState(figuresOfCheck, figuresOfCheck));
      }),
    );
  });

  test("of start-up readings", () => {
    const readings = fc.array(figures("seconds", "value"), { maxLength: 8 });
    fc.assert(
      fc.property(readings, scale, anyNumber, (some, on, flow) =>
        expectAnswerOrSentence(creep({ readings: some, scale: on as 0.64, flow })),
      ),
      { numRuns: runs(60) },
    );
  });

  test("of two charges, two meters, a standard, a tap", () => {
    const charge = figures("capacity", "resin", "load", "waterPerJob");
    fc.assert(
      fc.property(charge, charge, scale, anyNumber, anyNumber, (first, second, on, a, b) => {
        expectAnswerOrSentence(compare({ first, second }));
        expectAnswerOrSentence(
          reconcile({ first: { value: a, scale: on as 0.64 }, second: { value: b, scale: "ec" } }),
        );
        expectAnswerOrSentence(checkMeter({ scale: on as 0.64, standardEc25: a, shown: b }));
        expectAnswerOrSentence(tapRange([{ at: 0, ec25: a }].filter(({ ec25 }) => Number.isFinite(ec25))));
      }),
    );
  });

  test("of a report and its ions", () => {
    fc.assert(
      fc.property(figures("ca", "na", "cl", "alkalinity", "ph", "silica", "chloramine", "ec25"), (values) => {
        expectAnswerOrSentence(describeReport(values));
        expectAnswerOrSentence(ionFeed({ analysis: { ca: values.ca, cl: values.cl }, ph: values.ph }));
      }),
    );
  });

  const feed = fc.record(Object.fromEntries(SPECIES.map((species) => [species, anyNumber])));
  const bed = figures("volume", "diameter", "flow", "temperature", "bypass");
  const kind = fc.constantFrom("mixed" as const, "cation" as const, "anion" as const);

  test("of a column's plan, before any work is done", () => {
    fc.assert(
      fc.property(feed, bed, kind, anyNumber, anyNumber, (some, of, kindOfBed, cells, until) => {
        const stage = { kind: kindOfBed, capacity: { grade: "virgin" as const }, bed: of };
        const plan = planColumn({ feed: some, stages: [stage], cells, until });
        if (plan.ok) expect(plan.value.segments.every(({ steps, litres }) => steps > 0 && litres > 0)).toBe(true);
        else expectAnswerOrSentence(plan);
      }),
      { numRuns: runs(200) },
    );
  });

  test("of a whole column, from the softest to the saltiest feed and from a trickle to a flood", () => {
    const ion = fc.constantFrom(0, 1e-3, 0.1, 2, 200);
    const anyFeed = fc.record(Object.fromEntries(SPECIES.map((species) => [species, ion])));
    const anyBed = fc.record({
      volume: fc.constantFrom(0.01, 1, 30),
      diameter: fc.constantFrom(20, 150, 1000),
      flow: fc.constantFrom(0.01, 1, 60),
    });
    fc.assert(
      fc.property(anyFeed, anyBed, kind, (some, of, kindOfBed) => {
        const stage = { kind: kindOfBed, capacity: { cation: 1, anion: 0.6 }, bed: of };
        const plan = planColumn({ feed: some, stages: [stage], cells: 5, until: 1.2 });
        if (plan.ok && plan.value.size > 2e6) return;
        const answer = column({
          feed: some,
          stages: [stage],
          cells: 5,
          until: 1.2,
          limit: { value: 10, scale: "nacl" },
          marks: { silica: 1, ammonia: 0.1 },
        });
        expectAnswerOrSentence(answer);
        if (answer.ok) expect(answer.value.balanceError).toBeLessThan(1e-9);
        if (kindOfBed === "mixed")
          expectAnswerOrSentence(
            twoLives({ feed: some, capacity: { grade: "virgin" }, bed: of, limit: { value: 10, scale: "nacl" } }),
          );
      }),
      { numRuns: runs(60), endOnFailure: true },
    );
  }, 120_000);
});
