import type { SparsePattern } from "./arrays.ts";
import type { Pair } from "./plain.ts";

// Loops over the rows of the transport equations; the compiled twins are in rows.as.ts.

/** Sums over all rows: |first residual|, |second residual|, diagonal times the distance of the values from their mean. */
export type RowSums = Float64Array;

/** r -= A q for two quantities that share the matrix; takes out the diagonal and the sums a residual is measured by. */
export function residualPair(
  { size, rowStart, column, diagonal: diagonalEntry }: SparsePattern,
  values: Float64Array,
  [u, v]: Pair,
  [ru, rv]: Pair,
  meanU: number,
  meanV: number,
  diagonal: Float64Array,
  sums: RowSums,
): void {
  sums.fill(0);
  for (let i = 0; i < size; i++) {
    for (let k = rowStart[i]; k < rowStart[i + 1]; k++) {
      ru[i] -= values[k] * u[column[k]];
      rv[i] -= values[k] * v[column[k]];
    }
    diagonal[i] = values[diagonalEntry[i]];
    sums[0] += Math.abs(ru[i]);
    sums[1] += Math.abs(rv[i]);
    sums[2] += diagonal[i] * (Math.abs(u[i] - meanU) + Math.abs(v[i] - meanV));
  }
}

/** As `residualPair`, for one quantity; the second sum stays as it is. */
export function residualOne(
  { size, rowStart, column, diagonal }: SparsePattern,
  values: Float64Array,
  q: Float64Array,
  r: Float64Array,
  mean: number,
  sums: RowSums,
): void {
  sums[0] = 0;
  sums[2] = 0;
  for (let i = 0; i < size; i++) {
    for (let k = rowStart[i]; k < rowStart[i + 1]; k++) r[i] -= values[k] * q[column[k]];
    sums[0] += Math.abs(r[i]);
    sums[2] += values[diagonal[i]] * Math.abs(q[i] - mean);
  }
}

/** Momentum's rows as they are relaxed. */
export interface MomentumRows {
  readonly values: Float64Array;
  /** unrelaxed diagonal */
  readonly diagonal: Float64Array;
  /** what is added to the diagonal before it is relaxed */
  readonly around?: Float64Array;
  readonly relaxation: number;
  readonly volume: Float64Array;
  /** gets volume over what the relaxed row sums to */
  readonly mobility: Float64Array;
}

/**
 * One Gauss-Seidel sweep on A x = b, forth or back. The neighbour just found comes last into its row's sum: a compiled sweep then waits for it less.
 */
function sweep(
  { size, rowStart, column, diagonal }: SparsePattern,
  values: Float64Array,
  b: Float64Array,
  x: Float64Array,
  forth: boolean,
  solve: (r: number, d: number) => number,
): void {
  const lower = (i: number, r: number) => {
    let left = r;
    for (let k = rowStart[i]; k < diagonal[i]; k++) left -= values[k] * x[column[k]];
    return left;
  };
  const upper = (i: number, r: number) => {
    let left = r;
    for (let k = rowStart[i + 1] - 1; k > diagonal[i]; k--) left -= values[k] * x[column[k]];
    return left;
  };
  for (let q = 0; q < size; q++) {
    const i = forth ? q : size - 1 - q;
    x[i] = solve(forth ? lower(i, upper(i, b[i])) : upper(i, lower(i, b[i])), values[diagonal[i]]);
  }
}

const byInverse = (r: number, d: number) => r * (1 / d);
const byDivision = (r: number, d: number) => r / d;

/** Relaxes the rows, sweeps forth and back twice from zero on the residuals and adds what comes out to the velocity. */
export function relaxMomentum(p: SparsePattern, rows: MomentumRows, residual: Pair, change: Pair, velocity: Pair): void {
  const { size, rowStart, diagonal: entry } = p;
  const { values, diagonal, around, relaxation, volume, mobility } = rows;
  for (let i = 0; i < size; i++) {
    const d = entry[i];
    let off = values[d];
    for (let k = rowStart[i]; k < rowStart[i + 1]; k++) off -= values[k];
    const relaxed = (diagonal[i] + (around?.[i] ?? 0)) / relaxation;
    values[d] = relaxed;
    mobility[i] = volume[i] / Math.max(relaxed - off, 0.02 * relaxed);
  }
  change.forEach((x, which) => {
    x.fill(0);
    for (const forth of [true, false, true, false]) sweep(p, values, residual[which], x, forth, byInverse);
    for (let i = 0; i < size; i++) velocity[which][i] += x[i];
  });
}

/** Relaxes the rows, sweeps forth and back three times from zero on the residual and adds what comes out to the quantity. */
export function relaxQuantity(
  p: SparsePattern,
  values: Float64Array,
  relaxation: number,
  residual: Float64Array,
  change: Float64Array,
  q: Float64Array,
): void {
  for (let i = 0; i < p.size; i++) values[p.diagonal[i]] /= relaxation;
  change.fill(0);
  for (const forth of [true, false, true, false, true, false]) sweep(p, values, residual, change, forth, byDivision);
  for (let i = 0; i < p.size; i++) q[i] += change[i];
}
