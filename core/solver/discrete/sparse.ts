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
  const rowStart = arena.int32(size + 1);
  const { start, columns } = neighboursOf(size, joins, owner, neighbour);
  let kept = 0;
  for (let i = 0; i < size; i++) {
    const row = columns.subarray(start[i], start[i + 1]);
    insertionSort(row);
    for (let k = 0; k < row.length; k++) if (k === 0 || row[k] !== row[k - 1]) columns[kept++] = row[k];
    rowStart[i + 1] = kept;
  }
  const column = arena.int32(kept);
  column.set(columns.subarray(0, kept));
  const entry = (i: number, j: number) => {
    let k = rowStart[i];
    while (column[k] !== j) k++;
    return k;
  };
  const [diagonal, ownerEntry, neighbourEntry] = [arena.int32(size), arena.int32(joins), arena.int32(joins)];
  for (let i = 0; i < size; i++) diagonal[i] = entry(i, i);
  for (let f = 0; f < joins; f++) {
    ownerEntry[f] = entry(owner[f], neighbour[f]);
    neighbourEntry[f] = entry(neighbour[f], owner[f]);
  }
  return { size, rowStart, column, diagonal, ownerEntry, neighbourEntry };
}

/** Every cell with its neighbours, one entry a joining face, row after row. */
function neighboursOf(size: number, joins: number, owner: Int32Array, neighbour: Int32Array) {
  const start = new Int32Array(size + 1);
  for (let i = 0; i < size; i++) start[i + 1] = 1;
  for (let f = 0; f < joins; f++) {
    start[owner[f] + 1]++;
    start[neighbour[f] + 1]++;
  }
  for (let i = 0; i < size; i++) start[i + 1] += start[i];
  const columns = new Int32Array(start[size]);
  const next = start.slice(0, size);
  for (let i = 0; i < size; i++) columns[next[i]++] = i;
  for (let f = 0; f < joins; f++) {
    columns[next[owner[f]]++] = neighbour[f];
    columns[next[neighbour[f]]++] = owner[f];
  }
  return { start, columns };
}

/** Ascending, in place: rows are a handful of entries, for which a library's sort is slow. */
export function insertionSort(row: Int32Array): void {
  for (let k = 1; k < row.length; k++) {
    const v = row[k];
    let at = k;
    for (; at > 0 && row[at - 1] > v; at--) row[at] = row[at - 1];
    row[at] = v;
  }
}

/** Adds coefficients of the joining faces to a matrix, as conductances between their cells. */
export function addSymmetric(
  g: { readonly joins: number; readonly owner: Int32Array; readonly neighbour: Int32Array; readonly pattern: SparsePattern },
  coefficient: Float64Array,
  a: Float64Array,
): void {
  const { diagonal, ownerEntry, neighbourEntry } = g.pattern;
  for (let f = 0; f < g.joins; f++) {
    a[ownerEntry[f]] -= coefficient[f];
    a[neighbourEntry[f]] -= coefficient[f];
    a[diagonal[g.owner[f]]] += coefficient[f];
    a[diagonal[g.neighbour[f]]] += coefficient[f];
  }
}
