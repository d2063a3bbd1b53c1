import type { Arena } from "../kernels/arena.ts";
import { Anderson, type Part, type Store } from "../multigrid/anderson.ts";
import type { Checkpoint } from "../simulation.ts";
import type { FlowLevel } from "./flowLevel.ts";
import type { LevelResiduals } from "./flowPhysics.ts";
import type { MultigridCycle } from "./multigridCycle.ts";

const STALL_AFTER = 12;
/** factor on the relaxation after every failure, and how often the last level may fail */
const CALMER = 0.85;
const CALMER_TRIES = 3;
/** residuals below this are noise */
const ROUNDING = 1e-11;

/** Storage that solvers of one mesh after another use in turn, the finest's having been taken first. */
export class SolverStore implements Store {
  readonly kernels: Arena["kernels"];
  private readonly taken: (Float64Array | Float32Array)[] = [];
  private next = 0;

  constructor(private readonly arena: Arena) {
    this.kernels = arena.kernels;
  }

  /** From here on everything is given out again. */
  rewind(): void {
    this.next = 0;
  }

  float64(length: number): Float64Array {
    return this.give(length, () => this.arena.float64(length)) as Float64Array;
  }

  float32(length: number): Float32Array {
    return this.give(length, () => this.arena.float32(length)) as Float32Array;
  }

  /** Requests come in one order for every mesh, so that the kinds agree. */
  private give(length: number, make: () => Float64Array | Float32Array): Float64Array | Float32Array {
    const kept = this.taken[this.next];
    if (kept && kept.length < length) throw new RangeError("The finest mesh's storage was to be taken first.");
    const given = kept ?? make();
    this.taken[this.next++] = given;
    return given.subarray(0, length);
  }
}

/** Multigrid cycles with acceleration and a way back when they stall. */
export class NestedSolver {
  iterations = 0;
  failures = 0;
  /** residual against the largest of the first three iterations */
  relative = 1;
  readonly level: FlowLevel;
  private bottom: number;
  private readonly mixer: Anderson | undefined;
  /** the fields and fluxes, what an iteration started from, and the best iterate so far */
  private readonly parts: readonly Part[];
  private readonly start: readonly Float64Array[];
  private readonly best: readonly Float64Array[];
  private bestResidual = Number.POSITIVE_INFINITY;
  private lastGain = Number.POSITIVE_INFINITY;
  private lastGainAt = 0;
  private first = 0;

  /** @param top the level that is solved on: it and the coarser ones take part */
  constructor(
    private readonly cycle: MultigridCycle,
    private readonly top: number,
    window: number,
    store: SolverStore,
  ) {
    cycle.release(top);
    this.bottom = cycle.levels.length - 1;
    const level = cycle.levels[top];
    this.level = level;
    for (const l of this.levels) l.calm(1);
    const flux = level.outletFaces.length > 0 ? level.flux : level.flux.subarray(0, level.geometry.joins);
    const fields = [level.u, level.v, level.p, ...level.scalars.map((q) => q.q)];
    this.parts = [...fields.map((values) => ({ values, weighed: true })), { values: flux, weighed: false }];
    store.rewind();
    [this.start, this.best] = [0, 1].map(() => this.parts.map(({ values }) => store.float64(values.length)));
    this.mixer = window > 0 ? new Anderson(this.parts, window, store) : undefined;
  }

  private get levels(): readonly FlowLevel[] {
    return this.cycle.levels.slice(this.top);
  }

  /** No coarser level is left to give up, nor a smaller step to try. */
  get exhausted(): boolean {
    return this.bottom <= this.top && this.failures >= this.levels.length - 1 + CALMER_TRIES;
  }

  iterate(): LevelResiduals {
    this.keep(this.start);
    if (this.iterations === 0) this.keep(this.best);
    this.cycle.run(this.top, this.bottom);
    this.iterations++;
    const residuals = { ...this.level.residuals, scalars: [...this.level.residuals.scalars] };
    const size = residuals.xMomentum + residuals.yMomentum + residuals.scalars.reduce((s, r) => s + r, 0);
    if (this.iterations <= 3) this.first = Math.max(this.first, size);
    this.relative = size / this.first;
    if (this.guard(size)) return residuals;
    if (this.iterations > 1) this.mixer?.mix(this.start);
    return residuals;
  }

  /** Keeps the best iterate; on a stall or a blow-up goes back to it, gives up the coarsest level and forgets the window. */
  private guard(residual: number): boolean {
    if (residual < this.bestResidual) {
      this.bestResidual = residual;
      this.keep(this.best);
      if (residual < 0.5 * this.lastGain) {
        this.lastGain = residual;
        this.lastGainAt = this.iterations;
      }
    }
    // A start may still rise a little; a thousandfold rise or no number at all is a failure at any time.
    const blownUp = !(residual < Math.max(ROUNDING, (this.iterations > 3 ? 20 : 1000) * this.bestResidual));
    const stalled = this.iterations - this.lastGainAt > STALL_AFTER && residual > ROUNDING / 100;
    if (!blownUp && !stalled) return false;
    if (this.bottom <= this.top && !blownUp) return false;
    this.failures++;
    this.goBack(this.best);
    this.dropCoarsest();
    this.lastGainAt = this.iterations;
    return true;
  }

  /** Takes the last cycle back and goes on without the coarsest level; false when there is none to give up. */
  retreat(): boolean {
    if (this.exhausted) return false;
    this.failures++;
    this.goBack(this.start);
    this.dropCoarsest();
    this.bestResidual = Number.POSITIVE_INFINITY;
    this.lastGain = Number.POSITIVE_INFINITY;
    this.lastGainAt = this.iterations;
    return true;
  }

  private dropCoarsest(): void {
    this.bottom = Math.max(this.top, this.bottom - 1);
  }

  private goBack(to: readonly Float64Array[]): void {
    this.put(to);
    this.mixer?.reset();
    for (const q of this.level.scalars) q.forgetSlopes();
    this.calm();
  }

  /** Every failure makes the steps of the smoother smaller; what comes out does not depend on them. */
  private calm(): void {
    for (const level of this.levels) level.calm(CALMER ** this.failures);
  }

  private keep(into: readonly Float64Array[]): void {
    this.parts.forEach(({ values }, k) => {
      into[k].set(values);
    });
  }

  private put(from: readonly Float64Array[]): void {
    this.parts.forEach(({ values }, k) => {
      values.set(from[k]);
    });
  }

  private slopes(): Float64Array[] {
    return this.level.scalars.flatMap((q) => [...q.slope]);
  }

  /** Everything later iterations depend on. */
  save(): Checkpoint {
    const { iterations, failures, relative, bestResidual, lastGain, lastGainAt, first } = this;
    return {
      counters: [iterations, failures, relative, bestResidual, lastGain, lastGainAt, first],
      depth: this.bottom - this.top + 1,
      now: joined(this.parts.map((part) => part.values)),
      best: joined(this.best),
      slopes: this.slopes().map((s) => s.slice()),
      window: this.mixer?.save() ?? null,
    };
  }

  restore(saved: Checkpoint): void {
    [this.iterations, this.failures, this.relative, this.bestResidual, this.lastGain, this.lastGainAt, this.first] = saved.counters as number[];
    this.calm();
    this.bottom = Math.min(this.bottom, this.top + (saved.depth as number) - 1);
    this.put(apart(saved.now as Float64Array, this.best));
    apart(saved.best as Float64Array, this.best).forEach((q, k) => {
      this.best[k].set(q);
    });
    this.slopes().forEach((s, k) => {
      s.set((saved.slopes as Float64Array[])[k]);
    });
    if (saved.window) this.mixer?.restore(saved.window as Checkpoint);
  }
}

/** Arrays one after another. */
function joined(parts: readonly Float64Array[]): Float64Array {
  const all = new Float64Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

/** What `joined` put together, in pieces as long as the given ones. */
function apart(all: Float64Array, like: readonly Float64Array[]): Float64Array[] {
  let at = 0;
  return like.map(({ length }) => {
    at += length;
    return all.subarray(at - length, at);
  });
}
