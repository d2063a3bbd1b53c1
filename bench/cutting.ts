import { cellTree } from "../core/dataset/cellTree.ts";
import { acrossAxis, cutGrid } from "../core/dataset/cutGrid.ts";
import { gridQuality } from "../core/dataset/gridQuality.ts";
import { block } from "./blocks.ts";
import { cpuSeconds, fastest } from "./cpu.ts";

/** CPU seconds of plane cuts through so many hexahedra a side and of their quality: as JSON. */
const large = block(Number(process.argv[2]));
const tree = cellTree(large);
const across = acrossAxis(2, 0.503);
const cut = fastest(9, () => void cutGrid(large, across, tree));
const plane = (i: number): number => {
  const normal = [Math.sin(i), Math.cos(3 * i), Math.sin(7 * i + 1)] as const;
  return cpuSeconds(() => void cutGrid(large, { normal, through: [0.5, 0.5, 0.5] }, tree));
};
// The first ones work out the ways in which a cell can be cut, once for all.
for (let i = 60; i < 65; i++) plane(i);
const askew = Array.from({ length: 60 }, (_, i) => plane(i)).sort((a, b) => a - b);
const quality = fastest(2, () => void gridQuality(large));
process.stdout.write(JSON.stringify({ cut, "askew, median": askew[30], "askew, 95th": askew[56], quality }));
