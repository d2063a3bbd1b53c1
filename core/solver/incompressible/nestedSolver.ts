import type { LevelTransfer } from "../../mesh/agglomerate.ts";
import { Anderson } from "../multigrid/anderson.ts";
import type { Checkpoint } from "../simulation.ts";
import type { FlowLevel } from "./flowLevel.ts";
import type { LevelResiduals } from "./flowPhysics.ts";
import { MultigridCycle } from "./multigridCycle.ts";

const STALL_AFTER = 12;
/** factor on the relaxation after every failure, and how often the last level may fail */
const CALMER = 0.85;
const CALMER_TRIES = 3;
/** residuals below this are noise */
const ROUNDING = 1e-11;

/** Multigrid cycles with acceleration and a way back when they stall. */
export class NestedSolver {
  iterations = 0;
  failures = 0;
  /** residual against the largest of the first three iterations */
  relative = 1;
  private readonly cycle: MultigridCycle;
  private readonly mixer: Anderson | undefined;
  private readonly x: Float64Array;
  private readonly g: Float64Array;
  private readonly best: Float64Array;
  private readonly parts: Float64Array[];
  private bestResidual = Number.POSITIVE_INFINITY;
  private lastGain = Number.POSITIVE_INFINITY;
  private lastGainAt = 0;
  private first = 0;

  constructor(
    private readonly levels: readonly FlowLevel[],
    transfers: readonly LevelTransfer[],
    window: number,
  ) {
    this.cycle = new MultigridCycle([...levels], transfers);
    const level = levels[0];
    this.level = level;
    const flux = level.outletFaces.length > 0 ? level.flux : level.flux.subarray(0, level.geometry.joins);
    const fields = [level.u, level.v, level.p, ...level.scalars.map((q) => q.q)];
    this.parts = [...fields, flux];
    const size = this.parts.reduce((sum, part) => sum + part.length, 0);
    const { arena, cells } = level.geometry;
    [this.x, this.g, this.best] = [0, 1, 2].map(() => arena.float64(size));
    this.mixer = window > 0 ? new Anderson(size, fields.length * cells, window, arena) : undefined;
  }

  readonly level: FlowLevel;

  /** No coarser level is left to give up, nor a smaller step to try. */
  get exhausted(): boolean {
    return this.cycle.depth <= 1 && this.failures >= this.levels.length - 1 + CALMER_TRIES;
  }

  iterate(): LevelResiduals {
    this.pack(this.x);
    if (this.iterations === 0) this.best.set(this.x);
    this.cycle.run();
    this.pack(this.g);
    this.iterations++;
    const residuals = { ...this.level.residuals, scalars: [...this.level.residuals.scalars] };
    const size = residuals.xMomentum + residuals.yMomentum + residuals.scalars.reduce((s, r) => s + r, 0);
    if (this.iterations <= 3) this.first = Math.max(this.first, size);
    this.relative = size / this.first;
    if (this.guard(size)) return residuals;
    if (this.mixer && this.iterations > 1) {
      this.mixer.mix(this.x, this.g);
      this.unpack(this.g);
    }
    return residuals;
  }

  /** Keeps the best iterate; on a stall or a blow-up goes back to it, gives up the coarsest level and forgets the window. */
  private guard(residual: number): boolean {
    if (residual < this.bestResidual) {
      this.bestResidual = residual;
      this.best.set(this.g);
      if (residual < 0.5 * this.lastGain) {
        this.lastGain = residual;
        this.lastGainAt = this.iterations;
      }
    }
    // A start may still rise a little; a thousandfold rise or no number at all is a failure at any time.
    const blownUp = !(residual < Math.max(ROUNDING, (this.iterations > 3 ? 20 : 1000) * this.bestResidual));
    const stalled = this.iterations - this.lastGainAt > STALL_AFTER && residual > ROUNDING / 100;
    if (!blownUp && !stalled) return false;
    if (this.cycle.depth <= 1 && !blownUp) return false;
    this.failures++;
    this.goBack(this.best);
    this.cycle.dropCoarsest();
    this.lastGainAt = this.iterations;
    return true;
  }

  /** Takes the last cycle back and goes on without the coarsest level; false when there is none to give up. */
  retreat(): boolean {
    if (this.exhausted) return false;
    this.failures++;
    this.goBack(this.x);
    this.cycle.dropCoarsest();
    this.bestResidual = Number.POSITIVE_INFINITY;
    this.lastGain = Number.POSITIVE_INFINITY;
    this.lastGainAt = this.iterations;
    return true;
  }

  private goBack(to: Float64Array): void {
    this.unpack(to);
    this.mixer?.reset();
    for (const q of this.level.scalars) q.forgetSlopes();
    this.calm();
  }

  /** Every failure makes the steps of the smoother smaller; what comes out does not depend on them. */
  private calm(): void {
    for (const level of this.levels) level.calm(CALMER ** this.failures);
  }

  private pack(into: Float64Array): void {
    let at = 0;
    for (const part of this.parts) {
      into.set(part, at);
      at += part.length;
    }
  }

  private unpack(from: Float64Array): void {
    let at = 0;
    for (const part of this.parts) {
      part.set(from.subarray(at, at + part.length));
      at += part.length;
    }
  }

  private slopes(): Float64Array[] {
    return this.level.scalars.flatMap((q) => [...q.slope]);
  }

  /** Everything later iterations depend on. */
  save(): Checkpoint {
    this.pack(this.x);
    const { iterations, failures, relative, bestResidual, lastGain, lastGainAt, first } = this;
    return {
      counters: [iterations, failures, relative, bestResidual, lastGain, lastGainAt, first],
      depth: this.cycle.depth,
      now: this.x.slice(),
      best: this.best.slice(),
      slopes: this.slopes().map((s) => s.slice()),
      window: this.mixer?.save() ?? null,
    };
  }

  restore(saved: Checkpoint): void {
    [this.iterations, this.failures, this.relative, this.bestResidual, this.lastGain, this.lastGainAt, this.first] = saved.counters as number[];
    this.calm();
    while (this.cycle.depth > (saved.depth as number)) this.cycle.dropCoarsest();
    this.unpack(saved.now as Float64Array);
    this.best.set(saved.best as Float64Array);
    this.slopes().forEach((s, k) => {
      s.set((saved.slopes as Float64Array[])[k]);
    });
    if (saved.window) this.mixer?.restore(saved.window as Checkpoint);
  }
}
