import "reflect-metadata";
import { DataSource } from "typeorm";
import { FirstRecords1795000000001 } from "./migrations/0001-first-records";
import { KnowTheWater1795400000002 } from "./migrations/0002-know-the-water";
import { SizeIt1795600000003 } from "./migrations/0003-size-it";
import { TrueRack1795700000004 } from "./migrations/0004-true-rack";
import { Acts1795800000005 } from "./migrations/0005-acts";
import { Weeks1795900000006 } from "./migrations/0006-weeks";
import { Pressure1796000000007 } from "./migrations/0007-pressure";
import { RefillSteps1796100000008 } from "./migrations/0008-refill-steps";
import { Arrangements1796200000009 } from "./migrations/0009-arrangements";
import { ENTITIES } from "./tables";

export interface DatabaseAddress {
  readonly port: number;
  readonly database: string;
  readonly user: string;
  readonly password: string;
}

/** Named one by one: a pattern of file names matches nothing in a bundle. */
const MIGRATIONS = [
  FirstRecords1795000000001,
  KnowTheWater1795400000002,
  SizeIt1795600000003,
  TrueRack1795700000004,
  Acts1795800000005,
  Weeks1795900000006,
  Pressure1796000000007,
  RefillSteps1796100000008,
  Arrangements1796200000009,
];

/** Milliseconds: of a statement whose request was given up before, and of waiting for a row that another write holds. */
const LONGEST_STATEMENT = 5_000;
const LONGEST_LOCK = 2_000;
export const SERVING = { statement_timeout: LONGEST_STATEMENT, lock_timeout: LONGEST_LOCK } as const;

/** Names of the migrations this program knows, oldest first. */
export const MIGRATION_NAMES = MIGRATIONS.map((migration) => migration.name);

/**
 * A connection pool over the records; opened by the caller.
 * @param bounds how long the database may take; none for work that has its time, such as a migration
 * @param steps how many of the migrations it knows, the first ones: all but for a backup from before
 */
export const dataSource = (
  { port, database, user, password }: DatabaseAddress,
  bounds: Partial<typeof SERVING> = {},
  steps = MIGRATIONS.length,
) =>
  new DataSource({
    type: "postgres",
    host: "127.0.0.1",
    port,
    database,
    username: user,
    password,
    entities: ENTITIES,
    migrations: MIGRATIONS.slice(0, steps),
    migrationsTransactionMode: "each",
    synchronize: false,
    uuidExtension: "pgcrypto",
    installExtensions: false,
    poolSize: 10,
    extra: { connectionTimeoutMillis: 3_000, ...bounds },
    logging: false,
  });

/** Names of migrations in the database that this program does not know: it was written by a newer one. */
export async function unknownMigrations(source: DataSource): Promise<string[]> {
  const [found] = await source.query(`SELECT to_regclass('public.migrations') IS NOT NULL AS present`);
  if (!found.present) return [];
  const rows: { name: string }[] = await source.query(`SELECT name FROM migrations ORDER BY id`);
  const known = new Set(source.migrations.map((migration) => migration.name));
  return rows.map((row) => row.name).filter((name) => !known.has(name));
}
