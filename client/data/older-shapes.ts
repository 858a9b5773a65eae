import type { Act, Put, RecordKind } from "@winter-bead/contract";
import { KINDS, type Kind } from "@winter-bead/core";
import { currentShape, upcast } from "@winter-bead/core/src/descriptor/kind";
import type { PersistedClient } from "@tanstack/react-query-persist-client";
import type { Kept } from "./api";
import { keyOf } from "./list-key";

type Body = Readonly<Record<string, unknown>>;

const kindOf = (name: string): Kind | undefined => (KINDS as Readonly<Record<string, Kind>>)[name];

/** A put that waits since an older page wrote it, its body as one of today's. */
export function putToday(put: Put): Put {
  const kind = kindOf(put.kind);
  if (!kind || "voided" in put || (put.shape ?? 1) >= currentShape(kind)) return put;
  return { ...put, body: upcast(kind, put.body, put.shape) };
}

/** What the bodies of earlier shapes in an act say beside: a new rig of an older page brings its arrangement. */
export const besideOf = ({ puts, at }: Act): readonly Put[] =>
  puts.flatMap((put): Put[] => {
    const kind = kindOf(put.kind);
    if (!kind?.beside || "voided" in put || put.replaces !== undefined) return [];
    const said = kind.beside({ id: put.id, version: 1, body: put.body, shape: put.shape ?? 1, at });
    return said ? [{ kind: said.kind, id: said.id, body: said.body }] : [];
  });

const EVER = new Date(0).toISOString();

/**
 * Lists that an older page kept on this device, as today's: a start without a signal after an update shows what was there.
 * What a list says beside stands in the list of its kind until the server's own comes.
 */
export function listsToday(kept: PersistedClient): PersistedClient {
  const { queries } = kept.clientState;
  const listOf = (name: RecordKind) => queries.find(({ queryHash }) => queryHash === JSON.stringify(keyOf(name)));
  const more: typeof queries = [];
  const today = queries.map((query) => {
    const kind = kindOf(String(query.queryKey[1]));
    const records = query.state.data as readonly Kept[] | undefined;
    if (!kind || kind.upcasts.length === 0 || !Array.isArray(records)) return query;
    const beside = new Map<string, Body[]>();
    const data = records.map((record) => {
      const body = record as unknown as Body;
      const now = upcast(kind, body);
      const said = kind.beside?.({ id: record.id, version: record.version, body, shape: 1, at: EVER });
      if (said)
        beside.set(said.kind, [
          ...(beside.get(said.kind) ?? []),
          { ...said.body, id: said.id, version: 1, voided: false },
        ]);
      return now;
    });
    for (const [name, found] of beside) {
      const queryKey = keyOf(name as RecordKind);
      if (!listOf(name as RecordKind))
        more.push({ ...query, queryKey, queryHash: JSON.stringify(queryKey), state: { ...query.state, data: found } });
    }
    return { ...query, state: { ...query.state, data } };
  });
  return { ...kept, clientState: { ...kept.clientState, queries: [...today, ...more] } };
}
