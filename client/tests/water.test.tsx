import { fireEvent, screen } from "@testing-library/react";
import {
  describeReport,
  membraneTrend,
  readReport,
  unwrap,
  type Meter,
  type MembraneCheck,
  type Tap,
  type Visit,
} from "@winter-bead/core";
import { barWords, EquivalentsBar } from "../features/water/EquivalentsBar";
import { HiddenLoadPart } from "../features/water/HiddenLoad";
import { stateWords, wearOf } from "../features/water/membrane-words";
import { checkWords } from "../features/water/meter-words";
import { openReportFile, reportCsv, reportJson } from "../features/water/report-file";
import { feedWords, tapReadings, tapWater } from "../features/water/tap-water";
import { ReportSummary } from "../features/water/ReportSummary";
import { inApp } from "./in-app";

const METER: Meter = { id: "m", name: "Pocket", scale: "nacl", compensated: true };
const TAP: Tap = {
  id: "t",
  siteId: "s",
  name: "Yard tap",
  low: 80,
  typical: 100,
  high: 120,
  scale: "nacl",
  ph: 7.3,
  alkalinity: 90,
};
const meters = new Map([["m", METER]]);
const VALUES = {
  ca: 40,
  mg: 8,
  na: 15,
  k: 2,
  cl: 22,
  so4: 21,
  no3: 8,
  alkalinity: 118,
  ph: 7.3,
  silica: 6,
  ec25: 340,
  temperature: 14,
};

const visit = (at: string, feed: number | undefined): Visit => ({
  id: at,
  rigId: "r",
  tapId: "t",
  at,
  readings: feed === undefined ? [] : [{ id: at, point: "feed", meterId: "m", value: feed }],
});

describe("the water of a tap", () => {
  const facts = {
    visits: [
      visit("2027-03-02T08:00:00Z", 104),
      visit("2027-03-01T08:00:00Z", undefined),
      visit("2027-02-01T08:00:00Z", 0),
    ],
    tests: [
      { id: "a", tapId: "t", at: "2027-01-10T08:00:00Z", meterId: "m", value: 98 },
      { id: "b", tapId: "other", at: "2027-01-11T08:00:00Z", meterId: "m", value: 300 },
      { id: "c", tapId: "t", at: "2027-01-12T08:00:00Z", value: 98 },
    ],
    reports: [
      { id: "old", tapId: "t", sampledOn: "2025-01-01", source: "typed" as const, values: { ca: 10, ec25: 90 } },
      { id: "new", tapId: "t", sampledOn: "2027-01-01", source: "typed" as const, values: { silica: 5, ph: 7.6 } },
    ],
    meters,
  };

  test("gathers tests and visits in order, and leaves out what is no feed of it", () => {
    expect(tapReadings("t", facts).map(({ ec25 }) => ec25)).toEqual([196, 208]);
  });

  test("takes its chemistry from the newest report, and what that lacks from the tap", () => {
    const { values, described, range } = tapWater(TAP, facts);
    expect(values).toMatchObject({ silica: 5, ph: 7.6, alkalinity: 90 });
    expect(values).not.toHaveProperty("ca");
    // The one typical of the tap, whatever its readings would say.
    expect([values!.ec25, Math.round(range!.typical)]).toEqual([200, 202]);
    expect(described!.hidden.co2).toBeGreaterThan(0);
  });

  test("without any reading it stands on what the tap itself says", () => {
    const bare = tapWater(
      { ...TAP, ph: undefined, alkalinity: undefined },
      { ...facts, visits: [], tests: [], reports: [] },
    );
    expect(bare.range).toBeUndefined();
    expect(bare.values).toEqual({ ec25: 200 });
    expect(bare.described!.hidden.share).toBe(0);
  });

  test.each([
    [100, "low"],
    [300, "usual"],
    [800, "high"],
  ])("%d µS/cm is %s", (ec25, words) => expect(feedWords(ec25)).toBe(words));
});

describe("a report as a file", () => {
  const lines = (text: string) => {
    const opened = openReportFile(text);
    return "report" in opened ? opened.report : undefined;
  };

  test.each([
    ["CSV", reportCsv(VALUES, "2027-03-01", "Harbour\nzone")],
    ["JSON", reportJson(VALUES, "2027-03-01", "Harbour zone")],
  ])("%s written is read again", (_name, text) => {
    const report = lines(text)!;
    expect([report.sampledOn, report.origin]).toEqual(["2027-03-01", "Harbour zone"]);
    const { values, complaints } = readReport(report.lines);
    expect(complaints).toEqual([]);
    expect(values).toEqual(VALUES);
  });

  test("the template has every figure and no value, and says so when it is opened", () => {
    const template = reportCsv({}, "2027-03-01", "");
    expect(template.split("\n").length).toBeGreaterThan(16);
    expect(openReportFile(template)).toEqual({ trouble: "Every value in this file is empty." });
  });

  test("semicolons, a byte order mark and other columns do no harm", () => {
    expect(lines("\uFEFFParameter;Value;Unit;Method\nCalcium;40,5;mg/L;X\n")!.lines).toEqual([
      { parameter: "Calcium", value: "40,5", unit: "mg/L" },
    ]);
  });

  test.each([
    ['{"values": [{"parameter": "Calcium"', /cut short/],
    ['{"values": "see attachment"}', /values must be a list/],
    ["Calcium 40\n", /columns parameter, value, unit/],
    ["x".repeat(200_001), /far too long/],
  ])("what is no report is said: %#", (text, words) => {
    const opened = openReportFile(text);
    expect("trouble" in opened ? opened.trouble : "").toMatch(words);
  });
});

describe("what is drawn and said of a report", () => {
  const answer = unwrap(describeReport(VALUES));
  test("the bar tells both sides, and what no meter sees", () => {
    expect(barWords(answer)).toMatch(/Ca 2\b.*HCO₃ 2\.36.*CO₂ [\d.]+ \(not seen by a meter\), SiO₂ [\d.]+ \(not seen/);
  });

  test("balance and conductivity stand in words", () => {
    inApp(<ReportSummary answer={answer} values={VALUES} />);
    expect(screen.getByTestId("balance").textContent).toMatch(/It balances/);
    expect(screen.getByTestId("conductivity-check").textContent).toMatch(/measured 340: they agree/);
  });

  test("more hours of air take off more carbon dioxide", () => {
    inApp(<HiddenLoadPart answer={answer} values={VALUES} />);
    const after = () => Number(screen.getByTestId("co2-after").textContent);
    const eight = after();
    fireEvent.click(screen.getByRole("radio", { name: "24" }));
    expect(after()).toBeLessThan(eight);
    expect(after()).toBeGreaterThanOrEqual(0.6);
  });

  test("with nothing known of it, it says what would tell", () => {
    const bare = unwrap(describeReport({ ec25: 300 }));
    inApp(<HiddenLoadPart answer={bare} values={{ ec25: 300 }} />);
    expect(screen.getByTestId("hidden-load").textContent).toMatch(/Nothing is known of it yet/);
    inApp(<EquivalentsBar answer={bare} />);
  });
});

describe("a membrane's checks", () => {
  const check = (id: string, at: string, part: Partial<MembraneCheck>): MembraneCheck => ({
    id,
    rigId: "r",
    at,
    meterId: "m",
    feed: 210,
    product: 6,
    temperature: 17,
    pressure: 400,
    productFlow: 0.12,
    wasteFlow: 0.36,
    clean: false,
    ...part,
  });

  test("each is held against the clean one before it, in the order of their dates", () => {
    const { points, partial, clean } = membraneTrend(
      [
        check("c", "2027-03-01T08:00:00Z", { productFlow: 0.1 }),
        check("a", "2027-01-01T08:00:00Z", { clean: true }),
        check("d", "2027-04-01T08:00:00Z", { clean: true, productFlow: 0.13 }),
        check("x", "2027-02-01T08:00:00Z", { meterId: undefined }),
        check("y", "2027-02-02T08:00:00Z", { wasteFlow: undefined, clean: true }),
      ],
      meters,
    );
    expect(points.map((point) => point.check.id)).toEqual(["a", "c", "d"]);
    expect(points.map((point) => point.state.flowShare! < 0.95)).toEqual([false, true, false]);
    // No state follows from what is missing, and no baseline; both are kept for the eye.
    expect(partial.map(({ id }) => id)).toEqual(["x", "y"]);
    expect(clean!.productFlow).toBe(0.13);
    expect(wearOf(points[1]!, points[0]!.figures)[0]!.cause).toBe("membrane-worn");
  });
});

test.each([
  [METER, /never checked/],
  [{ ...METER, checkedOn: "2027-01-01", check: { standard: 1413, shown: 710 } }, /0\.5 % high, good/],
  [{ ...METER, checkedOn: "2027-01-01", check: { standard: 1413, shown: 800 } }, /13 % high, more than/],
])("a meter's last check in words", (meter, words) => expect(checkWords(meter)).toMatch(words));

describe("a membrane's headline", () => {
  const state = { rejection: 0.952, recovery: 0.3, wasteRatio: 2, netPressure: 250, normalizedFlow: 0.001 };
  test("says what it holds back beside its flow, and when that is worse than clean", () => {
    expect(stateWords({ state })).toMatch(/^No clean baseline yet.* It holds back 95\.2 %\.$/);
    expect(stateWords({ state: { ...state, flowShare: 0.99, passageRatio: 1.1 } })).toBe(
      "The flow is as it was when clean. It holds back 95.2 %, as when clean.",
    );
    expect(stateWords({ state: { ...state, flowShare: 0.99, passageRatio: 1.8 } })).toMatch(
      /lets 1\.8 times as much salt through as when clean/,
    );
  });
});
