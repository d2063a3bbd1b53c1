import { readFileSync } from "node:fs";
import type { Grid } from "../core/dataset/grid.ts";
import { readVtkGrid } from "../core/formats/vtk/readGrid.ts";

/** How much memory reading one file takes beyond the file itself, at its highest, over the arrays it makes: as JSON. */
const bytes = new Uint8Array(readFileSync(process.argv[2]).buffer);
const before = process.resourceUsage().maxRSS * 1024;
const grid = readVtkGrid(bytes);
const highest = process.resourceUsage().maxRSS * 1024;
process.stdout.write(JSON.stringify({ ratio: (highest - before) / sizeOf(grid) }));

function sizeOf({ points, kinds, cellStart, corners, onPoints, onCells }: Grid): number {
  return [points, kinds, cellStart, corners, ...[...onPoints, ...onCells].map((a) => a.values)].reduce((sum, a) => sum + a.byteLength, 0);
}
