import { act, renderHook } from "@testing-library/react";

/* A device whose storage is full or closed: nothing that the hand does fails by it. */

const closed = () => {
  throw new DOMException("The quota has been exceeded.", "QuotaExceededError");
};

beforeEach(() => {
  jest.spyOn(Storage.prototype, "setItem").mockImplementation(closed);
  jest.spyOn(Storage.prototype, "removeItem").mockImplementation(closed);
});
afterEach(() => jest.restoreAllMocks());

test("the rig that was logged last is forgotten, and nothing after a kept log fails", async () => {
  const { rememberRig, lastRig } = await import("../features/rack/last-rig");
  expect(() => rememberRig("van")).not.toThrow();
  expect(lastRig()).toBeUndefined();
});

test("what is typed stands on the page, and is cleared", async () => {
  const { useDraft } = await import("../data/draft");
  const { result } = renderHook(() => useDraft("log:van", { output: "" }));
  act(() => result.current[1]({ output: "7" }));
  expect(result.current[0]).toEqual({ output: "7" });
  act(() => result.current[2]());
  expect(result.current[0]).toEqual({ output: "" });
});

test("a device still has one name, settings change, and an assessment is shown", async () => {
  const { thisDevice } = await import("../data/device");
  expect(thisDevice()).toBe(thisDevice());
  const { changeSettings, useSettings } = await import("../data/settings");
  const { result } = renderHook(() => useSettings());
  act(() => changeSettings({ units: "us" }));
  expect(result.current.units).toBe("us");
  const { keepAssessment, lastAssessment } = await import("../features/rack/kept-assessments");
  keepAssessment("van", { because: "No charge." });
  expect(lastAssessment("van")?.assessment.because).toBe("No charge.");
});
