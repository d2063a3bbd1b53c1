// The hot loops of the flow solver in AssemblyScript, compiled at build; addresses are bytes in the one memory.
// Each has a plain twin in plain.ts with the same operations in the same order, so that both give the same bits.

import { add, index, put, real, take } from "./memory.as";

// Rows are short: four entries at a time leave few turns of the inner loop, and the order of the sum as it was. Addresses of an entry's column and
// value move along, since the engine does not turn products of an index into steps by itself.

export function multiplyDot(size: i32, rowStart: usize, column: usize, values: usize, x: usize, y: usize): f64 {
  let c = column + (index(rowStart, 0) << 2);
  let a = values + (index(rowStart, 0) << 3);
  let product: f64 = 0;
  for (let i: usize = 0; i < <usize>size; i++) {
    const end = column + (index(rowStart, i + 1) << 2);
    let s: f64 = 0;
    while (c + 12 < end) {
      s = s + load<f64>(a) * load<f64>(x + (index(c, 0) << 3));
      s = s + load<f64>(a, 8) * load<f64>(x + (index(c, 1) << 3));
      s = s + load<f64>(a, 16) * load<f64>(x + (index(c, 2) << 3));
      s = s + load<f64>(a, 24) * load<f64>(x + (index(c, 3) << 3));
      c += 16;
      a += 32;
    }
    while (c < end) {
      s = s + load<f64>(a) * load<f64>(x + (index(c, 0) << 3));
      c += 4;
      a += 8;
    }
    put(y, i, s);
    product += real(x, i) * s;
  }
  return product;
}

export function subtractProduct(size: i32, rowStart: usize, column: usize, values: usize, x: usize, r: usize): void {
  let c = column + (index(rowStart, 0) << 2);
  let a = values + (index(rowStart, 0) << 3);
  for (let i: usize = 0; i < <usize>size; i++) {
    const end = column + (index(rowStart, i + 1) << 2);
    let s = real(r, i);
    while (c + 12 < end) {
      s = s - load<f64>(a) * load<f64>(x + (index(c, 0) << 3));
      s = s - load<f64>(a, 8) * load<f64>(x + (index(c, 1) << 3));
      s = s - load<f64>(a, 16) * load<f64>(x + (index(c, 2) << 3));
      s = s - load<f64>(a, 24) * load<f64>(x + (index(c, 3) << 3));
      c += 16;
      a += 32;
    }
    while (c < end) {
      s = s - load<f64>(a) * load<f64>(x + (index(c, 0) << 3));
      c += 4;
      a += 8;
    }
    put(r, i, s);
  }
}

export function dot(n: i32, x: usize, y: usize): f64 {
  let sum: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i++) sum += real(x, i) * real(y, i);
  return sum;
}

export function descend(n: i32, step: f64, p: usize, ap: usize, x: usize, r: usize, before: usize): f64 {
  let sum: f64 = 0;
  const steps = v128.splat<f64>(step);
  const even = <usize>(n & ~1) << 3;
  for (let i: usize = 0; i < even; i += 16) {
    v128.store(x + i, v128.add<f64>(v128.load(x + i), v128.mul<f64>(steps, v128.load(p + i))));
    const was = v128.load(r + i);
    const now = v128.sub<f64>(was, v128.mul<f64>(steps, v128.load(ap + i)));
    v128.store(before + i, was);
    v128.store(r + i, now);
    const square = v128.mul<f64>(now, now);
    // One after the other, as the plain loop adds them.
    sum += v128.extract_lane<f64>(square, 0);
    sum += v128.extract_lane<f64>(square, 1);
  }
  if (n & 1) {
    const last = <usize>(n - 1);
    add(x, last, step * real(p, last));
    const was = real(r, last);
    const now = was - step * real(ap, last);
    put(before, last, was);
    put(r, last, now);
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
    take(r, index(owner, f), F);
    add(r, index(neighbour, f), F);
  }
}

export function correctFluxes(joins: i32, owner: usize, neighbour: usize, faceMobility: usize, correction: usize, flux: usize): void {
  for (let f: usize = 0; f < <usize>joins; f++) {
    take(flux, f, real(faceMobility, f) * (real(correction, index(neighbour, f)) - real(correction, index(owner, f))));
  }
}
