import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { flowGeometry } from "../discrete/flowGeometry.ts";
import { kernelArena } from "../kernels/arena.ts";
import type { ConvectionScheme } from "../kernels/schemes.ts";
import type { CellField, Checkpoint, SimulationReport, SimulationState } from "../simulation.ts";
import type { FlowPhysics } from "./flowPhysics.ts";
import { arenaBytes, LaminarFlow } from "./laminarFlow.ts";

export interface TransientFlowOptions {
  readonly scheme: ConvectionScheme;
  readonly endTimeS: number;
  /** longest step, s */
  readonly longestStepS: number;
  /** largest flux through a cell during a step, in volumes of the cell */
  readonly courant: number;
  /** orders every residual is to fall within a step */
  readonly dropOrders: number;
  readonly maxIterations: number;
}

const RELAXATION = 0.97;
const MOST_SWEEPS = 30;
/** a step grows by no more than this over the one before */
const GROWTH = 1.2;
const UNSOUND = 1e8;

interface Past {
  readonly u: Float64Array;
  readonly v: Float64Array;
  /** face flux less the interpolated velocity's */
  readonly flux: Float64Array;
  readonly scalars: Float64Array[];
}

/**
 * Laminar flow in time: second-order backward differences with variable steps, every step iterated until it is solved.
 * The first step is of first order, which leaves the whole at second order.
 * @source Hairer & Wanner, Solving Ordinary Differential Equations II, ch. III.5 (variable-step BDF2).
 */
export class TransientFlow extends LaminarFlow {
  readonly starts: readonly number[];
  readonly climbing = undefined;
  reason?: string;
  timeS = 0;
  steps = 0;
  private stepS = 0;
  private readonly now: Past;
  private readonly before: Past;
  private readonly term: { rate: number; u: Float64Array; v: Float64Array; flux: Float64Array; scalars: Float64Array[] };

  constructor(
    mesh: FaceMesh,
    physics: FlowPhysics,
    private readonly options: TransientFlowOptions,
  ) {
    if (!(options.endTimeS > 0 && options.longestStepS > 0 && options.courant > 0)) {
      throw new RangeError("End time, longest step and Courant number must be positive.");
    }
    const geometry = flowGeometry(mesh, false, kernelArena(arenaBytes(mesh, physics.scalars?.length ?? 0)));
    super(mesh, physics, geometry, { scheme: options.scheme, relaxation: RELAXATION });
    const level = this.finest;
    this.starts = this.residualNames.map(() => 1);
    const { cells, faces, arena } = level.geometry;
    const past = (): Past => ({
      u: arena.float64(cells),
      v: arena.float64(cells),
      flux: arena.float64(faces),
      scalars: level.scalars.map(() => new Float64Array(cells)),
    });
    this.now = past();
    this.before = past();
    this.term = { rate: 0, ...past() };
    this.settleStart();
  }

  /** Makes the beginning free of sources by one projection, so that the first step starts from a flow that closes. */
  private settleStart(): void {
    this.finest.project();
    this.remember(this.now);
    this.before.u.set(this.now.u);
    this.before.v.set(this.now.v);
    this.before.flux.set(this.now.flux);
    this.now.scalars.forEach((q, k) => {
      this.before.scalars[k].set(q);
    });
  }

  get iterations(): number {
    return this.steps;
  }

  /** Copies the present fields; the flux part is what interpolation does not give. */
  private remember(into: Past): void {
    const level = this.finest;
    into.u.set(level.u);
    into.v.set(level.v);
    level.scalars.forEach((q, k) => {
      into.scalars[k].set(q.q);
    });
    level.velocityGradients();
    level.interpolatedVelocity(into.flux);
    for (let f = 0; f < into.flux.length; f++) into.flux[f] = level.flux[f] - into.flux[f];
  }

  /** Longest step the limits allow, s. */
  private nextStep(): number {
    const { cells, joins, faces, owner, neighbour, volume } = this.finest.geometry;
    const out = new Float64Array(cells);
    for (let f = 0; f < faces; f++) {
      const F = this.finest.flux[f];
      if (F > 0) out[owner[f]] += F;
      else if (f < joins) out[neighbour[f]] -= F;
    }
    let step = this.options.longestStepS;
    for (let c = 0; c < cells; c++) if (out[c] > 0) step = Math.min(step, (this.options.courant * volume[c]) / out[c]);
    if (this.steps > 0) step = Math.min(step, GROWTH * this.stepS);
    const left = this.options.endTimeS - this.timeS;
    // The last steps share what is left, so that none of them is tiny.
    return step >= left ? left : 2 * step > left ? left / 2 : step;
  }

  advance(): SimulationReport | undefined {
    if (this.state !== "running") return undefined;
    const step = this.nextStep();
    const order2 = this.steps > 0;
    const w = order2 ? step / this.stepS : 0;
    const rate = order2 ? (1 + 2 * w) / ((1 + w) * step) : 1 / step;
    const b1 = order2 ? -(1 + w) / step : -1 / step;
    const b2 = order2 ? (w * w) / ((1 + w) * step) : 0;
    const { term, now, before, finest } = this;
    term.rate = rate;
    const blend = (out: Float64Array, a: Float64Array, b: Float64Array) => {
      for (let i = 0; i < out.length; i++) out[i] = b1 * a[i] + b2 * b[i];
    };
    blend(term.u, now.u, before.u);
    blend(term.v, now.v, before.v);
    blend(term.flux, now.flux, before.flux);
    finest.scalars.forEach((q, k) => {
      blend(term.scalars[k], now.scalars[k], before.scalars[k]);
      q.past = term.scalars[k];
    });
    finest.time = term;
    if (order2) this.extrapolate(w);
    finest.setTime(this.timeS + step);
    const residuals = this.solveStep();
    this.stepS = step;
    this.timeS += step;
    this.steps++;
    before.u.set(now.u);
    before.v.set(now.v);
    before.flux.set(now.flux);
    now.scalars.forEach((q, k) => {
      before.scalars[k].set(q);
    });
    this.remember(now);
    if (this.state === "running") {
      if (this.timeS >= this.options.endTimeS * (1 - 1e-12)) this.finish("reached-target");
      else if (this.steps >= this.options.maxIterations) this.finish("reached-limit");
    }
    return { iteration: this.steps, timeS: this.timeS, residuals };
  }

  /** The straight line through the last two times is a good first guess. */
  private extrapolate(w: number): void {
    const on = (q: Float64Array, a: Float64Array, b: Float64Array) => {
      for (let c = 0; c < q.length; c++) q[c] = a[c] + w * (a[c] - b[c]);
    };
    const { finest, now, before } = this;
    on(finest.u, now.u, before.u);
    on(finest.v, now.v, before.v);
    finest.scalars.forEach((q, k) => {
      on(q.q, now.scalars[k], before.scalars[k]);
    });
  }

  /** @returns residuals at the end of the step over the largest of its first two sweeps */
  private solveStep(): number[] {
    const target = 10 ** -this.options.dropOrders;
    const first = this.residualNames.map(() => 1e-300);
    let ratios = this.starts.slice();
    for (let k = 0; k < MOST_SWEEPS; k++) {
      this.finest.smooth();
      const [x, y, ...others] = this.scaled(this.finest.residuals);
      // Components of momentum share their start.
      const size = [Math.max(x, y), Math.max(x, y), ...others];
      if (!size.every(Number.isFinite) || Math.max(...size) > UNSOUND) {
        this.state = "diverged";
        this.reason = `The residuals grew beyond bounds at ${this.timeS.toPrecision(4)} s, step ${this.steps + 1}. Lower the Courant number, refine the mesh, or check viscosity and velocity.`;
        return size;
      }
      if (k < 2) {
        size.forEach((r, i) => {
          first[i] = Math.max(first[i], r);
        });
      }
      ratios = size.map((r, i) => (r < 1e-14 ? target : r / first[i]));
      if (k > 1 && ratios.every((r) => r <= target)) break;
    }
    return ratios;
  }

  save(): Checkpoint {
    const level = this.finest;
    const copy = (past: Past): Checkpoint => ({
      u: past.u.slice(),
      v: past.v.slice(),
      flux: past.flux.slice(),
      scalars: past.scalars.map((q) => q.slice()),
    });
    return {
      state: this.state,
      counters: [this.timeS, this.steps, this.stepS],
      u: level.u.slice(),
      v: level.v.slice(),
      p: level.p.slice(),
      flux: level.flux.slice(),
      scalars: level.scalars.map((q) => q.q.slice()),
      slopes: level.scalars.flatMap((q) => q.slope.map((s) => s.slice())),
      now: copy(this.now),
      before: copy(this.before),
    };
  }

  restore(saved: Checkpoint): void {
    const level = this.finest;
    this.state = saved.state as SimulationState;
    [this.timeS, this.steps, this.stepS] = saved.counters as number[];
    for (const name of ["u", "v", "p", "flux"] as const) level[name].set(saved[name] as Float64Array);
    level.scalars.forEach((q, k) => {
      q.q.set((saved.scalars as Float64Array[])[k]);
      q.slope.forEach((s, i) => {
        s.set((saved.slopes as Float64Array[])[2 * k + i]);
      });
    });
    for (const [past, from] of [
      [this.now, saved.now as Checkpoint],
      [this.before, saved.before as Checkpoint],
    ] as const) {
      past.u.set(from.u as Float64Array);
      past.v.set(from.v as Float64Array);
      past.flux.set(from.flux as Float64Array);
      past.scalars.forEach((q, k) => {
        q.set((from.scalars as Float64Array[])[k]);
      });
    }
    level.setTime(this.timeS);
  }

  startFrom(mesh: FaceMesh, fields: readonly CellField[]): void {
    this.take(mesh, fields);
    this.settleStart();
  }

  get memoryBytes(): number {
    const { arena, cells } = this.finest.geometry;
    // Past values of what is transported lie outside the arena, three of each.
    return arena.usedBytes + 3 * 8 * cells * this.finest.scalars.length;
  }
}
