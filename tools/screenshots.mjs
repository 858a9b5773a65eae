// Takes one picture of each main view from a fresh demo: node tools/screenshots.mjs (needs Chromium and a built client).
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { chromium } from "@playwright/test";

const root = fileURLToPath(new URL("..", import.meta.url));
const out = join(root, "docs/screenshots");
const data = mkdtempSync(join(tmpdir(), "winter-bead-pictures-"));
const phone = { width: 390, height: 844 };
const wide = { width: 1280, height: 800 };

const server = spawn(process.execPath, [join(root, "server/dist/start.mjs")], {
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
const { items: rigs } = await (await fetch(`${url}/api/v1/rigs`)).json();
const rig = (name) => rigs.find((each) => each.name === name).id;

const VIEWS = [
  { name: "rack-phone", path: "/", size: phone },
  { name: "rack-wide", path: "/", size: wide },
  { name: "rack-dark", path: "/", size: phone, colorScheme: "dark" },
  { name: "log-phone", path: `/log/${rig("Bay 2")}`, size: phone, keys: "20" },
  { name: "size-phone", path: "/size", size: phone },
  { name: "size-wide", path: "/size", size: wide, click: '[data-testid="explain-chemistry"] button' },
  { name: "history-phone", path: `/why/${rig("Bay 2")}`, size: phone },
  { name: "history-wide", path: `/why/${rig("Van")}`, size: wide },
  { name: "setup-phone", path: "/setup", size: phone },
  { name: "rig-phone", path: "/setup/rig", size: phone },
  { name: "refill-phone", path: `/setup/charge?rig=${rig("Van")}`, size: phone },
  { name: "settings-phone", path: "/settings", size: phone },
];

const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
});
for (const { name, path, size, colorScheme, keys, click } of VIEWS) {
  const context = await browser.newContext({
    viewport: size,
    colorScheme: colorScheme ?? "light",
    serviceWorkers: "block",
  });
  const page = await context.newPage();
  await page.goto(url + path);
  await page.waitForLoadState("networkidle");
  await page.waitForTimeout(1500);
  if (keys) await page.keyboard.type(keys);
  if (click) await page.locator(click).first().click();
  await page.waitForTimeout(900);
  await page.screenshot({ path: join(out, `${name}.png`) });
  await context.close();
}
await browser.close();
server.kill("SIGTERM");
await new Promise((ended) => server.once("exit", ended));
rmSync(data, { recursive: true, force: true });
