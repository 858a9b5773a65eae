import { cpSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { join, resolve } from "node:path";

const BUILT = resolve(__dirname, "../../client/dist");

const filesBelow = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? filesBelow(join(folder, entry.name)) : [join(folder, entry.name)],
  );

/** A folder whose client a server can be started on, and that can be given a newer one. */
export function ownClient(root: string): void {
  mkdirSync(join(root, "client"), { recursive: true });
  cpSync(BUILT, join(root, "client/dist"), { recursive: true });
}

/**
 * The same client as a newer version would be: every piece of code goes by another name, and the old names are gone from
 * the server.
 */
export function renewClient(root: string): void {
  const dist = join(root, "client/dist");
  const files = filesBelow(dist);
  for (const file of files) if (/\.(br|gz)$/.test(file)) rmSync(file);
  const pieces = readdirSync(join(dist, "_expo/static/js/web")).filter((name) => name.endsWith(".js"));
  const renamed = new Map(
    pieces.map((name) => [
      name,
      name.replace(/-([0-9a-f]{32})\.js$/, (_, hash: string) => `-${[...hash].reverse().join("")}.js`),
    ]),
  );
  for (const file of filesBelow(dist)) {
    if (!/\.(js|html)$/.test(file)) continue;
    let text = readFileSync(file, "utf8");
    for (const [before, after] of renamed) text = text.replaceAll(before, after);
    if (file.endsWith("index.html")) text = text.replace("</head>", '<meta name="version" content="newer" /></head>');
    // The list of what to keep names the page by a mark of its content.
    if (file.endsWith("sw.js"))
      text = text.replace(/(url:"index\.html",revision:")[^"]+|(revision:")[^"]+(",url:"index\.html")/, "$1$2f00d$3");
    writeFileSync(file, text);
  }
  for (const [before, after] of renamed)
    renameSync(join(dist, "_expo/static/js/web", before), join(dist, "_expo/static/js/web", after));
}
