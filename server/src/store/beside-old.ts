import type { Act, Put } from "@winter-bead/contract";
import type { Beside } from "@winter-bead/core/src/descriptor/kind";
import { isDeepStrictEqual } from "node:util";
import { In, type EntityManager } from "typeorm";
import { VERSIONS, type StoredKinds } from "./tables";

/** The moment that a UUIDv7 was made; the first of all moments where it tells none. */
function madeAt(id: string): string {
  const milliseconds = id[14] === "7" ? Number.parseInt(id.slice(0, 8) + id.slice(9, 13), 16) : 0;
  return new Date(milliseconds).toISOString();
}

/** What belongs to a put of an earlier shape is what it says now and the newest before it did not say. */
async function newlySaid(
  manager: EntityManager,
  crewId: string,
  { replaces = 0 }: Put,
  said: Beside,
  besideOf: (version: number) => Beside | undefined,
): Promise<boolean> {
  const earlier = Array.from({ length: replaces }, (_, i) => besideOf(replaces - i)!.id);
  const known = await manager.findBy(VERSIONS, { crewId, kind: said.kind, id: In([said.id, ...earlier]), version: 1 });
  if (known.some(({ id }) => id === said.id)) return false;
  const newest = earlier.flatMap((each) => known.filter(({ id }) => id === each))[0];
  const words = ({ at: _at, ...body }: Readonly<Record<string, unknown>>) => body;
  return !newest?.body || !isDeepStrictEqual(words(newest.body as Beside["body"]), words(said.body));
}

/** What is a part of a record that is taken back, to be taken back with it. */
async function partsOf(
  manager: EntityManager,
  crewId: string,
  kinds: StoredKinds,
  whole: Put,
  puts: readonly Put[],
): Promise<readonly Put[]> {
  const found: Put[] = [];
  for (const [kind, { kind: described, entity }] of Object.entries(kinds)) {
    const { partOf } = described;
    if (partOf?.kind !== whole.kind) continue;
    const rows = await manager.findBy(entity, { crewId, voided: false, [partOf.by]: whole.id } as never);
    for (const { id, version } of rows)
      if (!puts.some((put) => put.kind === kind && put.id === id))
        found.push({ kind, id, replaces: version, voided: true });
  }
  return found;
}

/**
 * An act with what its bodies of earlier shapes said beside: a rig of an old phone brings the arrangement of its vessels.
 * A new record says it of the moment that its id was made, a changed one of the act's.
 *
 * @returns the act, and where in the act as it was sent a path of it was said
 */
export async function withBeside(
  manager: EntityManager,
  crewId: string,
  kinds: StoredKinds,
  act: Act,
): Promise<{ readonly act: Act; readonly saidAt: (path: string) => string }> {
  const more: Put[] = [];
  const said: string[] = [];
  for (const [i, put] of act.puts.entries()) {
    if ("voided" in put) {
      more.push(...(await partsOf(manager, crewId, kinds, put, act.puts)));
      continue;
    }
    const beside = kinds[put.kind]?.kind.beside;
    if (!beside || !put.old) continue;
    const version = (put.replaces ?? 0) + 1;
    const at = put.replaces === undefined ? madeAt(put.id) : act.at;
    const { old, id, shape = 1 } = put;
    const besideOf = (of: number) => beside({ id, version: of, body: old, shape, at });
    const found = besideOf(version);
    if (!found || !(await newlySaid(manager, crewId, put, found, besideOf))) continue;
    const { saidBy, ...record } = found;
    said[more.length] = `puts.${i}.body.${saidBy}`;
    more.push(record);
  }
  const own = act.puts.length;
  return {
    act: more.length === 0 ? act : { ...act, puts: [...act.puts, ...more] },
    saidAt: (path) => said[Number(path.split(".")[1]) - own] ?? path,
  };
}
