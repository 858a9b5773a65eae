/**
 * @jest-environment node
 */
import "fake-indexeddb/auto";
import { createServer, type IncomingMessage, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { openDB } from "idb";
import type { Act, Put } from "@winter-bead/contract";
import { PROBLEMS } from "@winter-bead/contract/src/problem-types";
import { changed, kept, keptOnce, undoOf, actOf } from "../data/acts";
import type { Kept } from "../data/api";
import { OLD_OUTBOX } from "../data/old-outbox";
import { Outbox, type Accepted, type OutboxState } from "../data/outbox";
import { reach } from "../data/reach";

const asKept = ({ kind, id, replaces = 0, ...put }: Put) => ({
  kind,
  record: { ...("body" in put ? put.body : {}), id, version: replaces + 1, voided: "voided" in put },
});

/** A server that answers as told and remembers what it was sent. */
class ScriptedServer {
  readonly sent: { id: string; act: Act }[] = [];
  /** Status of each next answer with the type of its problem, or `cut` for one whose connection ends in its middle; 201 when none is left. */
  readonly script: (number | readonly [number, string] | "cut")[] = [];
  private constructor(private readonly server: Server) {}

  static async start(): Promise<ScriptedServer> {
    const server = createServer();
    const scripted = new ScriptedServer(server);
    server.on("request", async (request: IncomingMessage, response) => {
      if (request.url!.endsWith("/health"))
        return response.writeHead(200, { "Content-Type": "application/json" }).end('{"ready":true}');
      const parts: Buffer[] = [];
      for await (const part of request) parts.push(part as Buffer);
      const act = JSON.parse(Buffer.concat(parts).toString()) as Act;
      const id = request.url!.split("/").pop()!;
      const next = scripted.script.shift() ?? 201;
      const [status, type] = next === "cut" ? [201, ""] : typeof next === "number" ? [next, "about:blank"] : next;
      if (status < 500) scripted.sent.push({ id, act });
      const answer = status < 300 ? { records: act.puts.map(asKept) } : { type, title: "No", status };
      const text = JSON.stringify(answer);
      const length = Buffer.byteLength(text);
      response.writeHead(status, { "Content-Type": "application/json", "Content-Length": length });
      if (next === "cut") response.write(text.slice(0, 5), () => response.destroy());
      else response.end(text);
    });
    await new Promise<void>((listening) => server.listen(0, "127.0.0.1", listening));
    return scripted;
  }

  get url(): string {
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  stop(): Promise<void> {
    this.server.closeAllConnections();
    return new Promise((stopped) => this.server.close(() => stopped()));
  }
}

/** What a browser has: locks (one holder at a time) and addresses relative to the page. */
function likeABrowser(base: () => string): void {
  let last: Promise<unknown> = Promise.resolve();
  const request = (_name: string, work: () => Promise<unknown>) => {
    last = last.then(work, work);
    return last;
  };
  Object.defineProperty(globalThis, "navigator", { configurable: true, value: { locks: { request } } });
  const direct = globalThis.fetch;
  globalThis.fetch = (path, init) => direct(`${base()}${String(path)}`, init);
}

const until = async (holds: () => boolean) => {
  for (let i = 0; i < 400 && !holds(); i += 1) await new Promise((again) => setTimeout(again, 20));
  expect(holds()).toBe(true);
};

let server: ScriptedServer;
const laid: Accepted[] = [];
/** As many times laying an answer fails. */
let fullFor = 0;
const refusedKinds: string[] = [];
let outbox: Outbox;
const state = (): OutboxState => outbox.snapshot();
let acts = 0;
const put = (...puts: readonly Put[]) =>
  outbox.add(`act ${(acts += 1)}`, { at: "2027-03-01T08:00:00Z", what: "Place", puts });
const site = (id: string, name: string, replaces?: number) =>
  put({ kind: "sites", id, body: { name }, ...(replaces ? { replaces } : {}) });
const sentIds = () => server.sent.map(({ act }) => act.puts[0]!.id);
const laidIds = () => laid.flatMap(({ records }) => records.map(({ record }) => record.id));

/** What a version of the page from before acts left unsent. */
async function leaveOldRows(rows: readonly object[]): Promise<void> {
  const old = await openDB(OLD_OUTBOX.database, 1, {
    upgrade: (db) => void db.createObjectStore(OLD_OUTBOX.store, { keyPath: "seq", autoIncrement: true }),
  });
  for (const row of rows) await old.add(OLD_OUTBOX.store, row);
  old.close();
}

beforeAll(async () => {
  server = await ScriptedServer.start();
  likeABrowser(() => server.url);
  await leaveOldRows([
    { kind: "sites", id: "old", body: { name: "From before" }, madeAt: "2026-03-01T08:00:00Z" },
    {
      kind: "sites",
      id: "old",
      body: { name: "From before" },
      replaces: 1,
      voided: true,
      madeAt: "2026-03-01T08:01:00Z",
    },
  ]);
  outbox = new Outbox(
    async (accepted) => {
      if (fullFor > 0) {
        fullFor -= 1;
        throw new DOMException("No room", "QuotaExceededError");
      }
      laid.push(...accepted);
    },
    ({ puts }) => refusedKinds.push(...puts.map(({ kind }) => kind)),
  );
});
afterAll(async () => {
  outbox.close();
  await server.stop();
});
beforeEach(() => {
  server.sent.length = 0;
  laid.length = 0;
});

test("what a version from before acts left unsent is moved over, in its order, each under one id for ever", async () => {
  await until(() => state().read && state().items.length === 0);
  expect(server.sent.map(({ act }) => act.puts)).toEqual([
    [{ kind: "sites", id: "old", body: { name: "From before" }, shape: 1 }],
    [{ kind: "sites", id: "old", replaces: 1, voided: true }],
  ]);
  const ids = server.sent.map(({ id }) => id);
  await leaveOldRows([{ kind: "sites", id: "old", body: { name: "From before" }, madeAt: "2026-03-01T08:00:00Z" }]);
  const again = new Outbox(async () => undefined);
  await until(() => server.sent.length === 3 && again.snapshot().items.length === 0);
  expect(server.sent[2]!.id).toBe(ids[0]);
  again.close();
});

test("writes go out in the order they were made, each once, and leave when their answer is laid down", async () => {
  await Promise.all(["a", "b", "c"].map((id) => site(id, `Site ${id}`)));
  await until(() => state().items.length === 0);
  expect(sentIds()).toEqual(["a", "b", "c"]);
  expect(laid.flatMap(({ records }) => records.map(({ record }) => [record.id, record.version]))).toEqual([
    ["a", 1],
    ["b", 1],
    ["c", 1],
  ]);
  expect(reach.snapshot().state).toBe("reached");
});

const charge = (id: string, version: number): Kept<"charges"> => ({
  ...{ id, version, voided: false, vesselId: "v", rigId: "r", grade: "virgin", resinLitres: 24, packing: "settled" },
  filledAt: "2027-03-01T08:00:00Z",
});

test("a refill is one row and one request, with the shape of its bodies; its undoing is another", async () => {
  const { id: _, version: __, voided: ___, ...body } = charge("old", 4);
  const at = "2027-04-01T08:00:00Z";
  const steps = [
    changed("charges", charge("old", 4), { ...body, ended: { at, why: "limit" } }),
    kept("charges", { ...body, filledAt: at }, "new"),
  ];
  await outbox.add("refill", actOf("Refill of Van", at, steps));
  expect(state().items).toHaveLength(1);
  await outbox.add("undo", undoOf("Refill of Van, undone", at, steps, "refill"));
  await until(() => state().items.length === 0);
  expect(server.sent.map(({ act }) => [act.what, act.undoes, act.puts])).toEqual([
    [
      "Refill of Van",
      undefined,
      [
        { kind: "charges", id: "old", replaces: 4, shape: 1, body: { ...body, ended: { at, why: "limit" } } },
        { kind: "charges", id: "new", shape: 1, body: { ...body, filledAt: at } },
      ],
    ],
    [
      "Refill of Van, undone",
      "refill",
      [
        { kind: "charges", id: "new", replaces: 1, voided: true },
        { kind: "charges", id: "old", replaces: 5, shape: 1, body },
      ],
    ],
  ]);
});

test.each([
  ["the session is over", [401, "about:blank"], "signed-out"],
  ["the server says that it is over", [403, PROBLEMS.signedOut], "signed-out"],
  ["the server is older than this page", [422, PROBLEMS.newerShape], "newer-shape"],
] as const)(
  "where %s, nothing is refused: all of it waits in its order, and goes once it is let go",
  async (_, answer, why) => {
    server.script.push(answer);
    await site("held", "Waits");
    await site("next", "Follows");
    await until(() => state().held !== undefined);
    expect(state().held).toMatchObject({ why });
    expect(state().items.map(({ refused }) => refused)).toEqual([undefined, undefined]);
    expect(sentIds()).toEqual(["held"]);
    outbox.letGo();
    await until(() => state().items.length === 0);
    expect(sentIds()).toEqual(["held", "held", "next"]);
    expect(state().held).toBeUndefined();
  },
);

test("an exception that nobody knows holds what waits: nothing is refused, and it goes once it can", async () => {
  // A body that can't be written as JSON stands for whatever may go wrong on the way.
  await put({ kind: "sites", id: "odd", body: { name: 7n } });
  await until(() => state().held !== undefined);
  expect(state().held).toMatchObject({ why: "unknown", words: expect.stringMatching(/BigInt.*Nothing is lost/) });
  await site("after", "Follows");
  expect(state().items.map(({ refused }) => refused)).toEqual([undefined, undefined]);
  expect(server.sent).toEqual([]);
  Object.assign(BigInt.prototype, { toJSON: () => "seven" });
  outbox.letGo();
  await until(() => state().items.length === 0);
  Reflect.deleteProperty(BigInt.prototype, "toJSON");
  expect(sentIds()).toEqual(["odd", "after"]);
});

test("answers that this device would not take are laid again; until then their rows stay, and what follows goes on", async () => {
  fullFor = 1;
  await site("k", "No room for its answer");
  await until(() => fullFor === 0);
  expect(state().items).toHaveLength(1);
  await site("l", "Follows");
  await until(() => state().items.length === 0);
  expect(sentIds()).toEqual(["k", "l"]);
  expect([...laidIds()].sort()).toEqual(["k", "l"]);
});

test("an answer cut short is no refusal: the write waits and is sent again", async () => {
  server.script.push("cut");
  await site("cut", "Half an answer");
  await until(() => reach.snapshot().state === "lost");
  expect(state().items.map(({ refused }) => refused)).toEqual([undefined]);
  await until(() => state().items.length === 0);
  expect(sentIds()).toEqual(["cut", "cut"]);
});

test("a server out of reach is asked again until it takes it; nothing overtakes", async () => {
  server.script.push(503, 502);
  await site("d", "Waits");
  await site("e", "Follows");
  await until(() => reach.snapshot().state === "lost");
  expect(reach.snapshot()).toMatchObject({ why: "busy", words: "No" });
  expect(state().items).toHaveLength(2);
  await until(() => state().items.length === 0);
  expect(sentIds()).toEqual(["d", "e"]);
});

test("a refused write stays to be seen and blocks nothing", async () => {
  server.script.push(422);
  await site("f", "Refused");
  await site("g", "Taken");
  await until(() => state().items.length === 1 && state().items[0]!.refused !== undefined);
  expect(state().items[0]).toMatchObject({ act: { puts: [{ id: "f" }] }, refused: { title: "No", status: 422 } });
  expect(laidIds()).toEqual(["g"]);
  // What it speaks of is not as this device has it: that is told, so that it is fetched anew.
  expect(refusedKinds).toEqual(["sites"]);
});

test("what every device keeps under one id is not taken back by an undo: it says that it is open again", () => {
  const step = (outcome: "finished" | "reopened") => ({
    ...{ workId: "w", guided: "refill" as const, rigId: "r", step: "end", outcome, at: "2027-03-01T08:00:00Z" },
  });
  const steps = [
    kept("sites", { name: "New" }, "a"),
    keptOnce("refill-steps", step("finished"), "end", step("reopened")),
  ];
  expect(actOf("Refill", "2027-03-01T08:00:00Z", steps).puts).toEqual([
    expect.objectContaining({ kind: "sites", id: "a", body: { name: "New" } }),
    expect.objectContaining({ kind: "refill-steps", id: "end", body: step("finished") }),
  ]);
  expect(undoOf("Refill, undone", "2027-03-01T09:00:00Z", steps, "act").puts).toEqual([
    expect.objectContaining({ kind: "refill-steps", id: "end", replaces: 1, body: step("reopened") }),
    { kind: "sites", id: "a", replaces: 1, voided: true },
  ]);
});

test("a refused write can be offered again, or thrown away", async () => {
  await outbox.retry(state().items[0]!);
  await until(() => state().items.length === 0);
  expect(laidIds()).toEqual(["f"]);
  server.script.push(409);
  await site("h", "Overtaken");
  await until(() => state().items[0]?.refused !== undefined);
  await outbox.drop(state().items[0]!.seq);
  expect(state().items).toEqual([]);
});

test("listeners are told, and no longer once they have left", async () => {
  let told = 0;
  const leave = outbox.subscribe(() => (told += 1));
  await site("i", "Heard");
  await until(() => state().items.length === 0);
  expect(told).toBeGreaterThanOrEqual(2);
  leave();
  const before = told;
  await site("j", "Unheard");
  await until(() => state().items.length === 0);
  expect(told).toBe(before);
});
