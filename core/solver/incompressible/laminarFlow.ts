import type { FaceMesh } from "../../mesh/faceMesh.ts";
import type { BalanceRecord } from "../../records/balance.ts";
import type { LawReading } from "../../records/laws.ts";
import type { FlowGeometry } from "../discrete/flowGeometry.ts";
import type { ConvectionScheme } from "../kernels/schemes.ts";
import { flowBalance } from "../readings/flowBalance.ts";
import { totalPressureLaw, wallFlow } from "../readings/flowLaws.ts";
import type { CellField, Checkpoint, Simulation, SimulationReport, SimulationState } from "../simulation.ts";
import { FlowLevel } from "./flowLevel.ts";
import type { FlowPhysics, LevelResiduals } from "./flowPhysics.ts";
import type { LevelScratch } from "./levelScratch.ts";
import { fluxesFromVelocity, interpolateField } from "./prolongation.ts";

/** What steady and transient laminar flow of constant density share, plane and revolved alike. */
export abstract class LaminarFlow implements Simulation {
  readonly finest: FlowLevel;
  readonly residualNames: readonly string[];
  abstract readonly starts: readonly number[];
  state: SimulationState = "running";
  /** what mass imbalance is measured against, m^2/s (per radian m^3/s on revolved meshes) */
  private readonly massScale: number;

  constructor(
    readonly mesh: FaceMesh,
    readonly physics: FlowPhysics,
    geometry: FlowGeometry,
    numerics: { readonly scheme: ConvectionScheme; readonly relaxation: number },
    scratch?: LevelScratch,
  ) {
    this.finest = new FlowLevel(geometry, physics, numerics, undefined, scratch);
    this.finest.toRest();
    this.massScale = massReference(this.finest, physics);
    this.residualNames = ["x momentum", "y momentum", "mass", ...this.finest.scalars.map((q) => q.physics.key)];
  }

  abstract readonly iterations: number;
  abstract readonly climbing: Simulation["climbing"];
  abstract readonly memoryBytes: number;
  abstract advance(): SimulationReport | undefined;
  abstract save(): Checkpoint;
  abstract restore(saved: Checkpoint): void;
  abstract startFrom(mesh: FaceMesh, fields: readonly CellField[]): void;

  /** Residuals in the order of their names, mass over its scale. */
  protected scaled(r: LevelResiduals): number[] {
    return [r.xMomentum, r.yMomentum, r.mass / this.massScale, ...r.scalars];
  }

  finish(state: "reached-target" | "reached-limit" = "reached-limit"): void {
    this.state = state;
    this.finest.closeMass();
    this.finest.evaluateScalars();
    this.finest.evaluate();
  }

  /** Velocity, pressure and transported quantities as they are stored and shown. */
  fields(): CellField[] {
    const { finest: level, physics } = this;
    const density = physics.densityKgM3 ?? 1;
    return [
      { name: "u", unit: "m/s", values: level.u.slice() },
      { name: "v", unit: "m/s", values: level.v.slice() },
      { name: "p", unit: "Pa", values: level.p.map((q) => q * density) },
      ...level.scalars.map((q) => ({ name: q.physics.key, unit: q.physics.unit, values: q.q.slice() })),
    ];
  }

  balance(): BalanceRecord {
    return flowBalance(this.mesh, this.finest, this.physics);
  }

  laws(): LawReading[] {
    return [...wallFlow(this.balance()), ...totalPressureLaw(this.mesh, this.finest, this.physics)];
  }

  /** Puts the fields of another mesh's result on the finest level. */
  protected take(mesh: FaceMesh, fields: readonly CellField[]): void {
    const { finest: level, physics } = this;
    const density = physics.densityKgM3 ?? 1;
    const put = (name: string, out: Float64Array, factor = 1) => {
      const field = fields.find((f) => f.name === name);
      if (field) out.set(interpolateField(mesh, field.values, level.geometry.mesh).map((q) => q * factor));
    };
    put("u", level.u);
    put("v", level.v);
    put("p", level.p, 1 / density);
    for (const q of level.scalars) put(q.physics.key, q.q);
    fluxesFromVelocity(level);
  }
}

/** Arena for the arrays of all levels of a flow, ample: what is not used costs nothing. */
export function arenaBytes(mesh: FaceMesh, scalars: number): number {
  const entries = mesh.cellCount + 2 * mesh.joinCount;
  const numbers = mesh.cellCount * (60 + 14 * scalars) + mesh.faceCount * 36 + entries * (6 + 2 * scalars);
  return 8 * 3 * numbers + 2 ** 20;
}

/** What mass imbalance is measured against: the inflow, or for closed boxes the largest boundary speed times the root of the volume. */
function massReference(level: FlowLevel, physics: FlowPhysics): number {
  const { joins, faces, volume } = level.geometry;
  let inflow = 0;
  let speed = 0;
  for (let f = joins; f < faces; f++) {
    const b = f - joins;
    inflow += Math.max(0, -level.boundary.flux[b]);
    speed = Math.max(speed, Math.hypot(level.boundary.u[b], level.boundary.v[b]));
  }
  if (inflow > 0) return inflow;
  let total = 0;
  for (const v of volume) total += v;
  const length = Math.sqrt(total);
  const driven = (Math.hypot(...physics.bodyForce) * length * length) / (12 * physics.kinematicViscosity);
  return length * Math.max(speed, driven, liftedSpeed(level, length), initialSpeed(level, physics), 1e-300);
}

/** Speed a difference of what is transported lifts the fluid to over a length, m/s. */
function liftedSpeed(level: FlowLevel, length: number): number {
  let lifted = 0;
  for (const { physics: q, boundary, held } of level.scalars) {
    if (!q.buoyancy) continue;
    const values = boundary.filter((_, b) => held[b]);
    const span = values.length ? values.reduce((a, b) => Math.max(a, b)) - values.reduce((a, b) => Math.min(a, b)) : 0;
    lifted = Math.max(lifted, Math.sqrt(Math.hypot(...q.buoyancy) * span * length));
  }
  return lifted;
}

function initialSpeed(level: FlowLevel, physics: FlowPhysics): number {
  let initial = 0;
  if (physics.initial) for (let c = 0; c < level.geometry.cells; c++) initial = Math.max(initial, Math.hypot(level.u[c], level.v[c]));
  return initial;
}
