import { act, renderHook } from "@testing-library/react";
import * as here from "../data/clock";
import { useNow } from "../data/present";

type Clock = typeof here;

const KEY = "winter-bead-clock";
const [MINUTE, DAY] = [60_000, 86_400_000];

/** The clock as a page has it that is opened now. */
function opened(): Clock {
  let clock!: Clock;
  jest.isolateModules(() => {
    clock = jest.requireActual<Clock>("../data/clock");
  });
  return clock;
}
/** An answer whose server is `ahead` ms behind this device, come in 200 ms. */
const hear = ({ heardTime }: Clock, ahead: number, took = 200) => {
  const now = Date.now();
  heardTime(new Date(now - took / 2 - ahead).toUTCString(), now - took, now);
};

beforeEach(() => localStorage.clear());

test("a device that never reached the server trusts its own clock", () => {
  const clock = opened();
  expect(clock.clockAhead()).toBe(0);
  expect(Math.abs(clock.clockNow() - Date.now())).toBeLessThan(1_000);
});

test("a clock that is off by minutes is no trouble; by more than ten it is, and the right time counts", () => {
  const clock = opened();
  let told = 0;
  clock.subscribeClock(() => (told += 1));
  hear(clock, 9 * MINUTE);
  expect(clock.clockAhead()).toBe(0);
  for (const ahead of [11 * MINUTE, 365 * DAY, -3 * DAY]) {
    hear(clock, ahead);
    expect(Math.abs(clock.clockAhead() - ahead)).toBeLessThan(2_000);
    expect(Math.abs(clock.clockNow() - (Date.now() - ahead))).toBeLessThan(3_000);
  }
  hear(clock, 0);
  expect(clock.clockAhead()).toBe(0);
  expect(told).toBe(5);
});

test("a clock that is set while the app is open is told once; what slow answers make of a wrong one is not", () => {
  const clock = opened();
  let set = 0;
  clock.subscribeClockSet(() => (set += 1));
  // A phone about as far off as is still no trouble, on a link whose answers come early and late.
  for (const off of [9.9, 10.2, 9.8, 10.4]) hear(clock, off * MINUTE, 25_000);
  expect(set).toBe(0);
  hear(clock, -180 * MINUTE);
  for (const off of [179.6, 180.4, 179.7]) hear(clock, -off * MINUTE, 25_000);
  expect(set).toBe(1);
  hear(clock, 0);
  expect(set).toBe(2);
});

test("an answer without a time, or one that took long, says nothing", () => {
  const clock = opened();
  clock.heardTime(null, Date.now());
  clock.heardTime("soon", Date.now());
  hear(clock, DAY, 40_000);
  expect(clock.clockAhead()).toBe(0);
});

test("opened again without a signal it is known, until somebody puts the clock right", () => {
  hear(opened(), 365 * DAY);
  expect(opened().clockAhead()).toBeGreaterThan(364 * DAY);
  const seen = JSON.parse(localStorage.getItem(KEY)!) as { ahead: number; at: number };
  // The clock was put back: what was seen lies in its future.
  localStorage.setItem(KEY, JSON.stringify({ ...seen, at: seen.at + 365 * DAY }));
  expect(opened().clockAhead()).toBe(0);
  localStorage.setItem(KEY, JSON.stringify({ ...seen, at: seen.at - 3 * DAY }));
  expect(opened().clockAhead()).toBe(0);
});

test("the present follows the clock", () => {
  const { result } = renderHook(() => useNow());
  act(() => hear(here, 365 * DAY));
  expect(Math.abs(result.current - (Date.now() - 365 * DAY))).toBeLessThan(5_000);
});
