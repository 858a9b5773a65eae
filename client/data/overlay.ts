import type { RecordKind } from "@winter-bead/contract";
import type { Kept } from "./api";
import { besideOf, putToday } from "./older-shapes";
import type { OutboxItem } from "./outbox";

/** What the server has, with what waits on this device laid over it; refused acts count for nothing. */
export function overlay<K extends RecordKind>(
  kind: K,
  kept: readonly Kept<K>[],
  waiting: readonly OutboxItem[],
): readonly Kept<K>[] {
  const mine = waiting.flatMap(({ act, refused }) =>
    refused ? [] : [...act.puts.map(putToday), ...besideOf(act)].filter((put) => put.kind === kind),
  );
  if (mine.length === 0) return kept;
  const byId = new Map(kept.map((record) => [record.id, record]));
  for (const put of mine) {
    const { id, replaces = 0 } = put;
    const known = byId.get(id);
    if (known && known.version > replaces + 1) continue;
    if ("voided" in put) byId.delete(id);
    else byId.set(id, { ...put.body, id, version: replaces + 1, voided: false } as unknown as Kept<K>);
  }
  return [...byId.values()];
}

/** A list with records put in their places, by id; voided ones are taken out, older versions change nothing. */
export function upserted<K extends RecordKind>(
  list: readonly Kept<K>[] | undefined,
  records: readonly Kept<K>[],
): readonly Kept<K>[] | undefined {
  if (!list) return undefined;
  const byId = new Map(list.map((each) => [each.id, each]));
  for (const record of records) {
    if ((byId.get(record.id)?.version ?? 0) > record.version) continue;
    if (record.voided) byId.delete(record.id);
    else byId.set(record.id, record);
  }
  return [...byId.values()].sort((a, b) => (a.id < b.id ? -1 : 1));
}
