import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { shapedRectangle } from "../../mesh/shaped.ts";
import type { CellShape } from "../../mesh/shapes.ts";
import type { GasPhysics } from "../../solver/gas/gasSpace.ts";
import { TransientGas } from "../../solver/gas/transientGas.ts";
import { samplerOf } from "../../solver/readings/sampler.ts";
import { inviscidGas, line, UNIFORM } from "../describe/common.ts";
import type { VortexParameters } from "../describe/vortex.ts";
import { travellingVortex as descriptionTravellingVortex, soundOf } from "../describe/vortex.ts";
import { BOX, endOf, travellingVortex as truthTravellingVortex, vortexField } from "../truth/vortex.ts";
import { fieldError } from "./errorNorms.ts";
import { problem } from "./problem.ts";

/** A vortex carried by a uniform stream, at its beginning. */
export function vortexPhysics(p: VortexParameters): GasPhysics {
  const field = vortexField(p);
  return { gas: inviscidGas(p), boundaries: {}, initial: (x, y) => field(x, y, 0) as readonly [number, number, number, number] };
}

/** A square whose opposite sides are joined, of cells of any shape. */
export const vortexMesh = (p: VortexParameters, nx: number, ny: number, shape: CellShape, seed?: number) =>
  shapedRectangle(
    { lengthM: BOX * p.coreM, heightM: BOX * p.coreM, nx, ny, gradingX: UNIFORM, gradingY: UNIFORM, periodicX: true, periodicY: true },
    shape,
    seed,
  );

/** A vortex carried through a box whose ends are joined comes back to where it began, unchanged. */
export const travellingVortex = problem<VortexParameters, FaceMesh, TransientGas>({
  ...descriptionTravellingVortex,
  ...truthTravellingVortex,
  mesh: (p, spec) => vortexMesh(p, spec.nx, spec.ny, spec.shape ?? "rows", spec.seed),
  simulate: (p, mesh, n) =>
    new TransientGas(mesh, vortexPhysics(p), {
      riemannFlux: n.riemannFlux ?? "contact",
      limiter: n.limiter ?? "none",
      maxIterations: n.maxIterations,
      dropOrders: n.dropOrders,
      endTimeS: endOf(p),
      courant: n.courant ?? 0.5,
    }),
  evaluate: (sim, p, mesh) => {
    const side = BOX * p.coreM;
    const drift = p.mach * soundOf(p) * sim.timeS;
    const q = (side / 2 + drift) % side;
    const take = (k: number) => Float64Array.from({ length: mesh.cellCount }, (_, c) => sim.space.w[4 * c + k]);
    const sampler = samplerOf(mesh);
    // The mean of the four points around the centre, a hundredth of a radius away, wherever they fall among the cells.
    const e = 0.01 * p.coreM;
    const points = [q - e, q - e, q + e, q - e, q - e, q + e, q + e, q + e];
    const mean = (k: number) => sampler.at(take(k), points).reduce((s, v) => s + v / 4, 0);
    return { coreDensity: mean(0), corePressure: mean(3) };
  },
  profiles: (sim, p, mesh) => {
    const side = BOX * p.coreM;
    const points = line([0, side / 2], [side, side / 2], 81);
    const pressure = Float64Array.from({ length: mesh.cellCount }, (_, c) => sim.space.w[4 * c + 3]);
    const values = samplerOf(mesh).at(pressure, points);
    return [
      {
        key: "across",
        name: "pressure along the middle of the box",
        abscissa: { name: "x", unit: "m", values: Array.from(values, (_, k) => points[2 * k]) },
        value: { name: "p", unit: "Pa", values: [...values] },
      },
    ];
  },
  errorNorms: (sim, p, mesh) => {
    const field = vortexField(p);
    const take = (k: number) => Float64Array.from({ length: mesh.cellCount }, (_, c) => sim.space.w[4 * c + k]);
    return [
      fieldError(mesh, "density", "kg/m^3", take(0), (x, y) => field(x, y, sim.timeS)[0]),
      fieldError(mesh, "p", "Pa", take(3), (x, y) => field(x, y, sim.timeS)[3]),
    ];
  },
});
