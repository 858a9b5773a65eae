import { randomUUID } from "node:crypto";
import type { Context, Next } from "koa";
import type { Logger } from "pino";
import { pinoHttp } from "pino-http";

const LONGEST_URL = 300;

/** An address as the router reads it: without escapes, doubled strokes, or letters of another size. */
function plainPath(url: string): string {
  const [path = ""] = url.split("?");
  try {
    return decodeURIComponent(path).replaceAll(/\/+/g, "/").toLowerCase();
  } catch {
    return path.replaceAll(/\/+/g, "/").toLowerCase();
  }
}

/** The address of a feed is a secret, and that of somebody's calendar may hold one: neither is written, however it is spelt. */
export function withoutSecrets(url: string): string {
  const path = plainPath(url);
  if (path.includes("calendar/feed")) return "/api/v1/calendar/feed/…";
  if (path.includes("calendar/outside")) return "/api/v1/calendar/outside?…";
  return url.slice(0, LONGEST_URL);
}

/** Each request one line with an id of its own: what was asked, what was answered, how long it took; never what it held. */
export function requestLog(logger: Logger) {
  const log = pinoHttp({
    logger,
    genReqId: (_request, response) => {
      const id = randomUUID();
      response.setHeader("X-Request-Id", id);
      return id;
    },
    serializers: {
      req: ({ id, method, url }: { id: string; method: string; url: string }) => ({
        id,
        method,
        url: withoutSecrets(url),
      }),
      res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
    },
    customLogLevel: (_request, response, error) => (error || response.statusCode >= 500 ? "warn" : "info"),
  });
  return async (ctx: Context, next: Next) => {
    log(ctx.req, ctx.res);
    await next();
  };
}
