import Router from "@koa/router";
import {
  fieldErrorsOf,
  id as idSchema,
  RECORD_KINDS,
  RECORDS,
  revision as revisionSchema,
  type RecordKind,
} from "@winter-bead/contract";
import type { Context } from "koa";
import type { DataSource } from "typeorm";
import { inCrew, type Session } from "../store/crew-scope";
import { Gate } from "../store/gate";
import { Records, type Body, type PutOutcome } from "../store/records";
import { sendFieldErrors, sendProblem } from "./problems";

/** Reads and writes that the database does at once, together its pool; what waits longer than this is told to come again. */
const READS = { atOnce: 3, mostWaiting: 40, patience: 2_000 } as const;
const WRITES = { atOnce: 5, mostWaiting: 400, patience: 5_000 } as const;

const PAGE = 200;
const LARGEST_PAGE = 1000;

/** The id of the path, in the form the database gives back. */
const idOf = (ctx: Context) => String((ctx["params"] as { id: string }).id).toLowerCase();

const sessionOf = (ctx: Context): Session => ctx.state["session"] as Session;

interface ParsedPut {
  readonly body: Body;
  readonly replaces?: number;
  readonly voided: boolean;
}

/** The body apart from its revision, both checked; undefined after the complaints were sent. */
function parsePut(ctx: Context, kind: RecordKind): ParsedPut | undefined {
  const sent: unknown = ctx.request.body;
  if (sent === null || typeof sent !== "object" || Array.isArray(sent)) {
    sendFieldErrors(ctx, [{ path: "", message: "Send one object with named fields." }]);
    return undefined;
  }
  const { replaces, voided, ...fields } = sent as { [field: string]: unknown };
  const revision = revisionSchema.safeParse({ replaces, voided });
  const body = RECORDS[kind].safeParse(fields);
  if (body.success && revision.success)
    return { body: body.data as Body, replaces: revision.data.replaces, voided: revision.data.voided ?? false };
  sendFieldErrors(ctx, [
    ...(revision.error ? fieldErrorsOf(revision.error) : []),
    ...(body.error ? fieldErrorsOf(body.error) : []),
  ]);
  return undefined;
}

function answerPut(ctx: Context, outcome: PutOutcome): void {
  if (outcome.outcome === "missing") return sendProblem(ctx, 404, "There is no such record to change");
  if (outcome.outcome === "refused") return sendFieldErrors(ctx, outcome.errors);
  if (outcome.outcome === "conflict") {
    return sendProblem(ctx, 409, "This was changed meanwhile", {
      detail: "Another version is kept under this id; look at both and decide.",
      current: outcome.record,
      sent: ctx.request.body,
    });
  }
  ctx.status = outcome.outcome === "created" ? 201 : 200;
  ctx.body = outcome.record;
}

function pageOf(ctx: Context): { limit: number; after?: string } | undefined {
  const { limit = String(PAGE), after } = ctx.query as { [name: string]: string | undefined };
  const size = Number(limit);
  if (!Number.isInteger(size) || size < 1 || size > LARGEST_PAGE) {
    sendFieldErrors(ctx, [{ path: "limit", message: `Ask for 1 to ${LARGEST_PAGE} at a time.` }]);
    return undefined;
  }
  if (after !== undefined && !idSchema.safeParse(after).success) {
    sendFieldErrors(ctx, [{ path: "after", message: "after must be the `next` of the page before." }]);
    return undefined;
  }
  return { limit: size, after };
}

/** Work on the records of whoever asks, let in by a gate. */
type AsCrew = <T>(ctx: Context, work: (records: Records) => Promise<T>) => Promise<T>;

const asCrewThrough =
  (source: DataSource, gate: Gate): AsCrew =>
  (ctx, work) =>
    gate.run(() => inCrew(source, sessionOf(ctx), (manager) => work(new Records(manager, sessionOf(ctx).crewId))));

function addKind(router: Router, kind: RecordKind, reading: AsCrew, writing: AsCrew): void {
  router.get(`/${kind}`, async (ctx) => {
    const page = pageOf(ctx);
    if (page) ctx.body = await reading(ctx, (records) => records.list(kind, page.limit, page.after));
  });

  router.use(`/${kind}/:id`, (ctx, next) => {
    const id = idSchema.safeParse(ctx["params"].id);
    return id.success
      ? next()
      : sendFieldErrors(
          ctx,
          fieldErrorsOf(id.error).map((error) => ({ ...error, path: "id" })),
        );
  });

  router.get(`/${kind}/:id`, async (ctx) => {
    const record = await reading(ctx, (records) => records.get(kind, idOf(ctx)));
    if (record) ctx.body = record;
    else sendProblem(ctx, 404, "There is no such record");
  });

  router.get(`/${kind}/:id/versions`, async (ctx) => {
    const versions = await reading(ctx, (records) => records.versions(kind, idOf(ctx)));
    if (versions.length > 0) ctx.body = versions;
    else sendProblem(ctx, 404, "There is no such record");
  });

  router.put(`/${kind}/:id`, async (ctx) => {
    const parsed = parsePut(ctx, kind);
    if (!parsed) return;
    const { body, replaces, voided } = parsed;
    answerPut(ctx, await writing(ctx, (records) => records.put(kind, idOf(ctx), body, { replaces, voided })));
  });
}

/** The records of the session's crew: list, read, keep. */
export function recordRoutes(source: DataSource): Router {
  const router = new Router({ prefix: "/api/v1" });
  const reading = asCrewThrough(source, new Gate(READS.atOnce, READS.mostWaiting, READS.patience));
  const writing = asCrewThrough(source, new Gate(WRITES.atOnce, WRITES.mostWaiting, WRITES.patience));
  for (const kind of RECORD_KINDS) addKind(router, kind, reading, writing);
  return router;
}
