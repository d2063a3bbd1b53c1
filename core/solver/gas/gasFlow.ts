import type { FaceMesh } from "../../mesh/faceMesh.ts";
import type { BalanceRecord, BoundaryFlux } from "../../records/balance.ts";
import type { LawReading } from "../../records/laws.ts";
import { interpolateField } from "../incompressible/carry.ts";
import { wallFlow } from "../readings/flowLaws.ts";
import { gasLaws } from "../readings/gasLaws.ts";
import type { CellField, Checkpoint, Simulation, SimulationReport, SimulationState } from "../simulation.ts";
import { type Limiter, type RiemannFlux, soundSpeed } from "./gas.ts";
import { SLIP, WALL } from "./gasBoundary.ts";
import { type GasPhysics, GasSpace } from "./gasSpace.ts";
import { NewtonStep } from "./newtonStep.ts";

export interface GasFlowOptions {
  readonly riemannFlux: RiemannFlux;
  readonly limiter: Limiter;
  readonly maxIterations: number;
  /** steady: orders every residual is to fall */
  readonly dropOrders: number;
  /** steady: implicit steps (preset) or explicit local ones */
  readonly explicit?: boolean;
  /** transient: end, s, and Courant number of the explicit steps */
  readonly endTimeS?: number;
  readonly courant?: number;
}

const NAMES = ["mass", "x momentum", "y momentum", "energy"] as const;
/** two-dimensional Courant numbers are counted against the sum of wave speeds over both faces of each direction */
const BOTH_SIDES = 2;

/** What steady and transient gas flows share. */
abstract class GasFlow implements Simulation {
  readonly space: GasSpace;
  readonly climbing = undefined;
  abstract readonly residualNames: readonly string[];
  abstract readonly starts: readonly number[];
  state: SimulationState = "running";
  reason?: string;
  steps = 0;
  protected frozen = false;

  constructor(
    readonly mesh: FaceMesh,
    readonly physics: GasPhysics,
    protected readonly options: GasFlowOptions,
  ) {
    this.space = new GasSpace(mesh, physics, options.riemannFlux, options.limiter);
  }

  get iterations(): number {
    return this.steps;
  }

  abstract advance(): SimulationReport | undefined;
  abstract save(): Checkpoint;
  abstract restore(saved: Checkpoint): void;

  /** Ends the run with the reason, when a cell is no gas any more. */
  protected unsound(cell: number, when: string): boolean {
    if (cell < 0) return false;
    const { w } = this.space;
    const at = [this.mesh.centroidM[2 * cell], this.mesh.centroidM[2 * cell + 1]].map((x) => x.toPrecision(3));
    const what = w[4 * cell] > 0 ? `pressure ${w[4 * cell + 3].toPrecision(3)} Pa` : `density ${w[4 * cell].toPrecision(3)} kg/m3`;
    this.state = "diverged";
    this.reason = `${what[0].toUpperCase()}${what.slice(1)} at x ${at[0]} m, y ${at[1]} m ${when}. Lower the Courant number, take the first-order reconstruction first, or check the states given.`;
    return true;
  }

  finish(state: "reached-target" | "reached-limit" = "reached-limit"): void {
    this.state = state;
    this.space.evaluate(this.frozen);
  }

  fields(): CellField[] {
    const { w } = this.space;
    const take = (k: number) => Float64Array.from({ length: w.length / 4 }, (_, c) => w[4 * c + k]);
    const { gasConstant } = this.physics.gas;
    const [density, pressure] = [take(0), take(3)];
    return [
      { name: "u", unit: "m/s", values: take(1) },
      { name: "v", unit: "m/s", values: take(2) },
      { name: "p", unit: "Pa", values: pressure },
      { name: "density", unit: "kg/m^3", values: density },
      { name: "temperature", unit: "K", values: pressure.map((p, c) => p / (density[c] * gasConstant)) },
    ];
  }

  balance(): BalanceRecord {
    const { out, wallPressure, faces } = this.space;
    const { joinCount } = this.mesh;
    const { gamma } = this.physics.gas;
    let momentumReference = 0;
    let energyReference = 0;
    const boundaries: BoundaryFlux[] = this.mesh.boundaries.map((b) => {
      const sum = [0, 0, 0, 0];
      const push = [0, 0];
      for (let f = b.start; f < b.start + b.count; f++) {
        const k = f - joinCount;
        for (let q = 0; q < 4; q++) sum[q] += out[4 * k + q];
        const area = faces.normal[3 * f + 2];
        const c = 4 * this.mesh.owner[f];
        momentumReference += wallPressure[k] * area;
        energyReference += wallPressure[k] * area * Math.sqrt((gamma * this.space.w[c + 3]) / this.space.w[c]);
        push[0] += wallPressure[k] * faces.normal[3 * f] * area;
        push[1] += wallPressure[k] * faces.normal[3 * f + 1] * area;
      }
      return {
        name: b.name,
        ...(b.count > 0 && [SLIP, WALL].includes(this.space.boundary.type[b.start - joinCount]) ? { closed: true } : {}),
        mass: sum[0],
        momentumX: [sum[1] - push[0], push[0], 0],
        ...(this.mesh.hoopM2 ? {} : { momentumY: [sum[2] - push[1], push[1], 0] as const }),
        scalars: { energy: [sum[3], 0] },
      };
    });
    const made = this.space.sourceTotals();
    return {
      boundaries,
      momentumReference,
      scalarReference: { energy: energyReference },
      ...(made ? { sources: { mass: made[0], energy: made[3] }, bodyForce: [made[1], made[2]] as const } : {}),
      ...this.stored(),
    };
  }

  laws(): LawReading[] {
    return wallFlow(this.balance());
  }

  /** What flows in and is stored per second, in a flow that is still changing by design. */
  protected stored(): Pick<BalanceRecord, "storage"> {
    return {};
  }

  startFrom(mesh: FaceMesh, fields: readonly CellField[]): void {
    const { w } = this.space;
    ["density", "u", "v", "p"].forEach((name, k) => {
      const field = fields.find((f) => f.name === name);
      if (!field) return;
      const values = interpolateField(mesh, field.values, this.mesh);
      const least = field.values.reduce((a, b) => Math.min(a, b));
      // Beside shocks a slope may lead out of what a gas can be.
      for (let c = 0; c < values.length; c++) w[4 * c + k] = k === 0 || k === 3 ? Math.max(values[c], least) : values[c];
    });
    this.space.conservedFromPrimitive();
  }

  get memoryBytes(): number {
    const { cells, faces } = this.space.geometry;
    return 8 * (cells * 52 + faces * 36);
  }
}

const FIRST_COURANT = 5;
/** most the pseudo time step grows or shrinks from one step to the next, and how strongly it follows the residual */
const GROWTH = 2;
const RESPONSE = 1.2;
const FREEZE_ORDERS = 2;
const STALL_ORDERS = 1.2;
/** a linear solution that leaves more than this was asked for too long a step */
const UNSOLVED = 0.3;
const STALL_STEPS = 12;
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
  private courant = FIRST_COURANT;
  private lastSize = 0;
  private best = Number.POSITIVE_INFINITY;
  private bestAt = 0;
  private readonly tail: number[][] = [];

  constructor(mesh: FaceMesh, physics: GasPhysics, options: GasFlowOptions) {
    super(mesh, physics, options);
    this.newton = new NewtonStep(this.space);
  }

  override laws(): LawReading[] {
    return [...super.laws(), ...gasLaws(this.mesh, this.space)];
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
    const { residual, w, waves } = this.space;
    const { gamma } = this.physics.gas;
    const sum = [0, 0, 0, 0];
    const scale = [0, 0, 0, 0];
    for (let c = 0; c < waves.length; c++) {
      const i = 4 * c;
      const sound = soundSpeed(this.physics.gas, w[i], w[i + 3]);
      for (let k = 0; k < 4; k++) sum[k] += Math.abs(residual[i + k]);
      scale[0] += waves[c] * w[i];
      scale[1] += waves[c] * w[i] * sound;
      scale[3] += (waves[c] * w[i + 3]) / (gamma - 1);
    }
    scale[2] = scale[1];
    return sum.map((s, k) => s / scale[k]);
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
