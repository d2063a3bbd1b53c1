import { createHash } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";

/** Hash of everything the assessments are worked out by: the core's code without its tests. */
export function methodHash(root) {
  const core = path.join(root, "core");
  const files = readdirSync(core, { recursive: true, withFileTypes: true })
    .filter((e) => e.isFile() && e.name.endsWith(".ts") && !/\.test\.ts$|ForTests\.ts$/.test(e.name))
    .map((e) => path.relative(core, path.join(e.parentPath ?? e.path, e.name)))
    .sort();
  const hash = createHash("sha256");
  for (const file of files) hash.update(`${file}\n`).update(readFileSync(path.join(core, file)));
  return hash.digest("hex");
}
