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

export function multiplyDot(size: i32, rowStart: usize, column: usize, values: usize, x: usize, y: usize): f64 {
  let k = index(rowStart, 0);
  let product: f64 = 0;
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
    product += real(x, i) * s;
  }
  return product;
}

export function subtractProduct(size: i32, rowStart: usize, column: usize, values: usize, x: usize, r: usize): void {
  let k = index(rowStart, 0);
  for (let i: usize = 0; i < <usize>size; i++) {
    const end = index(rowStart, i + 1);
    put(r, i, lessRow(real(r, i), k, end, column, values, x));
    k = end;
  }
}

export function dot(n: i32, x: usize, y: usize): f64 {
  let sum: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i++) sum += real(x, i) * real(y, i);
  return sum;
}

export function descend(n: i32, step: f64, p: usize, ap: usize, x: usize, r: usize, before: usize): f64 {
  let sum: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i++) {
    add(x, i, step * real(p, i));
    const was = real(r, i);
    const now = was - step * real(ap, i);
    put(before, i, was);
    put(r, i, now);
    sum += now * now;
  }
  return sum;
}

export function addScaled(n: i32, a: f64, x: usize, y: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) add(y, i, a * real(x, i));
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
