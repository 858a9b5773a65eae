import { randomUUID } from "node:crypto";
import { isDeepStrictEqual } from "node:util";
import type { Act, FieldError, Page, Put, Stored } from "@winter-bead/contract";
import { currentShape, inUseWords, upcast, type Users } from "@winter-bead/core";
import { mayName, referencesIn } from "@winter-bead/core/src/descriptor/references";
import { In, type EntityManager } from "typeorm";
import { withBeside } from "./beside-old";
import {
  keyOf,
  namingAny,
  newestOf,
  rowsOf,
  versionsOf,
  writeAll,
  type FoundRow,
  type KnownVersion,
  type Naming,
  type Newest,
} from "./many";
import { fromRow, type JsonRow } from "./rows";
import { ACTS, VERSIONS, type StoredKind, type StoredKinds } from "./tables";
import { takenBackBefore, type NamedBy } from "./taken-back";

/** A record's fields as they came over the wire, checked. */
export type Body = { readonly [field: string]: unknown };
export type Kept = Stored<Body & { readonly id: string }>;

/** A record as an act's answer names it. */
export interface KeptByAct {
  readonly kind: string;
  readonly record: Kept;
}

export type ActOutcome =
  /** `unchanged`: this act, or all that it asks for, was kept before. */
  | { readonly outcome: "kept" | "unchanged"; readonly records: readonly KeptByAct[] }
  /** Another act has this id. */
  | { readonly outcome: "other-act" }
  /** A record was changed meanwhile, or is kept under this id with another body. */
  | { readonly outcome: "conflict"; readonly put: number; readonly record: Kept }
  | { readonly outcome: "missing"; readonly put: number }
  | { readonly outcome: "refused"; readonly errors: readonly FieldError[] }
  | { readonly outcome: "in-use"; readonly put: number; readonly words: string };

/** What stands in the way of an act. */
type Refusal = Exclude<ActOutcome, { readonly outcome: "kept" | "unchanged" }>;

const isVoid = (put: Put): put is Put & { readonly voided: true } => "voided" in put;
const versionOf = ({ replaces = 0 }: Put) => replaces + 1;

/** JSON as it will come back: no undefined, no prototype. */
const plainJson = (value: unknown): unknown => JSON.parse(JSON.stringify(value));

export class Records {
  constructor(
    private readonly manager: EntityManager,
    private readonly crewId: string,
    private readonly kinds: StoredKinds,
  ) {}

  /** One record, taken back or not. */
  async get(kind: string, id: string): Promise<Kept | undefined> {
    const rows = await rowsOf(this.manager, this.crewId, this.kinds, [{ kind, id }]);
    return (await this.assemble(rows))[0];
  }

  /** A page in the order of ids, which is the order in which UUIDv7 ids were made. What was taken back is left out. */
  async list(name: string, limit: number, after?: string): Promise<Page<Kept>> {
    const { kind } = this.stored(name);
    const rows: readonly { readonly row: JsonRow }[] = await this.manager.query(
      `SELECT to_jsonb(kept) AS row FROM "${kind.table}" AS kept
       WHERE crew_id = $1 AND NOT voided AND ($2::uuid IS NULL OR id > $2) ORDER BY id LIMIT $3`,
      [this.crewId, after ?? null, limit + 1],
    );
    const page = rows.slice(0, limit).map(({ row }) => ({ kind: name, row }));
    const items = await this.assemble(page);
    const shape = currentShape(kind);
    return rows.length > limit ? { items, shape, next: items[items.length - 1]!.id } : { items, shape };
  }

  /** Every version, oldest first, with the act that made it and who did it; a void has no body. */
  async versions(name: string, id: string) {
    const { kind } = this.stored(name);
    const rows = await this.manager.find(VERSIONS, {
      where: { crewId: this.crewId, kind: name, id },
      order: { version: "ASC" },
    });
    const acts = await this.manager.findBy(ACTS, { crewId: this.crewId, id: In(rows.map((row) => row.actId)) });
    const actById = new Map(acts.map((act) => [act.id, act]));
    return rows.map(({ version, voided, body, shape, seq, actId, acceptedAt }) => {
      const act = actById.get(actId)!;
      return {
        version,
        voided,
        ...(voided || body === null ? {} : { body: upcast(kind, body as Body, shape) }),
        seq: Number(seq),
        act: { id: actId, what: act.what, at: act.at.toISOString() },
        ...(act.author === null ? {} : { author: act.author }),
        acceptedAt: acceptedAt.toISOString(),
      };
    });
  }

  /** Keeps one record: an act of one. */
  put(put: Put, author?: string): Promise<ActOutcome> {
    const { kind } = this.stored(put.kind);
    const done = isVoid(put) ? "taken back" : put.replaces === undefined ? "kept" : "changed";
    const what = `${kind.one.replace(/^./, (first) => first.toUpperCase())} ${done}`;
    return this.act(randomUUID(), { at: new Date().toISOString(), what, puts: [put] }, author);
  }

  /**
   * Keeps all of an act, or nothing of it. Sending the same again changes nothing, whether as this act or as others; an
   * edit of a version that is no longer the newest is a conflict.
   *
   * A repeated send is answered before anything is locked. The crew's counter is locked first in every write, so that no
   * two writes of a crew wait for each other in a ring, and what was looked at stands until it is kept.
   */
  async act(id: string, asked: Act, author?: string): Promise<ActOutcome> {
    const { act, saidAt } = await withBeside(this.manager, this.crewId, this.kinds, asked);
    const outcome = await this.whole(id, act, author);
    if (outcome.outcome === "refused")
      return { ...outcome, errors: outcome.errors.map((each) => ({ ...each, path: saidAt(each.path) })) };
    // Whoever sent an earlier shape does not know what was kept beside.
    return "records" in outcome ? { ...outcome, records: outcome.records.slice(0, asked.puts.length) } : outcome;
  }

  private async whole(id: string, act: Act, author?: string): Promise<ActOutcome> {
    if ((await this.acceptedOf(act)).size === act.puts.length)
      return { outcome: "unchanged", records: await this.recordsOf(act) };
    const last = await this.takeNumbers(act.puts.length);
    const accepted = await this.acceptedOf(act);
    const done = await this.repeated(id, act, accepted);
    if (done) return done;
    const fresh = act.puts.filter((put) => !accepted.has(put));
    const references = this.referencesOf(act);
    const newest = await newestOf(this.manager, this.crewId, [...act.puts, ...references]);
    const refusal =
      (await this.stale(act, fresh, newest)) ??
      this.strangers(references, newest) ??
      (await this.takenBack(act, fresh, references, newest)) ??
      (await this.inUse(act, fresh));
    if (refusal) return refusal;
    const { at, what, undoes = null } = act;
    await this.manager.insert(ACTS, {
      ...{ crewId: this.crewId, id, at: new Date(at), what, undoes },
      ...{ author: author ?? null, acceptedAt: new Date() },
    });
    const numbered = fresh.map((put, i) => ({
      put,
      version: versionOf(put),
      seq: last - act.puts.length + 1 + i,
    }));
    await writeAll(this.manager, this.crewId, this.kinds, id, numbered);
    return { outcome: "kept", records: await this.recordsOf(act) };
  }

  private stored(name: string): StoredKind {
    const stored = this.kinds[name];
    if (!stored) throw new Error(`There is no kind of record called ${name}.`);
    return stored;
  }

  /** Locks the crew's counter until the transaction ends. @returns the last of as many new numbers */
  private async takeNumbers(count: number): Promise<number> {
    const rows: { last: string }[] = await this.manager.query(
      `INSERT INTO crew_counter (crew_id, last) VALUES ($1, $2)
       ON CONFLICT (crew_id) DO UPDATE SET last = crew_counter.last + $2 RETURNING last`,
      [this.crewId, count],
    );
    return Number(rows[0]!.last);
  }

  /** The answer to an act that was kept before, or to one that asks for nothing new. */
  private async repeated(id: string, act: Act, accepted: ReadonlySet<Put>): Promise<ActOutcome | undefined> {
    if (accepted.size === act.puts.length) return { outcome: "unchanged", records: await this.recordsOf(act) };
    return (await this.manager.existsBy(ACTS, { crewId: this.crewId, id })) ? { outcome: "other-act" } : undefined;
  }

  /** Which of an act's puts are kept already, just so. */
  private async acceptedOf({ puts }: Act): Promise<ReadonlySet<Put>> {
    const asked = puts.map((put) => ({ kind: put.kind, id: put.id, version: versionOf(put) }));
    const known = await versionsOf(this.manager, this.crewId, asked);
    return new Set(puts.filter((put) => this.isSame(put, known.get(keyOf(put)))));
  }

  private isSame(put: Put, row: KnownVersion | undefined): boolean {
    if (!row || row.voided !== isVoid(put)) return false;
    if (isVoid(put)) return true;
    const before = upcast(this.stored(put.kind).kind, row.body as Body, row.shape);
    return isDeepStrictEqual(plainJson(before), plainJson(put.body));
  }

  /** The first put that starts from another version than the newest. */
  private async stale(
    { puts }: Act,
    fresh: readonly Put[],
    newest: ReadonlyMap<string, Newest>,
  ): Promise<Refusal | undefined> {
    for (const put of fresh) {
      const known = newest.get(keyOf(put));
      if (!known && put.replaces !== undefined) return { outcome: "missing", put: puts.indexOf(put) };
      if (known && known.version !== put.replaces)
        return { outcome: "conflict", put: puts.indexOf(put), record: (await this.get(put.kind, put.id))! };
    }
    return undefined;
  }

  /** What an act names and does not bring itself. */
  private referencesOf({ puts }: Act): readonly NamedBy[] {
    const brought = new Set(puts.filter((put) => !isVoid(put)).map(keyOf));
    return puts.flatMap((put, i) =>
      isVoid(put)
        ? []
        : referencesIn(this.stored(put.kind).kind, put.body)
            .map(({ to, id, path }) => ({ kind: to, id, path: `puts.${i}.body.${path}`, by: put }))
            .filter((reference) => !brought.has(keyOf(reference))),
    );
  }

  /** What an act names that this crew does not have, and that the act does not bring. */
  private strangers(references: readonly NamedBy[], newest: ReadonlyMap<string, Newest>): Refusal | undefined {
    const errors = references
      .filter((reference) => !newest.has(keyOf(reference)))
      .map(({ kind, path }) => ({ path, message: `This ${this.stored(kind).kind.one} is not known here.` }));
    return errors.length > 0 ? { outcome: "refused", errors } : undefined;
  }

  /** What an act newly names though it was taken back. */
  private async takenBack(
    act: Act,
    fresh: readonly Put[],
    references: readonly NamedBy[],
    newest: ReadonlyMap<string, Newest>,
  ): Promise<Refusal | undefined> {
    const gone = references.filter((each) => fresh.includes(each.by) && newest.get(keyOf(each))!.voided);
    if (gone.length === 0) return undefined;
    const excused = await takenBackBefore(this.manager, this.crewId, this.kinds, act, gone, newest);
    const errors = gone
      .filter((each) => !excused.has(each))
      .map(({ kind, path }) => {
        const { one } = this.stored(kind).kind;
        return { path, message: `This ${one} was taken back: choose another, or bring the ${one} back first.` };
      });
    return errors.length > 0 ? { outcome: "refused", errors } : undefined;
  }

  /** The first record to be taken back that something in use names, as it will be after this act. */
  private async inUse({ puts }: Act, fresh: readonly Put[]): Promise<Refusal | undefined> {
    const leaving = fresh.filter(isVoid);
    if (leaving.length === 0) return undefined;
    const own = new Set(puts.map(keyOf));
    const found = (await namingAny(this.manager, this.crewId, this.kinds, leaving)).filter(
      (each) => !own.has(keyOf(each)),
    );
    for (const put of leaving) {
      const users = this.usersOf(put, puts, found);
      if (users.length > 0)
        return { outcome: "in-use", put: puts.indexOf(put), words: inUseWords(this.stored(put.kind).kind, users) };
    }
    return undefined;
  }

  /** Who names a record, by kinds: of those in use, and of what an act brings. */
  private usersOf(put: Put, puts: readonly Put[], found: readonly Naming[]): readonly Users[] {
    const isIt = ({ to, id }: { readonly to: string; readonly id: string }) => to === put.kind && id === put.id;
    const users: Users[] = [];
    for (const [name, { kind, columns }] of Object.entries(this.kinds)) {
      if (!mayName(kind, put.kind)) continue;
      const others = new Map(
        found
          .filter(
            (each) =>
              each.kind === name &&
              each.target === put.id &&
              (each.row ? referencesIn(kind, fromRow(columns, each.row)).some(isIt) : each.to === put.kind),
          )
          .map((each) => [each.id, each.name]),
      );
      const brought = puts.filter(
        (each) => each.kind === name && !isVoid(each) && referencesIn(kind, each.body).some(isIt),
      );
      const count = others.size + brought.length;
      const first = [...others.values()][0] ?? undefined;
      if (count > 0) users.push({ kind, count, ...(first === undefined ? {} : { name: first }) });
    }
    return users;
  }

  private async recordsOf({ puts }: Act): Promise<readonly KeptByAct[]> {
    const rows = await rowsOf(this.manager, this.crewId, this.kinds, puts);
    const records = await this.assemble(rows);
    const found = new Map(records.map((record, i) => [keyOf({ kind: rows[i]!.kind, id: record.id }), record]));
    return puts.map((put) => ({ kind: put.kind, record: found.get(keyOf(put))! }));
  }

  /** Rows as records, with the rows of their lists. */
  private async assemble(rows: readonly FoundRow[]): Promise<readonly Kept[]> {
    const lists = new Map<string, readonly Body[]>();
    for (const name of new Set(rows.map(({ kind }) => kind)))
      for (const list of this.stored(name).items) {
        const parent = `${this.stored(name).kind.table}_id`;
        const ids = rows.flatMap(({ kind, row }) => (kind === name ? [row["id"]] : []));
        const items: readonly { readonly row: JsonRow }[] = await this.manager.query(
          `SELECT to_jsonb(item) AS row FROM "${list.table}" AS item
           WHERE crew_id = $1 AND "${parent}" = ANY($2::uuid[]) ORDER BY "${parent}", position`,
          [this.crewId, ids],
        );
        for (const { row } of items) {
          const key = `${list.field} ${String(row[parent])}`;
          const item = { id: row["id"], ...fromRow(list.columns, row) };
          lists.set(key, [...(lists.get(key) ?? []), item]);
        }
      }
    return rows.map(({ kind, row }) => {
      const { columns, items } = this.stored(kind);
      const id = String(row["id"]);
      return {
        ...fromRow(columns, row),
        ...Object.fromEntries(items.map(({ field }) => [field, lists.get(`${field} ${id}`) ?? []])),
        id,
        version: Number(row["version"]),
        voided: row["voided"] === true,
      };
    });
  }
}
