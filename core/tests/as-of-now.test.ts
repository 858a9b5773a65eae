import { asOfNow, chargesAsOfNow, countedOf, isFarAhead, newestUntil, type Charge } from "@winter-bead/core";

const NOW = Date.parse("2027-03-01T08:00:00Z");
const [HOUR, DAY] = [3_600_000, 86_400_000];
const at = (ahead: number) => new Date(NOW + ahead).toISOString();
const visit = (ahead: number) => ({ id: `v${ahead}`, at: at(ahead) });

test("what lies in the past is given back as it is", () => {
  const visits = [visit(-DAY), visit(0)];
  expect(asOfNow(visits, NOW)).toBe(visits);
});

test("ahead by up to a day counts as of now, in its order; further ahead is left out", () => {
  const visits = [visit(-HOUR), visit(HOUR), visit(DAY), visit(DAY + 1), visit(365 * DAY)];
  expect(asOfNow(visits, NOW)).toEqual([visit(-HOUR), { ...visit(HOUR), at: at(-1) }, { ...visit(DAY), at: at(0) }]);
  expect(visits.map((each) => isFarAhead(each.at, NOW))).toEqual([false, false, false, true, true]);
});

const charge = (filled: number, ended?: number): Charge => ({
  ...{ id: "c", vesselId: "v", rigId: "r", grade: "virgin", resinLitres: 24, packing: "settled" },
  filledAt: at(filled),
  ...(ended === undefined ? {} : { ended: { at: at(ended), why: "limit" } }),
});

test("a charge filled far ahead is not there yet, and the one that it ended still runs", () => {
  expect(chargesAsOfNow([charge(-9 * DAY, 365 * DAY), charge(365 * DAY)], NOW)).toEqual([charge(-9 * DAY)]);
});

test("a charge filled some hours ahead stands now, and the one before has ended now", () => {
  expect(chargesAsOfNow([charge(-9 * DAY, 3 * HOUR), charge(3 * HOUR)], NOW)).toEqual([charge(-9 * DAY, 0), charge(0)]);
  const past = [charge(-9 * DAY, -DAY), charge(-DAY)];
  expect(chargesAsOfNow(past, NOW)).toBe(past);
});

test("a reading, the refill after it and the first reading then stay in that order, on a clock three hours fast", () => {
  const visits = [visit(3 * HOUR), visit(3 * HOUR + 900_000)];
  const charges = [charge(-9 * DAY, 3 * HOUR + 60_000), charge(3 * HOUR + 60_000)];
  const rotation = { id: "r", at: at(3 * HOUR + 60_000) };
  const counted = countedOf(NOW, [visits, [rotation]], charges);
  expect(asOfNow(visits, NOW, counted).map((each) => each.at)).toEqual([at(-2), at(0)]);
  expect(asOfNow([rotation], NOW, counted).map((each) => each.at)).toEqual([at(-1)]);
  expect(chargesAsOfNow(charges, NOW, counted)).toEqual([charge(-9 * DAY, -1), charge(-1)]);
});

test("the newest moment is that of whatever was kept last, and never one ahead of the clock", () => {
  const visits = [visit(-HOUR), visit(HOUR)];
  expect(newestUntil(NOW, [visits])).toBe(NOW - HOUR);
  expect(newestUntil(NOW, [[...visits, visit(0)]])).toBe(NOW);
  expect(newestUntil(NOW, [visits], [charge(-2_000)])).toBe(NOW - 2_000);
  expect(newestUntil(NOW, [visits, [visit(-60_000)]])).toBe(NOW - 60_000);
  expect(newestUntil(NOW, [visits], [charge(-9 * DAY, -1_000), charge(2 * HOUR)])).toBe(NOW - 1_000);
});
