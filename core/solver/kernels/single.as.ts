// The preconditioner of the pressure solver, in single precision, in AssemblyScript; addresses are bytes in the one memory.
// Each has a plain twin in plainSingle.ts with the same operations in the same order, so that both give the same bits.
// A hierarchy is a list of addresses: the number of levels, the factor of the coarsest, then `LEVEL` places for each level, finest first.

import { add, addSingle, index, put, putSingle, real, single } from "./memory.as";

const LEVEL = 15;
const SIZE = 0;
const ROW_START = 1;
const COLUMN = 2;
const DIAGONAL = 3;
const VALUES = 4;
const INVERSE = 5;
const X = 6;
const B = 7;
const C = 8;
const AC = 9;
const AX = 10;
const KEEP = 11;
const AGGREGATE = 12;
const COARSE_ENTRY = 13;
const ENTRIES = 14;

// @ts-expect-error: decorator
@inline
function levelOf(hierarchy: usize, l: usize): usize {
  return hierarchy + ((2 + l * LEVEL) << 2);
}

/** A forward sweep from zero; what is left over is added to the coarser right-hand side. */
function smoothDown(level: usize, coarse: usize): void {
  const n = index(level, SIZE);
  const rowStart = index(level, ROW_START);
  const column = index(level, COLUMN);
  const diagonal = index(level, DIAGONAL);
  const values = index(level, VALUES);
  const inverse = index(level, INVERSE);
  const aggregate = index(level, AGGREGATE);
  const b = index(level, B);
  const x = index(level, X);
  memory.fill(index(coarse, B), 0, index(coarse, SIZE) << 2);
  for (let i: usize = 0; i < n; i++) {
    let s = single(b, i);
    const end = index(diagonal, i);
    for (let k = index(rowStart, i); k < end; k++) s = s - single(values, k) * single(x, index(column, k));
    putSingle(x, i, s * single(inverse, i));
  }
  const sum = index(coarse, B);
  for (let i: usize = 0; i < n; i++) {
    let s: f32 = 0;
    const end = index(rowStart, i + 1);
    for (let k = index(diagonal, i) + 1; k < end; k++) s = s - single(values, k) * single(x, index(column, k));
    addSingle(sum, index(aggregate, i), s);
  }
}

/** Adds the coarser solution, then sweeps backward. */
function smoothUp(level: usize, coarse: usize): void {
  const n = index(level, SIZE);
  const rowStart = index(level, ROW_START);
  const column = index(level, COLUMN);
  const diagonal = index(level, DIAGONAL);
  const values = index(level, VALUES);
  const inverse = index(level, INVERSE);
  const aggregate = index(level, AGGREGATE);
  const b = index(level, B);
  const x = index(level, X);
  const carried = index(coarse, X);
  for (let i: usize = 0; i < n; i++) addSingle(x, i, single(carried, index(aggregate, i)));
  for (let q: i32 = <i32>n - 1; q >= 0; q--) {
    const i = <usize>q;
    const d = index(diagonal, i);
    let s = single(b, i);
    for (let k = index(rowStart, i); k < d; k++) s = s - single(values, k) * single(x, index(column, k));
    // From the far end, so that the neighbour just found comes last: its latency is not paid twice.
    for (let k = index(rowStart, i + 1) - 1; k > d; k--) s = s - single(values, k) * single(x, index(column, k));
    putSingle(x, i, s * single(inverse, i));
  }
}

function multiply(level: usize, x: usize, y: usize): void {
  const n = index(level, SIZE);
  const rowStart = index(level, ROW_START);
  const column = index(level, COLUMN);
  const values = index(level, VALUES);
  let k = index(rowStart, 0);
  for (let i: usize = 0; i < n; i++) {
    const end = index(rowStart, i + 1);
    let s: f32 = 0;
    for (; k < end; k++) s = s + single(values, k) * single(x, index(column, k));
    putSingle(y, i, s);
  }
}

function dot(n: usize, x: usize, y: usize): f64 {
  let sum: f64 = 0;
  for (let i: usize = 0; i < n; i++) sum += <f64>single(x, i) * <f64>single(y, i);
  return sum;
}

function addScaled(n: usize, a: f32, x: usize, y: usize): void {
  for (let i: usize = 0; i < n; i++) addSingle(y, i, a * single(x, i));
}

/** Two flexible conjugate gradient steps prepared by `cycle`. */
function krylov(hierarchy: usize, l: usize): void {
  const level = levelOf(hierarchy, l);
  const n = index(level, SIZE);
  const x = index(level, X);
  const b = index(level, B);
  const c = index(level, C);
  const ac = index(level, AC);
  const ax = index(level, AX);
  const keep = index(level, KEEP);
  memory.copy(keep, b, n << 2);
  cycle(hierarchy, l);
  memory.copy(c, x, n << 2);
  multiply(level, c, ac);
  const rho = dot(n, c, ac);
  if (!(rho > 0)) return;
  const norm = dot(n, b, b);
  const t = dot(n, c, b) / rho;
  addScaled(n, <f32>-t, ac, b);
  let c1 = t;
  let c2: f64 = 0;
  if (dot(n, b, b) >= 0.0625 * norm) {
    cycle(hierarchy, l);
    multiply(level, x, ax);
    const gamma = dot(n, x, ac);
    const rho2 = dot(n, x, ax) - (gamma * gamma) / rho;
    if (rho2 > 1e-300) {
      c2 = dot(n, x, b) / rho2;
      c1 = t - (gamma * c2) / rho;
    }
  }
  const keepOf = <f32>c2;
  for (let i: usize = 0; i < n; i++) putSingle(x, i, keepOf * single(x, i));
  addScaled(n, <f32>c1, c, x);
  memory.copy(b, keep, n << 2);
}

/** By the factor of the coarsest matrix. */
function solveCoarsest(hierarchy: usize, level: usize): void {
  const n = index(level, SIZE);
  const x = index(level, X);
  const b = index(level, B);
  const a = index(hierarchy, 1);
  for (let i: usize = 0; i < n; i++) {
    let s: f64 = <f64>single(b, i);
    for (let k: usize = 0; k < i; k++) s -= real(a, i * n + k) * <f64>single(x, k);
    putSingle(x, i, <f32>(s / real(a, i * n + i)));
  }
  for (let q: i32 = <i32>n - 1; q >= 0; q--) {
    const i = <usize>q;
    let s: f64 = <f64>single(x, i);
    for (let k = i + 1; k < n; k++) s -= real(a, k * n + i) * <f64>single(x, k);
    putSingle(x, i, <f32>(s / real(a, i * n + i)));
  }
}

function cycle(hierarchy: usize, l: usize): void {
  const level = levelOf(hierarchy, l);
  const last = index(hierarchy, 0) - 1;
  if (l == last) {
    solveCoarsest(hierarchy, level);
    return;
  }
  const coarse = levelOf(hierarchy, l + 1);
  smoothDown(level, coarse);
  if (l + 1 == last) cycle(hierarchy, l + 1);
  else krylov(hierarchy, l + 1);
  smoothUp(level, coarse);
}

export function precondition(hierarchy: usize): void {
  cycle(hierarchy, 0);
}

/** Takes over the values of the finest matrix, given in double precision. */
export function refresh(hierarchy: usize, values: usize, singular: i32): void {
  const count = index(hierarchy, 0);
  const finest = levelOf(hierarchy, 0);
  const top = index(finest, VALUES);
  const entries = index(finest, ENTRIES);
  for (let k: usize = 0; k < entries; k++) putSingle(top, k, <f32>real(values, k));
  for (let l: usize = 0; l < count; l++) {
    const level = levelOf(hierarchy, l);
    const own = index(level, VALUES);
    if (l + 1 < count) {
      const coarse = levelOf(hierarchy, l + 1);
      const sum = index(coarse, VALUES);
      const entry = index(level, COARSE_ENTRY);
      memory.fill(sum, 0, index(coarse, ENTRIES) << 2);
      const all = index(level, ENTRIES);
      for (let k: usize = 0; k < all; k++) addSingle(sum, index(entry, k), single(own, k));
    }
    const n = index(level, SIZE);
    const diagonal = index(level, DIAGONAL);
    const inverse = index(level, INVERSE);
    for (let i: usize = 0; i < n; i++) putSingle(inverse, i, <f32>1 / single(own, index(diagonal, i)));
  }
  factorCoarsest(hierarchy, levelOf(hierarchy, count - 1), singular != 0);
}

/** Cholesky's factor of the coarsest matrix, as a full one. */
function factorCoarsest(hierarchy: usize, level: usize, singular: bool): void {
  const n = index(level, SIZE);
  const a = index(hierarchy, 1);
  const rowStart = index(level, ROW_START);
  const column = index(level, COLUMN);
  const values = index(level, VALUES);
  memory.fill(a, 0, (n * n) << 3);
  let largest: f64 = 0;
  for (let i: usize = 0; i < n; i++) {
    const end = index(rowStart, i + 1);
    for (let k = index(rowStart, i); k < end; k++) put(a, i * n + index(column, k), <f64>single(values, k));
    largest = Math.max(largest, real(a, i * n + i));
  }
  if (singular) {
    const level = largest / <f64>n;
    for (let k: usize = 0; k < n * n; k++) add(a, k, level);
  }
  for (let j: usize = 0; j < n; j++) {
    let d = real(a, j * n + j);
    for (let k: usize = 0; k < j; k++) d -= real(a, j * n + k) * real(a, j * n + k);
    d = Math.sqrt(Math.max(d, 1e-14 * largest));
    put(a, j * n + j, d);
    for (let i = j + 1; i < n; i++) {
      let s = real(a, i * n + j);
      for (let k: usize = 0; k < j; k++) s -= real(a, i * n + k) * real(a, j * n + k);
      put(a, i * n + j, s / d);
    }
  }
}

export function toSingle(n: i32, from: usize, factor: f64, to: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) putSingle(to, i, <f32>(real(from, i) * factor));
}

export function mixedDots(n: i32, z: usize, a: usize, b: usize, out: usize): void {
  let s: f64 = 0;
  let t: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i++) {
    const v = <f64>single(z, i);
    s += v * real(a, i);
    t += v * real(b, i);
  }
  put(out, 0, s);
  put(out, 1, t);
}

export function turnDirection(n: i32, z: usize, beta: f64, p: usize): void {
  const factor = v128.splat<f64>(beta);
  const even = <usize>(n & ~1);
  for (let i: usize = 0; i < even; i += 2) {
    const at = p + (i << 3);
    const two = v128.promote_low<f32>(v128.load_zero<u64>(z + (i << 2)));
    v128.store(at, v128.add<f64>(two, v128.mul<f64>(factor, v128.load(at))));
  }
  if (n & 1) put(p, <usize>(n - 1), <f64>single(z, <usize>(n - 1)) + beta * real(p, <usize>(n - 1)));
}
