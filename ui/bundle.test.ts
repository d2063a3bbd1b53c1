import { existsSync, readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, test } from "vitest";

const ROOT = path.join(import.meta.dirname, "..");
/** What of these folders pages may load: names of choices, and one formula. */
const ALLOWED = ["core/solver/kernels/schemes.ts", "core/solver/gas/gas.ts", "core/exact/plates.ts"];
const HEAVY = /^core\/(solver|exact|tables|manufactured|problems\/(build|truth))\//;
/** Imports that stay in what is sent: those of types alone do not. */
const VALUE_IMPORT = /^(?:import|export) (?!type )([^"]*?)from "([^"]+)";/gm;

function fileOf(from: string, spec: string): string | undefined {
  const base = spec.startsWith("@/") ? path.join(ROOT, spec.slice(2)) : spec.startsWith(".") ? path.join(path.dirname(from), spec) : undefined;
  return base && ["", ".ts", ".tsx"].map((end) => base + end).find((f) => existsSync(f) && /\.tsx?$/.test(f));
}

function loadedBy(file: string): string[] {
  return [...readFileSync(file, "utf8").matchAll(VALUE_IMPORT)].flatMap(([, names, spec]) => {
    const onlyTypes =
      /^\{/.test(names) &&
      names
        .replace(/[{}]/g, "")
        .split(",")
        .every((n) => n.trim() === "" || n.trim().startsWith("type "));
    const found = onlyTypes ? undefined : fileOf(file, spec);
    return found ? [found] : [];
  });
}

/** Everything a page's component brings along, with the way it came. */
function closure(start: string): Map<string, string[]> {
  const ways = new Map<string, string[]>([[start, [start]]]);
  for (const [file, way] of ways) for (const next of loadedBy(file)) if (!ways.has(next)) ways.set(next, [...way, next]);
  return ways;
}

const components = readdirSync(path.join(ROOT, "ui"), { recursive: true, withFileTypes: true })
  .filter((e) => e.isFile() && /\.tsx?$/.test(e.name) && !/\.(test|worker)\.ts$/.test(e.name))
  .map((e) => path.join(e.parentPath, e.name));

describe("what pages load", () => {
  test("no component brings a solver, a kernel or a template's mesh builder along: the worker alone has them", () => {
    const heavy = components.flatMap((start) =>
      [...closure(start)].flatMap(([file, way]) => {
        const name = path.relative(ROOT, file);
        return HEAVY.test(name) && !ALLOWED.includes(name) ? [way.map((f) => path.relative(ROOT, f)).join(" -> ")] : [];
      }),
    );
    expect(heavy).toEqual([]);
    expect(components.length).toBeGreaterThan(40);
  });
  test("no page brings the package of units or expressions along: entries are made as text, and read, by the server", () => {
    const pages = components.filter((f) => /(Stage|Board|NewCase|Findings|Bench)\.tsx$/.test(f));
    const heavy = pages.flatMap((start) => [...closure(start)].filter(([file]) => /core\/(units\/units|numeric\/expressions)\.ts$/.test(file)));
    expect(heavy.map(([, way]) => way.map((f) => path.relative(ROOT, f)).join(" -> "))).toEqual([]);
    expect(pages.length).toBeGreaterThan(11);
  });
  test.each(["ui/shell/HeadRule.tsx", "ui/charts/MiniRule.tsx", "ui/stages/verdict/VerdictStage.tsx", "ui/stages/question/QuestionStage.tsx"])(
    "%s lays out no chart: its scales come with the charts",
    (start) => {
      const all = closure(path.join(ROOT, start));
      const laid = [...all].filter(([file]) => /from "d3-(scale|shape)"/.test(readFileSync(file, "utf8")));
      expect(laid.map(([, way]) => way.map((f) => path.relative(ROOT, f)).join(" -> "))).toEqual([]);
      expect([...all.keys()].map((f) => path.relative(ROOT, f))).toContain(start);
    },
  );
  test("what is said of a quantity of a mesh is printed without what works it out", () => {
    const names = [...closure(path.join(ROOT, "ui/stages/meshes/SpaceMesh.tsx")).keys()].map((f) => path.relative(ROOT, f));
    expect(names).toContain("core/dataset/metrics.ts");
    expect(names.filter((f) => /core\/dataset\/(grid|wallLayers|layerWalk)/.test(f))).toEqual([]);
  });
  test("the worker has all of them", () => {
    const names = [...closure(path.join(ROOT, "ui/engine/engine.worker.ts")).keys()].map((f) => path.relative(ROOT, f));
    expect(names).toContain("core/problems/build/catalogue.ts");
    expect(names).toContain("core/solver/incompressible/steadyFlow.ts");
  });
});
