import { act, fireEvent, renderHook, screen } from "@testing-library/react";
import { useDraft } from "../data/draft";
import { changeSettings, useSettings } from "../data/settings";
import { FormNumber, placeComplaints, useKeptForm } from "../ui/form";
import { hideToast, showToast, useToast } from "../ui/toast";
import { useThemeName } from "../ui/palette";
import { inApp } from "./in-app";

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
});

describe("a kept form", () => {
  interface Values {
    low: string;
    high: string;
  }

  function Harness({ onForm }: { readonly onForm: (form: ReturnType<typeof useKeptForm<Values>>) => void }) {
    const form = useKeptForm<Values>("tap", { low: "", high: "" });
    onForm(form);
    return <FormNumber control={form.control} name="low" label="Lowest" unit="ppm" />;
  }

  test("keeps what was typed until it is forgotten", () => {
    let form: ReturnType<typeof useKeptForm<Values>> | undefined;
    const first = inApp(<Harness onForm={(each) => (form = each)} />);
    fireEvent.change(screen.getByLabelText("Lowest, ppm"), { target: { value: "120" } });
    first.unmount();
    const second = inApp(<Harness onForm={(each) => (form = each)} />);
    expect((screen.getByLabelText("Lowest, ppm") as HTMLInputElement).value).toBe("120");
    form!.forget();
    second.unmount();
    inApp(<Harness onForm={(each) => (form = each)} />);
    expect((screen.getByLabelText("Lowest, ppm") as HTMLInputElement).value).toBe("");
  });

  test("puts a complaint beside its field and says the rest in one sentence", () => {
    let form: ReturnType<typeof useKeptForm<Values>> | undefined;
    inApp(<Harness onForm={(each) => (form = each)} />);
    let rest: string | undefined;
    act(() => {
      rest = placeComplaints(
        form!,
        [
          { path: "marks.low", message: "Too low." },
          { path: "elsewhere", message: "Something else." },
        ],
        { "marks.low": "low" },
      );
    });
    expect(screen.getByText("Too low.")).toBeTruthy();
    expect(rest).toBe("Something else.");
  });
});
