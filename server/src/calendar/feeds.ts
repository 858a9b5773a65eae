import { createHash, randomBytes, timingSafeEqual } from "node:crypto";
import { calendarFile } from "@winter-bead/contract/src/calendar-file";
import type { CalendarRecords } from "@winter-bead/core/src/weeks";
import { IsNull, type EntityManager } from "typeorm";
import { v7 as uuidv7 } from "uuid";
import { FEEDS } from "../store/beside";
import { fromRow, type JsonRow } from "../store/rows";
import { STORED } from "../store/tables";

const SECRET_BYTES = 24;
const ID_BYTES = 16;
const asBytes = (uuid: string) => Buffer.from(uuid.replaceAll("-", ""), "hex");
const asUuid = (bytes: Buffer) => bytes.toString("hex").replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, "$1-$2-$3-$4-$5");
const hashOf = (secret: Buffer) => createHash("sha256").update(secret).digest();

/** What an address holds: whose calendar, which feed, and its secret. */
export interface FeedKey {
  readonly crewId: string;
  readonly id: string;
  readonly secret: Buffer;
}

/** @returns undefined for what is no key of a feed */
export function readKey(text: string): FeedKey | undefined {
  const bytes = /^[\w-]+$/.test(text) ? Buffer.from(text, "base64url") : Buffer.alloc(0);
  if (bytes.length !== 2 * ID_BYTES + SECRET_BYTES) return undefined;
  return {
    crewId: asUuid(bytes.subarray(0, ID_BYTES)),
    id: asUuid(bytes.subarray(ID_BYTES, 2 * ID_BYTES)),
    secret: bytes.subarray(2 * ID_BYTES),
  };
}

/** Feeds in use, newest last. */
export const listFeeds = async (manager: EntityManager, crewId: string) =>
  (await manager.find(FEEDS, { where: { crewId, revokedAt: IsNull() }, order: { madeAt: "ASC" } })).map(
    ({ id, name, madeAt, readAt }) => ({
      id,
      name,
      madeAt: madeAt.toISOString(),
      ...(readAt ? { readAt: readAt.toISOString() } : {}),
    }),
  );

/** Makes a feed. @returns its key, told this once */
export async function makeFeed(manager: EntityManager, crewId: string, name: string) {
  const secret = randomBytes(SECRET_BYTES);
  const [id, madeAt] = [uuidv7(), new Date()];
  await manager.insert(FEEDS, { crewId, id, name, secretHash: hashOf(secret), madeAt });
  const key = Buffer.concat([asBytes(crewId), asBytes(id), secret]).toString("base64url");
  return { id, name, madeAt: madeAt.toISOString(), key };
}

/** Takes a feed back. @returns false where there is none in use */
export async function revokeFeed(manager: EntityManager, crewId: string, id: string): Promise<boolean> {
  const { affected } = await manager.update(FEEDS, { crewId, id, revokedAt: IsNull() }, { revokedAt: new Date() });
  return (affected ?? 0) > 0;
}

/** Whether a key opens its feed; noted when it does. */
export async function opens(manager: EntityManager, { crewId, id, secret }: FeedKey): Promise<boolean> {
  const feed = await manager.findOneBy(FEEDS, { crewId, id, revokedAt: IsNull() });
  if (!feed || !timingSafeEqual(feed.secretHash, hashOf(secret))) return false;
  await manager.update(FEEDS, { crewId, id }, { readAt: new Date() });
  return true;
}

/** Days that what was taken back stays in the calendar as cancelled, so that every follower hears of it. */
const TOLD_DAYS = 90;
const DAY = 86_400_000;

/** A crew's records of a kind, what was taken back among them. */
async function allOf<T>(manager: EntityManager, crewId: string, kind: string): Promise<readonly T[]> {
  const { columns, kind: described } = STORED[kind]!;
  const rows: readonly { readonly row: JsonRow }[] = await manager.query(
    `SELECT to_jsonb(kept) AS row FROM "${described.table}" AS kept WHERE crew_id = $1`,
    [crewId],
  );
  return rows.map(
    ({ row }) => ({ id: row["id"], version: row["version"], voided: row["voided"], ...fromRow(columns, row) }) as T,
  );
}

/** The crew's calendar as it stands. */
export async function crewCalendar(manager: EntityManager, crewId: string, now: number): Promise<string> {
  const since = new Date(now - TOLD_DAYS * DAY).toISOString().slice(0, 10);
  type Records = CalendarRecords;
  const rigs = await allOf<Records["rigs"][number]>(manager, crewId, "rigs");
  const meters = await allOf<Records["meters"][number]>(manager, crewId, "meters");
  const bookings = await allOf<Records["bookings"][number]>(manager, crewId, "bookings");
  const daysOff = await allOf<Records["daysOff"][number]>(manager, crewId, "days-off");
  const appointments = await allOf<Records["appointments"][number]>(manager, crewId, "appointments");
  return calendarFile(
    {
      ...{ rigs, meters },
      bookings: bookings.filter(({ on }) => on >= since),
      daysOff: daysOff.filter(({ until }) => until >= since),
      appointments: appointments.filter(({ on }) => on >= since),
    },
    now,
  );
}
