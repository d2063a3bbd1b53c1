import type { FaceGeometry } from "../discrete/flowGeometry.ts";
import { contactFlux, type Limiter, linearisedFlux, type RiemannFlux } from "./gas.ts";
import type { Neighbourhood } from "./neighbourhood.ts";

/** Four primitive values a cell, side by side: density, u, v, pressure. */
export type States = Float64Array;

/** Face data side by side: unit normal, area; from owner's and neighbour's centroid to the face's centre. */
export interface GasFaces {
  /** nx, ny, area a face */
  readonly normal: Float64Array;
  /** owner x, y, neighbour x, y a face */
  readonly arm: Float64Array;
}

/** Unit normals with areas, and arms from the cells, of all faces, in the order the loops read them. */
export function gasFaces(g: FaceGeometry): GasFaces {
  const normal = new Float64Array(3 * g.faces);
  const arm = new Float64Array(4 * g.faces);
  for (let f = 0; f < g.faces; f++) {
    const area = Math.hypot(g.sx[f], g.sy[f]);
    normal.set(area > 0 ? [g.sx[f] / area, g.sy[f] / area, area] : [0, -1, 0], 3 * f);
    arm.set([g.ox[f], g.oy[f], g.nx[f], g.ny[f]], 4 * f);
  }
  return { normal, arm };
}

/** Least-squares gradients of all four values (8 numbers a cell), and the range each takes among a cell and its neighbours. */
export function gasGradients(g: Neighbourhood, factors: Float64Array, w: States, slope: Float64Array, low: Float64Array, high: Float64Array): void {
  const { joins, owner, neighbour } = g;
  slope.fill(0);
  low.set(w);
  high.set(w);
  for (let f = 0; f < joins; f++) {
    const o = 4 * owner[f];
    const n = 4 * neighbour[f];
    const l = 4 * f;
    for (let k = 0; k < 4; k++) {
      const a = w[o + k];
      const b = w[n + k];
      const d = b - a;
      const i = 2 * (o + k);
      const j = 2 * (n + k);
      slope[i] += factors[l] * d;
      slope[i + 1] += factors[l + 1] * d;
      slope[j] += factors[l + 2] * d;
      slope[j + 1] += factors[l + 3] * d;
      if (b < low[o + k]) low[o + k] = b;
      if (b > high[o + k]) high[o + k] = b;
      if (a < low[n + k]) low[n + k] = a;
      if (a > high[n + k]) high[n + k] = a;
    }
  }
}

/**
 * Share of each slope that keeps reconstructed values in range, 4 numbers a cell.
 * @param floor four numbers a cell: squared differences too small to matter, for "smooth"
 */
export function limitSlopes(
  g: FaceGeometry,
  faces: GasFaces,
  limiter: Limiter,
  w: States,
  slope: Float64Array,
  low: Float64Array,
  high: Float64Array,
  floor: Float64Array,
  share: Float64Array,
): void {
  if (limiter === "none" || limiter === "first-order") {
    share.fill(limiter === "none" ? 1 : 0);
    return;
  }
  const { joins, owner, neighbour } = g;
  const { arm } = faces;
  const smooth = limiter === "smooth";
  share.fill(1);
  const bound = (i: number, reach: number) => {
    const room = (reach > 0 ? high[i] : low[i]) - w[i];
    let s = 1;
    if (smooth) {
      const y = room * room + floor[i];
      const top = y + 2 * reach * room;
      const bottom = y + 2 * reach * reach + reach * room;
      s = bottom > 0 ? top / bottom : 1;
    } else if (Math.abs(reach) > 1e-14 * Math.abs(w[i])) s = Math.min(1, room / reach);
    if (s < share[i]) share[i] = s;
  };
  // Only faces to neighbours bound the slope: what a wall face would see lies beyond the cells that give the range.
  for (let f = 0; f < joins; f++) {
    const o = 4 * owner[f];
    const n = 4 * neighbour[f];
    const a = 4 * f;
    for (let k = 0; k < 4; k++) {
      const i = o + k;
      const j = n + k;
      bound(i, slope[2 * i] * arm[a] + slope[2 * i + 1] * arm[a + 1]);
      bound(j, slope[2 * j] * arm[a + 2] + slope[2 * j + 1] * arm[a + 3]);
    }
  }
}

/** Values at a face seen from one of its cells; the cell's own where the reconstruction would be no gas. */
export function reconstruct(out: Float64Array, w: States, slope: Float64Array, share: Float64Array, cell: number, x: number, y: number): void {
  const i = 4 * cell;
  for (let k = 0; k < 4; k++) out[k] = w[i + k] + share[i + k] * (slope[2 * (i + k)] * x + slope[2 * (i + k) + 1] * y);
  if (out[0] > 0 && out[3] > 0) return;
  for (let k = 0; k < 4; k++) out[k] = w[i + k];
}

/** Inviscid fluxes over the joining faces out of `residual`, and the sum of wave speeds times areas around every cell. */
export function addGasFluxes(
  g: FaceGeometry,
  faces: GasFaces,
  flux: RiemannFlux,
  gamma: number,
  w: States,
  slope: Float64Array,
  share: Float64Array,
  residual: Float64Array,
  speed: Float64Array,
): void {
  const { joins, owner, neighbour } = g;
  const { normal, arm } = faces;
  const across = flux === "contact" ? contactFlux : linearisedFlux;
  for (let f = 0; f < joins; f++) {
    const o = owner[f];
    const n = neighbour[f];
    const nx = normal[3 * f];
    const ny = normal[3 * f + 1];
    const area = normal[3 * f + 2];
    reconstruct(LEFT, w, slope, share, o, arm[4 * f], arm[4 * f + 1]);
    reconstruct(RIGHT, w, slope, share, n, arm[4 * f + 2], arm[4 * f + 3]);
    across(FLUX, gamma, LEFT, RIGHT, nx, ny);
    for (let k = 0; k < 4; k++) {
      const t = FLUX[k] * area;
      residual[4 * o + k] -= t;
      residual[4 * n + k] += t;
    }
    const wave =
      (Math.abs(0.5 * ((LEFT[1] + RIGHT[1]) * nx + (LEFT[2] + RIGHT[2]) * ny)) +
        0.5 * (Math.sqrt((gamma * LEFT[3]) / LEFT[0]) + Math.sqrt((gamma * RIGHT[3]) / RIGHT[0]))) *
      area;
    speed[o] += wave;
    speed[n] += wave;
  }
}

const LEFT = new Float64Array(4);
const RIGHT = new Float64Array(4);
const FLUX = new Float64Array(4);
