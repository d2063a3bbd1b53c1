import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { revolved } from "../../mesh/revolved.ts";
import { shapedRectangle } from "../../mesh/shaped.ts";
import type { CellShape } from "../../mesh/shapes.ts";
import { SteadyGas } from "../../solver/gas/steadyGas.ts";
import { TransientGas } from "../../solver/gas/transientGas.ts";
import type { FlowPhysics } from "../../solver/incompressible/flowPhysics.ts";
import type { ScalarPhysics } from "../../solver/incompressible/scalarField.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../../solver/incompressible/steadyFlow.ts";
import { TransientFlow } from "../../solver/incompressible/transientFlow.ts";
import { samplerOf } from "../../solver/readings/sampler.ts";
import { UNIFORM } from "../describe/common.ts";
import type { ManufacturedCarriedParameters, ManufacturedFlowParameters, ManufacturedGasParameters } from "../describe/manufactured.ts";
import {
  manufacturedCarriedProblem as descriptionManufacturedCarriedProblem,
  manufacturedFlowProblem as descriptionManufacturedFlowProblem,
  manufacturedGasProblem as descriptionManufacturedGasProblem,
  REVOLVED,
} from "../describe/manufactured.ts";
import type { Formulas } from "../describe/problem.ts";
import type { MeshSpec, Numerics } from "../describe/runSettings.ts";
import {
  carriedFields,
  fieldsOf,
  gasFields,
  gasOf,
  POINT,
  pointOf,
  manufacturedCarriedProblem as truthManufacturedCarriedProblem,
  manufacturedFlowProblem as truthManufacturedFlowProblem,
  manufacturedGasProblem as truthManufacturedGasProblem,
} from "../truth/manufactured.ts";
import { fieldError } from "./errorNorms.ts";
import { problem } from "./problem.ts";

const squareMesh = (nx: number, ny: number, shape: CellShape, seed?: number): FaceMesh =>
  shapedRectangle({ lengthM: 1, heightM: 1, nx, ny, gradingX: UNIFORM, gradingY: UNIFORM, periodicX: false }, shape, seed);

type Place = (x: number, y: number, t: number) => number;

/** The same on every side of the box. */
const sides = <Given>(what: Given) => ({ left: what, right: what, bottom: what, top: what });

/** The written-down velocities on every side, and the accelerations that keep them up. */
function writtenPhysics(
  { u, v, usesTime, source }: { u: { at: Place }; v: { at: Place }; usesTime: boolean; source: NonNullable<FlowPhysics["source"]> },
  kinematicViscosity: number,
): FlowPhysics {
  const velocity = (x: number, y: number, t: number) => [u.at(x, y, t), v.at(x, y, t)] as const;
  return {
    kinematicViscosity,
    bodyForce: [0, 0],
    boundaries: sides({ kind: "velocity", velocity } as const),
    source,
    ...(usesTime ? { initial: (x: number, y: number) => velocity(x, y, 0) } : {}),
  };
}

export const manufacturedFlowPhysics = (p: ManufacturedFlowParameters, f: Formulas): FlowPhysics => writtenPhysics(fieldsOf(p, f), p.viscosityM2S);

/** Steady unless a formula uses time: then it begins with what was written down, and runs to its end. */
function simulateWritten(physics: FlowPhysics, mesh: FaceMesh, n: Numerics, { endTimeS }: { readonly endTimeS: number }): SteadyFlow | TransientFlow {
  if (!physics.initial) return new SteadyFlow(mesh, physics, { ...DEFAULT_STEADY_OPTIONS, ...n });
  return new TransientFlow(mesh, physics, {
    scheme: n.scheme,
    endTimeS,
    longestStepS: endTimeS / 8,
    courant: n.courant ?? 0.5,
    dropOrders: Math.min(4, n.dropOrders),
    maxIterations: n.maxIterations,
  });
}

/** A flow of one's own choosing, kept up by the sources it needs. */
export const manufacturedFlowProblem = problem<ManufacturedFlowParameters, FaceMesh, SteadyFlow | TransientFlow>({
  ...descriptionManufacturedFlowProblem,
  ...truthManufacturedFlowProblem,
  mesh: (_p, spec) => squareMesh(spec.nx, spec.ny, spec.shape ?? "rows", spec.seed),
  simulate: (p, mesh, n, f) => simulateWritten(manufacturedFlowPhysics(p, f), mesh, n, p),
  evaluate: (sim, _p, mesh) => ({
    uPoint: samplerOf(mesh).at(sim.finest.u, POINT)[0],
    vPoint: samplerOf(mesh).at(sim.finest.v, POINT)[0],
  }),
  profiles: () => [],
  errorNorms: (sim, p, mesh, f) => {
    const field = fieldsOf(p, f);
    const t = sim instanceof TransientFlow ? sim.timeS : 0;
    return [
      fieldError(mesh, "u", "m/s", sim.finest.u, (x, y) => field.u.at(x, y, t)),
      fieldError(mesh, "v", "m/s", sim.finest.v, (x, y) => field.v.at(x, y, t)),
      fieldError(mesh, "p", "m^2/s^2", sim.finest.p, (x, y) => field.p.at(x, y, t), "free"),
    ];
  },
});

/** The box, or the ring it sweeps round the axis. */
function boxOrRing(p: { readonly round: number }, spec: MeshSpec): FaceMesh {
  const plane = squareMesh(spec.nx, spec.ny, spec.shape ?? "rows", spec.seed);
  if (p.round !== REVOLVED) return plane;
  const raised = (at: Float64Array) => at.map((v, i) => (i % 2 ? v + 1 : v));
  const { pointsM, centroidM, faceCentreM } = plane;
  return revolved({ ...plane, pointsM: raised(pointsM), centroidM: raised(centroidM), faceCentreM: raised(faceCentreM) });
}

/** Heat or a trace in a flow of one's own choosing, kept up by the sources both need. */
export const manufacturedCarriedProblem = problem<ManufacturedCarriedParameters, FaceMesh, SteadyFlow | TransientFlow>({
  ...descriptionManufacturedCarriedProblem,
  ...truthManufacturedCarriedProblem,
  mesh: boxOrRing,
  simulate: (p, mesh, n, f) => {
    const field = carriedFields(p, f);
    const carried: ScalarPhysics = {
      key: "carried",
      unit: "K",
      diffusivity: p.diffusivityM2S,
      conditions: sides({ kind: "value", value: field.q.at } as const),
      source: field.supply,
      ...(field.usesTime ? { initial: (x: number, y: number) => field.q.at(x, y, 0) } : {}),
    };
    return simulateWritten({ ...writtenPhysics(field, p.viscosityM2S), scalars: [carried] }, mesh, n, p);
  },
  evaluate: (sim, p, mesh) => {
    const read = (values: Float64Array) => samplerOf(mesh).at(values, Float64Array.from(pointOf(p)))[0];
    return { carriedPoint: read(sim.finest.scalars[0].q), uPoint: read(sim.finest.u) };
  },
  profiles: () => [],
  errorNorms: (sim, p, mesh, f) => {
    const field = carriedFields(p, f);
    const t = sim instanceof TransientFlow ? sim.timeS : 0;
    return [
      fieldError(mesh, "what is carried", "K", sim.finest.scalars[0].q, (x, y) => field.q.at(x, y, t)),
      fieldError(mesh, "u", "m/s", sim.finest.u, (x, y) => field.u.at(x, y, t)),
      fieldError(mesh, "v", "m/s", sim.finest.v, (x, y) => field.v.at(x, y, t)),
    ];
  },
});

/** The same for a gas, inviscid or viscous. */
export const manufacturedGasProblem = problem<ManufacturedGasParameters, FaceMesh, SteadyGas | TransientGas>({
  ...descriptionManufacturedGasProblem,
  ...truthManufacturedGasProblem,
  mesh: boxOrRing,
  simulate: (p, mesh, n, f) => {
    const field = gasFields(p, f);
    const given = { kind: "state", state: field.state } as const;
    const [, lifted] = pointOf(p);
    const middle = 0.5 + lifted - POINT[1];
    const physics = {
      gas: gasOf(p),
      boundaries: sides(given),
      initial: (x: number, y: number) => field.state(field.usesTime ? x : 0.5, field.usesTime ? y : middle, 0),
      source: field.source,
    };
    const options = {
      riemannFlux: n.riemannFlux ?? "contact",
      limiter: n.limiter ?? "none",
      maxIterations: n.maxIterations,
      dropOrders: n.dropOrders,
    };
    if (!field.usesTime) return new SteadyGas(mesh, physics, options);
    return new TransientGas(mesh, physics, { ...options, endTimeS: p.endTimeS, courant: n.courant ?? 0.5 });
  },
  evaluate: (sim, p, mesh) => {
    const read = (k: number) =>
      samplerOf(mesh).at(
        Float64Array.from({ length: mesh.cellCount }, (_, c) => sim.space.w[4 * c + k]),
        Float64Array.from(pointOf(p)),
      )[0];
    return { densityPoint: read(0), pressurePoint: read(3) };
  },
  profiles: () => [],
  errorNorms: (sim, p, mesh, f) => {
    const field = gasFields(p, f);
    const t = sim instanceof TransientGas ? sim.timeS : 0;
    return (
      [
        ["density", "kg/m^3", 0],
        ["u", "m/s", 1],
        ["v", "m/s", 2],
        ["p", "Pa", 3],
      ] as const
    ).map(([name, unit, k]) =>
      fieldError(
        mesh,
        name,
        unit,
        Float64Array.from({ length: mesh.cellCount }, (_, c) => sim.space.w[4 * c + k]),
        (x, y) => field.state(x, y, t)[k],
      ),
    );
  },
});
