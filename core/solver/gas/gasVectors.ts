// What an implicit step spends its time in. Each loop is as long as the first array it is given; its compiled twin in gasVectors.as.ts takes the same
// arguments in the same order. Vectors hold four numbers a cell.

type Reals = Float64Array;

/** Speed of sound of every cell. */
export function soundSpeeds(out: Reals, w: Reals, gamma: number): void {
  for (let c = 0; c < out.length; c++) out[c] = Math.sqrt((gamma * w[4 * c + 3]) / w[4 * c]);
}

/**
 * A forward and a backward sweep over the cells on the first-order implicit operator, each cell taking what is known of its neighbours so far.
 * @param diagonal inverse of what stands before each cell's own change
 * @param faces of each cell from `start`, counted from one, negative where the face points inward
 * @param others the cell across each of them
 * @param over factor on the wave speeds
 */
export function symmetricSweep(
  diagonal: Reals,
  start: Int32Array,
  faces: Int32Array,
  others: Int32Array,
  normal: Reals,
  w: Reals,
  sound: Reals,
  gamma: number,
  over: number,
  right: Reals,
  change: Reals,
): void {
  const relax = (c: number) => {
    const i = 4 * c;
    let [s0, s1, s2, s3] = [right[i], right[i + 1], right[i + 2], right[i + 3]];
    for (let q = start[c]; q < start[c + 1]; q++) {
      const outward = faces[q] > 0;
      const f = 3 * (Math.abs(faces[q]) - 1);
      const other = others[q];
      const j = 4 * other;
      const nx = outward ? normal[f] : -normal[f];
      const ny = outward ? normal[f + 1] : -normal[f + 1];
      const half = 0.5 * normal[f + 2];
      const rho = w[j];
      const u = w[j + 1];
      const v = w[j + 2];
      const p = w[j + 3];
      const wave = over * (Math.abs(0.5 * ((w[i + 1] + u) * nx + (w[i + 2] + v) * ny)) + 0.5 * (sound[c] + sound[other]));
      const a = change[j];
      const b = change[j + 1];
      const g = change[j + 2];
      const e = change[j + 3];
      // Derivative of the neighbour's flux through the face along its change, less the wave speed times the change.
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
    const d = diagonal[c];
    change[i] = s0 * d;
    change[i + 1] = s1 * d;
    change[i + 2] = s2 * d;
    change[i + 3] = s3 * d;
  };
  for (let c = 0; c < diagonal.length; c++) relax(c);
  for (let c = diagonal.length - 1; c >= 0; c--) relax(c);
}

/** One over the rate and the waves of every cell, these times `over`. */
export function inverseDiagonal(out: Reals, rate: Reals, waves: Reals, over: number): void {
  for (let c = 0; c < out.length; c++) out[c] = 1 / (rate[c] + over * waves[c]);
}

/**
 * Density, velocity and pressure from density, momenta and total energy.
 * @returns the first cell that is no gas any more, -1 when all are
 */
export function primitives(u: Reals, gamma: number, w: Reals): number {
  const g1 = gamma - 1;
  let bad = -1;
  for (let i = 0; i < u.length; i += 4) {
    const rho = u[i];
    const x = u[i + 1] / rho;
    const y = u[i + 2] / rho;
    const p = g1 * (u[i + 3] - 0.5 * rho * (x * x + y * y));
    if (!(rho > 0 && p > 0) && bad < 0) bad = i / 4;
    w[i] = rho;
    w[i + 1] = x;
    w[i + 2] = y;
    w[i + 3] = p;
  }
  return bad;
}

/** Sum of squares, each of the four kinds times its weight. */
export function scaledSquare(a: Reals, w0: number, w1: number, w2: number, w3: number): number {
  const weight = [w0, w1, w2, w3];
  let sum = 0;
  for (let i = 0; i < a.length; i++) {
    const v = a[i] * weight[i & 3];
    sum += v * v;
  }
  return sum;
}

/** Sum of products, each of the four kinds times its weight squared. */
export function scaledDot(a: Reals, b: Reals, w0: number, w1: number, w2: number, w3: number): number {
  const weight = [w0, w1, w2, w3];
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i] * b[i] * weight[i & 3] * weight[i & 3];
  return sum;
}

/** x += a d. */
export function addScaled(x: Reals, a: number, d: Reals): void {
  for (let i = 0; i < x.length; i++) x[i] += a * d[i];
}

/** out = a / by. */
export function divideBy(a: Reals, by: number, out: Reals): void {
  for (let i = 0; i < a.length; i++) out[i] = a[i] / by;
}

/** out = from + a along. */
export function moved(from: Reals, a: number, along: Reals, out: Reals): void {
  for (let i = 0; i < from.length; i++) out[i] = from[i] + a * along[i];
}

/** The implicit operator along a direction, from residuals before and after a nudge that way; the rate is one a cell. */
export function operated(out: Reals, rate: Reals, along: Reals, residual: Reals, base: Reals, nudge: number): void {
  for (let i = 0; i < out.length; i++) out[i] = rate[i >> 2] * along[i] - (residual[i] - base[i]) / nudge;
}

/**
 * Sums over the cells: the sizes of the four residuals, then what waves carry of density, momentum and energy.
 * @param out seven numbers
 */
export function sizes(w: Reals, residual: Reals, waves: Reals, gamma: number, out: Reals): void {
  const sum = [0, 0, 0, 0, 0, 0, 0];
  for (let c = 0; c < waves.length; c++) {
    const i = 4 * c;
    for (let k = 0; k < 4; k++) sum[k] += Math.abs(residual[i + k]);
    sum[4] += waves[c] * w[i];
    sum[5] += waves[c] * w[i] * Math.sqrt((gamma * w[i + 3]) / w[i]);
    sum[6] += (waves[c] * w[i + 3]) / (gamma - 1);
  }
  out.set(sum);
}

/**
 * The share of a change that leaves every cell most of its density and pressure.
 * @param u density, momenta and total energy
 * @param w the same state's density, velocity and pressure
 * @param keep share of both that a cell keeps at least
 * @param least below it no pressure is asked for any more
 */
export function heldBack(u: Reals, change: Reals, w: Reals, gamma: number, keep: number, least: number): number {
  let share = 1;
  const pressureAfter = (i: number) => {
    const r = u[i] + share * change[i];
    const x = u[i + 1] + share * change[i + 1];
    const y = u[i + 2] + share * change[i + 2];
    return (gamma - 1) * (u[i + 3] + share * change[i + 3] - (0.5 * (x * x + y * y)) / r);
  };
  for (let i = 0; i < u.length; i += 4) {
    const fall = -change[i];
    if (fall * share > (1 - keep) * u[i]) share = ((1 - keep) * u[i]) / fall;
    while (share > least && !(pressureAfter(i) > keep * w[i + 3])) share *= 0.7;
  }
  return share;
}
