// Loops over cells, and over the vectors an acceleration keeps, in AssemblyScript; addresses are bytes in the one memory, 0 where something is absent.
// Each has a plain twin in plainCells.ts with the same operations in the same order, so that both give the same bits.

import { add, index, put, real } from "./memory.as";

export function forces(n: i32, volume: usize, fx: f64, fy: f64, gx: usize, gy: usize, addX: usize, addY: usize, rx: usize, ry: usize): void {
  if (addX == 0) {
    for (let i: usize = 0; i < <usize>n; i++) {
      const v = real(volume, i);
      put(rx, i, (fx - real(gx, i)) * v);
      put(ry, i, (fy - real(gy, i)) * v);
    }
    return;
  }
  for (let i: usize = 0; i < <usize>n; i++) {
    const v = real(volume, i);
    put(rx, i, (fx - real(gx, i)) * v + real(addX, i));
    put(ry, i, (fy - real(gy, i)) * v + real(addY, i));
  }
}

export function addLift(n: i32, volume: usize, q: usize, neutral: f64, bx: f64, by: f64, rx: usize, ry: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) {
    const above = real(q, i) - neutral;
    const v = real(volume, i);
    add(rx, i, bx * above * v);
    add(ry, i, by * above * v);
  }
}

export function addPair(n: i32, dx: usize, dy: usize, x: usize, y: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) {
    add(x, i, real(dx, i));
    add(y, i, real(dy, i));
  }
}

export function dividePair(n: i32, by: usize, x: usize, y: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) {
    const v = real(by, i);
    put(x, i, real(x, i) / v);
    put(y, i, real(y, i) / v);
  }
}

export function takeDiagonal(n: i32, diagonal: usize, values: usize, out: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) put(out, i, real(values, index(diagonal, i)));
}

export function invertDiagonal(n: i32, diagonal: usize, values: usize, out: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) put(out, i, 1 / real(values, index(diagonal, i)));
}

export function divideDiagonal(n: i32, diagonal: usize, by: f64, values: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) {
    const k = index(diagonal, i);
    put(values, k, real(values, k) / by);
  }
}

export function addRate(n: i32, diagonal: usize, rate: f64, volume: usize, u: usize, v: usize, values: usize, rx: usize, ry: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) {
    const size = real(volume, i);
    add(values, index(diagonal, i), rate * size);
    add(rx, i, -(real(u, i) * size));
    add(ry, i, -(real(v, i) * size));
  }
}

export function relaxRows(
  n: i32,
  diagonalEntry: usize,
  rowStart: usize,
  values: usize,
  diagonal: usize,
  around: usize,
  relaxation: f64,
  volume: usize,
  mobility: usize,
): void {
  let k = index(rowStart, 0);
  for (let i: usize = 0; i < <usize>n; i++) {
    const d = index(diagonalEntry, i);
    const end = index(rowStart, i + 1);
    let off = real(values, d);
    for (; k < end; k++) off -= real(values, k);
    const relaxed = (real(diagonal, i) + (around == 0 ? 0 : real(around, i))) / relaxation;
    put(values, d, relaxed);
    put(mobility, i, real(volume, i) / Math.max(relaxed - off, 0.02 * relaxed));
  }
}

export function meanOf(n: i32, x: usize): f64 {
  let mean: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i++) mean += real(x, i) / <f64>n;
  return mean;
}

export function sumAbsolute(n: i32, x: usize): f64 {
  let sum: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i++) sum += Math.abs(real(x, i));
  return sum;
}

export function pairScale(n: i32, diagonal: usize, x: usize, y: usize, meanX: f64, meanY: f64): f64 {
  let scale: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i++) scale += real(diagonal, i) * (Math.abs(real(x, i) - meanX) + Math.abs(real(y, i) - meanY));
  return scale;
}

export function diagonalScale(n: i32, diagonal: usize, values: usize, x: usize, mean: f64): f64 {
  let scale: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i++) scale += real(values, index(diagonal, i)) * Math.abs(real(x, i) - mean);
  return scale;
}

export function correctCells(n: i32, correction: usize, mobility: usize, gx: usize, gy: usize, p: usize, u: usize, v: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) {
    const m = real(mobility, i);
    add(p, i, real(correction, i));
    add(u, i, -(m * real(gx, i)));
    add(v, i, -(m * real(gy, i)));
  }
}

export function takeMean(n: i32, q: usize, volume: usize): void {
  let mean: f64 = 0;
  let total: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i++) {
    const v = real(volume, i);
    mean += real(q, i) * v;
    total += v;
  }
  const off = mean / total;
  for (let i: usize = 0; i < <usize>n; i++) put(q, i, real(q, i) - off);
}

export function scale(n: i32, x: usize, a: f64): void {
  for (let i: usize = 0; i < <usize>n; i++) put(x, i, real(x, i) * a);
}

export function addVector(n: i32, a: usize, x: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) add(x, i, real(a, i));
}

export function subtractFrom(n: i32, a: usize, out: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) put(out, i, real(a, i) - real(out, i));
}

export function gatherMean(n: i32, cell: usize, fineVolume: usize, coarseVolume: usize, fine: usize, coarse: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) {
    const k = index(cell, i);
    add(coarse, k, (real(fineVolume, i) / real(coarseVolume, k)) * real(fine, i));
  }
}

export function gatherSum(n: i32, cell: usize, fine: usize, coarse: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) add(coarse, index(cell, i), real(fine, i));
}

export function gatherFluxes(n: i32, code: usize, fine: usize, coarse: usize): void {
  for (let f: usize = 0; f < <usize>n; f++) {
    const k = load<i32>(code + (f << 2));
    if (k > 0) add(coarse, <usize>(k - 1), real(fine, f));
    else if (k < 0) add(coarse, <usize>(-k - 1), -real(fine, f));
  }
}

export function addLinear(n: i32, cell: usize, q: usize, gx: usize, gy: usize, fineAt: usize, coarseAt: usize, out: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) {
    const k = index(cell, i);
    const a = fineAt + (i << 4);
    const b = coarseAt + (k << 4);
    add(out, i, real(q, k) + real(gx, k) * (load<f64>(a) - load<f64>(b)) + real(gy, k) * (load<f64>(a, 8) - load<f64>(b, 8)));
  }
}

export function stepChanges(n: i32, x: usize, g: usize, lastStep: usize, lastG: usize, dStep: usize, dG: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) {
    const now = real(g, i);
    const step = now - real(x, i);
    put(dStep, i, step - real(lastStep, i));
    put(dG, i, now - real(lastG, i));
    put(lastStep, i, step);
    put(lastG, i, now);
  }
}

export function twoDots(n: i32, d: usize, a: usize, b: usize, out: usize): void {
  let s: f64 = 0;
  let t: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i++) {
    const v = real(d, i);
    s += v * real(a, i);
    t += v * real(b, i);
  }
  store<f64>(out, s);
  store<f64>(out, t, 8);
}

export function subtractFour(n: i32, x: usize, a0: f64, a1: f64, a2: f64, a3: f64, d0: usize, d1: usize, d2: usize, d3: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) put(x, i, real(x, i) - a0 * real(d0, i) - a1 * real(d1, i) - a2 * real(d2, i) - a3 * real(d3, i));
}

export function addFaceFluxes(n: i32, owner: usize, neighbour: usize, weight: usize, sx: usize, sy: usize, u: usize, v: usize, flux: usize): void {
  for (let f: usize = 0; f < <usize>n; f++) {
    const w = real(weight, f);
    const w1 = 1 - w;
    const o = index(owner, f);
    const m = index(neighbour, f);
    add(flux, f, (w * real(u, o) + w1 * real(u, m)) * real(sx, f) + (w * real(v, o) + w1 * real(v, m)) * real(sy, f));
  }
}

export function subtractPast(n: i32, owner: usize, neighbour: usize, weight: usize, volume: usize, diagonal: usize, past: usize, flux: usize): void {
  for (let f: usize = 0; f < <usize>n; f++) {
    const w = real(weight, f);
    const o = index(owner, f);
    const m = index(neighbour, f);
    const mobility = (w * real(volume, o)) / real(diagonal, o) + ((1 - w) * real(volume, m)) / real(diagonal, m);
    add(flux, f, -(mobility * real(past, f)));
  }
}
