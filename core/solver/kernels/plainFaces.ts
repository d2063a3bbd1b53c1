import type { FaceArrays } from "./arrays.ts";
import type { Pair } from "./plain.ts";
import type { ConvectionScheme } from "./schemes.ts";

// Loops over joining faces; the compiled twins are in faces.as.ts.

/** A quantity that the flow carries: its cell values, their slopes where the scheme or the mesh asks for them, and the residual of each cell. */
export interface Carried {
  readonly q: Float64Array;
  readonly slope: Pair;
  readonly residual: Float64Array;
}

/** Of one face: the flux leaves the owner, weights of both sides, and where the scheme leads on (see `lead`). */
interface Face {
  readonly o: number;
  readonly n: number;
  readonly out: boolean;
  readonly w: number;
  readonly ax: number;
  readonly ay: number;
}

/** From the upwind cell to the face, across to the other cell for a limited scheme, or off the centroid line for central differences; m. */
function lead(g: FaceArrays, scheme: ConvectionScheme, f: number, out: boolean): readonly [number, number] {
  const { oblique, weight, conductance, sx, sy } = g;
  if (!oblique) {
    if (scheme === "central" || scheme === "upwind") return [0, 0];
    const share = scheme === "limited" ? (out ? 1 : -1) : out ? 1 - weight[f] : -weight[f];
    const reach = share / conductance[f];
    return [reach * sx[f], reach * sy[f]];
  }
  const { kx, ky, ox, oy, nx, ny, dx, dy } = oblique;
  if (scheme === "central") return [kx[f], ky[f]];
  if (scheme === "limited") return out ? [dx[f], dy[f]] : [-dx[f], -dy[f]];
  return out ? [ox[f], oy[f]] : [nx[f], ny[f]];
}

/** What the scheme adds to the upwind value. */
function higher(
  scheme: ConvectionScheme,
  straight: boolean,
  { o, n, out, w, ax, ay }: Face,
  q: Float64Array,
  [gx, gy]: Pair,
  fx: number,
  fy: number,
): number {
  const w1 = 1 - w;
  if (scheme === "central") {
    const across = straight ? w * q[o] + w1 * q[n] : w * q[o] + w1 * q[n] + fx * ax + fy * ay;
    return across - (out ? q[o] : q[n]);
  }
  const upwind = out ? o : n;
  const slope = gx[upwind] * ax + gy[upwind] * ay;
  if (scheme === "linear-upwind") return slope;
  const jump = out ? q[n] - q[o] : q[o] - q[n];
  const r = Math.abs(jump) > 1e-300 ? (2 * slope) / jump - 1 : 1;
  // van Leer's limiter: 1 for a straight profile, which then is taken as by central differences.
  return (r > 0 ? (2 * r) / (1 + r) : 0) * (out ? w1 : w) * jump;
}

/**
 * Upwind convection and the orthogonal part of diffusion over the joining faces, added to the matrix, whose diagonal leaves out the sum of the
 * fluxes: it vanishes at the end and upsets the matrix before. What the scheme adds to upwind and the rest of diffusion are taken from the residuals.
 * @param carried one quantity, or two that share the matrix
 */
function carry(g: FaceArrays, scheme: ConvectionScheme, flux: Float64Array, diffusivity: number, a: Float64Array, carried: readonly Carried[]): void {
  const { joins, owner, neighbour, weight, conductance, pattern, oblique } = g;
  const { diagonal, ownerEntry, neighbourEntry } = pattern;
  for (let f = 0; f < joins; f++) {
    const [o, n, F] = [owner[f], neighbour[f], flux[f]];
    const d = diffusivity * conductance[f];
    const leaves = F > 0 ? F : 0;
    const enters = F < 0 ? F : 0;
    a[ownerEntry[f]] += enters - d;
    a[neighbourEntry[f]] -= leaves + d;
    a[diagonal[o]] += d - enters;
    a[diagonal[n]] += d + leaves;
    if (scheme === "upwind" && !oblique) continue;
    const [w, out] = [weight[f], F >= 0];
    const w1 = 1 - w;
    const [ax, ay] = lead(g, scheme, f, out);
    const face = { o, n, out, w, ax, ay };
    for (const { q, slope, residual } of carried) {
      const [gx, gy] = slope;
      const fx = w * gx[o] + w1 * gx[n];
      const fy = w * gy[o] + w1 * gy[n];
      let s = scheme === "upwind" ? 0 : F * higher(scheme, !oblique, face, q, slope, fx, fy);
      if (oblique) s -= diffusivity * (fx * oblique.tx[f] + fy * oblique.ty[f]);
      residual[o] -= s;
      residual[n] += s;
    }
  }
}

/** One carried quantity: see `carry`. */
export function carryOne(g: FaceArrays, scheme: ConvectionScheme, flux: Float64Array, diffusivity: number, a: Float64Array, carried: Carried): void {
  carry(g, scheme, flux, diffusivity, a, [carried]);
}

/** Two carried quantities that share the matrix: see `carry`. */
export function carryPair(
  g: FaceArrays,
  scheme: ConvectionScheme,
  flux: Float64Array,
  diffusivity: number,
  a: Float64Array,
  carried: readonly [Carried, Carried],
): void {
  carry(g, scheme, flux, diffusivity, a, carried);
}

/** Least-squares gradients of two fields over the joining faces, added to what is there. */
export function gradientPair(g: FaceArrays, factors: Float64Array, [u, v]: Pair, gu: Pair, gv: Pair): void {
  const { joins, owner, neighbour } = g;
  for (let f = 0; f < joins; f++) {
    const [o, n, l] = [owner[f], neighbour[f], 4 * f];
    for (const [q, [gx, gy]] of [
      [u, gu],
      [v, gv],
    ] as const) {
      const d = q[n] - q[o];
      gx[o] += factors[l] * d;
      gy[o] += factors[l + 1] * d;
      gx[n] += factors[l + 2] * d;
      gy[n] += factors[l + 3] * d;
    }
  }
}

/** Pressure on the joining faces, on oblique meshes corrected by slopes, times their area: into the sum of each cell. */
export function pressureFaces(g: FaceArrays, p: Float64Array, [hx, hy]: Pair, [gx, gy]: Pair): void {
  const { joins, owner, neighbour, weight, sx, sy, oblique } = g;
  for (let f = 0; f < joins; f++) {
    const [o, n, w] = [owner[f], neighbour[f], weight[f]];
    const w1 = 1 - w;
    let pf = w * p[o] + w1 * p[n];
    if (oblique) pf = pf + (w * hx[o] + w1 * hx[n]) * oblique.kx[f] + (w * hy[o] + w1 * hy[n]) * oblique.ky[f];
    gx[o] += pf * sx[f];
    gy[o] += pf * sy[f];
    gx[n] -= pf * sx[f];
    gy[n] -= pf * sy[f];
  }
}

/** A field at a face, by linear interpolation, on oblique meshes corrected by slopes. */
function atFace({ owner, neighbour, weight, oblique }: FaceArrays, f: number, q: Float64Array, [gx, gy]: Pair): number {
  const [o, n, w] = [owner[f], neighbour[f], weight[f]];
  const w1 = 1 - w;
  const between = w * q[o] + w1 * q[n];
  if (!oblique) return between;
  return between + (w * gx[o] + w1 * gx[n]) * oblique.kx[f] + (w * gy[o] + w1 * gy[n]) * oblique.ky[f];
}

/** Flux of the linearly interpolated velocity through the joining faces. */
export function velocityFaces(g: FaceArrays, [u, v]: Pair, gu: Pair, gv: Pair, out: Float64Array): void {
  for (let f = 0; f < g.joins; f++) out[f] = atFace(g, f, u, gu) * g.sx[f] + atFace(g, f, v, gv) * g.sy[f];
}

/** The same less what momentum interpolation takes: the pressure's jump less its smoothed slope. */
export function momentumFluxes(
  g: FaceArrays,
  [u, v]: Pair,
  gu: Pair,
  gv: Pair,
  p: Float64Array,
  [gpx, gpy]: Pair,
  momentumDiagonal: Float64Array,
  flux: Float64Array,
): void {
  const { joins, owner, neighbour, weight, conductance, volume, sx, sy, oblique } = g;
  for (let f = 0; f < joins; f++) {
    const [o, n, w] = [owner[f], neighbour[f], weight[f]];
    const w1 = 1 - w;
    const carried = atFace(g, f, u, gu) * sx[f] + atFace(g, f, v, gv) * sy[f];
    const mobility = (w * volume[o]) / momentumDiagonal[o] + (w1 * volume[n]) / momentumDiagonal[n];
    const gx = w * gpx[o] + w1 * gpx[n];
    const gy = w * gpy[o] + w1 * gpy[n];
    const jump = p[n] - p[o];
    // On straight meshes the conductance times the way is the area: no division, and nothing more to read.
    if (!oblique) flux[f] = carried - mobility * (conductance[f] * jump - (gx * sx[f] + gy * sy[f]));
    else flux[f] = carried - mobility * conductance[f] * (jump - (gx * oblique.dx[f] + gy * oblique.dy[f]));
  }
}

/** Mobility at the joining faces times their conductance, and the symmetric matrix of that, added to what is there. */
export function pressureMatrix(g: FaceArrays, mobility: Float64Array, out: Float64Array, a: Float64Array): void {
  const { joins, owner, neighbour, weight, conductance, pattern } = g;
  const { diagonal, ownerEntry, neighbourEntry } = pattern;
  for (let f = 0; f < joins; f++) {
    const [o, n, w] = [owner[f], neighbour[f], weight[f]];
    const c = (w * mobility[o] + (1 - w) * mobility[n]) * conductance[f];
    out[f] = c;
    a[ownerEntry[f]] -= c;
    a[neighbourEntry[f]] -= c;
    a[diagonal[o]] += c;
    a[diagonal[n]] += c;
  }
}

/**
 * The part of a corrected flux that the pressure matrix does not see, where faces are oblique: off the fluxes, and into what is left over of each cell.
 * @param mobility of every face, times its conductance
 */
export function obliqueFluxes(g: FaceArrays, mobility: Float64Array, [gx, gy]: Pair, flux: Float64Array, left: Float64Array): void {
  const { joins, owner, neighbour, weight, conductance, oblique } = g;
  if (!oblique) return;
  for (let f = 0; f < joins; f++) {
    if (conductance[f] === 0) continue;
    const [o, n, w] = [owner[f], neighbour[f], weight[f]];
    const w1 = 1 - w;
    const along = (w * gx[o] + w1 * gx[n]) * oblique.tx[f] + (w * gy[o] + w1 * gy[n]) * oblique.ty[f];
    const part = (mobility[f] / conductance[f]) * along;
    flux[f] -= part;
    left[o] += part;
    left[n] -= part;
  }
}
