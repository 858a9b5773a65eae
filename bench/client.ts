import { execFileSync } from "node:child_process";
import { existsSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { createServer } from "node:http";
import { extname, join, resolve } from "node:path";
import { brotliCompressSync } from "node:zlib";
import { chromium, type Browser } from "@playwright/test";
import { RunningServer } from "../server/tests/running-server";

const root = resolve(process.cwd());
const bareProject = join(root, "bench/bare");
const bareDist = join(bareProject, "dist");
const client = join(root, "client/dist");

const filesBelow = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? filesBelow(join(folder, entry.name)) : [join(folder, entry.name)],
  );

function exportBarePage(): void {
  rmSync(bareDist, { recursive: true, force: true });
  execFileSync(join(root, "node_modules/.bin/expo"), ["export", "--platform", "web", "--output-dir", bareDist], {
    cwd: bareProject,
    stdio: ["ignore", "ignore", "inherit"],
    env: { ...process.env, EXPO_OFFLINE: "1", EXPO_NO_TELEMETRY: "1", CI: "1", NODE_ENV: "production" },
  });
}

interface Size {
  readonly raw: number;
  readonly brotli: number;
}

const add = (sizes: readonly Size[]): Size =>
  sizes.reduce((sum, each) => ({ raw: sum.raw + each.raw, brotli: sum.brotli + each.brotli }), { raw: 0, brotli: 0 });

const scriptSize = (path: string): Size => {
  const body = readFileSync(path);
  return { raw: body.length, brotli: brotliCompressSync(body).length };
};

const scriptsOf = (dist: string) =>
  filesBelow(dist).filter((file) => extname(file) === ".js" && !file.endsWith("sw.js"));
const kib = ({ raw, brotli }: Size) => `${(raw / 1024).toFixed(0)} KiB raw, ${(brotli / 1024).toFixed(0)} KiB brotli`;

function serveBarePage(): Promise<{ url: string; close: () => void }> {
  const types: Record<string, string> = { ".html": "text/html", ".js": "text/javascript", ".css": "text/css" };
  const compressed = new Map(filesBelow(bareDist).map((file) => [file, brotliCompressSync(readFileSync(file))]));
  const server = createServer((request, response) => {
    const path = join(bareDist, decodeURIComponent(request.url ?? "/"));
    const file = compressed.has(path) ? path : join(bareDist, "index.html");
    response
      .writeHead(200, { "Content-Type": types[extname(file)] ?? "application/octet-stream", "Content-Encoding": "br" })
      .end(compressed.get(file));
  });
  return new Promise((done) =>
    server.listen(0, "127.0.0.1", () =>
      done({ url: `http://127.0.0.1:${(server.address() as { port: number }).port}`, close: () => server.close() }),
    ),
  );
}

interface Paint {
  readonly first: number;
  readonly scripts: readonly string[];
}

/** First contentful paint of a fresh visit, ms, and the scripts that it loaded. */
async function visit(browser: Browser, url: string): Promise<Paint> {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, serviceWorkers: "block" });
  const page = await context.newPage();
  const scripts: string[] = [];
  page.on("response", (response) => {
    if (response.request().resourceType() === "script")
      scripts.push(decodeURIComponent(new URL(response.url()).pathname));
  });
  await page.goto(url);
  await page.waitForFunction(() => performance.getEntriesByName("first-contentful-paint").length > 0);
  const first = await page.evaluate(() => performance.getEntriesByName("first-contentful-paint")[0]!.startTime);
  await page.waitForLoadState("networkidle");
  await context.close();
  return { first, scripts };
}

const median = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

async function main(): Promise<void> {
  exportBarePage();
  const [all, bareAll] = [add(scriptsOf(client).map(scriptSize)), add(scriptsOf(bareDist).map(scriptSize))];
  console.log(`client, all its scripts: ${kib(all)}`);
  console.log(`bare page of the same stack: ${kib(bareAll)}`);

  const server = await RunningServer.start({ flags: [] });
  const bare = await serveBarePage();
  const browser = await chromium.launch({
    executablePath: "/usr/bin/chromium",
    args: ["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
  });
  const [ours, theirs]: [number[], number[]] = [[], []];
  let loaded: readonly string[] = [];
  for (let round = 0; round < 7; round += 1) {
    const paint = await visit(browser, server.url);
    loaded = paint.scripts;
    ours.push(paint.first);
    theirs.push((await visit(browser, bare.url)).first);
  }
  const first = add(
    loaded.filter((path) => existsSync(join(client, path))).map((path) => scriptSize(join(client, path))),
  );
  console.log(
    `client, scripts of the first page: ${kib(first)}; the bare stack is ${((100 * bareAll.brotli) / first.brotli).toFixed(0)} % of it`,
  );
  const ratios = ours.map((each, i) => each / theirs[i]!);
  console.log(
    `first contentful paint: ${median(ours).toFixed(0)} ms with the demo's rack, ${median(theirs).toFixed(0)} ms bare, ratio ${median(ratios).toFixed(2)} (7 paired visits)`,
  );
  await browser.close();
  bare.close();
  await server.remove();
}

await main();
