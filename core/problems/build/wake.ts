import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { shapedRectangle } from "../../mesh/shaped.ts";
import type { CellShape } from "../../mesh/shapes.ts";
import type { FlowPhysics } from "../../solver/incompressible/flowPhysics.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../../solver/incompressible/steadyFlow.ts";
import { samplerOf } from "../../solver/readings/sampler.ts";
import { line, UNIFORM } from "../describe/common.ts";
import type { WakeParameters } from "../describe/wake.ts";
import { wake as descriptionWake } from "../describe/wake.ts";
import { point, wake as truthWake, wakeField } from "../truth/wake.ts";
import { fieldError } from "./errorNorms.ts";
import { problem } from "./problem.ts";

const WIDTH = 1.5;

/** The exact velocities on every side of a period of the grid. */
export function wakePhysics(p: WakeParameters): FlowPhysics {
  const { u, v } = wakeField(p);
  const given = { kind: "velocity", velocity: (x: number, y: number) => [u(x, y), v(x, y)] as const } as const;
  return {
    densityKgM3: p.densityKgM3,
    kinematicViscosity: p.viscosityPaS / p.densityKgM3,
    bodyForce: [0, 0],
    boundaries: { left: given, right: given, bottom: given, top: given },
  };
}

/** A stretch behind the grid, one spacing high, of cells of any shape. */
export const wakeMesh = (p: WakeParameters, nx: number, ny: number, shape: CellShape, seed?: number) =>
  shapedRectangle({ lengthM: WIDTH * p.spacingM, heightM: p.spacingM, nx, ny, gradingX: UNIFORM, gradingY: UNIFORM, periodicX: false }, shape, seed);

/** Laminar flow behind a two-dimensional grid of bars: the Navier-Stokes equations hold exactly. */
export const wake = problem<WakeParameters, FaceMesh, SteadyFlow>({
  ...descriptionWake,
  ...truthWake,
  mesh: (p, spec) => wakeMesh(p, spec.nx, spec.ny, spec.shape ?? "rows", spec.seed),
  simulate: (p, mesh, numerics) => new SteadyFlow(mesh, wakePhysics(p), { ...DEFAULT_STEADY_OPTIONS, ...numerics }),
  evaluate: (flow, p, mesh) => {
    const sampler = samplerOf(mesh);
    return { uPoint: sampler.at(flow.finest.u, point(p))[0], vPoint: sampler.at(flow.finest.v, point(p))[0] };
  },
  profiles: (flow, p, mesh) => {
    const x = 0.6 * p.spacingM;
    const points = line([x, 0], [x, p.spacingM], 41);
    const values = samplerOf(mesh).at(flow.finest.u, points);
    return [
      {
        key: "across",
        name: "velocity across the wake",
        abscissa: { name: "y", unit: "m", values: Array.from(values, (_, k) => points[2 * k + 1]) },
        value: { name: "u", unit: "m/s", values: [...values] },
      },
    ];
  },
  errorNorms: (flow, p, mesh) => {
    const field = wakeField(p);
    return [
      fieldError(mesh, "u", "m/s", flow.finest.u, field.u),
      fieldError(mesh, "v", "m/s", flow.finest.v, field.v),
      fieldError(
        mesh,
        "p",
        "Pa",
        flow.finest.p.map((q) => q * p.densityKgM3),
        field.p,
        "free",
      ),
    ];
  },
});
