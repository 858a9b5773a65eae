/**
 * @jest-environment node
 */
import { fetchAgain, NotFetched } from "../data/fetch-again";
import { unitsOf } from "../data/settings";

test("a piece of the app is fetched three times before it counts as gone", async () => {
  let tries = 0;
  const failing = (until: number) => () => {
    tries += 1;
    return tries < until ? Promise.reject(new Error("gone")) : Promise.resolve("here");
  };
  await expect(fetchAgain(failing(3))).resolves.toBe("here");
  tries = 0;
  const error = await fetchAgain(failing(9)).catch((thrown: Error) => thrown);
  expect([error instanceof NotFetched, ((error as Error).cause as Error).message]).toEqual([true, "gone"]);
  expect(tries).toBe(3);
});

test("units begin as the reader's country has them", () => {
  expect(
    ["en-US", "es-US", "en-LR", "en-GB", "de", "my-MM", "zz-nonsense-tag-that-is-none", undefined].map(unitsOf),
  ).toEqual(["us", "us", "us", "metric", "metric", "us", "metric", "metric"]);
});
