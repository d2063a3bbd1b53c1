import type { FaceMesh } from "../../mesh/faceMesh.ts";
import type { BalanceRecord, BoundaryFlux } from "../../records/balance.ts";
import type { LawReading } from "../../records/laws.ts";
import { interpolateField } from "../incompressible/prolongation.ts";
import { wallFlow } from "../readings/flowLaws.ts";
import type { CellField, Checkpoint, Simulation, SimulationReport, SimulationState } from "../simulation.ts";
import type { Limiter, RiemannFlux } from "./gas.ts";
import { SLIP, WALL } from "./gasBoundary.ts";
import { type GasPhysics, GasSpace } from "./gasSpace.ts";

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

/** two-dimensional Courant numbers are counted against the sum of wave speeds over both faces of each direction */
export const BOTH_SIDES = 2;

/** What steady and transient gas flows share. */
export abstract class GasFlow implements Simulation {
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
