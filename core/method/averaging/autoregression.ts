/** An autoregressive model of a record freed of its mean: y[t] = sum of a[k] y[t - 1 - k] + e. */
export interface Autoregression {
  readonly coefficients: Float64Array;
  /** variance of e */
  readonly innovation: number;
  /** correlations at lags 1 .. order */
  readonly correlations: Float64Array;
}

/**
 * Autoregressive model by Burg's recursion, its order by the corrected information criterion.
 * @param d record freed of its mean, at least 8 samples
 * @param most highest order tried
 * @source Burg, Modern Spectrum Analysis (1978) 34; Hurvich & Tsai, Biometrika 76 (1989) 297.
 */
export function autoregression(d: Float64Array, most: number): Autoregression {
  const n = d.length;
  const forward = Float64Array.from(d);
  const backward = Float64Array.from(d);
  let innovation = 0;
  for (let i = 0; i < n; i++) innovation += (d[i] * d[i]) / n;
  let coefficients: Float64Array = new Float64Array(0);
  const correlations: number[] = [];
  let best: Autoregression = { coefficients, innovation, correlations: new Float64Array(0) };
  let least = criterion(innovation, 0, n);
  for (let order = 1; order <= most && innovation > 0; order++) {
    const k = reflection(forward, backward, order);
    coefficients = raised(coefficients, k);
    innovation *= 1 - k * k;
    correlations.push(nextCorrelation(coefficients, correlations));
    const value = criterion(innovation, order, n);
    if (value >= least) continue;
    least = value;
    best = { coefficients, innovation, correlations: Float64Array.from(correlations) };
  }
  return best;
}

function criterion(innovation: number, order: number, n: number): number {
  return n * Math.log(Math.max(innovation, 1e-300)) + (2 * (order + 1) * n) / Math.max(1, n - order - 2);
}

/** Reflection coefficient of the next order; the prediction errors are carried on in place. */
function reflection(forward: Float64Array, backward: Float64Array, order: number): number {
  let [across, power] = [0, 0];
  for (let i = order; i < forward.length; i++) {
    across += forward[i] * backward[i - 1];
    power += forward[i] ** 2 + backward[i - 1] ** 2;
  }
  const k = power > 0 ? (2 * across) / power : 0;
  for (let i = forward.length - 1; i >= order; i--) {
    const [f, b] = [forward[i], backward[i - 1]];
    forward[i] = f - k * b;
    backward[i] = b - k * f;
  }
  return k;
}

/** Levinson's step to the next order. */
function raised(a: Float64Array, k: number): Float64Array {
  const next = new Float64Array(a.length + 1);
  for (let i = 0; i < a.length; i++) next[i] = a[i] - k * a[a.length - 1 - i];
  next[a.length] = k;
  return next;
}

/** Correlation at the lag after the known ones, by the model's own recursion. */
function nextCorrelation(a: Float64Array, known: ArrayLike<number>): number {
  const lag = known.length + 1;
  let sum = 0;
  for (let k = 0; k < a.length; k++) sum += a[k] * (lag - 1 - k === 0 ? 1 : known[Math.abs(lag - 1 - k) - 1]);
  return sum;
}

/** What an autoregressive model says of the mean of n samples, all as multiples of the samples' variance. */
export interface MeanOfModel {
  /** variance of the mean times n, as n grows without end: twice the correlation time */
  readonly atZero: number;
  /** the same for n samples, whose ends do not cancel */
  readonly finite: number;
  /** correlation of neighbouring samples */
  readonly neighbours: number;
}

const NEGLIGIBLE = 1e-9;

/** Sums of the model's correlations with and without the weights of a finite record. */
export function meanOfModel(model: Autoregression, n: number): MeanOfModel {
  const { coefficients, correlations } = model;
  const order = coefficients.length;
  if (order === 0) return { atZero: 1, finite: 1, neighbours: 0 };
  const rho = new Float64Array(n);
  rho[0] = 1;
  let [weighted, quiet] = [1, 0];
  for (let lag = 1; lag < n && quiet <= order; lag++) {
    if (lag <= order) rho[lag] = correlations[lag - 1];
    else for (let k = 0; k < order; k++) rho[lag] += coefficients[k] * rho[lag - 1 - k];
    weighted += 2 * (1 - lag / n) * rho[lag];
    quiet = Math.abs(rho[lag]) < NEGLIGIBLE ? quiet + 1 : 0;
  }
  let rest = 1;
  for (let k = 0; k < order; k++) rest -= coefficients[k];
  let [variance, a] = [model.innovation, 1];
  // Variance of the samples, by the model: the innovation over what its correlations leave unexplained.
  for (let k = 0; k < order; k++) a -= coefficients[k] * correlations[k];
  variance /= a;
  return { atZero: model.innovation / (rest * rest) / variance, finite: weighted, neighbours: rho[1] ?? 0 };
}
