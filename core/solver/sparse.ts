/** Compressed rows of the cell-to-cell graph, columns ascending, the diagonal among them. */
export interface SparsePattern {
  readonly size: number;
  /** row i holds entries rowStart[i] .. rowStart[i + 1) */
  readonly rowStart: Int32Array;
  readonly column: Int32Array;
  readonly diagonal: Int32Array;
  /** entry (owner, neighbour) of each joining face */
  readonly ownerEntry: Int32Array;
  /** entry (neighbour, owner) of each joining face */
  readonly neighbourEntry: Int32Array;
}

/** Pattern of a cell graph given by its joining faces; two faces may join the same pair of cells. */
export function sparsePattern(size: number, joins: number, owner: Int32Array, neighbour: Int32Array): SparsePattern {
  const rows: number[][] = Array.from({ length: size }, (_, i) => [i]);
  for (let f = 0; f < joins; f++) {
    rows[owner[f]].push(neighbour[f]);
    rows[neighbour[f]].push(owner[f]);
  }
  const rowStart = new Int32Array(size + 1);
  rows.forEach((row, i) => {
    row.sort((a, b) => a - b);
    rows[i] = row.filter((value, k) => k === 0 || value !== row[k - 1]);
    rowStart[i + 1] = rowStart[i] + rows[i].length;
  });
  const column = new Int32Array(rowStart[size]);
  const diagonal = new Int32Array(size);
  rows.forEach((row, i) => {
    column.set(row, rowStart[i]);
    diagonal[i] = rowStart[i] + row.indexOf(i);
  });
  const entry = (i: number, j: number) => rowStart[i] + rows[i].indexOf(j);
  return {
    size,
    rowStart,
    column,
    diagonal,
    ownerEntry: Int32Array.from({ length: joins }, (_, f) => entry(owner[f], neighbour[f])),
    neighbourEntry: Int32Array.from({ length: joins }, (_, f) => entry(neighbour[f], owner[f])),
  };
}

/** y = A x. */
export function multiply(p: Pick<SparsePattern, "size" | "rowStart" | "column">, values: Float64Array, x: Float64Array, y: Float64Array): void {
  const { size, rowStart, column } = p;
  for (let i = 0; i < size; i++) {
    let sum = 0;
    const end = rowStart[i + 1];
    for (let k = rowStart[i]; k < end; k++) sum += values[k] * x[column[k]];
    y[i] = sum;
  }
}

/** One symmetric Gauss-Seidel sweep (forward, then backward) on A x = b for two right-hand sides sharing A. */
export function sweepPair(p: SparsePattern, values: Float64Array, b1: Float64Array, b2: Float64Array, x1: Float64Array, x2: Float64Array): void {
  const { size, rowStart, column, diagonal } = p;
  for (let turn = 0; turn < 2; turn++) {
    const forward = turn === 0;
    for (let q = 0; q < size; q++) {
      const i = forward ? q : size - 1 - q;
      const end = rowStart[i + 1];
      let r1 = b1[i];
      let r2 = b2[i];
      for (let k = rowStart[i]; k < end; k++) {
        const j = column[k];
        const a = values[k];
        r1 -= a * x1[j];
        r2 -= a * x2[j];
      }
      const inverse = 1 / values[diagonal[i]];
      x1[i] += r1 * inverse;
      x2[i] += r2 * inverse;
    }
  }
}

/** One symmetric Gauss-Seidel sweep on A x = b. */
export function sweep(p: SparsePattern, values: Float64Array, b: Float64Array, x: Float64Array): void {
  const { size, rowStart, column, diagonal } = p;
  for (let i = 0; i < size; i++) relaxRow(i, rowStart, column, diagonal, values, b, x);
  for (let i = size - 1; i >= 0; i--) relaxRow(i, rowStart, column, diagonal, values, b, x);
}

function relaxRow(
  i: number,
  rowStart: Int32Array,
  column: Int32Array,
  diagonal: Int32Array,
  values: Float64Array,
  b: Float64Array,
  x: Float64Array,
): void {
  let r = b[i];
  const end = rowStart[i + 1];
  for (let k = rowStart[i]; k < end; k++) r -= values[k] * x[column[k]];
  x[i] += r / values[diagonal[i]];
}
