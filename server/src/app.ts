import { bodyParser } from "@koa/bodyparser";
import Router from "@koa/router";
import { openApiDocument } from "@winter-bead/contract";
import Koa from "koa";
import helmet from "koa-helmet";
import { pino } from "pino";
import type { DataSource } from "typeorm";
import type { ComputePool } from "./compute/compute-pool";
import type { ReportClient } from "./devices/report-client";
import { computeRoutes } from "./routes/compute";
import { problems } from "./routes/problems";
import { recordRoutes } from "./routes/records";
import { staticFiles } from "./routes/static-files";
import { supplierRoutes } from "./routes/supplier";
import { BUILT_IN_CREW, inCrew, type Session } from "./store/crew-scope";
import { CREWS } from "./store/entities";

export interface AppParts {
  readonly source: DataSource;
  readonly pool: ComputePool;
  readonly supplier: ReportClient;
  /** The built client; absent when only the API is served. */
  readonly clientFolder?: string;
  readonly log?: (error: unknown) => void;
}

const BODY_LIMIT = "1mb";

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

function generalRoutes(source: DataSource): Router {
  const document = openApiDocument();
  const router = new Router({ prefix: "/api/v1" });
  router.get("/openapi.json", (ctx) => {
    ctx.body = document;
  });
  router.get("/crew", async (ctx) => {
    const session = ctx.state["session"] as Session;
    ctx.body = await inCrew(source, session, (manager) => manager.findOneByOrFail(CREWS, { id: session.crewId }));
  });
  router.get("/health", async (ctx) => {
    await source.query("SELECT 1");
    ctx.body = { ready: true };
  });
  return router;
}

/** The whole application: calculations, records and client from one origin. */
export function createApp({
  source,
  pool,
  supplier,
  clientFolder,
  log = (error) => pino().error(error),
}: AppParts): Koa {
  const app = new Koa();
  app.use(problems(log));
  app.use(
    helmet({
      contentSecurityPolicy: CONTENT_SECURITY,
      strictTransportSecurity: false,
      crossOriginEmbedderPolicy: false,
    }),
  );
  if (clientFolder) app.use(staticFiles(clientFolder));
  app.use(async (ctx, next) => {
    ctx.state["session"] = { crewId: BUILT_IN_CREW } satisfies Session;
    if (ctx.path.startsWith("/api/")) ctx.set("Cache-Control", "no-store");
    await next();
  });
  app.use(
    bodyParser({
      jsonLimit: BODY_LIMIT,
      enableTypes: ["json"],
      jsonStrict: false,
      onError: (error, ctx) => ctx.throw((error as { status?: number }).status === 413 ? 413 : 400, "unreadable body"),
    }),
  );
  for (const router of [computeRoutes(pool), recordRoutes(source), supplierRoutes(supplier), generalRoutes(source)]) {
    app.use(router.routes());
    app.use(router.allowedMethods());
  }
  app.on("error", log);
  return app;
}
