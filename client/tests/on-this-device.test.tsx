import { act, renderHook } from "@testing-library/react";
import { useDraft } from "../data/draft";
import { changeSettings, useSettings } from "../data/settings";
import { hideToast, showToast, undoLast, useToast } from "../ui/toast";
import { useThemeName } from "../ui/palette";

beforeEach(() => localStorage.clear());

describe("a draft", () => {
  const initial = { output: "", feed: "" };

  test("survives a closed tab, by its name", () => {
    const first = renderHook(() => useDraft("log:van", initial));
    act(() => first.result.current[1]({ output: "12" }));
    first.unmount();
    expect(renderHook(() => useDraft("log:van", initial)).result.current[0]).toEqual({ output: "12", feed: "" });
    expect(renderHook(() => useDraft("log:bay", initial)).result.current[0]).toEqual(initial);
  });

  test("is forgotten once it is kept", () => {
    const { result } = renderHook(() => useDraft("log:van", initial));
    act(() => result.current[1]({ feed: "180" }));
    act(() => result.current[2]());
    expect(result.current[0]).toEqual(initial);
    expect(renderHook(() => useDraft("log:van", initial)).result.current[0]).toEqual(initial);
  });

  test("that cannot be read is begun anew", () => {
    localStorage.setItem("winter-bead-draft:log:van", "{half");
    expect(renderHook(() => useDraft("log:van", initial)).result.current[0]).toEqual(initial);
  });
});

describe("settings", () => {
  test("reach every place at once and stay on the device", () => {
    const { result } = renderHook(() => useSettings());
    act(() => changeSettings({ units: "us" }));
    expect(result.current.units).toBe("us");
    expect(JSON.parse(localStorage.getItem("winter-bead-settings")!)).toMatchObject({ units: "us" });
    act(() => changeSettings({ units: "metric" }));
  });

  test("of the look win over the device's", () => {
    const { result } = renderHook(() => useThemeName());
    expect(result.current).toBe("light");
    act(() => changeSettings({ theme: "dark" }));
    expect(result.current).toBe("dark");
    act(() => changeSettings({ theme: "auto" }));
  });
});

describe("a word after a deed", () => {
  test("stands until it is hidden, the newest replacing the one before", () => {
    const { result } = renderHook(() => useToast());
    act(() => showToast({ words: "Kept." }));
    act(() => showToast({ words: "Kept again." }));
    expect(result.current!.words).toBe("Kept again.");
    act(() => hideToast());
    expect(result.current).toBeUndefined();
  });

  test("that can be undone stands as long as the page is open: other words pass over it", async () => {
    jest.useFakeTimers();
    const { result } = renderHook(() => useToast());
    const undo = jest.fn(async () => undefined);
    act(() => showToast({ words: "Filled.", undo }));
    act(() => showToast({ words: "Saved." }));
    expect(result.current!.words).toBe("Saved.");
    act(() => void jest.advanceTimersByTime(3_600_000));
    expect(result.current).toMatchObject({ words: "Filled.", undo });
    await act(() => undoLast());
    expect(undo).toHaveBeenCalledTimes(1);
    expect(result.current!.words).toBe("Undone.");
    act(() => void jest.advanceTimersByTime(3_600_000));
    expect(result.current).toBeUndefined();
    jest.useRealTimers();
  });

  test("whose deed was changed since says so, and undoes nothing", async () => {
    const { result } = renderHook(() => useToast());
    act(() => showToast({ words: "Filled.", undo: () => Promise.reject(new Error("It was changed since.")) }));
    await act(() => undoLast());
    expect(result.current!.words).toBe("It was changed since.");
    act(() => hideToast());
  });
});
