// The hot loops of the gas solver in AssemblyScript, compiled at build; addresses are bytes in the one memory.
// Each has a plain twin in gasKernels.ts with the same operations in the same order, so that both give the same bits.

import { sumOf } from "./memory.as";

/** Two components of both cells beside a face; lanes never mix, so the bits are those of one at a time. */
// @ts-expect-error: decorator
@inline
function spread(i: usize, j: usize, fo: v128, fn: v128, w: usize, slope: usize, low: usize, high: usize): void {
  const a = v128.load(w + i);
  const b = v128.load(w + j);
  const d = v128.sub<f64>(b, a);
  const d0 = v128.shuffle<f64>(d, d, 0, 0);
  const d1 = v128.shuffle<f64>(d, d, 1, 1);
  const si = slope + (i << 1);
  const sj = slope + (j << 1);
  v128.store(si, v128.add<f64>(v128.load(si), v128.mul<f64>(fo, d0)));
  v128.store(si, v128.add<f64>(v128.load(si, 16), v128.mul<f64>(fo, d1)), 16);
  v128.store(sj, v128.add<f64>(v128.load(sj), v128.mul<f64>(fn, d0)));
  v128.store(sj, v128.add<f64>(v128.load(sj, 16), v128.mul<f64>(fn, d1)), 16);
  v128.store(low + i, v128.pmin<f64>(v128.load(low + i), b));
  v128.store(high + i, v128.pmax<f64>(v128.load(high + i), b));
  v128.store(low + j, v128.pmin<f64>(v128.load(low + j), a));
  v128.store(high + j, v128.pmax<f64>(v128.load(high + j), a));
}

export function gradients(joins: i32, cells: i32, pairs: usize, factors: usize, w: usize, slope: usize, low: usize, high: usize): void {
  memory.fill(slope, 0, <usize>(cells * 64));
  memory.copy(low, w, <usize>(cells * 32));
  memory.copy(high, w, <usize>(cells * 32));
  for (let f: i32 = 0; f < joins; f++) {
    const o = <usize>load<i32>(pairs) << 5;
    const n = <usize>load<i32>(pairs, 4) << 5;
    pairs += 8;
    const fo = v128.load(factors);
    const fn = v128.load(factors, 16);
    factors += 32;
    spread(o, n, fo, fn, w, slope, low, high);
    spread(o + 16, n + 16, fo, fn, w, slope, low, high);
  }
}

// @ts-expect-error: decorator
@inline
function boundWithin(i: usize, reach: f64, w: usize, low: usize, high: usize, share: usize): void {
  const here = load<f64>(w + i);
  if (Math.abs(reach) <= 1e-14 * Math.abs(here)) return;
  const r = ((reach > 0 ? load<f64>(high + i) : load<f64>(low + i)) - here) / reach;
  if (r < load<f64>(share + i)) store<f64>(share + i, r);
}

/** Two components at once. */
// @ts-expect-error: decorator
@inline
function boundSmoothly(i: usize, reach: v128, w: usize, low: usize, high: usize, floor: usize, share: usize): void {
  const upward = v128.gt<f64>(reach, v128.splat<f64>(0));
  const room = v128.sub<f64>(v128.bitselect(v128.load(high + i), v128.load(low + i), upward), v128.load(w + i));
  const y = v128.add<f64>(v128.mul<f64>(room, room), v128.load(floor + i));
  const twice = v128.mul<f64>(v128.splat<f64>(2), reach);
  const top = v128.add<f64>(y, v128.mul<f64>(twice, room));
  const bottom = v128.add<f64>(v128.add<f64>(y, v128.mul<f64>(twice, reach)), v128.mul<f64>(reach, room));
  const one = v128.splat<f64>(1);
  const s = v128.bitselect(v128.div<f64>(top, bottom), one, v128.gt<f64>(bottom, v128.splat<f64>(0)));
  v128.store(share + i, v128.pmin<f64>(v128.load(share + i), s));
}

// @ts-expect-error: decorator
@inline
function reachOf(slope: usize, i: usize, x: v128, y: v128): v128 {
  const at = slope + (i << 1);
  const first = v128.load(at);
  const second = v128.load(at, 16);
  const along = v128.mul<f64>(v128.shuffle<f64>(first, second, 0, 2), x);
  return v128.add<f64>(along, v128.mul<f64>(v128.shuffle<f64>(first, second, 1, 3), y));
}

/** kind 0: none, 1: bounds, 2: smooth, 3: first order */
export function limit(
  joins: i32,
  cells: i32,
  kind: i32,
  pairs: usize,
  arm: usize,
  w: usize,
  slope: usize,
  low: usize,
  high: usize,
  floor: usize,
  share: usize,
): void {
  const full: f64 = kind == 3 ? 0 : 1;
  const all = v128.splat<f64>(full);
  for (let i: usize = 0; i < <usize>(cells * 32); i += 16) v128.store(share + i, all);
  if (kind == 0 || kind == 3) return;
  for (let f: i32 = 0; f < joins; f++) {
    const o = <usize>load<i32>(pairs) << 5;
    const n = <usize>load<i32>(pairs, 4) << 5;
    pairs += 8;
    const ox = load<f64>(arm);
    const oy = load<f64>(arm, 8);
    const nx = load<f64>(arm, 16);
    const ny = load<f64>(arm, 24);
    arm += 32;
    if (kind == 2) {
      const ox2 = v128.splat<f64>(ox);
      const oy2 = v128.splat<f64>(oy);
      const nx2 = v128.splat<f64>(nx);
      const ny2 = v128.splat<f64>(ny);
      boundSmoothly(o, reachOf(slope, o, ox2, oy2), w, low, high, floor, share);
      boundSmoothly(n, reachOf(slope, n, nx2, ny2), w, low, high, floor, share);
      boundSmoothly(o + 16, reachOf(slope, o + 16, ox2, oy2), w, low, high, floor, share);
      boundSmoothly(n + 16, reachOf(slope, n + 16, nx2, ny2), w, low, high, floor, share);
      continue;
    }
    for (let k: usize = 0; k < 32; k += 8) {
      const si = slope + ((o + k) << 1);
      const sj = slope + ((n + k) << 1);
      boundWithin(o + k, load<f64>(si) * ox + load<f64>(si, 8) * oy, w, low, high, share);
      boundWithin(n + k, load<f64>(sj) * nx + load<f64>(sj, 8) * ny, w, low, high, share);
    }
  }
}

/** Two components of a cell as they are seen from a face. */
// @ts-expect-error: decorator
@inline
function seen(w: usize, slope: usize, share: usize, at: usize, x: v128, y: v128): v128 {
  return v128.add<f64>(v128.load(w + at), v128.mul<f64>(v128.load(share + at), reachOf(slope, at, x, y)));
}

// @ts-expect-error: decorator
@inline
function add(at: usize, value: f64): void {
  store<f64>(at, load<f64>(at) + value);
}

/** HLLC fluxes over the joining faces. */
export function contactFluxes(
  joins: i32,
  gamma: f64,
  pairs: usize,
  normal: usize,
  arm: usize,
  w: usize,
  slope: usize,
  share: usize,
  residual: usize,
  speed: usize,
): void {
  const apart = v128.replace_lane<f64>(v128.splat<f64>(1), 1, -1);
  for (let f: i32 = 0; f < joins; f++) {
    const oc = <usize>load<i32>(pairs);
    const nc = <usize>load<i32>(pairs, 4);
    pairs += 8;
    const o = oc << 5;
    const n = nc << 5;
    const nx = load<f64>(normal);
    const ny = load<f64>(normal, 8);
    const area = load<f64>(normal, 16);
    normal += 24;
    const ox = load<f64>(arm);
    const oy = load<f64>(arm, 8);
    const px = load<f64>(arm, 16);
    const py = load<f64>(arm, 24);
    arm += 32;
    const ox2 = v128.splat<f64>(ox);
    const oy2 = v128.splat<f64>(oy);
    let first = seen(w, slope, share, o, ox2, oy2);
    let second = seen(w, slope, share, o + 16, ox2, oy2);
    if (!(v128.extract_lane<f64>(first, 0) > 0 && v128.extract_lane<f64>(second, 1) > 0)) {
      first = v128.load(w + o);
      second = v128.load(w + o, 16);
    }
    const px2 = v128.splat<f64>(px);
    const py2 = v128.splat<f64>(py);
    let third = seen(w, slope, share, n, px2, py2);
    let fourth = seen(w, slope, share, n + 16, px2, py2);
    if (!(v128.extract_lane<f64>(third, 0) > 0 && v128.extract_lane<f64>(fourth, 1) > 0)) {
      third = v128.load(w + n);
      fourth = v128.load(w + n, 16);
    }
    // Both sides together: divisions and roots are what this loop waits for.
    const density = v128.shuffle<f64>(first, third, 0, 2);
    const alongX = v128.shuffle<f64>(first, third, 1, 3);
    const alongY = v128.shuffle<f64>(second, fourth, 0, 2);
    const pressure = v128.shuffle<f64>(second, fourth, 1, 3);
    const across = v128.add<f64>(v128.mul<f64>(alongX, v128.splat<f64>(nx)), v128.mul<f64>(alongY, v128.splat<f64>(ny)));
    const squares = v128.add<f64>(v128.mul<f64>(alongX, alongX), v128.mul<f64>(alongY, alongY));
    const kinetic = v128.mul<f64>(v128.mul<f64>(v128.splat<f64>(0.5), density), squares);
    const energy = v128.add<f64>(v128.div<f64>(pressure, v128.splat<f64>(gamma - 1)), kinetic);
    const sound = v128.sqrt<f64>(v128.div<f64>(v128.mul<f64>(v128.splat<f64>(gamma), pressure), density));
    const roots = v128.sqrt<f64>(density);
    const heat = v128.div<f64>(v128.mul<f64>(roots, v128.add<f64>(energy, pressure)), density);
    // Roe's mean of the velocities, and of the enthalpy.
    const meanX = v128.mul<f64>(roots, alongX);
    const meanY = v128.mul<f64>(roots, alongY);
    const part = 1 / sumOf(roots);
    const u = sumOf(meanX) * part;
    const v = sumOf(meanY) * part;
    const h = sumOf(heat) * part;
    const q = u * nx + v * ny;
    const c = v128.extract_lane<f64>(v128.sqrt<f64>(v128.pmax<f64>(v128.splat<f64>((gamma - 1) * (h - 0.5 * (u * u + v * v))), v128.splat<f64>(1e-12 * h))), 0);
    // The slowest wave, and the fastest turned round: the least of both at once, without a branch nobody can foresee.
    const turned = v128.sub<f64>(v128.mul<f64>(across, apart), sound);
    const ends = v128.pmin<f64>(turned, v128.sub<f64>(v128.mul<f64>(v128.splat<f64>(q), apart), v128.splat<f64>(c)));
    const slow = v128.extract_lane<f64>(ends, 0);
    const fast = -v128.extract_lane<f64>(ends, 1);
    const nx2 = v128.splat<f64>(nx);
    const ny2 = v128.splat<f64>(ny);
    // Of both sides, one a lane: mass, both momenta, energy.
    let f0: v128, f1: v128, f2: v128, f3: v128;
    let left: bool;
    if (slow >= 0 || fast <= 0) {
      left = slow >= 0;
      f0 = v128.mul<f64>(density, across);
      f1 = v128.add<f64>(v128.mul<f64>(f0, alongX), v128.mul<f64>(pressure, nx2));
      f2 = v128.add<f64>(v128.mul<f64>(f0, alongY), v128.mul<f64>(pressure, ny2));
      f3 = v128.mul<f64>(across, v128.add<f64>(energy, pressure));
    } else {
      const speed = v128.mul<f64>(ends, apart);
      const m = v128.mul<f64>(density, v128.sub<f64>(speed, across));
      const carried = v128.mul<f64>(m, across);
      const jump = v128.extract_lane<f64>(pressure, 1) - v128.extract_lane<f64>(pressure, 0);
      const contact =
        (jump + v128.extract_lane<f64>(carried, 0) - v128.extract_lane<f64>(carried, 1)) / (v128.extract_lane<f64>(m, 0) - v128.extract_lane<f64>(m, 1));
      left = contact >= 0;
      const middle = v128.splat<f64>(contact);
      const p = v128.add<f64>(pressure, v128.mul<f64>(m, v128.sub<f64>(middle, across)));
      const inverse = v128.div<f64>(v128.splat<f64>(1), v128.sub<f64>(speed, middle));
      const push = v128.sub<f64>(p, pressure);
      f0 = v128.mul<f64>(v128.mul<f64>(m, inverse), middle);
      f1 = v128.mul<f64>(v128.mul<f64>(v128.add<f64>(v128.mul<f64>(m, alongX), v128.mul<f64>(push, nx2)), inverse), middle);
      f1 = v128.add<f64>(f1, v128.mul<f64>(p, nx2));
      f2 = v128.mul<f64>(v128.mul<f64>(v128.add<f64>(v128.mul<f64>(m, alongY), v128.mul<f64>(push, ny2)), inverse), middle);
      f2 = v128.add<f64>(f2, v128.mul<f64>(p, ny2));
      const held = v128.sub<f64>(v128.mul<f64>(v128.sub<f64>(speed, across), energy), v128.mul<f64>(pressure, across));
      f3 = v128.add<f64>(v128.mul<f64>(v128.add<f64>(held, v128.mul<f64>(p, middle)), inverse), p);
      f3 = v128.mul<f64>(f3, middle);
    }
    const area2 = v128.splat<f64>(area);
    const g0 = v128.mul<f64>(left ? v128.shuffle<f64>(f0, f1, 0, 2) : v128.shuffle<f64>(f0, f1, 1, 3), area2);
    const g1 = v128.mul<f64>(left ? v128.shuffle<f64>(f2, f3, 0, 2) : v128.shuffle<f64>(f2, f3, 1, 3), area2);
    const from = residual + o;
    v128.store(from, v128.sub<f64>(v128.load(from), g0));
    v128.store(from, v128.sub<f64>(v128.load(from, 16), g1), 16);
    const into = residual + n;
    v128.store(into, v128.add<f64>(v128.load(into), g0));
    v128.store(into, v128.add<f64>(v128.load(into, 16), g1), 16);
    const wave = (Math.abs(0.5 * (sumOf(alongX) * nx + sumOf(alongY) * ny)) + 0.5 * sumOf(sound)) * area;
    add(speed + (oc << 3), wave);
    add(speed + (nc << 3), wave);
  }
}
