import type { Put } from "@winter-bead/contract";
import type { Kept } from "../data/api";
import type { OutboxItem } from "../data/outbox";
import { overlay, upserted } from "../data/overlay";

const site = (id: string, name: string, version = 1): Kept<"sites"> => ({ id, name, version, voided: false });
const AT = "2027-03-01T08:00:00Z";
const waiting = (seq: number, puts: readonly Put[], more: Partial<OutboxItem> = {}): OutboxItem => ({
  ...{ seq, id: `act ${seq}`, act: { at: AT, what: "Place", puts }, madeAt: AT },
  ...more,
});
const item = (seq: number, id: string, name: string, replaces?: number): OutboxItem =>
  waiting(seq, [{ kind: "sites", id, body: { name }, replaces }]);
const names = (records: readonly Kept<"sites">[]) => records.map((record) => `${record.name} ${record.version}`);

test("what waits on the device lies over what the server has", () => {
  const shown = overlay(
    "sites",
    [site("a", "Yard"), site("b", "Bay")],
    [
      item(1, "c", "Row"),
      item(2, "a", "Yard tap", 1),
      waiting(3, [{ kind: "sites", id: "b", replaces: 1, voided: true }]),
    ],
  );
  expect(names(shown)).toEqual(["Yard tap 2", "Row 1"]);
});

test("a chain of edits made without a signal ends with the last", () => {
  const shown = overlay("sites", [site("a", "Yard")], [item(1, "a", "Yard 1", 1), item(2, "a", "Yard 2", 2)]);
  expect(names(shown)).toEqual(["Yard 2 3"]);
});

test("refused writes and writes of other kinds change nothing", () => {
  const kept = [site("a", "Yard")];
  expect(
    overlay("sites", kept, [
      { ...item(1, "c", "Row"), refused: { type: "about:blank", title: "no", status: 422 } },
      waiting(2, [{ kind: "meters", id: "d", body: { name: "x" } }]),
    ]),
  ).toBe(kept);
});

test("an act that waits is seen whole: what it ends, what it begins, and nothing of it once it is undone", () => {
  const ends: Put = { kind: "sites", id: "a", replaces: 1, body: { name: "Yard, closed" } };
  const begins: Put = { kind: "sites", id: "b", body: { name: "Bay" } };
  const undone: readonly Put[] = [
    { kind: "sites", id: "b", replaces: 1, voided: true },
    { kind: "sites", id: "a", replaces: 2, body: { name: "Yard" } },
  ];
  const act = waiting(1, [ends, begins]);
  expect(names(overlay("sites", [site("a", "Yard")], [act]))).toEqual(["Yard, closed 2", "Bay 1"]);
  expect(names(overlay("sites", [site("a", "Yard")], [act, waiting(2, undone)]))).toEqual(["Yard 3"]);
});

test("an answer already newer than the waiting write wins", () => {
  expect(names(overlay("sites", [site("a", "From elsewhere", 4)], [item(1, "a", "Old", 1)]))).toEqual([
    "From elsewhere 4",
  ]);
});

test("accepted records take their places once, a voided one leaves, an older one changes nothing", () => {
  const list = [site("a", "Yard"), site("c", "Row", 2)];
  const after = (...records: readonly Kept<"sites">[]) => names(upserted<"sites">(list, records)!);
  expect(after(site("b", "Bay"))).toEqual(["Yard 1", "Bay 1", "Row 2"]);
  expect(after(site("a", "Yard tap", 2), site("c", "Old"))).toEqual(["Yard tap 2", "Row 2"]);
  expect(after({ ...site("a", "Yard", 2), voided: true })).toEqual(["Row 2"]);
  expect(upserted(undefined, [site("a", "Yard")])).toBeUndefined();
});
