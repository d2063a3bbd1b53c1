import { existsSync, readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, test } from "vitest";
import { RULE_TEXTS } from "./assessment/rules.ts";

/** Folders of the core, lowest first: a file imports from its own folder and from those before it, never from one after it. */
const ORDER = [
  "numeric",
  "units",
  "formatting",
  "remarks",
  "mesh",
  "records",
  "formats",
  "intake",
  "exact",
  "tables",
  "manufactured",
  "method/setup",
  "method/iteration",
  "method/averaging",
  "method/refinement",
  "method/comparison",
  "method/balance",
  "method/propagation",
  "method/budget",
  "solver/kernels",
  "solver/discrete",
  "solver",
  "solver/readings",
  "solver/multigrid",
  "solver/incompressible",
  "solver/gas",
  "monitors",
  "problems/describe",
  "problems/truth",
  "problems/build",
  "study",
  "assessment/results",
  "assessment/stages",
  "assessment/derived",
  "assessment/question",
  "assessment/yardsticks",
  "assessment/meshes",
  "assessment/runs",
  "assessment/settling",
  "assessment/balance",
  "assessment/refinement",
  "assessment/budget/sources",
  "assessment/budget",
  "assessment/comparison",
  "assessment/verdict",
  "assessment",
  "drawing",
];

const CORE = path.join(import.meta.dirname);
const IMPORT = /(?:^import|^export)[^"]*from "(\.[^"]+)"/gm;

/** Source files of the core with the files they import, by their path below it; tests and what only tests use are left out. */
function importsOf(): Map<string, string[]> {
  const found = new Map<string, string[]>();
  for (const entry of readdirSync(CORE, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile() || !entry.name.endsWith(".ts") || /\.(test|as|d)\.ts$|ForTests\.ts$/.test(entry.name)) continue;
    const file = path.join(entry.parentPath, entry.name);
    const text = readFileSync(file, "utf8");
    const targets = [...text.matchAll(IMPORT)].map((m) => path.relative(CORE, path.join(path.dirname(file), m[1])));
    found.set(path.relative(CORE, file), targets);
  }
  return found;
}

const imports = importsOf();
const rank = (file: string) => ORDER.indexOf(path.dirname(file));

describe("the layout of the core", () => {
  test("every file lies in a folder of the list, and the list names no other", () => {
    expect([...imports.keys()].filter((f) => rank(f) < 0)).toEqual([]);
    const used = new Set([...imports.keys()].map((f) => path.dirname(f)));
    expect(ORDER.filter((folder) => !used.has(folder))).toEqual([]);
  });
  test("no import points up", () => {
    const up = [...imports].flatMap(([file, targets]) => targets.filter((t) => rank(t) > rank(file)).map((t) => `${file} -> ${t}`));
    expect(up).toEqual([]);
  });
  test("no files import one another in a circle", () => {
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
    expect(circles).toEqual([]);
  });
  test("nothing but packages and itself: the core reaches for no other part of the application", () => {
    const outside = [...imports].flatMap(([file, targets]) => targets.filter((t) => t.startsWith("..")).map((t) => `${file} -> ${t}`));
    expect(outside).toEqual([]);
    expect(imports.size).toBeGreaterThan(100);
  });
  test("the file a rule names as its home is there", () => {
    expect(RULE_TEXTS.filter((r) => !existsSync(path.join(CORE, "..", r.file))).map((r) => r.file)).toEqual([]);
  });
});
