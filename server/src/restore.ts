import { spawnSync } from "node:child_process";
import { existsSync } from "node:fs";
import { join, resolve } from "node:path";
import { backUp, inventory } from "./launch/demo-data";
import { openDatabase, runCommand } from "./launch/open-database";
import { DATABASE, prepareDatabase } from "./launch/prepare-database";
import { OWNER } from "./launch/postgres";
import { Trouble } from "./launch/trouble";

runCommand(async () => {
  const file = process.argv[2];
  if (!file || !existsSync(file))
    throw new Trouble("name the backup file, such as bin/restore .data/backups/2027-03-01.dump.");
  const { folder, postgres, secrets, close } = await openDatabase();
  try {
    const address = { port: postgres.port, database: DATABASE, user: OWNER, password: secrets.ownerPassword };
    await (await prepareDatabase(postgres.port, secrets, folder.path)).source.destroy();
    const before = backUp(
      postgres.programFolder,
      folder.backups,
      address,
      `before-restore-${new Date().toISOString().replaceAll(/[:.]/g, "-")}`,
    );
    const restored = spawnSync(
      join(postgres.programFolder, "pg_restore"),
      [
        "-h",
        "127.0.0.1",
        "-p",
        String(postgres.port),
        "-U",
        OWNER,
        "-d",
        DATABASE,
        "--clean",
        "--if-exists",
        "--single-transaction",
        resolve(file),
      ],
      { encoding: "utf8", env: { ...process.env, PGPASSWORD: secrets.ownerPassword } },
    );
    if (restored.status !== 0) throw new Trouble(`${restored.stderr.trim().split("\n")[0]} Nothing was changed.`);
    const { source } = await prepareDatabase(postgres.port, secrets, folder.path);
    process.stdout.write(`Restored ${(await inventory(source)).words}. What was here before is in ${before}\n`);
    await source.destroy();
  } finally {
    await close();
  }
}, "Nothing was restored");
