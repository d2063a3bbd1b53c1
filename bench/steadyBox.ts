import { BandMatrix } from "./bandMatrix.ts";
import { differenceWeights } from "./differenceWeights.ts";

/**
 * Steady plane flow in a square box by stream function and vorticity, under a sliding lid or between a warm and a cold side: differences of second order on
 * lines that crowd towards the sides, solved whole by Newton's method. It shares nothing with the bench's solvers, and finds steady flows also where they
 * would not stay steady.
 */
export interface BoxProblem {
  /** speed of the lid at y = 1, along +x */
  readonly lidSpeed: number;
  readonly viscosity: number;
  /** sides x = 0 and x = 1 held half above and half below the mean; lengths over the side, velocities in diffusivities over it */
  readonly heat?: { readonly buoyancy: number };
}

export interface BoxFlow {
  /** lines of both directions, sides included */
  readonly lines: Float64Array;
  /** stream function and temperature on crossings, by rows of x */
  readonly psi: Float64Array;
  readonly heat: Float64Array | undefined;
  readonly iterations: number;
}

/** largest change, over the largest value, at which Newton's method has arrived: every step squares it */
const ARRIVED = 1e-7;
const MOST = 30;

/** Weights of a first and a second derivative at the middle of three lines. */
function weights(x: Float64Array, i: number) {
  const [, first, second] = differenceWeights([x[i - 1], x[i], x[i + 1]], x[i]);
  return { first, second };
}

export const linesOf = (n: number): Float64Array => Float64Array.from({ length: n + 1 }, (_, i) => (1 - Math.cos((Math.PI * i) / n)) / 2);

/**
 * @param n spaces between lines
 * @param guess a flow on the same lines
 * @throws {Error} Newton's method did not arrive.
 */
export function steadyBox(problem: BoxProblem, n: number, guess?: BoxFlow): BoxFlow {
  const box = new Box(problem, n);
  box.begin(guess);
  return arrive(box, () => box.step(), ARRIVED);
}

/**
 * Steps until one changes less than told.
 * @throws {Error} It did not arrive.
 */
export function arrive(box: Box, step: () => number, least: number, most = MOST): BoxFlow {
  for (let iterations = 1; iterations <= most; iterations++) if (step() < least) return box.flow(iterations);
  throw new Error(`Newton's method did not arrive on ${box.inner + 1} spaces.`);
}

/** The flow on one set of lines, and its linearised equations. */
export class Box {
  readonly x: Float64Array;
  readonly psi: Float64Array;
  readonly heat: Float64Array;
  readonly omega: Float64Array;
  readonly inner: number;
  readonly parts: number;
  readonly matrix: BandMatrix;
  private readonly weights: ReturnType<typeof weights>[];

  constructor(
    private readonly problem: BoxProblem,
    private readonly n: number,
  ) {
    this.x = linesOf(n);
    this.inner = n - 1;
    this.parts = problem.heat ? 3 : 2;
    [this.psi, this.omega, this.heat] = [0, 0, 0].map(() => new Float64Array((n + 1) ** 2)) as [Float64Array, Float64Array, Float64Array];
    // A third unknown of the next row but one stands in the rows beside sides that let no heat through.
    this.matrix = new BandMatrix(this.parts * this.inner ** 2, this.parts * (this.inner + 1));
    this.weights = Array.from({ length: n }, (_, i) => (i ? weights(this.x, i) : { first: [], second: [] }));
  }

  flow(iterations: number): BoxFlow {
    return { lines: this.x, psi: this.psi, heat: this.problem.heat && this.heat, iterations };
  }

  /** Adds a change of all unknowns, so many times over; the sides stay as they are. */
  move(change: Float64Array, by = 1): void {
    const { n, parts, inner, psi, omega, heat } = this;
    for (let j = 1; j < n; j++)
      for (let i = 1; i < n; i++) {
        const k = j * (n + 1) + i;
        const e = parts * ((j - 1) * inner + i - 1);
        psi[k] += by * change[e];
        omega[k] += by * change[e + 1];
        if (parts === 3) heat[k] += by * change[e + 2];
      }
  }

  begin(guess: BoxFlow | undefined): void {
    const { n, x } = this;
    if (guess) {
      this.psi.set(guess.psi);
      if (guess.heat) this.heat.set(guess.heat);
    } else if (this.problem.heat) {
      for (let j = 0; j <= n; j++) for (let i = 0; i <= n; i++) this.heat[j * (n + 1) + i] = 0.5 - x[i];
    }
    for (let j = 1; j < n; j++)
      for (let i = 1; i < n; i++) {
        const k = j * (n + 1) + i;
        const [a, b] = [this.weights[i].second, this.weights[j].second];
        const p = this.psi;
        this.omega[k] = -(a[0] * p[k - 1] + a[1] * p[k] + a[2] * p[k + 1] + b[0] * p[k - n - 1] + b[1] * p[k] + b[2] * p[k + n + 1]);
      }
    this.close();
  }

  /** Vorticity on the sides by the stream function beside them, and the heat that sides let through none. */
  private close(): void {
    const { n, psi, omega, heat, x } = this;
    const row = n + 1;
    const h = x[1];
    for (let k = 1; k < n; k++) {
      omega[k] = (-2 * psi[row + k]) / h ** 2;
      omega[n * row + k] = (-2 * (psi[(n - 1) * row + k] + h * this.problem.lidSpeed)) / h ** 2;
      omega[k * row] = (-2 * psi[k * row + 1]) / h ** 2;
      omega[k * row + n] = (-2 * psi[k * row + n - 1]) / h ** 2;
    }
    if (!this.problem.heat) return;
    const [near, far] = this.insulated;
    for (let k = 0; k <= n; k++) {
      heat[k] = near * heat[row + k] + far * heat[2 * row + k];
      heat[n * row + k] = near * heat[(n - 1) * row + k] + far * heat[(n - 2) * row + k];
    }
  }

  /** What two lines give the side, where the slope vanishes. */
  private get insulated(): readonly [number, number] {
    const [a, b] = [this.x[1], this.x[2]];
    return [b ** 2 / (b ** 2 - a ** 2), -(a ** 2) / (b ** 2 - a ** 2)];
  }

  /** Lays the linearised equations out in the matrix. @returns what the flow leaves of them, turned round */
  linearise(): Float64Array {
    const { n, parts, inner, matrix, psi, omega, heat, x, problem } = this;
    const row = n + 1;
    const h = x[1];
    const [near, far] = this.insulated;
    matrix.clear();
    const b = new Float64Array(matrix.size);
    const unknown = (i: number, j: number, part: number) => parts * ((j - 1) * inner + i - 1) + part;
    /** A derivative of an equation by a value of a part at (i, j), through what the sides take from inside. */
    const depend = (equation: number, part: number, i: number, j: number, d: number) => {
      const onX = i === 0 || i === n;
      const onY = j === 0 || j === n;
      if (!onX && !onY) matrix.add(equation, unknown(i, j, part), d);
      else if (part === 1) {
        const [k, l] = [i === 0 ? 1 : i === n ? n - 1 : i, j === 0 ? 1 : j === n ? n - 1 : j];
        matrix.add(equation, unknown(k, l, 0), (-2 * d) / h ** 2);
      } else if (part === 2 && onY && !onX) {
        const step = j === 0 ? 1 : -1;
        matrix.add(equation, unknown(i, j + step, 2), near * d);
        matrix.add(equation, unknown(i, j + 2 * step, 2), far * d);
      }
    };
    const { viscosity } = problem;
    for (let j = 1; j < n; j++)
      for (let i = 1; i < n; i++) {
        const k = j * row + i;
        const { first: fx, second: sx } = this.weights[i];
        const { first: fy, second: sy } = this.weights[j];
        const alongX = (q: Float64Array, w: readonly number[]) => w[0] * q[k - 1] + w[1] * q[k] + w[2] * q[k + 1];
        const alongY = (q: Float64Array, w: readonly number[]) => w[0] * q[k - row] + w[1] * q[k] + w[2] * q[k + row];
        const [u, v] = [alongY(psi, fy), -alongX(psi, fx)];
        const e0 = unknown(i, j, 0);
        b[e0] = -(alongX(psi, sx) + alongY(psi, sy) + omega[k]);
        depend(e0, 1, i, j, 1);
        const carried = (part: 1 | 2, q: Float64Array, diffusivity: number) => {
          const e = e0 + part;
          const [qx, qy] = [alongX(q, fx), alongY(q, fy)];
          b[e] -= u * qx + v * qy - diffusivity * (alongX(q, sx) + alongY(q, sy));
          for (let s = 0; s < 3; s++) {
            depend(e, part, i + s - 1, j, u * fx[s] - diffusivity * sx[s]);
            depend(e, part, i, j + s - 1, v * fy[s] - diffusivity * sy[s]);
            depend(e, 0, i, j + s - 1, fy[s] * qx);
            depend(e, 0, i + s - 1, j, -fx[s] * qy);
          }
        };
        for (let s = 0; s < 3; s++) {
          depend(e0, 0, i + s - 1, j, sx[s]);
          depend(e0, 0, i, j + s - 1, sy[s]);
        }
        carried(1, omega, viscosity);
        if (!problem.heat) continue;
        const { buoyancy } = problem.heat;
        b[e0 + 1] += buoyancy * alongX(heat, fx);
        for (let s = 0; s < 3; s++) depend(e0 + 1, 2, i + s - 1, j, -buoyancy * fx[s]);
        carried(2, heat, 1);
      }
    return b;
  }

  /** @returns the largest change over the largest value */
  step(): number {
    const { parts, matrix, psi } = this;
    const b = this.linearise();
    matrix.split();
    matrix.solve(b);
    this.move(b);
    this.close();
    const change = b.reduce((most, x, e) => (e % parts ? most : Math.max(most, Math.abs(x))), 0);
    const largest = psi.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
    return largest > 0 ? change / largest : change;
  }
}
