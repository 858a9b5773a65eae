import type { Act, Put } from "@winter-bead/contract";
import type { Beside } from "@winter-bead/core/src/descriptor/kind";
import { isDeepStrictEqual } from "node:util";
import type { EntityManager } from "typeorm";
import { keyOf, newestOf } from "./many";
import { madeAt } from "./taken-back";
import type { StoredKind, StoredKinds } from "./tables";

/** What belongs to a put of an earlier shape, of the version that it becomes or of one before. */
interface Said {
  readonly put: Put;
  /** Its place among the act's puts. */
  readonly at: number;
  readonly of: (version: number) => Beside | undefined;
}

const versionOf = ({ replaces = 0 }: Put) => replaces + 1;
const withoutTime = ({ at: _at, ...body }: Readonly<Record<string, unknown>>) => body;

/** What puts of earlier shapes say beside: of a new record from the moment that its id was made, of a changed one from the act's. */
const saidIn = (kinds: StoredKinds, { puts, at: actAt }: Act): readonly Said[] =>
  puts.flatMap((put, at) => {
    const beside = kinds[put.kind]?.kind.beside;
    if (!beside || "voided" in put || !put.old) return [];
    const { old, id, shape = 1 } = put;
    const moment = put.replaces === undefined ? new Date(madeAt(id) ?? 0).toISOString() : actAt;
    return [{ put, at, of: (version: number) => beside({ id, version, body: old, shape, at: moment }) }];
  });

/** The first bodies of everything of a kind that is a part of these. */
async function partsKnown(
  manager: EntityManager,
  crewId: string,
  { kind: { name, table, partOf } }: StoredKind,
  columnOf: (field: string) => string,
  wholes: readonly string[],
): Promise<ReadonlyMap<string, unknown>> {
  const rows: readonly { readonly id: string; readonly body: unknown }[] = await manager.query(
    `SELECT known.id, known.body FROM record_version AS known JOIN "${table}" AS part ON part.crew_id = $1 AND part.id = known.id
     WHERE known.crew_id = $1 AND known.kind = $2 AND known.version = 1 AND part."${columnOf(partOf!.by)}" = ANY($3::uuid[])`,
    [crewId, name, wholes],
  );
  return new Map(rows.map(({ id, body }) => [id, body]));
}

/** Whether a put says now what the newest before it did not say. */
function isNews({ put, of }: Said, said: Beside, known: ReadonlyMap<string, unknown>): boolean {
  if (known.has(said.id)) return false;
  for (let version = put.replaces ?? 0; version >= 1; version -= 1) {
    const before = known.get(of(version)!.id);
    if (before) return !isDeepStrictEqual(withoutTime(before as Beside["body"]), withoutTime(said.body));
  }
  return true;
}

const columnIn =
  ({ columns }: StoredKind) =>
  (field: string) =>
    columns.find((each) => each.field === field)!.name;

/** What is a part of records that are taken back, to be taken back with them. */
async function partsOf(
  manager: EntityManager,
  crewId: string,
  kinds: StoredKinds,
  puts: readonly Put[],
): Promise<readonly Put[]> {
  const found: Put[] = [];
  const own = new Set(puts.map(keyOf));
  for (const [kind, stored] of Object.entries(kinds)) {
    const { partOf, table } = stored.kind;
    const wholes = puts.filter((put) => "voided" in put && put.kind === partOf?.kind).map(({ id }) => id);
    if (!partOf || wholes.length === 0) continue;
    const rows: readonly { readonly id: string; readonly version: number }[] = await manager.query(
      `SELECT id, version FROM "${table}" WHERE crew_id = $1 AND NOT voided AND "${columnIn(stored)(partOf.by)}" = ANY($2::uuid[])`,
      [crewId, wholes],
    );
    for (const { id, version } of rows)
      if (!own.has(keyOf({ kind, id }))) found.push({ kind, id, replaces: version, voided: true });
  }
  return found;
}

/**
 * An act with what its bodies of earlier shapes said beside: a rig of an old phone brings the arrangement of its vessels.
 * What starts from a version that is not the newest brings nothing: it will not be kept.
 *
 * @returns the act, and where in the act as it was sent a path of it was said
 */
export async function withBeside(
  manager: EntityManager,
  crewId: string,
  kinds: StoredKinds,
  act: Act,
): Promise<{ readonly act: Act; readonly saidAt: (path: string) => string }> {
  const more: Put[] = [...(await partsOf(manager, crewId, kinds, act.puts))];
  const paths: string[] = [];
  const old = saidIn(kinds, act);
  const newest = await newestOf(
    manager,
    crewId,
    old.map(({ put }) => put),
  );
  // Only now is the number that was sent one that something here bears out.
  const current = old.flatMap((each) => {
    if (newest.get(keyOf(each.put))?.version !== each.put.replaces) return [];
    const said = each.of(versionOf(each.put));
    return said ? [{ each, said }] : [];
  });
  for (const kind of new Set(current.map(({ said }) => said.kind))) {
    const ofKind = current.filter(({ said }) => said.kind === kind);
    const wholes = ofKind.map(({ each }) => each.put.id);
    const known = await partsKnown(manager, crewId, kinds[kind]!, columnIn(kinds[kind]!), wholes);
    for (const { each, said } of ofKind) {
      if (!isNews(each, said, known)) continue;
      const { saidBy, ...record } = said;
      paths[more.length] = `puts.${each.at}.body.${saidBy}`;
      more.push(record);
    }
  }
  const own = act.puts.length;
  return {
    act: more.length === 0 ? act : { ...act, puts: [...act.puts, ...more] },
    saidAt: (path) => paths[Number(path.split(".")[1]) - own] ?? path,
  };
}
