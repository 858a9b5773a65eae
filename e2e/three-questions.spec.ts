import { allSent, expect, numbersIn, RunningServer, tapDigits, test } from "./support/app";
import type { Page } from "@playwright/test";

test.use({ networkMayFail: true });

let server: RunningServer;
test.beforeEach(async ({ page }) => {
  server = await RunningServer.start({ flags: ["--empty"] });
  await page.setViewportSize({ width: 390, height: 664 });
});
test.afterEach(() => server.remove());

/** A newcomer's hand: each tap and each typed number counts. */
class Hand {
  taps = 0;
  numbers = 0;
  constructor(private readonly page: Page) {}
  async tap(name: string | RegExp, role: "radio" | "button" = "radio") {
    await this.page.getByRole(role, { name, exact: typeof name === "string" }).click();
    this.taps += 1;
  }
  async type(field: string, number: string) {
    await this.page.getByTestId(field).click();
    this.taps += 1;
    await this.page.getByTestId(field).fill(number);
    this.numbers += 1;
  }
  async log(output: string) {
    await tapDigits(this.page, output);
    this.numbers += 1;
    await this.page.getByTestId("keep-it").click();
    this.taps += 1;
  }
}

const records = async (kind: string) =>
  ((await server.request("GET", `/api/v1/${kind}`)).body as { items: Record<string, unknown>[] }).items;

const inSight = async (page: Page, testId: string) => {
  const box = await page.getByTestId(testId).boundingBox();
  const { height } = page.viewportSize()!;
  expect(box!.y).toBeGreaterThanOrEqual(0);
  expect(box!.y + box!.height).toBeLessThanOrEqual(height);
};

const TRADES = [
  {
    trade: "Windows",
    meter: /^ppm NaCl/,
    shown: "143",
    vessel: "vessel-3",
    rig: "Van",
    out: "0",
    use: "glass",
    limit: 10,
  },
  {
    trade: "Cars, in a bay",
    meter: /^ppm 442/,
    shown: "210",
    vessel: "vessel-2",
    rig: "Bay",
    out: "1",
    use: "paint",
    limit: 10,
  },
  {
    trade: "Aquarium",
    meter: /^µS\/cm/,
    shown: "310",
    vessel: "vessel-1",
    rig: "Tank",
    out: "0",
    use: "aquarium",
    limit: 1,
  },
] as const;

for (const { trade, meter, shown, vessel, rig, out, use, limit } of TRADES)
  test(`${trade}: from opening to the first kept reading in at most 8 taps and 4 numbers`, async ({ page }) => {
    const hand = new Hand(page);
    await page.goto(server.url);
    await expect(page.getByTestId("start-answer")).toContainText("they stand here at once");
    if (trade !== "Windows") await hand.tap(trade);
    await hand.type("start-shown", shown);
    await hand.tap(meter);
    await expect(page.getByTestId("start-litres")).toHaveText(/^[\d,]+ to [\d,]+ L$/);
    const before = await page.getByTestId("start-litres").innerText();
    await page.getByTestId(vessel).click();
    hand.taps += 1;
    await expect(page.getByTestId("start-litres")).not.toHaveText(before);
    await inSight(page, "start-litres");
    await inSight(page, "keep-start");
    await hand.type("start-jobs", "6");
    await expect(page.getByTestId("start-under")).toContainText(/to about/);
    await inSight(page, "start-litres");
    const litres = await page.getByTestId("start-litres").innerText();
    await hand.tap("Keep as my rig, and log", "button");
    await expect(page.getByTestId("keep-it")).toHaveText(`Log ${rig}`);
    await expect(page.getByTestId("live-reason")).toContainText(litres);
    await hand.log(out);
    await expect(page.getByTestId("verdict-title")).toHaveText(`${rig}: fine`);
    expect(hand.taps).toBeLessThanOrEqual(8);
    expect(hand.numbers).toBeLessThanOrEqual(4);

    await allSent(page);
    const kinds = ["sites", "taps", "meters", "vessels", "rigs", "charges", "feed-tests", "visits"];
    for (const kind of kinds) expect([kind, (await records(kind)).length]).toEqual([kind, 1]);
    const [made] = await records("rigs");
    expect([made!["use"], made!["jobsPerWeek"]]).toEqual([use, 6]);
    const [tank] = await records("vessels");
    expect((tank!["marks"] as { limit: number }).limit).toBe(limit);
    const stages = (made!["stages"] as { kind: string }[]).map(({ kind }) => kind);
    expect(stages.includes("membrane")).toBe(trade === "Aquarium");
  });

test("the same number on another scale means other litres, and who doesn't know his scale gets the span of all", async ({
  page,
}) => {
  let last = "";
  const litresOf = async (name: RegExp) => {
    await page.getByRole("radio", { name }).click();
    const litres = page.getByTestId("start-litres");
    await expect(litres).not.toHaveText(last);
    last = await litres.innerText();
    return numbersIn(last) as [number, number];
  };
  await page.goto(server.url);
  await page.getByTestId("start-shown").fill("140");
  const nacl = await litresOf(/^ppm NaCl/);
  const other = await litresOf(/^ppm 442/);
  const ec = await litresOf(/^µS/);
  expect(other[0] / nacl[0]).toBeCloseTo(1.4, 0);
  expect(ec[0] / nacl[0]).toBeGreaterThan(1.8);
  const unknown = await litresOf(/^I don’t know/);
  // Rounded outward by a wider step.
  expect(unknown[0]).toBeLessThanOrEqual(nacl[0]);
  expect(unknown[0]).toBeGreaterThan(0.8 * nacl[0]);
  expect(unknown[1]).toBeGreaterThanOrEqual(other[1]);
  expect(unknown[1]).toBeLessThan(1.2 * other[1]);
  await page.getByTestId("which-scale").click();
  await expect(page.getByTestId("scale-help")).toContainText("1413 µS/cm");
});

test("what was answered survives a closed tab, a dragged top changes the litres, keys do too, and undo takes all of it", async ({
  page,
}) => {
  await page.goto(server.url);
  await page.getByRole("radio", { name: "My own car" }).click();
  await page.getByTestId("start-shown").fill("90");
  await page.getByRole("radio", { name: /^ppm NaCl/ }).click();
  await page.reload();
  await expect(page.getByTestId("start-shown")).toHaveValue("90");
  await expect(page.getByRole("radio", { name: "My own car" })).toHaveAttribute("aria-checked", "true");

  const top = page.getByTestId("vessel-top");
  const size = async () => Number(await page.getByTestId("start-vessel").inputValue());
  const before = await size();
  await top.scrollIntoViewIfNeeded();
  const box = (await top.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 - 40, { steps: 4 });
  await page.mouse.up();
  const dragged = await size();
  expect(dragged).toBeGreaterThan(before * 1.3);
  await top.focus();
  await page.keyboard.press("ArrowDown");
  expect(await size()).toBeLessThan(dragged);

  await page.getByRole("radio", { name: "In use: cars done" }).click();
  await page.getByTestId("start-used-count").fill("12");
  await page.getByTestId("start-defaults").click();
  await page.getByRole("radio", { name: "A pressure washer" }).click();
  await page.getByTestId("start-tap-flow").fill("5");
  await expect(page.getByTestId("washer-words")).toContainText("less than the washer draws");
  await page.getByTestId("start-tap-flow").fill("12");
  await expect(page.getByTestId("washer-words")).toContainText(/keep up with about|can feed it/);
  await page.getByTestId("keep-start").click();
  await expect(page.getByTestId("keep-it")).toBeVisible();
  await page.getByRole("link", { name: "Back to the rack" }).click();
  await page.getByTestId("undo").click();
  await expect(page.getByTestId("start-answer")).toBeVisible();
  await allSent(page);
  expect(await records("rigs")).toEqual([]);
  expect(await records("sites")).toEqual([]);
});

test("a second rig is begun by a meter that is there, or by another whose scale is asked", async ({ page }) => {
  await server.request("PUT", "/api/v1/meters/019f0b8b-0000-7000-8000-000000000001", {
    name: "Pocket",
    scale: "442",
    compensated: true,
  });
  await page.goto(`${server.url}/setup/first`);
  const known = page.getByTestId("start-known-meter");
  const scales = page.getByTestId("start-meter");
  await page.getByTestId("start-shown").fill("143");
  await expect(scales).toHaveCount(0);
  await known.getByRole("radio", { name: "Pocket, ppm 442" }).click();
  const litres = page.getByTestId("start-litres");
  await expect(litres).toHaveText(/L$/);
  const by442 = await litres.innerText();
  await known.getByRole("radio", { name: "Another" }).click();
  await expect(litres).toHaveCount(0);
  await scales.getByRole("radio", { name: /^ppm NaCl/ }).click();
  await expect(litres).toHaveText(/L$/);
  await expect(litres).not.toHaveText(by442);
});

test("an example crew is shown and left again, and what is tried in it is nobody's", async ({ page }) => {
  await page.goto(server.url);
  await page.getByTestId("open-example").click();
  const asked: string[] = [];
  page.on("request", (request) => asked.push(new URL(request.url()).pathname));
  await expect(page.getByTestId("example-line")).toContainText("invented");
  await expect(page.getByTestId("verdict-title")).toBeVisible();
  await page.getByTestId("log-a-reading").click();
  await tapDigits(page, "3");
  await page.getByTestId("keep-it").click();
  await expect(page.getByTestId("verdict-reason")).toContainText(/Out (17, then )?3 /);
  await expect(page.getByTestId("sent-state")).toHaveText("an example, not sent");
  await page.reload();
  await expect(page.getByTestId("verdict-reason")).toContainText(/Out (17, then )?3 /);
  // Not even a calendar's address is made for it on the server.
  await page.goto(`${server.url}/weeks/work`);
  await page.getByTestId("make-feed").click();
  await expect(page.getByText(/nothing leaves it|Leave the example/).first()).toBeVisible();
  const feeds = (await server.request("GET", "/api/v1/calendar/feeds")).body as { items: unknown[] };
  expect(feeds.items).toEqual([]);
  // Nor is the own crew looked into for it: not its lists, not its mails.
  await page.goto(`${server.url}/weeks/reminders`);
  await expect(page.getByRole("heading", { name: "Reminders by mail" })).toBeVisible();
  const ours = asked.filter(
    (path) => path.startsWith("/api/v1/") && !/^\/api\/v1\/(example|addresses|health)$/.test(path),
  );
  expect(ours).toEqual([]);
  await page.getByTestId("leave-example").click();
  await expect(page.getByTestId("start-answer")).toBeVisible();
  await expect(page.getByTestId("example-line")).toHaveCount(0);
  expect(await records("visits")).toEqual([]);
  expect(await records("rigs")).toEqual([]);
});

test("a word of the trade is a tap away, where it stands and in its list", async ({ page }) => {
  await page.goto(`${server.url}/setup/first`);
  await page.getByTestId("meaning-Feed").click();
  await expect(page.getByRole("note").filter({ hasText: "The water that goes into the rig" })).toBeVisible();
  await page.goto(`${server.url}/words`);
  await expect(page.getByTestId("word").first()).toBeVisible();
  const all = await page.getByTestId("word").count();
  await page.getByTestId("words-search").fill("membrane");
  await expect(page.getByTestId("word").filter({ hasText: "RO" }).first()).toBeVisible();
  expect(await page.getByTestId("word").count()).toBeLessThan(all);
});
