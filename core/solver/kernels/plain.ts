import type { FaceArrays, SparsePattern } from "./arrays.ts";
import type { ConvectionScheme } from "./schemes.ts";

export type Pair = readonly [Float64Array, Float64Array];

/** Rows of one level of the pressure solver: what its smoother reads. */
export interface SmootherRows {
  readonly size: number;
  readonly rowStart: Int32Array;
  readonly column: Int32Array;
  readonly diagonal: Int32Array;
  readonly values: Float64Array;
  readonly inverse: Float64Array;
  readonly x: Float64Array;
  readonly b: Float64Array;
}

type Rows = Pick<SparsePattern, "size" | "rowStart" | "column">;

/** y = A x. */
export function multiply({ size, rowStart, column }: Rows, values: Float64Array, x: Float64Array, y: Float64Array): void {
  for (let i = 0; i < size; i++) {
    let sum = 0;
    const end = rowStart[i + 1];
    for (let k = rowStart[i]; k < end; k++) sum += values[k] * x[column[k]];
    y[i] = sum;
  }
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

/** r -= A x for two vectors sharing A. */
export function subtractProductPair({ size, rowStart, column }: Rows, values: Float64Array, [x1, x2]: Pair, [r1, r2]: Pair): void {
  for (let i = 0; i < size; i++) {
    let s1 = r1[i];
    let s2 = r2[i];
    const end = rowStart[i + 1];
    for (let k = rowStart[i]; k < end; k++) {
      const j = column[k];
      s1 -= values[k] * x1[j];
      s2 -= values[k] * x2[j];
    }
    r1[i] = s1;
    r2[i] = s2;
  }
}

/** One symmetric Gauss-Seidel sweep (forward, then backward) on A x = b for two right-hand sides sharing A. */
export function sweepPair(p: SparsePattern, values: Float64Array, [b1, b2]: Pair, [x1, x2]: Pair): void {
  const { size, rowStart, column, diagonal } = p;
  for (let turn = 0; turn < 2; turn++) {
    for (let q = 0; q < size; q++) {
      const i = turn === 0 ? q : size - 1 - q;
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
export function sweep({ size, rowStart, column, diagonal }: SparsePattern, values: Float64Array, b: Float64Array, x: Float64Array): void {
  for (let turn = 0; turn < 2; turn++) {
    for (let q = 0; q < size; q++) {
      const i = turn === 0 ? q : size - 1 - q;
      let r = b[i];
      const end = rowStart[i + 1];
      for (let k = rowStart[i]; k < end; k++) r -= values[k] * x[column[k]];
      x[i] += r / values[diagonal[i]];
    }
  }
}

/** A forward sweep from zero; what is left over is added to the coarser right-hand side. */
export function smoothDown(level: SmootherRows, aggregate: Int32Array, coarse: Float64Array): void {
  const { size, rowStart, column, values, diagonal, inverse, x, b } = level;
  for (let i = 0; i < size; i++) {
    let s = b[i];
    const end = diagonal[i];
    for (let k = rowStart[i]; k < end; k++) s -= values[k] * x[column[k]];
    x[i] = s * inverse[i];
  }
  // After a forward sweep from zero the residual is minus the upper part times x.
  for (let i = 0; i < size; i++) {
    let s = 0;
    const end = rowStart[i + 1];
    for (let k = diagonal[i] + 1; k < end; k++) s -= values[k] * x[column[k]];
    coarse[aggregate[i]] += s;
  }
}

/** Adds the coarser solution, then sweeps backward. */
export function smoothUp(level: SmootherRows, aggregate: Int32Array, coarse: Float64Array): void {
  const { size, rowStart, column, values, inverse, x, b } = level;
  for (let i = 0; i < size; i++) x[i] += coarse[aggregate[i]];
  for (let i = size - 1; i >= 0; i--) {
    let s = b[i];
    const end = rowStart[i + 1];
    for (let k = rowStart[i]; k < end; k++) s -= values[k] * x[column[k]];
    x[i] += s * inverse[i];
  }
}

/** Adds every entry of a matrix to the coarser one's entry it belongs to. */
export function sumEntries(fine: Float64Array, coarseEntry: Int32Array, coarse: Float64Array): void {
  for (let k = 0; k < coarseEntry.length; k++) coarse[coarseEntry[k]] += fine[k];
}

/** Sum of the products of entries. */
export function dot(x: Float64Array, y: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < x.length; i++) sum += x[i] * y[i];
  return sum;
}

/** y += a x. */
export function addScaled(a: number, x: Float64Array, y: Float64Array): void {
  for (let i = 0; i < x.length; i++) y[i] += a * x[i];
}

/** y = x + a y. */
export function scaleAndAdd(x: Float64Array, a: number, y: Float64Array): void {
  for (let i = 0; i < x.length; i++) y[i] = x[i] + a * y[i];
}

/** Least-squares gradient over the joining faces, added to what is there. */
export function gradientOverJoins(g: FaceArrays, factors: Float64Array, q: Float64Array, [gx, gy]: Pair): void {
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

/**
 * First-order upwind convection and the orthogonal part of diffusion over the joining faces, added to the matrix.
 * The diagonal leaves out the sum of the fluxes: it vanishes at the end and upsets the matrix before.
 */
export function assembleUpwind(g: FaceArrays, flux: Float64Array, diffusivity: number, a: Float64Array): void {
  const { joins, owner, neighbour, conductance, pattern } = g;
  const { diagonal, ownerEntry, neighbourEntry } = pattern;
  for (let f = 0; f < joins; f++) {
    const F = flux[f];
    const d = diffusivity * conductance[f];
    const out = F > 0 ? F : 0;
    const into = F < 0 ? F : 0;
    a[ownerEntry[f]] += into - d;
    a[neighbourEntry[f]] -= out + d;
    a[diagonal[owner[f]]] += d - into;
    a[diagonal[neighbour[f]]] += d + out;
  }
}

/** Conductances of the joining faces as a symmetric matrix, added to what is there. */
export function assembleSymmetric(g: FaceArrays, coefficient: Float64Array, a: Float64Array): void {
  const { joins, owner, neighbour, pattern } = g;
  const { diagonal, ownerEntry, neighbourEntry } = pattern;
  for (let f = 0; f < joins; f++) {
    a[ownerEntry[f]] -= coefficient[f];
    a[neighbourEntry[f]] -= coefficient[f];
    a[diagonal[owner[f]]] += coefficient[f];
    a[diagonal[neighbour[f]]] += coefficient[f];
  }
}

/** Subtracts from the residual what the scheme adds to upwind and the non-orthogonal part of diffusion, both explicit. */
export function subtractDeferred(
  g: FaceArrays,
  scheme: ConvectionScheme,
  flux: Float64Array,
  diffusivity: number,
  q: Float64Array,
  [gx, gy]: Pair,
  residual: Float64Array,
): void {
  const { joins, owner, neighbour, weight, kx, ky, ox, oy, nx, ny, dx, dy, tx, ty } = g;
  const central = scheme === "central";
  const linear = scheme === "linear-upwind";
  const limited = scheme === "limited";
  for (let f = 0; f < joins; f++) {
    const o = owner[f];
    const n = neighbour[f];
    const F = flux[f];
    const w = weight[f];
    const w1 = 1 - w;
    const fx = w * gx[o] + w1 * gx[n];
    const fy = w * gy[o] + w1 * gy[n];
    let high = 0;
    if (central) {
      high = w * q[o] + w1 * q[n] + fx * kx[f] + fy * ky[f] - (F >= 0 ? q[o] : q[n]);
    } else if (linear) {
      high = F >= 0 ? gx[o] * ox[f] + gy[o] * oy[f] : gx[n] * nx[f] + gy[n] * ny[f];
    } else if (limited) {
      const jump = F >= 0 ? q[n] - q[o] : q[o] - q[n];
      const slope = F >= 0 ? gx[o] * dx[f] + gy[o] * dy[f] : -(gx[n] * dx[f] + gy[n] * dy[f]);
      const r = Math.abs(jump) > 1e-300 ? (2 * slope) / jump - 1 : 1;
      // van Leer's limiter: 1 for a straight profile, which then is taken as by central differences.
      high = (r > 0 ? (2 * r) / (1 + r) : 0) * (F >= 0 ? w1 : w) * jump;
    }
    const s = F * high - diffusivity * (fx * tx[f] + fy * ty[f]);
    residual[o] -= s;
    residual[n] += s;
  }
}

/** Pressure on the joining faces, corrected for skewness by slopes, times their area: into the sum of each cell. */
export function pressureFaces(g: FaceArrays, p: Float64Array, [hx, hy]: Pair, [gx, gy]: Pair): void {
  const { joins, owner, neighbour, weight, kx, ky, sx, sy } = g;
  for (let f = 0; f < joins; f++) {
    const o = owner[f];
    const n = neighbour[f];
    const w = weight[f];
    const w1 = 1 - w;
    const pf = w * p[o] + w1 * p[n] + (w * hx[o] + w1 * hx[n]) * kx[f] + (w * hy[o] + w1 * hy[n]) * ky[f];
    gx[o] += pf * sx[f];
    gy[o] += pf * sy[f];
    gx[n] -= pf * sx[f];
    gy[n] -= pf * sy[f];
  }
}

/** Flux of the linearly interpolated velocity through the joining faces. */
export function velocityFaces(g: FaceArrays, [u, v]: Pair, [gux, guy]: Pair, [gvx, gvy]: Pair, out: Float64Array): void {
  const { joins, owner, neighbour, weight, kx, ky, sx, sy } = g;
  for (let f = 0; f < joins; f++) {
    const o = owner[f];
    const n = neighbour[f];
    const w = weight[f];
    const w1 = 1 - w;
    const uf = w * u[o] + w1 * u[n] + (w * gux[o] + w1 * gux[n]) * kx[f] + (w * guy[o] + w1 * guy[n]) * ky[f];
    const vf = w * v[o] + w1 * v[n] + (w * gvx[o] + w1 * gvx[n]) * kx[f] + (w * gvy[o] + w1 * gvy[n]) * ky[f];
    out[f] = uf * sx[f] + vf * sy[f];
  }
}

/** What momentum interpolation takes from the flux of the joining faces: the pressure's jump less its smoothed slope. */
export function pressureFluxes(g: FaceArrays, p: Float64Array, [gpx, gpy]: Pair, diagonal: Float64Array, flux: Float64Array): void {
  const { joins, owner, neighbour, weight, conductance, dx, dy, volume } = g;
  for (let f = 0; f < joins; f++) {
    const o = owner[f];
    const n = neighbour[f];
    const w = weight[f];
    const w1 = 1 - w;
    const mobility = (w * volume[o]) / diagonal[o] + (w1 * volume[n]) / diagonal[n];
    const smoothed = (w * gpx[o] + w1 * gpx[n]) * dx[f] + (w * gpy[o] + w1 * gpy[n]) * dy[f];
    flux[f] -= mobility * conductance[f] * (p[n] - p[o] - smoothed);
  }
}

/** Mobility at the joining faces times their conductance. */
export function faceMobilities(g: FaceArrays, mobility: Float64Array, out: Float64Array): void {
  const { joins, owner, neighbour, weight, conductance } = g;
  for (let f = 0; f < joins; f++) {
    const w = weight[f];
    out[f] = (w * mobility[owner[f]] + (1 - w) * mobility[neighbour[f]]) * conductance[f];
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
