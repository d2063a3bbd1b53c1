// Loops over cells, and over the vectors an acceleration keeps, in AssemblyScript; addresses are bytes in the one memory, 0 where something is absent.
// Each has a plain twin in plainCells.ts with the same operations in the same order, so that both give the same bits. Where entries do not depend on one
// another two are worked on at once; lanes never mix.

import { add, index, put, putSingle, real, single, take } from "./memory.as";

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
  addVector(n, dx, x);
  addVector(n, dy, y);
}

export function dividePair(n: i32, by: usize, x: usize, y: usize): void {
  const even = <usize>(n & ~1) << 3;
  for (let i: usize = 0; i < even; i += 16) {
    const v = v128.load(by + i);
    v128.store(x + i, v128.div<f64>(v128.load(x + i), v));
    v128.store(y + i, v128.div<f64>(v128.load(y + i), v));
  }
  if (n & 1) {
    const last = <usize>(n - 1);
    const v = real(by, last);
    put(x, last, real(x, last) / v);
    put(y, last, real(y, last) / v);
  }
}

export function addRate(n: i32, diagonal: usize, rate: f64, volume: usize, u: usize, v: usize, values: usize, rx: usize, ry: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) {
    const size = real(volume, i);
    add(values, index(diagonal, i), rate * size);
    take(rx, i, real(u, i) * size);
    take(ry, i, real(v, i) * size);
  }
}

export function meanOf(n: i32, x: usize): f64 {
  let mean: f64 = 0;
  const by = v128.splat<f64>(<f64>n);
  const end = x + (<usize>(n & ~3) << 3);
  // Two quotients at a time; summed one by one, in their order.
  for (; x < end; x += 32) {
    const a = v128.div<f64>(v128.load(x), by);
    const b = v128.div<f64>(v128.load(x + 16), by);
    mean += v128.extract_lane<f64>(a, 0);
    mean += v128.extract_lane<f64>(a, 1);
    mean += v128.extract_lane<f64>(b, 0);
    mean += v128.extract_lane<f64>(b, 1);
  }
  for (let i: usize = 0; i < <usize>(n & 3); i++) mean += real(x, i) / <f64>n;
  return mean;
}

export function sumAbsolute(n: i32, x: usize): f64 {
  let sum: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i++) sum += Math.abs(real(x, i));
  return sum;
}

export function correctCells(n: i32, correction: usize, mobility: usize, gx: usize, gy: usize, p: usize, u: usize, v: usize): void {
  const even = <usize>(n & ~1) << 3;
  for (let i: usize = 0; i < even; i += 16) {
    const m = v128.load(mobility + i);
    v128.store(p + i, v128.add<f64>(v128.load(p + i), v128.load(correction + i)));
    v128.store(u + i, v128.sub<f64>(v128.load(u + i), v128.mul<f64>(m, v128.load(gx + i))));
    v128.store(v + i, v128.sub<f64>(v128.load(v + i), v128.mul<f64>(m, v128.load(gy + i))));
  }
  if (n & 1) {
    const last = <usize>(n - 1);
    const m = real(mobility, last);
    add(p, last, real(correction, last));
    take(u, last, m * real(gx, last));
    take(v, last, m * real(gy, last));
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

export function addVector(n: i32, a: usize, x: usize): void {
  const even = <usize>(n & ~1) << 3;
  for (let i: usize = 0; i < even; i += 16) v128.store(x + i, v128.add<f64>(v128.load(x + i), v128.load(a + i)));
  if (n & 1) add(x, <usize>(n - 1), real(a, <usize>(n - 1)));
}

export function subtractFrom(n: i32, a: usize, out: usize): void {
  const even = <usize>(n & ~1) << 3;
  for (let i: usize = 0; i < even; i += 16) v128.store(out + i, v128.sub<f64>(v128.load(a + i), v128.load(out + i)));
  if (n & 1) put(out, <usize>(n - 1), real(a, <usize>(n - 1)) - real(out, <usize>(n - 1)));
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
    else if (k < 0) take(coarse, <usize>(-k - 1), real(fine, f));
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
    putSingle(dStep, i, <f32>(step - real(lastStep, i)));
    putSingle(dG, i, <f32>(now - real(lastG, i)));
    put(lastStep, i, step);
    put(lastG, i, now);
  }
}

export function changes(n: i32, g: usize, lastG: usize, dG: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) {
    const now = real(g, i);
    putSingle(dG, i, <f32>(now - real(lastG, i)));
    put(lastG, i, now);
  }
}

export function twoDots(n: i32, d: usize, a: usize, b: usize, out: usize): void {
  let s: f64 = 0;
  let t: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i++) {
    const v = <f64>single(d, i);
    s += v * <f64>single(a, i);
    t += v * real(b, i);
  }
  store<f64>(out, s);
  store<f64>(out, t, 8);
}

// @ts-expect-error: decorator
@inline
function two(d: usize, i: usize): v128 {
  return v128.promote_low<f32>(v128.load_zero<u64>(d + (i << 2)));
}

export function subtractFour(n: i32, x: usize, a0: f64, a1: f64, a2: f64, a3: f64, d0: usize, d1: usize, d2: usize, d3: usize): void {
  const b0 = v128.splat<f64>(a0);
  const b1 = v128.splat<f64>(a1);
  const b2 = v128.splat<f64>(a2);
  const b3 = v128.splat<f64>(a3);
  const even = <usize>(n & ~1);
  for (let i: usize = 0; i < even; i += 2) {
    const at = x + (i << 3);
    let s = v128.sub<f64>(v128.load(at), v128.mul<f64>(b0, two(d0, i)));
    s = v128.sub<f64>(s, v128.mul<f64>(b1, two(d1, i)));
    s = v128.sub<f64>(s, v128.mul<f64>(b2, two(d2, i)));
    v128.store(at, v128.sub<f64>(s, v128.mul<f64>(b3, two(d3, i))));
  }
  if (n & 1) {
    const i = <usize>(n - 1);
    put(x, i, real(x, i) - a0 * <f64>single(d0, i) - a1 * <f64>single(d1, i) - a2 * <f64>single(d2, i) - a3 * <f64>single(d3, i));
  }
}

export function subtractOne(n: i32, x: usize, a: f64, d: usize): void {
  const b = v128.splat<f64>(a);
  const even = <usize>(n & ~1);
  for (let i: usize = 0; i < even; i += 2) {
    const at = x + (i << 3);
    v128.store(at, v128.sub<f64>(v128.load(at), v128.mul<f64>(b, two(d, i))));
  }
  if (n & 1) put(x, <usize>(n - 1), real(x, <usize>(n - 1)) - a * <f64>single(d, <usize>(n - 1)));
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
    take(flux, f, mobility * real(past, f));
  }
}
