// Bundles the server and the workspaces it stands on into server/dist/start.mjs; npm packages stay outside.
import { build } from "esbuild";
import { fileURLToPath } from "node:url";
import { join } from "node:path";

const root = fileURLToPath(new URL("..", import.meta.url));

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

await build({
  entryPoints: {
    start: join(root, "server/src/start.ts"),
    restore: join(root, "server/src/restore.ts"),
    backup: join(root, "server/src/backup.ts"),
    "compute.worker": join(root, "server/src/compute/compute.worker.ts"),
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
  plugins: [workspaces],
});
