// Loops over the rows of the transport equations, in AssemblyScript; addresses are bytes in the one memory, 0 where something is absent.
// Each has a plain twin in plainRows.ts with the same operations in the same order, so that both give the same bits.

import { add, index, put, real } from "./memory.as";

// @ts-expect-error: decorator
@inline
function residual(
  pair: bool,
  size: i32,
  rowStart: usize,
  column: usize,
  diagonalEntry: usize,
  values: usize,
  x1: usize,
  x2: usize,
  r1: usize,
  r2: usize,
  mean1: f64,
  mean2: f64,
  diagonal: usize,
  sums: usize,
): void {
  let s1: f64 = 0;
  let s2: f64 = 0;
  let scale: f64 = 0;
  let c = column + (index(rowStart, 0) << 2);
  let a = values + (index(rowStart, 0) << 3);
  for (let i: usize = 0; i < <usize>size; i++) {
    const end = column + (index(rowStart, i + 1) << 2);
    let a1 = real(r1, i);
    let a2: f64 = pair ? real(r2, i) : 0;
    // Most rows have five entries, and those take no turn of a loop; the order of the sum is that of the entries.
    if (c + 20 == end) {
      const j = index(c, 0) << 3;
      const k = index(c, 1) << 3;
      const l = index(c, 2) << 3;
      const m = index(c, 3) << 3;
      const n = index(c, 4) << 3;
      const v = load<f64>(a);
      const w = load<f64>(a, 8);
      const x = load<f64>(a, 16);
      const y = load<f64>(a, 24);
      const z = load<f64>(a, 32);
      a1 = a1 - v * load<f64>(x1 + j) - w * load<f64>(x1 + k) - x * load<f64>(x1 + l) - y * load<f64>(x1 + m) - z * load<f64>(x1 + n);
      if (pair)
        a2 = a2 - v * load<f64>(x2 + j) - w * load<f64>(x2 + k) - x * load<f64>(x2 + l) - y * load<f64>(x2 + m) - z * load<f64>(x2 + n);
      c += 20;
      a += 40;
    } else {
      while (c < end) {
        const j = index(c, 0) << 3;
        const v = load<f64>(a);
        a1 = a1 - v * load<f64>(x1 + j);
        if (pair) a2 = a2 - v * load<f64>(x2 + j);
        c += 4;
        a += 8;
      }
    }
    put(r1, i, a1);
    s1 = s1 + Math.abs(a1);
    const d = real(values, index(diagonalEntry, i));
    if (pair) {
      put(r2, i, a2);
      s2 = s2 + Math.abs(a2);
      put(diagonal, i, d);
      scale = scale + d * (Math.abs(real(x1, i) - mean1) + Math.abs(real(x2, i) - mean2));
    } else scale = scale + d * Math.abs(real(x1, i) - mean1);
  }
  store<f64>(sums, s1);
  if (pair) store<f64>(sums, s2, 8);
  store<f64>(sums, scale, 16);
}

export function residualPair(
  size: i32,
  rowStart: usize,
  column: usize,
  diagonalEntry: usize,
  values: usize,
  u: usize,
  v: usize,
  ru: usize,
  rv: usize,
  meanU: f64,
  meanV: f64,
  diagonal: usize,
  sums: usize,
): void {
  residual(true, size, rowStart, column, diagonalEntry, values, u, v, ru, rv, meanU, meanV, diagonal, sums);
}

export function residualOne(
  size: i32,
  rowStart: usize,
  column: usize,
  diagonalEntry: usize,
  values: usize,
  q: usize,
  r: usize,
  mean: f64,
  sums: usize,
): void {
  residual(false, size, rowStart, column, diagonalEntry, values, q, 0, r, 0, mean, 0, 0, sums);
}

// In a sweep the neighbour just found comes last into its row's sum, so that its latency is not paid twice: the lower ones in ascending order on the way
// forth, the upper ones in descending order on the way back.

/** One row of a sweep over two quantities that share the matrix. */
// @ts-expect-error: decorator
@inline
function relaxPair(
  forth: bool,
  i: usize,
  rowStart: usize,
  column: usize,
  diagonalEntry: usize,
  values: usize,
  b1: usize,
  b2: usize,
  x1: usize,
  x2: usize,
): void {
  const start = index(rowStart, i);
  const end = index(rowStart, i + 1);
  const d = index(diagonalEntry, i);
  const first = column + (start << 2);
  const middle = column + (d << 2);
  let r1 = real(b1, i);
  let r2 = real(b2, i);
  if (!forth) {
    let a = values + (start << 3);
    for (let c = first; c < middle; c += 4) {
      const j = index(c, 0) << 3;
      const v = load<f64>(a);
      r1 = r1 - v * load<f64>(x1 + j);
      r2 = r2 - v * load<f64>(x2 + j);
      a += 8;
    }
  }
  let a = values + ((end - 1) << 3);
  for (let c = column + ((end - 1) << 2); c > middle; c -= 4) {
    const j = index(c, 0) << 3;
    const v = load<f64>(a);
    r1 = r1 - v * load<f64>(x1 + j);
    r2 = r2 - v * load<f64>(x2 + j);
    a -= 8;
  }
  if (forth) {
    a = values + (start << 3);
    for (let c = first; c < middle; c += 4) {
      const j = index(c, 0) << 3;
      const v = load<f64>(a);
      r1 = r1 - v * load<f64>(x1 + j);
      r2 = r2 - v * load<f64>(x2 + j);
      a += 8;
    }
  }
  const inverse: f64 = 1 / real(values, d);
  put(x1, i, r1 * inverse);
  put(x2, i, r2 * inverse);
}

/** Relaxes the rows on the way of the first forward sweep from zero, then sweeps back, forth, and back into the fields. */
export function relaxMomentum(
  size: i32,
  rowStart: usize,
  column: usize,
  diagonalEntry: usize,
  values: usize,
  diagonal: usize,
  around: usize,
  relaxation: f64,
  volume: usize,
  mobility: usize,
  ru: usize,
  rv: usize,
  du: usize,
  dv: usize,
  u: usize,
  v: usize,
): void {
  const last = size - 1;
  for (let i: usize = 0; i < <usize>size; i++) {
    const at = index(diagonalEntry, i);
    const end = index(rowStart, i + 1);
    let off = real(values, at);
    let r1 = real(ru, i);
    let r2 = real(rv, i);
    const start = index(rowStart, i);
    let c = column + (start << 2);
    let a = values + (start << 3);
    for (const d = values + (at << 3); a < d; a += 8) {
      const v = load<f64>(a);
      const j = index(c, 0) << 3;
      off = off - v;
      r1 = r1 - v * load<f64>(du + j);
      r2 = r2 - v * load<f64>(dv + j);
      c += 4;
    }
    for (const last = values + (end << 3); a < last; a += 8) off = off - load<f64>(a);
    const relaxed = (real(diagonal, i) + (around == 0 ? 0 : real(around, i))) / relaxation;
    put(values, at, relaxed);
    put(mobility, i, real(volume, i) / Math.max(relaxed - off, 0.02 * relaxed));
    const inverse: f64 = 1 / relaxed;
    put(du, i, r1 * inverse);
    put(dv, i, r2 * inverse);
  }
  for (let i = last; i >= 0; i--) relaxPair(false, <usize>i, rowStart, column, diagonalEntry, values, ru, rv, du, dv);
  for (let i: i32 = 0; i < size; i++) relaxPair(true, <usize>i, rowStart, column, diagonalEntry, values, ru, rv, du, dv);
  for (let i = last; i >= 0; i--) {
    const c = <usize>i;
    relaxPair(false, c, rowStart, column, diagonalEntry, values, ru, rv, du, dv);
    add(u, c, real(du, c));
    add(v, c, real(dv, c));
  }
}

// @ts-expect-error: decorator
@inline
function relaxRow(forth: bool, i: usize, rowStart: usize, column: usize, diagonalEntry: usize, values: usize, b: usize, x: usize): void {
  const start = index(rowStart, i);
  const d = index(diagonalEntry, i);
  let r = real(b, i);
  if (!forth) for (let k = start; k < d; k++) r = r - real(values, k) * real(x, index(column, k));
  for (let k = index(rowStart, i + 1) - 1; k > d; k--) r = r - real(values, k) * real(x, index(column, k));
  if (forth) for (let k = start; k < d; k++) r = r - real(values, k) * real(x, index(column, k));
  put(x, i, r / real(values, d));
}

/** As relaxMomentum, for one quantity: forth and back three times. */
export function relaxQuantity(
  size: i32,
  rowStart: usize,
  column: usize,
  diagonalEntry: usize,
  values: usize,
  relaxation: f64,
  residual: usize,
  change: usize,
  q: usize,
): void {
  const last = size - 1;
  for (let i: usize = 0; i < <usize>size; i++) {
    const at = index(diagonalEntry, i);
    let r = real(residual, i);
    for (let k = index(rowStart, i); k < at; k++) r = r - real(values, k) * real(change, index(column, k));
    const relaxed = real(values, at) / relaxation;
    put(values, at, relaxed);
    put(change, i, r / relaxed);
  }
  for (let i = last; i >= 0; i--) relaxRow(false, <usize>i, rowStart, column, diagonalEntry, values, residual, change);
  for (let i: i32 = 0; i < size; i++) relaxRow(true, <usize>i, rowStart, column, diagonalEntry, values, residual, change);
  for (let i = last; i >= 0; i--) relaxRow(false, <usize>i, rowStart, column, diagonalEntry, values, residual, change);
  for (let i: i32 = 0; i < size; i++) relaxRow(true, <usize>i, rowStart, column, diagonalEntry, values, residual, change);
  for (let i = last; i >= 0; i--) {
    relaxRow(false, <usize>i, rowStart, column, diagonalEntry, values, residual, change);
    add(q, <usize>i, real(change, <usize>i));
  }
}
