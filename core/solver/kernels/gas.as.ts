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
    const a0 = load<f64>(factors);
    const a1 = load<f64>(factors, 8);
    const a2 = load<f64>(factors, 16);
    const a3 = load<f64>(factors, 24);
    factors += 32;
    for (let k: usize = 0; k < 32; k += 8) {
      const i = o + k;
      const j = n + k;
      const a = load<f64>(w + i);
      const b = load<f64>(w + j);
      const d = b - a;
      const si = slope + (i << 1);
      const sj = slope + (j << 1);
      store<f64>(si, load<f64>(si) + a0 * d);
      store<f64>(si, load<f64>(si, 8) + a1 * d, 8);
      store<f64>(sj, load<f64>(sj) + a2 * d);
      store<f64>(sj, load<f64>(sj, 8) + a3 * d, 8);
      if (b < load<f64>(low + i)) store<f64>(low + i, b);
      if (b > load<f64>(high + i)) store<f64>(high + i, b);
      if (a < load<f64>(low + j)) store<f64>(low + j, a);
      if (a > load<f64>(high + j)) store<f64>(high + j, a);
    }
  }
}

// @ts-expect-error: decorator
@inline
function bound(smooth: bool, i: usize, reach: f64, w: usize, low: usize, high: usize, floor: usize, share: usize): void {
  const here = load<f64>(w + i);
  const room = (reach > 0 ? load<f64>(high + i) : load<f64>(low + i)) - here;
  let s: f64 = 1;
  if (smooth) {
    const y = room * room + load<f64>(floor + i);
    const top = y + 2 * reach * room;
    const bottom = y + 2 * reach * reach + reach * room;
    s = bottom > 0 ? top / bottom : 1;
  } else if (Math.abs(reach) > 1e-14 * Math.abs(here)) {
    const r = room / reach;
    s = r < 1 ? r : 1;
  }
  if (s < load<f64>(share + i)) store<f64>(share + i, s);
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
  const smooth = kind == 2;
  for (let f: i32 = 0; f < joins; f++) {
    const o = <usize>load<i32>(pairs) << 5;
    const n = <usize>load<i32>(pairs, 4) << 5;
    pairs += 8;
    const ox = load<f64>(arm);
    const oy = load<f64>(arm, 8);
    const nx = load<f64>(arm, 16);
    const ny = load<f64>(arm, 24);
    arm += 32;
    for (let k: usize = 0; k < 32; k += 8) {
      const i = o + k;
      const j = n + k;
      const si = slope + (i << 1);
      const sj = slope + (j << 1);
      bound(smooth, i, load<f64>(si) * ox + load<f64>(si, 8) * oy, w, low, high, floor, share);
      bound(smooth, j, load<f64>(sj) * nx + load<f64>(sj, 8) * ny, w, low, high, floor, share);
    }
  }
}

// @ts-expect-error: decorator
@inline
function seen(w: usize, slope: usize, share: usize, at: usize, x: f64, y: f64): f64 {
  const s = slope + (at << 1);
  return load<f64>(w + at) + load<f64>(share + at) * (load<f64>(s) * x + load<f64>(s, 8) * y);
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
    let rl = seen(w, slope, share, o, ox, oy);
    let ul = seen(w, slope, share, o + 8, ox, oy);
    let vl = seen(w, slope, share, o + 16, ox, oy);
    let pl = seen(w, slope, share, o + 24, ox, oy);
    if (!(rl > 0 && pl > 0)) {
      rl = load<f64>(w + o);
      ul = load<f64>(w + o, 8);
      vl = load<f64>(w + o, 16);
      pl = load<f64>(w + o, 24);
    }
    let rr = seen(w, slope, share, n, px, py);
    let ur = seen(w, slope, share, n + 8, px, py);
    let vr = seen(w, slope, share, n + 16, px, py);
    let pr = seen(w, slope, share, n + 24, px, py);
    if (!(rr > 0 && pr > 0)) {
      rr = load<f64>(w + n);
      ur = load<f64>(w + n, 8);
      vr = load<f64>(w + n, 16);
      pr = load<f64>(w + n, 24);
    }
    const ql = ul * nx + vl * ny;
    const qr = ur * nx + vr * ny;
    const el = pl / (gamma - 1) + 0.5 * rl * (ul * ul + vl * vl);
    const er = pr / (gamma - 1) + 0.5 * rr * (ur * ur + vr * vr);
    const cl = Math.sqrt((gamma * pl) / rl);
    const cr = Math.sqrt((gamma * pr) / rr);
    const wl = Math.sqrt(rl);
    const wr = Math.sqrt(rr);
    const part = 1 / (wl + wr);
    const u = (wl * ul + wr * ur) * part;
    const v = (wl * vl + wr * vr) * part;
    const h = ((wl * (el + pl)) / rl + (wr * (er + pr)) / rr) * part;
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
    f0 *= area;
    f1 *= area;
    f2 *= area;
    f3 *= area;
    add(residual + o, -f0);
    add(residual + o + 8, -f1);
    add(residual + o + 16, -f2);
    add(residual + o + 24, -f3);
    add(residual + n, f0);
    add(residual + n + 8, f1);
    add(residual + n + 16, f2);
    add(residual + n + 24, f3);
    const wave = (Math.abs(0.5 * ((ul + ur) * nx + (vl + vr) * ny)) + 0.5 * (cl + cr)) * area;
    add(speed + (oc << 3), wave);
    add(speed + (nc << 3), wave);
  }
}
