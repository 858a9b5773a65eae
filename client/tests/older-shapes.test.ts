import type { Act } from "@winter-bead/contract";
import { arrangementIdOf, stageIdAt } from "@winter-bead/core";
import type { PersistedClient } from "@tanstack/react-query-persist-client";
import { besideOf, listsToday, putToday } from "../data/older-shapes";
import { overlay } from "../data/overlay";

const rigId = "01890000-0000-7000-8000-000000000011";
const vesselId = "01890000-0000-7000-8000-000000000022";
const body = { name: "Van", stages: [{ kind: "carbon" }, { kind: "resin", vesselId }] };
const today = [
  { id: stageIdAt(0), kind: "carbon" },
  { id: stageIdAt(1), kind: "resin" },
];
const places = [{ stageId: stageIdAt(1), vesselId }];
const at = "2027-03-01T08:00:00.000Z";

describe("what an older page left on this device", () => {
  const act: Act = { at, what: "Rig", puts: [{ kind: "rigs", id: rigId, shape: 1, body }] };
  const waiting = [{ seq: 1, id: "act", act, madeAt: at }];
  test("a rig that waits is shown as one of today, with who stands in it", () => {
    expect(overlay("rigs", [], waiting)).toEqual([
      { name: "Van", stages: today, id: rigId, version: 1, voided: false },
    ]);
    expect(overlay("arrangements", [], waiting)).toEqual([
      { rigId, at, places, id: arrangementIdOf(rigId, 1), version: 1, voided: false },
    ]);
  });
  test("it is sent as it was written: the server turns it into what it says", () => {
    expect(act.puts[0]).toEqual({ kind: "rigs", id: rigId, shape: 1, body });
    const changed: Act = { ...act, puts: [{ ...act.puts[0]!, replaces: 1 } as Act["puts"][number]] };
    expect(besideOf(changed)).toEqual([]);
  });
  test("what is of today's shape, or taken back, stays as it is", () => {
    const put = { kind: "rigs", id: rigId, shape: 2, body: { name: "Van", stages: today } };
    expect(putToday(put)).toBe(put);
    const back = { kind: "rigs", id: rigId, replaces: 1, voided: true } as const;
    expect(putToday(back)).toBe(back);
    expect(besideOf({ ...act, puts: [put, { ...back, id: vesselId }] })).toEqual([]);
  });
  test("lists that it kept are those of today, until the server's own come", () => {
    const list = (kind: string, data: readonly object[]) => ({
      ...{ queryKey: ["records", kind], queryHash: JSON.stringify(["records", kind]) },
      state: { data },
    });
    const kept = (...queries: object[]) => ({ clientState: { queries, mutations: [] } }) as unknown as PersistedClient;
    const rig = { ...body, id: rigId, version: 3, voided: false };
    const { queries } = listsToday(kept(list("rigs", [rig]), list("taps", []))).clientState;
    expect(queries.map(({ queryKey }) => queryKey[1])).toEqual(["rigs", "taps", "arrangements"]);
    expect(queries[0]!.state.data).toEqual([{ ...rig, stages: today }]);
    expect(queries[2]!.state.data).toEqual([expect.objectContaining({ rigId, places, version: 1 })]);
    const both = listsToday(kept(list("rigs", [rig]), list("arrangements", [{ id: "its own" }]))).clientState.queries;
    expect(both).toHaveLength(2);
    expect(both[1]!.state.data).toEqual([{ id: "its own" }]);
  });
});
