import { lagrange, stencilStart } from "../core/numeric/lagrange.ts";
import { differenceWeights } from "./differenceWeights.ts";
import { arrive, Box, type BoxFlow, type BoxProblem, linesOf } from "./steadyBox.ts";

/**
 * The flow of `steadyBox` by polynomials through seven lines each way instead of three: Newton's method again, whose linear equations are solved by
 * generalised minimal residuals, prepared by the equations of three lines. For layers that three lines resolve too slowly.
 */
const WIDTH = 7;
const ARRIVED = 1e-9;
const MOST = 20;
/** directions of one linear solution, and what it may leave */
const DIRECTIONS = 60;
const LEFT = 1e-3;

/** Where a stencil begins, and the weights of first and second derivatives on it. */
interface Stencil {
  readonly start: number;
  readonly first: readonly number[];
  readonly second: readonly number[];
}

function stencils(x: Float64Array): readonly Stencil[] {
  return Array.from(x, (at, i) => {
    const start = Math.max(0, Math.min(x.length - WIDTH, i - (WIDTH >> 1)));
    const [, first, second] = differenceWeights([...x.subarray(start, start + WIDTH)], at);
    return { start, first, second };
  });
}

/**
 * @param guess a flow on any lines: brought over, and taken for near
 * @throws {Error} Newton's method did not arrive.
 */
export function sharpBox(problem: BoxProblem, n: number, guess: BoxFlow): BoxFlow {
  const sharp = new SharpBox(problem, n, guess);
  return arrive(sharp.box, () => sharp.step(), ARRIVED, MOST);
}

/** A flow's values on other lines. */
function broughtOver(from: Float64Array, values: Float64Array, to: Float64Array): Float64Array {
  const width = 6;
  const across = (row: Float64Array, x: number) => {
    const s = stencilStart(from, x, width);
    return lagrange([...from.subarray(s, s + width)], row.subarray(s, s + width), x);
  };
  const rows = Array.from(from, (_, j) => {
    const row = values.subarray(j * from.length, (j + 1) * from.length);
    return Float64Array.from(to, (x) => across(row, x));
  });
  const out = new Float64Array(to.length ** 2);
  for (let i = 0; i < to.length; i++) {
    const column = Float64Array.from(rows, (r) => r[i]);
    for (let j = 0; j < to.length; j++) out[j * to.length + i] = across(column, to[j]);
  }
  return out;
}

class SharpBox {
  readonly box: Box;
  private readonly stencils: readonly Stencil[];
  /** vorticity on a side from the stream function on the lines beside it, and heat from heat */
  private readonly wall: { readonly depths: readonly number[]; readonly vorticity: readonly number[]; readonly heat: readonly number[] };

  constructor(
    private readonly problem: BoxProblem,
    private readonly n: number,
    guess: BoxFlow,
  ) {
    const x = linesOf(n);
    const same = guess.lines.length === x.length;
    const over = (q: Float64Array) => (same ? q : broughtOver(guess.lines, q, x));
    this.box = new Box(problem, n);
    this.box.begin({ ...guess, lines: x, psi: over(guess.psi), heat: guess.heat && over(guess.heat) });
    this.stencils = stencils(x);
    const depths = [...x.subarray(1, WIDTH)];
    // Beside a side the stream function is h times the side's speed and h^2 times a polynomial, whose value on the side is half the curvature there.
    const [vorticity] = differenceWeights(depths, 0);
    const [, slope] = differenceWeights([0, ...depths], 0);
    this.wall = { depths, vorticity, heat: slope.slice(1).map((w) => -w / slope[0]) };
    this.close();
    const { psi, omega } = this.box;
    for (let j = 1; j < n; j++)
      for (let i = 1; i < n; i++) {
        const k = j * (n + 1) + i;
        omega[k] = -(this.along(psi, k, i, 1, "second") + this.along(psi, k, j, n + 1, "second"));
      }
    this.close();
  }

  /** A derivative along x (step 1) or y at line i. */
  private along(q: Float64Array, k: number, i: number, step: number, kind: "first" | "second"): number {
    const s = this.stencils[i];
    const weights = s[kind];
    let at = k + (s.start - i) * step;
    let sum = 0;
    for (let m = 0; m < WIDTH; m++) {
      sum += weights[m] * q[at];
      at += step;
    }
    return sum;
  }

  private close(): void {
    const { n, wall, problem } = this;
    const { psi, omega, heat } = this.box;
    const row = n + 1;
    const side = (k: number, inward: number, speed: number) => {
      let sum = 0;
      for (const [m, h] of wall.depths.entries()) sum += (wall.vorticity[m] * (psi[k + (m + 1) * inward] - speed * h)) / h ** 2;
      omega[k] = -2 * sum;
    };
    for (let k = 1; k < n; k++) {
      side(k, row, 0);
      // The lid moves along +x: the stream function falls with the depth under it.
      side(n * row + k, -row, -problem.lidSpeed);
      side(k * row, 1, 0);
      side(k * row + n, -1, 0);
    }
    if (!problem.heat) return;
    for (let k = 0; k <= n; k++) {
      heat[k] = wall.heat.reduce((sum, w, m) => sum + w * heat[k + (m + 1) * row], 0);
      heat[n * row + k] = wall.heat.reduce((sum, w, m) => sum + w * heat[(n - 1 - m) * row + k], 0);
    }
  }

  /** What the flow leaves of its equations, in the order of the unknowns. */
  private left(): Float64Array {
    const { n, problem } = this;
    const { psi, omega, heat, parts, inner } = this.box;
    const row = n + 1;
    this.close();
    const out = new Float64Array(parts * inner ** 2);
    for (let j = 1; j < n; j++)
      for (let i = 1; i < n; i++) {
        const k = j * row + i;
        const x = (q: Float64Array, kind: "first" | "second") => this.along(q, k, i, 1, kind);
        const y = (q: Float64Array, kind: "first" | "second") => this.along(q, k, j, row, kind);
        const spread = (q: Float64Array) => x(q, "second") + y(q, "second");
        const [u, v] = [y(psi, "first"), -x(psi, "first")];
        const e = parts * ((j - 1) * inner + i - 1);
        out[e] = spread(psi) + omega[k];
        out[e + 1] = u * x(omega, "first") + v * y(omega, "first") - problem.viscosity * spread(omega);
        if (!problem.heat) continue;
        const heatX = x(heat, "first");
        out[e + 1] -= problem.heat.buoyancy * heatX;
        out[e + 2] = u * heatX + v * y(heat, "first") - spread(heat);
      }
    return out;
  }

  /** The derivative of what is left, along a direction: of a polynomial of second degree a difference over both sides tells it without an error. */
  private derivative(direction: Float64Array): Float64Array {
    const { box } = this;
    box.move(direction);
    const ahead = this.left();
    box.move(direction, -2);
    const behind = this.left();
    box.move(direction);
    return ahead.map((a, i) => (a - behind[i]) / 2);
  }

  /** @returns the largest change of the stream function over its largest value */
  step(): number {
    const { box } = this;
    const { parts, matrix } = box;
    const right = this.left().map((x) => -x);
    // The equations of three lines, at this flow, prepare those of seven.
    box.linearise();
    matrix.split();
    const largest = [box.psi, box.omega, box.heat].map((q) => 1 / q.reduce((m, x) => Math.max(m, Math.abs(x)), 1e-300));
    const prepared = (q: Float64Array) => {
      matrix.solve(q);
      return q.map((x, i) => x * largest[i % parts]);
    };
    const unscaled = (q: Float64Array) => q.map((x, i) => x / largest[i % parts]);
    const change = unscaled(minimalResiduals((v) => prepared(this.derivative(unscaled(v))), prepared(right)));
    box.move(change);
    this.close();
    let most = 0;
    for (let e = 0; e < change.length; e += parts) most = Math.max(most, Math.abs(change[e]));
    return most * largest[0];
  }
}

const dot = (a: Float64Array, b: Float64Array) => a.reduce((s, x, i) => s + x * b[i], 0);

/** Generalised minimal residuals from nothing. @source Saad & Schultz, SIAM J. Sci. Stat. Comput. 7 (1986) 856 */
function minimalResiduals(operate: (v: Float64Array) => Float64Array, right: Float64Array): Float64Array {
  const beta = Math.sqrt(dot(right, right));
  const out = new Float64Array(right.length);
  if (beta === 0) return out;
  const basis = [right.map((x) => x / beta)];
  const columns: number[][] = [];
  const turns: [number, number][] = [];
  const g = [beta];
  for (let k = 0; k < DIRECTIONS; k++) {
    const w = operate(basis[k]);
    const column = basis.map((v) => {
      const s = dot(w, v);
      for (let i = 0; i < w.length; i++) w[i] -= s * v[i];
      return s;
    });
    const length = Math.sqrt(dot(w, w));
    basis.push(w.map((x) => x / length));
    for (const [j, [c, s]] of turns.entries()) [column[j], column[j + 1]] = [c * column[j] + s * column[j + 1], c * column[j + 1] - s * column[j]];
    const r = Math.hypot(column[k], length);
    turns.push([column[k] / r, length / r]);
    column[k] = r;
    columns.push(column);
    g.push((-length / r) * g[k]);
    g[k] *= turns[k][0];
    if (Math.abs(g[k + 1]) < LEFT * beta) break;
  }
  const used = columns.length;
  const y = new Array<number>(used).fill(0);
  for (let i = used - 1; i >= 0; i--) {
    let s = g[i];
    for (let j = i + 1; j < used; j++) s -= columns[j][i] * y[j];
    y[i] = s / columns[i][i];
  }
  for (const [k, factor] of y.entries()) for (let i = 0; i < out.length; i++) out[i] += factor * basis[k][i];
  return out;
}
