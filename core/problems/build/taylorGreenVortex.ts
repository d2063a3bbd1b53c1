import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { shapedRectangle } from "../../mesh/shaped.ts";
import type { CellShape } from "../../mesh/shapes.ts";
import type { FlowPhysics } from "../../solver/incompressible/flowPhysics.ts";
import { TransientFlow } from "../../solver/incompressible/transientFlow.ts";
import { UNIFORM } from "../describe/common.ts";
import type { TaylorGreenParameters } from "../describe/taylorGreenVortex.ts";
import { taylorGreenVortex as descriptionTaylorGreen } from "../describe/taylorGreenVortex.ts";
import { taylorGreenField, taylorGreenVortex as truthTaylorGreen } from "../truth/taylorGreenVortex.ts";
import { fieldError } from "./errorNorms.ts";
import { problem } from "./problem.ts";

/** Eddies at their beginning in a box whose sides are joined. */
export function taylorGreenPhysics(p: TaylorGreenParameters): FlowPhysics {
  const field = taylorGreenField(p);
  return {
    densityKgM3: p.densityKgM3,
    kinematicViscosity: p.viscosityPaS / p.densityKgM3,
    bodyForce: [0, 0],
    boundaries: {},
    initial: (x, y) => [field.u(x, y, 0), field.v(x, y, 0)],
  };
}

/** A square whose opposite sides are joined, of cells of any shape. */
export const taylorGreenMesh = (p: TaylorGreenParameters, nx: number, ny: number, shape: CellShape, seed?: number) =>
  shapedRectangle(
    { lengthM: p.sideM, heightM: p.sideM, nx, ny, gradingX: UNIFORM, gradingY: UNIFORM, periodicX: true, periodicY: true },
    shape,
    seed,
  );

/** Rows of eddies that decay by viscosity while they drift through a box whose ends are joined. */
export const taylorGreenVortex = problem<TaylorGreenParameters, FaceMesh, TransientFlow>({
  ...descriptionTaylorGreen,
  ...truthTaylorGreen,
  mesh: (p, spec) => taylorGreenMesh(p, spec.nx, spec.ny, spec.shape ?? "rows", spec.seed),
  simulate: (p, mesh, n) =>
    new TransientFlow(mesh, taylorGreenPhysics(p), {
      scheme: n.scheme,
      endTimeS: p.endTimeS,
      longestStepS: p.endTimeS / 8,
      courant: n.courant ?? 0.5,
      dropOrders: n.dropOrders,
      maxIterations: n.maxIterations,
    }),
  evaluate: (flow, p, mesh) => {
    const { u, v } = flow.finest;
    let [energy, volume] = [0, 0];
    for (let c = 0; c < mesh.cellCount; c++) {
      energy += 0.5 * ((u[c] - p.driftMS) ** 2 + (v[c] - 0.5 * p.driftMS) ** 2) * mesh.volumeM2[c];
      volume += mesh.volumeM2[c];
    }
    return { energy: energy / volume, decayed: energy / volume / taylorGreenField(p).energy(0) };
  },
  profiles: () => [],
  errorNorms: (flow, p, mesh) => {
    const field = taylorGreenField(p);
    const t = flow.timeS;
    return [
      fieldError(mesh, "u", "m/s", flow.finest.u, (x, y) => field.u(x, y, t)),
      fieldError(mesh, "v", "m/s", flow.finest.v, (x, y) => field.v(x, y, t)),
      fieldError(
        mesh,
        "p",
        "Pa",
        flow.finest.p.map((q) => q * p.densityKgM3),
        (x, y) => field.p(x, y, t),
        "free",
      ),
    ];
  },
});
