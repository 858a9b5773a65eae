import "fake-indexeddb/auto";
import { deserialize, serialize } from "node:v8";
import type * as Core from "@winter-bead/core";
import type * as Assess from "../features/rack/assess";
import type * as KeptLessons from "../features/rack/kept-lessons";
import { charge, clean, DAY, rigWith, START } from "./sample-rig";

// The browser's own, which its stand-in for tests lacks.
globalThis.structuredClone ??= (<T>(value: T): T => deserialize(serialize(value)) as T) as typeof structuredClone;

const ended = { ...charge, ended: { at: new Date(START + 60 * DAY).toISOString(), why: "limit" as const } };

/** The app as it is opened anew: nothing is known but what lies on the device. */
function newStart() {
  jest.resetModules();
  /* eslint-disable @typescript-eslint/no-require-imports */
  const { lessonsOf, taughtSoFar } = require("@winter-bead/core") as typeof Core;
  const { inBooks } = require("../features/rack/assess") as typeof Assess;
  const { keepLessons, recallLessons } = require("../features/rack/kept-lessons") as typeof KeptLessons;
  /* eslint-enable @typescript-eslint/no-require-imports */
  const lesson = (resinLitres = charge.resinLitres) =>
    lessonsOf(inBooks({ ...rigWith([...clean(14), 12]), charges: [{ ...ended, resinLitres }] }))[0]!;
  return { lesson, taughtSoFar, keepLessons, recallLessons };
}

test("what ended charges taught is taken back at a new start, and learnt again where a record or the arithmetic changed", async () => {
  const first = newStart();
  const before = first.lesson();
  await first.keepLessons("worker-1");

  const second = newStart();
  await second.recallLessons("worker-1");
  const [[, known]] = second.taughtSoFar() as [readonly [string, Core.Lesson]];
  const after = second.lesson();
  expect(after.likelihood).toBe(known.likelihood);
  expect([...after.likelihood!]).toEqual([...before.likelihood!]);
  expect(second.lesson(9).reached).toBeGreaterThan(before.reached);
  expect(second.taughtSoFar()).toHaveLength(2);
  await second.keepLessons("worker-1");

  const third = newStart();
  await third.recallLessons("worker-2");
  expect(third.taughtSoFar()).toHaveLength(0);
  await third.recallLessons("worker-1");
  expect(third.taughtSoFar()).toHaveLength(2);
});
