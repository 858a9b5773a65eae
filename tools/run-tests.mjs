// Runs every check, shows what failed, and ends with one line: `N passed, N failed`.
//   run-tests.mjs [types] [lint] [order] [unit] [client] [server] [interface]   only these
//   run-tests.mjs --quick   types, lint, the order of the folders and the unit tests that what was changed since the last commit touches
import { spawn, spawnSync } from "node:child_process";
import { readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

const start = Date.now();
const QUICK = "--quick";
const isQuick = process.argv.includes(QUICK);
const only = process.argv.slice(2).filter((word) => word !== QUICK);
const report = (name) => join(tmpdir(), `winter-bead-${process.pid}-${name}.json`);
const counts = { passed: 0, failed: 0 };

function run(command, options, env = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, options, { env: { ...process.env, ...env }, stdio: ["ignore", "pipe", "pipe"] });
    let output = "";
    child.stdout.on("data", (part) => {
      output += part;
    });
    child.stderr.on("data", (part) => {
      output += part;
    });
    child.on("close", (code) => resolve({ code: code ?? 1, output }));
  });
}

function note(name, { passed, failed }, output) {
  counts.passed += passed;
  counts.failed += failed;
  const seconds = Math.round((Date.now() - start) / 1000);
  console.log(`${name}: ${passed} passed, ${failed} failed (at ${seconds} s)`);
  if (failed > 0) console.log(output);
}

async function check(name, script) {
  const { code, output } = await run("npm", ["run", "--silent", script]);
  note(name, code === 0 ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 }, output);
}

async function jest(name, projects, more = []) {
  const file = report(name);
  const { code, output } = await run(
    "npx",
    ["jest", "--selectProjects", ...projects, "--json", `--outputFile=${file}`, "--forceExit", ...more],
    { FORCE_COLOR: "0" },
  );
  const found = readReport(file);
  const passed = found?.numPassedTests ?? 0;
  const failed = (found?.numFailedTests ?? 0) + (found?.numRuntimeErrorTestSuites ?? 0);
  note(name, { passed, failed: code !== 0 && failed === 0 ? 1 : failed }, output);
}

async function playwright() {
  const file = report("playwright");
  const { code, output } = await run("npx", ["playwright", "test", "--config", "e2e/playwright.config.ts"], {
    PLAYWRIGHT_JSON_OUTPUT_NAME: file,
    FORCE_COLOR: "0",
  });
  const stats = readReport(file)?.stats ?? { expected: 0, unexpected: 1, flaky: 0 };
  const failed = stats.unexpected + stats.flaky;
  note("interface", { passed: stats.expected, failed: code !== 0 && failed === 0 ? 1 : failed }, output);
}

function readReport(file) {
  try {
    const found = JSON.parse(readFileSync(file, "utf8"));
    rmSync(file, { force: true });
    return found;
  } catch {
    return undefined;
  }
}

const steps = {
  types: () => check("types", "typecheck"),
  lint: () => check("lint", "lint"),
  order: () => check("order", "order"),
  unit: () => jest("unit", ["plain"]),
  client: () => jest("client", ["client"]),
  server: () => jest("server", ["server"]),
  interface: () => playwright(),
};
/** Nothing changed since the last commit: then what that commit changed. */
const touchedSince = () => (spawnSync("git", ["diff", "--quiet", "HEAD"]).status === 0 ? "HEAD~1" : "HEAD");
const touched = () => jest("touched", ["plain", "client"], [`--changedSince=${touchedSince()}`, "--passWithNoTests"]);

const wanted = isQuick ? ["types", "lint", "order"] : only.length > 0 ? only : Object.keys(steps);
const unknown = wanted.filter((name) => !(name in steps));
if (unknown.length > 0) {
  console.error(`There is no ${unknown.join(", ")} to test; known are ${Object.keys(steps).join(", ")} and ${QUICK}.`);
  process.exit(2);
}
const together = wanted.filter((name) => name === "types" || name === "lint" || name === "order");
await Promise.all(together.map((name) => steps[name]()));
for (const name of wanted) if (!together.includes(name)) await steps[name]();
if (isQuick) await touched();

console.log(`${counts.passed} passed, ${counts.failed} failed`);
process.exit(counts.failed > 0 ? 1 : 0);
