import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { type CellTree, cellTree } from "../core/dataset/cellTree.ts";
import { acrossAxis, cutGrid } from "../core/dataset/cutGrid.ts";
import { Finder } from "../core/dataset/finder.ts";
import type { Grid } from "../core/dataset/grid.ts";
import { gridQuality } from "../core/dataset/gridQuality.ts";
import { boxFaces, polygons } from "../core/dataset/made.ts";
import { stitch } from "../core/dataset/stitch.ts";
import { streamline } from "../core/dataset/streamline.ts";
import { surfaceForces } from "../core/dataset/surfaceForces.ts";
import { block } from "./blocks.ts";
import { fastest } from "./cpu.ts";
import { say } from "./say.ts";

/** cells along a side of the largest grid */
const SIDE = 100;

/** What a file of the bench finds in a process of its own: beside all that is loaded here, collecting garbage counts for more than the work. */
const alone = (file: string, ...words: string[]): Readonly<Record<string, number>> =>
  JSON.parse(spawnSync(process.execPath, ["--import", "tsx", `bench/${file}`, ...words], { encoding: "utf8" }).stdout);

/** Follows a hundred lines through a flow that turns and rises. */
function streamlines(grid: Grid, tree: CellTree): () => void {
  const values = new Float64Array(grid.points.length);
  for (let q = 0; q < values.length; q += 3) values.set([0.5 - grid.points[q + 1], grid.points[q] - 0.5, 0.1], q);
  const finder = new Finder(grid, tree);
  return () => {
    for (let k = 0; k < 100; k++) streamline(finder, { name: "U", components: 3, values }, [0.5 + 0.004 * k, 0.5, 0.1], 1, 0.8);
  };
}

/** How time grows from an eighth of the cells to all of them, and against an independent library where it is installed. */
export function space(): void {
  say("## Grids and surfaces in space");
  say("");
  const read = reading();
  const cuts = alone("cutting.ts", String(SIDE));
  const [small, large] = [block(SIDE / 2), block(SIDE)];
  const [few, many] = [cellTree(small), cellTree(large)];
  const across = acrossAxis(2, 0.503);
  const rows: [string, number, number, number][] = [
    ["boxes round the cells", fastest(2, () => void cellTree(small)), fastest(2, () => void cellTree(large)), 8],
    ["plane cut, every cell asked", fastest(3, () => void cutGrid(small, across)), fastest(3, () => void cutGrid(large, across)), 8],
    ["plane cut by the boxes", fastest(9, () => void cutGrid(small, across, few)), fastest(9, () => void cutGrid(large, across, many)), 4],
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
  rows.push(["100 lines along a velocity", fastest(2, streamlines(small, few)), fastest(2, streamlines(large, many)), 2]);
  say("| what | CPU s, smaller | CPU s, larger | times as many | times as long |");
  say("|---|---|---|---|---|");
  for (const [what, a, b, times] of rows) say(`| ${what} | ${a.toFixed(3)} | ${b.toFixed(3)} | ${times} | ${(b / a).toFixed(1)} |`);
  say("");
  say(`The larger grid has ${SIDE ** 3} hexahedra, the larger surface ${6 * 288 ** 2} quadrilaterals (${12 * 288 ** 2} triangles).`);
  say("");
  say(
    `Sixty planes askew through its middle, after five others: ${(1000 * cuts["askew, median"]).toFixed(0)} ms in the median, ${(1000 * cuts["askew, 95th"]).toFixed(0)} ms at the 95th percentile.`,
  );
  say("");
  if (!read) {
    say("Debian's python3-vtk9 is not installed: nothing is held against it.");
    return;
  }
  const ours: Readonly<Record<string, number>> = { ...read.ours, ...cuts };
  say("| what, a million hexahedra | ours, CPU s | an independent library, CPU s | ours over theirs |");
  say("|---|---|---|---|");
  for (const [what, seconds] of Object.entries(read.theirs))
    say(`| ${what} | ${ours[what].toFixed(3)} | ${seconds.toFixed(3)} | ${(ours[what] / seconds).toFixed(2)} |`);
  say("");
  say(
    `Reading the packed file takes ${(ours["read zlib"] / ours["unpack alone"]).toFixed(2)} times as long as unpacking its blocks and nothing else.`,
  );
  say("");
  say(
    `Beyond the file itself reading takes ${["raw", "zlib", "ascii"].map((kind) => `${ours[`memory ${kind}`].toFixed(1)} (${kind})`).join(", ")} times the memory of the arrays it makes, at its highest (aim: 3).`,
  );
  say("");
  say(
    "Seven metrics of ours against one of its; its reader leaves the file's arrays as they are, ours makes them doubles; cuts are by boxes that are laid out once.",
  );
}

/** CPU seconds of Debian's python3-vtk9 with the same cells, on one thread, and of ours reading its files; nothing where it is not installed. */
function reading(): Readonly<Record<"theirs" | "ours", Readonly<Record<string, number>>>> | undefined {
  const python = "/usr/bin/python3";
  if (spawnSync(python, ["-c", "import vtk"]).status !== 0) return undefined;
  const folder = mkdtempSync(path.join(tmpdir(), "tin-ruler-space-"));
  try {
    spawnSync(python, ["bench/space.py", folder, String(SIDE)], { stdio: "inherit" });
    const theirs = JSON.parse(readFileSync(path.join(folder, "seconds.json"), "utf8")) as Record<string, number>;
    const ours = {
      ...alone("readings.ts", folder),
      ...Object.fromEntries(["raw", "zlib", "ascii"].map((kind) => [`memory ${kind}`, alone("memory.ts", path.join(folder, `${kind}.vtu`)).ratio])),
    };
    return { theirs, ours };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
