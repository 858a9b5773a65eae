import type { FieldError, Problem } from "@winter-bead/contract";
import type { Context, Next } from "koa";
import { databaseErrorOf, storeTroubleOf, type StoreTrouble } from "../store/trouble";

/** Answers with problem details (RFC 9457). */
export function sendProblem(ctx: Context, status: number, title: string, more: Partial<Problem> = {}): void {
  ctx.status = status;
  ctx.type = "application/problem+json";
  const problem: Problem = { type: "about:blank", title, status, ...more };
  ctx.body = JSON.stringify(problem);
}

export const sendFieldErrors = (ctx: Context, errors: readonly FieldError[]) =>
  sendProblem(ctx, 422, "Some figures need another look", {
    errors: [...errors],
    detail: errors.map((error) => error.message).join(" "),
  });

/** Expected trouble: the same request may be sent again after so many seconds. */
export function sendUnavailable(ctx: Context, title: string, detail: string, retryAfter = 1): void {
  ctx.set("Retry-After", String(retryAfter));
  sendProblem(ctx, 503, title, { detail });
}

const UNKNOWN_REFERENCE: Readonly<Record<string, { path: string; what: string }>> = {
  site_id_known: { path: "siteId", what: "site" },
  tap_id_known: { path: "tapId", what: "tap" },
  vessel_id_known: { path: "vesselId", what: "vessel" },
  rig_id_known: { path: "rigId", what: "rig" },
  meter_id_known: { path: "readings", what: "meter" },
};

const FOREIGN_KEY = "23503";
const UNIQUE = "23505";

const isRead = (ctx: Context) => ctx.method === "GET" || ctx.method === "HEAD";

/** One true sentence for each trouble, and how long to wait. */
function answerTrouble(ctx: Context, trouble: StoreTrouble, diskIsFull: () => boolean): void {
  const nothingKept = isRead(ctx) ? "Ask again in a moment." : "Nothing was kept from this request; send it again.";
  if (trouble === "disk-full" || diskIsFull())
    return sendUnavailable(
      ctx,
      "The disk of this server is full",
      `${trouble === "uncertain" ? "It is uncertain whether this was kept." : nothingKept} Nothing can be kept until there is room on the disk that holds the data folder.`,
      30,
    );
  if (trouble === "busy") return sendUnavailable(ctx, "Too much is asked at once", nothingKept, 2);
  if (trouble === "uncertain" && !isRead(ctx))
    return sendUnavailable(
      ctx,
      "The records went out of reach just then",
      "It is uncertain whether this was kept. Send it again: what was kept already is not doubled.",
    );
  sendUnavailable(ctx, "The records are out of reach for a moment", nothingKept);
}

/** What the database would not take, as the sender's own matter. */
function answerRefusal(ctx: Context, error: unknown): boolean {
  const { code, constraint, table } = databaseErrorOf(error);
  if (code === FOREIGN_KEY) {
    const { path, what } = UNKNOWN_REFERENCE[constraint] ?? { path: "", what: "record it names" };
    sendFieldErrors(ctx, [{ path, message: `This ${what} is not known here.` }]);
    return true;
  }
  if (code === UNIQUE) {
    if (table === "reading")
      sendProblem(ctx, 409, "A reading of this visit has the id of another visit's reading", {
        detail: "Give each reading an id of its own.",
      });
    else sendUnavailable(ctx, "Another request is keeping this id at the same moment", "Send it again.");
    return true;
  }
  if (!/^22/.test(code)) return false;
  sendProblem(ctx, 422, "Something in this cannot be kept", {
    detail: "A figure or a character is outside what the records can hold.",
  });
  return true;
}

function answerRequestError(ctx: Context, error: { readonly status?: number }): boolean {
  const { status } = error;
  if (status === 413) {
    sendProblem(ctx, 413, "The body is over 1 MiB");
    return true;
  }
  if (status === undefined || status >= 500) return false;
  const message = "Send one JSON object, as UTF-8.";
  sendProblem(ctx, status, "The request could not be read", { detail: message, errors: [{ path: "", message }] });
  return true;
}

export interface ProblemParts {
  /** @param id of the request, as its answer names it */
  readonly log: (error: unknown, id: string) => void;
  /** Whether the disk of the data folder has no room left. */
  readonly diskIsFull: () => boolean;
}

/** Turns every error of a request into problem details; only a fault of the program itself ends as 500. */
export const problems =
  ({ log, diskIsFull }: ProblemParts) =>
  async (ctx: Context, next: Next) => {
    try {
      await next();
      if (ctx.status === 404 && ctx.body === undefined) sendProblem(ctx, 404, "There is nothing at this address");
      if (ctx.status === 405 && ctx.body === undefined) sendProblem(ctx, 405, "This address does not take that method");
    } catch (error) {
      if (answerRequestError(ctx, error as { status?: number })) return;
      const trouble = storeTroubleOf(error);
      if (trouble) return answerTrouble(ctx, trouble, diskIsFull);
      if (answerRefusal(ctx, error)) return;
      const id = ctx.response.get("X-Request-Id");
      log(error, id);
      sendProblem(ctx, 500, "Winter Bead made a mistake; it was written to its log", {
        detail: `Look for ${id} in the log of the data folder.`,
      });
    }
  };
