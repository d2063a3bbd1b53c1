// The hot loops of the gas solver in AssemblyScript, compiled at build; addresses are bytes in the one memory.
// Each has a plain twin in gasKernels.ts with the same operations in the same order, so that both give the same bits.

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
    // Two components at a time; lanes never mix, so the bits are those of one at a time.
    for (let k: usize = 0; k < 32; k += 16) {
      const i = o + k;
      const j = n + k;
      const a = v128.load(w + i);
      const b = v128.load(w + j);
      const d = v128.sub<f64>(b, a);
      const d0 = v128.splat<f64>(v128.extract_lane<f64>(d, 0));
      const d1 = v128.splat<f64>(v128.extract_lane<f64>(d, 1));
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
  for (let i: usize = 0; i < <usize>(cells * 32); i += 8) store<f64>(share + i, full);
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
      for (let k: usize = 0; k < 32; k += 16) {
        boundSmoothly(o + k, reachOf(slope, o + k, ox2, oy2), w, low, high, floor, share);
        boundSmoothly(n + k, reachOf(slope, n + k, nx2, ny2), w, low, high, floor, share);
      }
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
    const rl = v128.extract_lane<f64>(density, 0);
    const rr = v128.extract_lane<f64>(density, 1);
    const ul = v128.extract_lane<f64>(alongX, 0);
    const ur = v128.extract_lane<f64>(alongX, 1);
    const vl = v128.extract_lane<f64>(alongY, 0);
    const vr = v128.extract_lane<f64>(alongY, 1);
    const pl = v128.extract_lane<f64>(pressure, 0);
    const pr = v128.extract_lane<f64>(pressure, 1);
    const across = v128.add<f64>(v128.mul<f64>(alongX, v128.splat<f64>(nx)), v128.mul<f64>(alongY, v128.splat<f64>(ny)));
    const squares = v128.add<f64>(v128.mul<f64>(alongX, alongX), v128.mul<f64>(alongY, alongY));
    const kinetic = v128.mul<f64>(v128.mul<f64>(v128.splat<f64>(0.5), density), squares);
    const energy = v128.add<f64>(v128.div<f64>(pressure, v128.splat<f64>(gamma - 1)), kinetic);
    const sound = v128.sqrt<f64>(v128.div<f64>(v128.mul<f64>(v128.splat<f64>(gamma), pressure), density));
    const roots = v128.sqrt<f64>(density);
    const heat = v128.div<f64>(v128.mul<f64>(roots, v128.add<f64>(energy, pressure)), density);
    const ql = v128.extract_lane<f64>(across, 0);
    const qr = v128.extract_lane<f64>(across, 1);
    const el = v128.extract_lane<f64>(energy, 0);
    const er = v128.extract_lane<f64>(energy, 1);
    const cl = v128.extract_lane<f64>(sound, 0);
    const cr = v128.extract_lane<f64>(sound, 1);
    const wl = v128.extract_lane<f64>(roots, 0);
    const wr = v128.extract_lane<f64>(roots, 1);
    const part = 1 / (wl + wr);
    const u = (wl * ul + wr * ur) * part;
    const v = (wl * vl + wr * vr) * part;
    const h = (v128.extract_lane<f64>(heat, 0) + v128.extract_lane<f64>(heat, 1)) * part;
    const q = u * nx + v * ny;
    const c = Math.sqrt(max((gamma - 1) * (h - 0.5 * (u * u + v * v)), 1e-12 * h));
    const slow = min(ql - cl, q - c);
    const fast = max(qr + cr, q + c);
    let f0: f64, f1: f64, f2: f64, f3: f64;
    if (slow >= 0) {
      f0 = rl * ql;
      f1 = f0 * ul + pl * nx;
      f2 = f0 * vl + pl * ny;
      f3 = ql * (el + pl);
    } else if (fast <= 0) {
      f0 = rr * qr;
      f1 = f0 * ur + pr * nx;
      f2 = f0 * vr + pr * ny;
      f3 = qr * (er + pr);
    } else {
      const ml = rl * (slow - ql);
      const mr = rr * (fast - qr);
      const middle = (pr - pl + ml * ql - mr * qr) / (ml - mr);
      const left = middle >= 0;
      const uk = left ? ul : ur;
      const vk = left ? vl : vr;
      const pk = left ? pl : pr;
      const qk = left ? ql : qr;
      const ek = left ? el : er;
      const mk = left ? ml : mr;
      const sk = left ? slow : fast;
      const p = pk + mk * (middle - qk);
      const inverse = 1 / (sk - middle);
      f0 = mk * inverse * middle;
      f1 = (mk * uk + (p - pk) * nx) * inverse * middle + p * nx;
      f2 = (mk * vk + (p - pk) * ny) * inverse * middle + p * ny;
      f3 = (((sk - qk) * ek - pk * qk + p * middle) * inverse + p) * middle;
    }
    const area2 = v128.splat<f64>(area);
    const g0 = v128.mul<f64>(v128.replace_lane<f64>(v128.splat<f64>(f0), 1, f1), area2);
    const g1 = v128.mul<f64>(v128.replace_lane<f64>(v128.splat<f64>(f2), 1, f3), area2);
    const from = residual + o;
    v128.store(from, v128.sub<f64>(v128.load(from), g0));
    v128.store(from, v128.sub<f64>(v128.load(from, 16), g1), 16);
    const into = residual + n;
    v128.store(into, v128.add<f64>(v128.load(into), g0));
    v128.store(into, v128.add<f64>(v128.load(into, 16), g1), 16);
    const wave = (Math.abs(0.5 * ((ul + ur) * nx + (vl + vr) * ny)) + 0.5 * (cl + cr)) * area;
    add(speed + (oc << 3), wave);
    add(speed + (nc << 3), wave);
  }
}
