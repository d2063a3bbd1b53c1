import { type Arena, plainArena } from "../kernels/arena.ts";
import type { SparsePattern } from "../kernels/arrays.ts";

/** Pattern of a cell graph given by its joining faces; two faces may join the same pair of cells. */
export function sparsePattern(
  size: number,
  joins: number,
  owner: Int32Array,
  neighbour: Int32Array,
  arena: Pick<Arena, "int32"> = plainArena(),
): SparsePattern {
  const rows: number[][] = Array.from({ length: size }, (_, i) => [i]);
  for (let f = 0; f < joins; f++) {
    rows[owner[f]].push(neighbour[f]);
    rows[neighbour[f]].push(owner[f]);
  }
  const rowStart = arena.int32(size + 1);
  rows.forEach((row, i) => {
    row.sort((a, b) => a - b);
    rows[i] = row.filter((value, k) => k === 0 || value !== row[k - 1]);
    rowStart[i + 1] = rowStart[i] + rows[i].length;
  });
  const column = arena.int32(rowStart[size]);
  const diagonal = arena.int32(size);
  rows.forEach((row, i) => {
    column.set(row, rowStart[i]);
    diagonal[i] = rowStart[i] + row.indexOf(i);
  });
  const entry = (i: number, j: number) => rowStart[i] + rows[i].indexOf(j);
  const ownerEntry = arena.int32(joins);
  const neighbourEntry = arena.int32(joins);
  for (let f = 0; f < joins; f++) {
    ownerEntry[f] = entry(owner[f], neighbour[f]);
    neighbourEntry[f] = entry(neighbour[f], owner[f]);
  }
  return { size, rowStart, column, diagonal, ownerEntry, neighbourEntry };
}
