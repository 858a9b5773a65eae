import { startWith, withRange, type Typed } from "../features/size/typed";

const typed = (more: Partial<Typed> = {}): Typed => ({ ...startWith("metric"), ...more });

describe("one feed field with its range", () => {
  test("takes the range along in the same shares", () => {
    expect(withRange(typed(), "320")).toEqual({ typical: "320", about: "320", low: "260", high: "420" });
    expect(withRange(typed({ low: "160", high: "160" }), "80")).toMatchObject({ low: "80", high: "80" });
  });
  test("digit by digit, and after it was cleared, comes back to where it was", () => {
    let now = typed();
    for (const text of ["", "1", "16", "160"]) now = { ...now, ...withRange(now, text) };
    expect([now.low, now.typical, now.high]).toEqual(["130", "160", "210"]);
  });
  test("leaves the range alone under half a number, and begins anew where it stood in disorder", () => {
    expect(withRange(typed(), "1e")).toEqual({ typical: "1e" });
    expect(withRange(typed(), "-5")).toEqual({ typical: "-5" });
    expect(withRange(typed({ low: "500" }), "100")).toMatchObject({ low: "81.25", high: "131.25" });
  });
});
