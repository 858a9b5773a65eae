/**
 * @jest-environment node
 */
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { fetchAll, NewerShape } from "../data/api";

let server: Server;
let shape = 1;
beforeAll(async () => {
  server = createServer((_, response) =>
    response
      .writeHead(200, { "Content-Type": "application/json" })
      .end(JSON.stringify({ items: [{ id: "a", name: "Yard", version: 1, voided: false }], shape })),
  );
  await new Promise<void>((listening) => server.listen(0, "127.0.0.1", listening));
  const direct = globalThis.fetch;
  const { port } = server.address() as AddressInfo;
  globalThis.fetch = (path, init) => direct(`http://127.0.0.1:${port}${String(path)}`, init);
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});

test("a list of the shape that this page knows is read; one of a later shape is not, and says so", async () => {
  await expect(fetchAll("sites")).resolves.toMatchObject([{ name: "Yard" }]);
  shape = 2;
  await expect(fetchAll("sites")).rejects.toThrow(NewerShape);
});
