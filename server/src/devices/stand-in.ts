import { spawn, type ChildProcess } from "node:child_process";
import { createInterface } from "node:readline";
import { fileURLToPath } from "node:url";

/** Milliseconds before a stand-in that ended is started again; longer each time it ends at once. */
const FIRST_PAUSE = 200;
const LONGEST_PAUSE = 10_000;
const STEADY_AFTER = 5_000;

/**
 * A stand-in for something outside, as a process of its own: whatever becomes of it, the server goes on, and starts it
 * again at the same address. It ends by itself when the server is gone.
 */
export class StandIn {
  private child: ChildProcess | undefined;
  private port = 0;
  private pause = FIRST_PAUSE;
  private timer: NodeJS.Timeout | undefined;
  private closed = false;
  private tell: (address: string) => void = () => undefined;
  /** Where it listens, once it does. */
  readonly address = new Promise<string>((resolve) => {
    this.tell = resolve;
  });

  /** @param name of its program beside the server's: `report-service` is `report-service.mjs` */
  constructor(private readonly name: string) {
    this.start();
  }

  private start(): void {
    const program = fileURLToPath(new URL(`./${this.name}.mjs`, import.meta.url));
    const child = spawn(process.execPath, [program, String(this.port)], { stdio: ["pipe", "pipe", "inherit"] });
    this.child = child;
    const began = Date.now();
    createInterface({ input: child.stdout }).on("line", (line) => {
      const address = /^http:\/\/127\.0\.0\.1:(\d+)$/.exec(line);
      if (!address) return;
      this.port = Number(address[1]);
      this.tell(line);
    });
    child.stdin.on("error", () => undefined);
    child.once("error", () => undefined);
    child.once("close", () => {
      if (this.closed) return;
      this.pause = Date.now() - began > STEADY_AFTER ? FIRST_PAUSE : Math.min(2 * this.pause, LONGEST_PAUSE);
      this.timer = setTimeout(() => this.start(), this.pause);
    });
  }

  async close(): Promise<void> {
    this.closed = true;
    clearTimeout(this.timer);
    const { child } = this;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((ended) => child.once("close", ended));
    child.kill("SIGTERM");
    await gone;
  }
}
