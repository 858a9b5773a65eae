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

const JEST_PROJECTS = { unit: "plain", client: "client", server: "server" };
const isJest = (name) => name in JEST_PROJECTS;
/** Which of them a test's file belongs to. */
const ofFile = (file) => ["client", "server"].find((name) => file.includes(`/${name}/tests/`)) ?? "unit";

/** One run for all of them, so that no hand is idle while another ends the last file of its kind. */
async function jest(names, more = []) {
  const file = report("jest");
  const projects = names.map((name) => JEST_PROJECTS[name]);
  const { code, output } = await run(
    "npx",
    ["jest", "--selectProjects", ...projects, "--json", `--outputFile=${file}`, "--forceExit", ...more],
    { FORCE_COLOR: "0" },
  );
  const found = readReport(file);
  const counted = names.map((name) => {
    const files = (found?.testResults ?? []).filter((each) => ofFile(each.name) === name);
    const count = (status) =>
      files.flatMap((each) => each.assertionResults).filter((each) => each.status === status).length;
    const broken = files.filter((each) => each.status === "failed" && each.assertionResults.length === 0).length;
    return { name, passed: count("passed"), failed: count("failed") + broken };
  });
  if (code !== 0 && counted.every(({ failed }) => failed === 0)) counted[0].failed = 1;
  for (const each of counted) note(each.name, each, "");
  if (code !== 0) console.log(output);
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

const checks = {
  types: () => check("types", "typecheck"),
  lint: () => check("lint", "lint"),
  order: () => check("order", "order"),
};
/** Nothing changed since the last commit: then what that commit changed. */
const touchedSince = () => (spawnSync("git", ["diff", "--quiet", "HEAD"]).status === 0 ? "HEAD~1" : "HEAD");
const touched = () => jest(["unit", "client"], [`--changedSince=${touchedSince()}`, "--passWithNoTests"]);

const CHECKS = Object.keys(checks);
const all = [...CHECKS, ...Object.keys(JEST_PROJECTS), "interface"];
const wanted = isQuick ? CHECKS : only.length > 0 ? only : all;
const unknown = wanted.filter((name) => !all.includes(name));
if (unknown.length > 0) {
  console.error(`There is no ${unknown.join(", ")} to test; known are ${all.join(", ")} and ${QUICK}.`);
  process.exit(2);
}
await Promise.all(wanted.filter((name) => CHECKS.includes(name)).map((name) => checks[name]()));
const byJest = wanted.filter(isJest);
if (byJest.length > 0) await jest(byJest);
if (wanted.includes("interface")) await playwright();
if (isQuick) await touched();

console.log(`${counts.passed} passed, ${counts.failed} failed`);
process.exit(counts.failed > 0 ? 1 : 0);
