import { MODES, ReportService, type Mode } from "../src/index";

let service: ReportService;
let address: string;
beforeAll(async () => {
  service = new ReportService();
  address = await service.listen();
});
afterAll(() => service.close());

const setMode = (mode: string) => fetch(`${address}/mode`, { method: "PUT", body: JSON.stringify({ mode }) });
interface Report {
  readonly sampledOn: string;
  readonly season: string;
  readonly values: readonly { readonly parameter: string; readonly value: number; readonly unit?: string }[];
}
const report = async (on = "2027-08-09", zone = "harbour") =>
  (await (await fetch(`${address}/zones/${zone}/report?on=${on}`)).json()) as Report;
const valueOf = ({ values }: Report, parameter: string) => values.find((each) => each.parameter === parameter)?.value;

afterEach(() => setMode("steady"));

test("it lists its zones and gives a monthly report that follows the season", async () => {
  const zones = (await (await fetch(`${address}/zones`)).json()) as { id: string }[];
  expect(zones.map(({ id }) => id)).toEqual(["harbour", "kiln-hill", "heron"]);
  const [summer, winter] = [await report("2027-08-09"), await report("2027-02-09")];
  expect([summer.sampledOn, summer.season, winter.season]).toEqual(["2027-08-01", "summer", "winter"]);
  expect(valueOf(summer, "Calcium")!).toBeGreaterThan(valueOf(winter, "Calcium")!);
  expect(await report("2027-08-30")).toEqual(summer);
});

test("no such zone or day is 404", async () => {
  const statuses = await Promise.all(
    ["/zones/moon/report", "/zones/harbour/report?on=yesterday", "/elsewhere"].map(
      async (path) => (await fetch(`${address}${path}`)).status,
    ),
  );
  expect(statuses).toEqual([404, 404, 404]);
});

test("each way of failing fails in its own way", async () => {
  await setMode("wrong-units");
  const lying = await report();
  expect(valueOf(lying, "Calcium")!).toBeGreaterThan(10_000);
  expect(lying.values[2]!.unit).toBe("furlongs");
  await setMode("missing-fields");
  const short = await report();
  expect(valueOf(short, "Calcium")).toBeUndefined();
  expect(short.values.some(({ unit }) => unit === undefined)).toBe(true);
  await setMode("garbled");
  await expect(report()).rejects.toThrow();
  await setMode("outage");
  await expect(report()).rejects.toThrow();
  expect((await setMode("sideways")).status).toBe(422);
  const { mode, modes } = (await (await fetch(`${address}/mode`)).json()) as { mode: Mode; modes: readonly Mode[] };
  expect([mode, modes]).toEqual(["outage", MODES]);
});

test("slow means that nothing comes while one waits, and hanging up frees it", async () => {
  await setMode("slow");
  await expect(fetch(`${address}/zones`, { signal: AbortSignal.timeout(300) })).rejects.toThrow(/timeout/i);
});
