import { readFileSync } from "node:fs";
import type { Page } from "@playwright/test";
import { allSent, choose, expect, fill, press, RunningServer, test } from "./support/app";

type Kept = Record<string, unknown> & { readonly id: string; readonly name?: string };

let server: RunningServer;
test.beforeAll(async () => {
  server = await RunningServer.start({ flags: [] });
});
test.afterAll(async () => server.remove());
test.use({ viewport: { width: 390, height: 844 } });

const listOf = async (from: RunningServer, kind: string) =>
  ((await from.request("GET", `/api/v1/${kind}?limit=1000`)).body as { items: Kept[] }).items;
const list = (kind: string) => listOf(server, kind);
const rigNamed = async (name: string) => (await list("rigs")).find((each) => each.name === name)!.id;
const inDays = (days: number) => {
  const day = new Date();
  day.setDate(day.getDate() + days);
  return `${day.getFullYear()}-${String(day.getMonth() + 1).padStart(2, "0")}-${String(day.getDate()).padStart(2, "0")}`;
};
const toast = (page: Page) => page.getByTestId("toast");
const ready = (page: Page) =>
  expect(page.getByTestId("weeks-headline")).not.toHaveText("Working it out…", { timeout: 30_000 });
const open = async (page: Page) => {
  await page.goto(`${server.url}/weeks`);
  await ready(page);
};
const bookingsOn = async (on: string) => (await list("bookings")).filter((each) => each["on"] === on);

test("the fourth tab says which day it is, and marks the day that may fall short once, with its odds", async ({
  page,
}) => {
  await page.goto(server.url);
  await page.getByRole("link", { name: "Weeks", exact: true }).click();
  await expect(page).toHaveTitle(/^Weeks · /);
  await ready(page);
  await expect(page.getByTestId("weeks-headline")).toContainText(/is the day: (one|two|three) tasks?, \d+ min/);
  await expect(page.getByTestId("tasks").first()).toContainText("Bay 2");
  for (const rig of ["Van", "Bay 2", "Quarantine"])
    expect(await page.getByTestId(`short-${rig}`).count()).toBeLessThanOrEqual(1);
  await expect(page.getByTestId("next-order")).toContainText(/Order .* L of/);
  await expect(page.getByTestId("dates-Bay 2")).toContainText(/about .*; order resin/);
  const label = await page.getByTestId(`day-${inDays(1)}`).getAttribute("aria-label");
  expect(label).toMatch(/Bay 2: .* left in the evening/);
});

test("a day is booked by two taps, undone with one, and the days change at once", async ({ page }) => {
  const on = inDays(9);
  await open(page);
  await page.getByTestId(`day-${on}`).click();
  await page.getByTestId("book-Bay 2-6").click();
  await expect(toast(page)).toContainText("6 cars for Bay 2");
  await allSent(page);
  expect(await bookingsOn(on)).toEqual(
    expect.arrayContaining([expect.objectContaining({ booked: { by: "jobs", jobs: 6 } })]),
  );
  await expect(page.getByTestId("book-Bay 2-6")).toHaveAttribute("aria-pressed", "true");
  await page.getByTestId("undo").click();
  await expect(toast(page)).toContainText("Undone");
  await expect(page.getByTestId("book-Bay 2-6")).toHaveAttribute("aria-pressed", "false");
  await allSent(page);
});

test("a round is booked with its name, moved by keys, by its buttons and by drag, exported, and imported by another crew", async ({
  page,
}) => {
  const on = inDays(4);
  await page.goto(`${server.url}/weeks/booking?rig=${await rigNamed("Bay 2")}&on=${on}`);
  await fill(page, "jobs", "2");
  await fill(page, "name", "Fair stand, both cars");
  await page.getByTestId("save").click();
  await expect(toast(page)).toContainText("Booked for");
  await ready(page);
  const round = () => page.getByTestId("booking").filter({ hasText: "Fair stand" });
  const isOn = async (day: string) => {
    // The words of the move before may still stand there: what counts is what the server has.
    await expect
      .poll(async () => (await list("bookings")).find((each) => each.name === "Fair stand, both cars")!["on"])
      .toBe(day);
  };
  await page.getByTestId(`day-${on}`).click();
  await round().getByRole("link").focus();
  await page.keyboard.press("Alt+ArrowDown");
  await expect(toast(page)).toContainText("Moved to");
  await isOn(inDays(5));
  await page.getByTestId(`day-${inDays(5)}`).click();
  await round().getByTestId("earlier").click();
  await expect(round()).toHaveCount(0);
  await isOn(on);
  await page.getByTestId(`day-${on}`).click();
  await round().getByTestId("drag-booking").scrollIntoViewIfNeeded();
  const handle = (await round().getByTestId("drag-booking").boundingBox())!;
  await page.mouse.move(handle.x + 10, handle.y + 10);
  await page.mouse.down();
  const target = page.getByTestId(`day-${on}`);
  const up = (await target.boundingBox())!;
  await page.mouse.move(up.x + 60, up.y + up.height / 2, { steps: 6 });
  const before = page.getByTestId(`day-${inDays(3)}`);
  // Near its edge the list scrolls on under the pointer: moved until the day stands still below it.
  for (let last = NaN; ;) {
    const there = (await before.boundingBox())!;
    if (Math.abs(there.y - last) < 1) break;
    last = there.y;
    await page.mouse.move(there.x + 60, there.y + there.height / 2, { steps: 6 });
  }
  await page.mouse.up();
  await expect(toast(page)).toContainText("Moved to");
  await isOn(inDays(3));

  await page.goto(`${server.url}/weeks/work`);
  const [download] = await Promise.all([page.waitForEvent("download"), page.getByTestId("calendar-file").click()]);
  const file = await download.path();
  expect(readFileSync(file, "utf8")).toContain("SUMMARY:Bay 2: Fair stand\\, both cars");
  await page
    .getByTestId("calendar-in")
    .setInputFiles({ name: "weeks.ics", mimeType: "text/calendar", buffer: readFileSync(file) });
  await expect(page.getByTestId("calendar-preview")).toContainText("All of it is booked already");

  const other = await RunningServer.start({ flags: [] });
  try {
    await page.goto(`${other.url}/weeks/work`);
    await page
      .getByTestId("calendar-in")
      .setInputFiles({ name: "weeks.ics", mimeType: "text/calendar", buffer: readFileSync(file) });
    await page.getByTestId("calendar-preview").getByRole("radio", { name: "Bay 2" }).click();
    await page.getByTestId("take-calendar").click();
    await expect(toast(page)).toContainText("taken for Bay 2");
    await allSent(page);
    const there = (await listOf(other, "bookings")).filter((each) => String(each.name).includes("Fair stand"));
    expect(there.map((each) => each["on"])).toEqual([inDays(3)]);
  } finally {
    await other.remove();
  }
});

test("somebody's calendar is taken from its address once, and a private address is refused in words", async ({
  page,
}) => {
  test.info().annotations.push({ type: "server", description: "its stand-in calendar" });
  const { address } = (await server.request("GET", "/api/v1/calendar/sample")).body as { address: string };
  await page.goto(`${server.url}/weeks/work`);
  await page.getByTestId("calendar-address").fill(address);
  await page.getByTestId("ask-calendar").click();
  await expect(page.getByTestId("calendar-preview")).toContainText(/\d+ days in the year to come/);
  await page.getByTestId("take-calendar").click();
  await expect(toast(page)).toContainText("taken for");
  await allSent(page);
  const taken = (await list("bookings")).filter((each) => each["fromCalendar"] !== undefined);
  expect(taken.length).toBeGreaterThan(4);
  await page.getByTestId("calendar-address").fill(address);
  await page.getByTestId("ask-calendar").click();
  await expect(page.getByTestId("calendar-preview")).toContainText("booked already");
});

test.describe("with an address that is refused", () => {
  test.use({ networkMayFail: true });
  test("it is said in words, beside the field", async ({ page }) => {
    await page.goto(`${server.url}/weeks/work`);
    await page.getByTestId("calendar-address").fill("http://127.0.0.1:9/secret.ics");
    await page.getByTestId("ask-calendar").click();
    await expect(page.getByText(/lies in a private network/)).toBeVisible();
  });
});

test("the plan is taken, moved, given up and declined, each by one act with its undo", async ({ page }) => {
  await open(page);
  const card = page
    .getByTestId(/^plan-/)
    .filter({ hasText: "Refill" })
    .first();
  const day = (await card.getAttribute("data-testid"))!.replace("plan-", "");
  const plan = card.getByTestId("proposed");
  const words = await plan.getByTestId("tasks").innerText();
  await plan.getByTestId("why-day").click();
  await plan.getByRole("button", { name: "What this day costs" }).first().click();
  await expect(plan.getByTestId("explain-formula").first()).toContainText("min(1, u / l)");
  await plan.getByTestId("take-day").click();
  await expect(toast(page)).toContainText("Set for");
  await allSent(page);
  const set = (await list("appointments")).filter((each) => each["on"] === day && each["answer"] === "accepted");
  expect(set.length).toBeGreaterThanOrEqual(words.split(" · ").length);
  await expect(page.getByTestId(`plan-${day}`)).toContainText("Set for this day");
  await page.getByTestId(`plan-${day}`).getByTestId("give-up").click();
  await expect(toast(page)).toContainText("No longer set");
  // Undone before the weeks without it are worked out: what is opened meanwhile stays open when they come and go.
  await page.getByTestId("undo").click();
  await expect(toast(page)).toContainText("Undone");
  await expect(page.getByTestId(`plan-${day}`)).toContainText("Set for this day");
  const later = inDays(13);
  await page.getByTestId(`plan-${day}`).getByTestId("set").getByTestId("another-day").click();
  await page.getByTestId(`plan-${day}`).getByTestId("any-day").fill(later);
  await page.getByTestId(`plan-${day}`).getByTestId("take-any-day").click();
  await expect(page.getByTestId(`plan-${later}`)).toContainText("Set for this day");
  await allSent(page);
  const moved = (await list("appointments")).filter((each) => set.some(({ id }) => id === each.id));
  expect(moved.map((each) => [each["on"], each["version"]])).toEqual(set.map(() => [later, expect.any(Number)]));
  await page.getByTestId(`plan-${later}`).getByTestId("give-up").click();
  await expect(page.getByTestId(`plan-${day}`).getByTestId("take-day")).toBeVisible({ timeout: 15_000 });
  await page.getByTestId(`plan-${day}`).getByTestId("proposed").getByTestId("another-day").click();
  await page.getByTestId(`plan-${day}`).getByTestId("decline-day").click();
  await expect(toast(page)).toContainText("another day is looked for");
  await allSent(page);
  await expect(page.getByTestId(`plan-${day}`).filter({ hasText: words })).toHaveCount(0, { timeout: 15_000 });
});

test("what if: a filled spare takes the shortage away, in words", async ({ page }) => {
  await open(page);
  await page.getByTestId("ask-what-if").click();
  await choose(page, "A filled spare at hand");
  await expect(page.getByTestId("what-if-words").first()).toContainText(/short, then/, { timeout: 20_000 });
});

test("a refill takes from the bags, says what they are worth first, and the stock adds up, undone too", async ({
  page,
}) => {
  const bay = await rigNamed("Bay 2");
  const green = async () => {
    await page.goto(`${server.url}/weeks/stock`);
    return page.getByTestId("bag-Green sack").innerText();
  };
  expect(await green()).toMatch(/^13 L/);
  await page.goto(`${server.url}/setup/charge?rig=${bay}`);
  await expect(page.getByTestId("mixture-means")).toContainText(/Worth 0\.7\d of fresh resin: about .* in place of/, {
    timeout: 20_000,
  });
  await choose(page, "Other amounts");
  await expect(page.getByTestId("from-Green sack")).toHaveValue("11.9");
  await page.getByTestId("from-Green sack").fill("14");
  await page.getByTestId("save").click();
  await expect(page.getByTestId("form-trouble")).toContainText(/go in: correct one of them/);
  await choose(page, "As proposed");
  await expect(page.getByTestId("portion")).toHaveText("11.9 L from Green sack");
  await fill(page, "minutes", "35");
  await page.getByTestId("save").click();
  await expect(toast(page)).toContainText("Bay 2 is filled");
  await allSent(page);
  const charge = (await list("charges")).find((each) => each["rigId"] === bay && each["ended"] === undefined)!;
  expect(charge).toMatchObject({
    minutes: 35,
    from: [{ litres: 11.9 }],
    stored: { container: "rolled-or-zip", warm: true },
  });
  await page.getByTestId("undo").click();
  await expect(toast(page)).toContainText("Undone");
  await allSent(page);
  expect(await green()).toMatch(/^13 L/);
});

test("a bag is noted by its weight, its age is asked for, counted, and its label leads back to it", async ({
  page,
}) => {
  await page.goto(`${server.url}/weeks/stock`);
  await page.getByTestId("add-bag").click();
  await fill(page, "name", "Sack of the supplier");
  await fill(page, "kilograms", "17.5");
  await expect(page.getByTestId("bag-worth")).toContainText("Ask the seller when it was made");
  await page.getByTestId("save").click();
  await expect(toast(page)).toContainText("Kept: Sack of the supplier");
  await page.getByTestId("bag-Sack of the supplier").click();
  await expect(page.getByTestId("field-litres").first()).toHaveValue("25");
  await press(page, "Print its label");
  const bag = (await list("bags")).find((each) => each.name === "Sack of the supplier")!;
  await expect(page.getByRole("img", { name: new RegExp(`weeks/bag\\?id=${bag.id}`) })).toBeVisible();
});

test("upkeep says why it is due, is done with one tap, and moves on", async ({ page }) => {
  await page.goto(`${server.url}/weeks/upkeep`);
  const sediment = page.getByTestId("due-sediment").filter({ hasText: "Quarantine" });
  await expect(sediment).toContainText("the pressure was seen to fall", { timeout: 20_000 });
  await sediment.getByRole("button", { name: /done just now/ }).click();
  await expect(toast(page)).toContainText("Noted");
  await expect(sediment).toContainText("every 6 months");
  const bay = page.getByTestId("due-sediment").filter({ hasText: "Bay 2" });
  await bay.getByRole("link", { name: /note the pressures/ }).click();
  await fill(page, "before", "330");
  await fill(page, "behind", "340");
  await page.getByTestId("save").click();
  await expect(page.getByText(/is never above that before it/).first()).toBeVisible();
  await fill(page, "behind", "268");
  await expect(page.getByTestId("drop")).toHaveText("62 kPa across it: change it.");
  await page.getByTestId("save").click();
  await expect(bay).toContainText(/due today: 62 kPa across it on/, { timeout: 20_000 });
});

test("a ready-filled cartridge goes into its housing as a whole", async ({ page }) => {
  await page.goto(`${server.url}/weeks/bag`);
  await choose(page, "Ready-filled cartridge");
  await expect(page.getByTestId("field-litres").first()).toHaveValue("1.5");
  await expect(page.getByTestId("field-name").first()).toHaveValue(/^Cartridge \d+$/);
  await fill(page, "name", "Cartridge in foil");
  await fill(page, "litres", "1.4");
  await page.getByTestId("save").click();
  await expect(page.getByTestId("bag-Cartridge in foil")).toContainText("cartridge, virgin", { timeout: 20_000 });
  await expect(page.getByTestId("bag-size").filter({ hasText: "Quarantine" })).toContainText(
    /eady-filled cartridges of/,
  );
  await page.goto(`${server.url}/setup/charge?rig=${await rigNamed("Quarantine")}`);
  await expect(page.getByTestId("portion")).toHaveText(/1\.4 L from Cartridge in foil/, { timeout: 20_000 });
  await expect(page.getByTestId("missing")).toHaveCount(0);
  await expect(page.getByTestId("mixture-means")).toContainText("Cartridge in foil is empty then");
});

test("a calendar's address is told once, read by a calendar, and taken back", async ({ page }) => {
  await page.goto(`${server.url}/weeks/work`);
  await page.getByTestId("make-feed").click();
  const address = await page.getByTestId("feed-address").innerText();
  const read = () => fetch(address);
  const first = await read();
  expect([first.status, (await first.text()).startsWith("BEGIN:VCALENDAR")]).toEqual([200, true]);
  await page.reload();
  await expect(page.getByTestId("feed")).toContainText("read today");
  await expect(page.getByTestId("feed-address")).toHaveCount(0);
  await page.getByTestId("revoke-feed").click();
  await expect(toast(page)).toContainText("Taken back");
  expect((await read()).status).toBe(404);
});

test("reminders are set up in one form, with the mailbox that shows what would have been sent", async ({ page }) => {
  await page.goto(`${server.url}/weeks/reminders`);
  await fill(page, "to", "nobody");
  await page.getByTestId("save").click();
  await expect(page.getByTestId("form-trouble")).toContainText("Give a mail address");
  await fill(page, "to", "crew@vellin-quay.example");
  await page.getByTestId("save").click();
  await expect(toast(page)).toContainText("reminders go to crew@vellin-quay.example");
  await expect(page.getByTestId("mailbox")).toContainText("What would have been sent");
});

test.describe("without a signal", () => {
  test.use({ networkMayFail: true });
  test("work is booked on what this device knows, and sent when the signal is back", async ({ page, context }) => {
    const on = inDays(11);
    await open(page);
    await context.setOffline(true);
    await page.getByTestId(`day-${on}`).click();
    await page.getByTestId("book-Quarantine-2").click();
    await expect(toast(page)).toContainText("2 water changes for Quarantine");
    await expect(page.getByTestId("book-Quarantine-2")).toHaveAttribute("aria-pressed", "true");
    await context.setOffline(false);
    await allSent(page);
    expect(await bookingsOn(on)).toEqual(
      expect.arrayContaining([expect.objectContaining({ booked: { by: "jobs", jobs: 2 } })]),
    );
  });
});
