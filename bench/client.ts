import { execFileSync } from "node:child_process";
import { existsSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { createServer } from "node:http";
import { extname, join, resolve } from "node:path";
import { brotliCompressSync } from "node:zlib";
import { chromium, type Browser, type Page } from "@playwright/test";
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

const COUNTED_FOR = 3_000;

/** Frames a second that the page gets to draw. */
const framesASecond = (page: Page) =>
  page.evaluate(
    (milliseconds) =>
      new Promise<number>((done) => {
        let frames = 0;
        const from = performance.now();
        const count = (now: number) => {
          frames += 1;
          if (now - from >= milliseconds) done((1000 * frames) / (now - from));
          else requestAnimationFrame(count);
        };
        requestAnimationFrame(count);
      }),
    COUNTED_FOR,
  );

/** The Lab at rest, while its worker runs, and while the film plays, in the same page. */
async function printFrames(browser: Browser, url: string): Promise<void> {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await page.goto(`${url}/lab`);
  await page.getByTestId("lab-run").click();
  await page.getByTestId("lab-results").waitFor();
  const playing = await framesASecond(page);
  await page.getByTestId("lab-play").click();
  const rest = await framesASecond(page);
  for (const name of [/^Separate/, /^Two in series/, /^Lead and lag/])
    await page.getByRole("checkbox", { name }).click();
  await page.getByRole("radio", { name: /^Finest/ }).click();
  await page.getByTestId("lab-run").click();
  const running = await framesASecond(page);
  console.log(
    `lab, frames a second: ${rest.toFixed(0)} at rest, ${playing.toFixed(0)} playing (${(playing / rest).toFixed(2)}), ${running.toFixed(0)} while the worker runs (${(running / rest).toFixed(2)})`,
  );
}

const water = (value: number) => ({ reading: { value, scale: "nacl" }, ph: 7.3, alkalinity: 118, silica: 6 });
/** Two vessels of the user's own make the options more than 500. */
const own = [7, 20].map((grossVolume) => ({
  name: `Own ${grossVolume}`,
  kind: "screw-head-tank",
  grossVolume,
  diameter: 160,
  emptyWeight: 4,
  fillFraction: 0.85,
}));
const SIZING = {
  demand: { items: [{ by: "jobs", perWeek: 22, litresEach: 60, quality: "guessed" }] },
  waters: { low: water(150), typical: water(168), high: water(192) },
  limit: { value: 10, scale: "nacl" },
  peakFlow: 3,
  own,
};

/** Asks the planner's own worker in the page to price every option, as the app's calls reach it, and times the answers. */
async function printSizing(browser: Browser, url: string): Promise<void> {
  const page = await (await browser.newContext()).newPage();
  await page.addInitScript(() => {
    const Plain = window.Worker;
    const made: { readonly url: string; readonly worker: Worker }[] = [];
    window.Worker = class extends Plain {
      constructor(...args: ConstructorParameters<typeof Worker>) {
        super(...args);
        made.push({ url: String(args[0]), worker: this });
      }
    };
    Object.assign(window, { made });
  });
  await page.goto(`${url}/size/vessel`);
  await page.getByTestId("option").first().waitFor();
  const { times, count, reference } = await page.evaluate(async (input) => {
    const { made } = window as unknown as { made: { readonly url: string; readonly worker: Worker }[] };
    const { worker } = made.find(({ url }) => /plan/.test(url))!;
    const ask = (id: string) =>
      new Promise<{ value: { value: { options: unknown[] } } }>((done) => {
        const take = ({ data }: MessageEvent<{ id: string; value: { value: { options: unknown[] } } }>) => {
          if (data.id !== id) return;
          worker.removeEventListener("message", take);
          done(data);
        };
        worker.addEventListener("message", take);
        worker.postMessage({ id, type: "APPLY", path: ["rankOptions"], argumentList: [{ type: "RAW", value: input }] });
      });
    const times: number[] = [];
    const reference: number[] = [];
    let count = 0;
    for (let i = 0; i < 9; i += 1) {
      let from = performance.now();
      const answer = await ask(`bench-${i}`);
      times.push(performance.now() - from);
      count = answer.value.value.options.length;
      from = performance.now();
      let sum = 0;
      for (let j = 0; j < 1_000_000; j += 1) sum += Math.exp(-(j % 1000) / 1000);
      reference.push(performance.now() - from + 0 * sum);
    }
    return { times, count, reference };
  }, SIZING);
  const ratios = times.map((time, i) => time / reference[i]!);
  console.log(
    `${count} options priced with ranges in the page's worker, the way there and back included: ${median(times).toFixed(0)} ms (${((500 * median(times)) / count).toFixed(0)} ms for 500), ${median(ratios).toFixed(2)} of the reference loop (1e6 exponentials)`,
  );
}

/** Put into a page: does something, and tells after how many milliseconds the words of some elements have changed. */
const WAITS_FOR_WORDS = `window.untilChanged = (words, act) =>
  new Promise((done) => {
    const text = () => [...document.querySelectorAll(words)].map((each) => each.textContent).join("|");
    const before = text();
    const from = performance.now();
    const watch = new MutationObserver(() => {
      if (text() === before) return;
      watch.disconnect();
      done(performance.now() - from);
    });
    watch.observe(document.body, { subtree: true, childList: true, characterData: true });
    act();
  });`;
interface Waiting {
  untilChanged(words: string, act: () => void): Promise<number>;
}

/** Slower than this machine by so much, as phones are. */
const SLOWED = 4;
const KEYS = ["1", "2", "Backspace", "5", "Backspace", "3", "Backspace", "7", "Backspace", "4", "Backspace"] as const;

/** Milliseconds from a key to the changed words, and to a changed text of the bare page; and the tasks over 50 ms meanwhile. */
async function printKeys(browser: Browser, url: string, bare: string): Promise<void> {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 664 } })).newPage();
  const { items } = (await (await fetch(`${url}/api/v1/rigs`)).json()) as { items: { id: string; name: string }[] };
  const slow = async () => {
    const session = await page.context().newCDPSession(page);
    await session.send("Emulation.setCPUThrottlingRate", { rate: SLOWED });
  };
  await page.addInitScript(WAITS_FOR_WORDS);
  const time = (key: string, words: string) =>
    page.evaluate(
      ([pressed, of]) =>
        (window as unknown as Waiting).untilChanged(of, () =>
          document.body.dispatchEvent(new KeyboardEvent("keydown", { key: pressed, bubbles: true })),
        ),
      [key, words] as const,
    );
  await page.goto(bare);
  await page.evaluate(() => {
    document.addEventListener("keydown", ({ key }) => (document.body.querySelector("span")!.textContent += key));
  });
  await slow();
  const plain: number[] = [];
  for (const key of KEYS) plain.push(await time(key, "span"));
  await page.goto(`${url}/log/${items.find(({ name }) => name === "Van")!.id}`);
  await page.getByTestId("live-left").waitFor();
  await page.waitForTimeout(1_500);
  await page.keyboard.type("6");
  await page.waitForTimeout(1_500);
  await page.evaluate(() => {
    const long: number[] = [];
    Object.assign(window, { long });
    new PerformanceObserver((list) => long.push(...list.getEntries().map(({ duration }) => duration))).observe({
      entryTypes: ["longtask"],
    });
  });
  const typed: number[] = [];
  for (const key of KEYS) {
    typed.push(await time(key, "[data-testid=live-left], [data-testid=live-reason]"));
    await page.waitForTimeout(400);
  }
  const long = await page.evaluate(() => (window as unknown as { long: number[] }).long.length);
  console.log(
    `a key on the log at a quarter of this machine's speed: ${median(typed).toFixed(0)} ms to the changed verdict (at most ${Math.max(...typed).toFixed(0)}), ${(median(typed) / median(plain)).toFixed(1)} times a changed text of the bare page; ${long} tasks over 50 ms in ${KEYS.length} keys`,
  );
}

const SIZING_PLACES = [
  { path: "/size", field: "plan-typical", answer: "life-typical", values: ["320", "90", "240", "150", "410"] },
  { path: "/size/vessel", field: "item-perWeek", answer: "bar-value", values: ["45", "12", "90", "30", "60"] },
  { path: "/size/membrane", field: "item-perWeek", answer: "bar-value", values: ["45", "12", "90", "30", "60"] },
  { path: "/size/habits", field: "item-perWeek", answer: "bar-value", values: ["45", "12", "90", "30", "60"] },
] as const;

/** Milliseconds from a changed field to its changed answer in each place of sizing, at a quarter of this machine's speed. */
async function printChangedFields(browser: Browser, url: string): Promise<void> {
  for (const { path, field, answer, values } of SIZING_PLACES) {
    const context = await browser.newContext({ viewport: { width: 390, height: 664 } });
    const page = await context.newPage();
    await page.addInitScript(WAITS_FOR_WORDS);
    await page.goto(`${url}${path}`);
    await page.getByTestId(answer).waitFor();
    for (const opener of ["pays-work", "habits-work"])
      if ((await page.getByTestId(opener).count()) > 0) await page.getByTestId(opener).click();
    await page.waitForTimeout(2_500);
    const session = await context.newCDPSession(page);
    await session.send("Emulation.setCPUThrottlingRate", { rate: SLOWED });
    const times: number[] = [];
    for (const value of values) {
      times.push(
        await page.evaluate(
          ([fieldId, answerId, typed]) => {
            const input = document.querySelector<HTMLInputElement>(`[data-testid="${fieldId}"]`)!;
            return (window as unknown as Waiting).untilChanged(`[data-testid="${answerId}"]`, () => {
              Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")!.set!.call(input, typed);
              input.dispatchEvent(new Event("input", { bubbles: true }));
            });
          },
          [field, answer, value] as const,
        ),
      );
      await page.waitForTimeout(1_500);
    }
    console.log(
      `${path}: ${median(times).toFixed(0)} ms from a changed field to its answer at a quarter of this machine's speed (at most ${Math.max(...times).toFixed(0)})`,
    );
    await context.close();
  }
}

const ROUNDS_OF_USE = 12;

/** Listeners of the page while it is used: places are opened and left again and again. */
async function printListeners(browser: Browser, url: string): Promise<void> {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 664 } })).newPage();
  const session = await page.context().newCDPSession(page);
  await session.send("Performance.enable");
  const listeners = async () => {
    await session.send("HeapProfiler.collectGarbage");
    const { metrics } = await session.send("Performance.getMetrics");
    return metrics.find(({ name }) => name === "JSEventListeners")!.value;
  };
  await page.goto(url);
  await page.getByTestId("verdict-title").waitFor();
  const counts: number[] = [];
  for (let round = 0; round < ROUNDS_OF_USE; round += 1) {
    await page.getByTestId("log-a-reading").click();
    await page.getByTestId("live-left").waitFor();
    await page.keyboard.type("12");
    await page.keyboard.press("Backspace");
    await page.keyboard.press("Backspace");
    await page.getByRole("link", { name: "Back to the rack" }).click();
    for (const place of ["Water", "Size", "Weeks", "History", "Rack"]) {
      await page.getByRole("link", { name: place, exact: true }).click();
      await page.waitForTimeout(300);
    }
    counts.push(await listeners());
  }
  console.log(
    `listeners of the page after rounds through its places: ${counts.join(", ")}; the last is ${(counts[counts.length - 1]! / counts[1]!).toFixed(2)} of the second`,
  );
}

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
  await printKeys(browser, server.url, bare.url);
  await printListeners(browser, server.url);
  await printChangedFields(browser, server.url);
  await printSizing(browser, server.url);
  await printFrames(browser, server.url);
  await browser.close();
  bare.close();
  await server.remove();
}

await main();
