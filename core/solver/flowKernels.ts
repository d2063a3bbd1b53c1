import type { FlowGeometry } from "./flowGeometry.ts";

/** How the convected value at a face is taken; all but "upwind" are second order where the field is smooth. */
export type ConvectionScheme = "upwind" | "central" | "linear-upwind" | "limited";
export const SCHEMES: readonly ConvectionScheme[] = ["upwind", "central", "linear-upwind", "limited"];

export type Pair = [Float64Array, Float64Array];

/** Least-squares gradient of a cell field with the boundary values that take part in the factors, 1/m. */
export function gradient(g: FlowGeometry, factors: Float64Array, q: Float64Array, qb: Float64Array, [gx, gy]: Pair): void {
  const { joins, faces, owner, neighbour } = g;
  gx.fill(0);
  gy.fill(0);
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
  for (let f = joins; f < faces; f++) {
    const o = owner[f];
    const d = qb[f - joins] - q[o];
    gx[o] += factors[4 * f] * d;
    gy[o] += factors[4 * f + 1] * d;
  }
}

/**
 * First-order upwind convection and the orthogonal part of diffusion over the joining faces.
 * The diagonal leaves out the sum of the fluxes: it vanishes at the end and upsets the matrix before.
 */
export function assembleUpwind(g: FlowGeometry, flux: Float64Array, diffusivity: number, a: Float64Array): void {
  const { joins, owner, neighbour, conductance, pattern } = g;
  const { diagonal, ownerEntry, neighbourEntry } = pattern;
  a.fill(0);
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

/** Subtracts from the residual what the scheme adds to upwind and the non-orthogonal part of diffusion, both explicit. */
export function subtractDeferred(
  g: FlowGeometry,
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

/** residual -= A q. */
export function subtractProduct(g: FlowGeometry, a: Float64Array, q: Float64Array, residual: Float64Array): void {
  const { rowStart, column, size } = g.pattern;
  for (let c = 0; c < size; c++) {
    let s = residual[c];
    const end = rowStart[c + 1];
    for (let k = rowStart[c]; k < end; k++) s -= a[k] * q[column[k]];
    residual[c] = s;
  }
}
