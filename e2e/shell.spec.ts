import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { BrowserContext, Page } from "@playwright/test";
import { allSent, expect, RunningServer, tapDigits, test } from "./support/app";
import { ownClient, renewClient } from "./support/new-version";
import { everyPlace } from "./support/places";

test.use({ networkMayFail: true, isNewDevice: true });

const shellIsKept = (page: Page) => page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));

/** What the device keeps of one kind of record, once it does. */
const keepsKind = (page: Page, kind: string) =>
  expect
    .poll(() =>
      page.evaluate(
        (wanted) =>
          new Promise<boolean>((done) => {
            const opening = indexedDB.open("keyval-store");
            opening.onsuccess = () => {
              const asked = opening.result.transaction("keyval").objectStore("keyval").get("winter-bead-queries");
              asked.onsuccess = () => {
                const queries = (asked.result?.clientState.queries ?? []) as { queryKey: string[] }[];
                opening.result.close();
                done(queries.some(({ queryKey }) => queryKey[1] === wanted));
              };
              asked.onerror = () => done(false);
            };
            opening.onerror = () => done(false);
          }),
        kind,
      ),
    )
    .toBe(true);

const idOf = async (server: RunningServer, kind: string, name: string) =>
  ((await server.request("GET", `/api/v1/${kind}`)).body as { items: { id: string; name: string }[] }).items.find(
    (each) => each.name === name,
  )!.id;

test("a new version waits and offers itself: the running page keeps its pieces and what was typed", async ({
  page,
}) => {
  const root = mkdtempSync(join(tmpdir(), "winter-bead-shell-"));
  ownClient(root);
  const server = await RunningServer.start({ flags: [], environment: { WINTER_BEAD_ROOT: root } });
  try {
    await page.goto(server.url);
    await expect(page.getByTestId("verdict-title")).toBeVisible();
    await shellIsKept(page);
    await page.goto(`${server.url}/setup/tap`);
    await page.getByTestId("field-name").fill("Half a name");
    await server.end();
    renewClient(root);
    await server.again();
    await page.evaluate(() => navigator.serviceWorker.ready.then((shell) => shell.update()).then(() => undefined));
    await expect(page.getByTestId("new-version")).toBeVisible();
    await expect(page.getByTestId("field-name")).toHaveValue("Half a name");
    expect(await page.locator('meta[name="version"]').count()).toBe(0);
    // A place whose piece was never fetched by this page, and is gone from the server.
    await page.getByRole("link", { name: "Water", exact: true }).click();
    await page.getByTestId("open-lab-list").click();
    await expect(page.getByTestId("lab-run")).toBeVisible();
    await page.getByTestId("take-new-version").click();
    await expect(page.locator('meta[name="version"]')).toHaveAttribute("content", "newer");
    await expect(page.getByTestId("lab-run")).toBeVisible();
    await expect(page.getByTestId("new-version")).toHaveCount(0);
    await page.goto(`${server.url}/setup/tap`);
    await expect(page.getByTestId("field-name")).toHaveValue("Half a name");
  } finally {
    await server.remove();
    rmSync(root, { recursive: true, force: true });
  }
});

test.describe("without a shell on the device", () => {
  test.use({ serviceWorkers: "block" });

  test("a piece that fails is fetched again; one that keeps failing says so and can be tried again", async ({
    page,
    demo,
  }) => {
    let tries = 0;
    await page.route(/\/LabScreen-[0-9a-f]+\.js/, (route) => {
      tries += 1;
      return tries === 2 ? route.continue() : route.abort();
    });
    await page.goto(`${demo.url}/lab`);
    await expect(page.getByTestId("lab-run")).toBeVisible();
    expect(tries).toBe(2);
    await page.route(/\/SettingsScreen-[0-9a-f]+\.js/, (route) => route.abort());
    await page.getByRole("link", { name: "Water", exact: true }).click();
    await expect(page.getByRole("heading", { level: 1 })).toHaveText("The water");
    await page.getByTestId("sent-state").click();
    await expect(page.getByText("This part of the app could not be fetched")).toBeVisible();
    await expect(page.getByRole("navigation", { name: "Places" })).toBeVisible();
    await page.unroute(/\/SettingsScreen-[0-9a-f]+\.js/);
    await page.getByTestId("fetch-again").click();
    await expect(page.getByRole("radiogroup", { name: "Units" })).toBeVisible();
  });

  test("a button whose code does not come says so, and works once it does", async ({ page, demo }) => {
    await page.goto(`${demo.url}/lab`);
    await page.getByTestId("lab-run").click();
    await expect(page.getByTestId("lab-csv")).toBeVisible();
    await page.route(/\/on-demand-[0-9a-f]+\.js/, (route) => route.abort());
    await page.getByTestId("lab-csv").click();
    await expect(page.getByTestId("toast")).toContainText("could not be fetched");
    await page.unroute(/\/on-demand-[0-9a-f]+\.js/);
    const [saved] = await Promise.all([page.waitForEvent("download"), page.getByTestId("lab-csv").click()]);
    expect(saved.suggestedFilename()).toBe("winter-bead-lab.csv");
  });

  test.describe(() => {
    test.use({ complaintsAreExpected: true });
    test("a place that breaks takes nothing else along", async ({ page, demo }) => {
      await page.route("**/api/v1/plans?*", (route) =>
        route.fulfill({ json: { items: [{ id: "x", name: "No plan at all", version: 1, voided: false }] } }),
      );
      await page.goto(`${demo.url}/size/plans`);
      await expect(page.getByRole("heading", { level: 1 })).toHaveText("Something broke here");
      await page.unroute("**/api/v1/plans?*");
      await page.getByRole("link", { name: "To the rack" }).click();
      await expect(page.getByTestId("verdict-title")).toBeVisible();
    });
  });

  test("with no signal one place asks, and ever more slowly", async ({ page, demo }) => {
    await page.goto(demo.url);
    await allSent(page);
    let failed = 0;
    page.on("requestfailed", () => (failed += 1));
    await page.context().setOffline(true);
    await page.getByRole("link", { name: "Water", exact: true }).click();
    await page.evaluate(() => dispatchEvent(new Event("focus")));
    await page.evaluate(() => document.dispatchEvent(new Event("visibilitychange")));
    await expect(page.getByTestId("sent-state")).toHaveText(/no signal/);
    await page.waitForTimeout(2_500);
    const atOnce = failed;
    await page.waitForTimeout(6_000);
    expect(failed).toBeGreaterThan(atOnce);
    expect(failed - atOnce).toBeLessThanOrEqual(3);
    await page.context().setOffline(false);
    await allSent(page);
  });

  test("what the device would not keep is said, stays typed, and can be kept once there is room", async ({
    page,
    demo,
  }) => {
    await page.addInitScript(() => {
      const add = IDBObjectStore.prototype.add;
      IDBObjectStore.prototype.add = function (this: IDBObjectStore, ...row: [unknown]) {
        if ((window as { full?: boolean }).full) throw new DOMException("no room", "QuotaExceededError");
        return add.apply(this, row);
      };
    });
    await page.goto(demo.url);
    await page.getByTestId("log-a-reading").click();
    await tapDigits(page, "9");
    await page.evaluate(() => ((window as { full?: boolean }).full = true));
    await page.getByTestId("keep-it").click();
    await expect(page.getByTestId("log-help")).toContainText("would not keep it");
    await expect(page.getByTestId("log-output")).toContainText("9");
    await expect(page.getByTestId("keep-it")).toBeEnabled();
    await page.evaluate(() => ((window as { full?: boolean }).full = false));
    await page.getByTestId("keep-it").click();
    await expect(page.getByTestId("toast")).toContainText("out 9");
    await page.getByTestId("undo").click();
    await expect(page.getByTestId("toast")).toContainText("Undone");
    await allSent(page);
    await page.goto(`${demo.url}/setup/meter`);
    await page.getByTestId("field-name").fill("Spare meter");
    await page.evaluate(() => ((window as { full?: boolean }).full = true));
    await page.getByTestId("save").click();
    await expect(page.getByTestId("toast")).toContainText("would not keep it");
    await expect(page.getByTestId("field-name")).toHaveValue("Spare meter");
  });
});

test.describe("offline, on a device that opened only the rack", () => {
  const openTheRackOnly = async (page: Page, context: BrowserContext, url: string) => {
    await page.goto(url);
    await expect(page.getByTestId("verdict-title")).toBeVisible();
    await shellIsKept(page);
    await keepsKind(page, "price-lists");
    await page.waitForTimeout(700);
    await context.setOffline(true);
  };

  test("every place opens with what is true", async ({ page, context, demo }) => {
    await openTheRackOnly(page, context, demo.url);
    for (const path of await everyPlace(demo)) {
      await page.goto(demo.url + path);
      await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
      await expect(page.getByRole("main")).not.toContainText(
        /No check yet|No tap yet|No plan yet|not here any more|Nothing hangs here|charge is in use|Not on this device/,
      );
    }
    await page.goto(`${demo.url}/water/membrane`);
    await expect(page.getByRole("main")).toContainText("What may be worn");
    const plan = await idOf(demo, "plans", "Van, as it was planned");
    await page.goto(`${demo.url}/size/plans/${plan}`);
    await expect(page.getByTestId("plan")).toContainText("Van, as it was planned");
    await expect(page.getByTestId("sent-state")).toHaveText(/no signal/);
  });

  test("what was never fetched says that it is not here yet, and comes once there is a signal", async ({
    page,
    context,
    demo,
  }) => {
    await page.route("**/api/v1/membrane-checks*", (route) => route.abort());
    await page.goto(demo.url);
    await shellIsKept(page);
    await page.waitForTimeout(1_500);
    await context.setOffline(true);
    await page.goto(`${demo.url}/water/membrane`);
    await expect(page.getByText("Not on this device yet")).toBeVisible();
    await expect(page.getByRole("main")).not.toContainText("No check yet");
    await page.unroute("**/api/v1/membrane-checks*");
    await context.setOffline(false);
    await expect(page.getByRole("main")).toContainText("What may be worn");
  });

  test("the log, which stands without tabs, has a way out where its rig was never fetched", async ({ page, demo }) => {
    await page.route("**/api/v1/**", (route) => route.abort());
    await page.goto(`${demo.url}/log/${await idOf(demo, "rigs", "Van")}`);
    await expect(page.getByText("Not on this device yet")).toBeVisible();
    await page.getByRole("link", { name: "To the rack" }).click();
    await expect(page.getByRole("heading", { level: 1, name: "The rack" })).toBeVisible();
    await expect(page.getByRole("link", { name: "To the rack" })).toHaveCount(0);
  });
});

test.describe("before an assessment is there", () => {
  /** A worker that takes what it is told and never answers. */
  const silenceWorkers = (page: Page) =>
    page.addInitScript(() => {
      class Silent extends EventTarget {
        postMessage() {}
        terminate() {}
      }
      Object.assign(window, { Worker: Silent });
    });

  test("the last one stands with its age", async ({ page, demo }) => {
    await page.goto(demo.url);
    await expect(page.getByTestId("verdict-title")).toBeVisible();
    const left = await page.getByTestId("left-Van").innerText();
    await silenceWorkers(page);
    await page.addInitScript(() => {
      const now = Date.now;
      Date.now = () => now() + 5 * 60_000;
    });
    await page.reload();
    await expect(page.getByTestId("left-Van")).toHaveText(left);
    await expect(page.getByRole("main")).toContainText(/The newest answer here is of (today \d+:\d\d|\w+ \d+ \w+)/);
  });

  test("with none from before there is an empty outline, not a fresh vessel and no ended charge", async ({
    page,
    demo,
  }) => {
    await silenceWorkers(page);
    await page.goto(demo.url);
    const column = page.getByTestId("column-Van");
    await expect(column).toHaveAttribute("aria-label", "Van: not worked out yet");
    await expect(column).toBeVisible();
    await expect(column.getByTestId("beads")).toHaveCount(0);
    await page.goto(`${demo.url}/history/${await idOf(demo, "rigs", "Van")}`);
    await expect(page.getByTestId("history")).toContainText("Treated so far");
    await expect(page.getByTestId("history")).not.toContainText(/Ended|reached its limit/);
  });
});

const SIZES = [
  { width: 360, height: 640 },
  { width: 390, height: 664 },
  { width: 390, height: 844 },
];
for (const name of ["Bay 2", "Quarantine"])
  test(`the log's pad and button of ${name} stand in sight on phones of every size, and nothing jumps while the verdict changes`, async ({
    page,
    demo,
  }) => {
    await page.goto(`${demo.url}/log/${await idOf(demo, "rigs", name)}`);
    await expect(page.getByTestId("live-verdict")).toBeVisible();
    const places = async () => {
      const boxes = [];
      for (const part of [
        ...(await page.getByRole("group", { name: "Number pad" }).getByRole("button").all()),
        page.getByTestId("keep-it"),
        page.getByTestId("log-output"),
      ])
        boxes.push(await part.boundingBox());
      return boxes;
    };
    for (const size of SIZES) {
      await page.setViewportSize(size);
      await page.getByTestId("log-water").click();
      await page.getByTestId("log-output").click();
      const before = await places();
      for (const box of before) {
        expect(box!.y).toBeGreaterThanOrEqual(0);
        expect(box!.y + box!.height).toBeLessThanOrEqual(size.height);
        expect(Math.min(box!.width, box!.height)).toBeGreaterThanOrEqual(48);
      }
      for (const digits of ["2", "5", "."]) {
        await tapDigits(page, digits);
        expect(await places()).toEqual(before);
      }
      await page.getByTestId("log-output").click();
      for (let i = 0; i < 3; i += 1) await page.keyboard.press("Backspace");
    }
  });
