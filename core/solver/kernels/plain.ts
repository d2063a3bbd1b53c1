import type { FaceArrays, SparsePattern } from "./arrays.ts";

export type Pair = readonly [Float64Array, Float64Array];

type Rows = Pick<SparsePattern, "size" | "rowStart" | "column">;

/**
 * y = A x.
 * @returns the product of x and y
 */
export function multiplyDot({ size, rowStart, column }: Rows, values: Float64Array, x: Float64Array, y: Float64Array): number {
  let product = 0;
  for (let i = 0; i < size; i++) {
    let sum = 0;
    const end = rowStart[i + 1];
    for (let k = rowStart[i]; k < end; k++) sum += values[k] * x[column[k]];
    y[i] = sum;
    product += x[i] * sum;
  }
  return product;
}

/** r -= A x. */
export function subtractProduct({ size, rowStart, column }: Rows, values: Float64Array, x: Float64Array, r: Float64Array): void {
  for (let i = 0; i < size; i++) {
    let s = r[i];
    const end = rowStart[i + 1];
    for (let k = rowStart[i]; k < end; k++) s -= values[k] * x[column[k]];
    r[i] = s;
  }
}

/** Sum of the products of entries. */
export function dot(x: Float64Array, y: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < x.length; i++) sum += x[i] * y[i];
  return sum;
}

/**
 * A step of conjugate gradients: x += step p, r -= step A p, keeping the r before.
 * @returns the product of the new r with itself
 */
export function descend(step: number, p: Float64Array, ap: Float64Array, x: Float64Array, r: Float64Array, before: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < p.length; i++) {
    x[i] += step * p[i];
    before[i] = r[i];
    r[i] -= step * ap[i];
    sum += r[i] * r[i];
  }
  return sum;
}

/** y += a x. */
export function addScaled(a: number, x: Float64Array, y: Float64Array): void {
  for (let i = 0; i < x.length; i++) y[i] += a * x[i];
}

/** Least-squares gradient over the joining faces, added to what is there. */
export function gradientOverJoins(
  g: Pick<FaceArrays, "joins" | "owner" | "neighbour">,
  factors: Float64Array,
  q: Float64Array,
  [gx, gy]: Pair,
): void {
  const { joins, owner, neighbour } = g;
  for (let f = 0; f < joins; f++) {
    const o = owner[f];
    const n = neighbour[f];
    const d = q[n] - q[o];
    const l = 4 * f;
    gx[o] += factors[l] * d;
    gy[o] += factors[l + 1] * d;
    gx[n] += factors[l + 2] * d;
    gy[n] += factors[l + 3] * d;
  }
}

/** Subtracts from each cell what leaves it through the joining faces. */
export function subtractOutflow(g: FaceArrays, flux: Float64Array, r: Float64Array): void {
  const { joins, owner, neighbour } = g;
  for (let f = 0; f < joins; f++) {
    r[owner[f]] -= flux[f];
    r[neighbour[f]] += flux[f];
  }
}

/** Corrects the flux of the joining faces by the jump of the pressure correction. */
export function correctFluxes(g: FaceArrays, faceMobility: Float64Array, correction: Float64Array, flux: Float64Array): void {
  const { joins, owner, neighbour } = g;
  for (let f = 0; f < joins; f++) flux[f] -= faceMobility[f] * (correction[neighbour[f]] - correction[owner[f]]);
}
