// Exports the client into client/dist when its sources changed, adds the service worker and compresses what is served.
import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync, renameSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import { generateSW } from "workbox-build";

const root = fileURLToPath(new URL("..", import.meta.url));
const client = join(root, "client");
const dist = join(client, "dist");
const stamp = join(dist, ".sources");

const SOURCES = [
  "client/app",
  "client/data",
  "client/features",
  "client/ui",
  "client/public",
  "core/src",
  "contract/src",
];
const FILES = [
  "package-lock.json",
  "client/app.json",
  "client/metro.config.js",
  "client/babel.config.js",
  "tools/build-client.mjs",
];

const filesBelow = (folder) =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? filesBelow(join(folder, entry.name)) : [join(folder, entry.name)],
  );

function sourcesHash() {
  const hash = createHash("sha256");
  const files = [
    ...SOURCES.flatMap((folder) => filesBelow(join(root, folder))),
    ...FILES.map((file) => join(root, file)),
  ].sort();
  for (const file of files) hash.update(file.slice(root.length)).update("\0").update(readFileSync(file)).update("\0");
  return hash.digest("hex");
}

const hash = sourcesHash();
if (existsSync(stamp) && readFileSync(stamp, "utf8") === hash) process.exit(0);

console.log("Building the client; the first time takes two minutes or so, later a few seconds.");
const fresh = join(client, "dist.new");
rmSync(fresh, { recursive: true, force: true });
execFileSync(join(root, "node_modules/.bin/expo"), ["export", "--platform", "web", "--output-dir", fresh], {
  cwd: client,
  stdio: ["ignore", "ignore", "inherit"],
  env: { ...process.env, EXPO_OFFLINE: "1", EXPO_NO_TELEMETRY: "1", CI: "1", NODE_ENV: "production" },
});

await generateSW({
  globDirectory: fresh,
  globPatterns: ["**/*.{html,js,css,woff2,svg,webmanifest}"],
  swDest: join(fresh, "sw.js"),
  inlineWorkboxRuntime: true,
  sourcemap: false,
  navigateFallback: "/index.html",
  navigateFallbackDenylist: [/^\/api\//],
  maximumFileSizeToCacheInBytes: 5 * 2 ** 20,
  skipWaiting: true,
  clientsClaim: true,
  cleanupOutdatedCaches: true,
});

for (const file of filesBelow(fresh)) {
  if (!/\.(html|js|css|svg|json|webmanifest|txt)$/.test(file)) continue;
  const body = readFileSync(file);
  writeFileSync(`${file}.br`, brotliCompressSync(body, { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } }));
  writeFileSync(`${file}.gz`, gzipSync(body, { level: 9 }));
}
writeFileSync(join(fresh, ".sources"), hash);
rmSync(dist, { recursive: true, force: true });
renameSync(fresh, dist);
