import type { Kept } from "../data/api";
import type { OutboxItem } from "../data/outbox";
import { overlay, upserted } from "../data/overlay";

const site = (id: string, name: string, version = 1): Kept<"sites"> => ({ id, name, version, voided: false });
const item = (seq: number, id: string, name: string, more: Partial<OutboxItem> = {}): OutboxItem => ({
  seq,
  kind: "sites",
  id,
  body: { name },
  madeAt: "2027-03-01T08:00:00Z",
  ...more,
});
const names = (records: readonly Kept<"sites">[]) => records.map((record) => `${record.name} ${record.version}`);

test("what waits on the device lies over what the server has", () => {
  const shown = overlay(
    "sites",
    [site("a", "Yard"), site("b", "Bay")],
    [
      item(1, "c", "Row"),
      item(2, "a", "Yard tap", { replaces: 1 }),
      item(3, "b", "Bay", { replaces: 1, voided: true }),
    ],
  );
  expect(names(shown)).toEqual(["Yard tap 2", "Row 1"]);
});

test("a chain of edits made without a signal ends with the last", () => {
  const shown = overlay(
    "sites",
    [site("a", "Yard")],
    [item(1, "a", "Yard 1", { replaces: 1 }), item(2, "a", "Yard 2", { replaces: 2 })],
  );
  expect(names(shown)).toEqual(["Yard 2 3"]);
});

test("refused writes and writes of other kinds change nothing", () => {
  const kept = [site("a", "Yard")];
  expect(
    overlay("sites", kept, [
      item(1, "c", "Row", { refused: { type: "about:blank", title: "no", status: 422 } }),
      { ...item(2, "d", "x"), kind: "meters" },
    ]),
  ).toBe(kept);
});

test("an answer already newer than the waiting write wins", () => {
  expect(names(overlay("sites", [site("a", "From elsewhere", 4)], [item(1, "a", "Old", { replaces: 1 })]))).toEqual([
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
