import type { Numbers } from "../../numeric/numbers.ts";
/** A stretch of a record that models are fitted to: means of equal blocks, the last of which ends with the record. */
export interface Stretch {
  readonly z: Float64Array;
  /** entries in a block */
  readonly block: number;
  /** standard deviation a block mean has for the printed digits alone */
  readonly floor: number;
}

export type DecayModel = "constant" | "line" | "real" | "two-real" | "alternating" | "complex";

/** A model of a stretch: what is left at the last entry, with how well it is known. */
export interface DecayFit {
  readonly model: DecayModel;
  /** last entry less the limit, signed; amplitude of the envelope for a complex pair; slope an entry for a line */
  readonly left: number;
  readonly standard: number;
  /** factor an entry of the slowest part */
  readonly factor: number;
  /** variance of what the model does not explain */
  readonly variance: number;
  readonly parameters: number;
  /** what is not explained is no larger than printing makes it, or shows no pattern */
  readonly adequate: boolean;
}

/** Stretch of the last `count` blocks of `block` entries. */
export function stretchOf(values: Numbers, block: number, count: number, step: number): Stretch {
  const from = values.length - block * count;
  const scale = Math.max(Math.abs(values[from]), Math.abs(values[values.length - 1]));
  const z = new Float64Array(count);
  for (let j = 0; j < count; j++) {
    let sum = 0;
    for (let k = 0; k < block; k++) sum += values[from + j * block + k];
    z[j] = sum / block;
  }
  return { z, block, floor: Math.max(step / Math.sqrt(12) / Math.sqrt(block), 4 * Number.EPSILON * scale) };
}

/** One column of a linear least-squares problem. */
type Column = Float64Array;

/** beyond this a column no longer grows: squares of its entries are still numbers */
const LARGEST = 1e120;

/** Block means of exp(-rate (n - last)), counted back from the last entry: its coefficient is what is left there. */
function decayColumn(s: Stretch, rate: number): Column {
  const count = s.z.length;
  const entry = Math.exp(rate);
  let [own, power] = [0, 1];
  for (let k = 0; k < s.block; k++, power = Math.min(LARGEST, power * entry)) own += power / s.block;
  const column = new Float64Array(count);
  for (let j = count - 1, size = own; j >= 0; j--, size = Math.min(LARGEST, size * power)) column[j] = size;
  return column;
}

/** The same for exp(-(rate + i angle)(n - last)): real and imaginary part. */
function waveColumns(s: Stretch, rate: number, angle: number): [Column, Column] {
  const count = s.z.length;
  const entry = [Math.exp(rate) * Math.cos(angle), Math.exp(rate) * Math.sin(angle)];
  const turned = (re: number, im: number, by: readonly number[]): [number, number] =>
    Math.abs(re) + Math.abs(im) > LARGEST ? [re, im] : [re * by[0] - im * by[1], re * by[1] + im * by[0]];
  let power: [number, number] = [1, 0];
  let own: [number, number] = [0, 0];
  for (let k = 0; k < s.block; k++) {
    own = [own[0] + power[0] / s.block, own[1] + power[1] / s.block];
    power = turned(power[0], power[1], entry);
  }
  const a = new Float64Array(count);
  const b = new Float64Array(count);
  for (let j = count - 1; j >= 0; j--) {
    [a[j], b[j]] = own;
    own = turned(own[0], own[1], power);
  }
  return [a, b];
}

interface Linear {
  readonly coefficients: readonly number[];
  readonly rss: number;
}

/** Least squares with a constant besides the given columns, on centred data. */
function solve(z: Float64Array, columns: readonly Column[]): Linear | undefined {
  const n = z.length;
  const p = columns.length;
  const middle = columns.map((c) => c.reduce((s, v) => s + v, 0) / n);
  const mean = z.reduce((s, v) => s + v, 0) / n;
  const m = Array.from({ length: p }, (_, a) => {
    const row = columns.map((_, b) => {
      let sum = 0;
      for (let i = 0; i < n; i++) sum += (columns[a][i] - middle[a]) * (columns[b][i] - middle[b]);
      return sum;
    });
    let right = 0;
    for (let i = 0; i < n; i++) right += (columns[a][i] - middle[a]) * (z[i] - mean);
    return [...row, right];
  });
  const x = eliminate(m);
  if (!x) return undefined;
  let rss = 0;
  for (let i = 0; i < n; i++) {
    let rest = z[i] - mean;
    for (let a = 0; a < p; a++) rest -= x[a] * (columns[a][i] - middle[a]);
    rss += rest * rest;
  }
  return { coefficients: x, rss };
}

/** Solution of a small symmetric system given with its right side; undefined where it is singular to working precision. */
function eliminate(rows: number[][]): number[] | undefined {
  const p = rows.length;
  const size = rows.map((r, i) => Math.abs(r[i]));
  for (let k = 0; k < p; k++) {
    if (!(Math.abs(rows[k][k]) > 1e-13 * size[k])) return undefined;
    for (let i = k + 1; i < p; i++) {
      const f = rows[i][k] / rows[k][k];
      for (let j = k; j <= p; j++) rows[i][j] -= f * rows[k][j];
    }
  }
  const x = new Array<number>(p).fill(0);
  for (let k = p - 1; k >= 0; k--) {
    let sum = rows[k][p];
    for (let j = k + 1; j < p; j++) sum -= rows[k][j] * x[j];
    x[k] = sum / rows[k][k];
  }
  return x.every(Number.isFinite) ? x : undefined;
}

/** A model that is linear in its coefficients once its rates are known. */
interface Shape {
  readonly columns: (rates: readonly number[]) => Column[];
  /** steps the rates are moved by first */
  readonly steps: readonly number[];
}

/** Least sum of squares over the rates, from a start, by coordinate searches with steps that grow and shrink. */
function search(s: Stretch, shape: Shape, start: readonly number[]): { rates: number[]; linear: Linear } | undefined {
  const rates = [...start];
  let linear = solve(s.z, shape.columns(rates));
  if (!linear) return undefined;
  const steps = [...shape.steps];
  for (let round = 0; round < 60; round++) {
    let moved = false;
    for (let k = 0; k < rates.length; k++)
      for (const sign of [1, -1]) {
        const tried = rates.slice();
        tried[k] += sign * steps[k];
        const found = solve(s.z, shape.columns(tried));
        if (!found || !(found.rss < linear.rss)) continue;
        rates[k] = tried[k];
        linear = found;
        steps[k] *= sign * 1.6;
        moved = true;
        break;
      }
    if (moved) continue;
    for (let k = 0; k < steps.length; k++) steps[k] *= 0.35;
    if (steps.every((x, k) => Math.abs(x) < 1e-7 * Math.max(1e-6, Math.abs(rates[k])))) break;
  }
  return { rates, linear };
}

/** Standard errors of the coefficients, the rates counted as unknown too. */
function standards(s: Stretch, shape: Shape, rates: readonly number[], linear: Linear, variance: number): number[] | undefined {
  const columns = shape.columns(rates);
  const slopes = rates.map((r, k) => {
    const by = 1e-4 * Math.max(Math.abs(r), 1e-6);
    const tilt = (sign: number) => shape.columns(rates.map((x, j) => (j === k ? x + sign * by : x)));
    const [up, down] = [tilt(1), tilt(-1)];
    return Float64Array.from(s.z, (_, i) => linear.coefficients.reduce((sum, c, a) => sum + (c * (up[a][i] - down[a][i])) / (2 * by), 0));
  });
  const all = [...columns, ...slopes];
  return columns.map((_, which) => {
    // Squared length of the column's part that no other column can imitate.
    const others = all.filter((_, k) => k !== which);
    const own = solve(columns[which], others);
    return own && own.rss > 0 ? Math.sqrt(variance / own.rss) : Number.POSITIVE_INFINITY;
  });
}

const ADEQUATE = 4;
/** points below which a lack of pattern shows nothing */
const FEWEST_TO_SEE = 24;

/** Residuals within what printing does, or without correlation of neighbours and long runs of one sign. */
function isAdequate(s: Stretch, columns: readonly Column[], linear: Linear, variance: number): boolean {
  if (variance <= ADEQUATE * s.floor * s.floor) return true;
  const n = s.z.length;
  if (n < FEWEST_TO_SEE) return false;
  const p = columns.length;
  const rest = Float64Array.from(s.z, (v, i) => v - columns.reduce((sum, c, a) => sum + linear.coefficients[a] * c[i], 0));
  const mean = rest.reduce((a, b) => a + b, 0) / n;
  let [square, neighbour, turns] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    square += (rest[i] - mean) ** 2;
    if (i === 0) continue;
    neighbour += (rest[i] - mean) * (rest[i - 1] - mean);
    if (rest[i] > mean !== rest[i - 1] > mean) turns++;
  }
  const expected = (n - 1) / 2;
  return Math.abs(neighbour / square) < 2 / Math.sqrt(n) + p / n && Math.abs(turns - expected) < Math.sqrt(n - 1) + p;
}

function made(
  s: Stretch,
  model: DecayModel,
  shape: Shape,
  rates: readonly number[],
  linear: Linear,
  factor: number,
  slowest = 0,
): DecayFit | undefined {
  const columns = shape.columns(rates);
  const parameters = 1 + columns.length + rates.length;
  if (s.z.length < parameters + 3) return undefined;
  const variance = linear.rss / (s.z.length - parameters);
  const counted = Math.max(variance, s.floor * s.floor);
  const errors = standards(s, shape, rates, linear, counted);
  if (!errors) return undefined;
  const c = linear.coefficients;
  const pair = model === "complex";
  const left = pair ? Math.hypot(c[0], c[1]) : c.reduce((a, b) => a + b, 0);
  const standard = pair ? Math.max(errors[0], errors[1]) : c.length > 1 ? Math.max(...errors) : errors[slowest];
  return { model, left, standard, factor, variance, parameters, adequate: isAdequate(s, columns, linear, variance) };
}

/** Mean alone. */
export function constantFit(s: Stretch): DecayFit {
  const linear = solve(s.z, [])!;
  const variance = linear.rss / (s.z.length - 1);
  const standard = Math.sqrt(Math.max(variance, s.floor ** 2) / s.z.length);
  return { model: "constant", left: 0, standard, factor: 0, variance, parameters: 1, adequate: isAdequate(s, [], linear, variance) };
}

/** Straight line: `left` is its slope an entry. */
export function lineFit(s: Stretch): DecayFit | undefined {
  const shape: Shape = { columns: () => [Float64Array.from(s.z, (_, j) => s.block * (j - s.z.length + 1))], steps: [] };
  const linear = solve(s.z, shape.columns([]));
  return linear && made(s, "line", shape, [], linear, 1);
}

const realShape = (s: Stretch, steps: readonly number[]): Shape => ({ columns: (r) => r.map((x) => decayColumn(s, x)), steps });

/** One decay (or growth, at a negative rate) of one sign. */
export function realFit(s: Stretch): DecayFit | undefined {
  const length = s.z.length * s.block;
  let best: { rate: number; rss: number } | undefined;
  for (let k = 0; k < 24; k++) {
    const rate = (0.05 / length) * (Math.min(40 * s.z.length, 3 * length) / 0.05) ** (k / 23);
    for (const r of [rate, -rate]) {
      const linear = r < -30 / length ? undefined : solve(s.z, [decayColumn(s, r)]);
      if (linear && (!best || linear.rss < best.rss)) best = { rate: r, rss: linear.rss };
    }
  }
  if (!best) return undefined;
  const shape = realShape(s, [Math.abs(best.rate) * 0.2]);
  const found = search(s, shape, [best.rate]);
  return found && made(s, "real", shape, found.rates, found.linear, Math.exp(-found.rates[0]));
}

/** Two decays of one sign each. */
export function twoRealFit(s: Stretch): DecayFit | undefined {
  if (s.z.length < 10) return undefined;
  const length = s.z.length * s.block;
  const rates = Array.from({ length: 9 }, (_, k) => (0.1 / length) * (Math.min(40 * s.z.length, 2 * length) / 0.1) ** (k / 8));
  let best: { rates: number[]; rss: number } | undefined;
  for (let a = 0; a < rates.length; a++)
    for (let b = a + 1; b < rates.length; b++) {
      const linear = solve(s.z, [decayColumn(s, rates[a]), decayColumn(s, rates[b])]);
      if (linear && (!best || linear.rss < best.rss)) best = { rates: [rates[a], rates[b]], rss: linear.rss };
    }
  if (!best) return undefined;
  const shape = realShape(
    s,
    best.rates.map((r) => r * 0.3),
  );
  const found = search(s, shape, best.rates);
  if (!found) return undefined;
  const slowest = found.rates[0] < found.rates[1] ? 0 : 1;
  return made(s, "two-real", shape, found.rates, found.linear, Math.exp(-found.rates[slowest]), slowest);
}

/** A decay that changes sign at every entry; only seen in blocks of one. */
export function alternatingFit(s: Stretch): DecayFit | undefined {
  if (s.block !== 1) return undefined;
  const shape: Shape = {
    columns: (r) => [decayColumn(s, r[0]).map((v, j) => ((s.z.length - 1 - j) % 2 ? -v : v))],
    steps: [0.1],
  };
  let best: { rate: number; rss: number } | undefined;
  for (let k = 0; k < 14; k++) {
    const rate = 0.0005 * 4000 ** (k / 13);
    const linear = solve(s.z, shape.columns([rate]));
    if (linear && (!best || linear.rss < best.rss)) best = { rate, rss: linear.rss };
  }
  const found = best && search(s, { ...shape, steps: [best.rate * 0.3] }, [best.rate]);
  return found && made(s, "alternating", shape, found.rates, found.linear, Math.exp(-found.rates[0]));
}

/** A pair of complex eigenvalues: its start from a recurrence of two terms. */
export function complexFit(s: Stretch): DecayFit | undefined {
  if (s.z.length < 10) return undefined;
  const shape: Shape = { columns: ([rate, angle]) => waveColumns(s, rate, angle), steps: [] };
  let best: { rates: number[]; linear: Linear } | undefined;
  for (const [rate, angle] of waveStarts(s)) {
    const found = search(s, { ...shape, steps: [Math.max(Math.abs(rate) * 0.3, 1e-4), angle * 0.03] }, [rate, angle]);
    if (found && found.rates[1] > 0 && (!best || found.linear.rss < best.linear.rss)) best = found;
  }
  if (!best || best.rates[1] * s.block > Math.PI) return undefined;
  return made(s, "complex", shape, best.rates, best.linear, Math.exp(-best.rates[0]));
}

/** Rates and angles an entry that a recurrence of two terms suggests, and the strongest line of the stretch freed of its trend. */
function waveStarts(s: Stretch): [number, number][] {
  const out: [number, number][] = [];
  const pair = recurrence(s.z);
  if (pair) out.push([-Math.log(pair.radius) / s.block, pair.angle / s.block]);
  const line = strongestLine(s.z);
  if (line !== undefined) for (const turns of [0.3, 3]) out.push([turns / (s.z.length * s.block), line / s.block]);
  return out;
}

/**
 * Radius an entry and angle an entry, in radians, of the complex pair whose recurrence of two terms fits the changes of a record best; undefined
 * where its roots are real.
 * @example
 * recurrence(Float64Array.from({ length: 20 }, (_, i) => 0.9 ** i)) // undefined
 */
export function recurrence(z: Float64Array): { radius: number; angle: number } | undefined {
  const d = z.subarray(1).map((v, i) => v - z[i]);
  let [xx, xy, yy, xz, yz] = [0, 0, 0, 0, 0];
  for (let k = 1; k + 1 < d.length; k++) {
    const weight = 1 / (d[k - 1] ** 2 + d[k] ** 2 + d[k + 1] ** 2 || 1);
    xx += weight * d[k] * d[k];
    xy += weight * d[k] * d[k - 1];
    yy += weight * d[k - 1] * d[k - 1];
    xz += weight * d[k] * d[k + 1];
    yz += weight * d[k - 1] * d[k + 1];
  }
  const det = xx * yy - xy * xy;
  if (!(det > 1e-9 * xx * yy)) return undefined;
  const [a, b] = [(xz * yy - yz * xy) / det, (yz * xx - xz * xy) / det];
  if (a * a + 4 * b >= 0) return undefined;
  const radius = Math.sqrt(-b);
  return { radius, angle: Math.acos(Math.max(-1, Math.min(1, a / (2 * radius)))) };
}

/**
 * Angle an entry, in radians, of the strongest of a dense set of frequencies (Goertzel's recurrence) in a stretch freed of its trend; undefined
 * where there is no entry.
 */
export function strongestLine(z: Float64Array): number | undefined {
  const n = z.length;
  const middle = (n - 1) / 2;
  const mean = z.reduce((a, b) => a + b, 0) / n;
  let moment = 0;
  for (let i = 0; i < n; i++) moment += (i - middle) * z[i];
  const slope = moment / ((n * (n * n - 1)) / 12);
  const d = z.map((v, i) => v - mean - slope * (i - middle));
  let best: { angle: number; power: number } | undefined;
  for (let k = 2; k < 2 * n; k++) {
    const angle = (Math.PI * k) / (2 * n);
    const turn = 2 * Math.cos(angle);
    let [s1, s2] = [0, 0];
    for (let i = 0; i < n; i++) [s1, s2] = [d[i] + turn * s1 - s2, s1];
    const power = s1 * s1 + s2 * s2 - turn * s1 * s2;
    if (!best || power > best.power) best = { angle, power };
  }
  return best?.angle;
}
