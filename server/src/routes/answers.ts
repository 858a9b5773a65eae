import etag from "etag";
import type { Context, Next } from "koa";

const isPlain = (body: unknown): body is object =>
  typeof body === "object" && body !== null && !Buffer.isBuffer(body) && !("pipe" in body);

/**
 * Writes an answer once, and marks what was read with its ETag, so that asking again for the same costs no body. It may be
 * kept by the asker's own browser alone, and only to be asked about.
 */
export async function answers(ctx: Context, next: Next): Promise<void> {
  if (!ctx.path.startsWith("/api/")) return next();
  ctx.set("Cache-Control", "no-store");
  await next();
  if (isPlain(ctx.body)) {
    const { body } = ctx;
    if (ctx.response.get("Content-Type") === "") ctx.type = "application/json";
    ctx.body = JSON.stringify(body);
  }
  if (ctx.method !== "GET" || ctx.status !== 200 || typeof ctx.body !== "string") return;
  ctx.set("Cache-Control", "private, no-cache");
  ctx.set("ETag", etag(ctx.body, { weak: true }));
  if (ctx.fresh) {
    ctx.status = 304;
    ctx.body = null;
  }
}
