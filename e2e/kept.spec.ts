import { randomUUID } from "node:crypto";
import type { Page } from "@playwright/test";
import { firstRig, visitBody } from "../server/tests/sample-records";
import { allSent, expect, RunningServer, tapDigits, test } from "./support/app";

test.use({ networkMayFail: true, isNewDevice: true });

interface Listed {
  readonly items: readonly { readonly id: string; readonly version: number; readonly name?: string }[];
}
const list = async (server: RunningServer, kind: string) =>
  ((await server.request("GET", `/api/v1/${kind}?limit=1000`)).body as Listed).items;

/** What the device keeps of the server's lists, as text. */
const keptOnDevice = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<string>((done, failed) => {
        const opening = indexedDB.open("keyval-store");
        opening.onerror = () => failed(opening.error);
        opening.onsuccess = () => {
          const reading = opening.result.transaction("keyval").objectStore("keyval").get("winter-bead-queries");
          reading.onerror = () => failed(reading.error);
          reading.onsuccess = () => {
            opening.result.close();
            done(JSON.stringify(reading.result ?? null));
          };
        };
      }),
  );

/** 500 by the command `KEPT_WRITES=500 npx playwright test --config e2e/playwright.config.ts kept`. */
const WRITES = Number(process.env["KEPT_WRITES"] ?? 150);

test("writes that an older version left, server and database killed in turn: each is moved over, sent, and there once", async ({
  page,
}) => {
  const server = await RunningServer.start({ flags: ["--empty"] });
  try {
    const ids = await firstRig(server);
    await page.goto(server.url);
    await allSent(page);
    const writes = Array.from({ length: WRITES }, (_, i) => ({
      kind: "visits",
      id: randomUUID(),
      body: {
        ...visitBody(ids, i % 5),
        readings: [{ id: randomUUID(), point: "output", meterId: ids.meter, value: i % 5 }],
      },
      madeAt: new Date().toISOString(),
    }));
    await page.evaluate(
      (rows) =>
        new Promise<void>((done, failed) => {
          const opening = indexedDB.open("winter-bead", 1);
          opening.onerror = () => failed(opening.error);
          opening.onsuccess = () => {
            const transaction = opening.result.transaction("outbox", "readwrite");
            for (const row of rows) transaction.objectStore("outbox").add(row);
            transaction.oncomplete = () => done();
          };
        }),
      writes,
    );
    await page.reload();

    const seen = new Map<string, number>();
    page.on("response", (response) => {
      if (!response.url().includes("/api/v1/acts/") || !response.ok()) return;
      const { puts } = response.request().postDataJSON() as { puts: { id: string }[] };
      seen.set(puts[0]!.id, (seen.get(puts[0]!.id) ?? 0) + 1);
    });
    for (const round of [0, 1, 2, 3]) {
      const goal = Math.round((WRITES * (3 + 5 * round)) / 25);
      await expect.poll(() => seen.size, { timeout: 60_000 }).toBeGreaterThanOrEqual(goal);
      if (round % 2 === 0) {
        await server.end("SIGKILL");
        await server.again();
      } else {
        server.killDatabase();
      }
    }
    await page.getByTestId("sent-state").click();
    await expect(page.getByText("Everything is with the server.")).toBeVisible({ timeout: 90_000 });
    const kept = (await list(server, "visits")).map((visit) => visit.id);
    expect(kept).toHaveLength(WRITES);
    expect(new Set(kept)).toEqual(new Set(writes.map((write) => write.id)));
    for (const id of seen.keys()) expect(kept).toContain(id);
  } finally {
    await server.remove();
  }
});

test("a reading is kept in three taps and its digits, and undone in one", async ({ page, demo }) => {
  const before = (await list(demo, "visits")).length;
  await page.goto(demo.url);
  await page.getByTestId("log-a-reading").click();
  await tapDigits(page, "13");
  await page.getByTestId("keep-it").click();
  await expect(page.getByTestId("toast")).toContainText("out 13");
  await expect.poll(async () => (await list(demo, "visits")).length).toBe(before + 1);
  await page.getByTestId("undo").click();
  await expect.poll(async () => (await list(demo, "visits")).length).toBe(before);
});

test("the last value is one tap away, and what was typed survives a closed tab", async ({ page, demo }) => {
  await page.goto(demo.url);
  await page.getByTestId("log-a-reading").click();
  await page.getByTestId("log-feed").click();
  await page.getByTestId("use-last").click();
  await page.getByTestId("log-output").click();
  await tapDigits(page, "2");
  const feed = await page.getByTestId("log-feed").innerText();
  await page.reload();
  await expect(page.getByTestId("log-feed")).toHaveText(feed.split("\n").join(""), { useInnerText: false });
  await expect(page.getByTestId("log-output")).toContainText("2");
});

test("a feed far from usual is asked about first, and counts once it is said to be right", async ({ page, demo }) => {
  const van = (await list(demo, "rigs")).find(({ name }) => name === "Van")!;
  await page.goto(`${demo.url}/log/${van.id}`);
  const left = page.getByTestId("live-left");
  const before = await left.innerText();
  await page.getByTestId("log-feed").click();
  await tapDigits(page, "860");
  await expect(page.getByTestId("log-help")).toContainText(/Far from/);
  await expect(left).toHaveText(before);
  await page.getByTestId("confirm-figure").click();
  await expect(page.getByTestId("confirm-figure")).toHaveCount(0);
  await expect
    .poll(async () => Number((await left.innerText()).replaceAll(",", "")))
    .toBeLessThan(0.5 * Number(before.replaceAll(",", "")));
  await page.getByTestId("keep-it").click();
  await expect(page.getByTestId("toast")).toContainText("Kept for Van");
  await allSent(page);
  const visits = (await list(demo, "visits")) as unknown as { readings: { value: number; confirmed?: boolean }[] }[];
  const kept = visits.flatMap(({ readings }) => readings).find(({ value }) => value === 860);
  expect(kept?.confirmed).toBe(true);
  // Taken back: a feed like this would widen the tap's range for the stories after this one.
  await page.getByTestId("toast").getByRole("button", { name: "Undo" }).click();
  await expect(page.getByTestId("toast")).toContainText("Undone");
  await allSent(page);
});

test("opened at once, the log shows no number before it knows what the crew's charges taught", async ({
  page,
  demo,
}) => {
  await page.addInitScript(() => {
    const seen = new Set<string>();
    Object.assign(window, { seen });
    new MutationObserver(() => {
      const left = document.querySelector("[data-testid=live-left]");
      if (left) seen.add(left.textContent!);
    }).observe(document, { childList: true, subtree: true, characterData: true });
  });
  const van = (await list(demo, "rigs")).find(({ name }) => name === "Van")!;
  await page.goto(`${demo.url}/log/${van.id}`);
  await page.getByTestId("why-left").getByRole("button").click();
  await expect(page.getByTestId("working")).toContainText("ended charges");
  const seen = await page.evaluate(() => [...(window as unknown as { seen: Set<string> }).seen]);
  await page.goto(demo.url);
  const onTheRack = await page.getByRole("button", { name: /^Van: [\d,]+ L left/ }).getAttribute("aria-label");
  expect(seen).toEqual([/[\d,]+/.exec(onTheRack!)![0]]);
});

test("a meter total far above the last is not counted until it is said to be right", async ({ page, demo }) => {
  const van = (await list(demo, "rigs")).find(({ name }) => name === "Van")!;
  await page.goto(`${demo.url}/log/${van.id}`);
  await page.getByTestId("log-water").click();
  await tapDigits(page, "999000");
  await expect(page.getByTestId("log-help")).toContainText("Far above the last total");
  await expect(page.getByTestId("live-left")).toBeVisible();
  await page.getByTestId("confirm-figure").click();
  await expect(page.getByTestId("live-left")).toHaveText("0");
});

test("without a signal the log keeps, a reload still shows it, and it is sent once the server is back", async ({
  page,
  context,
  demo,
}) => {
  await page.goto(demo.url);
  await expect(page.getByTestId("verdict-title")).toBeVisible();
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await page.waitForTimeout(700);
  const before = (await list(demo, "visits")).length;
  await context.setOffline(true);
  await page.getByTestId("log-a-reading").click();
  await tapDigits(page, "14");
  await page.getByTestId("keep-it").click();
  await expect(page.getByTestId("sent-state")).toHaveText(/1 wait: no signal/);
  await page.reload();
  await expect(page.getByTestId("verdict-reason")).toContainText(/Out (17, then )?14 ppm 442/);
  await context.setOffline(false);
  await allSent(page);
  await expect.poll(async () => (await list(demo, "visits")).length).toBe(before + 1);
});

test("a write that another device overtook is shown with both ways out, and blocks nothing", async ({ page, demo }) => {
  const [tap] = await list(demo, "taps");
  await page.goto(`${demo.url}/setup/tap?id=${tap!.id}`);
  await page.getByTestId("field-name").fill("Renamed here");
  const { id, version, voided: _voided, ...body } = tap as typeof tap & { voided: boolean };
  await demo.request("PUT", `/api/v1/taps/${id}`, { ...body, name: "Renamed elsewhere", replaces: version });
  await page.getByTestId("save").click();
  await expect(page.getByTestId("sent-state")).toHaveText("1 not taken");
  await page.getByTestId("sent-state").click();
  await expect(page.getByTestId("outbox-item")).toContainText("changed meanwhile");
  await page.getByRole("button", { name: "Throw away" }).click();
  await expect(page.getByText("Everything is with the server.")).toBeVisible();
  expect((await list(demo, "taps")).find((each) => each.id === id)!.name).toBe("Renamed elsewhere");
});

test("on a device slow to read its own store, what is sent at the start is not lost behind the older list", async ({
  page,
}) => {
  const server = await RunningServer.start({ flags: ["--empty"] });
  try {
    await firstRig(server);
    const [tap] = await list(server, "taps");
    await page.goto(`${server.url}/setup/tap?id=${tap!.id}`);
    await page.getByTestId("field-name").fill("Tap behind the shed");
    await expect.poll(() => keptOnDevice(page)).toContain(tap!.name);
    const writes = "**/api/v1/acts/*";
    await page.route(writes, (route) => route.abort());
    await page.getByTestId("save").click();
    await expect(page.getByTestId("sent-state")).toHaveText(/1 wait: no signal/);
    await page.unroute(writes);
    await page.addInitScript(() => {
      const get = IDBObjectStore.prototype.get;
      IDBObjectStore.prototype.get = function (key: IDBValidKey) {
        const request = get.call(this, key);
        if (key !== "winter-bead-queries") return request;
        return Object.defineProperty(request, "onsuccess", {
          set: (done: () => void) => request.addEventListener("success", () => setTimeout(done, 2_000)),
        });
      };
    });
    const taken = page.waitForResponse((response) => response.request().method() === "PUT" && response.ok());
    await page.goto(`${server.url}/setup`);
    await taken;
    await allSent(page);
    await expect(page.getByRole("link", { name: /^Tap behind the shed/ })).toBeVisible();
  } finally {
    await server.remove();
  }
});
