import { coarserRectangle, type RectangleMesh } from "../mesh/rectangle.ts";
import { Anderson } from "./anderson.ts";
import { type FlowGeometry, flowGeometry } from "./flowGeometry.ts";
import { type ConvectionScheme, FlowLevel, type FlowPhysics, type LevelResiduals } from "./flowLevel.ts";
import { type LevelTransfer, nestedTransfer } from "./levelTransfer.ts";
import { MultigridCycle } from "./multigridCycle.ts";

export interface SteadyFlowOptions {
  readonly scheme: ConvectionScheme;
  /** orders of magnitude every residual is to fall from its level at rest */
  readonly dropOrders: number;
  readonly maxIterations: number;
  /** begin on the coarsest nested mesh and climb; otherwise begin at rest on the finest */
  readonly coarseToFine: boolean;
  /** use the nested meshes at all; without them each iteration is four SIMPLEC steps */
  readonly multigrid: boolean;
  /** differences remembered by the acceleration, 0 for none */
  readonly window: number;
}

export const DEFAULT_STEADY_OPTIONS: SteadyFlowOptions = {
  scheme: "central",
  dropOrders: 8,
  maxIterations: 400,
  coarseToFine: true,
  multigrid: true,
  window: 8,
};

export type SteadyFlowState = "climbing" | "running" | "reached-target" | "reached-limit" | "diverged";

/** One entry of the record: residuals of the finest mesh after an iteration. */
export interface IterationReport extends LevelResiduals {
  readonly iteration: number;
}

const RELAXATION = 0.8;
const COARSE_START_ORDERS = 1.5;
const COARSE_START_ITERATIONS = 12;
const REST_ITERATIONS = 3;
const STALL_AFTER = 12;

/**
 * Steady laminar flow on a graded rectangle, advanced in slices so that a caller can report, pause and stop between them.
 * The same mesh, physics and options give the same numbers to the last bit, in Node and in a browser.
 */
export class SteadyFlow {
  readonly finest: FlowLevel;
  /** residuals of the finest mesh at rest: the level a drop is counted from */
  readonly restLevel: Readonly<LevelResiduals>;
  readonly history: IterationReport[] = [];
  /** iterations spent on coarser meshes on the way up */
  coarseIterations = 0;
  state: SteadyFlowState = "running";

  private readonly geometries: FlowGeometry[] = [];
  private readonly transfers: LevelTransfer[] = [];
  private readonly massScale: number;
  private solver: NestedSolver;
  private climb: number;

  constructor(
    readonly mesh: RectangleMesh,
    private readonly physics: FlowPhysics,
    private readonly options: SteadyFlowOptions,
  ) {
    for (let m: RectangleMesh | undefined = mesh; m; m = options.multigrid ? coarserRectangle(m) : undefined) {
      const finer = this.geometries[this.geometries.length - 1]?.mesh as RectangleMesh | undefined;
      if (finer) this.transfers.push(nestedTransfer(finer, m));
      this.geometries.push(flowGeometry(m));
    }
    this.finest = new FlowLevel(this.geometries[0], physics, this.levelOptions());
    this.massScale = massReference(this.finest, physics);
    this.restLevel = this.measureRest(this.finest);
    this.finest.toRest();
    this.climb = options.coarseToFine ? this.geometries.length - 1 : 0;
    // A handful of cells is cheaper to skip than to climb through.
    while (this.climb > 1 && this.geometries[this.climb].cells < 64) this.climb--;
    this.solver = this.build(this.climb);
    if (this.climb > 0) this.state = "climbing";
  }

  private levelOptions(coarse = false) {
    // Central differences can fail outright on the coarsest meshes; what a coarse level computes only guides the finest.
    const scheme: ConvectionScheme = coarse && this.options.scheme === "central" ? "linear-upwind" : this.options.scheme;
    return { scheme, relaxation: RELAXATION };
  }

  private measureRest(level: FlowLevel): LevelResiduals {
    const top: LevelResiduals = { xMomentum: 1e-300, yMomentum: 1e-300, mass: 1e-300 };
    for (let k = 0; k < REST_ITERATIONS; k++) {
      level.smooth();
      // Before the first step nothing moves and there is no scale to divide by.
      if (k === 0) continue;
      const now = this.scaled(level.residuals);
      top.xMomentum = Math.max(top.xMomentum, now.xMomentum);
      top.yMomentum = Math.max(top.yMomentum, now.yMomentum);
      top.mass = Math.max(top.mass, now.mass);
    }
    return top;
  }

  private scaled(r: LevelResiduals): LevelResiduals {
    return { xMomentum: r.xMomentum, yMomentum: r.yMomentum, mass: r.mass / this.massScale };
  }

  /** A solver whose finest level is `from`. */
  private build(from: number): NestedSolver {
    const levels = this.geometries
      .slice(from)
      .map((g, k) => (from + k === 0 ? this.finest : new FlowLevel(g, this.physics, this.levelOptions(from + k > 0))));
    return new NestedSolver(levels, this.transfers.slice(from), this.options.window);
  }

  /** Progress through the coarser meshes, for showing: level now solved and how many are left. */
  get climbing(): { cells: number; left: number } | undefined {
    return this.state === "climbing" ? { cells: this.geometries[this.climb].cells, left: this.climb } : undefined;
  }

  /** Runs one iteration, on whichever mesh is due; returns its entry when it belongs to the finest. */
  advance(): IterationReport | undefined {
    if (this.state === "climbing") {
      this.climbOnce();
      return undefined;
    }
    if (this.state !== "running") return undefined;
    const before = this.solver.failures;
    const residuals = this.scaled(this.solver.iterate());
    const entry = { iteration: this.history.length + 1, ...residuals };
    this.history.push(entry);
    this.judge(entry, before);
    return entry;
  }

  private climbOnce(): void {
    const solver = this.solver;
    solver.iterate();
    this.coarseIterations++;
    if (solver.relative > 10 ** -COARSE_START_ORDERS && solver.iterations < COARSE_START_ITERATIONS) return;
    const finer = this.climb - 1;
    const next = this.build(finer);
    // A coarse mesh on which the flow blew up is no start: the finer one then begins at rest.
    if (Number.isFinite(solver.relative)) carryUp(solver.level, next.level, this.transfers[finer]);
    this.solver = next;
    this.climb = finer;
    if (finer === 0) this.state = "running";
  }

  private judge(entry: IterationReport, failuresBefore: number): void {
    const { xMomentum, yMomentum, mass } = this.restLevel;
    // Components share their scale, so the larger start counts for both.
    const momentum = Math.max(xMomentum, yMomentum);
    const worst = Math.max(entry.xMomentum / momentum, entry.yMomentum / momentum, entry.mass / mass);
    if (!Number.isFinite(worst) || worst > 1e8 || (this.solver.exhausted && this.solver.failures > failuresBefore)) {
      this.state = "diverged";
      return;
    }
    // A flow that is exact from the start, such as a box at rest, never falls: round-off counts as reached.
    if (this.medianReached(momentum, mass)) this.finish("reached-target");
    else if (entry.iteration >= this.options.maxIterations) this.finish("reached-limit");
  }

  /** The target must hold for the median of the last tenth of the record, which is what a drop is judged by. */
  private medianReached(momentum: number, mass: number): boolean {
    const n = this.history.length;
    const tail = this.history.slice(n - Math.max(2, Math.ceil(n / 10)));
    if (n < 4) return false;
    const limit = 10 ** -this.options.dropOrders;
    const fine = (values: number[], start: number) =>
      values.sort((a, b) => a - b)[Math.floor(values.length / 2)] <= limit * start || Math.max(...values) < 1e-14;
    return (
      fine(
        tail.map((e) => e.xMomentum),
        momentum,
      ) &&
      fine(
        tail.map((e) => e.yMomentum),
        momentum,
      ) &&
      fine(
        tail.map((e) => e.mass),
        mass,
      )
    );
  }

  /** Ends the run here, as a person who stops it would: fields are kept, mass is closed. */
  finish(state: "reached-target" | "reached-limit" = "reached-limit"): void {
    this.state = state;
    this.finest.closeMass();
    this.finest.evaluate();
  }
}

/** Multigrid cycles with acceleration and a way back when they stall. */
class NestedSolver {
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

  constructor(levels: FlowLevel[], transfers: readonly LevelTransfer[], window: number) {
    this.cycle = new MultigridCycle([...levels], transfers);
    const level = levels[0];
    this.level = level;
    const flux = level.outletFaces.length > 0 ? level.flux : level.flux.subarray(0, level.geometry.joins);
    this.parts = [level.u, level.v, level.p, flux];
    const size = this.parts.reduce((sum, part) => sum + part.length, 0);
    [this.x, this.g, this.best] = [0, 1, 2].map(() => new Float64Array(size));
    this.mixer = window > 0 ? new Anderson(size, 3 * level.geometry.cells, window) : undefined;
  }

  readonly level: FlowLevel;

  /** No coarser level is left to give up. */
  get exhausted(): boolean {
    return this.cycle.depth <= 1;
  }

  iterate(): LevelResiduals {
    this.pack(this.x);
    this.cycle.run();
    this.pack(this.g);
    this.iterations++;
    const residuals = { ...this.level.residuals };
    const size = residuals.xMomentum + residuals.yMomentum;
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
    const blownUp = !(residual < 20 * this.bestResidual) && this.iterations > 3;
    const stalled = this.iterations - this.lastGainAt > STALL_AFTER && residual > 1e-13;
    if (!blownUp && !stalled) return false;
    if (this.exhausted && !blownUp) return false;
    this.failures++;
    this.unpack(this.best);
    this.mixer?.reset();
    this.cycle.dropCoarsest();
    this.lastGainAt = this.iterations;
    return true;
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
}

/** What mass imbalance is measured against: the inflow, or for closed boxes the largest boundary speed times half the perimeter's root area. */
function massReference(level: FlowLevel, physics: FlowPhysics): number {
  const { joins, faces } = level.geometry;
  let inflow = 0;
  let speed = 0;
  for (let f = joins; f < faces; f++) {
    const b = f - joins;
    inflow += Math.max(0, -level.boundary.flux[b]);
    speed = Math.max(speed, Math.hypot(level.boundary.u[b], level.boundary.v[b]));
  }
  if (inflow > 0) return inflow;
  let volume = 0;
  for (const v of level.geometry.volume) volume += v;
  const length = Math.sqrt(volume);
  const driven = (Math.hypot(...physics.bodyForce) * length * length) / (12 * physics.kinematicViscosity);
  return length * Math.max(speed, driven, 1e-300);
}

/** Starts a finer level from a coarser one's fields with their slopes; fluxes by interpolation. */
function carryUp(coarse: FlowLevel, fine: FlowLevel, transfer: LevelTransfer): void {
  coarse.evaluate();
  const scratch: [Float64Array, Float64Array] = [new Float64Array(coarse.geometry.cells), new Float64Array(coarse.geometry.cells)];
  coarse.pressureGradient(coarse.p, coarse.boundary.p, scratch);
  const fineAt = fine.geometry.mesh.centroidM;
  const coarseAt = coarse.geometry.mesh.centroidM;
  const carry = (q: Float64Array, [gx, gy]: [Float64Array, Float64Array], out: Float64Array) => {
    for (let i = 0; i < out.length; i++) {
      const k = transfer.cell[i];
      out[i] = q[k] + gx[k] * (fineAt[2 * i] - coarseAt[2 * k]) + gy[k] * (fineAt[2 * i + 1] - coarseAt[2 * k + 1]);
    }
  };
  carry(coarse.u, coarse.slopes.u, fine.u);
  carry(coarse.v, coarse.slopes.v, fine.v);
  carry(coarse.p, scratch, fine.p);
  const { joins, owner, neighbour, weight, sx, sy } = fine.geometry;
  for (let f = 0; f < joins; f++) {
    const w = weight[f];
    fine.flux[f] = (w * fine.u[owner[f]] + (1 - w) * fine.u[neighbour[f]]) * sx[f] + (w * fine.v[owner[f]] + (1 - w) * fine.v[neighbour[f]]) * sy[f];
  }
  for (const f of fine.outletFaces) fine.flux[f] = fine.u[owner[f]] * sx[f] + fine.v[owner[f]] * sy[f];
}
