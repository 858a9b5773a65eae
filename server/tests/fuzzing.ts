import { request as httpRequest } from "node:http";

/*
 * Requests made from the API's own description: each begins as one that the server would take, and is then bent in one or
 * more places. What comes back may refuse; it may not break, hang up or take for ever.
 */

/** Numbers from 0 to 1 that a seed settles (mulberry32). */
export function chance(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

type Json = { readonly [key: string]: unknown };

interface Operation {
  readonly method: string;
  readonly path: string;
  readonly body: Json | undefined;
}

interface Media {
  readonly schema?: Json;
  readonly example?: unknown;
}

interface Described {
  readonly requestBody?: { readonly content: { readonly "application/json": Media } };
}

export interface Sent {
  readonly method: string;
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: Buffer | undefined;
}

/** What came of one request: its status, or why there is none. */
export interface Outcome {
  readonly sent: Sent;
  readonly status: number;
  readonly trouble?: string;
  /** Milliseconds. */
  readonly took: number;
}

const STRANGE: readonly unknown[] = [
  ...[null, true, false, 0, -0, 1, -1, 0.1, 1e-300, 1e300, -1e300, 2147483647, 2147483648, 9007199254740993, 1e12],
  ...["", " ", "0", "NaN", "Infinity", "\u0000", "\ud800", "\u202e", "\n", "💧", "x".repeat(3000), "__proto__"],
  ...["constructor", "../../etc/passwd", "' OR 1=1 --", "2027-02-30", "9999-12-31", "1970-01-01T00:00:00Z"],
  ...["2027-03-01T08:00:00.000Z", "0194b000-0000-7000-8000-000000000000", "hasOwnProperty"],
  ...[
    [],
    {},
    [[]],
    [null],
    { __proto__: 1 },
    Array.from({ length: 2000 }, () => 1),
    Array.from({ length: 600 }, () => ({})),
  ],
];

const PATHS = ["/", "//", "/%00", "/%ff", "/..", "/api/v1", "/api/v1/constructor", "/api/v1/rigs/", "/api/v1/acts"];
const METHODS = ["GET", "HEAD", "PUT", "POST", "DELETE", "OPTIONS", "PATCH", "TRACE", "PROPFIND"];
const HEADERS: readonly Readonly<Record<string, string>>[] = [
  {},
  { "Accept-Encoding": "identity;q=0, *;q=0" },
  { "Accept-Encoding": "br;q=1, gzip;q=0.1" },
  { "Content-Encoding": "gzip" },
  { "Content-Encoding": "nonsense" },
  { "Content-Type": "text/plain" },
  { "Content-Type": "application/json; charset=utf-16" },
  { "Winter-Bead-Device": "not a device" },
  { "If-None-Match": "*" },
  { Accept: "image/png" },
  { Expect: "100-continue" },
];

/** Writes requests, the same ones for the same seed and the same records. */
export class Fuzzer {
  private readonly operations: readonly Operation[];

  /**
   * @param document of the API
   * @param records by kind, as the server has them: what a request begins from
   */
  constructor(
    document: Json,
    private readonly records: Readonly<Record<string, readonly Json[]>>,
    private readonly next: () => number,
  ) {
    this.operations = Object.entries(document["paths"] as Record<string, Record<string, Described>>).flatMap(
      ([path, methods]) =>
        Object.entries(methods).map(([method, described]) => ({
          ...{ method: method.toUpperCase(), path },
          body: described.requestBody?.content["application/json"] as Json | undefined,
        })),
    );
  }

  request(): Sent {
    if (this.next() < 0.03) return this.sent(this.pick(METHODS), this.pick(PATHS), undefined);
    const operation = this.pick(this.operations);
    const method = this.next() < 0.03 ? this.pick(METHODS) : operation.method;
    const path = this.addressed(operation.path);
    return this.sent(method, path, operation.body ? this.bodyFor(operation) : undefined);
  }

  /** A fresh UUID of version 7 that the seed settles. */
  private newId(): string {
    const digits = () =>
      Math.floor(this.next() * 0xffffff)
        .toString(16)
        .padStart(6, "0");
    return `0194${digits().slice(0, 4)}-${digits().slice(0, 4)}-7${digits().slice(0, 3)}-8${digits().slice(0, 3)}-${digits()}${digits()}`;
  }

  private pick<T>(from: readonly T[]): T {
    return from[Math.floor(this.next() * from.length)]!;
  }

  private sent(method: string, path: string, body: unknown): Sent {
    const text = body === undefined ? undefined : this.written(body);
    const headers = this.next() < 0.15 ? this.pick(HEADERS) : {};
    return { method, path, headers: { "Content-Type": "application/json", ...headers }, body: text };
  }

  /** As JSON, now and then cut short or with bytes that are none. */
  private written(body: unknown): Buffer {
    const whole = Buffer.from(JSON.stringify(body) ?? "null");
    const luck = this.next();
    if (luck < 0.02) return whole.subarray(0, Math.floor(this.next() * whole.length));
    if (luck < 0.04) return Buffer.concat([whole.subarray(0, 5), Buffer.from([0xff, 0x00, 0x80]), whole.subarray(5)]);
    return whole;
  }

  /** A path with an id in it: a known one, a new one, or none at all. */
  private addressed(path: string): string {
    const kind = path.split("/")[3] ?? "";
    const known = this.records[kind] ?? [];
    const id = () => {
      if (known.length > 0 && this.next() < 0.6) return String(this.pick(known)["id"]);
      return this.next() < 0.8
        ? this.newId()
        : encodeURIComponent(String(this.pick(STRANGE)).toWellFormed().slice(0, 300));
    };
    const filled = path.replaceAll(/\{[^}]+\}/g, id);
    if (this.next() > 0.2) return filled;
    const name = this.pick(["limit", "after", "address", "on", "x"]);
    return `${filled}?${name}=${encodeURIComponent(String(this.pick(STRANGE)).toWellFormed().slice(0, 300))}`;
  }

  private bodyFor({ path, body }: Operation): unknown {
    const begun = path.includes("/acts/") ? this.act() : (this.ownBody(path) ?? body!["example"] ?? {});
    const changes = this.next() < 0.25 ? 0 : 1 + Math.floor(this.next() * 3);
    let bent: unknown = JSON.parse(JSON.stringify(begun));
    for (let i = 0; i < changes; i += 1) bent = this.bend(bent);
    return bent;
  }

  /** A body of this kind that the server has, as a new record, a change or a taking back. */
  private ownBody(path: string): Json | undefined {
    const known = this.records[path.split("/")[3] ?? ""];
    if (!known || known.length === 0) return undefined;
    const { id: _, version, voided: _v, ...fields } = this.pick(known);
    const luck = this.next();
    if (luck < 0.4) return fields;
    return luck < 0.8 ? { ...fields, replaces: version } : { replaces: version, voided: true };
  }

  private act(): Json {
    const kinds = Object.keys(this.records).filter((kind) => this.records[kind]!.length > 0);
    const puts = Array.from({ length: 1 + Math.floor(this.next() * 6) }, () => {
      const kind = this.pick(kinds);
      const { id, version, voided: _, ...body } = this.pick(this.records[kind]!);
      const luck = this.next();
      if (luck < 0.4) return { kind, id: this.newId(), body };
      return luck < 0.8 ? { kind, id, replaces: version, body } : { kind, id, replaces: version, voided: true };
    });
    return { at: "2027-03-01T08:00:00.000Z", what: "Fuzz", puts };
  }

  /** One place of a value bent: replaced, left out, doubled, or with something beside it. */
  private bend(value: unknown): unknown {
    if (value === null || typeof value !== "object" || this.next() < 0.1) return this.strangeOf(value);
    if (Array.isArray(value)) {
      if (value.length === 0 || this.next() < 0.15) return [...(value as unknown[]), this.pick(STRANGE)];
      if (this.next() < 0.1) return Array.from({ length: 300 }, () => value[0] as unknown);
      const at = Math.floor(this.next() * value.length);
      return (value as unknown[]).map((each, i) => (i === at ? this.bend(each) : each));
    }
    const names = Object.keys(value);
    if (names.length === 0 || this.next() < 0.1) return { ...value, [String(this.pick(STRANGE)).slice(0, 50)]: 1 };
    const name = this.pick(names);
    if (this.next() < 0.1) return Object.fromEntries(Object.entries(value).filter(([each]) => each !== name));
    return { ...value, [name]: this.bend((value as Json)[name]) };
  }

  private strangeOf(value: unknown): unknown {
    if (typeof value === "number" && this.next() < 0.6)
      return value * this.pick([-1, 0, 1e-9, 0.5, 10, 1e3, 1e9, 1e30]);
    return this.pick(STRANGE);
  }
}

/** Sends one request and waits for all of its answer, or for so long. */
export function send(url: string, sent: Sent, within: number): Promise<Outcome> {
  const { hostname, port } = new URL(url);
  const began = performance.now();
  return new Promise((done) => {
    const end = (status: number, trouble?: string) =>
      done({ sent, status, took: performance.now() - began, ...(trouble === undefined ? {} : { trouble }) });
    const { method, path, headers, body } = sent;
    const request = httpRequest(
      { hostname, port, method, path, headers: { ...headers, ...(body ? { "Content-Length": body.length } : {}) } },
      (response) => {
        response.on("error", (error) => end(response.statusCode ?? 0, error.message));
        response.on("end", () => end(response.statusCode ?? 0));
        response.resume();
      },
    );
    request.on("error", (error) => end(0, error.message));
    request.setTimeout(within, () => request.destroy(new Error(`no answer within ${within} ms`)));
    request.end(body);
  });
}

export interface Harm {
  readonly requests: number;
  readonly byStatus: Readonly<Record<string, number>>;
  /** Milliseconds. */
  readonly slowest: number;
  /** What may not be: a 5xx, a connection that broke, an answer that took too long. */
  readonly bad: readonly Outcome[];
}

const AT_ONCE = 4;
/** Milliseconds. */
const LONGEST_ANSWER = 10_000;

/** @param ask fetches JSON of the server under test */
export async function fuzz(
  url: string,
  ask: (path: string) => Promise<unknown>,
  seed: number,
  requests: number,
): Promise<Harm> {
  const document = (await ask("/api/v1/openapi.json")) as Json;
  const kinds = Object.keys(document["paths"] as Json).flatMap(
    (path) => /^\/api\/v1\/([a-z-]+)$/.exec(path)?.[1] ?? [],
  );
  const records: Record<string, readonly Json[]> = {};
  for (const kind of kinds) {
    const found = (await ask(`/api/v1/${kind}?limit=40`).catch(() => undefined)) as
      { items?: readonly Json[] } | undefined;
    if (found?.items?.every((item) => typeof item === "object" && "version" in item)) records[kind] = found.items;
  }
  const fuzzer = new Fuzzer(document, records, chance(seed));
  const byStatus: Record<string, number> = {};
  const bad: Outcome[] = [];
  let left = requests;
  let slowest = 0;
  const work = async () => {
    while (left > 0) {
      left -= 1;
      const outcome = await send(url, fuzzer.request(), 2 * LONGEST_ANSWER);
      byStatus[outcome.status] = (byStatus[outcome.status] ?? 0) + 1;
      slowest = Math.max(slowest, outcome.took);
      if (outcome.status >= 500 || outcome.status === 0 || outcome.took > LONGEST_ANSWER) bad.push(outcome);
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  return { requests, byStatus, slowest, bad };
}

/** An outcome that may not be, in one line. */
export const inWords = ({ sent, status, trouble, took }: Outcome): string =>
  `${status} ${trouble ?? ""} after ${Math.round(took)} ms: ${sent.method} ${sent.path} ${JSON.stringify(sent.headers)} ${sent.body?.toString("latin1").slice(0, 2000) ?? ""}`;
