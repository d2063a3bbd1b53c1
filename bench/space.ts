import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { cutGrid } from "../core/dataset/cutGrid.ts";
import type { Grid } from "../core/dataset/grid.ts";
import { gridQuality } from "../core/dataset/gridQuality.ts";
import { boxFaces, hexahedra, polygons } from "../core/dataset/made.ts";
import { stitch } from "../core/dataset/stitch.ts";
import { surfaceForces } from "../core/dataset/surfaceForces.ts";
import { readVtkGrid } from "../core/formats/vtk/readGrid.ts";
import { cpuSeconds } from "./cpu.ts";
import { say } from "./say.ts";

/** cells along a side of the largest grid */
const SIDE = 100;

/** n hexahedra a side. */
const block = (n: number): Grid =>
  hexahedra([n, n, n], (i, j, k) => [i / n, j / n, k / n], [{ name: "p", components: 1, values: new Float64Array(n ** 3) }]);

const fastest = (times: number, work: () => void): number => Math.min(...Array.from({ length: times }, () => cpuSeconds(work)));

/** How time grows from an eighth of the cells to all of them, and against an independent library where it is installed. */
export function space(): void {
  say("## Grids and surfaces in space");
  say("");
  const [small, large] = [block(SIDE / 2), block(SIDE)];
  const rows: [string, number, number, number][] = [
    ["plane cut", fastest(3, () => void cutGrid(small, 2, 0.503)), fastest(3, () => void cutGrid(large, 2, 0.503)), 8],
    ["quality of the cells", fastest(1, () => void gridQuality(small)), fastest(1, () => void gridQuality(large)), 8],
  ];
  const forces = (n: number) => {
    const s = stitch(polygons(boxFaces([0, 0, 0], [2, 1, 0.5], n)));
    const values = Float64Array.from(s.surface.corners, (q) => s.surface.points[3 * q]);
    const inputs = { pressure: { on: "corners" as const, components: 1 as const, values }, referencePa: 0, about: [0, 0, 0] as const, sign: s.sign };
    const patchOf = new Int32Array(s.surface.cellOf.length);
    return fastest(2, () => void surfaceForces(s.surface, inputs, patchOf, 1));
  };
  rows.push(["forces over a surface", forces(144), forces(288), 4]);
  say("| what | CPU s, smaller | CPU s, larger | times as many | times as long |");
  say("|---|---|---|---|---|");
  for (const [what, a, b, times] of rows) say(`| ${what} | ${a.toFixed(3)} | ${b.toFixed(3)} | ${times} | ${(b / a).toFixed(1)} |`);
  say("");
  say(`The larger grid has ${SIDE ** 3} hexahedra, the larger surface ${6 * 288 ** 2} quadrilaterals (${12 * 288 ** 2} triangles).`);
  say("");
  against(large);
}

/** Seconds of Debian's python3-vtk9 with the same cells, on one thread. */
function against(large: Grid): void {
  const python = "/usr/bin/python3";
  if (spawnSync(python, ["-c", "import vtk"]).status !== 0) {
    say("Debian's python3-vtk9 is not installed: nothing is held against it.");
    return;
  }
  const folder = mkdtempSync(path.join(tmpdir(), "tin-ruler-space-"));
  try {
    spawnSync(python, ["bench/space.py", folder, String(SIDE)], { stdio: "inherit" });
    const theirs = JSON.parse(readFileSync(path.join(folder, "seconds.json"), "utf8")) as Record<string, number>;
    const ours: Record<string, number> = {
      cut: fastest(3, () => void cutGrid(large, 2, 0.503)),
      quality: fastest(1, () => void gridQuality(large)),
    };
    for (const kind of ["raw", "zlib", "ascii"]) {
      const bytes = Uint8Array.from(readFileSync(path.join(folder, `${kind}.vtu`)));
      ours[`read ${kind}`] = fastest(2, () => void readVtkGrid(bytes));
    }
    say("| what, a million hexahedra | ours, CPU s | an independent library, CPU s | ours over theirs |");
    say("|---|---|---|---|");
    for (const [what, seconds] of Object.entries(theirs))
      say(`| ${what} | ${ours[what].toFixed(2)} | ${seconds.toFixed(2)} | ${(ours[what] / seconds).toFixed(2)} |`);
    say("");
    say("Seven metrics of ours against one of its; its reader leaves the file's arrays as they are, ours makes them doubles.");
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
