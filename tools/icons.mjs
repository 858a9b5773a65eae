// Draws the app's icons from client/public/bead.svg: node tools/icons.mjs (needs Chromium).
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import { root } from "./sources.mjs";

const svg = readFileSync(join(root, "client/public/bead.svg"), "utf8");
/** `room` is the share of the side that the drawing takes: a maskable icon is cut to whatever shape the device likes. */
const ICONS = [
  { name: "icon-192", side: 192, room: 0.9, ground: "transparent" },
  { name: "icon-512", side: 512, room: 0.9, ground: "transparent" },
  { name: "maskable-512", side: 512, room: 0.62, ground: "#f2f6f7" },
  { name: "apple-180", side: 180, room: 0.76, ground: "#f2f6f7" },
];

const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", "--disable-gpu"] });
for (const { name, side, room, ground } of ICONS) {
  const page = await browser.newPage({ viewport: { width: side, height: side } });
  await page.setContent(
    `<body style="margin:0;width:${side}px;height:${side}px;display:grid;place-items:center;background:${ground}"><img style="width:${room * side}px;height:${room * side}px" src="data:image/svg+xml;base64,${Buffer.from(svg).toString("base64")}"></body>`,
  );
  const picture = await page.screenshot({ omitBackground: true });
  writeFileSync(join(root, "client/public/icons", `${name}.png`), picture);
  await page.close();
}
await browser.close();
