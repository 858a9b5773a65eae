import { ReportService } from "@winter-bead/devices";
import { RunningServer } from "./running-server";

let service: ReportService;
let address: string;
let server: RunningServer;
beforeAll(async () => {
  service = new ReportService();
  address = await service.listen();
  server = await RunningServer.start({ environment: { WINTER_BEAD_REPORT_SERVICE: address } });
});
afterAll(async () => {
  await server.remove();
  await service.close();
});

const setMode = (mode: string) => fetch(`${address}/mode`, { method: "PUT", body: JSON.stringify({ mode }) });
afterEach(() => setMode("steady"));

interface Answer {
  readonly detail?: string;
  readonly items?: readonly { readonly id: string }[];
  readonly values?: readonly { readonly parameter: string }[];
}
const ask = async (path: string) => {
  const { status, body, type } = await server.request("GET", `/api/v1/supplier${path}`);
  return { status, type, body: body as Answer };
};

test("zones and reports pass through, checked for their form", async () => {
  const zones = await ask("/zones");
  expect([zones.status, zones.body.items!.length]).toEqual([200, 3]);
  const report = await ask(`/zones/${zones.body.items![0]!.id}/report?on=2027-03-01`);
  expect(report.status).toBe(200);
  expect(report.body.values!.map(({ parameter }) => parameter)).toContain("Calcium");
});

test.each([
  ["outage", 502, /out of order/],
  ["slow", 504, /takes too long/],
  ["garbled", 502, /no report/],
] as const)("%s is answered %d with a sentence, never with 500", async (mode, status, words) => {
  await setMode(mode);
  const answer = await ask("/zones/harbour/report");
  expect([answer.status, answer.type]).toEqual([status, "application/problem+json"]);
  expect(answer.body.detail).toMatch(words);
  expect(answer.body.detail).toMatch(/by hand/);
});

test("what lies in its figures still passes: the reader judges them line by line", async () => {
  await setMode("wrong-units");
  expect((await ask("/zones/harbour/report")).status).toBe(200);
});

test("an unknown zone is 404, a bad date 422, a path that climbs out stays inside", async () => {
  expect((await ask("/zones/moon/report")).status).toBe(404);
  expect((await ask("/zones/harbour/report?on=soon")).status).toBe(422);
  expect((await ask(`/zones/${encodeURIComponent("../mode")}/report`)).status).toBe(404);
});

test("without another address named, the stand-in that ships is asked", async () => {
  const own = await RunningServer.start();
  try {
    expect(await own.supplier()).toMatch(/^http:\/\/127\.0\.0\.1:\d+$/);
    expect((await own.request("GET", "/api/v1/supplier/zones")).status).toBe(200);
  } finally {
    await own.remove();
  }
});
