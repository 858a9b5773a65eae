import type { FieldError, Problem } from "@winter-bead/contract";
import type { Context, Next } from "koa";

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

interface DatabaseError {
  readonly code?: string;
  readonly constraint?: string;
  readonly table?: string;
  readonly driverError?: DatabaseError;
  readonly status?: number;
  readonly type?: string;
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

/** PostgreSQL out of reach: connection errors of the socket, class 08, or a server that starts or stops (class 57). */
const isUnreachable = (code: string) => /^(ECONN|EPIPE|ETIMEDOUT|08|57P)/.test(code);

/** Nothing was kept; the same request may be sent again. */
function sendUnavailable(ctx: Context, title: string): void {
  ctx.set("Retry-After", "1");
  sendProblem(ctx, 503, title, { detail: "Nothing was kept from this request; send it again." });
}

function answerDatabaseError(ctx: Context, error: DatabaseError): boolean {
  const { code = "", constraint = "", table } = error;
  if (code === FOREIGN_KEY) {
    const { path, what } = UNKNOWN_REFERENCE[constraint] ?? { path: "", what: "record it names" };
    sendFieldErrors(ctx, [{ path, message: `This ${what} is not known here.` }]);
    return true;
  }
  if (code === UNIQUE) {
    if (table === "reading") sendProblem(ctx, 409, "A reading of this id stands in another visit");
    else sendUnavailable(ctx, "Another request is keeping this id at the same moment");
    return true;
  }
  if (/^22/.test(code)) {
    sendProblem(ctx, 422, "Something in this cannot be kept", {
      detail: "A figure or a character is outside what the records can hold.",
    });
    return true;
  }
  if (
    isUnreachable(code) ||
    /Connection terminated|timeout exceeded|Client has encountered|not queryable|driver not connected/i.test(
      String((error as Error).message),
    )
  ) {
    sendUnavailable(ctx, "The records are out of reach for a moment");
    return true;
  }
  return false;
}

function answerRequestError(ctx: Context, error: DatabaseError): boolean {
  if (error.status === 413) {
    sendProblem(ctx, 413, "The body is over 1 MiB");
    return true;
  }
  if (error.status !== undefined && error.status < 500) {
    const message = "Send one JSON object, as UTF-8.";
    sendProblem(ctx, error.status, "The request could not be read", {
      detail: message,
      errors: [{ path: "", message }],
    });
    return true;
  }
  return false;
}

/** Turns every error of a request into problem details; only a fault of the program itself ends as 500. */
export const problems = (log: (error: unknown) => void) => async (ctx: Context, next: Next) => {
  try {
    await next();
    if (ctx.status === 404 && ctx.body === undefined) sendProblem(ctx, 404, "There is nothing at this address");
    if (ctx.status === 405 && ctx.body === undefined) sendProblem(ctx, 405, "This address does not take that method");
  } catch (caught) {
    const error = caught as DatabaseError;
    if (answerRequestError(ctx, error)) return;
    if (
      answerDatabaseError(ctx, {
        ...error.driverError,
        code: error.driverError?.code ?? error.code,
        message: String((caught as Error).message),
      } as DatabaseError)
    )
      return;
    log(caught);
    sendProblem(ctx, 500, "Winter Bead made a mistake; it was written to its log");
  }
};
