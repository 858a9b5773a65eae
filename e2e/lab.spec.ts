import type { Page } from "@playwright/test";
import { readFileSync } from "node:fs";
import { expect, numbersIn, test } from "./support/app";

const check = (page: Page, name: RegExp) => page.getByRole("checkbox", { name }).click();
const litres = async (page: Page, id: string) => numbersIn(await page.getByTestId(id).innerText())[0]!;

/** Counts what the page hears from its workers: each slice of the Lab's work reports its progress. */
async function countMessages(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const counted = window as unknown as { heard: number };
    counted.heard = 0;
    const add = MessagePort.prototype.addEventListener;
    MessagePort.prototype.addEventListener = function (this: MessagePort, ...parts: Parameters<typeof add>) {
      if (parts[0] === "message") add.call(this, "message", () => (counted.heard += 1));
      return add.apply(this, parts);
    } as typeof add;
  });
}
const heard = (page: Page) => page.evaluate(() => (window as unknown as { heard: number }).heard);

test("for who asked for less motion the film waits to be played", async ({ page, demo }) => {
  await page.emulateMedia({ reducedMotion: "reduce" });
  await page.goto(`${demo.url}/lab`);
  await page.getByTestId("lab-run").click();
  await expect(page.getByTestId("lab-results")).toBeVisible();
  await page.waitForTimeout(200);
  expect(Number(await page.getByTestId("lab-bed").getAttribute("data-litres"))).toBe(0);
  await page.getByTestId("lab-play").click();
  await expect
    .poll(async () => Number(await page.getByTestId("lab-bed").getAttribute("data-litres")))
    .toBeGreaterThan(0);
});

test("a bed gives way: run, play, hold, move, with the silent window and both lives", async ({ page, demo }) => {
  await page.goto(`${demo.url}/lab`);
  await page.getByRole("radio", { name: "A sample water" }).click();
  await page.getByTestId("lab-limit").scrollIntoViewIfNeeded();
  await page.getByTestId("lab-run").click();
  await expect(page.getByTestId("lab-bed")).toBeInViewport();
  await expect(page.getByTestId("silent-window")).toBeVisible();
  const [meter, leak] = [await litres(page, "meter-life-as-it-is"), await litres(page, "leak-life-as-it-is")];
  expect(meter).toBeGreaterThan(leak);

  const at = async () => Number(await page.getByTestId("lab-bed").getAttribute("data-litres"));
  await expect.poll(at).toBeGreaterThan(0);
  await page.getByTestId("lab-play").click();
  const held = await at();
  await page.waitForTimeout(200);
  expect(await at()).toBe(held);
  await page.getByTestId("lab-slider").focus();
  await page.keyboard.press("End");
  await expect.poll(at).toBeGreaterThan(meter);
  await expect(page.getByTestId("lab-bed")).toContainText("Ca");
  await expect(page.getByTestId("lab-readout")).toContainText("ppm NaCl");
});

test("up to four variants stand on one chart, with the difference in litres and days", async ({ page, demo }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(`${demo.url}/lab`);
  for (const name of [/^Aerated/, /^Two in series/, /^Regenerated/]) await check(page, name);
  await page.getByTestId("lab-run").click();
  await expect(page.getByTestId("outcome-regenerated")).toBeVisible();
  for (const letter of ["A", "B", "C", "D"]) await expect(page.getByTestId(`line-${letter}`).first()).toBeAttached();
  await expect(page.getByTestId("outcome-two-in-series")).toContainText(
    /limit comes [\d,]+ L \(\d+ days\) more than the first/,
  );
  await check(page, /^Half the flow/);
  await expect(page.getByRole("checkbox", { checked: true })).toHaveCount(4);
  await page.getByRole("radio", { name: /^C / }).click();
  await expect(page.getByTestId("lab-bed")).toHaveAttribute("aria-label", /^Bed C/);
});

test("pressed while the run of the opening still goes on, the film comes into sight too", async ({ page, demo }) => {
  // The worker never answers: the run of the opening is certainly under way at the press.
  await page.addInitScript(() => {
    class Silent extends EventTarget {
      postMessage() {}
      terminate() {}
    }
    Object.assign(window, { Worker: Silent });
  });
  await page.goto(`${demo.url}/lab`);
  await expect(page.getByTestId("lab-progress")).toBeVisible();
  await page.getByTestId("lab-limit").scrollIntoViewIfNeeded();
  await expect(page.getByTestId("lab-progress")).not.toBeInViewport();
  await page.getByTestId("lab-run").click();
  await expect(page.getByTestId("lab-progress")).toBeInViewport();
});

test("stopped in mid-run the worker's work ends, not only its answer; a newer run wins over an older", async ({
  page,
  demo,
}) => {
  await countMessages(page);
  await page.goto(`${demo.url}/lab`);
  // It runs already when it is opened.
  await expect(page.getByTestId("lab-results")).toBeVisible();
  for (const name of [/^Separate beds/, /^Two in series/, /^Lead and lag/]) await check(page, name);
  await page.getByRole("radio", { name: /^Finest/ }).click();
  await page.getByTestId("lab-run").click();
  await expect(page.getByTestId("lab-progress")).toContainText(/[1-9]\d? %/);
  await page.getByTestId("lab-stop").click();
  await expect(page.getByTestId("lab-progress")).toHaveCount(0);
  await page.waitForTimeout(300);
  const after = await heard(page);
  expect(after).toBeGreaterThan(0);
  await page.waitForTimeout(700);
  expect(await heard(page)).toBe(after);
  await expect(page.getByTestId("outcome-separate")).toHaveCount(0);

  await page.getByTestId("lab-run").click();
  await expect(page.getByTestId("lab-progress")).toContainText(/[1-9]\d? %/);
  for (const name of [/^Separate beds/, /^Two in series/, /^Lead and lag/]) await check(page, name);
  await page.getByRole("radio", { name: /^Usual/ }).click();
  await page.getByTestId("lab-run").click();
  await expect(page.getByTestId("outcome-as-it-is")).toBeVisible();
  await page.waitForTimeout(300);
  await expect(page.getByTestId("outcome-separate")).toHaveCount(0);
  await expect(page.getByTestId("lab-progress")).toHaveCount(0);
});

test("the run goes out as CSV, the picture as SVG and PNG", async ({ page, demo }) => {
  await page.goto(`${demo.url}/lab`);
  await page.getByTestId("lab-run").click();
  await expect(page.getByTestId("lab-results")).toBeVisible();
  const download = async (id: string) => {
    const [file] = await Promise.all([page.waitForEvent("download"), page.getByTestId(id).click()]);
    return { name: file.suggestedFilename(), content: readFileSync(await file.path()) };
  };
  const csv = await download("lab-csv");
  expect(csv.name).toBe("winter-bead-lab.csv");
  expect(csv.content.toString().split("\n").length).toBeGreaterThan(150);
  const svg = await download("lab-svg");
  const drawn = await page.evaluate((text) => {
    const parsed = new DOMParser().parseFromString(text, "image/svg+xml");
    return { error: parsed.querySelector("parsererror")?.textContent, paths: parsed.querySelectorAll("path").length };
  }, svg.content.toString());
  expect(drawn.error).toBeUndefined();
  expect(drawn.paths).toBeGreaterThan(5);
  expect(svg.content.toString()).not.toMatch(/https?:\/\/(?!www\.w3\.org)/);
  const png = await download("lab-png");
  expect(png.content.subarray(1, 4).toString()).toBe("PNG");
  expect(png.content.length).toBeGreaterThan(10_000);
});

test("the planner shows both lives beside each other where something unseen is known", async ({ page, demo }) => {
  await page.goto(`${demo.url}/size`);
  await expect(page.getByTestId("two-lives")).toHaveCount(0);
  await page.getByRole("radio", { name: "Bay tap" }).click();
  await expect(page.getByTestId("two-lives")).toHaveAttribute("aria-busy", "false");
  expect(await litres(page, "life-until-meter")).toBeGreaterThan(await litres(page, "life-until-leak"));
  await expect(page.getByTestId("silent-gap")).toContainText("leaks and the meter shows nothing");
  const before = await litres(page, "life-until-meter");
  await page.getByTestId("plan-resin").fill("6");
  await expect.poll(() => litres(page, "life-until-meter")).toBeLessThan(0.7 * before);
});

test("a rig whose water carries unseen load says when anything leaks, on the rack and while logging", async ({
  page,
  demo,
}) => {
  const { items } = (await demo.request("GET", "/api/v1/rigs")).body as { items: { id: string; name: string }[] };
  const rig = items.find(({ name }) => name === "Quarantine")!.id;
  await page.goto(`${demo.url}/?rig=${rig}`);
  await expect(page.getByTestId("left-Quarantine")).toContainText("to the first leak");
  await expect(page.getByTestId("leak-line")).toContainText("Silica goes first");
  await page.getByTestId("verdict").getByRole("button", { name: "Why this number" }).click();
  await expect(page.getByTestId("working")).toContainText("First leak, as a share of the load at the limit");
  await page.goto(`${demo.url}/log/${rig}`);
  await expect(page.getByTestId("live-left")).toBeVisible();
  await expect(page.getByTestId("leak-line")).toContainText("the meter doesn’t show it");
});
