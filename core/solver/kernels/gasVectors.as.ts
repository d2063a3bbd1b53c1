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
  g1: f64,
  heat: f64,
  over: f64,
  right: usize,
  change: usize,
): void {
  const r = right + (c << 5);
  let s0 = load<f64>(r);
  let s12 = v128.load(r, 8);
  let s3 = load<f64>(r, 24);
  const wi = w + (c << 5);
  const uvi = v128.load(wi, 8);
  const ci = real(sound, c);
  const end = <usize>load<i32>(start + (c << 2), 4);
  for (let q = <usize>load<i32>(start + (c << 2)); q < end; q++) {
    const code = load<i32>(faces + (q << 2));
    const other = <usize>load<i32>(others + (q << 2));
    // All ones where the face points inward: turned round by a factor, which costs no branch.
    const inward = code >> 31;
    const at = normal + <usize>((code ^ inward) - inward - 1) * 24;
    // x and y components together: lanes never mix but in sums, so the bits are those of one at a time.
    const n = v128.mul<f64>(v128.load(at), v128.splat<f64>(<f64>(inward | 1)));
    const half = 0.5 * load<f64>(at, 16);
    const wj = w + (other << 5);
    const rho = load<f64>(wj);
    const uv = v128.load(wj, 8);
    const p = load<f64>(wj, 24);
    const mean = v128.mul<f64>(v128.add<f64>(uvi, uv), n);
    const wave = over * (Math.abs(0.5 * (v128.extract_lane<f64>(mean, 0) + v128.extract_lane<f64>(mean, 1))) + 0.5 * (ci + real(sound, other)));
    const d = change + (other << 5);
    const a = load<f64>(d);
    const bg = v128.load(d, 8);
    const e = load<f64>(d, 24);
    const square = v128.mul<f64>(uv, uv);
    const kinetic = 0.5 * (v128.extract_lane<f64>(square, 0) + v128.extract_lane<f64>(square, 1));
    const through = v128.mul<f64>(uv, n);
    const across = v128.extract_lane<f64>(through, 0) + v128.extract_lane<f64>(through, 1);
    const carried = v128.mul<f64>(bg, n);
    const mass = v128.extract_lane<f64>(carried, 0) + v128.extract_lane<f64>(carried, 1);
    const dq = (mass - across * a) / rho;
    const work = v128.mul<f64>(uv, bg);
    const dp = g1 * (e - v128.extract_lane<f64>(work, 0) - v128.extract_lane<f64>(work, 1) + kinetic * a);
    const pushed = v128.mul<f64>(v128.mul<f64>(v128.splat<f64>(rho), uv), v128.splat<f64>(dq));
    const flux = v128.add<f64>(v128.add<f64>(v128.mul<f64>(bg, v128.splat<f64>(across)), pushed), v128.mul<f64>(v128.splat<f64>(dp), n));
    s0 -= half * (mass - wave * a);
    s12 = v128.sub<f64>(s12, v128.mul<f64>(v128.splat<f64>(half), v128.sub<f64>(flux, v128.mul<f64>(v128.splat<f64>(wave), bg))));
    s3 -= half * ((e + dp) * across + (heat * p + rho * kinetic) * dq - wave * e);
  }
  const d = real(diagonal, c);
  const out = change + (c << 5);
  store<f64>(out, s0 * d);
  v128.store(out, v128.mul<f64>(s12, v128.splat<f64>(d)), 8);
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
  // Divided once: the compiler leaves a quotient of constants where it stands.
  const g1 = gamma - 1;
  const heat = gamma / g1;
  for (let c: i32 = 0; c < n; c++) relaxCell(<usize>c, diagonal, start, faces, others, normal, w, sound, g1, heat, over, right, change);
  for (let c: i32 = n - 1; c >= 0; c--) relaxCell(<usize>c, diagonal, start, faces, others, normal, w, sound, g1, heat, over, right, change);
}

export function inverseDiagonal(n: i32, out: usize, rate: usize, waves: usize, over: f64): void {
  for (let c: usize = 0; c < <usize>n; c++) put(out, c, 1 / (real(rate, c) + over * real(waves, c)));
}

export function primitives(n: i32, u: usize, gamma: f64, w: usize): i32 {
  const g1 = gamma - 1;
  let bad: i32 = -1;
  for (let i: i32 = 0; i < n; i += 4) {
    const rho = load<f64>(u);
    const velocity = v128.div<f64>(v128.load(u, 8), v128.splat<f64>(rho));
    const square = v128.mul<f64>(velocity, velocity);
    const p = g1 * (load<f64>(u, 24) - 0.5 * rho * (v128.extract_lane<f64>(square, 0) + v128.extract_lane<f64>(square, 1)));
    if (bad < 0 && !(rho > 0 && p > 0)) bad = i >> 2;
    store<f64>(w, rho);
    v128.store(w, velocity, 8);
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

// Vectors hold four numbers a cell: two at a time leave nothing over.

export function addScaled(n: i32, x: usize, a: f64, d: usize): void {
  const factor = v128.splat<f64>(a);
  const end = <usize>n << 3;
  for (let i: usize = 0; i < end; i += 16) v128.store(x + i, v128.add<f64>(v128.load(x + i), v128.mul<f64>(factor, v128.load(d + i))));
}

export function divideBy(n: i32, a: usize, by: f64, out: usize): void {
  const divisor = v128.splat<f64>(by);
  const end = <usize>n << 3;
  for (let i: usize = 0; i < end; i += 16) v128.store(out + i, v128.div<f64>(v128.load(a + i), divisor));
}

export function moved(n: i32, from: usize, a: f64, along: usize, out: usize): void {
  const factor = v128.splat<f64>(a);
  const end = <usize>n << 3;
  for (let i: usize = 0; i < end; i += 16) v128.store(out + i, v128.add<f64>(v128.load(from + i), v128.mul<f64>(factor, v128.load(along + i))));
}

export function operated(n: i32, out: usize, rate: usize, along: usize, residual: usize, base: usize, nudge: f64): void {
  const step = v128.splat<f64>(nudge);
  for (let i: usize = 0; i < <usize>n; i += 2) {
    const at = i << 3;
    const slope = v128.div<f64>(v128.sub<f64>(v128.load(residual + at), v128.load(base + at)), step);
    v128.store(out + at, v128.sub<f64>(v128.mul<f64>(v128.splat<f64>(real(rate, i >> 2)), v128.load(along + at)), slope));
  }
}

export function sizes(n: i32, w: usize, residual: usize, waves: usize, gamma: f64, out: usize): void {
  let s0: f64 = 0;
  let s1: f64 = 0;
  let s2: f64 = 0;
  let s3: f64 = 0;
  let mass: f64 = 0;
  let momentum: f64 = 0;
  let energy: f64 = 0;
  for (let i: usize = 0; i < <usize>n; i += 4) {
    const rho = real(w, i);
    const p = real(w, i + 3);
    const wave = load<f64>(waves);
    waves += 8;
    s0 = s0 + Math.abs(real(residual, i));
    s1 = s1 + Math.abs(real(residual, i + 1));
    s2 = s2 + Math.abs(real(residual, i + 2));
    s3 = s3 + Math.abs(real(residual, i + 3));
    mass = mass + wave * rho;
    momentum = momentum + wave * rho * Math.sqrt((gamma * p) / rho);
    energy = energy + (wave * p) / (gamma - 1);
  }
  store<f64>(out, s0);
  store<f64>(out, s1, 8);
  store<f64>(out, s2, 16);
  store<f64>(out, s3, 24);
  store<f64>(out, mass, 32);
  store<f64>(out, momentum, 40);
  store<f64>(out, energy, 48);
}

// @ts-expect-error: decorator
@inline
function pressureAfter(u: usize, change: usize, share: f64, gamma: f64): f64 {
  const r = load<f64>(u) + share * load<f64>(change);
  const x = load<f64>(u, 8) + share * load<f64>(change, 8);
  const y = load<f64>(u, 16) + share * load<f64>(change, 16);
  return (gamma - 1) * (load<f64>(u, 24) + share * load<f64>(change, 24) - (0.5 * (x * x + y * y)) / r);
}

export function heldBack(n: i32, u: usize, change: usize, w: usize, gamma: f64, keep: f64, least: f64): f64 {
  let share: f64 = 1;
  for (let i: i32 = 0; i < n; i += 4) {
    const rho = load<f64>(u);
    const fall = -load<f64>(change);
    if (fall * share > (1 - keep) * rho) share = ((1 - keep) * rho) / fall;
    while (share > least && !(pressureAfter(u, change, share, gamma) > keep * load<f64>(w, 24))) share = share * 0.7;
    u += 32;
    change += 32;
    w += 32;
  }
  return share;
}
