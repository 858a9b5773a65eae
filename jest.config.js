const workspaces = {
  "^@winter-bead/(core|contract|demo|devices)$": "<rootDir>/$1/src/index.ts",
  "^@winter-bead/(core|contract|demo|devices)/(.*)$": "<rootDir>/$1/$2",
};
const swc = {
  "\\.[cm]?[jt]s$": [
    "@swc/jest",
    { jsc: { parser: { syntax: "typescript" }, target: "es2022" }, module: { type: "commonjs" } },
  ],
};
/** Packages that ship as ES modules only. */
const esModules = "fast-check|pure-rand|mathjs|@seriousme|ml-[a-z-]+|is-any-array";
const plain = {
  testEnvironment: "node",
  transform: swc,
  moduleNameMapper: workspaces,
  transformIgnorePatterns: [`/node_modules/(?!(${esModules})/)`],
};

/** @type {import("jest").Config} */
module.exports = {
  projects: [
    {
      ...plain,
      displayName: "plain",
      testMatch: ["<rootDir>/{core,contract,demo,devices}/tests/**/*.test.ts"],
    },
    { ...plain, displayName: "server", testMatch: ["<rootDir>/server/tests/**/*.test.ts"] },
    "<rootDir>/client/jest.config.js",
  ],
  testTimeout: 60_000,
  // Both cores: left alone it keeps one for itself, and of two that is half.
  maxWorkers: 2,
};
