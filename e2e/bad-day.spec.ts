import type { Page } from "@playwright/test";
import { v7 as uuidv7 } from "uuid";
import { allSent, expect, fill, RunningServer, tapDigits, test } from "./support/app";

/* A phone with a wrong clock, a calendar that never ends, a key that misses its field: nobody else is harmed. */

const DAY = 86_400_000;

let server: RunningServer;
test.beforeAll(async () => {
  server = await RunningServer.start({ flags: [] });
});
test.afterAll(() => server.remove());

/** The page's own clock, and that of nothing else. */
const setAhead = (page: Page, ahead: number) =>
  page.addInitScript((by) => {
    const Right = Date;
    class Ahead extends Right {
      constructor(...given: unknown[]) {
        if (given.length === 0) super(Right.now() + by);
        else super(...(given as [number]));
      }
      static override now() {
        return Right.now() + by;
      }
    }
    globalThis.Date = Ahead as DateConstructor;
  }, ahead);

type Item = { readonly id: string; readonly name?: string; readonly at?: string; readonly [field: string]: unknown };
const list = async (kind: string) =>
  ((await server.request("GET", `/api/v1/${kind}?limit=1000`)).body as { items: readonly Item[] }).items;

const rackOf = async (page: Page) => {
  await page.goto(server.url);
  await expect(page.getByTestId("verdict-title")).toBeVisible();
  await allSent(page);
  return Promise.all(["Van", "Bay 2", "Quarantine"].map((name) => page.getByTestId(`left-${name}`).innerText()));
};

test("a phone whose clock is a year ahead says so before anything is kept, and offers the right time", async ({
  page,
  browser,
}) => {
  const right = await browser.newPage();
  const before = await rackOf(right);
  await setAhead(page, 365 * DAY);
  // Nothing on the phone is judged by its clock.
  await expect.poll(() => rackOf(page)).toEqual(before);
  const van = (await list("rigs")).find(({ name }) => name === "Van")!;
  await page.goto(`${server.url}/log/${van.id}`);
  const question = page.getByTestId("clock-question");
  await expect(question).toContainText("This phone's clock is 365 days ahead");
  await expect(question.getByRole("radio", { name: /^Right/ })).toHaveAttribute("aria-checked", "true");
  await tapDigits(page, "2");
  await page.getByTestId("keep-it").click();
  await expect(page.getByTestId("toast")).toContainText("out 2");
  await allSent(page);
  const newest = [...(await list("visits"))].sort((a, b) => (a.id < b.id ? 1 : -1))[0]!;
  expect(Math.abs(Date.parse(newest.at!) - Date.now())).toBeLessThan(120_000);
  await page.getByTestId("undo").click();
  await expect(page.getByTestId("toast")).toContainText("Undone");
  await allSent(page);

  // Whoever insists on the phone's time keeps it, marked and counted nowhere.
  await page.goto(`${server.url}/log/${van.id}`);
  await question.getByRole("radio", { name: /^Phone/ }).click();
  await tapDigits(page, "180");
  await page.getByTestId("keep-it").click();
  await expect(page.getByTestId("toast")).toContainText("out 180");
  await allSent(page);
  const ahead = (await list("visits")).find(({ at }) => Date.parse(at!) > Date.now() + 300 * DAY)!;
  expect(await rackOf(right)).toEqual(before);
  await expect.poll(() => rackOf(page)).toEqual(before);
  await right.goto(`${server.url}/history/${van.id}`);
  const apart = right.getByTestId("visits-ahead");
  await expect(apart).toContainText(/out 180 ppm/);
  await apart.getByRole("link", { name: /Put its time right/ }).click();
  await expect(right).toHaveURL(new RegExp(ahead.id));
  await right.goBack();
  await apart.getByRole("button", { name: /^Take back/ }).click();
  await expect(apart).toHaveCount(0);
  await right.close();
});

test("a clock that is some hours ahead is told the same way, and one that is right asks nothing", async ({ page }) => {
  const van = (await list("rigs")).find(({ name }) => name === "Van")!;
  await page.goto(`${server.url}/log/${van.id}`);
  await expect(page.getByTestId("keep-it")).toBeVisible();
  await expect(page.getByTestId("clock-question")).toHaveCount(0);
  await setAhead(page, -3 * 3_600_000);
  await page.goto(`${server.url}/log/${van.id}`);
  await expect(page.getByTestId("clock-question")).toContainText("This phone's clock is 3 hours behind");
});

test("a calendar with a day that never comes is read but for that, and the page goes on meanwhile", async ({
  page,
}) => {
  const day = new Date(Date.now() + 9 * DAY).toISOString().slice(0, 10).replaceAll("-", "");
  const event = (uid: string, ...more: string[]) => [
    ...["BEGIN:VEVENT", `UID:${uid}`, `DTSTART;VALUE=DATE:${day}`, ...more, `SUMMARY:${uid}`, "END:VEVENT"],
  ];
  const many = Array.from({ length: 8_000 }, (_, i) => event(`Past ${i}`).join("\r\n").replace(day, "20200101"));
  const text = [
    "BEGIN:VCALENDAR",
    ...event("Never", "RRULE:FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30"),
    ...many,
    ...event("Tide Row"),
    "END:VCALENDAR",
    "",
  ].join("\r\n");
  await page.goto(`${server.url}/weeks/work`);
  await page
    .getByTestId("calendar-in")
    .setInputFiles({ name: "round.ics", mimeType: "text/calendar", buffer: Buffer.from(text) });
  await expect(page.getByRole("button", { name: "Stop" })).toBeVisible();
  await expect(page.getByTestId("calendar-preview")).toContainText("Tide Row", { timeout: 60_000 });
  await expect(page.getByTestId("calendar-preview")).toContainText("“Never” keeps its reader for ever");
  await page.getByTestId("take-calendar").click();
  await expect(page.getByTestId("toast")).toContainText("1 booking taken");
});

test.describe("what the server refuses of a calendar", () => {
  test.use({ networkMayFail: true });
  test("says why, and nothing is said to be taken", async ({ page }) => {
    const day = new Date(Date.now() + 12 * DAY).toISOString().slice(0, 10).replaceAll("-", "");
    const lines = ["BEGIN:VCALENDAR", "BEGIN:VEVENT", "UID:late", `DTSTART;VALUE=DATE:${day}`, "SUMMARY:Late Row"];
    const buffer = Buffer.from([...lines, "END:VEVENT", "END:VCALENDAR", ""].join("\r\n"));
    // A rig of its own, taken back elsewhere while the calendar is looked at.
    const van = (await list("rigs")).find(({ name }) => name === "Van")!;
    const { id: _, version: _v, voided: _b, ...body } = van;
    const rig = uuidv7();
    expect((await server.request("PUT", `/api/v1/rigs/${rig}`, { ...body, name: "Short-lived" })).status).toBe(201);
    await page.goto(`${server.url}/weeks/work`);
    await page.getByTestId("calendar-in").setInputFiles({ name: "late.ics", mimeType: "text/calendar", buffer });
    await page.getByRole("radio", { name: "Short-lived" }).click();
    await server.request("PUT", `/api/v1/rigs/${rig}`, { replaces: 1, voided: true });
    await page.getByTestId("take-calendar").click();
    await expect(page.getByTestId("calendar-refused")).toContainText(/Not taken: This rig was taken back/);
    await expect(page.getByTestId("toast")).toHaveCount(0);
  });
});

test("a digit that misses its field leads nowhere from a form that is half filled in, and a form left is there again", async ({
  page,
}) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(`${server.url}/setup/meter`);
  await fill(page, "name", "Half a na");
  await page.getByRole("heading", { level: 1 }).click();
  for (const key of ["2", "7", ","]) await page.keyboard.press(key);
  await expect(page).toHaveURL(/setup\/meter$/);
  await expect(page.getByTestId("field-name")).toHaveValue("Half a na");
  await page.getByRole("link", { name: "Water" }).first().click();
  await expect(page).toHaveURL(/water$/);
  await page.keyboard.press("3");
  await expect(page).toHaveURL(/size$/);
  await page.goto(`${server.url}/setup/meter`);
  await expect(page.getByTestId("field-name")).toHaveValue("Half a na");
});

test("a visit logged before its rig was taken back stands in History under that rig", async ({ page }) => {
  const van = (await list("rigs")).find(({ name }) => name === "Van")!;
  const { id: _, version: _v, voided: _b, ...body } = van;
  const [rig, visit] = [uuidv7(), uuidv7()];
  await server.request("PUT", `/api/v1/rigs/${rig}`, { ...body, name: "Old cart" });
  await server.request("PUT", `/api/v1/rigs/${rig}`, { replaces: 1, voided: true });
  const readings = [{ id: uuidv7(), point: "output", scale: "nacl", value: 4 }];
  const late = { rigId: rig, tapId: van["tapId"], at: new Date().toISOString(), readings };
  expect((await server.request("PUT", `/api/v1/visits/${visit}`, late)).status).toBe(201);
  await page.goto(`${server.url}/history`);
  const apart = page.getByTestId("taken-back-rig");
  await expect(apart).toContainText("Old cart, taken back");
  await expect(apart).toContainText("out 4 ppm NaCl");
  await apart.getByRole("button", { name: "Bring Old cart back" }).click();
  await expect(apart).toHaveCount(0);
});

test("what is typed in the example is in no form of the own crew, nor the other way", async ({ page }) => {
  const name = page.getByTestId("field-name");
  await page.goto(`${server.url}/setup/meter`);
  await fill(page, "name", "Own pen");
  const example = await page.context().newPage();
  await example.addInitScript(() => sessionStorage.setItem("winter-bead-example", "on"));
  await example.goto(`${server.url}/setup/meter`);
  await expect(example.getByTestId("field-name")).toHaveValue("");
  await fill(example, "name", "Tried pen");
  await example.reload();
  await expect(example.getByTestId("field-name")).toHaveValue("Tried pen");
  await page.reload();
  await expect(name).toHaveValue("Own pen");
  await example.close();
});
