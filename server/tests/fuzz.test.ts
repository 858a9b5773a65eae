import { fuzz, inWords } from "./fuzzing";
import { RunningServer } from "./running-server";

/* `bin/fuzz` sends twenty times as many, and other ones by another seed. */

test("four hundred bent requests break nothing, and what was there is still there", async () => {
  const server = await RunningServer.start({ flags: [] });
  try {
    const ask = async (path: string) => (await server.request("GET", path)).body as unknown;
    const { byStatus, bad } = await fuzz(server.url, ask, 25, 400);
    expect(bad.map(inWords)).toEqual([]);
    // It does reach what is behind the checks, and is refused by them.
    expect(Math.min(byStatus["200"] ?? 0, byStatus["422"] ?? 0)).toBeGreaterThan(20);
    expect((await server.request("GET", "/api/v1/health")).status).toBe(200);
  } finally {
    await server.remove();
  }
});
