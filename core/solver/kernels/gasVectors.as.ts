// What an implicit step of the gas solver spends its time in, in AssemblyScript; addresses are bytes in the one memory, n is the length of the
// first array. Each has a plain twin in gas/gasVectors.ts with the same operations in the same order, so that both give the same bits.

import { put, real } from "./memory.as";

export function soundSpeeds(n: i32, out: usize, w: usize, gamma: f64): void {
  for (let c: usize = 0; c < <usize>n; c++) {
    put(out, c, Math.sqrt((gamma * load<f64>(w, 24)) / load<f64>(w)));
    w += 32;
  }
}

// @ts-expect-error: decorator
@inline
function relaxCell(
  c: usize,
  diagonal: usize,
  start: usize,
  faces: usize,
  others: usize,
  normal: usize,
  w: usize,
  sound: usize,
  gamma: f64,
  over: f64,
  right: usize,
  change: usize,
): void {
  const r = right + (c << 5);
  let s0 = load<f64>(r);
  let s1 = load<f64>(r, 8);
  let s2 = load<f64>(r, 16);
  let s3 = load<f64>(r, 24);
  const wi = w + (c << 5);
  const ui = load<f64>(wi, 8);
  const vi = load<f64>(wi, 16);
  const ci = real(sound, c);
  const end = <usize>load<i32>(start + (c << 2), 4);
  for (let q = <usize>load<i32>(start + (c << 2)); q < end; q++) {
    const code = load<i32>(faces + (q << 2));
    const other = <usize>load<i32>(others + (q << 2));
    const outward = code > 0;
    const at = normal + <usize>((outward ? code : -code) - 1) * 24;
    const nx = outward ? load<f64>(at) : -load<f64>(at);
    const ny = outward ? load<f64>(at, 8) : -load<f64>(at, 8);
    const half = 0.5 * load<f64>(at, 16);
    const wj = w + (other << 5);
    const rho = load<f64>(wj);
    const u = load<f64>(wj, 8);
    const v = load<f64>(wj, 16);
    const p = load<f64>(wj, 24);
    const wave = over * (Math.abs(0.5 * ((ui + u) * nx + (vi + v) * ny)) + 0.5 * (ci + real(sound, other)));
    const d = change + (other << 5);
    const a = load<f64>(d);
    const b = load<f64>(d, 8);
    const g = load<f64>(d, 16);
    const e = load<f64>(d, 24);
    const kinetic = 0.5 * (u * u + v * v);
    const across = u * nx + v * ny;
    const mass = b * nx + g * ny;
    const dq = (mass - across * a) / rho;
    const dp = (gamma - 1) * (e - u * b - v * g + kinetic * a);
    s0 -= half * (mass - wave * a);
    s1 -= half * (b * across + rho * u * dq + dp * nx - wave * b);
    s2 -= half * (g * across + rho * v * dq + dp * ny - wave * g);
    s3 -= half * ((e + dp) * across + ((gamma / (gamma - 1)) * p + rho * kinetic) * dq - wave * e);
  }
  const d = real(diagonal, c);
  const out = change + (c << 5);
  store<f64>(out, s0 * d);
  store<f64>(out, s1 * d, 8);
  store<f64>(out, s2 * d, 16);
  store<f64>(out, s3 * d, 24);
}

export function symmetricSweep(
  n: i32,
  diagonal: usize,
  start: usize,
  faces: usize,
  others: usize,
  normal: usize,
  w: usize,
  sound: usize,
  gamma: f64,
  over: f64,
  right: usize,
  change: usize,
): void {
  for (let c: i32 = 0; c < n; c++) relaxCell(<usize>c, diagonal, start, faces, others, normal, w, sound, gamma, over, right, change);
  for (let c: i32 = n - 1; c >= 0; c--) relaxCell(<usize>c, diagonal, start, faces, others, normal, w, sound, gamma, over, right, change);
}

export function primitives(n: i32, u: usize, gamma: f64, w: usize): i32 {
  const g1 = gamma - 1;
  let bad: i32 = -1;
  for (let i: i32 = 0; i < n; i += 4) {
    const rho = load<f64>(u);
    const x = load<f64>(u, 8) / rho;
    const y = load<f64>(u, 16) / rho;
    const p = g1 * (load<f64>(u, 24) - 0.5 * rho * (x * x + y * y));
    if (bad < 0 && !(rho > 0 && p > 0)) bad = i >> 2;
    store<f64>(w, rho);
    store<f64>(w, x, 8);
    store<f64>(w, y, 16);
    store<f64>(w, p, 24);
    u += 32;
    w += 32;
  }
  return bad;
}

export function scaledSquare(n: i32, a: usize, w0: f64, w1: f64, w2: f64, w3: f64): f64 {
  let sum: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i += 4) {
    const r = real(a, i) * w0;
    const x = real(a, i + 1) * w1;
    const y = real(a, i + 2) * w2;
    const e = real(a, i + 3) * w3;
    sum = sum + r * r + x * x + y * y + e * e;
  }
  return sum;
}

export function scaledDot(n: i32, a: usize, b: usize, w0: f64, w1: f64, w2: f64, w3: f64): f64 {
  let sum: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i += 4) {
    sum =
      sum +
      real(a, i) * real(b, i) * w0 * w0 +
      real(a, i + 1) * real(b, i + 1) * w1 * w1 +
      real(a, i + 2) * real(b, i + 2) * w2 * w2 +
      real(a, i + 3) * real(b, i + 3) * w3 * w3;
  }
  return sum;
}

export function addScaled(n: i32, x: usize, a: f64, d: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) put(x, i, real(x, i) + a * real(d, i));
}

export function divideBy(n: i32, a: usize, by: f64, out: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) put(out, i, real(a, i) / by);
}

export function moved(n: i32, from: usize, a: f64, along: usize, out: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) put(out, i, real(from, i) + a * real(along, i));
}

export function operated(n: i32, out: usize, rate: usize, along: usize, residual: usize, base: usize, nudge: f64): void {
  for (let i: usize = 0; i < <usize>n; i++) put(out, i, real(rate, i >> 2) * real(along, i) - (real(residual, i) - real(base, i)) / nudge);
}
