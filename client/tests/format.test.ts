import {
  dayOf,
  dateInWords,
  litres,
  litresRange,
  momentInWords,
  percent,
  scaleUnit,
  threeDigits,
  typedNumber,
} from "../ui/format";
import type * as Dates from "../ui/dates";

test("three digits, never false precision", () => {
  expect([1672.56, 98.26, 0.4567, 0, 12345, 999.6].map(threeDigits)).toEqual([
    "1,670",
    "98.3",
    "0.457",
    "0",
    "12,300",
    "1,000",
  ]);
});

test("litres read as litres or US gallons, a range as a range", () => {
  expect(litres(1672.56, "metric")).toBe("1,670 L");
  expect(litres(1672.56, "us")).toBe("442 US gal");
  expect(litresRange(1050, 1560, "metric")).toBe("1,050 to 1,600 L");
  expect(litresRange(100.01, 100.02, "metric")).toBe("100 L");
});

test("a date near today is said in words", () => {
  const words = ["2026-11-24", "2026-11-25", "2026-12-03", "2027-01-28"].map((date) => dateInWords(date, "2026-11-24"));
  expect(words).toEqual(["today", "tomorrow", "Thu 3 Dec", "late Jan 2027"]);
  const now = new Date(2026, 10, 24, 12).getTime();
  expect(momentInWords(new Date(2026, 10, 24, 8, 10).getTime(), now)).toBe("today 8:10");
  expect(momentInWords(new Date(2026, 10, 20, 8, 10).getTime(), now)).toBe("Fri 20 Nov");
});

test("numbers are taken as people type them", () => {
  expect(["212", " 1,310 ", "3,5", "0.4", ".5", "5."].map(typedNumber)).toEqual([212, 1310, 3.5, 0.4, 0.5, 5]);
  expect(["", "-", "1.2.3", "12a", "1e9999", "NaN"].map(typedNumber)).toEqual(Array(6).fill(undefined));
});

test("a scale is named beside its number", () => {
  expect((["nacl", "442", "kcl", "ec", 0.64] as const).map(scaleUnit)).toEqual([
    "ppm NaCl",
    "ppm 442",
    "ppm KCl",
    "µS/cm",
    "ppm ×0.64",
  ]);
});

test("a share in percent has two digits", () => {
  expect([0.0774, 0.5, 0.004567, 0, 1.234].map(percent)).toEqual(["7.7", "50", "0.46", "0", "120"]);
});

test("a day that was set names its year only where it is not this one's", () => {
  expect(dayOf("2026-10-28", "2026-11-27")).toBe("28 Oct");
  expect(dayOf("2026-10-28", "2027-01-02")).toBe("28 Oct 2026");
});

test("days follow the user's own locale", () => {
  const { language } = navigator;
  const written = (locale: string) => {
    Object.defineProperty(navigator, "language", { configurable: true, value: locale });
    let words: readonly string[] = [];
    jest.isolateModules(() => {
      // eslint-disable-next-line @typescript-eslint/no-require-imports
      const dates = require("../ui/dates") as typeof Dates;
      const day = dates.noonOf("2026-11-30");
      words = [dates.weekdayDay(day), dates.dayMonth(day), dates.dayMonthYear(day)];
    });
    return words;
  };
  try {
    expect(written("en-GB")).toEqual(["Mon 30 Nov", "30 Nov", "30 Nov 2026"]);
    expect(written("en-US")).toEqual(["Mon, Nov 30", "Nov 30", "Nov 30, 2026"]);
  } finally {
    Object.defineProperty(navigator, "language", { configurable: true, value: language });
  }
});
