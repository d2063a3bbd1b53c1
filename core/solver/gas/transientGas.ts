import type { FaceMesh } from "../../mesh/faceMesh.ts";
import type { Checkpoint, SimulationReport, SimulationState } from "../simulation.ts";
import { BOTH_SIDES, GasFlow, type GasFlowOptions } from "./gasFlow.ts";
import type { GasPhysics } from "./gasSpace.ts";

const DEFAULT_COURANT = 0.5;

/** Gas flow in time by explicit steps of the third-order strong-stability-preserving Runge-Kutta scheme. @source Shu & Osher, J. Comput. Phys. 77 (1988) 439 */
export class TransientGas extends GasFlow {
  /** explicit steps leave nothing unsolved */
  readonly residualNames: readonly string[] = [];
  readonly starts: readonly number[] = [];
  timeS = 0;
  private readonly before: Float64Array;

  constructor(mesh: FaceMesh, physics: GasPhysics, options: GasFlowOptions) {
    super(mesh, physics, options);
    if (!((options.endTimeS ?? 0) > 0)) throw new RangeError("The end time must be positive.");
    this.before = new Float64Array(this.space.conserved.length);
  }

  advance(): SimulationReport | undefined {
    if (this.state !== "running") return undefined;
    const { space, before } = this;
    const { conserved: u, waves, residual } = space;
    const { volume, cells } = space.geometry;
    const end = this.options.endTimeS ?? 0;
    space.setTime(this.timeS);
    space.evaluate();
    let step = Number.POSITIVE_INFINITY;
    for (let c = 0; c < cells; c++) step = Math.min(step, volume[c] / waves[c]);
    step *= BOTH_SIDES * (this.options.courant ?? DEFAULT_COURANT);
    const left = end - this.timeS;
    step = step >= left ? left : 2 * step > left ? left / 2 : step;
    before.set(u);
    const stages: readonly (readonly [number, number, number])[] = [
      [0, 1, 1],
      [0.75, 0.25, 0.5],
      [1 / 3, 2 / 3, 1],
    ];
    for (let s = 0; s < 3; s++) {
      const [a, b] = stages[s];
      if (s > 0) {
        space.setTime(this.timeS + stages[s - 1][2] * step);
        space.evaluate();
      }
      for (let c = 0; c < cells; c++) {
        const t = (b * step) / volume[c];
        for (let k = 4 * c; k < 4 * c + 4; k++) u[k] = a * before[k] + b * u[k] + t * residual[k];
      }
      if (this.unsound(space.primitiveFromConserved(), `at ${this.timeS.toPrecision(4)} s, step ${this.steps + 1}`)) break;
    }
    this.timeS += step;
    this.steps++;
    if (this.state === "running") {
      if (this.timeS >= end * (1 - 1e-12)) this.finish("reached-target");
      else if (this.steps >= this.options.maxIterations) this.finish("reached-limit");
    }
    return { iteration: this.steps, timeS: this.timeS, residuals: [] };
  }

  protected override stored() {
    const { residual } = this.space;
    const total = [0, 0, 0, 0];
    for (let i = 0; i < residual.length; i++) total[i & 3] += residual[i];
    return { storage: { mass: total[0], momentum: [total[1], total[2]] as const, scalars: { energy: total[3] } } };
  }

  save(): Checkpoint {
    return {
      state: this.state,
      counters: [this.timeS, this.steps],
      conserved: this.space.conserved.slice(),
      w: this.space.w.slice(),
    };
  }

  restore(saved: Checkpoint): void {
    this.state = saved.state as SimulationState;
    [this.timeS, this.steps] = saved.counters as number[];
    this.space.conserved.set(saved.conserved as Float64Array);
    this.space.w.set(saved.w as Float64Array);
  }
}
