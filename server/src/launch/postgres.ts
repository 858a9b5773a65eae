import { spawn, spawnSync } from "node:child_process";
import {
  chmodSync,
  chownSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { createServer } from "node:net";
import { dirname, join } from "node:path";
import type { DataFolder } from "./data-folder";
import { isRunning, processesIn, signal, waitUntil, workingFolder } from "./processes";
import { folderTrouble, Trouble } from "./trouble";

export const OWNER = "winter_bead_owner";
export const APP = "winter_bead_app";

const INSTALLED_BELOW = "/usr/lib/postgresql";

/** Folder of the newest PostgreSQL server programs on this machine. */
export function postgresPrograms(): { readonly folder: string; readonly major: number } {
  const majors = existsSync(INSTALLED_BELOW) ? readdirSync(INSTALLED_BELOW).map(Number) : [];
  const major = Math.max(
    0,
    ...majors.filter((each) => existsSync(join(INSTALLED_BELOW, String(each), "bin", "postgres"))),
  );
  if (major === 0) throw new Trouble("PostgreSQL is not installed; bin/start installs it where it has the right to.");
  return { folder: join(INSTALLED_BELOW, String(major), "bin"), major };
}

/** How to run the database as somebody other than root: the words before its own command, and who owns its files. */
interface Disguise {
  readonly words: readonly string[];
  readonly uid?: number;
  readonly gid?: number;
}

const AS_OURSELVES: Disguise = { words: [] };
/** For folders that only root reaches: root itself, under another number in a namespace of its own. */
const AS_MAPPED: Disguise = { words: ["unshare", "--user", "--map-user=1000", "--map-group=1000"] };

const asUser = (uid: number, gid: number): Disguise => ({
  words: ["setpriv", `--reuid=${uid}`, `--regid=${gid}`, "--clear-groups"],
  uid,
  gid,
});

const works = ({ words }: Disguise, ...command: string[]) => {
  const [program, ...rest] = [...words, ...command] as [string, ...string[]];
  return spawnSync(program, rest, { stdio: "ignore" }).status === 0;
};

const idOf = (option: "-u" | "-g") => Number(spawnSync("id", [option, "postgres"], { encoding: "utf8" }).stdout);

/** The first folder on the way up that does not belong to root: whoever owns it can reach what lies below. */
function ownerOnTheWay(folder: string): Disguise | undefined {
  for (let at = folder; at !== dirname(at); at = dirname(at)) {
    const { uid, gid } = statSync(at);
    if (uid !== 0) return asUser(uid, gid);
  }
  return undefined;
}

function chooseDisguise(parent: string, cluster: string): Disguise {
  if (process.getuid?.() !== 0) return AS_OURSELVES;
  if (existsSync(cluster)) {
    const { uid, gid } = statSync(cluster);
    return uid === 0 ? AS_MAPPED : asUser(uid, gid);
  }
  const candidates = [asUser(idOf("-u"), idOf("-g")), ownerOnTheWay(parent), AS_MAPPED];
  const found = candidates.find((each) => each !== undefined && works(each, "test", "-x", parent));
  if (found) return found;
  throw new Trouble(
    `The database may not run as root, and no other user can reach ${parent}; choose another data folder with WINTER_BEAD_DATA.`,
  );
}

const isFree = (port: number) =>
  new Promise<boolean>((resolve) => {
    const probe = createServer().once("error", () => resolve(false));
    probe.listen(port, "127.0.0.1", () => probe.close(() => resolve(true)));
  });

const anyFreePort = () =>
  new Promise<number>((resolve, reject) => {
    const probe = createServer().once("error", reject);
    probe.listen(0, "127.0.0.1", () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });

interface Ran {
  readonly status: number | null;
  readonly output: string;
}

const PLAIN = {
  cwd: "/",
  stdio: ["ignore", "pipe", "pipe"] as ["ignore", "pipe", "pipe"],
  env: { ...process.env, LC_ALL: "C.UTF-8" },
};

const PORT_TAKEN = /could not create any TCP\/IP sockets|Address already in use/i;
const MOST_TRIES = 4;

/** A PostgreSQL cluster of our own, on loopback, without a service manager. */
export class Postgres {
  private readonly programs = postgresPrograms();
  private readonly disguise: Disguise;
  private portInUse = 0;

  constructor(private readonly folder: DataFolder) {
    if (process.getuid?.() === 0 && !existsSync(folder.postgres)) chmodSync(folder.path, 0o755);
    this.disguise = chooseDisguise(folder.path, folder.postgres);
  }

  get port(): number {
    return this.portInUse;
  }

  get programFolder(): string {
    return this.programs.folder;
  }

  /** Makes the cluster if there is none, clears what a killed one left, starts it and waits until it accepts. */
  async start(): Promise<void> {
    this.create();
    this.checkVersion();
    await this.clearLeftovers();
    const log = join(this.folder.postgres, "server.log");
    for (let tries = 1; ; tries += 1) {
      this.portInUse = await this.choosePort();
      const started = await this.startAt(this.portInUse, log);
      if (started.status === 0) return;
      const why = lastLine(log) ?? started.output.trim();
      // Another program may have taken the port since it was found free.
      if (tries === MOST_TRIES || !PORT_TAKEN.test(why)) throw new Trouble(`PostgreSQL did not start: ${why}`);
    }
  }

  private startAt(port: number, log: string): Promise<Ran> {
    const settings = [
      `-p ${port}`,
      "-c listen_addresses=127.0.0.1",
      "-c unix_socket_directories=",
      "-c max_connections=60",
      "-c log_min_messages=warning",
    ];
    const options = ["-D", this.folder.postgres, "-l", log, "-w", "-t", "60", "-o", settings.join(" "), "start"];
    return this.runAside("pg_ctl", options);
  }

  /** Whether the cluster's own process runs. */
  get alive(): boolean {
    const pid = this.postmaster();
    return pid !== undefined && isRunning(pid);
  }

  /** Stops it cleanly: open work is rolled back, everything accepted is on disk. */
  async stop(): Promise<void> {
    const pid = this.postmaster();
    if (pid === undefined || !isRunning(pid)) return;
    signal(pid, "SIGINT");
    if (!(await waitUntil(() => !isRunning(pid), 20_000))) signal(pid, "SIGQUIT");
    await waitUntil(() => !isRunning(pid), 5_000);
  }

  private commandOf(program: string, options: readonly string[]) {
    return [...this.disguise.words, join(this.programs.folder, program), ...options] as [string, ...string[]];
  }

  private run(program: string, options: readonly string[]): Ran {
    const [command, ...rest] = this.commandOf(program, options);
    const { status, stderr, stdout } = spawnSync(command, rest, { encoding: "utf8", ...PLAIN });
    return { status, output: `${stdout ?? ""}${stderr ?? ""}` };
  }

  /** The same while this process goes on with something else. */
  private runAside(program: string, options: readonly string[]): Promise<Ran> {
    const [command, ...rest] = this.commandOf(program, options);
    return new Promise((done) => {
      const child = spawn(command, rest, PLAIN);
      let output = "";
      const take = (part: Buffer) => {
        output += part.toString();
      };
      child.stdout.on("data", take);
      child.stderr.on("data", take);
      child.once("error", (error) => done({ status: null, output: error.message }));
      // The database itself holds on to these pipes for as long as it runs.
      child.once("exit", (status) => setImmediate(() => done({ status, output })));
    });
  }

  /** Makes the cluster beside its final place, so that an interrupted attempt is never taken for a whole one. */
  private create(): void {
    const final = this.folder.postgres;
    if (existsSync(final)) return;
    const fresh = `${final}.new`;
    const password = join(this.folder.path, "initial-password");
    try {
      rmSync(fresh, { recursive: true, force: true });
      mkdirSync(fresh, { mode: 0o700 });
      writeFileSync(password, this.folder.secrets().ownerPassword, { mode: 0o600 });
      this.giveAway(fresh, password);
      const made = this.run("initdb", [
        "-D",
        fresh,
        "-U",
        OWNER,
        "-A",
        "scram-sha-256",
        `--pwfile=${password}`,
        "-E",
        "UTF8",
        "--locale=C.UTF-8",
      ]);
      if (made.status !== 0)
        throw new Trouble(
          `The database could not be made in ${this.folder.path}: ${
            made.output
              .trim()
              .split("\n")
              .find((line) => /error|fatal|could not/i.test(line)) ?? made.output.trim()
          }`,
        );
      renameSync(fresh, final);
    } catch (error) {
      throw folderTrouble(this.folder.path, error);
    } finally {
      rmSync(password, { force: true });
    }
  }

  private giveAway(...paths: string[]): void {
    const { uid, gid } = this.disguise;
    if (uid === undefined || gid === undefined) return;
    for (const path of paths) chownSync(path, uid, gid);
  }

  private checkVersion(): void {
    let version: string;
    try {
      version = readFileSync(join(this.folder.postgres, "PG_VERSION"), "utf8").trim();
    } catch (error) {
      throw folderTrouble(this.folder.path, error);
    }
    if (Number(version) === this.programs.major) return;
    const newer = Number(version) > this.programs.major ? "a newer" : "an older";
    throw new Trouble(
      `The database in ${this.folder.path} was made by ${newer} PostgreSQL (${version}; this machine has ${this.programs.major}); install version ${version} or restore a backup into a new data folder.`,
    );
  }

  private postmaster(): number | undefined {
    try {
      const pid = Number(readFileSync(join(this.folder.postgres, "postmaster.pid"), "utf8").split("\n")[0]);
      return workingFolder(pid) === this.folder.postgres ? pid : undefined;
    } catch {
      return undefined;
    }
  }

  /** Ends a database that a killed server left behind and removes a pid file that names nobody of ours. */
  private async clearLeftovers(): Promise<void> {
    await this.stop();
    const orphans = () => processesIn(this.folder.postgres);
    if (!(await waitUntil(() => orphans().length === 0, 5_000))) {
      for (const pid of orphans()) signal(pid, "SIGQUIT");
      if (!(await waitUntil(() => orphans().length === 0, 5_000))) for (const pid of orphans()) signal(pid, "SIGKILL");
      await waitUntil(() => orphans().length === 0, 5_000);
    }
    rmSync(join(this.folder.postgres, "postmaster.pid"), { force: true });
  }

  /** The port of last time if it is still free: a running pool then finds the restarted database again. */
  private async choosePort(): Promise<number> {
    const path = join(this.folder.path, "postgres.port");
    const remembered = existsSync(path) ? Number(readFileSync(path, "utf8")) : 0;
    const port = remembered && (await isFree(remembered)) ? remembered : await anyFreePort();
    writeFileSync(path, String(port));
    return port;
  }
}

function lastLine(path: string): string | undefined {
  try {
    return readFileSync(path, "utf8")
      .trim()
      .split("\n")
      .filter((line) => /FATAL|PANIC|ERROR/.test(line))
      .pop();
  } catch {
    return undefined;
  }
}
