import {
  KINDS,
  MARKS,
  RECORD_KINDS,
  type Charge,
  type Kind,
  type Meter,
  type ReadingRecord,
  type Rig,
} from "@winter-bead/core";
import { group } from "@winter-bead/core/src/descriptor/field";
import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import fc from "fast-check";
import { useMemo } from "react";
import { changeSettings } from "../data/settings";
import { RecordField } from "../forms/RecordField";
import { RecordForm } from "../forms/RecordForm";
import type { Bodies } from "../forms/resolve";
import { liveFault } from "../forms/live";
import { bodyFrom, fieldAt, textsIn, textsOf, type Texts } from "../forms/texts";
import { useRecordForm, type RecordForm as Form } from "../forms/useRecordForm";
import {
  besideVisit,
  meterComplaints,
  readingBoxes,
  readingsAsTyped,
  waterAsTyped,
} from "../features/history/visit-as-typed";
import { besideCharge, chargeAsTyped, fillComplaints, reasonComplaints } from "../features/setup/charge-as-typed";
import { besideRig, hungAsTyped, rigAsTyped } from "../features/setup/rig-as-typed";
import { begunWith, newStage, stagesFrom, typedStages } from "../features/setup/stages-as-typed";
import { tapAsTyped } from "../features/setup/tap-as-typed";
import { complaintsAbout } from "./complaints";
import { inApp } from "./in-app";
import { rig, vessel } from "./sample-rig";

const ID = "01890000-0000-7000-8000-000000000001";
const unitSystems = ["metric", "us"] as const;
const numbersIn = (texts: Texts): string[] =>
  Object.values(texts).flatMap((text) => (typeof text === "string" ? [text] : numbersIn(text)));

describe.each(unitSystems)("a form in %s units", (units) => {
  test.each(RECORD_KINDS)("gives the samples of %s back exactly as they were, however they are shown", (name) => {
    const { fields, sample, further }: Kind = KINDS[name];
    for (const body of [sample, ...further])
      expect(bodyFrom(fields, textsOf(fields, body, units), body, units)).toEqual(body);
  });

  test("changes what is touched and nothing else", () => {
    const { fields } = KINDS.vessels;
    const known = { ...vessel, grossVolume: 14, emptyWeight: 5.2 };
    const texts = textsOf(fields, known, units);
    const changed = bodyFrom(fields, { ...texts, diameter: units === "us" ? "8" : "203.2" }, known, units);
    expect(changed["grossVolume"]).toBe(14);
    expect(changed["emptyWeight"]).toBe(5.2);
    expect(changed["diameter"]).toBeCloseTo(203.2, 6);
  });

  test("takes what is typed for what it is: gallons, percent, yes and no, a moment here, an own factor", () => {
    const body = bodyFrom(
      KINDS.meters.fields,
      { name: "Pen", scale: "0.61", compensated: "no", check: { standard: "1413", shown: "" }, offset: "" },
      {},
      units,
    );
    expect(body).toEqual({ name: "Pen", scale: 0.61, compensated: false, check: { standard: 1413 } });
    const at = bodyFrom({ at: KINDS["feed-tests"].fields["at"]! }, { at: "2027-03-02T08:10" }, {}, units)["at"];
    expect(new Date(String(at)).getHours()).toBe(8);
    const { fillFraction, grossVolume } = bodyFrom(
      KINDS.vessels.fields,
      { fillFraction: "85", grossVolume: "10" },
      {},
      units,
    ) as { fillFraction: number; grossVolume: number };
    expect(fillFraction).toBeCloseTo(0.85, 9);
    expect(grossVolume).toBeCloseTo(units === "us" ? 37.854 : 10, 3);
  });

  test("leaves what is no number for the check to find, and an emptied group out", () => {
    const texts = { ...textsOf(KINDS.taps.fields, KINDS.taps.sample, units), typical: "about 200", ph: "" };
    const body = bodyFrom(KINDS.taps.fields, texts, KINDS.taps.sample, units);
    expect(body["typical"]).toBeNaN();
    expect(body).not.toHaveProperty("ph");
    expect(complaintsAbout("taps", body).map(({ path }) => path)).toContain("typical");
    const meter = { ...textsOf(KINDS.meters.fields, KINDS.meters.sample, units), check: { standard: "", shown: "" } };
    expect(bodyFrom(KINDS.meters.fields, meter, KINDS.meters.sample, units)).not.toHaveProperty("check");
  });
});

test("switching the units keeps what was typed and converts it, there and back", () => {
  const fields = { work: group("Work", { ...KINDS.vessels.fields }) };
  fc.assert(
    fc.property(fc.double({ min: 0.5, max: 1900, noNaN: true }), (litres) => {
      const typed = { work: { grossVolume: String(Number(litres.toPrecision(5))), diameter: "oops", name: "Tank" } };
      const us = textsIn(fields, typed, "metric", "us") as { work: { grossVolume: string } };
      expect(us).toMatchObject({ work: { diameter: "oops", name: "Tank" } });
      expect(Number(us.work.grossVolume) * 3.785411784).toBeCloseTo(Number(typed.work.grossVolume), 2);
      const back = textsIn(fields, us, "us", "metric") as { work: { grossVolume: string } };
      expect(Number(back.work.grossVolume) / Number(typed.work.grossVolume)).toBeCloseTo(1, 4);
    }),
  );
});

test("a field is found by its path, whatever stands around it", () => {
  expect(fieldAt(KINDS.vessels.fields, "marks.limit").is).toBe("number");
  expect(fieldAt(KINDS.visits.fields, "water.litresPerJob").is).toBe("number");
  expect(fieldAt(KINDS.visits.fields, "water.by").is).toBe("choice");
  expect(() => fieldAt(KINDS.visits.fields, "water.wind")).toThrow(/no field/);
});

describe("a tap as typed", () => {
  test("with one reading alone spans 15 % either way, and brings its place", () => {
    const typed = { tap: { name: "Yard", typical: 200, scale: "nacl" } };
    expect(tapAsTyped(typed, { place: "new", siteName: "Pier" }, ID)).toEqual({
      site: { name: "Pier" },
      tap: { name: "Yard", typical: 200, scale: "nacl", siteId: ID, low: 170, high: 230 },
    });
    const { tap } = tapAsTyped({ tap: { low: 150, typical: 160, high: 180 } }, { place: ID }, "x");
    expect(tap).toEqual({ siteId: ID, low: 150, typical: 160, high: 180 });
  });
});

describe("a rig and its vessel as typed", () => {
  const places = [{ stageId: "stage", vesselId: ID }];
  const typed = (beside: Partial<Record<string, string>>, part: object = {}, known = rig.stages) =>
    rigAsTyped(
      { rig: { ...rig, ...part }, vessel: { ...vessel, name: "" } } as Bodies,
      { ...besideRig({ ...rig, stages: known }, vessel, places, [], "metric"), ...beside } as Texts,
      "metric",
      known,
    );

  test("keep a train stage by stage, whatever stands in it", () => {
    const built: Rig["stages"] = [
      { id: "1", kind: "degasser" },
      { id: "2", kind: "carbon", microns: 5, chlorineGrams: 60 },
      { id: "3", kind: "membrane", rejection: 1 / 1.05 },
      { id: "stage", kind: "resin" },
      { id: "5", kind: "resin" },
    ];
    expect(typed({}, {}, built)["rig"]!["stages"]).toEqual(built);
    expect(typedStages(built, places, "metric").map((each) => each.vessel)).toEqual([
      ...Array<undefined>(3).fill(undefined),
      ID,
      "none",
    ]);
  });
  test("begin by one choice, and leave the resin as it is", () => {
    let made = 0;
    const id = () => `new-${(made += 1)}`;
    const begun = begunWith("membrane", [newStage("resin", "r", "metric")], id, "metric");
    expect(begun.map(({ kind }) => kind)).toEqual(["sediment", "carbon", "membrane", "resin"]);
    const [, carbon] = begun;
    const fewer = begunWith("filters", begun, id, "metric");
    expect(fewer.map(({ kind }) => kind)).toEqual(["sediment", "carbon", "resin"]);
    expect(fewer[1]).toBe(carbon);
    expect(stagesFrom(begun, [], "metric")[2]).toMatchObject({ kind: "membrane", rejection: 0.95 });
  });
  test("a second vessel that is new is like the first, each with a name of its own", () => {
    let made = 0;
    const id = () => `new-${(made += 1)}`;
    const two = [newStage("resin", "1", "metric"), newStage("resin", "2", "metric")];
    const begun = hungAsTyped(two, vessel, ID, true, id);
    expect(begun.vessels.map(({ id: key, body }) => [key, body.name])).toEqual([
      [ID, vessel.name],
      ["new-1", `${vessel.name} 2`],
    ]);
    expect(begun.places).toEqual([
      { stageId: "1", vesselId: ID },
      { stageId: "2", vesselId: "new-1" },
    ]);
    const more = hungAsTyped([{ ...two[0]!, vessel: ID }, two[1]!], vessel, ID, false, id);
    expect(more.vessels.map(({ body }) => body.name)).toEqual([`${vessel.name} 2`]);
    expect(more.places[0]).toEqual({ stageId: "1", vesselId: ID });
    const empty = hungAsTyped([{ ...two[0]!, vessel: "none" }], vessel, ID, false, id);
    expect(empty).toEqual({ vessels: [], places: [{ stageId: "1" }] });
  });
  test("a figure that was not touched stays as it was, and an empty rejection is asked for", () => {
    const known: Rig["stages"] = [{ id: "m", kind: "membrane", rejection: 0.96512345, ratedFlow: 1.3 }];
    const shown = typedStages(known, [], "us");
    expect(stagesFrom(shown, known, "us")).toEqual(known);
    expect(stagesFrom([{ ...shown[0]!, rejection: "" }], known, "us")[0]).toMatchObject({ rejection: NaN });
  });
  test("take their size from diameter and height, their name from the rig, their marks from a choice or their own", () => {
    const sized = typed({ sizeBy: "height", height: "550" }, { name: "Van" })["vessel"]!;
    expect(sized["grossVolume"]).toBeCloseTo(14, 1);
    expect(sized["name"]).toBe("Van vessel");
    expect(typed({ marks: "glass-20" })["vessel"]!["marks"]).toEqual(MARKS["glass-20"]);
    const own = typed({ marks: "own" }, { use: "aquarium" })["vessel"]!["marks"];
    expect(own).toEqual({ ...vessel.marks, capacityUsed: 0.9 });
  });
});

describe("a charge as typed", () => {
  test("remembers how the bag was kept and what it had done before, when there is something to say", () => {
    const fresh = { grade: "virgin", stored: { months: 6, warm: true } };
    expect(chargeAsTyped(fresh, besideCharge(undefined))).toEqual({ grade: "virgin" });
    expect(chargeAsTyped(fresh, { bag: "rolled-or-zip", partUsed: "unknown" })).toEqual({
      grade: "virgin",
      stored: { container: "rolled-or-zip", months: 6, warm: true },
      partUsed: { by: "unknown" },
    });
    expect(chargeAsTyped({ partUsed: { jobs: 30 } }, { bag: "fresh", partUsed: "jobs" })).toEqual({
      partUsed: { by: "jobs", jobs: 30 },
    });
  });
  test("is refused above the vessel's inside, asked about above its usual fill, and taken once it is said to be right", () => {
    const of = (resinLitres: number, right = "") => fillComplaints({ resinLitres }, vessel, right, "metric");
    const [inside, usual] = [vessel.grossVolume, vessel.grossVolume * vessel.fillFraction];
    expect(of(inside * 1.02)[0]!.message).toMatch(/holds 14 L inside/);
    expect(of(inside * 1.02, String(inside * 1.02))).toHaveLength(1);
    expect(of(usual * 1.05)[0]!.message).toMatch(/More than its usual 11\.9 L/);
    expect(of(usual * 1.05, String(usual * 1.05))).toEqual([]);
    expect(of(usual)).toEqual([]);
  });
  test("ends for the reason that was read; another one is asked about once", () => {
    const seen = { why: "early", output: 3, limit: 10, scale: "nacl" } as const;
    const asked = (why: "limit" | "early" | "fault" | undefined, right = "") =>
      reasonComplaints("old.ended.why", why, seen, right).map(({ message }) => message);
    expect(asked("limit")[0]).toMatch(/The last output was 3 ppm NaCl, under the limit of 10/);
    expect([asked("limit", "limit"), asked("early"), asked("fault"), asked(undefined)]).toEqual([[], [], [], []]);
    expect(reasonComplaints("x", "limit", undefined, "")).toEqual([]);
  });
});

describe("a visit as typed", () => {
  const meters: readonly Meter[] = [
    { id: "pen", name: "Pen", scale: "nacl", compensated: true },
    { id: "bench", name: "Bench", scale: "442", compensated: true },
  ];
  const readings: readonly ReadingRecord[] = [
    { id: "a", point: "output", meterId: "pen", value: 3.14159, temperature: 12.3 },
    { id: "b", point: "output", meterId: "bench", value: 5 },
  ];
  const typed = (part: Texts, units: "metric" | "us" = "us") => {
    const boxes = readingBoxes(rig, readings);
    const before = besideVisit(rig, readings, "pen", units);
    const newId = (point: string) => `new ${point}`;
    return readingsAsTyped({ boxes, before, beside: { ...before, ...part }, meters, newId, units });
  };
  test("leaves every reading as it was seen, by its own meter, where nothing was touched", () => {
    expect(typed({})).toEqual(readings);
  });
  test("changes one, takes an emptied one out and adds what is missing", () => {
    expect(typed({ a: "4", b: "", feed: "160" }, "metric")).toEqual([
      { id: "new feed", point: "feed", meterId: "pen", value: 160, temperature: 12.3 },
      { ...readings[0]!, value: 4 },
    ]);
  });
  test("asks for the meter of a new figure where there are meters and none is chosen", () => {
    const boxes = readingBoxes(rig, []);
    const asked = (beside: Texts, of = meters) => meterComplaints(boxes, beside, of).map(({ path }) => path);
    expect(asked({ output: "3", meterId: "" })).toEqual(["beside.meterId"]);
    expect(asked({ output: "3", meterId: "pen" })).toEqual([]);
    expect(asked({ output: "", meterId: "" })).toEqual([]);
    expect(asked({ output: "3", meterId: "" }, [])).toEqual([]);
    expect(meterComplaints(readingBoxes(rig, readings), { a: "4", meterId: "" }, meters)).toEqual([]);
  });
  test("says that a figure is right where it is", () => {
    expect(typed({ right: "yes" })[0]).toMatchObject({ confirmed: true });
    const total = { by: "total", total: 100, confirmed: true } as const;
    expect(waterAsTyped(total, false)).toEqual({ water: { by: "total", total: 100 } });
    expect(waterAsTyped({ by: "total", total: 100 }, true)).toEqual({ water: total });
    expect(waterAsTyped(undefined, true)).toEqual({});
  });
});

test("a number outside its range is said in the units that it was typed in", () => {
  const flow = fieldAt(KINDS.rigs.fields, "flow");
  expect(liveFault(flow, "2000", "metric")).toBe("The flow must be above 0 and at most 1,000 L/min.");
  expect(liveFault(flow, "2000", "us")).toBe("The flow must be above 0 and at most 264.2 US gal/min.");
  expect(liveFault(fieldAt(KINDS.vessels.fields, "fillFraction"), "120", "us")).toBe(
    "The fill must be above 0 and at most 100 %.",
  );
  expect([liveFault(flow, "200", "us"), liveFault(flow, "", "us")]).toEqual([undefined, undefined]);
});

describe("a form over a record", () => {
  beforeEach(() => localStorage.clear());
  afterEach(() => act(() => changeSettings({ units: "metric" })));
  const BEFORE: Partial<Charge> = { resinLitres: 14 };

  function Harness({ onForm }: { readonly onForm: (form: Form) => void }) {
    const parts = useMemo(
      () => ({
        tap: { kind: "taps" as const, before: { siteId: ID, low: 80, typical: 96, high: 120, scale: "nacl" } },
      }),
      [],
    );
    const form = useRecordForm({ name: "tap:new", parts });
    onForm(form);
    return (
      <RecordForm form={form}>
        <RecordField form={form} path="tap.name" />
        <RecordField form={form} path="tap.typical" unit="ppm" />
        <RecordField form={form} path="tap.temperature" />
      </RecordForm>
    );
  }
  const shown = () => {
    let form: Form | undefined;
    const { unmount } = inApp(<Harness onForm={(each) => (form = each)} />);
    return { unmount, form: () => form! };
  };
  const box = (label: string) => screen.getByLabelText<HTMLInputElement>(label);

  test("brings the first fault into view, gives it the focus and reads it out", async () => {
    const into = jest.fn();
    Element.prototype.scrollIntoView = into;
    const { form } = shown();
    fireEvent.change(box("Typical, ppm"), { target: { value: "much" } });
    await act(() => form().checked());
    await waitFor(() => expect(document.activeElement).toBe(box("Name")));
    expect(into).toHaveBeenCalled();
    expect(screen.getByRole("alert").textContent).toBe("2 figures need another look. The tap's name is missing.");
    // Told of the figure that was just typed once the hand rests.
    expect(await screen.findByText("The reading is not a number yet.", {}, { timeout: 5_000 })).toBeTruthy();
    fireEvent.change(box("Name"), { target: { value: "Yard" } });
    fireEvent.change(box("Typical, ppm"), { target: { value: "100" } });
    const bodies = await act(() => form().checked());
    expect(bodies!["tap"]).toMatchObject({ name: "Yard", typical: 100, low: 80 });
    expect(screen.queryByRole("alert")).toBeNull();
  });

  test("keeps what was typed over a closed tab and over a switch of units, until it is forgotten", () => {
    const first = shown();
    fireEvent.change(box("Name"), { target: { value: "Yard" } });
    fireEvent.change(box("Temperature, °C"), { target: { value: "10" } });
    first.unmount();
    act(() => changeSettings({ units: "us" }));
    const second = shown();
    expect([box("Name").value, box("Temperature, °F").value]).toEqual(["Yard", "50"]);
    expect(second.form().bodiesNow()["tap"]!["temperature"]).toBeCloseTo(10, 6);
    act(() => second.form().startAgain());
    expect(box("Name").value).toBe("");
    second.unmount();
    shown();
    expect(box("Temperature, °F").value).toBe("");
    expect(numbersIn(textsOf(KINDS.charges.fields, BEFORE, "us"))).toContain("0.494405");
  });
});
