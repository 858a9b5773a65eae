import { currentShape, inUseWords, KINDS, RECORD_KINDS, sampleId, upcast, type Kind } from "../src/index";
import { labelOf, type Field, type Fields } from "../src/descriptor/field";
import { mayName, referencesIn } from "../src/descriptor/references";

type Body = Readonly<Record<string, unknown>>;

/** Every field and every variant of a field, as far down as the descriptor goes. */
function paths(fields: Fields, before = ""): string[] {
  return Object.entries(fields).flatMap(([name, field]) => [before + name, ...below(field, before + name)]);
}
function below(field: Field, path: string): string[] {
  if (field.is === "group") return paths(field.fields, `${path}.`);
  if (field.is === "list") return below(field.item, path);
  if (field.is === "choice") return [];
  if (field.is !== "variants") return [];
  return Object.entries(field.of).flatMap(([value, fields]) => [
    `${path}=${value}`,
    ...paths(fields, `${path}=${value}.`),
  ]);
}

/** Those of them that a body sets. */
function set(fields: Fields, body: Body, before = ""): string[] {
  return Object.entries(fields).flatMap(([name, field]) =>
    body[name] === undefined ? [] : [before + name, ...setBelow(field, body[name], before + name)],
  );
}
function setBelow(field: Field, value: unknown, path: string): string[] {
  if (field.is === "group") return set(field.fields, value as Body, `${path}.`);
  if (field.is === "list") return (value as readonly Body[]).flatMap((item) => setBelow(field.item, item, path));
  if (field.is !== "variants") return [];
  const variant = `${path}=${String((value as Body)[field.by])}`;
  return [variant, ...set(field.of[String((value as Body)[field.by])]!, value as Body, `${variant}.`)];
}

const leaves = (fields: Fields): Field[] =>
  Object.values(fields).flatMap((field): Field[] => {
    if (field.is === "group") return [field, ...leaves(field.fields)];
    if (field.is === "list") return [field, ...leaves({ item: field.item })];
    if (field.is === "variants") return [field, ...Object.values(field.of).flatMap(leaves)];
    return [field];
  });

describe.each(RECORD_KINDS)("the kind %s", (name) => {
  const kind: Kind = KINDS[name];

  test("stands under its own name and has samples with every field and every variant set", () => {
    expect(kind.name).toBe(name);
    const shown = new Set([kind.sample, ...kind.further].flatMap((body) => set(kind.fields, body)));
    expect(paths(kind.fields).filter((path) => !shown.has(path))).toEqual([]);
  });

  test("refers to kinds that stand before it, and its sample to their samples", () => {
    const before = RECORD_KINDS.slice(0, RECORD_KINDS.indexOf(name));
    for (const { to, id } of referencesIn(kind, kind.sample)) {
      expect(before).toContain(to);
      expect(id).toBe(sampleId(to));
    }
    for (const field of leaves(kind.fields)) if (field.is === "reference") expect(before).toContain(field.to);
  });

  test("names every field in words, and a body of today stays as it is, whatever shape it says", () => {
    for (const field of leaves(kind.fields)) expect(labelOf(field)).toMatch(/^\S/);
    expect(upcast(kind, kind.sample)).toEqual(kind.sample);
    expect(upcast(kind, kind.sample, currentShape(kind))).toBe(kind.sample);
  });
});

test("a reference is found in a list, in a variant and in a group, with its place", () => {
  expect(referencesIn(KINDS.arrangements, KINDS.arrangements.sample).map(({ path }) => path)).toEqual([
    "rigId",
    "places.0.vesselId",
  ]);
  expect(referencesIn(KINDS.visits, KINDS.visits.sample).map(({ path }) => path)).toEqual([
    "rigId",
    "tapId",
    "readings.0.meterId",
    "readings.2.meterId",
  ]);
  expect(mayName(KINDS.arrangements, "vessels")).toBe(true);
  expect(mayName(KINDS.rigs, "meters")).toBe(false);
});

test("a body of the first shape goes through every upcast, one of the second through the later ones only", () => {
  const kind: Kind = {
    ...KINDS.sites,
    upcasts: [
      ({ title, ...rest }) => (title === undefined ? rest : { ...rest, name: title }),
      (body) => ({ ...body, note: `${String(body["note"] ?? "")}!` }),
    ],
  };
  expect(currentShape(kind)).toBe(3);
  expect(upcast(kind, { title: "Pier" })).toEqual({ name: "Pier", note: "!" });
  expect(upcast(kind, { name: "Pier", note: "b" }, 2)).toEqual({ name: "Pier", note: "b!" });
  expect(upcast(kind, { name: "Pier", note: "b" }, 3)).toEqual({ name: "Pier", note: "b" });
});

test("what can't be taken back says who names it, and the way out", () => {
  expect(inUseWords(KINDS.meters, [{ kind: KINDS.visits, count: 34 }])).toBe(
    "34 visits name this meter. Retire it: lists hide it then, and history keeps it.",
  );
  expect(inUseWords(KINDS.sites, [{ kind: KINDS.taps, count: 1, name: "Yard tap" }])).toBe(
    "The tap Yard tap names this site. Take that back first, or name another site there.",
  );
  expect(
    inUseWords(KINDS.taps, [
      { kind: KINDS.rigs, count: 1, name: "Van" },
      { kind: KINDS.visits, count: 2 },
      { kind: KINDS["feed-tests"], count: 1 },
    ]),
  ).toMatch(/^The rig Van, 2 visits and a feed test name this tap\./);
});
