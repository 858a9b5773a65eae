import { existsSync } from "node:fs";
import { join, resolve } from "node:path";
import { parseArgs } from "node:util";
import { ReportService } from "@winter-bead/devices";
import { createApp } from "./app";
import { ComputePool } from "./compute/compute-pool";
import { ReportClient } from "./devices/report-client";
import { DataFolder } from "./launch/data-folder";
import { backUp, clearRecords, inventory, loadDemo } from "./launch/demo-data";
import { dataFolderPath, runCommand } from "./launch/open-database";
import { Postgres } from "./launch/postgres";
import { prepareDatabase } from "./launch/prepare-database";
import { checkPort, serve, type Serving } from "./launch/serve";
import { Trouble } from "./launch/trouble";

const DEFAULT_PORT = 4180;
const say = (line: string) => process.stdout.write(`${line}\n`);

interface Options {
  readonly empty: boolean;
  readonly demoReset: boolean;
  readonly port: number;
  readonly dataFolder: string;
  readonly clientFolder: string | undefined;
}

function readOptions(): Options {
  const root = resolve(process.env["WINTER_BEAD_ROOT"] ?? process.cwd());
  const { values } = parseOptions();
  const port = Number(process.env["PORT"] ?? DEFAULT_PORT);
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new Trouble(`PORT must be a whole number up to 65535, not ${process.env["PORT"]}.`);
  const client = join(root, "client", "dist");
  return {
    empty: values.empty ?? false,
    demoReset: values["demo-reset"] ?? false,
    port,
    dataFolder: dataFolderPath(),
    clientFolder: existsSync(client) ? client : undefined,
  };
}

function parseOptions() {
  try {
    return parseArgs({ options: { empty: { type: "boolean" }, "demo-reset": { type: "boolean" } } });
  } catch (error) {
    throw new Trouble(`${(error as Error).message} Known are --empty and --demo-reset.`);
  }
}

/** Restarts the database when it dies under a running server. */
function keepAlive(postgres: Postgres): () => Promise<void> {
  let stopped = false;
  let restarting: Promise<unknown> | undefined;
  const timer = setInterval(() => {
    if (stopped || restarting || postgres.alive) return;
    say("The database stopped; starting it again.");
    restarting = postgres
      .start()
      .catch((error: Error) => say(`It did not start: ${error.message}`))
      .finally(() => {
        restarting = undefined;
      });
  }, 300);
  return async () => {
    stopped = true;
    clearInterval(timer);
    await restarting;
  };
}

async function run(): Promise<void> {
  const options = readOptions();
  const stops: (() => Promise<void> | void)[] = [];
  const stopAll = async () => {
    for (const stop of stops.splice(0).reverse()) await stop();
  };
  let asked = false;
  const stopOnSignal = () => {
    if (asked) return;
    asked = true;
    stopAll().then(
      () => process.exit(0),
      () => process.exit(1),
    );
  };
  process.on("SIGINT", stopOnSignal);
  process.on("SIGTERM", stopOnSignal);
  try {
    if (options.port !== 0) await checkPort(options.port);
    const serving = await startAll(options, stops);
    if (!asked) say(`Winter Bead is ready at http://127.0.0.1:${serving.port}`);
  } catch (error) {
    await stopAll();
    throw error;
  }
}

/** The water supplier's report service: the one named, else the stand-in that ships with this. */
async function supplierAddress(stops: (() => Promise<void> | void)[]): Promise<string> {
  const named = process.env["WINTER_BEAD_REPORT_SERVICE"];
  if (named) return named.replace(/\/$/, "");
  const service = new ReportService();
  const address = await service.listen();
  stops.push(() => service.close());
  say(`The simulated supplier's report service is at ${address} (PUT /mode makes it fail on purpose).`);
  return address;
}

async function startAll(options: Options, stops: (() => Promise<void> | void)[]): Promise<Serving> {
  const folder = DataFolder.open(options.dataFolder);
  stops.push(folder.claim(options.port));
  const postgres = new Postgres(folder);
  stops.push(() => postgres.stop());
  await postgres.start();
  const { source, owner } = await prepareDatabase(postgres.port, folder.secrets(), folder.path);
  stops.push(() => source.destroy());
  const known = await inventory(source);
  if (options.demoReset && !known.empty) {
    say(`The demo replaces what is in ${folder.path}: ${known.words} go.`);
    const stamp = new Date().toISOString().replaceAll(/[:.]/g, "-");
    say(
      `They are in ${backUp(postgres.programFolder, folder.backups, owner, `before-demo-${stamp}`)} if you want them back (bin/restore).`,
    );
    await clearRecords(owner);
  }
  if (options.demoReset || (known.empty && !options.empty))
    say(`Loaded the demo: ${await loadDemo(source, new Date())} entries of an invented crew.`);
  const pool = new ComputePool();
  stops.push(() => pool.close());
  const supplier = new ReportClient(await supplierAddress(stops));
  const app = createApp({ source, pool, supplier, clientFolder: options.clientFolder });
  const serving = await serve(app, options.port);
  stops.push(() => serving.stop());
  stops.push(keepAlive(postgres));
  return serving;
}

runCommand(run, "Winter Bead cannot start");
