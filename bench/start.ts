import { execFileSync, spawn, spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";

const root = resolve(process.cwd());
const data = mkdtempSync(join(tmpdir(), "winter-bead-bench-"));
const ROUNDS = 7;

/** Milliseconds until bin/start says that it is ready; it is stopped again. */
async function start(): Promise<number> {
  const began = performance.now();
  const child = spawn(join(root, "bin/start"), {
    env: { ...process.env, PORT: "0", WINTER_BEAD_DATA: data },
    stdio: ["ignore", "pipe", "inherit"],
  });
  await new Promise<void>((ready) => {
    child.stdout.on("data", (part: Buffer) => {
      if (/ready at/.test(part.toString())) ready();
    });
  });
  const took = performance.now() - began;
  child.kill("SIGTERM");
  await new Promise((ended) => child.once("exit", ended));
  return took;
}

/** Milliseconds of the same database's own start, and of a Node that does nothing: nothing could be ready sooner. */
function floor(): number {
  const cluster = join(data, "postgres");
  const { uid, gid } = statSync(cluster);
  const newest = Math.max(...readdirSync("/usr/lib/postgresql").map(Number));
  const program = `/usr/lib/postgresql/${newest}/bin/pg_ctl`;
  const asOwner = uid === process.getuid!() ? [] : ["setpriv", `--reuid=${uid}`, `--regid=${gid}`, "--clear-groups"];
  const control = (...words: string[]) => {
    const [command, ...rest] = [...asOwner, program, "-D", cluster, "-w", ...words] as [string, ...string[]];
    spawnSync(command, rest, { cwd: "/", stdio: "ignore" });
  };
  const began = performance.now();
  control("-l", "/dev/null", "-o", "-c listen_addresses= -c unix_socket_directories=/tmp -p 54871", "start");
  execFileSync(process.execPath, ["-e", "0"]);
  const took = performance.now() - began;
  control("-m", "fast", "stop");
  return took;
}

const middle = (values: readonly number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

await start();
const pairs: { readonly whole: number; readonly least: number }[] = [];
for (let round = 0; round < ROUNDS; round += 1) pairs.push({ whole: await start(), least: floor() });
rmSync(data, { recursive: true, force: true });
const ratio = middle(pairs.map(({ whole, least }) => whole / least));
console.log(
  `second bin/start ${middle(pairs.map(({ whole }) => whole)).toFixed(0)} ms, pg_ctl start and node -e 0 ${middle(pairs.map(({ least }) => least)).toFixed(0)} ms, ratio ${ratio.toFixed(2)} (at most 5)`,
);
