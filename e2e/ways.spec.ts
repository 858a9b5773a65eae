import { expect, test } from "./support/app";
import { everyPlace, goWithin, openAt } from "./support/places";

/** Names of places in the browser's own title, in the order of `everyPlace`'s first steps. */
const TITLES: readonly (readonly [string, RegExp])[] = [
  ["/", /^The rack · Winter Bead$/],
  ["/water", /^The water · /],
  ["/lab", /^The Lab|^Lab/],
  ["/size/vessel", /^Which vessel · /],
  ["/weeks", /^Weeks · /],
  ["/weeks/stock", /^Stock · /],
  ["/history", /^History · /],
  ["/setup", /^Set up · /],
  ["/settings", /^Settings · /],
];

test("each place has its title and one heading, and the focus goes there", async ({ page, demo }) => {
  for (const [path, title] of TITLES) {
    await openAt(page, demo.url + path);
    await expect(page).toHaveTitle(title);
    await expect(page.getByRole("heading", { level: 1 })).toHaveCount(1);
  }
  await page.goto(demo.url);
  await expect(page.getByTestId("verdict-title")).toBeVisible();
  await page.getByRole("link", { name: "Weeks", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Weeks" })).toBeFocused();
  await page.getByRole("link", { name: "History", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1, name: "History" })).toBeFocused();
});

test("ways are links: they have addresses, open beside, and the first stop skips to the content", async ({
  page,
  context,
  demo,
}) => {
  await page.goto(demo.url);
  await expect(page.getByTestId("log-a-reading")).toHaveAttribute("href", /^\/log\//);
  const [beside] = await Promise.all([
    context.waitForEvent("page"),
    page.getByRole("link", { name: "Water", exact: true }).click({ modifiers: ["Control"] }),
  ]);
  await expect(beside.getByRole("heading", { level: 1 })).toHaveText("The water");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("The rack");
  await beside.close();
  await page.reload();
  await expect(page.getByTestId("verdict-title")).toBeVisible();
  await page.keyboard.press("Tab");
  await expect(page.getByRole("link", { name: "To the content" })).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 1 })).toBeFocused();
});

test("going back stands where the place was left; going forward begins at the top", async ({ page, demo }) => {
  await page.setViewportSize({ width: 390, height: 664 });
  await page.goto(`${demo.url}/size/vessel`);
  await expect(page.getByTestId("ranked")).toBeVisible();
  const scroller = page.locator("main > div > div:nth-child(2) > div").first(); // under the answer bar, over the pad
  const top = () => scroller.evaluate((node) => node.scrollTop);
  await scroller.evaluate((node) => (node.scrollTop = 900));
  await expect.poll(top).toBeGreaterThan(850);
  await page.waitForTimeout(300);
  await page.getByRole("link", { name: "History", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("History");
  await page.goBack();
  await expect(page.getByTestId("ranked")).toBeVisible();
  await expect.poll(top).toBeGreaterThan(850);
  await page.waitForTimeout(1_200);
  await page.getByRole("link", { name: "History", exact: true }).click();
  await page.getByRole("link", { name: "Size", exact: true }).click();
  await page.getByRole("link", { name: "Vessel", exact: true }).click();
  await expect(page.getByTestId("ranked")).toBeVisible();
  expect(await top()).toBeLessThan(50);
});

test("what the address names and is not there is said so, and an address without a place is a 404", async ({
  page,
  demo,
  complaints,
}) => {
  const unknown = "019f0000-0000-7000-8000-00000000dead";
  for (const [path, what] of [
    [`/log/${unknown}`, "rig"],
    [`/history/${unknown}`, "rig"],
    [`/water/${unknown}`, "tap"],
    [`/water/report?tap=${unknown}`, "tap"],
    [`/water/membrane?rig=${unknown}`, "rig with a membrane"],
    [`/size/plans/${unknown}`, "plan"],
    [`/setup/tap?id=${unknown}`, "tap"],
    [`/setup/meter?id=${unknown}`, "meter"],
    [`/setup/rig?id=${unknown}`, "rig"],
    [`/setup/charge?rig=${unknown}`, "rig"],
    // An address that was cut short names nothing at all.
    ["/history/visit", "visit"],
    ["/history/charge", "charge"],
    ["/water/feed-test", "reading"],
    ["/water/membrane-check", "check"],
    ["/setup/vessel", "vessel"],
    ["/setup/site", "site"],
  ]) {
    await openAt(page, demo.url + path);
    await expect(page.getByRole("heading", { level: 1 })).toHaveText(`This ${what} is not here`);
  }
  expect((await page.request.get(`${demo.url}/nowhere`)).status()).toBe(404);
  await page.goto(`${demo.url}/nowhere`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Nothing here");
  expect(complaints.filter((line) => !/404/.test(line))).toEqual([]);
  complaints.length = 0;
});

test("arrows choose in a group of choices, which is one stop of the tab key", async ({ page, demo }) => {
  await page.goto(`${demo.url}/settings`);
  const look = page.getByRole("radiogroup", { name: "Look" });
  await look.getByRole("radio", { name: "As the device" }).focus();
  await page.keyboard.press("ArrowRight");
  await expect(look.getByRole("radio", { name: "Light" })).toBeFocused();
  await expect(look.getByRole("radio", { name: "Light" })).toBeChecked();
  await page.keyboard.press("ArrowLeft");
  await expect(look.getByRole("radio", { name: "As the device" })).toBeChecked();
  await page.keyboard.press("Tab");
  await expect(
    page.getByRole("radiogroup", { name: "One-letter keys on a keyboard" }).getByRole("radio", { name: "On" }),
  ).toBeFocused();
});

test("the list of keys holds the focus and gives it back; one-letter keys can be switched off", async ({
  page,
  demo,
}) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(demo.url);
  await expect(page.getByTestId("verdict-title")).toBeVisible();
  const opener = page.getByRole("button", { name: "Keys: ?" });
  await opener.click();
  const dialog = page.getByRole("dialog", { name: "Keys" });
  await expect(dialog).toBeVisible();
  for (let i = 0; i < 4; i += 1) {
    await page.keyboard.press("Tab");
    expect(
      await page.evaluate(
        () => document.activeElement === document.body || document.activeElement!.closest("dialog") !== null,
      ),
    ).toBe(true);
  }
  await page.keyboard.press("Escape");
  await expect(dialog).toHaveCount(0);
  await expect(opener).toBeFocused();
  await page.keyboard.press("2");
  await expect(page).toHaveURL(/water$/);
  await page.getByRole("link", { name: "Settings", exact: true }).click();
  await page
    .getByRole("radiogroup", { name: "One-letter keys on a keyboard" })
    .getByRole("radio", { name: "Off" })
    .click();
  await page.getByRole("heading", { level: 1 }).click();
  await page.keyboard.press("2");
  await page.keyboard.press("?");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Settings");
  await expect(page.getByRole("dialog")).toHaveCount(0);
});

test("text follows the font size its reader has set, to twice its size, with nothing cut off at the side", async ({
  page,
  demo,
}) => {
  await page.addInitScript(() => {
    addEventListener("DOMContentLoaded", () => {
      document.documentElement.style.fontSize = "200%";
    });
  });
  await page.goto(demo.url);
  await expect(page.getByTestId("verdict-title")).toBeVisible();
  for (const path of await everyPlace(demo)) {
    await goWithin(page, path);
    await expect(page.getByText("Working it out…")).toHaveCount(0, { timeout: 20_000 });
    await page.waitForTimeout(150);
    const { cut, size } = await page.evaluate(() => ({
      // Words beyond the side; what moves sideways by itself, and names in drawings, have their own ways.
      cut: [...document.querySelectorAll("main span, main h1, main h2, main label")]
        .filter(
          (node) =>
            node.childElementCount === 0 &&
            !node.closest(
              '[role="navigation"], table, [role="table"], [data-testid="log-rigs"], [data-testid="vessel-wall"]',
            ) &&
            node.getBoundingClientRect().right > window.innerWidth + 1,
        )
        .map((node) => node.textContent),
      size: parseFloat(getComputedStyle(document.querySelector("main h1")!).fontSize),
    }));
    expect([path, cut]).toEqual([path, []]);
    expect(size).toBeGreaterThanOrEqual(36);
  }
});

test("on paper stands the place: no frame, no buttons, all of a long list", async ({ page, demo }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(demo.url);
  await expect(page.getByTestId("verdict-title")).toBeVisible();
  const visits = await page.getByTestId("visit-line").count();
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("navigation")).toHaveCount(0);
  await expect(page.getByTestId("log-a-reading")).toBeHidden();
  const { height, last } = await page.evaluate(() => ({
    height: document.querySelector("main")!.getBoundingClientRect().height,
    last: [...document.querySelectorAll('[data-testid="visit-line"]')].pop()!.getBoundingClientRect().bottom,
  }));
  expect(visits).toBeGreaterThan(3);
  expect(last).toBeLessThanOrEqual(height + 40);
  expect(height).toBeGreaterThan(1_000);
});

test("can be installed: a name, a scope, icons of every kind, ways in", async ({ page, demo }) => {
  await page.goto(demo.url);
  const href = await page.locator('link[rel="manifest"]').getAttribute("href");
  const manifest = (await (await page.request.get(demo.url + href!)).json()) as {
    id: string;
    scope: string;
    icons: { src: string; sizes: string; purpose: string }[];
    shortcuts: { url: string }[];
  };
  expect([manifest.id, manifest.scope]).toEqual(["/", "/"]);
  const icons = [
    ...manifest.icons,
    {
      src: (await page.locator('link[rel="apple-touch-icon"]').getAttribute("href"))!,
      sizes: "180x180",
      purpose: "any",
    },
  ];
  for (const { src, sizes } of icons.filter((icon) => icon.sizes !== "any")) {
    const picture = await (await page.request.get(demo.url + src)).body();
    expect([src, `${picture.readUInt32BE(16)}x${picture.readUInt32BE(20)}`]).toEqual([src, sizes]);
  }
  expect(icons.filter(({ purpose }) => purpose === "maskable")).toHaveLength(1);
  for (const { url } of manifest.shortcuts) expect((await page.request.get(demo.url + url)).status()).toBe(200);
});

test.describe("in the United States", () => {
  test.use({ locale: "en-US" });
  test("units begin as they are used there", async ({ page, demo }) => {
    await page.goto(demo.url);
    await expect(page.getByTestId("verdict")).toContainText("US gal");
  });
});
