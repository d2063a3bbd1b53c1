// The hot loops of the flow solver in AssemblyScript, compiled at build; addresses are bytes in the one memory.
// Each has a plain twin in plain.ts with the same operations in the same order, so that both give the same bits.

import { add, index, put, real } from "./memory.as";

// Rows are short: four entries at a time leave few turns of the inner loop, and the order of the sum as it was.

// @ts-expect-error: decorator
@inline
function at4(x: usize, column: usize, k: usize): f64 {
  return load<f64>(x + (<usize>load<i32>(column + (k << 2)) << 3));
}

/** s - sum of a row's entries from k to end times x. */
// @ts-expect-error: decorator
@inline
function lessRow(s: f64, k: usize, end: usize, column: usize, values: usize, x: usize): f64 {
  while (k + 4 <= end) {
    const v = values + (k << 3);
    s = s - load<f64>(v) * at4(x, column, k);
    s = s - load<f64>(v, 8) * at4(x, column, k + 1);
    s = s - load<f64>(v, 16) * at4(x, column, k + 2);
    s = s - load<f64>(v, 24) * at4(x, column, k + 3);
    k += 4;
  }
  while (k < end) {
    s = s - real(values, k) * at4(x, column, k);
    k++;
  }
  return s;
}

export function multiply(size: i32, rowStart: usize, column: usize, values: usize, x: usize, y: usize): void {
  let k = index(rowStart, 0);
  for (let i: usize = 0; i < <usize>size; i++) {
    const end = index(rowStart, i + 1);
    let s: f64 = 0;
    while (k + 4 <= end) {
      const v = values + (k << 3);
      s = s + load<f64>(v) * at4(x, column, k);
      s = s + load<f64>(v, 8) * at4(x, column, k + 1);
      s = s + load<f64>(v, 16) * at4(x, column, k + 2);
      s = s + load<f64>(v, 24) * at4(x, column, k + 3);
      k += 4;
    }
    while (k < end) {
      s = s + real(values, k) * at4(x, column, k);
      k++;
    }
    put(y, i, s);
  }
}

export function subtractProduct(size: i32, rowStart: usize, column: usize, values: usize, x: usize, r: usize): void {
  let k = index(rowStart, 0);
  for (let i: usize = 0; i < <usize>size; i++) {
    const end = index(rowStart, i + 1);
    put(r, i, lessRow(real(r, i), k, end, column, values, x));
    k = end;
  }
}

export function subtractProductPair(size: i32, rowStart: usize, column: usize, values: usize, x1: usize, x2: usize, r1: usize, r2: usize): void {
  let k = index(rowStart, 0);
  for (let i: usize = 0; i < <usize>size; i++) {
    const end = index(rowStart, i + 1);
    put(r1, i, lessRow(real(r1, i), k, end, column, values, x1));
    put(r2, i, lessRow(real(r2, i), k, end, column, values, x2));
    k = end;
  }
}

// @ts-expect-error: decorator
@inline
function relaxPair(i: usize, rowStart: usize, column: usize, diagonal: usize, values: usize, b1: usize, b2: usize, x1: usize, x2: usize): void {
  const end = index(rowStart, i + 1);
  let r1 = real(b1, i);
  let r2 = real(b2, i);
  let k = index(rowStart, i);
  while (k + 2 <= end) {
    const v = values + (k << 3);
    const j = index(column, k);
    const l = index(column, k + 1);
    const a = load<f64>(v);
    const b = load<f64>(v, 8);
    r1 = r1 - a * real(x1, j);
    r2 = r2 - a * real(x2, j);
    r1 = r1 - b * real(x1, l);
    r2 = r2 - b * real(x2, l);
    k += 2;
  }
  while (k < end) {
    const j = index(column, k);
    const a = real(values, k);
    r1 = r1 - a * real(x1, j);
    r2 = r2 - a * real(x2, j);
    k++;
  }
  const inverse: f64 = 1 / real(values, index(diagonal, i));
  add(x1, i, r1 * inverse);
  add(x2, i, r2 * inverse);
}

export function sweepPair(size: i32, rowStart: usize, column: usize, diagonal: usize, values: usize, b1: usize, b2: usize, x1: usize, x2: usize): void {
  for (let i: i32 = 0; i < size; i++) relaxPair(<usize>i, rowStart, column, diagonal, values, b1, b2, x1, x2);
  for (let i: i32 = size - 1; i >= 0; i--) relaxPair(<usize>i, rowStart, column, diagonal, values, b1, b2, x1, x2);
}

// @ts-expect-error: decorator
@inline
function relax(i: usize, rowStart: usize, column: usize, diagonal: usize, values: usize, b: usize, x: usize): void {
  const r = lessRow(real(b, i), index(rowStart, i), index(rowStart, i + 1), column, values, x);
  add(x, i, r / real(values, index(diagonal, i)));
}

export function sweep(size: i32, rowStart: usize, column: usize, diagonal: usize, values: usize, b: usize, x: usize): void {
  for (let i: i32 = 0; i < size; i++) relax(<usize>i, rowStart, column, diagonal, values, b, x);
  for (let i: i32 = size - 1; i >= 0; i--) relax(<usize>i, rowStart, column, diagonal, values, b, x);
}

export function smoothDown(
  size: i32,
  rowStart: usize,
  column: usize,
  diagonal: usize,
  values: usize,
  inverse: usize,
  aggregate: usize,
  b: usize,
  x: usize,
  coarse: usize,
): void {
  for (let i: usize = 0; i < <usize>size; i++) {
    let s = real(b, i);
    const end = index(diagonal, i);
    for (let k = index(rowStart, i); k < end; k++) s -= real(values, k) * real(x, index(column, k));
    put(x, i, s * real(inverse, i));
  }
  for (let i: usize = 0; i < <usize>size; i++) {
    let s: f64 = 0;
    const end = index(rowStart, i + 1);
    for (let k = index(diagonal, i) + 1; k < end; k++) s -= real(values, k) * real(x, index(column, k));
    add(coarse, index(aggregate, i), s);
  }
}

export function smoothUp(
  size: i32,
  rowStart: usize,
  column: usize,
  values: usize,
  inverse: usize,
  aggregate: usize,
  b: usize,
  x: usize,
  coarse: usize,
): void {
  for (let i: usize = 0; i < <usize>size; i++) add(x, i, real(coarse, index(aggregate, i)));
  for (let q: i32 = size - 1; q >= 0; q--) {
    const i = <usize>q;
    const s = lessRow(real(b, i), index(rowStart, i), index(rowStart, i + 1), column, values, x);
    add(x, i, s * real(inverse, i));
  }
}

export function sumEntries(count: i32, fine: usize, coarseEntry: usize, coarse: usize): void {
  for (let k: usize = 0; k < <usize>count; k++) add(coarse, index(coarseEntry, k), real(fine, k));
}

export function dot(n: i32, x: usize, y: usize): f64 {
  let sum: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i++) sum += real(x, i) * real(y, i);
  return sum;
}

export function addScaled(n: i32, a: f64, x: usize, y: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) add(y, i, a * real(x, i));
}

export function scaleAndAdd(n: i32, x: usize, a: f64, y: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) put(y, i, real(x, i) + a * real(y, i));
}

export function gradient(joins: i32, owner: usize, neighbour: usize, factors: usize, q: usize, gx: usize, gy: usize): void {
  for (let f: usize = 0; f < <usize>joins; f++) {
    const o = index(owner, f);
    const n = index(neighbour, f);
    const d = real(q, n) - real(q, o);
    add(gx, o, load<f64>(factors) * d);
    add(gy, o, load<f64>(factors, 8) * d);
    add(gx, n, load<f64>(factors, 16) * d);
    add(gy, n, load<f64>(factors, 24) * d);
    factors += 32;
  }
}

export function assembleUpwind(
  joins: i32,
  owner: usize,
  neighbour: usize,
  conductance: usize,
  diagonal: usize,
  ownerEntry: usize,
  neighbourEntry: usize,
  flux: usize,
  diffusivity: f64,
  a: usize,
): void {
  for (let f: usize = 0; f < <usize>joins; f++) {
    const F = real(flux, f);
    const d = diffusivity * real(conductance, f);
    const out: f64 = F > 0 ? F : 0;
    const into: f64 = F < 0 ? F : 0;
    add(a, index(ownerEntry, f), into - d);
    const back = a + (index(neighbourEntry, f) << 3);
    store<f64>(back, load<f64>(back) - (out + d));
    add(a, index(diagonal, index(owner, f)), d - into);
    add(a, index(diagonal, index(neighbour, f)), d + out);
  }
}

export function assembleSymmetric(
  joins: i32,
  owner: usize,
  neighbour: usize,
  diagonal: usize,
  ownerEntry: usize,
  neighbourEntry: usize,
  coefficient: usize,
  a: usize,
): void {
  for (let f: usize = 0; f < <usize>joins; f++) {
    const c = real(coefficient, f);
    add(a, index(ownerEntry, f), -c);
    add(a, index(neighbourEntry, f), -c);
    add(a, index(diagonal, index(owner, f)), c);
    add(a, index(diagonal, index(neighbour, f)), c);
  }
}

/** table: addresses of owner, neighbour, weight, kx, ky, ox, oy, nx, ny, dx, dy, tx, ty; scheme 0: upwind, 1: central, 2: linear-upwind, 3: limited */
export function subtractDeferred(joins: i32, scheme: i32, table: usize, flux: usize, diffusivity: f64, q: usize, gx: usize, gy: usize, r: usize): void {
  const owner = index(table, 0);
  const neighbour = index(table, 1);
  const weight = index(table, 2);
  const kx = index(table, 3);
  const ky = index(table, 4);
  const ox = index(table, 5);
  const oy = index(table, 6);
  const nx = index(table, 7);
  const ny = index(table, 8);
  const dx = index(table, 9);
  const dy = index(table, 10);
  const tx = index(table, 11);
  const ty = index(table, 12);
  for (let f: usize = 0; f < <usize>joins; f++) {
    const o = index(owner, f);
    const n = index(neighbour, f);
    const F = real(flux, f);
    const w = real(weight, f);
    const w1 = 1 - w;
    const gxo = real(gx, o);
    const gyo = real(gy, o);
    const gxn = real(gx, n);
    const gyn = real(gy, n);
    const fx = w * gxo + w1 * gxn;
    const fy = w * gyo + w1 * gyn;
    let high: f64 = 0;
    if (scheme == 1) {
      const qo = real(q, o);
      const qn = real(q, n);
      high = w * qo + w1 * qn + fx * real(kx, f) + fy * real(ky, f) - (F >= 0 ? qo : qn);
    } else if (scheme == 2) {
      high = F >= 0 ? gxo * real(ox, f) + gyo * real(oy, f) : gxn * real(nx, f) + gyn * real(ny, f);
    } else if (scheme == 3) {
      const qo = real(q, o);
      const qn = real(q, n);
      const jump = F >= 0 ? qn - qo : qo - qn;
      const slope = F >= 0 ? gxo * real(dx, f) + gyo * real(dy, f) : -(gxn * real(dx, f) + gyn * real(dy, f));
      const ratio = Math.abs(jump) > 1e-300 ? (2 * slope) / jump - 1 : 1;
      high = (ratio > 0 ? (2 * ratio) / (1 + ratio) : 0) * (F >= 0 ? w1 : w) * jump;
    }
    const s = F * high - diffusivity * (fx * real(tx, f) + fy * real(ty, f));
    add(r, o, -s);
    add(r, n, s);
  }
}

/** table: addresses of owner, neighbour, weight, kx, ky, sx, sy */
export function pressureFaces(joins: i32, table: usize, p: usize, hx: usize, hy: usize, gx: usize, gy: usize): void {
  const owner = index(table, 0);
  const neighbour = index(table, 1);
  const weight = index(table, 2);
  const kx = index(table, 3);
  const ky = index(table, 4);
  const sx = index(table, 5);
  const sy = index(table, 6);
  for (let f: usize = 0; f < <usize>joins; f++) {
    const o = index(owner, f);
    const n = index(neighbour, f);
    const w = real(weight, f);
    const w1 = 1 - w;
    const pf =
      w * real(p, o) +
      w1 * real(p, n) +
      (w * real(hx, o) + w1 * real(hx, n)) * real(kx, f) +
      (w * real(hy, o) + w1 * real(hy, n)) * real(ky, f);
    const px = pf * real(sx, f);
    const py = pf * real(sy, f);
    add(gx, o, px);
    add(gy, o, py);
    add(gx, n, -px);
    add(gy, n, -py);
  }
}

/** table as for pressureFaces */
export function velocityFaces(joins: i32, table: usize, u: usize, v: usize, gux: usize, guy: usize, gvx: usize, gvy: usize, out: usize): void {
  const owner = index(table, 0);
  const neighbour = index(table, 1);
  const weight = index(table, 2);
  const kx = index(table, 3);
  const ky = index(table, 4);
  const sx = index(table, 5);
  const sy = index(table, 6);
  for (let f: usize = 0; f < <usize>joins; f++) {
    const o = index(owner, f);
    const n = index(neighbour, f);
    const w = real(weight, f);
    const w1 = 1 - w;
    const x = real(kx, f);
    const y = real(ky, f);
    const uf = w * real(u, o) + w1 * real(u, n) + (w * real(gux, o) + w1 * real(gux, n)) * x + (w * real(guy, o) + w1 * real(guy, n)) * y;
    const vf = w * real(v, o) + w1 * real(v, n) + (w * real(gvx, o) + w1 * real(gvx, n)) * x + (w * real(gvy, o) + w1 * real(gvy, n)) * y;
    put(out, f, uf * real(sx, f) + vf * real(sy, f));
  }
}

/** table: addresses of owner, neighbour, weight, conductance, dx, dy, volume */
export function pressureFluxes(joins: i32, table: usize, p: usize, gpx: usize, gpy: usize, diagonal: usize, flux: usize): void {
  const owner = index(table, 0);
  const neighbour = index(table, 1);
  const weight = index(table, 2);
  const conductance = index(table, 3);
  const dx = index(table, 4);
  const dy = index(table, 5);
  const volume = index(table, 6);
  for (let f: usize = 0; f < <usize>joins; f++) {
    const o = index(owner, f);
    const n = index(neighbour, f);
    const w = real(weight, f);
    const w1 = 1 - w;
    const mobility = (w * real(volume, o)) / real(diagonal, o) + (w1 * real(volume, n)) / real(diagonal, n);
    const smoothed = (w * real(gpx, o) + w1 * real(gpx, n)) * real(dx, f) + (w * real(gpy, o) + w1 * real(gpy, n)) * real(dy, f);
    add(flux, f, -(mobility * real(conductance, f) * (real(p, n) - real(p, o) - smoothed)));
  }
}

export function faceMobilities(joins: i32, owner: usize, neighbour: usize, weight: usize, conductance: usize, mobility: usize, out: usize): void {
  for (let f: usize = 0; f < <usize>joins; f++) {
    const w = real(weight, f);
    put(out, f, (w * real(mobility, index(owner, f)) + (1 - w) * real(mobility, index(neighbour, f))) * real(conductance, f));
  }
}

export function subtractOutflow(joins: i32, owner: usize, neighbour: usize, flux: usize, r: usize): void {
  for (let f: usize = 0; f < <usize>joins; f++) {
    const F = real(flux, f);
    add(r, index(owner, f), -F);
    add(r, index(neighbour, f), F);
  }
}

export function correctFluxes(joins: i32, owner: usize, neighbour: usize, faceMobility: usize, correction: usize, flux: usize): void {
  for (let f: usize = 0; f < <usize>joins; f++) {
    add(flux, f, -(real(faceMobility, f) * (real(correction, index(neighbour, f)) - real(correction, index(owner, f)))));
  }
}
