import type { Context, Next } from "koa";
import { sendProblem } from "./problems";

/** Names under which this machine knows itself. */
const LOOPBACK = ["127.0.0.1", "localhost", "[::1]"];

/** A host without its port. @example nameOf("localhost:4180") // "localhost" */
const nameOf = (host: string) => host.replace(/:\d+$/, "").toLowerCase();

/** Further hosts of `WINTER_BEAD_HOSTS`, as they were written: `bead.example, van.local:8443`. */
export const hostsIn = (text: string | undefined): readonly string[] =>
  (text ?? "")
    .split(/[\s,]+/)
    .map((host) => host.replace(/^https?:\/\//i, "").replace(/\/$/, ""))
    .filter((host) => host !== "");

/** The sender's own page, a typed address, or no browser at all. */
const OWN_SITE = new Set([undefined, "", "same-origin", "none"]);

/** Following a link from elsewhere opens the app; anything else from another site does not come from its own page. */
const opensPage = (ctx: Context) =>
  (ctx.method === "GET" || ctx.method === "HEAD") &&
  ctx.get("Sec-Fetch-Mode") === "navigate" &&
  ctx.get("Sec-Fetch-Dest") === "document" &&
  !ctx.path.startsWith("/api/");

/**
 * Answers only to hosts it knows and to its own pages. Without this a page whose name is turned to this machine's address,
 * or any other page open in the same browser, could read and write everything.
 */
export function knownCallers(more: readonly string[]) {
  const known = new Set([...LOOPBACK, ...more.map(nameOf)]);
  return async (ctx: Context, next: Next) => {
    const host = ctx.get("Host");
    if (!known.has(nameOf(host)))
      return sendProblem(ctx, 421, "This server does not go by that name", {
        detail: "Open it at http://127.0.0.1, or name the host in WINTER_BEAD_HOSTS.",
      });
    const origin = ctx.get("Origin");
    const foreignOrigin = origin !== "" && origin.replace(/^https?:\/\//i, "").toLowerCase() !== host.toLowerCase();
    const site = ctx.get("Sec-Fetch-Site");
    if (foreignOrigin || (!OWN_SITE.has(site) && !opensPage(ctx)))
      return sendProblem(ctx, 403, "Another site's page asked for this", {
        detail: "Winter Bead answers only to its own pages, and to programs that are no browser.",
      });
    await next();
  };
}
