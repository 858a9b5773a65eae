import { RunningServer } from "./running-server";

let server: RunningServer;
beforeAll(async () => {
  server = await RunningServer.start();
});
afterAll(() => server.remove());

const FEED = { na: 0.9, ca: 1.9, mg: 0.7, cl: 1, hco3: 2.2, so4: 0.3, sio2: 0.16 };
const stage = { kind: "mixed", capacity: { grade: "virgin" }, bed: { volume: 12, diameter: 185, flow: 3 } };
const column = (part: object = {}) => ({
  feed: FEED,
  stages: [stage],
  limit: { value: 10, scale: "nacl" },
  marks: { silica: 1 },
  ...part,
});
/** Some seconds of work. */
const LONG = column({ stages: [stage, stage, stage], cells: 300 });
const post = (body: unknown, signal?: AbortSignal) =>
  fetch(`${server.url}/api/v1/compute/column`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(body),
    ...(signal ? { signal } : {}),
  });

/** As often as the server says that its queue is full, since it hears of a hang-up only after a moment. */
async function postWhenThereIsRoom(body: unknown): Promise<Response> {
  for (;;) {
    const response = await post(body);
    if (response.status !== 503) return response;
    const { title } = (await response.clone().json()) as { title: string };
    if (title !== "Too many calculations at once") return response;
    await new Promise((resolve) => setTimeout(resolve, 1000 * Number(response.headers.get("retry-after"))));
  }
}

test("a run too large is refused before any work, and says what to change", async () => {
  const stages = Array.from({ length: 6 }, () => stage);
  const response = await post(column({ stages, cells: 1000, until: 20 }));
  expect(response.status).toBe(422);
  expect(((await response.json()) as { detail: string }).detail).toMatch(/too large.*fewer cells/);
});

test("while long runs fill the pool other requests are answered, and what finds the queue full is told when to ask again", async () => {
  const controller = new AbortController();
  const many = Array.from({ length: 60 }, () =>
    post(LONG, controller.signal).then(
      (response) => response,
      () => undefined,
    ),
  );
  const refused = await Promise.race(
    many.map(async (each) => {
      const response = await each;
      return response?.status === 503 ? response : new Promise<never>(() => undefined);
    }),
  );
  expect(Number(refused.headers.get("retry-after"))).toBeGreaterThan(0);
  expect(refused.headers.get("content-type")).toBe("application/problem+json");
  const quick = await server.request("POST", "/api/v1/compute/water", { reading: { value: 100, scale: "nacl" } });
  expect(quick.status).toBe(200);
  controller.abort();
  await Promise.all(many);
});

test("what waits behind runs whose askers hang up is answered, and so is the next", async () => {
  for (const pause of [0, 100, 400]) {
    const gone = new AbortController();
    const asked = Array.from({ length: 8 }, () => post(LONG, gone.signal).catch(() => undefined));
    await new Promise((resolve) => setTimeout(resolve, pause));
    const waiting = postWhenThereIsRoom(column());
    await new Promise((resolve) => setTimeout(resolve, 100));
    gone.abort();
    await Promise.all(asked);
    for (const response of [await waiting, await postWhenThereIsRoom(column())]) {
      expect(response.status).toBe(200);
      const answer = (await response.json()) as { litresToLimit: number; balanceError: number };
      expect(answer.litresToLimit).toBeGreaterThan(1000);
      expect(answer.balanceError).toBeLessThan(1e-9);
    }
  }
});

test("bad input never enters the pool", async () => {
  const response = await post(column({ cells: 2 }));
  expect(response.status).toBe(422);
  const { errors } = (await response.json()) as { errors: { path: string }[] };
  expect(errors.map(({ path }) => path)).toEqual(["cells"]);
});
