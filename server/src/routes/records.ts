import Router from "@koa/router";
import {
  fieldErrorsOf,
  id as idSchema,
  PROBLEMS,
  readAct,
  readBody,
  revision as revisionSchema,
  type FieldError,
  type Put,
} from "@winter-bead/contract";
import type { Kind } from "@winter-bead/core";
import type { Context } from "koa";
import type { EntityManager } from "typeorm";
import type { Session } from "../store/crew-scope";
import type { Desk } from "../store/desk";
import { Records, type ActOutcome } from "../store/records";
import { STORED, type StoredKinds } from "../store/tables";
import { sendFieldErrors, sendProblem } from "./problems";

const PAGE = 200;
const LARGEST_PAGE = 1000;

/** The id of the path, in the form the database gives back. */
const idOf = (ctx: Context) => String((ctx["params"] as { id: string }).id).toLowerCase();

const sessionOf = (ctx: Context): Session => ctx.state["session"] as Session;

const sendNewerShape = (ctx: Context, kinds: readonly string[]) =>
  sendProblem(ctx, 422, "This was written by a newer Winter Bead than this server", {
    type: PROBLEMS.newerShape,
    detail: `Update the server, then send it again: ${kinds.join(", ")} have a shape that it does not know.`,
  });

/** One put of a record, checked; undefined after the complaints were sent. */
function parsePut(ctx: Context, kind: Kind): Put | undefined {
  const sent: unknown = ctx.request.body;
  if (sent === null || typeof sent !== "object" || Array.isArray(sent)) {
    sendFieldErrors(ctx, [{ path: "", message: "Send one object with named fields." }]);
    return undefined;
  }
  const { replaces, voided, shape, ...fields } = sent as { [field: string]: unknown };
  const revision = revisionSchema.safeParse({ replaces, voided, shape });
  const complaints = revision.error ? fieldErrorsOf(revision.error) : [];
  const head = { kind: kind.name, id: idOf(ctx) };
  if (revision.data?.voided) {
    if (revision.data.replaces !== undefined) return { ...head, replaces: revision.data.replaces, voided: true };
    sendFieldErrors(ctx, [{ path: "replaces", message: "To take something back, name the version you saw." }]);
    return undefined;
  }
  const read = readBody(kind, fields, revision.data?.shape);
  if ("newer" in read) {
    sendNewerShape(ctx, [kind.many]);
    return undefined;
  }
  if ("body" in read && revision.data)
    return { ...head, replaces: revision.data.replaces, body: read.body, shape: revision.data.shape, old: read.old };
  sendFieldErrors(ctx, [...complaints, ...("errors" in read ? read.errors : [])]);
  return undefined;
}

/** Answers what stands in the way of an act; false where nothing does. */
function answerRefusal(ctx: Context, outcome: ActOutcome, pathOf: (error: FieldError) => FieldError): boolean {
  switch (outcome.outcome) {
    case "kept":
    case "unchanged":
      return false;
    case "other-act":
      sendProblem(ctx, 409, "Another act is kept under this id", { detail: "Give each act an id of its own." });
      return true;
    case "missing":
      sendProblem(ctx, 404, "There is no such record to change");
      return true;
    case "refused":
      sendFieldErrors(ctx, outcome.errors.map(pathOf));
      return true;
    case "in-use":
      sendProblem(ctx, 409, "This is in use", { type: PROBLEMS.inUse, detail: outcome.words });
      return true;
    case "conflict":
      sendProblem(ctx, 409, "This was changed meanwhile", {
        detail: "Another version is kept under this id; look at both and decide.",
        current: outcome.record,
        sent: ctx.request.body,
      });
      return true;
  }
}

const sameError = (error: FieldError) => error;
const inBody = ({ path, message }: FieldError): FieldError => ({ path: path.replace("puts.0.body.", ""), message });

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

/** Work on the records of whoever asks. */
type AsCrew = <T>(ctx: Context, work: (records: Records) => Promise<T>) => Promise<T>;

function checkId(router: Router, path: string): void {
  router.use(path, (ctx, next) => {
    const id = idSchema.safeParse(ctx["params"].id);
    return id.success
      ? next()
      : sendFieldErrors(
          ctx,
          fieldErrorsOf(id.error).map((error) => ({ ...error, path: "id" })),
        );
  });
}

function addKind(router: Router, kind: Kind, reading: AsCrew, writing: AsCrew): void {
  const { name } = kind;
  router.get(`/${name}`, async (ctx) => {
    const page = pageOf(ctx);
    if (page) ctx.body = await reading(ctx, (records) => records.list(name, page.limit, page.after));
  });

  checkId(router, `/${name}/:id`);

  router.get(`/${name}/:id`, async (ctx) => {
    const record = await reading(ctx, (records) => records.get(name, idOf(ctx)));
    if (record) ctx.body = record;
    else sendProblem(ctx, 404, "There is no such record");
  });

  router.get(`/${name}/:id/versions`, async (ctx) => {
    const versions = await reading(ctx, (records) => records.versions(name, idOf(ctx)));
    if (versions.length > 0) ctx.body = versions;
    else sendProblem(ctx, 404, "There is no such record");
  });

  router.put(`/${name}/:id`, async (ctx) => {
    const put = parsePut(ctx, kind);
    if (!put) return;
    const outcome = await writing(ctx, (records) => records.put(put, sessionOf(ctx).author));
    if (answerRefusal(ctx, outcome, inBody) || !("records" in outcome)) return;
    ctx.status = outcome.outcome === "kept" && put.replaces === undefined ? 201 : 200;
    ctx.body = outcome.records[0]!.record;
  });
}

function addActs(router: Router, kinds: StoredKinds, writing: AsCrew): void {
  const described = Object.fromEntries(Object.entries(kinds).map(([name, { kind }]) => [name, kind]));
  checkId(router, "/acts/:id");
  router.put("/acts/:id", async (ctx) => {
    const read = readAct(described, ctx.request.body);
    if ("errors" in read) return sendFieldErrors(ctx, read.errors);
    if ("newer" in read) return sendNewerShape(ctx, read.newer);
    const { act } = read;
    const outcome = await writing(ctx, (records) => records.act(idOf(ctx), act, sessionOf(ctx).author));
    if (answerRefusal(ctx, outcome, sameError) || !("records" in outcome)) return;
    ctx.status = outcome.outcome === "kept" ? 201 : 200;
    ctx.body = { id: idOf(ctx), at: act.at, what: act.what, records: outcome.records };
  });
}

/**
 * The records of the session's crew: list, read, keep; and acts, by which what belongs together is kept together.
 * @param kinds what is kept here
 */
export function recordRoutes(desk: Desk, kinds: StoredKinds = STORED): Router {
  const router = new Router({ prefix: "/api/v1" });
  const recordsOf = (ctx: Context, manager: EntityManager) => new Records(manager, sessionOf(ctx).crewId, kinds);
  const reading: AsCrew = (ctx, does) => desk.read(sessionOf(ctx), (manager) => does(recordsOf(ctx, manager)));
  const writing: AsCrew = (ctx, does) => desk.write(sessionOf(ctx), (manager) => does(recordsOf(ctx, manager)));
  for (const { kind } of Object.values(kinds)) addKind(router, kind, reading, writing);
  addActs(router, kinds, writing);
  return router;
}
