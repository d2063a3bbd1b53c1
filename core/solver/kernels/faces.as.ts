// Loops over joining faces that carry momentum, quantities and pressure, in AssemblyScript; addresses are bytes in the one memory.
// Each has a plain twin in plainFaces.ts with the same operations in the same order, so that both give the same bits.
// A table holds the addresses of a geometry's arrays in the order of `Faces`; those of oblique faces are 0 on straight meshes.

import { add, both, index, put, real, sumOf, take } from "./memory.as";

// Places in the table.
const OWNER = 0;
const NEIGHBOUR = 1;
const WEIGHT = 2;
const CONDUCTANCE = 3;
const SX = 4;
const SY = 5;
const VOLUME = 6;
const DIAGONAL = 7;
const OWNER_ENTRY = 8;
const NEIGHBOUR_ENTRY = 9;
const DX = 10;
const DY = 11;
const TX = 12;
const TY = 13;
const KX = 14;
const KY = 15;
const OX = 16;
const OY = 17;
const NX = 18;
const NY = 19;

const CENTRAL = 1;
const LINEAR_UPWIND = 2;
const LIMITED = 3;

/** A field at a face, by linear interpolation between the owner's share w and the neighbour's. */
// @ts-expect-error: decorator
@inline
function between(w: f64, w1: f64, q: usize, o: usize, n: usize): f64 {
  return w * real(q, o) + w1 * real(q, n);
}

/** What one quantity's higher-order scheme adds to upwind: (ax, ay) leads from the upwind cell to the face, or across where the scheme is limited. */
// @ts-expect-error: decorator
@inline
function higher(
  scheme: i32,
  straight: bool,
  out: bool,
  w: f64,
  w1: f64,
  qo: f64,
  qn: f64,
  gx: f64,
  gy: f64,
  fx: f64,
  fy: f64,
  ax: f64,
  ay: f64,
): f64 {
  if (scheme == CENTRAL) {
    const across = straight ? w * qo + w1 * qn : w * qo + w1 * qn + fx * ax + fy * ay;
    return across - (out ? qo : qn);
  }
  if (scheme == LINEAR_UPWIND) return gx * ax + gy * ay;
  const jump = out ? qn - qo : qo - qn;
  const slope = gx * ax + gy * ay;
  const ratio = Math.abs(jump) > 1e-300 ? (2 * slope) / jump - 1 : 1;
  return (ratio > 0 ? (2 * ratio) / (1 + ratio) : 0) * (out ? w1 : w) * jump;
}

/** Assembles the upwind matrix and takes what the scheme adds from the residual of one quantity, or of two that share the matrix. */
// @ts-expect-error: decorator
@inline
function carry(
  pair: bool,
  scheme: i32,
  straight: bool,
  joins: i32,
  table: usize,
  flux: usize,
  diffusivity: f64,
  a: usize,
  q: usize,
  gx: usize,
  gy: usize,
  r: usize,
  q2: usize,
  gx2: usize,
  gy2: usize,
  r2: usize,
): void {
  const owner = index(table, OWNER);
  const neighbour = index(table, NEIGHBOUR);
  const weight = index(table, WEIGHT);
  const conductance = index(table, CONDUCTANCE);
  const sx = index(table, SX);
  const sy = index(table, SY);
  const diagonal = index(table, DIAGONAL);
  const ownerEntry = index(table, OWNER_ENTRY);
  const neighbourEntry = index(table, NEIGHBOUR_ENTRY);
  const dx = index(table, DX);
  const dy = index(table, DY);
  const tx = index(table, TX);
  const ty = index(table, TY);
  const kx = index(table, KX);
  const ky = index(table, KY);
  const ox = index(table, OX);
  const oy = index(table, OY);
  const nx = index(table, NX);
  const ny = index(table, NY);
  for (let f: usize = 0; f < <usize>joins; f++) {
    const o = index(owner, f);
    const n = index(neighbour, f);
    const F = real(flux, f);
    const conducts = real(conductance, f);
    const d = diffusivity * conducts;
    const leaves: f64 = F > 0 ? F : 0;
    const enters: f64 = F < 0 ? F : 0;
    add(a, index(ownerEntry, f), enters - d);
    const back = a + (index(neighbourEntry, f) << 3);
    store<f64>(back, load<f64>(back) - (leaves + d));
    add(a, index(diagonal, o), d - enters);
    add(a, index(diagonal, n), d + leaves);
    if (scheme == 0 && straight) continue;
    const out = F >= 0;
    const w = real(weight, f);
    const w1 = 1 - w;
    let ax: f64 = 0;
    let ay: f64 = 0;
    if (scheme == CENTRAL) {
      if (!straight) {
        ax = real(kx, f);
        ay = real(ky, f);
      }
    } else if (straight) {
      const reach = (scheme == LINEAR_UPWIND ? (out ? w1 : -w) : out ? 1 : -1) / conducts;
      ax = reach * real(sx, f);
      ay = reach * real(sy, f);
    } else if (scheme == LINEAR_UPWIND) {
      ax = out ? real(ox, f) : real(nx, f);
      ay = out ? real(oy, f) : real(ny, f);
    } else if (scheme == LIMITED) {
      ax = out ? real(dx, f) : -real(dx, f);
      ay = out ? real(dy, f) : -real(dy, f);
    }
    // Schemes look at the slope of the cell upwind alone: read there, nothing is chosen between.
    const upwind = out ? o : n;
    const fx: f64 = straight ? 0 : between(w, w1, gx, o, n);
    const fy: f64 = straight ? 0 : between(w, w1, gy, o, n);
    const gxu: f64 = scheme == CENTRAL ? 0 : real(gx, upwind);
    const gyu: f64 = scheme == CENTRAL ? 0 : real(gy, upwind);
    let s: f64 = scheme == 0 ? 0 : F * higher(scheme, straight, out, w, w1, real(q, o), real(q, n), gxu, gyu, fx, fy, ax, ay);
    const bx: f64 = straight ? 0 : real(tx, f);
    const by: f64 = straight ? 0 : real(ty, f);
    if (!straight) s -= diffusivity * (fx * bx + fy * by);
    take(r, o, s);
    add(r, n, s);
    if (!pair) continue;
    const ex: f64 = straight ? 0 : between(w, w1, gx2, o, n);
    const ey: f64 = straight ? 0 : between(w, w1, gy2, o, n);
    const hxu: f64 = scheme == CENTRAL ? 0 : real(gx2, upwind);
    const hyu: f64 = scheme == CENTRAL ? 0 : real(gy2, upwind);
    let t: f64 = scheme == 0 ? 0 : F * higher(scheme, straight, out, w, w1, real(q2, o), real(q2, n), hxu, hyu, ex, ey, ax, ay);
    if (!straight) t -= diffusivity * (ex * bx + ey * by);
    take(r2, o, t);
    add(r2, n, t);
  }
}

// @ts-expect-error: decorator
@inline
function carryBy(
  pair: bool,
  scheme: i32,
  joins: i32,
  table: usize,
  flux: usize,
  diffusivity: f64,
  a: usize,
  q: usize,
  gx: usize,
  gy: usize,
  r: usize,
  q2: usize,
  gx2: usize,
  gy2: usize,
  r2: usize,
): void {
  if (index(table, DX) == 0) {
    if (scheme == CENTRAL) carry(pair, CENTRAL, true, joins, table, flux, diffusivity, a, q, gx, gy, r, q2, gx2, gy2, r2);
    else if (scheme == LINEAR_UPWIND) carry(pair, LINEAR_UPWIND, true, joins, table, flux, diffusivity, a, q, gx, gy, r, q2, gx2, gy2, r2);
    else if (scheme == LIMITED) carry(pair, LIMITED, true, joins, table, flux, diffusivity, a, q, gx, gy, r, q2, gx2, gy2, r2);
    else carry(pair, 0, true, joins, table, flux, diffusivity, a, q, gx, gy, r, q2, gx2, gy2, r2);
  } else if (scheme == CENTRAL) carry(pair, CENTRAL, false, joins, table, flux, diffusivity, a, q, gx, gy, r, q2, gx2, gy2, r2);
  else if (scheme == LINEAR_UPWIND) carry(pair, LINEAR_UPWIND, false, joins, table, flux, diffusivity, a, q, gx, gy, r, q2, gx2, gy2, r2);
  else if (scheme == LIMITED) carry(pair, LIMITED, false, joins, table, flux, diffusivity, a, q, gx, gy, r, q2, gx2, gy2, r2);
  else carry(pair, 0, false, joins, table, flux, diffusivity, a, q, gx, gy, r, q2, gx2, gy2, r2);
}

export function carryOne(joins: i32, scheme: i32, table: usize, flux: usize, diffusivity: f64, a: usize, q: usize, gx: usize, gy: usize, r: usize): void {
  carryBy(false, scheme, joins, table, flux, diffusivity, a, q, gx, gy, r, 0, 0, 0, 0);
}

export function carryPair(
  joins: i32,
  scheme: i32,
  table: usize,
  flux: usize,
  diffusivity: f64,
  a: usize,
  u: usize,
  v: usize,
  gux: usize,
  guy: usize,
  gvx: usize,
  gvy: usize,
  ru: usize,
  rv: usize,
): void {
  carryBy(true, scheme, joins, table, flux, diffusivity, a, u, gux, guy, ru, v, gvx, gvy, rv);
}

export function gradientPair(
  joins: i32,
  table: usize,
  factors: usize,
  u: usize,
  v: usize,
  gux: usize,
  guy: usize,
  gvx: usize,
  gvy: usize,
): void {
  const owner = index(table, OWNER);
  const neighbour = index(table, NEIGHBOUR);
  for (let f: usize = 0; f < <usize>joins; f++) {
    const o = index(owner, f);
    const n = index(neighbour, f);
    const du = real(u, n) - real(u, o);
    const dv = real(v, n) - real(v, o);
    const ax = load<f64>(factors);
    const ay = load<f64>(factors, 8);
    const bx = load<f64>(factors, 16);
    const by = load<f64>(factors, 24);
    add(gux, o, ax * du);
    add(guy, o, ay * du);
    add(gux, n, bx * du);
    add(guy, n, by * du);
    add(gvx, o, ax * dv);
    add(gvy, o, ay * dv);
    add(gvx, n, bx * dv);
    add(gvy, n, by * dv);
    factors += 32;
  }
}

/** hx, hy: slopes, read on oblique meshes alone */
export function pressureFaces(joins: i32, table: usize, p: usize, hx: usize, hy: usize, gx: usize, gy: usize): void {
  const owner = index(table, OWNER);
  const neighbour = index(table, NEIGHBOUR);
  const weight = index(table, WEIGHT);
  const sx = index(table, SX);
  const sy = index(table, SY);
  const kx = index(table, KX);
  const ky = index(table, KY);
  if (kx == 0) {
    for (let f: usize = 0; f < <usize>joins; f++) {
      const o = index(owner, f);
      const n = index(neighbour, f);
      const w = real(weight, f);
      const pf = w * real(p, o) + (1 - w) * real(p, n);
      const px = pf * real(sx, f);
      const py = pf * real(sy, f);
      add(gx, o, px);
      add(gy, o, py);
      take(gx, n, px);
      take(gy, n, py);
    }
    return;
  }
  for (let f: usize = 0; f < <usize>joins; f++) {
    const o = index(owner, f);
    const n = index(neighbour, f);
    const w = real(weight, f);
    const w1 = 1 - w;
    const pf =
      w * real(p, o) +
      w1 * real(p, n) +
      between(w, w1, hx, o, n) * real(kx, f) +
      between(w, w1, hy, o, n) * real(ky, f);
    const px = pf * real(sx, f);
    const py = pf * real(sy, f);
    add(gx, o, px);
    add(gy, o, py);
    take(gx, n, px);
    take(gy, n, py);
  }
}

// @ts-expect-error: decorator
@inline
function through(straight: bool, w: f64, o: usize, n: usize, q: usize, gx: usize, gy: usize, x: f64, y: f64): f64 {
  const w1 = 1 - w;
  const middle = between(w, w1, q, o, n);
  return straight ? middle : middle + between(w, w1, gx, o, n) * x + between(w, w1, gy, o, n) * y;
}

/** Two fields at a face at once, by linear interpolation. */
// @ts-expect-error: decorator
@inline
function bothBetween(w: f64, w1: f64, first: usize, second: usize, o: usize, n: usize): v128 {
  return v128.add<f64>(v128.mul<f64>(v128.splat<f64>(w), both(first, second, o)), v128.mul<f64>(v128.splat<f64>(w1), both(first, second, n)));
}

/** With a pressure (p not 0): less what momentum interpolation takes. */
// @ts-expect-error: decorator
@inline
function velocityThrough(
  straight: bool,
  pressure: bool,
  joins: i32,
  table: usize,
  u: usize,
  v: usize,
  gux: usize,
  guy: usize,
  gvx: usize,
  gvy: usize,
  p: usize,
  gpx: usize,
  gpy: usize,
  diagonal: usize,
  flux: usize,
): void {
  const owner = index(table, OWNER);
  const neighbour = index(table, NEIGHBOUR);
  const weight = index(table, WEIGHT);
  const conductance = index(table, CONDUCTANCE);
  const volume = index(table, VOLUME);
  const sx = index(table, SX);
  const sy = index(table, SY);
  const dx = index(table, DX);
  const dy = index(table, DY);
  const kx = index(table, KX);
  const ky = index(table, KY);
  for (let f: usize = 0; f < <usize>joins; f++) {
    const o = index(owner, f);
    const n = index(neighbour, f);
    const w = real(weight, f);
    const w1 = 1 - w;
    const x: f64 = straight ? 0 : real(kx, f);
    const y: f64 = straight ? 0 : real(ky, f);
    const areaX = real(sx, f);
    const areaY = real(sy, f);
    const area = v128.replace_lane<f64>(v128.splat<f64>(areaX), 1, areaY);
    const carried: f64 = straight
      ? sumOf(v128.mul<f64>(bothBetween(w, w1, u, v, o, n), area))
      : through(straight, w, o, n, u, gux, guy, x, y) * areaX + through(straight, w, o, n, v, gvx, gvy, x, y) * areaY;
    if (!pressure) {
      put(flux, f, carried);
      continue;
    }
    const conducts = real(conductance, f);
    const mobility = (w * real(volume, o)) / real(diagonal, o) + (w1 * real(volume, n)) / real(diagonal, n);
    const slope = bothBetween(w, w1, gpx, gpy, o, n);
    const jump = real(p, n) - real(p, o);
    // On straight meshes the conductance times the way is the area: no division, and nothing more to read.
    if (straight) put(flux, f, carried - mobility * (conducts * jump - sumOf(v128.mul<f64>(slope, area))));
    else put(flux, f, carried - mobility * conducts * (jump - sumOf(v128.mul<f64>(slope, both(dx, dy, f)))));
  }
}

export function velocityFaces(joins: i32, table: usize, u: usize, v: usize, gux: usize, guy: usize, gvx: usize, gvy: usize, out: usize): void {
  if (index(table, DX) == 0) velocityThrough(true, false, joins, table, u, v, gux, guy, gvx, gvy, 0, 0, 0, 0, out);
  else velocityThrough(false, false, joins, table, u, v, gux, guy, gvx, gvy, 0, 0, 0, 0, out);
}

export function momentumFluxes(
  joins: i32,
  table: usize,
  u: usize,
  v: usize,
  gux: usize,
  guy: usize,
  gvx: usize,
  gvy: usize,
  p: usize,
  gpx: usize,
  gpy: usize,
  diagonal: usize,
  flux: usize,
): void {
  if (index(table, DX) == 0) velocityThrough(true, true, joins, table, u, v, gux, guy, gvx, gvy, p, gpx, gpy, diagonal, flux);
  else velocityThrough(false, true, joins, table, u, v, gux, guy, gvx, gvy, p, gpx, gpy, diagonal, flux);
}

export function pressureMatrix(joins: i32, table: usize, mobility: usize, out: usize, a: usize): void {
  const owner = index(table, OWNER);
  const neighbour = index(table, NEIGHBOUR);
  const weight = index(table, WEIGHT);
  const conductance = index(table, CONDUCTANCE);
  const diagonal = index(table, DIAGONAL);
  const ownerEntry = index(table, OWNER_ENTRY);
  const neighbourEntry = index(table, NEIGHBOUR_ENTRY);
  for (let f: usize = 0; f < <usize>joins; f++) {
    const o = index(owner, f);
    const n = index(neighbour, f);
    const w = real(weight, f);
    const c = (w * real(mobility, o) + (1 - w) * real(mobility, n)) * real(conductance, f);
    put(out, f, c);
    take(a, index(ownerEntry, f), c);
    take(a, index(neighbourEntry, f), c);
    add(a, index(diagonal, o), c);
    add(a, index(diagonal, n), c);
  }
}

/** Nothing to do on straight meshes. */
export function obliqueFluxes(joins: i32, table: usize, mobility: usize, gx: usize, gy: usize, flux: usize, left: usize): void {
  const owner = index(table, OWNER);
  const neighbour = index(table, NEIGHBOUR);
  const weight = index(table, WEIGHT);
  const conductance = index(table, CONDUCTANCE);
  const tx = index(table, TX);
  const ty = index(table, TY);
  if (tx == 0) return;
  for (let f: usize = 0; f < <usize>joins; f++) {
    const conducts = real(conductance, f);
    if (conducts == 0) continue;
    const o = index(owner, f);
    const n = index(neighbour, f);
    const w = real(weight, f);
    const w1 = 1 - w;
    const alongX = between(w, w1, gx, o, n) * real(tx, f);
    const alongY = between(w, w1, gy, o, n) * real(ty, f);
    const part = (real(mobility, f) / conducts) * (alongX + alongY);
    take(flux, f, part);
    add(left, o, part);
    take(left, n, part);
  }
}
