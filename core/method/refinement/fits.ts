/** Values on meshes with their spacings; the order in which they are given does not matter. */
export interface Rungs {
  /** representative spacings, or time steps, or whatever is refined; positive and all different */
  readonly spacing: readonly number[];
  /** one a spacing */
  readonly phi: readonly number[];
}

/** A curve through values on meshes: phi0 plus terms that vanish with the spacing. */
export interface Fit {
  readonly model: "power" | "first" | "second" | "first-and-second";
  readonly weighted: boolean;
  /** the limit of no spacing */
  readonly limit: number;
  /** each term's coefficient and its exponent; spacings are counted in the finest */
  readonly terms: readonly { readonly coefficient: number; readonly exponent: number }[];
  /** standard deviation of the values about the curve, by the degrees of freedom that are left */
  readonly deviation: number;
}

/** exponents a power law is sought between */
const LOWEST = 0.02;
const HIGHEST = 12;
const TRIED = 240;

/** Value of a fit at a spacing, counted in the finest. */
export const valueAt = (fit: Fit, h: number): number => fit.limit + fit.terms.reduce((s, t) => s + t.coefficient * h ** t.exponent, 0);

interface Prepared {
  readonly h: readonly number[];
  readonly phi: readonly number[];
  readonly w: readonly number[];
  /** size values are counted in, so that squares neither vanish nor overflow */
  readonly size: number;
  readonly centre: number;
}

function prepared({ spacing, phi }: Rungs, weighted: boolean): Prepared {
  const least = Math.min(...spacing);
  const h = spacing.map((x) => x / least);
  const inverse = h.map((x) => 1 / x);
  const sum = inverse.reduce((s, x) => s + x, 0);
  const centre = phi.reduce((s, x) => s + x, 0) / phi.length;
  const size = Math.max(...phi.map((x) => Math.abs(x - centre))) || 1;
  return {
    h,
    phi: phi.map((x) => (x - centre) / size),
    w: weighted ? inverse.map((x) => (x * h.length) / sum) : h.map(() => 1),
    size,
    centre,
  };
}

/** Least-squares coefficients of a constant and one or two given functions, by the modified Gram-Schmidt method; undefined where they are the same. */
function linear(columns: readonly (readonly number[])[], { phi, w }: Pick<Prepared, "phi" | "w">): { a: number[]; square: number } | undefined {
  const root = w.map(Math.sqrt);
  const q = columns.map((c) => c.map((v, i) => v * root[i]));
  const rest = phi.map((v, i) => v * root[i]);
  const n = q.length;
  const r = Array.from({ length: n }, () => new Array<number>(n).fill(0));
  const b = new Array<number>(n).fill(0);
  for (let j = 0; j < n; j++) {
    const before = Math.hypot(...q[j]);
    for (let k = 0; k < j; k++) {
      r[k][j] = q[k].reduce((s, v, i) => s + v * q[j][i], 0);
      q[j] = q[j].map((v, i) => v - r[k][j] * q[k][i]);
    }
    r[j][j] = Math.hypot(...q[j]);
    if (!(r[j][j] > 1e-12 * before)) return undefined;
    q[j] = q[j].map((v) => v / r[j][j]);
    b[j] = q[j].reduce((s, v, i) => s + v * rest[i], 0);
    for (let i = 0; i < rest.length; i++) rest[i] -= b[j] * q[j][i];
  }
  const a = new Array<number>(n).fill(0);
  for (let j = n - 1; j >= 0; j--) {
    let s = b[j];
    for (let k = j + 1; k < n; k++) s -= r[j][k] * a[k];
    a[j] = s / r[j][j];
  }
  return { a, square: rest.reduce((s, v) => s + v * v, 0) };
}

function fitted(p: Prepared, exponents: readonly number[]) {
  return linear([p.h.map(() => 1), ...exponents.map((e) => p.h.map((x) => x ** e))], p);
}

/** Weighted sum of squares left over by a constant and one power: asked for hundreds of exponents, and so written out. */
function leftOver({ h, phi, w }: Prepared, exponent: number): number {
  const n = h.length;
  const x = h.map((v) => v ** exponent);
  let [total, middleX, middleY] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    total += w[i];
    middleX += w[i] * x[i];
    middleY += w[i] * phi[i];
  }
  middleX /= total;
  middleY /= total;
  let [across, spread] = [0, 0];
  for (let i = 0; i < n; i++) {
    across += w[i] * (x[i] - middleX) * (phi[i] - middleY);
    spread += w[i] * (x[i] - middleX) ** 2;
  }
  const slope = across / spread;
  let square = 0;
  for (let i = 0; i < n; i++) square += w[i] * (phi[i] - middleY - slope * (x[i] - middleX)) ** 2;
  return spread > 0 ? square : Number.POSITIVE_INFINITY;
}

function asFit(model: Fit["model"], weighted: boolean, p: Prepared, exponents: readonly number[], free: number): Fit | undefined {
  const found = fitted(p, exponents);
  if (!found) return undefined;
  return {
    model,
    weighted,
    limit: p.centre + p.size * found.a[0],
    terms: exponents.map((exponent, k) => ({ coefficient: p.size * found.a[k + 1], exponent })),
    deviation: free > 0 ? p.size * Math.sqrt(found.square / free) : 0,
  };
}

/**
 * phi0 + a h^p by least squares, its exponent sought between 0.02 and 12; undefined with fewer than three values, or where no exponent between
 * these ends is best.
 * @param weighted values count by one over their spacing
 */
export function powerFit(rungs: Rungs, weighted: boolean): Fit | undefined {
  const count = rungs.spacing.length;
  if (count < 3) return undefined;
  const p = prepared(rungs, weighted);
  const misfit = (e: number) => leftOver(p, e);
  const at = (k: number) => LOWEST * (HIGHEST / LOWEST) ** (k / TRIED);
  let best = 0;
  let least = Number.POSITIVE_INFINITY;
  for (let k = 0; k <= TRIED; k++) {
    const square = misfit(at(k));
    if (square < least) [best, least] = [k, square];
  }
  if (best === 0 || best === TRIED) return undefined;
  const exponent = narrowed(misfit, at(best - 1), at(best + 1));
  return asFit("power", weighted, p, [exponent], count - 3);
}

/** Golden section between two ends. */
function narrowed(f: (x: number) => number, low: number, high: number): number {
  const golden = (Math.sqrt(5) - 1) / 2;
  let [a, b] = [low, high];
  let [x, y] = [b - golden * (b - a), a + golden * (b - a)];
  let [fx, fy] = [f(x), f(y)];
  for (let k = 0; k < 80; k++) {
    if (fx <= fy) {
      [b, y, fy] = [y, x, fx];
      x = b - golden * (b - a);
      fx = f(x);
    } else {
      [a, x, fx] = [x, y, fy];
      y = a + golden * (b - a);
      fy = f(y);
    }
  }
  return (a + b) / 2;
}

const FIXED = { first: [1], second: [2], "first-and-second": [1, 2] } as const;

/** A fit with given exponents; undefined with fewer values than it has unknowns. */
export function fixedFit(rungs: Rungs, model: keyof typeof FIXED, weighted: boolean): Fit | undefined {
  const exponents = FIXED[model];
  const free = rungs.spacing.length - exponents.length - 1;
  return free < 0 ? undefined : asFit(model, weighted, prepared(rungs, weighted), exponents, free);
}

/** A constant and some given columns through values, by least squares, and what is left over. */
export interface LineFit {
  /** of the constant, then of each column */
  readonly coefficients: readonly number[];
  /** standard deviation of the values about the fit, by the degrees of freedom that are left; 0 where none is */
  readonly deviation: number;
}

/** Fits a constant and given columns; undefined where they are the same, or more than the values. */
export function leastSquaresLine(columns: readonly (readonly number[])[], values: readonly number[]): LineFit | undefined {
  const free = values.length - columns.length - 1;
  if (free < 0) return undefined;
  const found = linear([values.map(() => 1), ...columns], { phi: values, w: values.map(() => 1) });
  return found && { coefficients: found.a, deviation: free > 0 ? Math.sqrt(found.square / free) : 0 };
}
