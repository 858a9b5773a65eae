import { isDeepStrictEqual } from "node:util";
import type { FieldError, Page, RecordKind, Stored } from "@winter-bead/contract";
import type { ReadingRecord, Stage } from "@winter-bead/core";
import { MoreThan, type EntityManager } from "typeorm";
import { READINGS, TABLES, VERSIONS, type ReadingRow, type Row } from "./entities";

/** A record's fields as they came over the wire, checked. */
export type Body = { readonly [field: string]: unknown };
export type Kept = Stored<Body & { readonly id: string }>;

export interface Revision {
  /** The version an edit started from; absent for a new record. */
  readonly replaces?: number;
  readonly voided: boolean;
}

export type PutOutcome =
  | { readonly outcome: "created" | "unchanged" | "changed"; readonly record: Kept }
  | { readonly outcome: "conflict"; readonly record: Kept }
  | { readonly outcome: "missing" }
  | { readonly outcome: "refused"; readonly errors: readonly FieldError[] };

const DATES = new Set(["at", "filledAt", "keptAt", "inUseSince"]);

function toRow(
  crewId: string,
  id: string,
  version: number,
  voided: boolean,
  body: Body,
  columns: readonly string[],
): Row {
  const row: Row = { crewId, id, version, voided };
  for (const column of columns) {
    const value = body[column];
    row[column] = value === undefined ? null : DATES.has(column) ? new Date(value as string) : value;
  }
  return row;
}

/** Fields of the record itself, in the order of its table. */
const ownColumns = (kind: RecordKind) =>
  Object.keys(TABLES[kind].options.columns).filter((name) => !["crewId", "id", "version", "voided"].includes(name));

const present = (entries: [string, unknown][]) =>
  Object.fromEntries(entries.filter(([, value]) => value !== null && value !== undefined));

function fromRow(kind: RecordKind, row: Row, readings: readonly ReadingRow[] | undefined): Kept {
  const fields = ownColumns(kind).map((name): [string, unknown] => [
    name,
    row[name] instanceof Date ? (row[name] as Date).toISOString() : row[name],
  ]);
  return {
    ...present(fields),
    ...(readings && { readings: readings.map(readingFromRow) }),
    id: row.id,
    version: row.version,
    voided: row.voided,
  };
}

const readingFromRow = ({ id, point, meterId, scale, value, temperature, confirmed }: ReadingRow) =>
  present(Object.entries({ id, point, meterId, scale, value, temperature, confirmed }));

/** JSON as it will come back: no undefined, no prototype. */
const plainJson = (value: unknown): unknown => JSON.parse(JSON.stringify(value));

export class Records {
  constructor(
    private readonly manager: EntityManager,
    private readonly crewId: string,
  ) {}

  /** One record, voided or not. */
  async get(kind: RecordKind, id: string): Promise<Kept | undefined> {
    const row = await this.manager.findOneBy(TABLES[kind], { crewId: this.crewId, id });
    return row ? this.assemble(kind, row) : undefined;
  }

  /** A page in the order of ids, which is the order in which UUIDv7 ids were made. Voided records are left out. */
  async list(kind: RecordKind, limit: number, after?: string): Promise<Page<Kept>> {
    const rows = await this.manager.find(TABLES[kind], {
      where: { crewId: this.crewId, voided: false, ...(after === undefined ? {} : { id: MoreThan(after) }) },
      order: { id: "ASC" },
      take: limit + 1,
    });
    const page = rows.slice(0, limit);
    const readings = kind === "visits" ? await this.readingsOf(page.map((row) => row.id)) : undefined;
    const items = page.map((row) => fromRow(kind, row, readings && (readings.get(row.id) ?? [])));
    return rows.length > limit ? { items, next: page[page.length - 1]!.id } : { items };
  }

  async versions(kind: RecordKind, id: string) {
    const rows = await this.manager.find(VERSIONS, {
      where: { crewId: this.crewId, kind, id },
      order: { version: "ASC" },
    });
    return rows.map(({ version, voided, body, acceptedAt }) => ({
      version,
      voided,
      body,
      acceptedAt: acceptedAt.toISOString(),
    }));
  }

  /**
   * Keeps a record. Sending the same again changes nothing; the same id with another body, or an edit of a version that is
   * no longer the newest, is a conflict.
   */
  async put(kind: RecordKind, id: string, body: Body, revision: Revision): Promise<PutOutcome> {
    const row = await this.manager.findOne(TABLES[kind], {
      where: { crewId: this.crewId, id },
      lock: { mode: "pessimistic_write" },
    });
    const { replaces = 0 } = revision;
    if (!row && replaces > 0) return { outcome: "missing" };
    if (row) {
      const repeated = await this.wasAccepted(kind, id, replaces + 1, body, revision.voided);
      if (repeated || row.version !== replaces)
        return { outcome: repeated ? "unchanged" : "conflict", record: await this.assemble(kind, row) };
    }
    const strangers = await this.unknownVessels(kind, body);
    if (strangers.length > 0) return { outcome: "refused", errors: strangers };
    await this.write(kind, id, replaces + 1, body, revision.voided);
    const record = (await this.get(kind, id))!;
    return { outcome: row ? "changed" : "created", record };
  }

  private async wasAccepted(
    kind: RecordKind,
    id: string,
    version: number,
    body: Body,
    voided: boolean,
  ): Promise<boolean> {
    const known = await this.manager.findOneBy(VERSIONS, { crewId: this.crewId, kind, id, version });
    return known !== null && known.voided === voided && isDeepStrictEqual(plainJson(known.body), plainJson(body));
  }

  private async write(kind: RecordKind, id: string, version: number, body: Body, voided: boolean): Promise<void> {
    const row = toRow(this.crewId, id, version, voided, body, ownColumns(kind));
    if (version === 1) await this.manager.insert(TABLES[kind], row as never);
    else await this.manager.update(TABLES[kind], { crewId: this.crewId, id }, row as never);
    if (kind === "visits") await this.writeReadings(id, body["readings"] as readonly ReadingRecord[]);
    await this.manager.insert(VERSIONS, {
      crewId: this.crewId,
      kind,
      id,
      version,
      voided,
      body: body as never,
      acceptedAt: new Date(),
    });
  }

  private async writeReadings(visitId: string, readings: readonly ReadingRecord[]): Promise<void> {
    await this.manager.delete(READINGS, { crewId: this.crewId, visitId });
    const rows = readings.map(({ id, point, meterId, scale, value, temperature, confirmed }, position) => ({
      crewId: this.crewId,
      id,
      visitId,
      position,
      point,
      meterId: meterId ?? null,
      scale: scale ?? null,
      value,
      temperature: temperature ?? null,
      confirmed: confirmed ?? null,
    }));
    if (rows.length > 0) await this.manager.insert(READINGS, rows as never);
  }

  /** Vessels named in a rig's stages that this crew does not have. */
  private async unknownVessels(kind: RecordKind, body: Body): Promise<FieldError[]> {
    if (kind !== "rigs") return [];
    const errors: FieldError[] = [];
    for (const [i, stage] of (body["stages"] as readonly Stage[]).entries()) {
      if (
        stage.kind === "resin" &&
        !(await this.manager.existsBy(TABLES.vessels, { crewId: this.crewId, id: stage.vesselId }))
      ) {
        errors.push({ path: `stages.${i}.vesselId`, message: "This vessel is not known here." });
      }
    }
    return errors;
  }

  private async assemble(kind: RecordKind, row: Row): Promise<Kept> {
    const readings = kind === "visits" ? ((await this.readingsOf([row.id])).get(row.id) ?? []) : undefined;
    return fromRow(kind, row, readings);
  }

  private async readingsOf(visitIds: readonly string[]): Promise<Map<string, ReadingRow[]>> {
    const byVisit = new Map<string, ReadingRow[]>();
    if (visitIds.length === 0) return byVisit;
    const rows = await this.manager
      .createQueryBuilder(READINGS, "reading")
      .where("reading.crewId = :crewId AND reading.visitId = ANY(:visitIds)", {
        crewId: this.crewId,
        visitIds: [...visitIds],
      })
      .orderBy("reading.visitId")
      .addOrderBy("reading.position")
      .getMany();
    for (const row of rows) byVisit.set(row.visitId, [...(byVisit.get(row.visitId) ?? []), row]);
    return byVisit;
  }
}
