import { resolve } from "node:path";
import { DataFolder, type Secrets } from "./data-folder";
import { Postgres } from "./postgres";
import { Trouble } from "./trouble";

export interface OpenDatabase {
  readonly folder: DataFolder;
  readonly postgres: Postgres;
  readonly secrets: Secrets;
  close(): Promise<void>;
}

/** The data folder of this machine: `WINTER_BEAD_DATA`, or `.data` in the project. */
export const dataFolderPath = () =>
  resolve(process.env["WINTER_BEAD_DATA"] ?? `${process.env["WINTER_BEAD_ROOT"] ?? process.cwd()}/.data`);

const STOP_FIRST =
  "stop it first (Ctrl-C where it was started; that takes about a second, half a minute at the very most), ask again, and start it again.";

/** Claims the data folder and starts its database, for a command that works alone on it. */
export async function openDatabase(): Promise<OpenDatabase> {
  const folder = DataFolder.open(dataFolderPath());
  const release = folder.claim(0, STOP_FIRST);
  const postgres = new Postgres(folder);
  await postgres.start();
  return {
    folder,
    postgres,
    secrets: folder.secrets(),
    close: async () => {
      await postgres.stop();
      release();
    },
  };
}

/** Runs a command of the terminal; a trouble ends it with its sentence and exit code 1. */
export function runCommand(command: () => Promise<void>, opening: string): void {
  command().catch((error: unknown) => {
    const words = error instanceof Trouble ? error.message : ((error as Error).stack ?? String(error));
    process.stderr.write(`${opening}: ${words}\n`);
    process.exit(1);
  });
}
