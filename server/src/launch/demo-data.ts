import { spawnSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { RECORDS } from "@winter-bead/contract";
import type { DataSource } from "typeorm";
import { BUILT_IN_CREW, inCrew } from "../store/crew-scope";
import { dataSource, type DatabaseAddress } from "../store/data-source";
import { STORED, tablesOf, VERSIONS } from "../store/tables";
import { Records, type Body } from "../store/records";
import { Trouble } from "./trouble";

const session = { crewId: BUILT_IN_CREW };

const COUNTED = ["rigs", "vessels", "charges", "visits"] as const;

/** Whether nothing was ever kept here. */
export const isEmpty = (source: DataSource): Promise<boolean> =>
  inCrew(source, session, async (manager) => !(await manager.existsBy(VERSIONS, { crewId: session.crewId })));

/** How much a crew has: `3 rigs, 4 vessels, 9 charges and 310 visits`. */
export async function inventory(source: DataSource): Promise<string> {
  const counts = await inCrew(source, session, async (manager) => {
    const found: number[] = [];
    for (const kind of COUNTED) found.push(await manager.countBy(STORED[kind]!.entity, { crewId: session.crewId }));
    return found;
  });
  const words = COUNTED.map((kind, i) => `${counts[i]} ${kind}`);
  return `${words.slice(0, -1).join(", ")} and ${words[words.length - 1]}`;
}

/** Writes the demo's months of history in one transaction, through the same checks as everything else. */
export async function loadDemo(source: DataSource, now: Date): Promise<number> {
  const { demoScenario } = await import("@winter-bead/demo");
  const scenario = demoScenario(now);
  await inCrew(source, session, async (manager) => {
    const records = new Records(manager, session.crewId, STORED);
    const puts = scenario.map(({ kind, id, body }) => ({ kind, id, body: RECORDS[kind].parse(body) as Body }));
    const { outcome } = await records.act(randomUUID(), { at: now.toISOString(), what: "Sample data loaded", puts });
    if (outcome !== "kept") throw new Trouble(`The demo could not be loaded: it was ${outcome}.`);
  });
  return scenario.length;
}

/** Writes everything to one file that bin/restore reads. */
export function backUp(programFolder: string, backups: string, address: DatabaseAddress, name: string): string {
  mkdirSync(backups, { recursive: true, mode: 0o700 });
  const file = join(backups, `${name}.dump`);
  const { status, stderr } = spawnSync(
    join(programFolder, "pg_dump"),
    ["-h", "127.0.0.1", "-p", String(address.port), "-U", address.user, "-Fc", "-f", file, address.database],
    {
      encoding: "utf8",
      env: { ...process.env, PGPASSWORD: address.password },
    },
  );
  if (status !== 0) throw new Trouble(`The backup could not be written: ${stderr.trim()}`);
  return file;
}

/** Removes every record of every crew's tables, as the owner of the database. */
export async function clearRecords(owner: DatabaseAddress): Promise<void> {
  const source = await dataSource(owner).initialize();
  try {
    const tables = tablesOf(STORED).map(({ options }) => options.tableName);
    await source.query(`TRUNCATE ${tables.join(", ")}, crew_counter`);
  } finally {
    await source.destroy();
  }
}
