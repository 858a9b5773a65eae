import { createHash } from "node:crypto";
import { readdirSync, readFileSync, statSync } from "node:fs";
import { join, relative } from "node:path";
import type { Context, Next } from "koa";
import { lookup } from "mime-types";

interface Shipped {
  readonly body: Buffer;
  readonly type: string;
  readonly etag: string;
  readonly br?: Buffer;
  readonly gzip?: Buffer;
}

function filesBelow(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? filesBelow(join(folder, entry.name)) : [join(folder, entry.name)],
  );
}

const readIfThere = (path: string, all: ReadonlySet<string>) => (all.has(path) ? readFileSync(path) : undefined);

/** The client's files, read once at start with what the build compressed beside them. */
function shippedFiles(folder: string): Map<string, Shipped> {
  const all = new Set(filesBelow(folder));
  const shipped = new Map<string, Shipped>();
  for (const path of all) {
    if (/\.(br|gz)$/.test(path) || !statSync(path).isFile()) continue;
    const body = readFileSync(path);
    const etag = `"${createHash("sha256").update(body).digest("base64url").slice(0, 22)}"`;
    shipped.set(`/${relative(folder, path)}`, {
      body,
      type: lookup(path) || "application/octet-stream",
      etag,
      br: readIfThere(`${path}.br`, all),
      gzip: readIfThere(`${path}.gz`, all),
    });
  }
  return shipped;
}

/** Names that carry a hash of their content never change. */
const isImmutable = (path: string) => /[-.][0-9a-f]{16,}\./.test(path);

function send(ctx: Context, path: string, file: Shipped): void {
  ctx.set("ETag", file.etag);
  ctx.set("Vary", "Accept-Encoding");
  ctx.set("Cache-Control", isImmutable(path) ? "public, max-age=31536000, immutable" : "no-cache");
  ctx.status = 200;
  if (ctx.fresh) {
    ctx.status = 304;
    return;
  }
  ctx.type = file.type;
  if (file.br && ctx.acceptsEncodings("br")) {
    ctx.set("Content-Encoding", "br");
    ctx.body = file.br;
  } else if (file.gzip && ctx.acceptsEncodings("gzip")) {
    ctx.set("Content-Encoding", "gzip");
    ctx.body = file.gzip;
  } else {
    ctx.body = file.body;
  }
}

function decoded(path: string): string {
  try {
    return decodeURIComponent(path);
  } catch {
    return path;
  }
}

/** Serves the client; an address without a file is a place inside the app. */
export function staticFiles(folder: string) {
  const files = shippedFiles(folder);
  const shell = files.get("/index.html");
  return async (ctx: Context, next: Next) => {
    if ((ctx.method !== "GET" && ctx.method !== "HEAD") || ctx.path.startsWith("/api/")) return next();
    const path = decoded(ctx.path);
    const file = files.get(path);
    if (file) return send(ctx, path, file);
    if (shell && !/\.[a-z0-9]+$/i.test(ctx.path)) return send(ctx, "/index.html", shell);
    return next();
  };
}
