/** Perfect gas of constant specific heats. */
export interface Gas {
  /** ratio of specific heats */
  readonly gamma: number;
  /** J/(kg K) */
  readonly gasConstant: number;
  /** Pa s; 0 for inviscid flow */
  readonly viscosityPaS: number;
  readonly prandtl: number;
}

/** Density kg/m^3, velocity m/s, pressure Pa. */
export type GasState = readonly [density: number, u: number, v: number, pressure: number];

export const RIEMANN_FLUXES = ["contact", "linearised"] as const;
/** "contact": HLLC (Toro, Spruce & Speares, Shock Waves 4 (1994) 25); "linearised": Roe (J. Comput. Phys. 43 (1981) 357) with Harten's entropy fix */
export type RiemannFlux = (typeof RIEMANN_FLUXES)[number];

export const LIMITERS = ["none", "bounds", "smooth", "first-order"] as const;
/** "bounds": Barth & Jespersen, for transients; "smooth": Venkatakrishnan (J. Comput. Phys. 118 (1995) 120), which lets a steady flow settle */
export type Limiter = (typeof LIMITERS)[number];

/** Speed of sound, m/s. */
export const soundSpeed = (gas: Pick<Gas, "gamma">, density: number, pressure: number): number => Math.sqrt((gas.gamma * pressure) / density);

/** Total pressure over static at a Mach number, isentropic. */
export const totalPressureRatio = (gamma: number, mach: number): number => (1 + ((gamma - 1) / 2) * mach * mach) ** (gamma / (gamma - 1));

/** Flux through a face of unit area with normal (nx, ny) between two states, into `out`: mass, momentum, energy. */
export function contactFlux(out: Float64Array, gamma: number, l: Float64Array, r: Float64Array, nx: number, ny: number): void {
  const rl = l[0];
  const ul = l[1];
  const vl = l[2];
  const pl = l[3];
  const rr = r[0];
  const ur = r[1];
  const vr = r[2];
  const pr = r[3];
  const ql = ul * nx + vl * ny;
  const qr = ur * nx + vr * ny;
  const el = pl / (gamma - 1) + 0.5 * rl * (ul * ul + vl * vl);
  const er = pr / (gamma - 1) + 0.5 * rr * (ur * ur + vr * vr);
  const cl = Math.sqrt((gamma * pl) / rl);
  const cr = Math.sqrt((gamma * pr) / rr);
  const wl = Math.sqrt(rl);
  const wr = Math.sqrt(rr);
  const share = 1 / (wl + wr);
  const u = (wl * ul + wr * ur) * share;
  const v = (wl * vl + wr * vr) * share;
  const h = ((wl * (el + pl)) / rl + (wr * (er + pr)) / rr) * share;
  const q = u * nx + v * ny;
  const c = Math.sqrt(Math.max((gamma - 1) * (h - 0.5 * (u * u + v * v)), 1e-12 * h));
  const slow = Math.min(ql - cl, q - c);
  const fast = Math.max(qr + cr, q + c);
  if (slow >= 0) {
    const m = rl * ql;
    set(out, m, m * ul + pl * nx, m * vl + pl * ny, ql * (el + pl));
    return;
  }
  if (fast <= 0) {
    const m = rr * qr;
    set(out, m, m * ur + pr * nx, m * vr + pr * ny, qr * (er + pr));
    return;
  }
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
  set(
    out,
    mk * inverse * middle,
    (mk * uk + (p - pk) * nx) * inverse * middle + p * nx,
    (mk * vk + (p - pk) * ny) * inverse * middle + p * ny,
    (((sk - qk) * ek - pk * qk + p * middle) * inverse + p) * middle,
  );
}

/** share of the sound speed below which a wave's speed is rounded off, so that no expansion shock stands */
const ENTROPY_FIX = 0.1;

/** Flux by the linearised Riemann problem between Roe's averages: see `RiemannFlux`. */
export function linearisedFlux(out: Float64Array, gamma: number, l: Float64Array, r: Float64Array, nx: number, ny: number): void {
  const rl = l[0];
  const ul = l[1];
  const vl = l[2];
  const pl = l[3];
  const rr = r[0];
  const ur = r[1];
  const vr = r[2];
  const pr = r[3];
  const ql = ul * nx + vl * ny;
  const qr = ur * nx + vr * ny;
  const hl = (gamma / (gamma - 1)) * (pl / rl) + 0.5 * (ul * ul + vl * vl);
  const hr = (gamma / (gamma - 1)) * (pr / rr) + 0.5 * (ur * ur + vr * vr);
  const wl = Math.sqrt(rl);
  const wr = Math.sqrt(rr);
  const share = 1 / (wl + wr);
  const u = (wl * ul + wr * ur) * share;
  const v = (wl * vl + wr * vr) * share;
  const h = (wl * hl + wr * hr) * share;
  const q = u * nx + v * ny;
  const c2 = Math.max((gamma - 1) * (h - 0.5 * (u * u + v * v)), 1e-12 * h);
  const c = Math.sqrt(c2);
  const rho = wl * wr;
  const dp = pr - pl;
  const dq = qr - ql;
  const fixed = (speed: number) => {
    const edge = ENTROPY_FIX * c;
    const s = Math.abs(speed);
    return s < edge ? (s * s + edge * edge) / (2 * edge) : s;
  };
  const a1 = (fixed(q - c) * (dp - rho * c * dq)) / (2 * c2);
  const a2 = Math.abs(q) * (rr - rl - dp / c2);
  const a3 = Math.abs(q) * rho;
  const a4 = (fixed(q + c) * (dp + rho * c * dq)) / (2 * c2);
  const du = ur - ul - dq * nx;
  const dv = vr - vl - dq * ny;
  const ml = rl * ql;
  const mr = rr * qr;
  set(
    out,
    0.5 * (ml + mr - a1 - a2 - a4),
    0.5 * (ml * ul + mr * ur + (pl + pr) * nx - a1 * (u - c * nx) - a2 * u - a3 * du - a4 * (u + c * nx)),
    0.5 * (ml * vl + mr * vr + (pl + pr) * ny - a1 * (v - c * ny) - a2 * v - a3 * dv - a4 * (v + c * ny)),
    0.5 * (ml * hl + mr * hr - a1 * (h - c * q) - a2 * 0.5 * (u * u + v * v) - a3 * (u * du + v * dv) - a4 * (h + c * q)),
  );
}

function set(out: Float64Array, mass: number, x: number, y: number, energy: number): void {
  out[0] = mass;
  out[1] = x;
  out[2] = y;
  out[3] = energy;
}
