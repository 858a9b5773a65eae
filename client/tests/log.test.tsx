import { act as settle, fireEvent, screen } from "@testing-library/react";
import { assess, assessQuickly, datesOf, withTyped } from "../features/rack/assess";
import { verdictAloud } from "../features/log/LiveVerdict";
import { useRested } from "../features/log/useRested";
import { GLOSSARY, meaningOf } from "../ui/glossary";
import { Meaning } from "../ui/Meaning";
import { NumberPad } from "../ui/NumberPad";
import { inApp } from "./in-app";
import { clean, DAY, rigWith, START } from "./sample-rig";

describe("a visit that is being typed", () => {
  const facts = rigWith([...clean(14), 3]);
  const typed = (value: number) => ({
    ...{ id: "draft", rigId: facts.rig.id, tapId: facts.rig.tapId, at: new Date(START + 16 * DAY).toISOString() },
    readings: [{ id: "r", point: "output" as const, scale: "nacl" as const, value }],
  });
  test("stands as it would once it is kept, its dates too", () => {
    const { owners } = assess(facts);
    const kept = assess(withTyped(facts, typed(8)));
    expect(assessQuickly(withTyped(facts, typed(8)), owners).verdict).toEqual(kept.verdict);
    expect(datesOf(withTyped(facts, typed(8)), owners)).toEqual(kept.dates);
    expect(kept.standing!.left!.typical).toBeLessThan(assess(facts).standing!.left!.typical);
  });
  test("never moves the present back", () => {
    expect(withTyped(facts, typed(1)).now).toBe(Math.max(facts.now, START + 16 * DAY));
    expect(withTyped({ ...facts, now: START + 99 * DAY }, typed(1)).now).toBe(START + 99 * DAY);
  });
  test("is read out with litres, date and reason, in the user's units", () => {
    const assessment = assess(withTyped(facts, typed(2)));
    const words = verdictAloud(facts, assessment, "Thu 18 Mar", "metric");
    expect(words).toMatch(/^Watch\. [\d,.]+ L left, .*, Thu 18 Mar\. \w+/);
    expect(verdictAloud(facts, assessment, "", "us")).toContain("US gal left");
    expect(verdictAloud(facts, { because: "No charge." }, "", "metric")).toBe("No charge.");
  });
});

describe("what waits until the hand rests", () => {
  const Shown = ({ value }: { readonly value: string }) => <p>{useRested(value, 800)}</p>;
  test("is the last of what was typed in haste, and only that", () => {
    jest.useFakeTimers();
    try {
      const { rerender } = inApp(<Shown value="" />);
      for (const value of ["1", "12", "123"]) {
        rerender(<Shown value={value} />);
        settle(() => void jest.advanceTimersByTime(700));
        expect(screen.queryByText(/\d/)).toBeNull();
      }
      settle(() => void jest.advanceTimersByTime(100));
      expect(screen.getByText("123")).toBeTruthy();
    } finally {
      jest.useRealTimers();
    }
  });
});

describe("the pad", () => {
  test("shakes under a glove where the phone can, and types where it cannot", () => {
    const keys: string[] = [];
    inApp(<NumberPad onKey={(key) => keys.push(key)} />);
    fireEvent.click(screen.getByRole("button", { name: "7" }));
    const shaken: unknown[] = [];
    Object.assign(navigator, { vibrate: (...pattern: unknown[]) => shaken.push(pattern) });
    fireEvent.click(screen.getByRole("button", { name: "Point" }));
    delete (navigator as { vibrate?: unknown }).vibrate;
    expect(keys).toEqual(["7", "."]);
    expect(shaken).toHaveLength(1);
  });
});

describe("the words of the trade", () => {
  test("mean one thing each, also by the labels they stand at", () => {
    const all = GLOSSARY.flatMap(({ term, also = [] }) => [term, ...also]).map((word) => word.toLowerCase());
    expect(new Set(all).size).toBe(all.length);
    expect(meaningOf("Output, ppm NaCl")?.term).toBe("Output");
    expect(meaningOf("Resin in it")?.term).toBe("Resin");
    expect(meaningOf("Name of the rig")).toBeUndefined();
  });
  test("stand a tap away from their field, and go away with another", () => {
    inApp(<Meaning of="Silica, mg/L" />);
    const ask = screen.getByRole("button", { name: "What is Silica?" });
    fireEvent.click(ask);
    expect(screen.getByRole("note").textContent).toMatch(/haze/);
    fireEvent.click(ask);
    expect(screen.queryByRole("note")).toBeNull();
  });
});
