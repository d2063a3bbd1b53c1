import type { FaceMesh } from "../../mesh/faceMesh.ts";
import type { LawReading } from "../../records/laws.ts";
import { gasLaws } from "../readings/gasLaws.ts";
import type { Checkpoint, SimulationReport, SimulationState } from "../simulation.ts";
import { soundSpeed } from "./gas.ts";
import { BOTH_SIDES, GasFlow, type GasFlowOptions } from "./gasFlow.ts";
import type { GasPhysics } from "./gasSpace.ts";
import { NewtonStep } from "./newtonStep.ts";

const NAMES = ["mass", "x momentum", "y momentum", "energy"] as const;
const FIRST_COURANT = 5;
/** most the pseudo time step grows or shrinks from one step to the next, and how strongly it follows the residual */
const GROWTH = 2;
const RESPONSE = 1.2;
const FREEZE_ORDERS = 2;
const STALL_ORDERS = 1.2;
/** a linear solution that leaves more than this was asked for too long a step */
const UNSOLVED = 0.3;
const STALL_STEPS = 12;
/** largest Mach number below which waves make a steady flow settle slowly */
const SLOW_MACH = 0.15;
/** iterations without progress after which slopes are taken back, where from, and to what share */
const SOFTEN_STEPS = 12;
const STUCK_SHARE = 0.05;
const SOFTEN = 0.25;
const LARGEST_COURANT = 1e5;
const EXPLICIT_COURANT = 1.5;
/** stage factors of the explicit steady scheme, tuned for damping. @source Lynn, PhD thesis, University of Michigan (1995) */
const STAGES = [0.1481, 0.4, 1];

/** Steady gas flow by implicit Newton steps with a growing Courant number, or explicitly with local steps. */
export class SteadyGas extends GasFlow {
  readonly residualNames = NAMES;
  readonly starts: number[] = [1e-300, 1e-300, 1e-300, 1e-300];
  private readonly newton: NewtonStep;
  private readonly sums: Float64Array;
  private courant = FIRST_COURANT;
  private lastSize = 0;
  private best = Number.POSITIVE_INFINITY;
  private bestAt = 0;
  private readonly tail: number[][] = [];

  constructor(mesh: FaceMesh, physics: GasPhysics, options: GasFlowOptions) {
    super(mesh, physics, options);
    this.newton = new NewtonStep(this.space);
    this.sums = this.space.work.float64(7);
  }

  override laws(): LawReading[] {
    return [...super.laws(), ...gasLaws(this.mesh, this.space)];
  }

  override finish(state: "reached-target" | "reached-limit" = "reached-limit"): void {
    super.finish(state);
    if (state === "reached-limit") this.reason = this.whyUnsettled();
  }

  /** What keeps a flow that was ended before its target from settling, as far as its fields tell. */
  private whyUnsettled(): string {
    const { w, residual } = this.space;
    const { cellCount, centroidM, volumeM2 } = this.mesh;
    let [fastest, worst, at] = [0, 0, 0];
    for (let c = 0; c < cellCount; c++) {
      const i = 4 * c;
      fastest = Math.max(fastest, Math.hypot(w[i + 1], w[i + 2]) / soundSpeed(this.physics.gas, w[i], w[i + 3]));
      const size = Math.abs(residual[i]) / Math.sqrt(volumeM2[c]);
      if (size > worst) [worst, at] = [size, c];
    }
    if (fastest < SLOW_MACH)
      return `The flow is almost incompressible, Mach ${fastest.toPrecision(2)} at most: waves are much faster than the flow, and a scheme for gases settles slowly. Take a template of constant density, or more iterations.`;
    const place = [centroidM[2 * at], centroidM[2 * at + 1]].map((x) => x.toPrecision(3));
    return `Not settled after ${this.steps} iterations: the residual of mass is largest at x ${place[0]} m, y ${place[1]} m. Look there for a shock or a sonic line that moves between cells; another limiter or mesh, or more iterations, may settle it.`;
  }

  advance(): SimulationReport | undefined {
    if (this.state !== "running") return undefined;
    const { space } = this;
    space.evaluate(this.frozen);
    const residuals = this.norms();
    this.steps++;
    if (this.steps <= 3) this.raiseStarts(residuals);
    // Beside a shock the limiter keeps a flow from settling long after the flow itself has: from here on it stays as it is.
    else if (this.frozen) this.softenWhereStuck(residuals);
    else this.frozen = this.limiterStands(residuals);
    const entry = { iteration: this.steps, residuals };
    this.tail.push([...residuals]);
    if (this.tail.length > Math.max(2, Math.ceil(this.steps / 10))) this.tail.shift();
    if (!residuals.every(Number.isFinite) || residuals.some((r, k) => r > 1e8 * this.starts[k])) {
      this.state = "diverged";
      this.reason = `The residuals grew beyond bounds at iteration ${this.steps}. Lower the order of the reconstruction or check the boundary values.`;
      return entry;
    }
    if (this.steps > 3 && this.reached()) {
      this.finish("reached-target");
      return entry;
    }
    if (this.steps >= this.options.maxIterations) {
      this.finish("reached-limit");
      return entry;
    }
    if (this.options.explicit) this.explicitStep();
    else this.implicitStep(residuals);
    this.unsound(space.primitiveFromConserved(), `after iteration ${this.steps}`);
    return entry;
  }

  private limiterStands(residuals: readonly number[]): boolean {
    const size = Math.max(...residuals.map((r, k) => r / this.starts[k]));
    if (size < 10 ** -FREEZE_ORDERS) return true;
    if (size < 0.8 * this.best) [this.best, this.bestAt] = [size, this.steps];
    return size < 10 ** -STALL_ORDERS && this.steps - this.bestAt > (this.options.explicit ? 100 : STALL_STEPS);
  }

  /** Takes slopes back where the residual sits when the flow does not settle with the shares it was left with: a shock then spreads over a cell more. */
  private softenWhereStuck(residuals: readonly number[]): void {
    const size = Math.max(...residuals.map((r, k) => r / this.starts[k]));
    if (size < 0.8 * this.best) [this.best, this.bestAt] = [size, this.steps];
    if (this.steps - this.bestAt <= SOFTEN_STEPS) return;
    [this.best, this.bestAt] = [Number.POSITIVE_INFINITY, this.steps];
    const { residual, share } = this.space;
    const { cellCount, joinCount, owner, neighbour, volumeM2 } = this.mesh;
    const local = new Float64Array(cellCount);
    for (let c = 0; c < cellCount; c++) local[c] = Math.abs(residual[4 * c]) / Math.sqrt(volumeM2[c]);
    const most = local.reduce((a, b) => Math.max(a, b), 0);
    const stuck = local.map((r) => (r > STUCK_SHARE * most ? 1 : 0));
    const around = stuck.slice();
    for (let f = 0; f < joinCount; f++) {
      if (stuck[owner[f]]) around[neighbour[f]] = 1;
      if (stuck[neighbour[f]]) around[owner[f]] = 1;
    }
    const width = share.length / cellCount;
    for (let c = 0; c < cellCount; c++) if (around[c]) for (let k = 0; k < width; k++) share[width * c + k] *= SOFTEN;
  }

  private raiseStarts(residuals: readonly number[]): void {
    residuals.forEach((r, k) => {
      this.starts[k] = Math.max(this.starts[k], r);
    });
    this.starts[1] = this.starts[2] = Math.max(this.starts[1], this.starts[2]);
  }

  /** The pseudo time step grows as the residual falls, and is cut back when a step had to be held back. */
  private implicitStep(residuals: readonly number[]): void {
    const size = Math.max(...residuals.map((r, k) => r / this.starts[k]));
    if (this.lastSize > 0) this.courant *= Math.min(GROWTH, Math.max(1 / GROWTH, (this.lastSize / size) ** RESPONSE));
    this.courant = Math.min(LARGEST_COURANT, Math.max(FIRST_COURANT, this.courant));
    this.lastSize = size;
    const { share, left } = this.newton.step(this.courant);
    if (share < 0.9 || left > UNSOLVED) this.courant *= Math.min(share, 0.5);
  }

  private explicitStep(): void {
    const { space } = this;
    const { conserved: u, waves, residual } = space;
    const before = u.slice();
    STAGES.forEach((stage, k) => {
      if (k > 0) space.evaluate(this.frozen);
      for (let c = 0; c < waves.length; c++) {
        const t = (stage * EXPLICIT_COURANT * BOTH_SIDES) / waves[c];
        for (let q = 0; q < 4; q++) u[4 * c + q] = before[4 * c + q] + t * residual[4 * c + q];
      }
      if (k < STAGES.length - 1) space.primitiveFromConserved();
    });
  }

  private reached(): boolean {
    const limit = 10 ** -this.options.dropOrders;
    return this.starts.every((start, k) => {
      const values = this.tail.map((row) => row[k]).sort((a, b) => a - b);
      return values[Math.floor(values.length / 2)] <= limit * start || values[values.length - 1] < 1e-13;
    });
  }

  /** Sum |residual| over the flux scale of the whole field: density, momentum and energy carried by the waves. */
  private norms(): number[] {
    const { residual, w, waves, work } = this.space;
    work.vectors.sizes(w, residual, waves, this.physics.gas.gamma, this.sums);
    const [mass, x, y, energy, ofMass, ofMomentum, ofEnergy] = this.sums;
    return [mass / ofMass, x / ofMomentum, y / ofMomentum, energy / ofEnergy];
  }

  save(): Checkpoint {
    const { space } = this;
    return {
      state: this.state,
      steps: this.steps,
      march: [this.courant, this.lastSize, this.best, this.bestAt],
      starts: [...this.starts],
      tail: this.tail.map((row) => [...row]),
      frozen: this.frozen,
      shares: space.share.slice(),
      conserved: this.space.conserved.slice(),
      w: this.space.w.slice(),
    };
  }

  restore(saved: Checkpoint): void {
    this.state = saved.state as SimulationState;
    this.steps = saved.steps as number;
    (saved.starts as number[]).forEach((s, k) => {
      this.starts[k] = s;
    });
    [this.courant, this.lastSize, this.best, this.bestAt] = saved.march as number[];
    this.frozen = saved.frozen as boolean;
    this.space.share.set(saved.shares as Float64Array);
    this.tail.splice(0, this.tail.length, ...(saved.tail as number[][]).map((row) => [...row]));
    this.space.conserved.set(saved.conserved as Float64Array);
    this.space.w.set(saved.w as Float64Array);
  }
}
