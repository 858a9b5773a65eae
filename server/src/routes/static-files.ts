import { createHash } from "node:crypto";
import { readdir, readFile } from "node:fs/promises";
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

/** The client's files by their address, and the addresses at which its places stand. */
export interface ShippedFiles {
  readonly files: ReadonlyMap<string, Shipped>;
  readonly isPlace: (path: string) => boolean;
}

/** Written by the build beside the files: every place's address, `[name]` for a part that varies. */
const PLACES = "places.json";

const isCompressed = (path: string) => /\.(br|gz)$/.test(path);

/** @example placePattern("/log/[rig]").test("/log/7") // true */
const placePattern = (place: string) =>
  new RegExp(`^${place.replace(/[.+*?^$(){}|\\]/g, "\\$&").replace(/\[[^\]]+\]/g, "[^/]+")}/?$`);

/** The client's files, read once at the start with what the build compressed beside them. */
export async function shippedFiles(folder: string): Promise<ShippedFiles> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  const paths = entries.filter((entry) => entry.isFile()).map((entry) => join(entry.path, entry.name));
  const bodies = new Map(await Promise.all(paths.map(async (path) => [path, await readFile(path)] as const)));
  const files = new Map<string, Shipped>();
  for (const [path, body] of bodies) {
    if (isCompressed(path)) continue;
    const br = bodies.get(`${path}.br`);
    const gzip = bodies.get(`${path}.gz`);
    files.set(`/${relative(folder, path)}`, {
      body,
      type: lookup(path) || "application/octet-stream",
      etag: `"${createHash("sha256").update(body).digest("base64url").slice(0, 22)}"`,
      ...(br ? { br } : {}),
      ...(gzip ? { gzip } : {}),
    });
  }
  const listed = bodies.get(join(folder, PLACES));
  const places = (listed ? (JSON.parse(listed.toString()) as string[]) : []).map(placePattern);
  return { files, isPlace: (path) => places.some((place) => place.test(path)) };
}

/** Names that carry a hash of their content never change. */
const isImmutable = (path: string) => /[-.][0-9a-f]{16,}\./.test(path);

function send(ctx: Context, path: string, file: Shipped, status = 200): void {
  ctx.set("ETag", file.etag);
  ctx.set("Vary", "Accept-Encoding");
  ctx.set("Cache-Control", isImmutable(path) ? "public, max-age=31536000, immutable" : "no-cache");
  ctx.status = status;
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

/** Serves the client; an address without a file is a place inside the app, or says in the app that nothing is there. */
export function staticFiles({ files, isPlace }: ShippedFiles) {
  const shell = files.get("/index.html");
  return async (ctx: Context, next: Next) => {
    if ((ctx.method !== "GET" && ctx.method !== "HEAD") || ctx.path.startsWith("/api/")) return next();
    const path = decoded(ctx.path);
    const file = files.get(path);
    if (file) return send(ctx, path, file);
    if (shell && !/\.[a-z0-9]+$/i.test(ctx.path)) return send(ctx, "/index.html", shell, isPlace(path) ? 200 : 404);
    return next();
  };
}
