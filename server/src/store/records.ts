import { randomUUID } from "node:crypto";
import { isDeepStrictEqual } from "node:util";
import type { Act, FieldError, Page, Put, Stored } from "@winter-bead/contract";
import { currentShape, inUseWords, upcast, type Users } from "@winter-bead/core";
import { mayName, referencesIn } from "@winter-bead/core/src/descriptor/references";
import { In, MoreThan, type EntityManager } from "typeorm";
import { withBeside } from "./beside-old";
import { names, rowsNaming } from "./naming";
import { fromRow, toItemRow, toRow } from "./rows";
import { ACTS, VERSIONS, type ItemRow, type Row, type StoredKind, type StoredKinds, type VersionRow } from "./tables";

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
  async get(name: string, id: string): Promise<Kept | undefined> {
    const stored = this.stored(name);
    const row = await this.manager.findOneBy(stored.entity, { crewId: this.crewId, id });
    return row ? (await this.assemble(stored, [row]))[0] : undefined;
  }

  /** A page in the order of ids, which is the order in which UUIDv7 ids were made. What was taken back is left out. */
  async list(name: string, limit: number, after?: string): Promise<Page<Kept>> {
    const stored = this.stored(name);
    const rows = await this.manager.find(stored.entity, {
      where: { crewId: this.crewId, voided: false, ...(after === undefined ? {} : { id: MoreThan(after) }) },
      order: { id: "ASC" },
      take: limit + 1,
    });
    const page = rows.slice(0, limit);
    const items = await this.assemble(stored, page);
    const shape = currentShape(stored.kind);
    return rows.length > limit ? { items, shape, next: page[page.length - 1]!.id } : { items, shape };
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
    const refusal = (await this.stale(act, fresh)) ?? (await this.strangers(act)) ?? (await this.inUse(act, fresh));
    if (refusal) return refusal;
    // What an act brings may name what it brings further on.
    if (fresh.length > 1) await this.manager.query("SET CONSTRAINTS ALL DEFERRED");
    const { at, what, undoes = null } = act;
    await this.manager.insert(ACTS, {
      ...{ crewId: this.crewId, id, at: new Date(at), what, undoes },
      ...{ author: author ?? null, acceptedAt: new Date() },
    });
    for (const [i, put] of fresh.entries()) await this.write(put, last - act.puts.length + 1 + i, id);
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
    const rows = await this.manager.findBy(
      VERSIONS,
      puts.map((put) => ({ crewId: this.crewId, kind: put.kind, id: put.id, version: versionOf(put) })),
    );
    const byRecord = new Map(rows.map((row) => [`${row.kind} ${row.id}`, row]));
    return new Set(puts.filter((put) => this.isSame(put, byRecord.get(`${put.kind} ${put.id}`))));
  }

  private isSame(put: Put, row: VersionRow | undefined): boolean {
    if (!row || row.voided !== isVoid(put)) return false;
    if (isVoid(put)) return true;
    const before = upcast(this.stored(put.kind).kind, row.body as Body, row.shape);
    return isDeepStrictEqual(plainJson(before), plainJson(put.body));
  }

  /** The first put that starts from another version than the newest. */
  private async stale({ puts }: Act, fresh: readonly Put[]): Promise<Refusal | undefined> {
    for (const put of fresh) {
      const record = await this.get(put.kind, put.id);
      if (!record && put.replaces !== undefined) return { outcome: "missing", put: puts.indexOf(put) };
      if (record && record.version !== put.replaces) return { outcome: "conflict", put: puts.indexOf(put), record };
    }
    return undefined;
  }

  /** What an act names that this crew does not have, and that the act does not bring. */
  private async strangers({ puts }: Act): Promise<Refusal | undefined> {
    const brought = new Set(puts.map(({ kind, id }) => `${kind} ${id}`));
    const named = puts.flatMap((put, i) =>
      isVoid(put)
        ? []
        : referencesIn(this.stored(put.kind).kind, put.body)
            .filter(({ to, id }) => !brought.has(`${to} ${id}`))
            .map((reference) => ({ ...reference, put: i })),
    );
    const errors: FieldError[] = [];
    for (const to of new Set(named.map((each) => each.to))) {
      const ofKind = named.filter((each) => each.to === to);
      const ids = [...new Set(ofKind.map((each) => each.id))];
      const { entity, kind } = this.stored(to);
      const rows = await this.manager.find(entity, {
        where: { crewId: this.crewId, id: In(ids) },
        select: { id: true } as never,
      });
      const here = new Set(rows.map((row) => row.id));
      for (const { id, path, put } of ofKind)
        if (!here.has(id))
          errors.push({ path: `puts.${put}.body.${path}`, message: `This ${kind.one} is not known here.` });
    }
    return errors.length > 0 ? { outcome: "refused", errors } : undefined;
  }

  /** The first record to be taken back that something in use names, as it will be after this act. */
  private async inUse({ puts }: Act, fresh: readonly Put[]): Promise<Refusal | undefined> {
    for (const put of fresh) {
      if (!isVoid(put)) continue;
      const users: Users[] = [];
      for (const [name, stored] of Object.entries(this.kinds)) {
        if (!mayName(stored.kind, put.kind)) continue;
        const own = puts.filter((each) => each.kind === name);
        const others = (await rowsNaming(this.manager, this.crewId, stored, put)).filter(
          (row) => !own.some((each) => each.id === row.id),
        );
        const brought = own.filter((each) => !isVoid(each) && names(stored.kind, each.body, put));
        const count = others.length + brought.length;
        const first = others[0]?.["name"];
        if (count > 0)
          users.push({ kind: stored.kind, count, ...(first === undefined ? {} : { name: String(first) }) });
      }
      if (users.length > 0)
        return { outcome: "in-use", put: puts.indexOf(put), words: inUseWords(this.stored(put.kind).kind, users) };
    }
    return undefined;
  }

  private async recordsOf({ puts }: Act): Promise<readonly KeptByAct[]> {
    const found = new Map<string, Kept>();
    for (const name of new Set(puts.map(({ kind }) => kind))) {
      const stored = this.stored(name);
      const ids = puts.filter(({ kind }) => kind === name).map(({ id }) => id);
      const rows = await this.manager.findBy(stored.entity, { crewId: this.crewId, id: In(ids) });
      for (const record of await this.assemble(stored, rows)) found.set(`${name} ${record.id}`, record);
    }
    return puts.map(({ kind, id }) => ({ kind, record: found.get(`${kind} ${id}`)! }));
  }

  private async write(put: Put, seq: number, actId: string): Promise<void> {
    const stored = this.stored(put.kind);
    const version = versionOf(put);
    const where = { crewId: this.crewId, id: put.id };
    const body = isVoid(put) ? null : put.body;
    const row = { ...where, version, voided: body === null, ...(body && toRow(stored.columns, body)) };
    if (version === 1) await this.manager.insert(stored.entity, row as never);
    else await this.manager.update(stored.entity, where, row as never);
    if (body) await this.writeItems(stored, put.id, body);
    await this.manager.insert(VERSIONS, {
      ...where,
      kind: put.kind,
      version,
      seq: String(seq),
      actId,
      voided: body === null,
      shape: currentShape(stored.kind),
      body: body as never,
      acceptedAt: new Date(),
    });
  }

  private async writeItems({ items }: StoredKind, parentId: string, body: Body): Promise<void> {
    for (const { entity, columns, field } of items) {
      await this.manager.delete(entity, { crewId: this.crewId, parentId } as never);
      const rows = ((body[field] as readonly Body[] | undefined) ?? []).map((item, position) => ({
        crewId: this.crewId,
        parentId,
        position,
        ...toItemRow(columns, item),
      }));
      if (rows.length > 0) await this.manager.insert(entity, rows as never);
    }
  }

  private async assemble({ columns, items }: StoredKind, rows: readonly Row[]): Promise<readonly Kept[]> {
    const lists = new Map<string, Map<string, ItemRow[]>>();
    for (const { entity, field } of items)
      lists.set(field, groupedByParent(rows.length === 0 ? [] : await this.itemsOf(entity, rows)));
    return rows.map((row) => ({
      ...fromRow(columns, row),
      ...Object.fromEntries(
        items.map(({ field, columns: of }) => [
          field,
          (lists.get(field)!.get(row.id) ?? []).map((item) => ({ id: item.id, ...fromRow(of, item) })),
        ]),
      ),
      id: row.id,
      version: row.version,
      voided: row.voided,
    }));
  }

  private itemsOf(entity: StoredKind["items"][number]["entity"], rows: readonly Row[]): Promise<ItemRow[]> {
    return this.manager
      .createQueryBuilder(entity, "item")
      .where("item.crewId = :crewId AND item.parentId = ANY(:ids)", {
        crewId: this.crewId,
        ids: rows.map((row) => row.id),
      })
      .orderBy("item.parentId")
      .addOrderBy("item.position")
      .getMany();
  }
}

function groupedByParent(items: readonly ItemRow[]): Map<string, ItemRow[]> {
  const byParent = new Map<string, ItemRow[]>();
  for (const item of items) byParent.set(item.parentId, [...(byParent.get(item.parentId) ?? []), item]);
  return byParent;
}
