import type { FaceMesh } from "../mesh/faceMesh.ts";
import type { BalanceRecord, BoundaryFlux } from "../records/balance.ts";
import { samplerOf } from "../solver/readings/sampler.ts";
import type { CellField, Simulation } from "../solver/simulation.ts";
import { type DerivedField, derivedFields } from "./derived.ts";
import type { FluidOfRun } from "./fieldNames.ts";
import { type BoundaryTake, type FieldTake, IN_VOLUME, ON_BOUNDARY, ON_LINE } from "./takes.ts";

type Point = readonly [xM: number, yM: number];

/** Something a person wants watched on a run, besides what its template delivers. */
export type Monitor =
  | { readonly on: "point"; readonly field: string; readonly at: Point }
  | { readonly on: "line"; readonly field: string; readonly from: Point; readonly to: Point; readonly take: keyof typeof ON_LINE }
  | { readonly on: "volume"; readonly field: string; readonly take: keyof typeof IN_VOLUME }
  | { readonly on: "boundary"; readonly boundary: string; readonly take: keyof typeof ON_BOUNDARY; readonly carried?: string };

/** A monitor of a case: the quantity it gives goes by its key. */
export interface KeyedMonitor {
  readonly key: string;
  readonly monitor: Monitor;
}

/** A monitor asks for something the run does not have. */
export class MonitorError extends Error {}

/** One moment of a run as monitors see it: fields and balance worked out once, however many ask for them. */
export class Moment {
  private stored: readonly CellField[] | undefined;
  private derived: readonly DerivedField[] | undefined;
  private flows: BalanceRecord | undefined;

  constructor(
    readonly sim: Simulation,
    private readonly fluid: FluidOfRun,
  ) {}

  /** @throws {MonitorError} There is no such field. */
  field(key: string): Float64Array {
    this.stored ??= this.sim.fields();
    const own = this.stored.find((f) => f.name === key);
    if (own) return own.values;
    this.derived ??= derivedFields(this.sim.mesh, this.stored, this.fluid);
    const found = this.derived.find((f) => f.key === key);
    if (!found) throw new MonitorError(`This run has no field "${key}".`);
    return found.values;
  }

  get balance(): BalanceRecord {
    this.flows ??= this.sim.balance();
    return this.flows;
  }
}

const LINE_POINTS = 201;

/**
 * Value of a monitor on the present fields, SI; flows and forces per metre of depth on plane meshes, of the whole circumference divided by 2 pi on revolved ones.
 * @throws {MonitorError} There is no such field, boundary or carried quantity.
 */
export function readMonitor(monitor: Monitor, moment: Moment): number {
  if (monitor.on === "boundary") return readBoundary(monitor, moment);
  const { mesh } = moment.sim;
  const field = moment.field(monitor.field);
  if (monitor.on === "point") return samplerOf(mesh).at(field, monitor.at)[0];
  if (monitor.on === "line") return readLine(monitor, mesh, field);
  return readVolume(IN_VOLUME[monitor.take], mesh, field);
}

/** What a monitor reads off a field; undefined for a boundary and for the value at a point. */
function fieldTake(monitor: Monitor): FieldTake | undefined {
  if (monitor.on === "line") return ON_LINE[monitor.take];
  return monitor.on === "volume" ? IN_VOLUME[monitor.take] : undefined;
}

const BOUNDARY_UNITS = { "mass flow": "kg/(m s)", force: "N/m", turning: "m" } as const;

/** Unit of what a monitor gives. */
export function monitorUnit(monitor: Monitor, fields: readonly Pick<DerivedField, "key" | "unit">[]): string {
  const unitOf = (key: string | undefined) => fields.find((f) => f.key === key)?.unit ?? "1";
  const times = (unit: string, by: string) => (unit === "1" ? by : `${unit} ${by}`);
  if (monitor.on === "boundary") {
    const { gives } = ON_BOUNDARY[monitor.take];
    return gives === "carried flow" ? times(unitOf(monitor.carried), "m^2/s") : BOUNDARY_UNITS[gives];
  }
  const gives = fieldTake(monitor)?.gives;
  if (gives === "place" || gives === "x" || gives === "y") return "m";
  return gives === "integral" ? times(unitOf(monitor.field), "m^2") : unitOf(monitor.field);
}

function readLine(monitor: Extract<Monitor, { on: "line" }>, mesh: FaceMesh, field: Float64Array): number {
  const { from, to } = monitor;
  const take: FieldTake = ON_LINE[monitor.take];
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (!(length > 0)) throw new MonitorError("A line needs two different ends.");
  const points = Float64Array.from({ length: 2 * LINE_POINTS }, (_, k) => {
    const share = (k >> 1) / (LINE_POINTS - 1);
    return from[k % 2] + share * (to[k % 2] - from[k % 2]);
  });
  const values = samplerOf(mesh).at(field, points);
  if (!("of" in take)) {
    let sum = 0;
    for (let k = 0; k + 1 < values.length; k++) sum += 0.5 * (values[k] + values[k + 1]);
    return sum / (values.length - 1);
  }
  const step = length / (LINE_POINTS - 1);
  if (take.of === "steepest slope") {
    const slopes = Float64Array.from({ length: values.length - 1 }, (_, k) => Math.abs(values[k + 1] - values[k]));
    return (peak(slopes, 1).at + 0.5) * step;
  }
  const found = peak(values, take.of === "lowest" ? -1 : 1);
  return take.gives === "place" ? found.at * step : found.value;
}

/** Highest (or, with sign -1, lowest) sample, refined by a parabola through it and its neighbours; `at` in samples. */
function peak(values: Float64Array, sign: 1 | -1): { at: number; value: number } {
  let k = 0;
  for (let i = 1; i < values.length; i++) if (sign * values[i] > sign * values[k]) k = i;
  if (k === 0 || k === values.length - 1) return { at: k, value: values[k] };
  const [a, b, c] = [values[k - 1], values[k], values[k + 1]];
  const bend = a - 2 * b + c;
  const shift = bend === 0 ? 0 : (0.5 * (a - c)) / bend;
  return { at: k + shift, value: b - 0.25 * (a - c) * shift };
}

function readVolume(take: FieldTake, mesh: FaceMesh, field: Float64Array): number {
  const { volumeM2, centroidM } = mesh;
  if (!("of" in take)) {
    let [sum, total] = [0, 0];
    for (let c = 0; c < field.length; c++) {
      sum += field[c] * volumeM2[c];
      total += volumeM2[c];
    }
    return take.gives === "mean" ? sum / total : sum;
  }
  const sign = take.of === "lowest" ? -1 : 1;
  let k = 0;
  for (let c = 1; c < field.length; c++) if (sign * field[c] > sign * field[k]) k = c;
  return take.gives === "value" ? field[k] : centroidM[2 * k + (take.gives === "x" ? 0 : 1)];
}

function readBoundary(monitor: Extract<Monitor, { on: "boundary" }>, moment: Moment): number {
  const { boundary, carried } = monitor;
  const take: BoundaryTake = ON_BOUNDARY[monitor.take];
  if (take.gives === "turning") return turningPoint(moment, boundary, take.which === "first");
  const row = moment.balance.boundaries.find((b) => b.name === boundary);
  if (!row) throw new MonitorError(`This run has no boundary "${boundary}".`);
  if (take.gives === "mass flow") return row.mass ?? 0;
  if (take.gives === "force") return forceOf(row, take);
  const parts = row.scalars?.[carried ?? ""];
  if (!parts) throw new MonitorError(`Nothing called "${carried ?? ""}" is carried by this flow.`);
  return parts[0] + parts[1];
}

/** Force of the fluid on a boundary: what leaves the fluid as pressure and shear. */
function forceOf(row: BoundaryFlux, take: Extract<BoundaryTake, { gives: "force" }>): number {
  const [, pressure, shear] = (take.along === "x" ? row.momentumX : row.momentumY) ?? [0, 0, 0];
  if (take.by === "pressure") return pressure;
  return take.by === "shear" ? shear : pressure + shear;
}

/**
 * Distance along a boundary, from its end of lowest x (then y), at which the shear changes sign first or last, from the two cells nearest to each face.
 * NaN while it does not.
 */
function turningPoint(moment: Moment, name: string, first: boolean): number {
  const { mesh } = moment.sim;
  const b = mesh.boundaries.find((x) => x.name === name);
  if (!b) throw new MonitorError(`This run has no boundary "${name}".`);
  const [u, v] = [moment.field("u"), moment.field("v")];
  const around = new Map<number, number[]>();
  for (let f = b.start; f < b.start + b.count; f++) around.set(mesh.owner[f], []);
  for (let f = 0; f < mesh.joinCount; f++) {
    around.get(mesh.owner[f])?.push(mesh.neighbour[f]);
    around.get(mesh.neighbour[f])?.push(mesh.owner[f]);
  }
  const faces = Array.from({ length: b.count }, (_, k) => {
    const f = b.start + k;
    const [x, y] = [mesh.faceCentreM[2 * f], mesh.faceCentreM[2 * f + 1]];
    const area = Math.hypot(mesh.areaVectorM[2 * f], mesh.areaVectorM[2 * f + 1]);
    const [nx, ny] = [mesh.areaVectorM[2 * f] / area, mesh.areaVectorM[2 * f + 1] / area];
    // Along the boundary towards larger x, or larger y where it stands upright.
    const forward = Math.abs(ny) > 1e-9 ? Math.sign(ny) : -Math.sign(nx);
    const depth = (c: number) => (x - mesh.centroidM[2 * c]) * nx + (y - mesh.centroidM[2 * c + 1]) * ny;
    const along = (c: number) => forward * (u[c] * ny - v[c] * nx);
    const near = mesh.owner[f];
    const next = (around.get(near) ?? []).reduce((best, c) => (depth(c) > depth(best) ? c : best), near);
    const [d1, d2] = [depth(near), depth(next)];
    const shear = d2 > 1.01 * d1 ? (along(near) * d2 * d2 - along(next) * d1 * d1) / (d1 * d2 * (d2 - d1)) : along(near) / d1;
    return { x, y, shear, area };
  }).sort((p, q) => p.x - q.x || p.y - q.y);
  let walked = 0;
  let found = Number.NaN;
  for (let k = 0; k + 1 < faces.length; k++) {
    const [p, q] = [faces[k], faces[k + 1]];
    walked += 0.5 * p.area;
    if (p.shear !== 0 && Math.sign(p.shear) !== Math.sign(q.shear)) {
      found = walked + (p.shear / (p.shear - q.shear)) * Math.hypot(q.x - p.x, q.y - p.y);
      if (first) return found;
    }
    walked += 0.5 * p.area;
  }
  return found;
}
