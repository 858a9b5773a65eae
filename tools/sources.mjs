// Whether what was built still stands for its sources: by a hash of their contents, kept beside what was built.
import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync, utimesSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";

export const root = fileURLToPath(new URL("..", import.meta.url));

export const filesBelow = (folder) =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? filesBelow(join(folder, entry.name)) : [join(folder, entry.name)],
  );

/** @param folders with everything below them, and @param files, from the root of the project */
export function sourcesHash(folders, files) {
  const hash = createHash("sha256");
  const all = [
    ...folders.flatMap((folder) => filesBelow(join(root, folder))),
    ...files.map((file) => join(root, file)),
  ];
  for (const file of all.sort())
    hash.update(file.slice(root.length)).update("\0").update(readFileSync(file)).update("\0");
  return hash.digest("hex");
}

/** Whether the stamp names this hash; its time is renewed then, since bin/ first looks at times. */
export function isBuilt(stamp, hash) {
  if (!existsSync(stamp) || readFileSync(stamp, "utf8") !== hash) return false;
  const now = new Date();
  utimesSync(stamp, now, now);
  return true;
}

export const markBuilt = (stamp, hash) => writeFileSync(stamp, hash);
