import type Router from "@koa/router";
import { bodyParser } from "@koa/bodyparser";
import { KINDS, RECORD_KINDS, sampleId, type Kind } from "@winter-bead/core";
import { list, note, group, number, optional, ownId, reference, text } from "@winter-bead/core/src/descriptor/field";
import { kind } from "@winter-bead/core/src/descriptor/kind";
import Koa from "koa";
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { DataSource } from "typeorm";
import { problems } from "../src/routes/problems";
import { recordRoutes } from "../src/routes/records";
import { BUILT_IN_CREW } from "../src/store/crew-scope";
import { Desk } from "../src/store/desk";
import { guard, KEPT, reference as referenceSql } from "../src/store/migrations/kept-table";
import { ENTITIES, STORED, storedKinds, tablesOf, type Column } from "../src/store/tables";
import { database } from "./database";
import { RunningServer } from "./running-server";
import { id } from "./sample-records";

let server: RunningServer;
beforeAll(async () => {
  server = await RunningServer.start();
});
afterAll(() => server.remove());

test("every kind keeps every field of its samples", async () => {
  for (const name of RECORD_KINDS) {
    const { sample, further }: Kind = KINDS[name];
    for (const [nth, body] of [sample, ...further].entries()) {
      const path = `/api/v1/${name}/${nth === 0 ? sampleId(name) : id()}`;
      const put = await server.request("PUT", path, body);
      expect([name, put.status]).toEqual([name, 201]);
      const got = (await server.request("GET", path)).body as { version: number; voided: boolean; id: string };
      const { version, voided, id: _, ...back } = got;
      expect([version, voided]).toEqual([1, false]);
      expect(back).toEqual(JSON.parse(JSON.stringify(body)));
      const versions = (await server.request("GET", `${path}/versions`)).body as { body: object }[];
      expect(versions[0]!.body).toEqual(back);
    }
  }
});

const IN_SCHEMA: Readonly<Record<Column["type"], string>> = {
  text: "text",
  "double precision": "double precision",
  boolean: "boolean",
  uuid: "uuid",
  jsonb: "jsonb",
  date: "date",
  timestamptz: "timestamp with time zone",
};

test("the columns of every table are those of its descriptor", async () => {
  const owner = await database(server, "owner");
  const described = Object.values(STORED).flatMap(({ entity, columns, items }) => [
    { table: entity.options.tableName!, columns, beside: ["crew_id", "id", "version", "voided"] },
    ...items.map((each) => ({
      table: each.entity.options.tableName!,
      columns: each.columns,
      beside: ["crew_id", "id", `${entity.options.tableName}_id`, "position"],
    })),
  ]);
  for (const { table, columns, beside } of described) {
    const rows: { column_name: string; data_type: string; is_nullable: string }[] = await owner.query(
      `SELECT column_name, data_type, is_nullable FROM information_schema.columns WHERE table_name = $1`,
      [table],
    );
    const found = rows.map((row) => [row.column_name, row.data_type, row.is_nullable === "YES"]);
    const own = columns.map(({ name, type, nullable }) => [name, IN_SCHEMA[type], nullable]);
    expect([table, found.filter(([name]) => !beside.includes(String(name))).sort()]).toEqual([table, own.sort()]);
    expect(rows.map((row) => row.column_name)).toEqual(expect.arrayContaining(beside));
  }
  await owner.destroy();
});

/** A kind as a newcomer would add it: this, a migration, and something in the demo. */
const BOAT = kind({
  name: "boats",
  table: "boat",
  one: "boat",
  many: "boats",
  fields: {
    name: text("The boat's name"),
    siteId: reference("sites", "Its mooring"),
    length: optional(number({ name: "The length", unit: "m", above: 0, to: 100 })),
    washes: list(
      "The washes",
      group("A wash", { id: ownId("The wash's id"), litres: number({ name: "Litres", unit: "L", from: 0 }), note }),
      {
        ...{ table: "wash", least: 0, most: 9, tooFew: "", tooMany: "At most 9 washes." },
      },
    ),
  },
  sample: {
    name: "Tern",
    siteId: sampleId("sites"),
    length: 7.5,
    washes: [
      { id: sampleId("wash", 1), litres: 40, note: "Salt." },
      { id: sampleId("wash", 2), litres: 25 },
    ],
  },
});

describe("a new kind is its descriptor and a migration", () => {
  const kinds = storedKinds({ ...KINDS, boats: BOAT });
  let source: DataSource;
  let http: Server;
  let url: string;

  beforeAll(async () => {
    const owner = await database(server, "owner");
    const runner = owner.createQueryRunner();
    await runner.query(
      `CREATE TABLE boat (${KEPT}, name text NOT NULL, site_id uuid NOT NULL, length double precision, ${referenceSql("site_id", "site")})`,
    );
    await runner.query(
      `CREATE TABLE wash (crew_id uuid, id uuid, boat_id uuid NOT NULL, position integer NOT NULL, litres double precision NOT NULL, note text,
        PRIMARY KEY (crew_id, id), ${referenceSql("boat_id", "boat")})`,
    );
    await guard(runner, "boat", "SELECT, INSERT, UPDATE");
    await guard(runner, "wash", "SELECT, INSERT, UPDATE, DELETE");
    await runner.release();
    await owner.destroy();
    const app = await database(server, "app");
    const known = new Set(ENTITIES);
    const more = tablesOf(kinds).filter((entity) => ["boat", "wash"].includes(entity.options.name));
    source = await new DataSource({
      ...app.options,
      entities: [...known, ...more],
      migrations: [],
    } as never).initialize();
    await app.destroy();
    const koa = new Koa();
    koa.use(problems({ log: (error) => console.error(error), diskIsFull: () => false }));
    koa.use(async (ctx, next) => {
      ctx.state["session"] = { crewId: BUILT_IN_CREW };
      await next();
    });
    koa.use(bodyParser());
    // The same tables under the same names: the shared ones are the program's own.
    const router: Router = recordRoutes(new Desk(source), { ...STORED, boats: kinds["boats"]! });
    koa.use(router.routes());
    http = createServer(koa.callback()).listen(0, "127.0.0.1");
    await new Promise((listening) => http.once("listening", listening));
    url = `http://127.0.0.1:${(http.address() as AddressInfo).port}/api/v1`;
  });
  afterAll(async () => {
    await new Promise((closed) => http.close(closed));
    await source.destroy();
  });

  const send = async (method: string, path: string, body?: object) => {
    const answer = await fetch(`${url}${path}`, {
      method,
      ...(body ? { body: JSON.stringify(body), headers: { "Content-Type": "application/json" } } : {}),
    });
    return { status: answer.status, body: (await answer.json()) as Record<string, unknown> };
  };

  test("it is checked, kept whole, corrected, and guards what it names", async () => {
    const key = sampleId("boats");
    expect((await send("PUT", `/boats/${key}`, { ...BOAT.sample, length: 0 })).status).toBe(422);
    expect((await send("PUT", `/boats/${key}`, { ...BOAT.sample, siteId: id() })).body["detail"]).toBe(
      "This site is not known here.",
    );
    expect((await send("PUT", `/boats/${key}`, BOAT.sample)).status).toBe(201);
    expect((await send("GET", `/boats/${key}`)).body).toEqual({ ...BOAT.sample, id: key, version: 1, voided: false });
    const fewer = { ...BOAT.sample, washes: [{ id: sampleId("wash", 2), litres: 30 }] };
    expect((await send("PUT", `/boats/${key}`, { ...fewer, replaces: 1 })).body).toMatchObject({
      ...fewer,
      version: 2,
    });
    const site = await send("PUT", `/sites/${sampleId("sites")}`, { replaces: 1, voided: true });
    expect([site.status, String(site.body["detail"])]).toEqual([409, expect.stringContaining("the boat Tern")]);
  });
});
