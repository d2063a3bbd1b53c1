import { type RectangleMesh, type RectangleSpec, rectangleMesh } from "../../mesh/rectangle.ts";
import { rectangleQuality } from "../../mesh/rectangleQuality.ts";
import { revolved } from "../../mesh/revolved.ts";
import { boundaryOf } from "../../monitors/boundary.ts";
import { interpolateAt } from "../../numeric/lagrange.ts";
import type { FlowPhysics } from "../../solver/incompressible/flowPhysics.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../../solver/incompressible/steadyFlow.ts";
import { crossing } from "../describe/common.ts";
import type { PipeParameters } from "../describe/pipe.ts";
import { pipe as descriptionPipe, pipeEntry as descriptionPipeEntry } from "../describe/pipe.ts";
import type { MeshSpec } from "../describe/runSettings.ts";
import { profile, READ_AT, pipe as truthPipe, pipeEntry as truthPipeEntry } from "../truth/pipe.ts";
import { fieldError } from "./errorNorms.ts";
import type { ProblemDefinition } from "./problem.ts";
import { centres, problem } from "./problem.ts";

const sizeOf = (p: PipeParameters, spec: MeshSpec, periodicX: boolean): RectangleSpec => ({
  lengthM: p.lengthM,
  heightM: p.radiusM,
  ...spec,
  periodicX,
});

type PipeMesh = RectangleMesh;

const revolvedPipe = (p: PipeParameters, spec: MeshSpec, periodicX: boolean): PipeMesh => {
  const plane = rectangleMesh(sizeOf(p, spec, periodicX));
  return { ...plane, ...revolved(plane) };
};

function pipePhysics(p: PipeParameters, inflow: "joined" | "uniform"): FlowPhysics {
  const nu = p.viscosityPaS / p.densityKgM3;
  return {
    densityKgM3: p.densityKgM3,
    kinematicViscosity: nu,
    bodyForce: inflow === "joined" ? [(8 * nu * p.meanVelocityMS) / p.radiusM ** 2, 0] : [0, 0],
    boundaries: {
      bottom: { kind: "symmetry" },
      top: { kind: "wall" },
      left: { kind: "velocity", velocity: [p.meanVelocityMS, 0] },
      right: { kind: "outlet", pressureOverDensity: 0 },
    },
  };
}

const column = (flow: SteadyFlow, mesh: PipeMesh, i: number) => {
  const { nx, ny } = centres(mesh);
  return Float64Array.from({ length: ny }, (_, j) => flow.finest.u[j * nx + i]);
};

/** Velocity on the axis from the cells of a column and their mirror images. */
function onAxis(mesh: PipeMesh, values: Float64Array): number {
  const { y } = centres(mesh);
  const at = [-y[1], -y[0], y[0], y[1]];
  return interpolateAt(at, [values[1], values[0], values[0], values[1]], 0);
}

/** Flow rate through the whole pipe at a column, m^3/s. */
function flowRate(mesh: PipeMesh, values: Float64Array): number {
  const lines = mesh.yLinesM;
  let sum = 0;
  for (let j = 0; j < values.length; j++) sum += values[j] * Math.PI * (lines[j + 1] ** 2 - lines[j] ** 2);
  return sum;
}

const shared = {} satisfies Partial<ProblemDefinition<PipeParameters, PipeMesh, SteadyFlow>>;

/** Developed flow in a pipe, ends joined to one another: the first revolved case. */
export const pipe = problem<PipeParameters, PipeMesh, SteadyFlow>({
  ...descriptionPipe,
  ...truthPipe,
  ...shared,
  mesh: (p, spec) => revolvedPipe(p, spec, true),
  quickQuality: (p, spec) => rectangleQuality(sizeOf(p, spec, true)),
  simulate: (p, mesh, numerics) => new SteadyFlow(mesh, pipePhysics(p, "joined"), { ...DEFAULT_STEADY_OPTIONS, ...numerics }),
  evaluate: (flow, p, mesh) => {
    const values = column(flow, mesh, 0);
    const b = boundaryOf(mesh, "top");
    let force = 0;
    for (let f = b.start; f < b.start + b.count; f++) force += flow.finest.boundaryTerms(f).shear[0];
    return {
      axisVelocity: onAxis(mesh, values),
      flowRate: flowRate(mesh, values),
      wallShear: (p.densityKgM3 * force) / (p.lengthM * p.radiusM),
    };
  },
  profiles: (flow, p, mesh) => [
    {
      key: "across",
      name: "velocity along a radius",
      abscissa: { name: "r", unit: "m", values: [0, ...centres(mesh).y, p.radiusM] },
      value: { name: "u", unit: "m/s", values: [onAxis(mesh, column(flow, mesh, 0)), ...column(flow, mesh, 0), 0] },
    },
  ],
  errorNorms: (flow, p, mesh) => [fieldError(mesh, "u", "m/s", flow.finest.u, (_x, r) => profile(p, r))],
});

const SHOWN_AT = 0.7;

/** Uniform flow entering a pipe and developing along it. */
export const pipeEntry = problem<PipeParameters, PipeMesh, SteadyFlow>({
  ...descriptionPipeEntry,
  ...truthPipeEntry,
  ...shared,
  mesh: (p, spec) => revolvedPipe(p, spec, false),
  quickQuality: (p, spec) => rectangleQuality(sizeOf(p, spec, false)),
  simulate: (p, mesh, numerics) => new SteadyFlow(mesh, pipePhysics(p, "uniform"), { ...DEFAULT_STEADY_OPTIONS, ...numerics }),
  evaluate: (flow, p, mesh) => {
    const { nx, x } = centres(mesh);
    const axis = Float64Array.from({ length: nx }, (_, i) => onAxis(mesh, column(flow, mesh, i)));
    const b = boundaryOf(mesh, "left");
    let push = 0;
    let area = 0;
    for (let f = b.start; f < b.start + b.count; f++) {
      push -= flow.finest.boundaryTerms(f).pressure[0];
      area -= mesh.areaVectorM[2 * f];
    }
    return {
      endVelocity: interpolateAt(x, axis, READ_AT * p.lengthM),
      entryLength:
        crossing(
          x,
          axis.map((u) => u - 1.98 * p.meanVelocityMS),
        ) /
        (2 * p.radiusM),
      pressureDrop: (p.densityKgM3 * push) / area,
    };
  },
  second: (flow, p, mesh) => {
    const { nx, x } = centres(mesh);
    const axis = Float64Array.from({ length: nx }, (_, i) => onAxis(mesh, column(flow, mesh, i)));
    const at = (share: number) => interpolateAt(x, axis, share * p.lengthM);
    return [
      {
        quantityKey: "endVelocity",
        name: "developed velocity on the axis",
        unit: "m/s",
        first: at(READ_AT),
        firstBy: `reading it at ${READ_AT} of the length`,
        second: at(SHOWN_AT),
        secondBy: `reading it at ${SHOWN_AT}, where it has developed too`,
      },
    ];
  },
  profiles: (flow, _p, mesh) => [
    {
      key: "axis",
      name: "velocity along the axis",
      abscissa: { name: "x", unit: "m", values: [...centres(mesh).x] },
      value: { name: "u", unit: "m/s", values: Array.from({ length: centres(mesh).nx }, (_, i) => onAxis(mesh, column(flow, mesh, i))) },
    },
  ],
  errorNorms: () => [],
});
