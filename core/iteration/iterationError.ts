import { theilSen } from "./residuals.ts";

/** How successive changes of a quantity shrink, and what that leaves undone. */
export interface IterationError {
  readonly value: number;
  /** signed estimate of last value minus limit; for complex pairs and noise an amplitude, unsigned */
  readonly error: number;
  readonly kind: "real" | "alternating" | "complex" | "noise" | "still" | "growing" | "too-short";
  /** factor an iteration */
  readonly factor: number;
}

const ROUND_OFF = 64 * 2.220446049250313e-16;

/**
 * Remaining iteration error of a quantity from its record: d lambda / (1 - lambda) for a real eigenvalue, the same with alternating
 * signs for a negative one, the envelope for a complex pair, half the range for noise.
 * @param values one entry an iteration; gaps as NaN are left out
 * @source Ferziger & Peric, Int. J. Numer. Methods Fluids 23 (1996) 1263; Roy & Blottner, J. Spacecraft Rockets 38 (2001) 699.
 */
export function iterationError(values: ArrayLike<number>): IterationError {
  const kept = Array.from(values).filter(Number.isFinite);
  const n = kept.length;
  const value = kept[n - 1] ?? Number.NaN;
  if (n < 6) return { value, error: Number.NaN, kind: "too-short", factor: Number.NaN };
  const window = kept.slice(-Math.max(6, Math.min(60, Math.ceil(n / 2))));
  const changes = window.slice(1).map((v, i) => v - window[i]);
  const scale = Math.max(...window.map(Math.abs));
  const tail = changes.slice(-Math.max(5, Math.ceil(changes.length / 2)));
  if (tail.every((d) => Math.abs(d) <= ROUND_OFF * scale)) return { value, error: ROUND_OFF * scale, kind: "still", factor: 0 };
  const logs = tail.map((d) => Math.log(Math.max(Math.abs(d), 1e-300)));
  const fit = theilSen(logs);
  const factor = Math.exp(fit.slope);
  const turns = tail.slice(1).filter((d, i) => d * tail[i] < 0).length / (tail.length - 1);
  const last = tail[tail.length - 1];
  // An accelerated iteration jumps now and then: the largest recent change stands for the last one.
  const size = Math.max(Math.abs(last), Math.abs(tail[tail.length - 2]) * factor);
  const pair = complexPair(tail, factor);
  if (pair && pair.factor < 1) return { value, error: pair.envelope, kind: "complex", factor: pair.factor };
  if (fit.low <= 0 && fit.high >= 0 && factor > 0.9) {
    const half = (Math.max(...window) - Math.min(...window)) / 2;
    return { value, error: half, kind: "noise", factor };
  }
  if (factor >= 1) return { value, error: Math.abs(value - window[0]), kind: "growing", factor };
  if (turns > 0.8) return { value, error: ((last * -factor) / (1 + factor)) * -1, kind: "alternating", factor };
  if (turns > 0.15) return { value, error: (size / (1 - factor)) * factor, kind: "complex", factor };
  return { value, error: (-Math.sign(last) * (size * factor)) / (1 - factor), kind: "real", factor };
}

/** share of the changes' power that two terms must explain for a complex pair to be believed */
const EXPLAINED = 0.98;
/** angles of the eigenvalue nearer to the real axis are left to the real cases */
const LEAST_ANGLE = 0.08;

/**
 * Complex pair behind successive changes: d(n+1) = a d(n) + b d(n-1) by least squares on changes freed of their decay, then the envelope of what is left.
 * @returns undefined where two terms do not explain the changes, or their roots are real
 */
function complexPair(changes: readonly number[], decay: number): { factor: number; envelope: number } | undefined {
  const n = changes.length;
  if (n < 6 || !(decay > 0.2 && decay < 1.2)) return undefined;
  const level = changes.map((d, k) => d / decay ** (k - n + 1));
  let [xx, xy, yy, xz, yz, zz] = [0, 0, 0, 0, 0, 0];
  for (let k = 1; k + 1 < n; k++) {
    const [y, x, z] = [level[k - 1], level[k], level[k + 1]];
    xx += x * x;
    xy += x * y;
    yy += y * y;
    xz += x * z;
    yz += y * z;
    zz += z * z;
  }
  if (!(xx * yy - xy * xy > 1e-9 * xx * yy)) return undefined;
  const [a, b] = normalEquations(xx, xy, yy, xz, yz);
  if (zz - a * xz - b * yz > (1 - EXPLAINED) * zz || a * a + 4 * b >= 0) return undefined;
  const radius = Math.sqrt(-b);
  const angle = Math.acos(Math.max(-1, Math.min(1, a / (2 * radius))));
  if (angle < LEAST_ANGLE || angle > Math.PI - LEAST_ANGLE) return undefined;
  const factor = radius * decay;
  // The two phases at the last change, by least squares on changes freed of the pair's own decay.
  let [cc, cs, ss, cd, sd] = [0, 0, 0, 0, 0];
  changes.forEach((d, k) => {
    const back = k - n + 1;
    const [c, s] = [Math.cos(angle * back), Math.sin(angle * back)];
    const free = d / factor ** back;
    cc += c * c;
    cs += c * s;
    ss += s * s;
    cd += c * free;
    sd += s * free;
  });
  const size = Math.hypot(...normalEquations(cc, cs, ss, cd, sd));
  // d(n) = e(n) - e(n-1): the envelope of e is that of d times |lambda| / |lambda - 1|.
  const apart = Math.hypot(factor * Math.cos(angle) - 1, factor * Math.sin(angle));
  return { factor, envelope: (size * factor) / apart };
}

/** Two coefficients of a least-squares fit from its sums of products: of the two terms with each other, and with what they are fitted to. */
function normalEquations(xx: number, xy: number, yy: number, xz: number, yz: number): [number, number] {
  const det = xx * yy - xy * xy;
  return [(xz * yy - yz * xy) / det, (yz * xx - xz * xy) / det];
}

/** One row of the study of the stopping tolerance made from a single record. */
export interface ToleranceRow {
  readonly tolerance: number;
  /** first iteration at which every residual had met it, counted from 1; undefined when never */
  readonly iteration?: number;
  readonly values: Readonly<Record<string, number>>;
}

/**
 * Value of each watched quantity when each tolerance (1e-2, 1e-3, ... of the starting level) was first met by all residuals.
 * @param residuals name to record, all of one length
 */
export function toleranceStudy(
  residuals: Readonly<Record<string, ArrayLike<number>>>,
  starts: Readonly<Record<string, number>>,
  quantities: Readonly<Record<string, ArrayLike<number>>>,
): ToleranceRow[] {
  const names = Object.keys(residuals);
  const length = Math.min(...names.map((n) => residuals[n].length));
  const rows: ToleranceRow[] = [];
  for (let exponent = 2; exponent <= 12; exponent++) {
    const tolerance = 10 ** -exponent;
    let at = -1;
    for (let i = 0; i < length && at < 0; i++) if (names.every((n) => residuals[n][i] <= tolerance * starts[n])) at = i;
    if (at < 0) break;
    const values: Record<string, number> = {};
    for (const [key, record] of Object.entries(quantities)) values[key] = record[at];
    rows.push({ tolerance, iteration: at + 1, values });
  }
  return rows;
}
