import { backUp } from "./launch/demo-data";
import { openDatabase, runCommand } from "./launch/open-database";
import { DATABASE } from "./launch/prepare-database";
import { OWNER } from "./launch/postgres";

runCommand(async () => {
  const { folder, postgres, secrets, close } = await openDatabase();
  try {
    const stamp = new Date().toISOString().replaceAll(/[:.]/g, "-");
    const file = backUp(
      postgres.programFolder,
      folder.backups,
      { port: postgres.port, database: DATABASE, user: OWNER, password: secrets.ownerPassword },
      stamp,
    );
    process.stdout.write(`Everything is in ${file}\n`);
  } finally {
    await close();
  }
}, "No backup was made");
