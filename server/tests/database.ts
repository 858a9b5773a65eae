import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { DataSource } from "typeorm";
import { dataSource } from "../src/store/data-source";
import type { RunningServer } from "./running-server";

/** A way into a running server's database, as one of its two users. */
export function database({ dataFolder }: RunningServer, user: "app" | "owner"): Promise<DataSource> {
  const secrets = JSON.parse(readFileSync(join(dataFolder, "secrets.json"), "utf8")) as Record<string, string>;
  const port = Number(readFileSync(join(dataFolder, "postgres", "postmaster.pid"), "utf8").split("\n")[3]);
  const password = secrets[`${user}Password`]!;
  return dataSource({ port, database: "winter_bead", user: `winter_bead_${user}`, password }).initialize();
}

/** Takes migrations back, newest first, until this one is undone too. */
export async function undoThrough(owner: DataSource, migration: string): Promise<void> {
  const done = async () =>
    (await owner.query(`SELECT name FROM migrations ORDER BY id DESC`)) as readonly { readonly name: string }[];
  if (!(await done()).some(({ name }) => name === migration)) throw new Error(`${migration} was never run.`);
  while ((await done()).some(({ name }) => name === migration)) await owner.undoLastMigration();
}
