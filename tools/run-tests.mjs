// Runs every check, shows what failed, and ends with one line: `N passed, N failed`.
import { spawn } from "node:child_process";
import { readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

const start = Date.now();
const only = process.argv.slice(2);
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

async function jest(name, project) {
  const file = report(name);
  const { code, output } = await run(
    "npx",
    ["jest", "--selectProjects", project, "--json", `--outputFile=${file}`, "--forceExit"],
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
  unit: () => jest("unit", "plain"),
  client: () => jest("client", "client"),
  server: () => jest("server", "server"),
  interface: () => playwright(),
};
const wanted = only.length > 0 ? only : Object.keys(steps);
const quick = wanted.filter((name) => name === "types" || name === "lint");
await Promise.all(quick.map((name) => steps[name]()));
for (const name of wanted) if (!quick.includes(name)) await steps[name]();

console.log(`${counts.passed} passed, ${counts.failed} failed`);
process.exit(counts.failed > 0 ? 1 : 0);
