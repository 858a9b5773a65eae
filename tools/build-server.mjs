// Bundles the server, the workspaces it stands on and the npm packages into server/dist when its sources changed.
import { rmSync, statSync } from "node:fs";
import { join, resolve } from "node:path";
import { filesBelow, isBuilt, markBuilt, root, sourcesHash } from "./sources.mjs";

const dist = join(root, "server/dist");
const stamp = join(dist, ".sources");
const FOLDERS = ["server/src", "devices/src", "demo/src", "contract/src", "core/src"];
const FILES = ["package-lock.json", "tools/build-server.mjs", "tools/sources.mjs"];

const hash = sourcesHash(FOLDERS, FILES);
if (isBuilt(stamp, hash)) process.exit(0);

const { build } = await import("esbuild");

/** Our own workspaces are bundled from their sources, by name or by a path inside them. */
const workspaces = {
  name: "workspaces",
  setup(build) {
    build.onResolve({ filter: /^@winter-bead\// }, ({ path, ...from }) => {
      const [, name, ...inside] = path.split("/");
      return build.resolve(`./${name}/${inside.length > 0 ? inside.join("/") : "src/index.ts"}`, {
        ...from,
        resolveDir: root,
      });
    });
  },
};

/** Sentences in fifty languages that this server never says. */
const oneLanguage = {
  name: "one-language",
  setup(build) {
    build.onLoad({ filter: /zod.v4.locales.index\.js$/ }, () => ({ contents: "export {};" }));
  },
};

const { metafile } = await build({
  entryPoints: {
    start: join(root, "server/src/start.ts"),
    restore: join(root, "server/src/restore.ts"),
    backup: join(root, "server/src/backup.ts"),
    "compute.worker": join(root, "server/src/compute/compute.worker.ts"),
    "calendar-service": join(root, "devices/src/calendar-service.main.ts"),
    mailbox: join(root, "devices/src/mailbox.main.ts"),
    "report-service": join(root, "devices/src/report-service.main.ts"),
  },
  outdir: dist,
  outExtension: { ".js": ".mjs" },
  chunkNames: "[name]-[hash]",
  bundle: true,
  splitting: true,
  platform: "node",
  target: "node20",
  format: "esm",
  // What is written in the older form of modules asks for `require`.
  banner: {
    js: 'import { createRequire as makeRequire } from "node:module"; const require = makeRequire(import.meta.url);',
  },
  // It starts threads from files of its own.
  external: ["piscina", "pg-native"],
  sourcemap: false,
  logLevel: "warning",
  metafile: true,
  plugins: [workspaces, oneLanguage],
});
// A server that still runs may ask for a part of the build before; after a week nobody does.
const WEEK = 7 * 86_400_000;
const written = new Set(Object.keys(metafile.outputs).map((path) => resolve(path)));
for (const path of filesBelow(dist))
  if (!written.has(path) && path !== stamp && Date.now() - statSync(path).mtimeMs > WEEK) rmSync(path);
markBuilt(stamp, hash);
