import type { Checkpoint } from "../simulation.ts";

/**
 * Anderson acceleration of a fixed-point iteration x -> g(x) with a sliding window.
 * Storage is taken once; a step that would not be finite is left out.
 * @source Walker & Ni, SIAM J. Numer. Anal. 49 (2011) 1715.
 */
export class Anderson {
  private readonly dF: Float64Array[] = [];
  private readonly dG: Float64Array[] = [];
  private readonly lastF: Float64Array;
  private readonly lastG: Float64Array;
  private gram: number[][] = [];
  private started = false;

  /** @param weighed how many leading entries take part in the least-squares fit; the rest follow along */
  constructor(
    private readonly size: number,
    private readonly weighed: number,
    private readonly window: number,
  ) {
    this.lastF = new Float64Array(size);
    this.lastG = new Float64Array(size);
  }

  reset(): void {
    this.dF.length = 0;
    this.dG.length = 0;
    this.gram = [];
    this.started = false;
  }

  /** Overwrites g, the plain result of one iteration from x, with the accelerated iterate. */
  mix(x: Float64Array, g: Float64Array): void {
    const { size } = this;
    if (this.started) this.remember(x, g);
    for (let i = 0; i < size; i++) this.lastF[i] = g[i] - x[i];
    this.lastG.set(g);
    this.started = true;
    const count = this.dF.length;
    if (count === 0) return;
    const rhs = this.dF.map((d) => dot(d, this.lastF, this.weighed));
    const gamma = solveDense(
      this.gram.map((row) => [...row]),
      rhs,
    );
    if (!gamma) return;
    for (let j = 0; j < count; j++) {
      const c = gamma[j];
      const d = this.dG[j];
      for (let i = 0; i < size; i++) g[i] -= c * d[i];
    }
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
    this.dF.push(...(saved.dF as Float64Array[]));
    this.dG.push(...(saved.dG as Float64Array[]));
    this.lastF.set(saved.lastF as Float64Array);
    this.lastG.set(saved.lastG as Float64Array);
    this.gram = (saved.gram as number[][]).map((row) => [...row]);
    this.started = saved.started as boolean;
  }

  private remember(x: Float64Array, g: Float64Array): void {
    const full = this.dF.length >= this.window;
    const df = (full && this.dF.shift()) || new Float64Array(this.size);
    const dg = (full && this.dG.shift()) || new Float64Array(this.size);
    if (full) this.gram = this.gram.slice(1).map((row) => row.slice(1));
    for (let i = 0; i < this.size; i++) {
      df[i] = g[i] - x[i] - this.lastF[i];
      dg[i] = g[i] - this.lastG[i];
    }
    this.dF.push(df);
    this.dG.push(dg);
    const row = this.dF.map((d) => dot(d, df, this.weighed));
    this.gram.forEach((r, i) => {
      r.push(row[i]);
    });
    this.gram.push(row);
  }
}

function dot(a: Float64Array, b: Float64Array, count: number): number {
  let sum = 0;
  for (let i = 0; i < count; i++) sum += a[i] * b[i];
  return sum;
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
