const workspaces = {
  "^@winter-bead/(core|contract|demo)$": "<rootDir>/$1/src/index.ts",
  "^@winter-bead/(core|contract|demo)/(.*)$": "<rootDir>/$1/$2",
};
const swc = {
  "\\.[cm]?[jt]s$": [
    "@swc/jest",
    { jsc: { parser: { syntax: "typescript" }, target: "es2022" }, module: { type: "commonjs" } },
  ],
};
const plain = { testEnvironment: "node", transform: swc, moduleNameMapper: workspaces };

/** @type {import("jest").Config} */
module.exports = {
  projects: [
    {
      ...plain,
      displayName: "plain",
      testMatch: ["<rootDir>/{core,contract,demo}/tests/**/*.test.ts"],
      transformIgnorePatterns: ["/node_modules/(?!(fast-check|pure-rand|mathjs|@seriousme)/)"],
    },
    { ...plain, displayName: "server", testMatch: ["<rootDir>/server/tests/**/*.test.ts"], maxWorkers: 2 },
    "<rootDir>/client/jest.config.js",
  ],
  testTimeout: 60_000,
};
