import { solveDense } from "../../numeric/solveDense.ts";
import { type Arena, plainArena } from "../kernels/arena.ts";
import type { Checkpoint } from "../simulation.ts";

/** One of the arrays an iteration changes. */
export interface Part {
  readonly values: Float64Array;
  /** takes part in the least-squares fit; what does not follows along */
  readonly weighed: boolean;
}

/** What is remembered of one part. */
interface Memory {
  readonly values: Float64Array;
  /** plain result of the iteration before */
  readonly last: Float64Array;
  /** step of the iteration before; absent where the part is not weighed */
  readonly lastStep?: Float64Array;
  /** differences of steps, and of plain results */
  readonly dStep: readonly Float32Array[];
  readonly dLast: readonly Float32Array[];
}

/** share of the largest square that keeps differences which say the same apart */
const DAMPING = 1e-12;

/** Where the storage is taken from, and the loops over it. */
export type Store = Pick<Arena, "float64" | "float32" | "kernels">;

/**
 * Anderson acceleration of a fixed-point iteration x -> g(x) with a sliding window, on the very arrays the iteration changes.
 * Storage is taken once. Differences are kept in single precision: they only steer, and what they steer is iterated to its end.
 * A step that would not be finite is left out.
 * @source Walker & Ni, SIAM J. Numer. Anal. 49 (2011) 1715.
 */
export class Anderson {
  private readonly memory: readonly Memory[];
  private readonly dots: Float64Array;
  private gram: number[][] = [];
  /** places of the window's differences, oldest first */
  private order: number[] = [];
  private started = false;

  constructor(
    parts: readonly Part[],
    private readonly window: number,
    private readonly store: Store = plainArena(),
  ) {
    this.memory = parts.map(({ values, weighed }) => {
      const { length } = values;
      const differences = (count: number) => Array.from({ length: count }, () => store.float32(length));
      return {
        values,
        last: store.float64(length),
        lastStep: weighed ? store.float64(length) : undefined,
        dStep: differences(weighed ? window : 0),
        dLast: differences(window),
      };
    });
    this.dots = store.float64(2);
  }

  reset(): void {
    this.order = [];
    this.gram = [];
    this.started = false;
  }

  /**
   * Turns the plain result of one iteration, which the parts hold, into the accelerated iterate.
   * @param from of each part what the iteration started from
   */
  mix(from: readonly Float64Array[]): void {
    if (!this.started) {
      this.memory.forEach(({ values, last, lastStep }, k) => {
        lastStep?.set(from[k]);
        if (lastStep) this.store.kernels.subtractFrom(values, lastStep);
        last.set(values);
      });
      this.started = true;
      return;
    }
    const rhs = this.remember(from);
    const damping = DAMPING * Math.max(...this.gram.map((row, i) => row[i]));
    const damped = this.gram.map((row, i) => row.map((v, j) => (i === j ? v + damping : v)));
    const gamma = solveDense(damped, rhs, 0);
    if (gamma?.every(Number.isFinite)) this.combine(gamma);
  }

  /** The plain result less the differences of the window, each times its coefficient. */
  private combine(gamma: readonly number[]): void {
    const { subtractFour, subtractOne } = this.store.kernels;
    for (const { values, dLast } of this.memory) {
      const d = this.order.map((place) => dLast[place]);
      const fours = d.length - (d.length % 4);
      for (let j = 0; j < fours; j += 4) subtractFour(values, gamma[j], gamma[j + 1], gamma[j + 2], gamma[j + 3], d[j], d[j + 1], d[j + 2], d[j + 3]);
      for (let j = fours; j < d.length; j++) subtractOne(values, gamma[j], d[j]);
    }
  }

  /** @returns products of the window's differences with the present step */
  private remember(from: readonly Float64Array[]): number[] {
    const full = this.order.length >= this.window;
    const place = full ? (this.order.shift() as number) : this.order.length;
    if (full) this.gram = this.gram.slice(1).map((row) => row.slice(1));
    this.order.push(place);
    const { stepChanges, changes, twoDots } = this.store.kernels;
    this.memory.forEach(({ values, last, lastStep, dStep, dLast }, k) => {
      if (lastStep) stepChanges(from[k], values, lastStep, last, dStep[place], dLast[place]);
      else changes(values, last, dLast[place]);
    });
    const row = this.order.map(() => 0);
    const rhs = this.order.map(() => 0);
    for (const { lastStep, dStep } of this.memory) {
      if (!lastStep) continue;
      this.order.forEach((other, j) => {
        twoDots(dStep[other], dStep[place], lastStep, this.dots);
        row[j] += this.dots[0];
        rhs[j] += this.dots[1];
      });
    }
    this.gram.forEach((r, i) => {
      r.push(row[i]);
    });
    this.gram.push(row);
    return rhs;
  }

  /** Everything later steps depend on. */
  save(): Checkpoint {
    const { memory, order, gram, started } = this;
    const kept = (of: (m: Memory) => readonly Float32Array[]) =>
      memory.flatMap((m) => (of(m).length ? order.map((place) => of(m)[place].slice()) : []));
    return {
      steps: kept((m) => m.dStep),
      results: kept((m) => m.dLast),
      last: memory.map((m) => m.last.slice()),
      lastStep: memory.flatMap((m) => (m.lastStep ? [m.lastStep.slice()] : [])),
      gram: gram.map((row) => [...row]),
      started,
    };
  }

  restore(saved: Checkpoint): void {
    this.reset();
    // What an earlier version kept has another shape: the window then begins anew.
    if (!Array.isArray(saved.steps)) return;
    const [steps, results, last, lastStep] = ["steps", "results", "last", "lastStep"].map((name) => [...(saved[name] as Float64Array[])]);
    this.gram = (saved.gram as number[][]).map((row) => [...row]);
    this.started = saved.started as boolean;
    this.order = this.gram.map((_, k) => k);
    for (const m of this.memory) {
      m.last.set(last.shift() as Float64Array);
      for (const place of this.order) m.dLast[place].set(results.shift() as Float64Array);
      if (!m.lastStep) continue;
      m.lastStep.set(lastStep.shift() as Float64Array);
      for (const place of this.order) m.dStep[place].set(steps.shift() as Float64Array);
    }
  }
}
