import type { Pair } from "./plain.ts";

// Loops over cells and vectors. Each is as long as the first array it is given; its compiled twin takes the same arguments in the same order.

type Reals = Float64Array;
type Singles = Float32Array;

/** Force on every cell: what a body force and the slope of the pressure make of its volume, and what is added to that. */
export function forces(
  volume: Reals,
  fx: number,
  fy: number,
  [gx, gy]: Pair,
  addX: Reals | undefined,
  addY: Reals | undefined,
  [rx, ry]: Pair,
): void {
  for (let i = 0; i < volume.length; i++) {
    rx[i] = (fx - gx[i]) * volume[i];
    ry[i] = (fy - gy[i]) * volume[i];
  }
  if (!addX || !addY) return;
  for (let i = 0; i < volume.length; i++) {
    rx[i] += addX[i];
    ry[i] += addY[i];
  }
}

/** What a quantity above its neutral value adds to the force on every cell. */
export function addLift(volume: Reals, q: Reals, neutral: number, bx: number, by: number, [rx, ry]: Pair): void {
  for (let i = 0; i < volume.length; i++) {
    rx[i] += bx * (q[i] - neutral) * volume[i];
    ry[i] += by * (q[i] - neutral) * volume[i];
  }
}

/** x += d, for two vectors. */
export function addPair([dx, dy]: Pair, [x, y]: Pair): void {
  for (let i = 0; i < dx.length; i++) {
    x[i] += dx[i];
    y[i] += dy[i];
  }
}

/** x /= by, for two vectors. */
export function dividePair(by: Reals, [x, y]: Pair): void {
  for (let i = 0; i < by.length; i++) {
    x[i] /= by[i];
    y[i] /= by[i];
  }
}

/** What the time derivative adds to the diagonal and takes from two right-hand sides. */
export function addRate(diagonal: Int32Array, rate: number, volume: Reals, [u, v]: Pair, values: Reals, [rx, ry]: Pair): void {
  for (let i = 0; i < diagonal.length; i++) {
    values[diagonal[i]] += rate * volume[i];
    rx[i] -= u[i] * volume[i];
    ry[i] -= v[i] * volume[i];
  }
}

/** Mean of the entries, summed as shares. */
export function meanOf(x: Reals): number {
  let mean = 0;
  for (let i = 0; i < x.length; i++) mean += x[i] / x.length;
  return mean;
}

/** Sum of the entries without their signs. */
export function sumAbsolute(x: Reals): number {
  let sum = 0;
  for (let i = 0; i < x.length; i++) sum += Math.abs(x[i]);
  return sum;
}

/** Adds a correction to the pressure and takes from the velocity what its slope makes of the mobility. */
export function correctCells(correction: Reals, mobility: Reals, [gx, gy]: Pair, p: Reals, [u, v]: Pair): void {
  for (let i = 0; i < correction.length; i++) {
    p[i] += correction[i];
    u[i] -= mobility[i] * gx[i];
    v[i] -= mobility[i] * gy[i];
  }
}

/** Takes the mean over the volume off a field. */
export function takeMean(q: Reals, volume: Reals): void {
  let mean = 0;
  let total = 0;
  for (let i = 0; i < q.length; i++) {
    mean += q[i] * volume[i];
    total += volume[i];
  }
  for (let i = 0; i < q.length; i++) q[i] -= mean / total;
}

/** x += a. */
export function addVector(a: Reals, x: Reals): void {
  for (let i = 0; i < a.length; i++) x[i] += a[i];
}

/** out = a - out. */
export function subtractFrom(a: Reals, out: Reals): void {
  for (let i = 0; i < a.length; i++) out[i] = a[i] - out[i];
}

/** Adds what fine cells hold to the coarse cells they lie in, weighted by volume. */
export function gatherMean(cell: Int32Array, fineVolume: Reals, coarseVolume: Reals, fine: Reals, coarse: Reals): void {
  for (let i = 0; i < cell.length; i++) coarse[cell[i]] += (fineVolume[i] / coarseVolume[cell[i]]) * fine[i];
}

/** Adds what fine cells hold to the coarse cells they lie in. */
export function gatherSum(cell: Int32Array, fine: Reals, coarse: Reals): void {
  for (let i = 0; i < cell.length; i++) coarse[cell[i]] += fine[i];
}

/**
 * Adds what passes through fine faces to the coarse faces they are part of.
 * @param code coarse face plus one, negative where the two point opposite ways; 0 inside a coarse cell
 */
export function gatherFluxes(code: Int32Array, fine: Reals, coarse: Reals): void {
  for (let f = 0; f < code.length; f++) {
    const k = code[f];
    if (k > 0) coarse[k - 1] += fine[f];
    else if (k < 0) coarse[-k - 1] -= fine[f];
  }
}

/**
 * Adds what coarse cells hold, carried on by their slopes, to the fine cells in them.
 * @param fineAt centroids, x and y side by side
 */
export function addLinear(cell: Int32Array, q: Reals, [gx, gy]: Pair, fineAt: Reals, coarseAt: Reals, out: Reals): void {
  for (let i = 0; i < cell.length; i++) {
    const k = cell[i];
    out[i] += q[k] + gx[k] * (fineAt[2 * i] - coarseAt[2 * k]) + gy[k] * (fineAt[2 * i + 1] - coarseAt[2 * k + 1]);
  }
}

/**
 * The change of a step and of its outcome since the last ones, which are then replaced by the present ones: of an iteration from x to g the step
 * is g - x.
 */
export function stepChanges(x: Reals, g: Reals, lastStep: Reals, lastG: Reals, dStep: Singles, dG: Singles): void {
  for (let i = 0; i < x.length; i++) {
    const step = g[i] - x[i];
    dStep[i] = step - lastStep[i];
    dG[i] = g[i] - lastG[i];
    lastStep[i] = step;
    lastG[i] = g[i];
  }
}

/** The change of an outcome since the last one, which is then replaced by it. */
export function changes(g: Reals, lastG: Reals, dG: Singles): void {
  for (let i = 0; i < g.length; i++) {
    dG[i] = g[i] - lastG[i];
    lastG[i] = g[i];
  }
}

/** Products of one vector with two others, in one pass. */
export function twoDots(d: Singles, a: Singles, b: Reals, out: Reals): void {
  let [s, t] = [0, 0];
  for (let i = 0; i < d.length; i++) {
    s += d[i] * a[i];
    t += d[i] * b[i];
  }
  out[0] = s;
  out[1] = t;
}

/** x -= a_k d_k for four vectors, one after the other at each entry. */
export function subtractFour(x: Reals, a0: number, a1: number, a2: number, a3: number, d0: Singles, d1: Singles, d2: Singles, d3: Singles): void {
  for (let i = 0; i < x.length; i++) x[i] = x[i] - a0 * d0[i] - a1 * d1[i] - a2 * d2[i] - a3 * d3[i];
}

/** x -= a d. */
export function subtractOne(x: Reals, a: number, d: Singles): void {
  for (let i = 0; i < x.length; i++) x[i] -= a * d[i];
}

/** Adds the flux of an interpolated velocity through every joining face, which the owners given are those of. */
export function addFaceFluxes(owner: Int32Array, neighbour: Int32Array, weight: Reals, sx: Reals, sy: Reals, [u, v]: Pair, flux: Reals): void {
  for (let f = 0; f < owner.length; f++) {
    const w = weight[f];
    const [o, n] = [owner[f], neighbour[f]];
    flux[f] += (w * u[o] + (1 - w) * u[n]) * sx[f] + (w * v[o] + (1 - w) * v[n]) * sy[f];
  }
}

/** Takes from the flux of every joining face its earlier part times the mobility there. */
export function subtractPast(
  owner: Int32Array,
  neighbour: Int32Array,
  weight: Reals,
  volume: Reals,
  diagonal: Reals,
  past: Reals,
  flux: Reals,
): void {
  for (let f = 0; f < owner.length; f++) {
    const w = weight[f];
    const [o, n] = [owner[f], neighbour[f]];
    flux[f] -= ((w * volume[o]) / diagonal[o] + ((1 - w) * volume[n]) / diagonal[n]) * past[f];
  }
}
