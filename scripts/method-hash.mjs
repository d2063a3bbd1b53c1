import { createHash } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";

/** Hash of the code in folders of the core, without its tests. */
function hashOfCode(root, folders) {
  const core = path.join(root, "core");
  const files = folders
    .flatMap((folder) => readdirSync(path.join(core, folder), { recursive: true, withFileTypes: true }))
    .filter((e) => e.isFile() && e.name.endsWith(".ts") && !/\.test\.ts$|ForTests\.ts$/.test(e.name))
    .map((e) => path.relative(core, path.join(e.parentPath ?? e.path, e.name)))
    .sort();
  const hash = createHash("sha256");
  for (const file of files) hash.update(`${file}\n`).update(readFileSync(path.join(core, file)));
  return hash.digest("hex");
}

/** Hash of everything the assessments are worked out by. */
export const methodHash = (root) => hashOfCode(root, ["."]);

/** What a run of the bench is computed by: solvers, meshes, set-ups of the problems, and what they stand on. */
const COMPUTES = ["solver", "mesh", "problems", "monitors", "manufactured", "numeric"];

/** Version of the bench: the product's, with the first digits of a hash of what computes its runs. */
export function benchVersion(root) {
  const { version } = JSON.parse(readFileSync(path.join(root, "package.json"), "utf8"));
  return `${version}+${hashOfCode(root, COMPUTES).slice(0, 8)}`;
}

/** How the loops of the bench are compiled: the compiler's version, and what it is told. */
export function kernelBuild(root) {
  const { devDependencies, dependencies } = JSON.parse(readFileSync(path.join(root, "package.json"), "utf8"));
  const options = ["-O3", "--noAssert", "--runtime", "stub", "--importMemory", "--enable", "bulk-memory", "--enable", "simd"];
  return { compiler: { ...dependencies, ...devDependencies }.assemblyscript, options };
}
