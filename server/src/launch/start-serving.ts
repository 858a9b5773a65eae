import type { DataSource } from "typeorm";
import { createApp } from "../app";
import { ComputePool } from "../compute/compute-pool";
import { OutsideCalendar } from "../calendar/outside-calendar";
import { ReportClient } from "../devices/report-client";
import { StandIn } from "../devices/stand-in";
import { mailboxPost, realPost, type Post } from "../reminders/mail";
import { OrderForecast } from "../reminders/order-forecast";
import { ReminderClock, remindCrew } from "../reminders/reminder-clock";
import { shippedFiles } from "../routes/static-files";
import { BUILT_IN_CREW } from "../store/crew-scope";
import { Health } from "../store/health";
import type { DatabaseAddress } from "../store/data-source";
import type { DataFolder } from "./data-folder";
import { backUp, clearRecords, inventory, isEmpty, loadDemo } from "./demo-data";
import { openLog } from "./log-file";
import type { Options, Stops } from "./options";
import type { Postgres } from "./postgres";
import { prepareDatabase } from "./prepare-database";
import { serve, type Serving } from "./serve";

/** In which a crew's weeks are worked out for its mail. */
const FORECAST_SECONDS = 300;

interface Parts {
  readonly options: Options;
  readonly folder: DataFolder;
  readonly postgres: Postgres;
  readonly stops: Stops;
  readonly say: (line: string) => void;
}

/** Restarts the database when it dies under a running server. */
function keepAlive({ postgres, say }: Pick<Parts, "postgres" | "say">): () => Promise<void> {
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

/** The water supplier's report service: the one named, else the stand-in that ships with this. */
function supplierAddress({ stops, say }: Pick<Parts, "stops" | "say">): Promise<string> {
  const named = process.env["WINTER_BEAD_REPORT_SERVICE"];
  if (named) return Promise.resolve(named.replace(/\/$/, ""));
  const service = new StandIn("report-service");
  stops.push(() => service.close());
  void service.address.then((address) =>
    say(`The simulated supplier's report service is at ${address} (PUT /mode makes it fail on purpose).`),
  );
  return service.address;
}

/** A calendar to try with, and which private addresses may be asked for one. */
function calendars({ stops }: Pick<Parts, "stops">) {
  const service = new StandIn("calendar-service");
  stops.push(() => service.close());
  const named = (process.env["WINTER_BEAD_CALENDARS"] ?? "").split(/[\s,]+/).filter((each) => each !== "");
  const origins = named.flatMap((each) => (URL.canParse(each) ? [new URL(each).origin] : []));
  return { sampleCalendar: service.address, outside: new OutsideCalendar(origins, service.address) };
}

/** The mail server that is named, else the mailbox that ships with this and sends nothing on. */
function postOf({ stops, say }: Pick<Parts, "stops" | "say">): Post {
  const named = process.env["WINTER_BEAD_SMTP"];
  if (named) return realPost(named);
  const mailbox = new StandIn("mailbox");
  stops.push(() => mailbox.close());
  void mailbox.address.then((address) =>
    say(`The simulated mailbox is at ${address}: it shows what would have been sent.`),
  );
  return mailboxPost(mailbox.address);
}

/** Brings the demo where it is wanted; what it replaces is backed up first. */
async function arrangeDemo(parts: Parts, source: DataSource, owner: DatabaseAddress): Promise<void> {
  const { options, folder, postgres, say } = parts;
  const empty = await isEmpty(source);
  if (options.demoReset && !empty) {
    say(`The demo replaces what is in ${folder.path}: ${await inventory(source)} go.`);
    const stamp = new Date().toISOString().replaceAll(/[:.]/g, "-");
    const file = backUp(postgres.programFolder, folder.backups, owner, `before-demo-${stamp}`);
    say(`They are in ${file} if you want them back (bin/restore).`);
    await clearRecords(owner);
  }
  if (options.demoReset || (empty && !options.empty))
    say(`Loaded the demo: ${await loadDemo(source, new Date())} entries of an invented crew.`);
}

/** Serves over a database that runs. */
export async function startServing(parts: Parts): Promise<Serving> {
  const { options, folder, postgres, stops } = parts;
  const seconds = Number(process.env["WINTER_BEAD_COMPUTE_SECONDS"]);
  const pool = new ComputePool(undefined, seconds > 0 ? seconds : undefined);
  stops.push(() => pool.close());
  // Beside the database: who asks first finds threads that are free, and have worked once.
  const warmed = process.env["WINTER_BEAD_WARM"] === "0" ? Promise.resolve() : pool.warm();
  warmed.catch(() => undefined);
  const [{ source, app: database, owner }, client] = await Promise.all([
    prepareDatabase(postgres.port, folder.secrets(), folder.path),
    options.clientFolder ? shippedFiles(options.clientFolder) : undefined,
  ]);
  stops.push(() => source.destroy());
  await arrangeDemo(parts, source, owner);
  const log = openLog(folder.log);
  stops.push(() => log.close());
  const health = new Health(database);
  stops.push(() => health.close());
  const post = postOf(parts);
  // Nobody waits for a mail: its forecast has a thread of its own, and time.
  const forMail = new ComputePool(1, FORECAST_SECONDS);
  stops.push(() => forMail.close());
  const forecast = new OrderForecast((records, at, timeZone) => forMail.orders({ records, now: at, timeZone }));
  const clock = new ReminderClock(
    (now) => remindCrew(source, BUILT_IN_CREW, now, { send: post.send, forecast }),
    (error) => log.logger.warn({ err: error }, "a reminder could not be sent and is tried again"),
  );
  stops.push(() => clock.close());
  const app = createApp({
    source,
    health,
    pool,
    supplier: new ReportClient(supplierAddress(parts)),
    ...calendars(parts),
    post,
    reminderTrouble: clock.trouble,
    ...(client ? { client } : {}),
    hosts: process.env["WINTER_BEAD_HOSTS"] ?? "",
    logger: log.logger,
    diskIsFull: () => folder.isFull(),
  });
  await warmed.catch((error: unknown) => log.logger.warn({ err: error }, "the threads start with the first request"));
  const serving = await serve(app, options.port);
  stops.push(() => serving.stop());
  stops.push(keepAlive(parts));
  return serving;
}
