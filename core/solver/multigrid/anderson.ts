import { type Arena, plainArena } from "../kernels/arena.ts";
import type { Checkpoint } from "../simulation.ts";

/**
 * Anderson acceleration of a fixed-point iteration x -> g(x) with a sliding window.
 * Storage is taken once; a step that would not be finite is left out.
 * @source Walker & Ni, SIAM J. Numer. Anal. 49 (2011) 1715.
 */
export class Anderson {
  private readonly dF: Float64Array[] = [];
  private readonly dG: Float64Array[] = [];
  /** vectors the window does not hold at present */
  private readonly spare: Float64Array[];
  private readonly lastF: Float64Array;
  private readonly lastG: Float64Array;
  private readonly dots: Float64Array;
  private gram: number[][] = [];
  private started = false;

  /** @param weighed how many leading entries take part in the least-squares fit; the rest follow along */
  constructor(
    size: number,
    private readonly weighed: number,
    private readonly window: number,
    private readonly arena: Arena = plainArena(),
  ) {
    [this.lastF, this.lastG] = [0, 1].map(() => arena.float64(size));
    this.spare = Array.from({ length: 2 * window }, () => arena.float64(size));
    this.dots = arena.float64(2);
  }

  reset(): void {
    this.spare.push(...this.dF.splice(0), ...this.dG.splice(0));
    this.gram = [];
    this.started = false;
  }

  /** Overwrites g, the plain result of one iteration from x, with the accelerated iterate. */
  mix(x: Float64Array, g: Float64Array): void {
    if (!this.started) {
      this.lastF.set(x);
      this.arena.kernels.subtractFrom(g, this.lastF);
      this.lastG.set(g);
      this.started = true;
      return;
    }
    const rhs = this.remember(x, g);
    const gamma = solveDense(
      this.gram.map((row) => [...row]),
      rhs,
    );
    if (gamma) this.combine(gamma, g);
  }

  /** g less the differences of the window, each times its coefficient. */
  private combine(gamma: readonly number[], g: Float64Array): void {
    const { subtractFour, addScaled } = this.arena.kernels;
    const { dG } = this;
    const fours = dG.length - (dG.length % 4);
    for (let j = 0; j < fours; j += 4) subtractFour(g, gamma[j], gamma[j + 1], gamma[j + 2], gamma[j + 3], dG[j], dG[j + 1], dG[j + 2], dG[j + 3]);
    for (let j = fours; j < dG.length; j++) addScaled(-gamma[j], dG[j], g);
  }

  /** Everything later steps depend on. */
  save(): Checkpoint {
    const copies = (list: readonly Float64Array[]) => list.map((a) => a.slice());
    return {
      dF: copies(this.dF),
      dG: copies(this.dG),
      lastF: this.lastF.slice(),
      lastG: this.lastG.slice(),
      gram: this.gram.map((row) => [...row]),
      started: this.started,
    };
  }

  restore(saved: Checkpoint): void {
    this.reset();
    for (const [list, from] of [
      [this.dF, saved.dF],
      [this.dG, saved.dG],
    ] as const) {
      for (const values of from as Float64Array[]) {
        const into = this.spare.pop() as Float64Array;
        into.set(values);
        list.push(into);
      }
    }
    this.lastF.set(saved.lastF as Float64Array);
    this.lastG.set(saved.lastG as Float64Array);
    this.gram = (saved.gram as number[][]).map((row) => [...row]);
    this.started = saved.started as boolean;
  }

  /** @returns products of the window's differences with the present step */
  private remember(x: Float64Array, g: Float64Array): number[] {
    const full = this.dF.length >= this.window;
    const next = (list: Float64Array[]) => (full ? list.shift() : this.spare.pop()) as Float64Array;
    const [df, dg] = [next(this.dF), next(this.dG)];
    if (full) this.gram = this.gram.slice(1).map((row) => row.slice(1));
    const { kernels } = this.arena;
    kernels.stepChanges(x, g, this.lastF, this.lastG, df, dg);
    this.dF.push(df);
    this.dG.push(dg);
    const row: number[] = [];
    const rhs: number[] = [];
    for (const d of this.dF) {
      kernels.twoDots(d.subarray(0, this.weighed), df, this.lastF, this.dots);
      row.push(this.dots[0]);
      rhs.push(this.dots[1]);
    }
    this.gram.forEach((r, i) => {
      r.push(row[i]);
    });
    this.gram.push(row);
    return rhs;
  }
}

/** Gaussian elimination with pivoting on a slightly damped matrix; undefined when nothing finite comes out. */
function solveDense(a: number[][], b: number[]): number[] | undefined {
  const n = b.length;
  const damping = 1e-12 * Math.max(...a.map((row, i) => row[i]));
  for (let i = 0; i < n; i++) a[i][i] += damping;
  for (let i = 0; i < n; i++) {
    let pivot = i;
    for (let r = i + 1; r < n; r++) if (Math.abs(a[r][i]) > Math.abs(a[pivot][i])) pivot = r;
    if (!(Math.abs(a[pivot][i]) > 1e-300)) return undefined;
    [a[i], a[pivot]] = [a[pivot], a[i]];
    [b[i], b[pivot]] = [b[pivot], b[i]];
    for (let r = i + 1; r < n; r++) {
      const factor = a[r][i] / a[i][i];
      for (let c = i; c < n; c++) a[r][c] -= factor * a[i][c];
      b[r] -= factor * b[i];
    }
  }
  for (let i = n - 1; i >= 0; i--) {
    for (let c = i + 1; c < n; c++) b[i] -= a[i][c] * b[c];
    b[i] /= a[i][i];
  }
  return b.every(Number.isFinite) ? b : undefined;
}
