// Bundles the server and the workspaces it stands on into server/dist/start.mjs; npm packages stay outside.
import { build } from "esbuild";
import { fileURLToPath } from "node:url";
import { join } from "node:path";

const root = fileURLToPath(new URL("..", import.meta.url));
const workspace = (name) => join(root, name, "src/index.ts");

await build({
  entryPoints: {
    start: join(root, "server/src/start.ts"),
    restore: join(root, "server/src/restore.ts"),
    backup: join(root, "server/src/backup.ts"),
  },
  outdir: join(root, "server/dist"),
  outExtension: { ".js": ".mjs" },
  bundle: true,
  platform: "node",
  target: "node20",
  format: "esm",
  packages: "external",
  sourcemap: true,
  logLevel: "warning",
  alias: {
    "@winter-bead/core": workspace("core"),
    "@winter-bead/contract": workspace("contract"),
    "@winter-bead/demo": workspace("demo"),
  },
});
