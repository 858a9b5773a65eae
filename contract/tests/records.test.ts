import { currentShape, isWithin, KINDS, RANGES, sampleId, type Kind, type Range } from "@winter-bead/core";
import {
  fieldErrorsOf,
  numberIn,
  readAct,
  readBody,
  RECORD_KINDS,
  RECORDS,
  revision,
  type RecordKind,
} from "../src/index";
import { SHIPPED } from "./shipped-bodies";

const id = "01890000-0000-7000-8000-000000000001";
const moment = "2027-03-01T08:10:00.000Z";
const marks = { watch: 6, limit: 10, hard: 20, scale: "nacl" };

/** A good body of each kind. */
const GOOD = Object.fromEntries(RECORD_KINDS.map((kind) => [kind, KINDS[kind].sample])) as Readonly<
  Record<RecordKind, Readonly<Record<string, unknown>>>
>;

const complaints = (kind: RecordKind, body: object) => {
  const checked = RECORDS[kind].safeParse(body);
  return checked.success ? [] : fieldErrorsOf(checked.error);
};

describe("a good record of each kind is taken, and an unknown field in it is named", () => {
  test.each(RECORD_KINDS)("%s", (kind) => {
    expect(complaints(kind, GOOD[kind])).toEqual([]);
    expect(complaints(kind, { ...GOOD[kind], colour: "blue" })).toEqual([
      { path: "colour", message: "Unknown here: colour." },
    ]);
  });
});

describe("a body of every shape that was ever shipped is read for ever", () => {
  test.each(RECORD_KINDS)("%s", (kind) => {
    const shapes = SHIPPED[kind].map(({ shape }) => shape);
    for (let shape = 1; shape <= currentShape(KINDS[kind]); shape += 1) expect(shapes).toContain(shape);
    for (const { shape, body } of SHIPPED[kind]) {
      const { body: read, ...beside } = readBody(KINDS[kind], body, shape) as { readonly body: unknown };
      expect(read).toBeDefined();
      // What an upcast leaves out is said beside: the body as it came is needed for that.
      expect(beside).toEqual(KINDS[kind].beside && shape < currentShape(KINDS[kind]) ? { old: body } : {});
    }
  });
});

describe("an act", () => {
  const site = { kind: "sites", id, body: { name: " Pier " } };
  const act = (...puts: readonly object[]) => ({ at: moment, what: "Places", puts });

  test("has its bodies checked and cleaned by their kinds", () => {
    expect(readAct(KINDS, act(site))).toMatchObject({ act: { puts: [{ kind: "sites", id, body: { name: "Pier" } }] } });
  });

  test("says what is wrong at the put and the field", () => {
    const wrong = act({ ...site, body: { name: "" } }, { kind: "boats", id, body: {} });
    expect(readAct(KINDS, wrong)).toEqual({
      errors: [
        { path: "puts.0.body.name", message: "The site's name is missing." },
        { path: "puts.1.kind", message: "There is no kind of record called boats." },
      ],
    });
    expect(readAct(KINDS, act())).toMatchObject({ errors: [{ path: "puts" }] });
    expect(readAct(KINDS, act(site, { ...site, body: { name: "Quay" } }))).toMatchObject({
      errors: [{ path: "puts" }],
    });
    expect(readAct(KINDS, act({ kind: "sites", id, voided: true }))).toMatchObject({
      errors: [{ path: "puts.0.replaces" }],
    });
  });

  test("of a shape that this program does not know yet is not at fault", () => {
    expect(readAct(KINDS, act({ ...site, shape: currentShape(KINDS.sites) + 1 }))).toEqual({ newer: ["sites"] });
  });

  test("of an earlier shape comes out as one of today", () => {
    const sites: Kind = { ...KINDS.sites, upcasts: [({ title, ...rest }) => ({ name: title, ...rest })] };
    const old = { kind: "sites", id, body: { title: "Pier" } };
    expect(readAct({ sites }, act(old))).toMatchObject({ act: { puts: [{ body: { name: "Pier" } }] } });
  });
});

describe("what is missing or wrong is said at its field", () => {
  const wrong: readonly (readonly [RecordKind, object, string, RegExp])[] = [
    ["sites", { name: "   " }, "name", /missing/],
    ["sites", { name: "x".repeat(121) }, "name", /longer than 120/],
    ["sites", { name: 7 }, "name", /must be text/],
    ["taps", { low: 0 }, "low", /above 0/],
    ["taps", { low: 170 }, "typical", /rise in that order/],
    ["taps", { scale: "tds" }, "scale", /Choose the meter's scale/],
    ["taps", { siteId: "yard" }, "siteId", /UUID/],
    ["taps", { ph: 15 }, "ph", /pH must be 0 or more and at most 14/],
    ["meters", { scale: 1.2 }, "scale", /0.40 to 1.00/],
    ["meters", { checkedOn: "2027-02-30" }, "checkedOn", /real date/],
    ["meters", { compensated: "yes" }, "compensated", /true or false/],
    ["vessels", { kind: "jug" }, "kind", /kind of vessel/],
    ["vessels", { fillFraction: 1.2 }, "fillFraction", /The fill must be/],
    ["vessels", { grossVolume: 2001 }, "grossVolume", /vessel's volume/],
    ["vessels", { marks: { ...marks, hard: 8 } }, "marks.limit", /rise in that order/],
    ["rigs", { stages: [] }, "stages", /at least one stage/],
    ["rigs", { stages: [{ id: sampleId("stage"), kind: "sediment" }] }, "stages", /needs a resin vessel/],
    ["rigs", { stages: [{ kind: "magnet" }] }, "stages.0.kind", /A stage is/],
    ["rigs", { stages: [{ kind: "membrane", rejection: 1 }] }, "stages.0.rejection", /below 1/],
    ["rigs", { use: "drinking" }, "use", /glass, paint or aquarium/],
    ["rigs", { flow: 0 }, "flow", /above 0 and at most 1,000 L\/min/],
    ["charges", { grade: "premium" }, "grade", /virgin, dyed or regenerated/],
    ["charges", { packing: "tight" }, "packing", /settled, poured or loose/],
    ["charges", { ended: { at: "2027-01-01T00:00:00Z", why: "limit" } }, "ended.at", /before it was filled/],
    ["charges", { ended: { at: moment, why: "bored" } }, "ended.why", /limit, early or fault/],
    ["charges", { stored: { container: "sack", months: 1, warm: false } }, "stored.container", /bag was kept/],
    ["charges", { filledAt: "1999-12-31T23:59:59Z" }, "filledAt", /between 2000 and 2100/],
    ["visits", { at: "today" }, "at", /ISO 8601/],
    ["visits", { water: { by: "bucket", litres: 9 } }, "water.by", /meter total, minutes and flow, or jobs/],
    ["visits", { water: { by: "timed", minutes: -1, flow: 3 } }, "water.minutes", /0 or more/],
    ["visits", { readings: [], water: undefined }, "readings", /at least one reading or the water/],
    ["visits", { readings: [{ id, point: "drain", scale: "ec", value: 1 }] }, "readings.0.point", /A reading is of/],
    ["visits", { readings: [{ id, point: "output", value: 1 }] }, "readings.0.scale", /ambiguous by 40 %/],
    ["visits", { readings: [{ id, point: "output", scale: "ec", value: -1 }] }, "readings.0.value", /0 or more/],
  ];
  test.each(wrong)("%s %j", (kind, part, path, words) => {
    const found = complaints(kind, { ...GOOD[kind], ...part });
    expect(found.map((each) => each.path)).toContain(path);
    expect(found.find((each) => each.path === path)!.message).toMatch(words);
  });
});

describe("every range of the core holds at its ends", () => {
  const ends = (range: Range): readonly (readonly [number, boolean])[] => {
    const inside: [number, boolean][] = [];
    if (range.from !== undefined) inside.push([range.from, true], [range.from - 1e-6, false]);
    if (range.above !== undefined) inside.push([range.above, false], [range.above + 1e-9, true]);
    if (range.to !== undefined) inside.push([range.to, true], [range.to * (1 + 1e-9), false]);
    if (range.below !== undefined) inside.push([range.below, false]);
    return inside;
  };
  test.each(Object.entries(RANGES))("%s", (_name, range) => {
    for (const [value, good] of ends(range)) {
      expect([value, numberIn(range).safeParse(value).success]).toEqual([value, good]);
      expect(isWithin(value, range)).toBe(good);
    }
    for (const value of [Number.NaN, Number.POSITIVE_INFINITY, "3", null]) {
      expect(numberIn(range).safeParse(value).success).toBe(false);
    }
  });
});

test("a revision names a whole version", () => {
  expect(revision.safeParse({ replaces: 1, voided: true }).success).toBe(true);
  expect(revision.safeParse({}).success).toBe(true);
  for (const replaces of [0, 1.5, "1"]) expect(revision.safeParse({ replaces }).success).toBe(false);
});
