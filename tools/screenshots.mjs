// Takes one picture of each main view from a fresh demo: node tools/screenshots.mjs [names] (needs Chromium and a built client).
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { chromium } from "@playwright/test";

const root = fileURLToPath(new URL("..", import.meta.url));
const out = join(root, "docs/screenshots");
const phone = { width: 390, height: 844 };
const wide = { width: 1280, height: 800 };

/** A server of its own, on data of its own. */
async function serve(...flags) {
  const data = mkdtempSync(join(tmpdir(), "winter-bead-pictures-"));
  const server = spawn(process.execPath, [join(root, "server/dist/start.mjs"), ...flags], {
    env: { ...process.env, PORT: "0", WINTER_BEAD_DATA: data, WINTER_BEAD_ROOT: root },
    stdio: ["ignore", "pipe", "inherit"],
  });
  const url = await new Promise((ready) => {
    let printed = "";
    server.stdout.on("data", (part) => {
      printed += part;
      const address = /ready at (http:\S+)/.exec(printed)?.[1];
      if (address) ready(address);
    });
  });
  const end = async () => {
    server.kill("SIGTERM");
    await new Promise((ended) => server.once("exit", ended));
    rmSync(data, { recursive: true, force: true });
  };
  return { url, end };
}

const demo = await serve();
const empty = await serve("--empty");
const { url } = demo;
const { items: rigs } = await (await fetch(`${url}/api/v1/rigs`)).json();
const rig = (name) => rigs.find((each) => each.name === name).id;
const { items: taps } = await (await fetch(`${url}/api/v1/taps`)).json();
const tap = (name) => taps.find((each) => each.name === name).id;
const { items: plans } = await (await fetch(`${url}/api/v1/plans`)).json();
const plan = (name) => plans.find((each) => each.name === name).id;

const VIEWS = [
  { name: "rack-phone", path: "/", size: phone },
  { name: "rack-wide", path: "/", size: wide },
  { name: "train-dark", path: `/setup/train?rig=${rig("Quarantine")}`, size: phone, colorScheme: "dark" },
  { name: "log-phone", path: `/log/${rig("Bay 2")}`, size: phone, keys: "20" },
  {
    name: "first-day-phone",
    path: "/",
    size: phone,
    isEmpty: true,
    types: { "start-shown": "143" },
    choose: /^ppm NaCl/,
    scroll: "vessel-top",
  },
  { name: "size-phone", path: "/size", size: phone },
  { name: "vessel-phone", path: "/size/vessel", size: phone, choose: "Bay tap" },
  { name: "vessel-wide", path: "/size/vessel", size: wide, choose: "Bay tap", press: "pin", scroll: "pinned" },
  { name: "pays-phone", path: "/size/membrane", size: phone, opens: "pays-work", choose: "Bay tap" },
  { name: "habits-phone", path: "/size/habits", size: phone, opens: "habits-work", choose: "Bay tap" },
  { name: "plan-wide", path: `/size/plans/${plan("Van, as it was planned")}`, size: wide },
  { name: "history-phone", path: `/history/${rig("Bay 2")}`, size: phone },
  { name: "water-phone", path: `/water/${tap("Blending tap")}`, size: phone },
  { name: "membrane-phone", path: "/water/membrane", size: phone },
  { name: "weeks-phone", path: "/weeks", size: phone },
  { name: "weeks-wide", path: "/weeks", size: wide },
  { name: "guide-phone", path: `/refill?rig=${rig("Bay 2")}&what=refill`, size: phone, looks: 11 },
  {
    name: "practice-phone",
    path: `/refill/practice?rig=${rig("Bay 2")}`,
    size: phone,
    ticks: ["to-outcome", "mistake-loose", "mistake-no-rinse"],
    scroll: "practice-whole",
  },
  {
    name: "lab-wide",
    path: `/lab?tap=${tap("Bay tap")}`,
    size: wide,
    checks: ["Aerated", "Two in series"],
    click: '[data-testid="lab-run"]',
    slide: "380",
  },
];

const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
});
/** Until a page says something, and works nothing out any more: a busy machine takes its time. */
const settled = (page) =>
  page.waitForFunction(
    () => {
      const said = document.querySelector("main")?.innerText ?? "";
      return /\w{3}/.test(said) && !/Working it out|One moment|Not worked out yet/i.test(said);
    },
    undefined,
    { timeout: 120_000 },
  );

/** Does what a view asks for once its page stands. */
async function arrange(page, view) {
  const { keys, click, checks = [], opens, choose, press, slide, scroll, looks = 0, ticks = [], types = {} } = view;
  for (const [id, text] of Object.entries(types)) await page.getByTestId(id).fill(text);
  if (keys) await page.keyboard.type(keys);
  for (let i = 0; i < looks; i += 1) {
    await page.keyboard.press("ArrowRight");
    await page.waitForTimeout(150);
  }
  for (const id of ticks) await page.getByTestId(id).click();
  if (opens) await page.getByTestId(opens).click();
  if (choose) await page.getByRole("radio", { name: choose }).click();
  if (opens || choose) await page.waitForTimeout(2500);
  for (const label of checks) await page.getByRole("checkbox", { name: new RegExp(`^${label}`) }).click();
  if (press) for (const i of [0, 1, 2]) await page.getByTestId(press).nth(i).click();
  if (click) await page.locator(click).first().click();
  if (slide) await page.getByTestId("lab-slider").fill(slide);
  if (scroll) await page.getByTestId(scroll).evaluate((node) => node.scrollIntoView({ block: "start" }));
  if (choose && !scroll && !opens)
    await page
      .locator("h1")
      .first()
      .evaluate((node) => node.scrollIntoView());
  if (opens)
    await page
      .getByTestId(opens.split("-")[0])
      .evaluate((node) => node.closest("main").querySelector("h1").scrollIntoView());
}

const only = process.argv.slice(2);
for (const view of VIEWS.filter(({ name }) => only.length === 0 || only.includes(name))) {
  const { name, path, size, colorScheme, isEmpty = false } = view;
  const context = await browser.newContext({
    viewport: size,
    colorScheme: colorScheme ?? "light",
    serviceWorkers: "block",
    locale: "en-GB",
  });
  const page = await context.newPage();
  await page.goto((isEmpty ? empty.url : url) + path);
  await page.waitForLoadState("networkidle");
  await settled(page);
  await page.waitForTimeout(1500);
  await settled(page);
  await arrange(page, view);
  await page.waitForTimeout(900);
  await settled(page);
  await page.screenshot({ path: join(out, `${name}.png`) });
  await context.close();
}
await browser.close();
await demo.end();
await empty.end();
