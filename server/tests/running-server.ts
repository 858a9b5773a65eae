import { spawn, spawnSync, type ChildProcess } from "node:child_process";
import {
  appendFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  readlinkSync,
  renameSync,
  rmSync,
  statSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";

const ROOT = resolve(__dirname, "../..");
const STARTED = join(ROOT, "server/dist/start.mjs");

export interface ServerOptions {
  readonly dataFolder?: string;
  readonly port?: number;
  readonly flags?: readonly string[];
  readonly environment?: Readonly<Record<string, string>>;
}

const PREPARED = "winter-bead-prepared-";
const EMPTY = ["--empty"];
const DEMO: readonly string[] = [];

/**
 * A data folder as a first start leaves it, made once for all tests of this build and hour, and copied: a first start makes
 * a database, which takes longer than what most tests do with it. How one goes is the launch tests' own matter.
 */
async function preparedFolder(flags: readonly string[]): Promise<string> {
  const { mtimeMs, size } = statSync(STARTED);
  const hour = new Date().toISOString().slice(0, 13);
  const name = `${PREPARED}${Math.round(mtimeMs)}-${size}-${flags.join("") || "demo"}-${hour}`;
  const folder = join(tmpdir(), name);
  for (let tries = 0; !existsSync(folder); tries += 1) {
    try {
      mkdirSync(`${folder}.making`);
    } catch {
      // Somebody else makes it; who died at that is not waited for longer than a start takes.
      if (tries > 600) rmSync(`${folder}.making`, { recursive: true, force: true });
      await new Promise((again) => setTimeout(again, 100));
      continue;
    }
    const server = await RunningServer.start({ dataFolder: join(`${folder}.making`, "data"), flags });
    await server.end();
    for (const own of ["postgres.port", "log"]) rmSync(join(server.dataFolder, own), { recursive: true, force: true });
    // What is kept outlives every process that is killed here; only a machine that loses its power could take it.
    appendFileSync(join(server.dataFolder, "postgres", "postgresql.conf"), "\nfsync = off\n");
    renameSync(server.dataFolder, folder);
    rmSync(`${folder}.making`, { recursive: true, force: true });
    removeOldPrepared();
  }
  return folder;
}

/** Those of builds and hours gone by; a run of all tests takes less than three hours. */
function removeOldPrepared(): void {
  for (const name of readdirSync(tmpdir())) {
    const path = join(tmpdir(), name);
    if (!name.startsWith(PREPARED)) continue;
    // Another run may take it away at the same time.
    const made = statSync(path, { throwIfNoEntry: false })?.ctimeMs ?? Infinity;
    if (Date.now() - made > 3 * 3_600_000) rmSync(path, { recursive: true, force: true });
  }
}

/** A fresh data folder; a copy of a prepared one where that is what the flags ask for. */
async function freshFolder(flags: readonly string[]): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), "winter-bead-"));
  if (flags.join() !== EMPTY.join() && flags.join() !== DEMO.join()) return folder;
  const { status } = spawnSync("cp", ["-a", `${await preparedFolder(flags)}/.`, folder]);
  if (status !== 0) throw new Error("The prepared data folder could not be copied.");
  return folder;
}

/** Winter Bead as bin/start runs it, on a data folder of its own. */
export class RunningServer {
  private child!: ChildProcess;
  private printed = "";
  url = "";

  private constructor(
    readonly dataFolder: string,
    private readonly options: ServerOptions,
  ) {}

  /** Resolves when it says that it is ready; rejects with what it said when it ended instead. */
  static async start(options: ServerOptions = {}): Promise<RunningServer> {
    const server = new RunningServer(options.dataFolder ?? (await freshFolder(options.flags ?? EMPTY)), options);
    await server.launch();
    return server;
  }

  private launch(): Promise<void> {
    this.printed = "";
    this.child = spawn(process.execPath, [STARTED, ...(this.options.flags ?? EMPTY)], {
      env: {
        ...process.env,
        PORT: String(this.options.port ?? 0),
        WINTER_BEAD_DATA: this.dataFolder,
        WINTER_BEAD_ROOT: ROOT,
        // Many servers start here, and few of them calculate.
        WINTER_BEAD_WARM: "0",
        ...this.options.environment,
      },
      stdio: ["ignore", "pipe", "pipe"],
    });
    return new Promise((ready, failed) => {
      const take = (part: Buffer) => {
        this.printed += part.toString();
        const address = /^Winter Bead is ready at (http:\S+)$/m.exec(this.printed)?.[1];
        if (address) {
          this.url = address;
          ready();
        }
      };
      this.child.stdout!.on("data", take);
      this.child.stderr!.on("data", take);
      this.child.once("exit", (code) => failed(new Error(`exit ${code}: ${this.printed}`)));
    });
  }

  /** Where the simulated supplier's service that came with it listens; it starts beside the server. */
  async supplier(): Promise<string> {
    for (;;) {
      const address = /report service is at (\S+)/.exec(this.printed)?.[1];
      if (address) return address;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  }

  get pid(): number {
    return this.child.pid!;
  }

  get output(): string {
    return this.printed;
  }

  get databasePid(): number {
    return Number(readFileSync(join(this.dataFolder, "postgres", "postmaster.pid"), "utf8").split("\n")[0]);
  }

  /** Every process of its database. */
  get databasePids(): readonly number[] {
    const folder = join(this.dataFolder, "postgres");
    return readdirSync("/proc")
      .map(Number)
      .filter((pid) => {
        try {
          return pid > 0 && readlinkSync(`/proc/${pid}/cwd`) === folder;
        } catch {
          return false;
        }
      });
  }

  /** Ends the server's own process with this signal and waits until it is gone. */
  async end(name: NodeJS.Signals = "SIGTERM"): Promise<number | null> {
    const gone = new Promise<number | null>((done) => this.child.once("exit", (code) => done(code)));
    if (this.child.exitCode !== null || this.child.signalCode !== null) return this.child.exitCode;
    this.child.kill(name);
    return gone;
  }

  killDatabase(): void {
    process.kill(this.databasePid, "SIGKILL");
  }

  /** Starts again on the same data, at the same address. */
  async again(): Promise<void> {
    const port = Number(new URL(this.url).port);
    Object.assign(this.options, { port });
    await this.launch();
  }

  /** Stops everything and removes the data folder. */
  async remove(): Promise<void> {
    await this.end();
    rmSync(this.dataFolder, { recursive: true, force: true });
  }

  async request(method: string, path: string, body?: unknown): Promise<{ status: number; body: never; type: string }> {
    const response = await fetch(`${this.url}${path}`, {
      method,
      ...(body === undefined
        ? {}
        : {
            body: typeof body === "string" ? body : JSON.stringify(body),
            headers: { "Content-Type": "application/json" },
          }),
    });
    const text = await response.text();
    const type = response.headers.get("content-type") ?? "";
    return { status: response.status, body: (/json/.test(type) ? JSON.parse(text) : text) as never, type };
  }
}
