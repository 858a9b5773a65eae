import "fake-indexeddb/auto";
import { fireEvent, screen } from "@testing-library/react";
import { GENERIC_SIZES } from "@winter-bead/core/src/plan/options";
import { useState } from "react";
import { savedDraft } from "../data/draft";
import type * as Example from "../data/example";
import { carryOver } from "../features/log/carry-over";
import { EMPTY_DRAFT, type LogDraft } from "../features/log/draft-visit";
import type { Log } from "../features/log/useLog";
import { AnswerBar } from "../features/start/AnswerBar";
import { answerStart, type StartAnswer } from "../features/start/answer";
import { ScaleHelp } from "../features/start/ScaleHelp";
import { parseStart, startDraft } from "../features/start/start-form";
import { VesselWall } from "../features/start/VesselWall";
import { inApp } from "./in-app";
import { rigWith } from "./sample-rig";

const NOW = Date.parse("2027-03-01T08:00:00Z");
const question = {
  ...parseStart({ ...startDraft("metric"), shown: "143", meter: "nacl" }, { taps: [], meters: [] }, "metric").question!,
  now: NOW,
};
const answer = answerStart(question) as StartAnswer;

describe("the answer over the three questions", () => {
  const bar = (more: object) =>
    inApp(<AnswerBar answer={answer} open={undefined} trouble={undefined} now={NOW} units="metric" {...more} />);
  test("is a range of litres with its jobs and its day", () => {
    bar({});
    expect(screen.getByTestId("start-litres").textContent).toMatch(/^[\d,]+ to [\d,]+ L$/);
    expect(screen.getByTestId("start-under").textContent).toMatch(/^\d+ to \d+ houses · to about .*Mar/);
  });
  test("reads in gallons for who buys water in them", () => {
    bar({ units: "us" });
    expect(screen.getByTestId("start-litres").textContent).toMatch(/US gal$/);
  });
  test("before it is asked says what to type, and with a wrong figure what is wrong: never an old number", () => {
    const { unmount } = bar({ open: "Type what your meter shows." });
    expect(screen.queryByTestId("start-litres")).toBeNull();
    expect(screen.getByRole("status").textContent).toContain("Type what your meter shows.");
    unmount();
    bar({ trouble: "This is not a number yet." });
    expect(screen.queryByTestId("start-litres")).toBeNull();
    expect(screen.getByRole("status").textContent).toContain("not a number");
  });
  test("says so where the tap's water meets the limit as it is", () => {
    const soft = parseStart({ ...startDraft("metric"), shown: "4", meter: "ec" }, { taps: [], meters: [] }, "metric");
    bar({ answer: answerStart({ ...soft.question!, now: NOW }) });
    expect(screen.getByRole("status").textContent).toContain("needs no resin");
  });
});

describe("the wall of vessels", () => {
  const Wall = ({ start }: { readonly start: number }) => {
    const [litres, setLitres] = useState(start);
    return (
      <>
        <VesselWall litres={litres} units="metric" onChange={setLitres} />
        <output>{String(litres)}</output>
      </>
    );
  };
  const litres = () => Number(document.querySelector("output")!.textContent);
  test("has each size once, the chosen one as large as it is", () => {
    inApp(<Wall start={25} />);
    const sizes = screen.getAllByRole("radio");
    expect(sizes).toHaveLength(GENERIC_SIZES.length);
    expect(screen.getByRole("radio", { checked: true }).getAttribute("aria-label")).toBe("Tank, 25 L");
    fireEvent.click(screen.getByRole("radio", { name: "Small bottle, 7.5 L" }));
    expect(litres()).toBe(7.5);
  });
  test("its top goes up and down by keys, and never beyond what a hand can mean", () => {
    inApp(<Wall start={118} />);
    const top = screen.getByRole("slider");
    for (let i = 0; i < 4; i += 1) fireEvent.keyDown(screen.getByRole("slider"), { key: "ArrowUp" });
    expect(litres()).toBe(120);
    fireEvent.keyDown(top, { key: "ArrowDown" });
    expect(litres()).toBeLessThan(120);
    expect(screen.getByRole("slider").getAttribute("aria-valuetext")).toMatch(/L inside$/);
  });
  test("with half a number nothing is chosen, and nothing breaks", () => {
    inApp(<Wall start={NaN} />);
    expect(screen.queryByRole("radio", { checked: true })).toBeNull();
    expect(screen.queryByRole("slider")).toBeNull();
  });
});

test("a meter's scale is found by what it shows in a standard, each scale with its own number", () => {
  inApp(<ScaleHelp />);
  const words = screen.getByTestId("scale-help").textContent!;
  const numbers = [...words.matchAll(/([\d,]+) (ppm \w+|µS\/cm)/g)].map(([, number]) => number);
  expect(new Set(numbers.slice(-4)).size).toBe(4);
});

describe("a reading typed for the wrong rig", () => {
  const other = rigWith([0]);
  const log = (draft: Partial<LogDraft>) => {
    const patched: Partial<LogDraft>[] = [];
    const patch = (part: Partial<LogDraft>) => void patched.push(part);
    return {
      patched,
      log: { draft: { ...EMPTY_DRAFT, meterId: "pen", ...draft }, patch, units: "metric" } as never as Log,
    };
  };
  const to = (facts = other) => ({ facts, assessment: undefined });
  const waiting = () => savedDraft(`log:${other.rig.id}`) as Partial<LogDraft>;
  beforeEach(() => localStorage.clear());

  test("goes along with the meter it was read by; its water stays", () => {
    const { log: typed, patched } = log({ output: "17", feed: "160", water: "1234" });
    carryOver(typed, to());
    expect(waiting()).toMatchObject({ output: "17", feed: "160", meterId: "pen", typedIn: "metric" });
    expect(waiting().water).toBeUndefined();
    expect(patched).toEqual([{ output: "", feed: "", membrane: "" }]);
  });
  test("stays where something waits there already, where nothing was typed, and where the other has no such point", () => {
    localStorage.setItem(`winter-bead-draft:log:${other.rig.id}`, JSON.stringify({ output: "3" }));
    for (const draft of [{ output: "17" }, {}]) {
      const { log: typed, patched } = log(draft);
      carryOver(typed, to());
      expect(patched).toEqual([]);
    }
    expect(waiting()).toEqual({ output: "3" });
    localStorage.clear();
    const { log: behindRo, patched } = log({ membrane: "7" });
    carryOver(behindRo, to());
    expect([waiting(), patched]).toEqual([{}, []]);
  });
});

describe("the example crew's window", () => {
  const opened = (on: boolean) => {
    if (on) sessionStorage.setItem("winter-bead-example", "on");
    else sessionStorage.clear();
    let here: typeof Example | undefined;
    jest.isolateModules(() => {
      // eslint-disable-next-line @typescript-eslint/no-require-imports
      here = require("../data/example") as typeof Example;
    });
    return here!;
  };
  afterEach(() => sessionStorage.clear());
  test("is forgotten when one is opened anew, and nothing of the own crew with it", async () => {
    localStorage.setItem("winter-bead-draft-example:log:a", "{}");
    localStorage.setItem("winter-bead-last-rig-example", "a");
    localStorage.setItem("winter-bead-draft:log:a-example", "{}");
    localStorage.setItem("winter-bead-last-rig", "b");
    await opened(false).forgetExample();
    expect(Object.keys(localStorage).sort()).toEqual(["winter-bead-draft:log:a-example", "winter-bead-last-rig"]);
  });
  test("has other names for all that it keeps on the device", () => {
    expect(opened(false).nameHere("winter-bead-acts")).toBe("winter-bead-acts");
    expect(opened(true).isExample).toBe(true);
    expect(opened(true).nameHere("winter-bead-acts")).toBe("winter-bead-acts-example");
  });
});
