import { coarser, type LevelTransfer } from "../../mesh/agglomerate.ts";
import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { type BoundaryState, coarseBoundary } from "../discrete/boundaryConditions.ts";
import type { FlowGeometry } from "../discrete/flowGeometry.ts";
import { flowGeometry } from "../discrete/flowGeometry.ts";
import { kernelArena } from "../kernels/arena.ts";
import type { ConvectionScheme } from "../kernels/schemes.ts";
import type { CellField, Checkpoint, SimulationReport, SimulationState } from "../simulation.ts";
import { buoyantLayerM, longestCellM } from "./buoyantLayer.ts";
import { FlowLevel } from "./flowLevel.ts";
import type { FlowPhysics } from "./flowPhysics.ts";
import { arenaBytes, LaminarFlow } from "./laminarFlow.ts";
import { levelScratch, scratchRoom } from "./levelScratch.ts";
import { MultigridCycle } from "./multigridCycle.ts";
import { NestedSolver, SolverStore } from "./nestedSolver.ts";
import { prolong } from "./prolongation.ts";

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

/** One entry of the record: residuals of the finest mesh after an iteration. */
export type IterationReport = SimulationReport;

const RELAXATION = 0.8;
/** where temperature drives the flow that carries it, larger steps set the two against each other */
const RELAXATION_BUOYANT = 0.45;
/** layers of buoyancy that a cell of a coarse level may span: coarser ones misrepresent the flow so far that their corrections do harm */
const LAYERS_ACROSS = 3.2;
const COARSE_START_ORDERS = 1.5;
const COARSE_START_ITERATIONS = 12;
/** residual over its largest that a coarse start must have come below */
const USEFUL_START = 0.3;
const REST_ITERATIONS = 3;
const UNSOUND = 1e8;
const SETTLED = 1e-5;
/** transported quantities need a few more iterations from rest before they show their level */
const REST_ITERATIONS_SCALARS = 10;

/** Steady laminar flow, advanced iteration by iteration: see `Simulation`. */
export class SteadyFlow extends LaminarFlow {
  /** residuals of the finest mesh at rest: the level a drop is counted from */
  readonly starts: readonly number[];
  readonly history: IterationReport[] = [];
  /** iterations spent on coarser meshes on the way up */
  coarseIterations = 0;

  private readonly geometries: FlowGeometry[];
  private readonly transfers: LevelTransfer[];
  private readonly boundaries: BoundaryState[] = [];
  private readonly cycle: MultigridCycle;
  private readonly store: SolverStore;
  private solver: NestedSolver;
  private climb: number;

  constructor(
    mesh: FaceMesh,
    physics: FlowPhysics,
    private readonly options: SteadyFlowOptions,
  ) {
    const nested = nestedGeometries(mesh, physics, options.multigrid);
    const room = scratchRoom(nested.geometries[0]);
    super(mesh, physics, nested.geometries[0], levelOptions(physics, options.scheme), levelScratch(room, nested.geometries[0]));
    this.geometries = nested.geometries;
    this.transfers = nested.transfers;
    this.boundaries.push(this.finest.boundary);
    this.transfers.forEach((t, k) => {
      this.boundaries.push(coarseBoundary(this.geometries[k].mesh, this.boundaries[k], this.geometries[k + 1].mesh, t.face));
    });
    this.starts = this.measureRest(this.finest);
    this.finest.toRest();
    const coarse = this.geometries.slice(1).map((g, k) => {
      return new FlowLevel(g, physics, levelOptions(physics, options.scheme, true), this.boundaries[k + 1], levelScratch(room, g));
    });
    this.cycle = new MultigridCycle([this.finest, ...coarse], this.transfers);
    this.store = new SolverStore(this.geometries[0].arena);
    // The finest first, whose storage the coarser ones share on the way up.
    this.solver = this.build(0);
    this.climb = options.coarseToFine ? this.geometries.length - 1 : 0;
    // A handful of cells is cheaper to skip than to climb through.
    while (this.climb > 1 && this.geometries[this.climb].cells < 64) this.climb--;
    if (this.climb > 0) {
      this.solver = this.build(this.climb);
      this.state = "climbing";
    }
  }

  private measureRest(level: FlowLevel): number[] {
    level.toRest();
    const count = level.scalars.length ? REST_ITERATIONS_SCALARS : REST_ITERATIONS;
    const top = this.residualNames.map(() => 1e-300);
    for (let k = 0; k < count; k++) {
      level.smooth();
      // Before the first step nothing moves and there is no scale to divide by.
      if (k === 0) continue;
      this.scaled(level.residuals).forEach((r, i) => {
        top[i] = Math.max(top[i], r);
      });
    }
    // Components share their scale, so the larger start counts for both.
    const momentum = Math.max(top[0], top[1]);
    return [momentum, momentum, ...top.slice(2)];
  }

  /** A solver whose finest level is `from`; any but the finest mesh then begins at rest. */
  private build(from: number): NestedSolver {
    const level = this.cycle.levels[from];
    if (from > 0) {
      level.toRest();
      for (const q of level.scalars) q.forgetSlopes();
    }
    return new NestedSolver(this.cycle, from, this.options.window, this.store);
  }

  get climbing(): { cells: number; left: number } | undefined {
    return this.state === "climbing" ? { cells: this.geometries[this.climb].cells, left: this.climb } : undefined;
  }

  get iterations(): number {
    return this.history.length;
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
    const entry = { iteration: this.history.length + 1, residuals };
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
    // A coarse mesh on which the flow did not come to anything is no start: the finer one then begins at rest.
    if (solver.relative < USEFUL_START && solver.failures === 0) prolong(solver.level, next.level, this.transfers[finer]);
    this.solver = next;
    this.climb = finer;
    if (finer === 0) this.state = "running";
  }

  private judge(entry: IterationReport, failuresBefore: number): void {
    const worst = Math.max(...entry.residuals.map((r, k) => r / this.starts[k]));
    const unsound = !(worst < UNSOUND);
    // The solver has gone back to its best state and given up a level; only when none is left there is no way on.
    const lost = this.solver.failures > failuresBefore;
    if (unsound && !lost && this.solver.retreat()) return;
    if ((unsound && !lost) || (this.solver.exhausted && lost)) {
      // Far down, where rounding stirs the residuals, there is no way on either, but nothing is wrong with what was reached.
      if (this.solver.relative < SETTLED) this.finish("reached-limit");
      else this.state = "diverged";
      return;
    }
    // A flow that is exact from the start, such as a box at rest, never falls: round-off counts as reached.
    if (this.medianReached()) this.finish("reached-target");
    else if (entry.iteration >= this.options.maxIterations) this.finish("reached-limit");
  }

  /** The target must hold for the median of the last tenth of the record, which is what a drop is judged by. */
  private medianReached(): boolean {
    const n = this.history.length;
    if (n < 4) return false;
    const tail = this.history.slice(n - Math.max(2, Math.ceil(n / 10)));
    const limit = 10 ** -this.options.dropOrders;
    return this.starts.every((start, k) => {
      const values = tail.map((e) => e.residuals[k]).sort((a, b) => a - b);
      return values[Math.floor(values.length / 2)] <= limit * start || values[values.length - 1] < 1e-14;
    });
  }

  save(): Checkpoint {
    return {
      state: this.state,
      climb: this.climb,
      coarseIterations: this.coarseIterations,
      history: Float64Array.from(this.history.flatMap((e) => e.residuals)),
      solver: this.solver.save(),
      boundaryFlux: this.finest.flux.slice(this.mesh.joinCount),
    };
  }

  restore(saved: Checkpoint): void {
    const climb = saved.climb as number;
    if (climb !== this.climb) this.solver = this.build(climb);
    this.climb = climb;
    this.state = saved.state as SimulationState;
    this.coarseIterations = saved.coarseIterations as number;
    const flat = saved.history as Float64Array;
    const width = this.residualNames.length;
    this.history.length = 0;
    for (let k = 0; k < flat.length / width; k++) {
      this.history.push({ iteration: k + 1, residuals: Array.from(flat.subarray(k * width, (k + 1) * width)) });
    }
    this.finest.flux.set(saved.boundaryFlux as Float64Array, this.mesh.joinCount);
    this.solver.restore(saved.solver as Checkpoint);
  }

  startFrom(mesh: FaceMesh, fields: readonly CellField[]): void {
    this.take(mesh, fields);
    this.climb = 0;
    this.solver = this.build(0);
    this.state = "running";
  }

  get memoryBytes(): number {
    return this.geometries[0].arena.usedBytes;
  }
}

/** The mesh and its nested coarser ones, with what lies between them, all in one arena. */
function nestedGeometries(mesh: FaceMesh, physics: FlowPhysics, multigrid: boolean): { geometries: FlowGeometry[]; transfers: LevelTransfer[] } {
  const arena = kernelArena(arenaBytes(mesh, physics.scalars?.length ?? 0));
  const longest = LAYERS_ACROSS * buoyantLayerM(mesh, physics);
  const geometries = [flowGeometry(mesh, false, arena)];
  const transfers: LevelTransfer[] = [];
  for (let next = multigrid ? coarser(mesh) : undefined; next && longestCellM(next.mesh) <= longest; next = coarser(next.mesh)) {
    transfers.push(next.transfer);
    geometries.push(flowGeometry(next.mesh, true, arena));
  }
  return { geometries, transfers };
}

/** Central differences can fail outright on the coarsest meshes; what a coarse level computes only guides the finest. */
function levelOptions({ scalars }: FlowPhysics, scheme: ConvectionScheme, coarse = false) {
  const relaxation = scalars?.some((q) => q.buoyancy) ? RELAXATION_BUOYANT : RELAXATION;
  return { scheme: coarse && scheme !== "upwind" ? ("linear-upwind" as const) : scheme, relaxation };
}
