import { isWithin, RANGES, unwrap, type Range, type SizeInput } from "@winter-bead/core";
import {
  DEFAULT_PRICES,
  generateOptions,
  optionFigures,
  planFigures,
  planQuestion,
} from "@winter-bead/core/src/sizing";
import { fieldErrorsOf, numberIn, RECORDS, revision, type RecordKind } from "../src/index";

const id = "01890000-0000-7000-8000-000000000001";
const moment = "2027-03-01T08:10:00.000Z";
const marks = { watch: 6, limit: 10, hard: 20, scale: "nacl" };

const water = { reading: { value: 160, scale: "nacl" as const }, ph: 7.3, alkalinity: 110 };
const work: SizeInput = {
  demand: { items: [{ by: "jobs", name: "houses", perWeek: 20, litresEach: 60, quality: "timed" }] },
  waters: { low: water, typical: water, high: water },
  limit: { value: 10, scale: "nacl" },
  peakFlow: 3,
  prices: DEFAULT_PRICES,
  until: "meter",
  own: [{ name: "Old", kind: "cartridge", grossVolume: 5, diameter: 100, emptyWeight: 1, fillFraction: 1, own: true }],
};
const question = unwrap(planQuestion(work));
const [option] = generateOptions(work.own!);

/** One good body of each kind. */
const GOOD: Readonly<Record<RecordKind, object>> = {
  sites: { name: "Ropewalk yard", note: "Beside the door." },
  taps: { siteId: id, name: "Yard", low: 80, typical: 96, high: 120, scale: "nacl", temperature: 12, ph: 7.2 },
  meters: { name: "Pocket", scale: 0.64, compensated: false, checkedOn: "2027-02-01" },
  vessels: { name: "Tank", kind: "screw-head-tank", grossVolume: 28, diameter: 254, fillFraction: 0.86, marks },
  rigs: {
    name: "Van",
    use: "glass",
    tapId: id,
    flow: 3.2,
    stages: [{ kind: "sediment" }, { kind: "membrane", rejection: 0.95 }, { kind: "resin", vesselId: id }],
    jobName: "house",
    litresPerJob: 60,
  },
  charges: {
    vesselId: id,
    rigId: id,
    grade: "virgin",
    resinLitres: 24,
    packing: "settled",
    stored: { container: "rolled-or-zip", months: 6, warm: true },
    filledAt: moment,
    startTotal: 100,
    ended: { at: "2027-03-20T08:10:00.000Z", why: "limit" },
  },
  visits: {
    rigId: id,
    tapId: id,
    at: moment,
    water: { by: "total", total: 250 },
    readings: [{ id, point: "output", scale: "442", value: 3, temperature: 11 }],
  },
  "feed-tests": { tapId: id, at: moment, meterId: id, value: 104, temperature: 11, note: "After rain." },
  "water-reports": {
    tapId: id,
    sampledOn: "2027-02-01",
    source: "typed",
    origin: "Laboratory of the harbour",
    values: { ca: 40, alkalinity: 110, cl: 20, ph: 7.3, silica: 6, chloramine: 0.4, ec25: 320 },
  },
  "membrane-checks": {
    rigId: id,
    at: moment,
    scale: "ec",
    feed: 420,
    product: 13,
    temperature: 17,
    pressure: 400,
    permeatePressure: 20,
    productFlow: 0.12,
    wasteFlow: 0.36,
    clean: true,
    seen: { "sediment-old": false },
  },
  plans: {
    name: "Van",
    keptAt: moment,
    use: "glass",
    tapId: id,
    jobName: "house",
    work,
    option: option!,
    expected: planFigures(unwrap(optionFigures(option!, question)), question.demand),
    currency: "EUR",
    rigId: id,
    inUseSince: moment,
    note: "For the new round.",
  },
  "price-lists": { setOn: "2027-02-01", currency: "EUR", prices: DEFAULT_PRICES },
};

const complaints = (kind: RecordKind, body: object) => {
  const checked = RECORDS[kind].safeParse(body);
  return checked.success ? [] : fieldErrorsOf(checked.error);
};

describe("a good record of each kind is taken, and an unknown field in it is named", () => {
  test.each(Object.keys(GOOD) as RecordKind[])("%s", (kind) => {
    expect(complaints(kind, GOOD[kind])).toEqual([]);
    expect(complaints(kind, { ...GOOD[kind], colour: "blue" })).toEqual([
      { path: "colour", message: "Unknown here: colour." },
    ]);
  });
});

describe("what is missing or wrong is said at its field", () => {
  const wrong: readonly (readonly [RecordKind, object, string, RegExp])[] = [
    ["sites", { name: "   " }, "name", /missing/],
    ["sites", { name: "x".repeat(121) }, "name", /longer than 120/],
    ["sites", { name: 7 }, "name", /must be text/],
    ["taps", { low: 0 }, "low", /above 0/],
    ["taps", { low: 100 }, "typical", /rise in that order/],
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
    ["rigs", { stages: [{ kind: "sediment" }] }, "stages", /needs a resin vessel/],
    ["rigs", { stages: [{ kind: "magnet" }] }, "stages.0.kind", /A stage is/],
    ["rigs", { stages: [{ kind: "membrane", rejection: 1 }] }, "stages.0.rejection", /below 1/],
    ["rigs", { use: "drinking" }, "use", /glass, paint or aquarium/],
    ["rigs", { flow: 0 }, "flow", /above 0 and at most 1,000 L\/min/],
    ["charges", { grade: "premium" }, "grade", /virgin, dyed or regenerated/],
    ["charges", { packing: "tight" }, "packing", /settled, poured or loose/],
    ["charges", { ended: { at: "2027-02-01T00:00:00Z", why: "limit" } }, "ended.at", /before it was filled/],
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
