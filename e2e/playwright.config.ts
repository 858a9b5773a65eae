import { defineConfig } from "@playwright/test";

export default defineConfig({
  testDir: ".",
  testMatch: "*.spec.ts",
  outputDir: "../test-results",
  timeout: 300_000, // against a hang only: a machine shared by many may take long for a walk through every place
  expect: { timeout: 30_000 },
  workers: 2,
  fullyParallel: false,
  reporter: process.env["PLAYWRIGHT_JSON_OUTPUT_NAME"] ? [["list"], ["json"]] : [["list"]],
  use: {
    viewport: { width: 390, height: 844 },
    locale: "en-GB", // metric, as most of the world
    screenshot: "only-on-failure",
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
});
