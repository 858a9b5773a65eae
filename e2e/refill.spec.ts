import { unwrap } from "@winter-bead/core";
import type { DEFAULT_PRICES } from "@winter-bead/core/src/sizing";
import { effectsFor, MISTAKE_NAMES, MISTAKES, practise } from "@winter-bead/core/src/refill";
import type { Page } from "@playwright/test";
import { answersTellNoTime, allSent, choose, expect, fill, RunningServer, test } from "./support/app";
import { violationsOn } from "./support/wcag";

type Kept = Record<string, unknown> & { readonly id: string; readonly name?: string; readonly version: number };

let server: RunningServer;
test.beforeAll(async () => {
  server = await RunningServer.start({ flags: [] });
});
test.afterAll(async () => server.remove());
test.use({ viewport: { width: 390, height: 664 } });

const list = async (kind: string) =>
  ((await server.request("GET", `/api/v1/${kind}?limit=1000`)).body as { items: Kept[] }).items;
const rigNamed = async (name: string) => (await list("rigs")).find((each) => each.name === name)!;
const inUse = async (rigId: string) =>
  (await list("charges")).filter((each) => each["rigId"] === rigId && each["ended"] === undefined);
const title = (page: Page) => page.getByTestId("step-title");
const toast = (page: Page) => page.getByTestId("toast");

/** What a hand does at a step before it presses on. */
type AtStep = Readonly<Record<string, (page: Page) => Promise<void>>>;

/** Walks from the step shown to the one of a title, or to the end, each step done. @returns the titles */
async function walk(page: Page, at: AtStep = {}, until?: RegExp): Promise<readonly string[]> {
  const titles: string[] = [];
  for (;;) {
    await expect(title(page).or(page.getByTestId("finish"))).toBeVisible();
    if (await page.getByTestId("finish").isVisible()) return titles;
    const now = (await title(page).textContent())!;
    if (until?.test(now)) return titles;
    titles.push(now);
    for (const [words, act] of Object.entries(at)) if (now.includes(words)) await act(page);
    await page.getByTestId("step-done").click();
    // The same title is never shown twice in a row.
    await expect(title(page).filter({ hasText: now })).toHaveCount(0);
  }
}
const count = (name: "parts" | "tools", times: number) => async (page: Page) => {
  for (let i = 0; i < times; i += 1) await page.getByTestId(`${name}-more`).click();
};
const open = async (page: Page, rig: string, what = "refill") => {
  await page.goto(`${server.url}/refill?rig=${(await rigNamed(rig)).id}&what=${what}`);
  await expect(title(page)).toBeVisible();
};

test("a bottle is refilled step by step; all of it is one act, and one undo takes it back", async ({ page }) => {
  const bay = await rigNamed("Bay 2");
  const [old] = await inUse(bay.id);
  const before = { visits: (await list("visits")).length, services: (await list("services")).length };
  await page.goto(`${server.url}/history/${bay.id}`);
  await page.getByTestId("new-charge").click();
  await page.getByTestId("guide-refill").click();
  const titles = await walk(page, {
    "Read it a last time": async () => {
      await fill(page, "output", "19");
      await fill(page, "total", "bad");
      await page.getByTestId("step-done").click();
      await expect(page.getByTestId("form-trouble")).toBeVisible();
      await fill(page, "total", "");
    },
    "Count the loose parts": count("parts", 4),
    "Fill under the seal": async () => {
      await expect(page.getByTestId("amount-litres")).toHaveText("11.9 L");
      await expect(page.getByTestId("amount-scoops")).toHaveText("15 scoops");
      await expect(page.getByTestId("bag")).toContainText(/Green sack, worth 0\.\d\d of fresh; .* stay in it/);
      await fill(page, "resinLitres", "40");
      await page.getByTestId("step-done").click();
      await expect(page.getByText("Bay bottle takes 14 L at most.").first()).toBeVisible();
      await fill(page, "resinLitres", "11.5");
      // The mark stays where it is; what was really put in is what is taken off the stock.
      await expect(page.getByTestId("amount-litres")).toHaveText("11.9 L");
    },
    "Look at the seals": async () => {
      await count("parts", 3)(page);
      await expect(page.getByTestId("missing-parts")).toContainText("1 of the loose parts missing");
      await count("parts", 1)(page);
      await expect(page.getByTestId("missing-parts")).toHaveText("All loose parts are there.");
      await choose(page, "Renewed");
    },
    "take the first reading": async () => {
      await fill(page, "output", "40");
      await expect(page.getByTestId("first-reading-says")).toContainText("Above the watch point");
      await expect(page.getByTestId("first-reading-says")).toContainText("bypass valve is not shut");
      await fill(page, "output", "0");
      await expect(page.getByTestId("first-reading-says")).toContainText("as it should be");
    },
  });
  expect(titles).toHaveLength(22);
  await expect(page.getByTestId("should-give")).toContainText(/about [\d,]+ L to the limit at this feed/);
  await expect(page.getByTestId("read-words")).toContainText("Last reading 19 ppm 442; first reading 0 ppm 442");
  await expect(page.getByTestId("new-charge")).toContainText("11.5 L of dyed resin in Bay bottle, well settled");
  await page.getByTestId("finish").click();
  await expect(page.getByTestId("verdict-title")).toHaveText("Bay 2: fine");
  await allSent(page);

  const [fresh, ...others] = await inUse(bay.id);
  expect(others).toEqual([]);
  expect(fresh).toMatchObject({ resinLitres: 11.5, grade: "dyed", packing: "settled" });
  expect(fresh!["from"]).toEqual([expect.objectContaining({ litres: 11.5 })]);
  const ended = (await list("charges")).find(({ id }) => id === old!.id)!;
  expect(ended["ended"]).toMatchObject({ at: fresh!["filledAt"] });
  const visits = (await list("visits")).filter((each) => each["rigId"] === bay.id).slice(-2);
  expect((await list("visits")).length).toBe(before.visits + 2);
  const at = (visit: Kept) => Date.parse(String(visit["at"]));
  const began = Date.parse(String(fresh!["filledAt"]));
  expect(
    visits
      .map(at)
      .sort()
      .map((when) => when < began),
  ).toEqual([true, false]);
  const seals = (await list("services")).filter((each) => each["note"] === "Renewed at the refill.");
  expect(seals).toEqual([expect.objectContaining({ part: "seals", rigId: bay.id })]);

  await page.getByTestId("undo").click();
  await expect(toast(page)).toContainText("Undone");
  await allSent(page);
  expect((await inUse(bay.id)).map(({ id }) => id)).toEqual([old!.id]);
  expect((await list("visits")).length).toBe(before.visits);
  expect((await list("services")).length).toBe(before.services);
  // The steps stay: it is gone on with where it stood.
  await expect(page.getByTestId("work-under-way")).toContainText("Bay 2, refill: go on");
  await page.getByTestId("work-under-way").click();
  await page.getByTestId("finish").click();
  await expect(page.getByTestId("verdict-title")).toHaveText("Bay 2: fine");
  await allSent(page);
  expect((await inUse(bay.id)).map(({ id }) => id)).not.toContain(old!.id);
  await page.goto(`${server.url}/history/${bay.id}`);
  await page.getByTestId("work-of-charge").click();
  await expect(page.getByTestId("noted-step").filter({ hasText: "4 loose parts" }).first()).toBeVisible();
});

test("a tank left half-way on one phone is finished on a second one", async ({ page, browser }) => {
  const van = await rigNamed("Van");
  const [old] = await inUse(van.id);
  await open(page, "Van");
  await page.getByTestId("step-done").click();
  await expect(title(page)).toHaveText("Read it a last time");
  // Left out with a reason, which is asked for.
  await page.getByTestId("leave-out").click();
  await expect(page.getByTestId("left-out")).toBeDisabled();
  await page.getByTestId("why-left-out").fill("The meter lies at home.");
  await page.getByTestId("left-out").click();
  await walk(page, {}, /Flush the beads out/);
  await allSent(page);

  const other = await browser.newPage({ viewport: { width: 390, height: 844 } });
  await other.goto(server.url);
  await other.getByTestId("work-under-way").click();
  await expect(title(other)).toHaveText("Flush the beads out");
  await expect(other.getByTestId("step-count")).toHaveText("8 of 22");
  // What the first phone does meanwhile is seen here.
  await page.getByTestId("step-done").click();
  await allSent(page);
  await expect(title(other)).toHaveText("Rinse the vessel and its strainer", { timeout: 15_000 });
  // Once a hand is on it, the page stays until that hand goes on.
  await other.getByTestId("more-cautions").click();
  await page.getByTestId("step-done").click();
  await expect(other.getByTestId("to-open")).toBeVisible({ timeout: 15_000 });
  await expect(title(other)).toHaveText("Rinse the vessel and its strainer");
  await other.getByTestId("to-open").click();
  await walk(other);
  await expect(other.getByTestId("left-out-line")).toContainText("The meter lies at home.");
  await expect(other.getByTestId("read-words")).toContainText("No first reading yet");
  // The van's output is far below its limit: that it was reached is asked about.
  await choose(other, "Reached its limit");
  await other.getByTestId("finish").click();
  await expect(other.getByTestId("form-trouble")).toBeVisible();
  await other.getByTestId("right-reason").click();
  await other.getByTestId("finish").click();
  await expect(other).toHaveURL(/\/\?rig=/);
  await allSent(other);
  const now = await inUse(van.id);
  expect(now).toHaveLength(1);
  expect(now[0]!.id).not.toBe(old!.id);
  // The first phone hears that it is done.
  await expect(page.getByText("All of it is done and kept.")).toBeVisible({ timeout: 15_000 });
  await other.close();
});

test.describe("without a signal", () => {
  test.use({ networkMayFail: true });
  test("a cartridge is refilled, and sent once there is one", async ({ page, context }) => {
    const fish = await rigNamed("Quarantine");
    const before = (await inUse(fish.id)).map(({ id }) => id);
    await open(page, "Quarantine");
    await allSent(page);
    await context.setOffline(true);
    const titles = await walk(page);
    expect(titles).toContain("Fill in layers, tap each one");
    await choose(page, "A fault");
    await page.getByTestId("finish").click();
    await expect(page).toHaveURL(/\/\?rig=/);
    expect((await inUse(fish.id)).map(({ id }) => id)).toEqual(before);
    await context.setOffline(false);
    await allSent(page);
    // The lead's charge is another one, the lag's runs on and leads: the filled one stands last.
    const now = await inUse(fish.id);
    expect(now).toHaveLength(2);
    const [fresh] = now.filter(({ id }) => !before.includes(id));
    const trains = (await list("arrangements")).filter(({ rigId }) => rigId === fish.id);
    const newest = trains.sort((a, b) => (String(a["at"]) < String(b["at"]) ? 1 : -1))[0]!;
    expect(newest["did"]).toBe("rotated");
    expect((newest["places"] as { vesselId: string }[])[1]!.vesselId).toBe(fresh!["vesselId"]);
  });

  test("two phones at one vessel end in one truth", async ({ page, browser }) => {
    const bay = await rigNamed("Bay 2");
    const [old] = await inUse(bay.id);
    await open(page, "Bay 2");
    const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
    const other = await context.newPage();
    await other.goto(page.url());
    await expect(title(other)).toBeVisible();
    await walk(other);
    await allSent(other);
    await expect(page.getByTestId("finish")).toBeVisible({ timeout: 15_000 });
    // The second phone's answer is on its way while the first one's is kept.
    for (const phone of [page, other]) await choose(phone, "A fault");
    await context.setOffline(true);
    await other.getByTestId("finish").click();
    await expect(other).toHaveURL(/\/\?rig=/);
    await page.getByTestId("finish").click();
    await expect(page).toHaveURL(/\/\?rig=/);
    await allSent(page);
    await context.setOffline(false);
    await expect(other.getByTestId("sent-state")).toContainText("1 not taken", { timeout: 30_000 });
    // What the server has is fetched at once: the work is over here too.
    await expect(other.getByTestId("work-under-way")).toHaveCount(0);
    await other.getByTestId("sent-state").click();
    await expect(other.getByTestId("outbox-item")).toContainText("Another phone ended this work first");
    await other.getByText("Throw away").click();
    await allSent(other);
    const now = await inUse(bay.id);
    expect(now).toHaveLength(1);
    expect(now[0]!.id).not.toBe(old!.id);
    const ends = (await list("refill-steps")).filter((each) => each["step"] === "end" && each["guided"] === "refill");
    expect(new Set(ends.map((each) => each["workId"])).size).toBe(ends.length);
    await context.close();
  });
});

test("a membrane is changed: its hour of flushing outlives a closed tab, its first figures become the baseline", async ({
  page,
  context,
}) => {
  const fish = await rigNamed("Quarantine");
  await page.goto(`${server.url}/weeks/upkeep`);
  await page.getByTestId("lead-membrane").click();
  await walk(page, { "What does the old one look like": () => choose(page, "Slimy") }, /Flush it for its first hour/);
  await page.getByTestId("start-timer").click();
  await expect(page.getByTestId("timer")).toHaveText(/^(1:00:00|59:5\d)$/);
  await allSent(page);
  const url = page.url();
  await page.close();
  const again = await context.newPage();
  await again.setViewportSize({ width: 390, height: 844 });
  await again.goto(url);
  await expect(again.getByTestId("timer")).toHaveText(/^59:\d\d$/);
  await walk(again, {
    "first clean figures": async () => {
      await fill(again, "output", "12");
      for (const [name, value] of [
        ["feed", "410"],
        ["temperature", "12"],
        ["pressure", "370"],
        ["productFlow", "0.3"],
        ["wasteFlow", "0.8"],
      ] as const)
        await fill(again, name, value);
    },
  });
  await again.getByTestId("finish").click();
  await expect(again).toHaveURL(/weeks\/upkeep/);
  await allSent(again);
  const services = (await list("services")).filter((each) => each["part"] === "membrane" && each["rigId"] === fish.id);
  expect(services.map((each) => each["note"])).toContain("The old one: slimy.");
  const checks = (await list("membrane-checks")).filter((each) => each["feed"] === 410);
  expect(checks).toEqual([expect.objectContaining({ product: 12, clean: true, pressure: 370, rigId: fish.id })]);
  await again.close();
});

test("a check that failed is open again, a step is not done after all, and the work is given up", async ({ page }) => {
  await page.goto(`${server.url}/refill?rig=${(await rigNamed("Van")).id}&what=sediment`);
  await walk(page, {}, /Leak check/);
  await page.getByTestId("trouble-housing-leaks").click();
  await expect(page.getByTestId("help")).toContainText("O-ring in its groove");
  await expect(page.getByTestId("noted")).toContainText("Did not go well");
  await allSent(page);
  await page.reload();
  await expect(title(page)).toContainText("Leak check");
  await page.getByTestId("step-done").click();
  await expect(title(page)).toContainText("Write the date");
  await page.getByTestId("step-back").click();
  await page.getByTestId("not-after-all").click();
  await expect(page.getByTestId("noted")).toHaveCount(0);
  await allSent(page);
  const leaks = (await list("refill-steps")).filter((each) => each["step"] === "leak" && each["guided"] === "sediment");
  expect(leaks).toEqual([]);
  await page.getByTestId("step-done").click();
  await walk(page);
  await page.getByTestId("give-up").click();
  await expect(page.getByText("It was given up.")).toBeVisible();
  await allSent(page);
});

test("a time rings while the page is open, and the screen is kept awake", async ({ page }) => {
  await page.addInitScript(() => {
    const told: string[] = [];
    Object.assign(window, { told });
    navigator.vibrate = () => told.push("shaken") > 0;
    navigator.wakeLock.request = async () => {
      told.push("kept awake");
      return { release: async () => undefined } as WakeLockSentinel;
    };
    const start = OscillatorNode.prototype.start;
    OscillatorNode.prototype.start = function (when) {
      told.push("rung");
      start.call(this, when);
    };
  });
  const told = () => page.evaluate(() => (window as unknown as { told: string[] }).told);
  await answersTellNoTime(page);
  await page.clock.install();
  await page.goto(`${server.url}/refill?rig=${(await rigNamed("Bay 2")).id}&what=carbon`);
  await expect(title(page)).toBeVisible();
  expect(await told()).toEqual(["kept awake"]);
  for (let i = 0; i < 7; i += 1) await page.keyboard.press("ArrowRight");
  await expect(title(page)).toHaveText("Rinse the carbon to drain");
  await expect(page.getByText("It rings while this page is open.")).toBeVisible();
  await page.getByTestId("start-timer").click();
  await expect(page.getByTestId("timer")).toHaveText(/^(10:00|9:5\d)$/);
  await page.clock.runFor(9 * 60_000);
  expect(await told()).toEqual(["kept awake"]);
  await page.clock.runFor(62_000);
  await expect(page.getByText("Rinsing the carbon is over.")).toBeVisible();
  expect(await told()).toEqual(["kept awake", "shaken", "rung", "rung", "rung"]);
});

test("another way is chosen at its step, drawn at once, and followed the next time", async ({ page }) => {
  await open(page, "Van", "early");
  await expect(page.getByTestId("early-waste")).toContainText(/It could still give .* L/);
  await expect(page.getByTestId("early-waste")).toContainText(/of resin is thrown away/);
  await walk(page, {}, /Flush the beads out/);
  await expect(page.getByTestId("drawing")).toHaveAttribute("data-stance", "laid");
  await page.getByTestId("other-way").click();
  await choose(page, "Turned over and shaken");
  await expect(title(page)).toHaveText("Turn it over, shake it empty");
  await expect(page.getByTestId("drawing")).toHaveAttribute("data-stance", "turned-over");
  await expect(page.getByTestId("drawing")).toHaveAttribute(
    "aria-label",
    /turned over, open\. .*spent beads coming out/,
  );
  await walk(page, {}, /Fill below the threads/);
  await page.getByTestId("other-way").click();
  await page.getByTestId("way-fill-to").fill("80");
  await page.getByTestId("way-measures").click();
  await expect(page.getByTestId("amount-litres")).toHaveText("22.4 L");
  await allSent(page);
  await open(page, "Van", "emergency");
  await page.keyboard.press("ArrowRight");
  await expect(title(page)).toHaveText("Read it a last time");
  for (let i = 0; i < 6; i += 1) await page.keyboard.press("ArrowRight");
  await expect(title(page)).toHaveText("Turn it over, shake it empty");
});

test("a vessel from the pool is swapped in, a service company's is exchanged, a sunken bed is topped up", async ({
  page,
}) => {
  const van = await rigNamed("Van");
  const vessel = (await list("vessels")).find((each) => each.name === "Van tank")!;
  const { id: _, version: _v, ...body } = vessel;
  const spare = "0194c000-0000-7000-8000-00000000abcd";
  await server.request("PUT", `/api/v1/vessels/${spare}`, { ...body, name: "Spare tank" });
  const [old] = await inUse(van.id);
  await page.goto(`${server.url}/refill?rig=${van.id}`);
  await expect(page.getByTestId("which-is-where")).toContainText("Spare tank: in the pool, never filled");
  await page.getByTestId("guide-swap").click();
  await walk(page, { "Which vessel comes in": () => choose(page, "Spare tank") });
  await choose(page, "A fault");
  await page.getByTestId("finish").click();
  await expect(page).toHaveURL(/\/\?rig=/);
  await allSent(page);
  const [swapped] = await inUse(van.id);
  expect(swapped).toMatchObject({ vesselId: spare });
  const trains = (await list("arrangements")).filter(({ rigId }) => rigId === van.id);
  expect(trains).toHaveLength(2);
  expect(trains.find(({ did }) => did === "swapped")!["places"]).toEqual([
    expect.objectContaining({ vesselId: spare }),
  ]);
  expect((await list("charges")).find(({ id }) => id === old!.id)!["ended"]).toMatchObject({ why: "fault" });

  await page.goto(`${server.url}/refill?rig=${van.id}&what=exchange`);
  await walk(page);
  await choose(page, "A fault");
  await page.getByTestId("finish").click();
  await expect(page).toHaveURL(/\/\?rig=/);
  await allSent(page);
  expect((await inUse(van.id))[0]).toMatchObject({ vesselId: spare, grade: "regenerated" });

  const [now] = await inUse(van.id);
  await page.goto(`${server.url}/refill?rig=${van.id}&what=top-up`);
  await expect(title(page)).toBeVisible();
  await walk(page, { "Fill below": () => fill(page, "resinLitres", "1.5") });
  await page.getByTestId("finish").click();
  await expect(page).toHaveURL(/\/\?rig=/);
  await allSent(page);
  const [topped] = await inUse(van.id);
  expect(topped!.id).toBe(now!.id);
  expect(topped!["resinLitres"]).toBeCloseTo(Number(now!["resinLitres"]) + 1.5, 2);
  expect(topped!["leftOut"]).toBe(true);
});

test("keys alone lead from the first step to the last, each heading is read out, and every step holds to WCAG", async ({
  page,
}) => {
  test.slow();
  await open(page, "Bay 2");
  for (;;) {
    expect(await violationsOn(page)).toEqual([]);
    await page.getByTestId("step-done").focus();
    await page.keyboard.press("Enter");
    await expect(title(page).or(page.getByTestId("finish"))).toBeVisible();
    const heading = page.getByRole("heading", { level: 1 });
    await expect(heading).toBeFocused();
    await expect(heading).toHaveCount(1);
    if (await page.getByTestId("finish").isVisible()) break;
    // The drawing says in words what it shows.
    expect((await page.getByTestId("drawing").getAttribute("aria-label"))!.length).toBeGreaterThan(20);
    // Nothing but the button says what comes next, and it is tall enough for a glove.
    expect((await page.getByTestId("step-done").boundingBox())!.height).toBeGreaterThanOrEqual(56);
  }
  await page.getByTestId("give-up").focus();
  await page.keyboard.press("Enter");
  await expect(page.getByText("It was given up.")).toBeVisible();
  await allSent(page);
});

test("a new hand practises: each mistake costs what the core says, and nothing is kept", async ({ page }) => {
  const kinds = ["visits", "charges", "services", "refill-steps"];
  const sizes = async () => Promise.all(kinds.map(async (kind) => (await list(kind)).length));
  const before = await sizes();
  await page.goto(`${server.url}/refill/practice`);
  await choose(page, "Large bottle");
  await page.getByTestId("practice-start").click();
  const made: string[] = [];
  for (;;) {
    await expect(title(page).or(page.getByTestId("practice-whole"))).toBeVisible();
    if (await page.getByTestId("practice-whole").isVisible()) break;
    const now = (await title(page).textContent())!;
    if (await page.getByTestId("what-do-you-do").isVisible()) {
      await expect(page.getByTestId("practice-next")).toBeDisabled();
      const offered = await page.getByTestId("what-do-you-do").getByRole("radio").allInnerTexts();
      const name = MISTAKE_NAMES.find((each) => offered.includes(MISTAKES[each].tempting))!;
      expect(offered).toContain(MISTAKES[name].right);
      await choose(page, MISTAKES[name].tempting);
      made.push(name);
    }
    await page.getByTestId("practice-next").click();
    await expect(title(page).filter({ hasText: now })).toHaveCount(0);
  }
  expect(made.sort()).toEqual([...MISTAKE_NAMES].sort());
  // The feed of the crew's first rig, shown before, is not a usual vessel's.
  await expect(page.getByTestId("practice-whole")).toContainText("a feed of 420 µS/cm");
  const prices = (await list("price-lists"))[0] as unknown as { prices: typeof DEFAULT_PRICES };
  const input = {
    life: {
      water: { reading: { value: 420, scale: "ec" as const } },
      capacity: { grade: "virgin" as const },
      bed: { volume: 14 * 0.85, diameter: 180, flow: 3.2 },
      limit: { value: 10, scale: "nacl" as const },
    },
    ...{ litresPerJob: 60, resinPrice: prices.prices.resin.virgin, wage: prices.prices.wage, currency: "EUR" },
    spoiltJob: prices.prices.spoiltJob ?? prices.prices.wage,
  };
  for (const name of MISTAKE_NAMES) {
    const outcome = unwrap(practise(input, effectsFor("inner-seal-bottle")[name]));
    const card = page.getByTestId(`came-of-${name}`);
    const money = Number((await card.getByTestId("cost").textContent())!.replace(/[^\d.]/g, ""));
    expect(Math.abs(money - outcome.money.total)).toBeLessThanOrEqual(0.006 * outcome.money.total + 0.005);
    await expect(card).toContainText(MISTAKES[name].remember);
  }
  // The Lab's column: done right beside done so.
  await expect(page.getByTestId("outcome-done-right")).toBeVisible({ timeout: 60_000 });
  await expect(page.getByTestId("outcome-as-you-did")).toContainText("from the start");
  // A changed assumption changes the cost, and says what it was.
  for (const name of MISTAKE_NAMES) if (name !== "loose") await page.getByTestId(`mistake-${name}`).click();
  const cost = page.getByTestId("practice-whole").getByTestId("cost");
  const was = await cost.textContent();
  await page.getByTestId("effect-loose-packing").fill("80");
  await expect(cost).not.toHaveText(was!);
  await expect(page.getByText("yours, was 95").first()).toBeVisible();
  expect(await sizes()).toEqual(before);
});
