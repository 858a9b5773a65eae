import { RECORDS } from "../../contract/src/records";
import { RunningServer } from "./running-server";

let server: RunningServer;
beforeAll(async () => {
  server = await RunningServer.start();
});
afterAll(() => server.remove());

interface Entry {
  readonly kind: keyof typeof RECORDS;
  readonly id: string;
  readonly body: object;
}
const example = async () =>
  ((await server.request("GET", "/api/v1/example")).body as { readonly items: readonly Entry[] }).items;

describe("the example crew", () => {
  test("is whole: each record such as the server keeps, each id once", async () => {
    const items = await example();
    const wrong = items.filter(({ kind, body }) => !RECORDS[kind].safeParse(body).success);
    expect(wrong).toEqual([]);
    expect(new Set(items.map(({ id }) => id)).size).toBe(items.length);
    expect(items.filter(({ kind }) => kind === "rigs").length).toBeGreaterThan(2);
  });
  test("is kept nowhere: the crew's own lists stay empty", async () => {
    await example();
    for (const kind of ["rigs", "visits", "taps"])
      expect((await server.request("GET", `/api/v1/${kind}`)).body).toMatchObject({ items: [] });
  });
  test("is the same within the hour, and only to be read", async () => {
    expect(await example()).toEqual(await example());
    expect((await server.request("PUT", "/api/v1/example", {})).status).toBe(405);
  });
});
