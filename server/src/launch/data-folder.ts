import { randomBytes } from "node:crypto";
import {
  existsSync,
  mkdirSync,
  readFileSync,
  realpathSync,
  renameSync,
  rmSync,
  statfsSync,
  writeFileSync,
} from "node:fs";
import { join } from "node:path";
import { beganAt, commandLine, isRunning } from "./processes";
import { folderTrouble, Trouble } from "./trouble";

/** Passwords of the database, made on this machine and never shown. */
export interface Secrets {
  readonly ownerPassword: string;
  readonly appPassword: string;
}

const NEEDED_MEGABYTES = 150;
/** With less than this free nothing can be kept any more. */
const LAST_BYTES = 256 * 1024;

/**
 * Whether a process id of a claim still means the process that made the claim: ids come round again, and the one that has
 * it now may well be a Winter Bead on another data folder.
 */
const isSameProcess = (pid: number, began: string | undefined) =>
  began ? beganAt(pid) === began : commandLine(pid).includes("start.mjs");

/** The folder that holds everything a crew has: database, secrets, backups. */
export class DataFolder {
  private constructor(readonly path: string) {}

  static open(path: string): DataFolder {
    try {
      mkdirSync(path, { recursive: true });
      const folder = new DataFolder(realpathSync(path));
      folder.checkRoom();
      return folder;
    } catch (error) {
      throw folderTrouble(path, error);
    }
  }

  get postgres(): string {
    return join(this.path, "postgres");
  }

  get log(): string {
    return join(this.path, "log");
  }

  /** Whether its disk takes no more. */
  isFull(): boolean {
    try {
      const { bavail, bsize } = statfsSync(this.path);
      return bavail * bsize < LAST_BYTES;
    } catch {
      return false;
    }
  }

  get backups(): string {
    return join(this.path, "backups");
  }

  /** Writes a little, so that a folder that can't be written is found before anything starts. */
  private checkRoom(): void {
    const { bavail, bsize } = statfsSync(this.path);
    const megabytes = Math.floor((bavail * bsize) / 2 ** 20);
    const probe = join(this.path, ".probe");
    writeFileSync(probe, Buffer.alloc(64 * 1024));
    rmSync(probe);
    if (megabytes < NEEDED_MEGABYTES) {
      throw new Trouble(
        `The data folder ${this.path} has only ${megabytes} MB free and Winter Bead needs ${NEEDED_MEGABYTES}; free some, or choose another with WINTER_BEAD_DATA.`,
      );
    }
  }

  secrets(): Secrets {
    const path = join(this.path, "secrets.json");
    if (!existsSync(path)) {
      const secrets: Secrets = {
        ownerPassword: randomBytes(24).toString("hex"),
        appPassword: randomBytes(24).toString("hex"),
      };
      writeFileSync(`${path}.new`, JSON.stringify(secrets), { mode: 0o600 });
      renameSync(`${path}.new`, path);
    }
    return JSON.parse(readFileSync(path, "utf8")) as Secrets;
  }

  /**
   * Claims the folder for this process, so that two never run on one database; a dead claim is taken over.
   * @param wayOut what to do where it is taken, as the end of a sentence
   */
  claim(port: number, wayOut = "stop it first or use that one."): () => void {
    const path = join(this.path, "winter-bead.pid");
    const [pid, address, began] = existsSync(path) ? readFileSync(path, "utf8").split(" ") : [];
    const other = Number(pid);
    if (other && other !== process.pid && isRunning(other) && isSameProcess(other, began)) {
      throw new Trouble(
        `Winter Bead already runs on this data folder, at http://127.0.0.1:${address} (process ${other}); ${wayOut}`,
      );
    }
    writeFileSync(path, `${process.pid} ${port} ${beganAt(process.pid) ?? ""}`);
    return () => rmSync(path, { force: true });
  }
}
