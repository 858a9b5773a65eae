// Exports the client into client/dist when its sources changed, adds the service worker and compresses what is served.
import { execFileSync } from "node:child_process";
import { readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { join, relative } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import { filesBelow, isBuilt, markBuilt, root, sourcesHash } from "./sources.mjs";

const client = join(root, "client");
const dist = join(client, "dist");
const stamp = join(dist, ".sources");

const SOURCES = [
  "client/app",
  "client/data",
  "client/features",
  "client/forms",
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
  "tools/sources.mjs",
];

const hash = sourcesHash(SOURCES, FILES);
if (isBuilt(stamp, hash)) process.exit(0);

console.log("Building the client; the first time takes two minutes or so, later a few seconds.");
const fresh = join(client, "dist.new");
rmSync(fresh, { recursive: true, force: true });
execFileSync(join(root, "node_modules/.bin/expo"), ["export", "--platform", "web", "--output-dir", fresh], {
  cwd: client,
  stdio: ["ignore", "ignore", "inherit"],
  env: { ...process.env, EXPO_OFFLINE: "1", EXPO_NO_TELEMETRY: "1", CI: "1", NODE_ENV: "production" },
});

/** Every place's address, from the files of its routes: `size/plans/[plan].tsx` is `/size/plans/[plan]`. */
const places = filesBelow(join(client, "app"))
  .map((file) => `/${relative(join(client, "app"), file).replace(/\.tsx$/, "")}`)
  .filter((place) => !/\/[_+]/.test(place))
  .map((place) => place.replace(/\/index$/, "") || "/");
writeFileSync(join(fresh, "places.json"), JSON.stringify(places));

const { generateSW } = await import("workbox-build");
await generateSW({
  globDirectory: fresh,
  globPatterns: ["**/*.{html,js,css,woff,woff2,svg,png,webmanifest}"],
  swDest: join(fresh, "sw.js"),
  inlineWorkboxRuntime: true,
  sourcemap: false,
  navigateFallback: "/index.html",
  navigateFallbackDenylist: [/^\/api\//],
  maximumFileSizeToCacheInBytes: 5 * 2 ** 20,
  // A new version waits until it is taken: the page that runs keeps its pieces.
  skipWaiting: false,
  clientsClaim: true,
  cleanupOutdatedCaches: true,
});

for (const file of filesBelow(fresh)) {
  if (!/\.(html|js|css|svg|json|webmanifest|txt)$/.test(file)) continue;
  const body = readFileSync(file);
  writeFileSync(`${file}.br`, brotliCompressSync(body, { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } }));
  writeFileSync(`${file}.gz`, gzipSync(body, { level: 9 }));
}
markBuilt(join(fresh, ".sources"), hash);
rmSync(dist, { recursive: true, force: true });
renameSync(fresh, dist);
