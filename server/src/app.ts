import { bodyParser } from "@koa/bodyparser";
import { DEVICE_HEADER, id } from "@winter-bead/contract";
import Router from "@koa/router";
import Koa, { type Context, type Next } from "koa";
import compress from "koa-compress";
import helmet from "koa-helmet";
import { pino, type Logger } from "pino";
import type { DataSource } from "typeorm";
import type { ComputePool } from "./compute/compute-pool";
import type { ReportClient } from "./devices/report-client";
import { answers } from "./routes/answers";
import { askedForm } from "./routes/asked-form";
import type { OutsideCalendar } from "./calendar/outside-calendar";
import type { Post } from "./reminders/mail";
import type { ReminderTrouble } from "./reminders/reminder-clock";
import { calendarRoutes } from "./routes/calendar";
import { computeRoutes } from "./routes/compute";
import { exampleRoutes } from "./routes/example";
import { hostsIn, knownCallers } from "./routes/known-callers";
import { problems, sendUnavailable } from "./routes/problems";
import { recordRoutes } from "./routes/records";
import { reminderRoutes } from "./routes/reminders";
import { requestLog } from "./routes/request-log";
import { staticFiles, type ShippedFiles } from "./routes/static-files";
import { supplierRoutes } from "./routes/supplier";
import { BUILT_IN_CREW, type Session } from "./store/crew-scope";
import { Desk } from "./store/desk";
import { CREWS } from "./store/tables";
import type { Health } from "./store/health";

export interface AppParts {
  readonly source: DataSource;
  readonly health: Pick<Health, "ready">;
  readonly pool: ComputePool;
  readonly supplier: ReportClient;
  readonly outside: OutsideCalendar;
  /** The simulated calendar that ships with this. */
  readonly sampleCalendar?: Promise<string>;
  readonly post: Post;
  /** What went wrong with the reminders lately. */
  readonly reminderTrouble?: () => ReminderTrouble | undefined;
  /** The built client; absent when only the API is served. */
  readonly client?: ShippedFiles;
  /** Further hosts this server goes by, as in `WINTER_BEAD_HOSTS`. */
  readonly hosts?: string;
  readonly logger?: Logger;
  readonly diskIsFull?: () => boolean;
}

const BODY_LIMIT = "1mb";
const TOO_LARGE = 413;
/** Milliseconds for which the rest of a body over the limit is still taken, so that the sender hears why. */
const LINGER = 300;
/** Bytes from which compressing pays. */
const COMPRESS_FROM = 1024;

/** What the browser may load: this origin alone. The worker starts from a blob shim and styles are set from script. */
const CONTENT_SECURITY = {
  useDefaults: false,
  directives: {
    defaultSrc: ["'self'"],
    scriptSrc: ["'self'"],
    workerSrc: ["'self'", "blob:"],
    styleSrc: ["'self'", "'unsafe-inline'"],
    imgSrc: ["'self'", "data:"],
    fontSrc: ["'self'"],
    connectSrc: ["'self'"],
    objectSrc: ["'none'"],
    baseUri: ["'none'"],
    frameAncestors: ["'none'"],
    formAction: ["'self'"],
  },
};

function generalRoutes({ health, hosts }: AppParts, desk: Desk): Router {
  const router = new Router({ prefix: "/api/v1" });
  let document: Promise<unknown> | undefined;
  router.get("/openapi.json", async (ctx) => {
    document ??= import("@winter-bead/contract/src/openapi").then(({ openApiDocument }) => openApiDocument());
    ctx.body = await document;
  });
  router.get("/crew", async (ctx) => {
    const session = ctx.state["session"] as Session;
    ctx.body = await desk.read(session, (manager) => manager.findOneByOrFail(CREWS, { id: session.crewId }));
  });
  router.get("/health", async (ctx) => {
    if (await health.ready()) ctx.body = { ready: true };
    else sendUnavailable(ctx, "The records are out of reach for a moment", "Ask again in a moment.");
  });
  router.get("/addresses", (ctx) => {
    ctx.body = { items: hostsIn(hosts).map((host) => `https://${host}`) };
  });
  return router;
}

/** Whose request it is. Until there are accounts the built-in crew's, and its author is the device that it names. */
function sessionOf(ctx: Context): Session {
  const device = id.safeParse(ctx.get(DEVICE_HEADER));
  return { crewId: BUILT_IN_CREW, ...(device.success ? { author: `device ${device.data.toLowerCase()}` } : {}) };
}

/** Takes the rest of a body that nobody will read, for a moment, and then lets the connection go. */
async function turnBodyAway(ctx: Context): Promise<void> {
  ctx.req.resume();
  if (ctx.req.complete) return;
  ctx.set("Connection", "close");
  await new Promise<void>((ended) => {
    const timer = setTimeout(ended, LINGER);
    ctx.req.once("close", () => {
      clearTimeout(timer);
      ended();
    });
  });
}

const readBody = bodyParser({
  jsonLimit: BODY_LIMIT,
  enableTypes: ["json"],
  jsonStrict: false,
  onError: (error, ctx) =>
    ctx.throw((error as { status?: number }).status === TOO_LARGE ? TOO_LARGE : 400, "unreadable body"),
});

async function bodyOf(ctx: Context, next: Next): Promise<void> {
  try {
    await readBody(ctx, next);
  } catch (error) {
    // What is left of it on the connection would be taken for the next request.
    await turnBodyAway(ctx);
    throw error;
  }
}

/** The whole application: calculations, records and client from one origin. */
export function createApp(parts: AppParts): Koa {
  const { source, pool, supplier, outside, sampleCalendar, post, client, hosts, logger = pino() } = parts;
  const { diskIsFull = () => false } = parts;
  const log = (error: unknown, id?: string) => logger.error({ err: error, id }, "a mistake of the program");
  const app = new Koa();
  app.use(requestLog(logger));
  app.use(problems({ log, diskIsFull }));
  app.use(
    helmet({
      contentSecurityPolicy: CONTENT_SECURITY,
      strictTransportSecurity: false,
      crossOriginEmbedderPolicy: false,
    }),
  );
  app.use(knownCallers(hostsIn(hosts)));
  app.use(askedForm);
  if (client) app.use(staticFiles(client));
  app.use(compress({ threshold: COMPRESS_FROM }));
  app.use(answers);
  app.use(async (ctx, next) => {
    ctx.state["session"] = sessionOf(ctx);
    await next();
  });
  app.use(bodyOf);
  const desk = new Desk(source);
  const calendars = { desk, outside, ...(sampleCalendar ? { sample: sampleCalendar } : {}) };
  const routers = [
    ...[computeRoutes(pool), recordRoutes(desk), supplierRoutes(supplier), calendarRoutes(calendars)],
    ...[reminderRoutes(post, parts.reminderTrouble), exampleRoutes(), generalRoutes(parts, desk)],
  ];
  for (const router of routers) {
    app.use(router.routes());
    app.use(router.allowedMethods());
  }
  app.on("error", (error: Error) => log(error));
  return app;
}
