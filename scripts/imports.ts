import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";

/** Source files by their path below a folder, with the files they import. */
export type Imports = ReadonlyMap<string, readonly string[]>;

const IMPORT = /(?:(?:^import|^export)[^"]*from |\bimport\()"(\.[^"]+)"/gm;

/** Source files below a folder with the files they import, types and what is fetched later too; tests and what only tests use are left out. */
export function importsOf(folder: string): Imports {
  const found = new Map<string, string[]>();
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile() || !entry.name.endsWith(".ts") || /\.(test|as|d)\.ts$|ForTests\.ts$/.test(entry.name)) continue;
    const file = path.join(entry.parentPath, entry.name);
    const text = readFileSync(file, "utf8");
    const targets = [...text.matchAll(IMPORT)].map((m) => path.relative(folder, path.join(path.dirname(file), m[1])));
    found.set(path.relative(folder, file), targets);
  }
  return found;
}

/** Circles of files that import one another, each written from file to file. */
export function circlesIn(imports: Imports): string[] {
  const state = new Map<string, "open" | "done">();
  const circles: string[] = [];
  const visit = (file: string, way: readonly string[]) => {
    if (state.get(file) === "done") return;
    if (state.get(file) === "open") {
      circles.push([...way.slice(way.indexOf(file)), file].join(" -> "));
      return;
    }
    state.set(file, "open");
    for (const target of imports.get(file) ?? []) visit(target, [...way, file]);
    state.set(file, "done");
  };
  for (const file of imports.keys()) visit(file, []);
  return circles;
}
