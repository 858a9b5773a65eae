/**
 * @jest-environment node
 */
import "fake-indexeddb/auto";
import { createServer, type IncomingMessage, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { Outbox, type Accepted, type OutboxState } from "../data/outbox";
import { reach } from "../data/reach";

/** A server that answers as told and remembers what it was sent. */
class ScriptedServer {
  readonly sent: { id: string; body: { [field: string]: unknown } }[] = [];
  /** Status of each next answer, or `cut` for one whose connection ends in its middle; 201 when none is left. */
  readonly script: (number | "cut")[] = [];
  private constructor(private readonly server: Server) {}

  static async start(): Promise<ScriptedServer> {
    const server = createServer();
    const scripted = new ScriptedServer(server);
    server.on("request", async (request: IncomingMessage, response) => {
      if (request.url!.endsWith("/health"))
        return response.writeHead(200, { "Content-Type": "application/json" }).end('{"ready":true}');
      const parts: Buffer[] = [];
      for await (const part of request) parts.push(part as Buffer);
      const body = JSON.parse(Buffer.concat(parts).toString()) as { [field: string]: unknown };
      const id = request.url!.split("/").pop()!;
      const next = scripted.script.shift() ?? 201;
      const status = next === "cut" ? 201 : next;
      if (status < 500) scripted.sent.push({ id, body });
      const answer =
        status < 300
          ? { ...body, id, version: Number(body["replaces"] ?? 0) + 1, voided: body["voided"] ?? false }
          : { type: "about:blank", title: "No", status };
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
let outbox: Outbox;
const state = (): OutboxState => outbox.snapshot();
const site = (id: string, name: string, more: object = {}) =>
  outbox.add({ kind: "sites", id, body: { name }, ...more });

beforeAll(async () => {
  server = await ScriptedServer.start();
  likeABrowser(() => server.url);
  outbox = new Outbox(async (accepted) => {
    laid.push(...accepted);
  });
});
afterAll(async () => {
  outbox.close();
  await server.stop();
});
beforeEach(() => {
  server.sent.length = 0;
  laid.length = 0;
});

test("writes go out in the order they were made, each once, and leave when their answer is laid down", async () => {
  await Promise.all(["a", "b", "c"].map((id) => site(id, `Site ${id}`)));
  await until(() => state().items.length === 0);
  expect(server.sent.map((each) => each.id)).toEqual(["a", "b", "c"]);
  expect(laid.map(({ record }) => [record.id, record.version])).toEqual([
    ["a", 1],
    ["b", 1],
    ["c", 1],
  ]);
  expect(reach.snapshot().state).toBe("reached");
});

test("an edit carries the version it started from, and taking back says so", async () => {
  await site("a", "Renamed", { replaces: 1 });
  await site("a", "Renamed", { replaces: 2, voided: true });
  await until(() => state().items.length === 0);
  expect(server.sent.map(({ body }) => body)).toEqual([
    { name: "Renamed", replaces: 1 },
    { name: "Renamed", replaces: 2, voided: true },
  ]);
});

test("an answer cut short is no refusal: the write waits and is sent again", async () => {
  server.script.push("cut");
  await site("cut", "Half an answer");
  await until(() => reach.snapshot().state === "lost");
  expect(state().items.map(({ refused }) => refused)).toEqual([undefined]);
  await until(() => state().items.length === 0);
  expect(server.sent.map((each) => each.id)).toEqual(["cut", "cut"]);
});

test("a server out of reach is asked again until it takes it; nothing overtakes", async () => {
  server.script.push(503, 502);
  await site("d", "Waits");
  await site("e", "Follows");
  await until(() => reach.snapshot().state === "lost");
  expect(reach.snapshot()).toMatchObject({ why: "busy", words: "No" });
  expect(state().items).toHaveLength(2);
  await until(() => state().items.length === 0);
  expect(server.sent.map((each) => each.id)).toEqual(["d", "e"]);
});

test("a refused write stays to be seen and blocks nothing", async () => {
  server.script.push(422);
  await site("f", "Refused");
  await site("g", "Taken");
  await until(() => state().items.length === 1 && state().items[0]!.refused !== undefined);
  expect(state().items[0]).toMatchObject({ id: "f", refused: { title: "No", status: 422 } });
  expect(laid.map(({ record }) => record.id)).toEqual(["g"]);
});

test("a refused write can be offered again, or thrown away", async () => {
  await outbox.retry(state().items[0]!);
  await until(() => state().items.length === 0);
  expect(laid.map(({ record }) => record.id)).toEqual(["f"]);
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
