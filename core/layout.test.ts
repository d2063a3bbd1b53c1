import { existsSync } from "node:fs";
import path from "node:path";
import { describe, expect, test } from "vitest";
import { circlesIn, importsOf } from "../scripts/imports.ts";
import { RULE_TEXTS } from "./assessment/rules.ts";

/** Folders of the core, lowest first: a file imports from its own folder and from those before it, never from one after it. */
const ORDER = [
  "numeric",
  "units",
  "formatting",
  "remarks",
  "mesh",
  "dataset",
  "figure",
  "records",
  "formats",
  "formats/vtk",
  "formats/cgns",
  "formats/surface",
  "intake",
  "exact",
  "tables",
  "manufactured",
  "method/setup",
  "method/iteration",
  "method/averaging",
  "method/refinement",
  "method/comparison",
  "method/coverage",
  "method/balance",
  "method/propagation",
  "method/budget",
  "method/credibility",
  "solver/kernels",
  "solver/discrete",
  "solver",
  "solver/readings",
  "solver/multigrid",
  "solver/incompressible",
  "solver/gas",
  "monitors",
  "monitors/reach",
  "monitors/space",
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
  "assessment/credibility",
  "assessment",
  "drawing",
];

const CORE = path.join(import.meta.dirname);
const imports = importsOf(CORE);
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
    expect(circlesIn(imports)).toEqual([]);
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
