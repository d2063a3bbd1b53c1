import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { shapedRectangle } from "../../mesh/shaped.ts";
import type { GasPhysics } from "../../solver/gas/gasSpace.ts";
import { TransientGas } from "../../solver/gas/transientGas.ts";
import { inviscidGas, UNIFORM } from "../describe/common.ts";
import type { GasTubesParameters } from "../describe/gasTubes.ts";
import { shockTube as descriptionShockTube } from "../describe/gasTubes.ts";
import { shockTube as truthShockTube, tubeSolution } from "../truth/gasTubes.ts";
import { fieldError } from "./errorNorms.ts";
import { problem } from "./problem.ts";

const STRIPS = 8;

/** Two states of a gas at rest, parted in the middle until the beginning. */
export function tubePhysics(p: GasTubesParameters): GasPhysics {
  const middle = p.lengthM / 2;
  return {
    gas: inviscidGas(p),
    boundaries: { left: { kind: "free-outlet" }, right: { kind: "free-outlet" }, bottom: { kind: "slip" }, top: { kind: "slip" } },
    initial: (x) => (x < middle ? [p.leftDensity, 0, 0, p.leftPressurePa] : [p.rightDensity, 0, 0, p.rightPressurePa]),
  };
}

/** Square cells along the tube. */
export const tubeMesh = (p: GasTubesParameters, nx: number, ny: number) =>
  shapedRectangle({ lengthM: p.lengthM, heightM: (p.lengthM * ny) / nx, nx, ny, gradingX: UNIFORM, gradingY: UNIFORM, periodicX: false }, "rows");

/** Values along the middle row. */
function row(sim: TransientGas, mesh: FaceMesh, k: number) {
  const [rows] = mesh.structure ?? [];
  const first = rows.nx * Math.floor(rows.ny / 2);
  const cells = Array.from({ length: rows.nx }, (_, i) => first + i);
  return { x: cells.map((c) => mesh.centroidM[2 * c]), values: cells.map((c) => sim.space.w[4 * c + k]) };
}

/** A diaphragm between two chambers bursts: shock, contact and expansion run through the tube. */
export const shockTube = problem<GasTubesParameters, FaceMesh, TransientGas>({
  ...descriptionShockTube,
  ...truthShockTube,
  mesh: (p, spec) => tubeMesh(p, spec.nx, spec.ny),
  simulate: (p, mesh, n) =>
    new TransientGas(mesh, tubePhysics(p), {
      riemannFlux: n.riemannFlux ?? "contact",
      limiter: n.limiter ?? "bounds",
      maxIterations: n.maxIterations,
      dropOrders: n.dropOrders,
      endTimeS: p.endTimeS,
      courant: n.courant ?? 0.4,
    }),
  evaluate: (sim, p, mesh) => {
    const { waves } = tubeSolution(p);
    const pressure = row(sim, mesh, 3);
    const velocity = row(sim, mesh, 1);
    const t = Math.max(sim.timeS, 1e-300);
    const middle = p.lengthM / 2;
    // Halfway between contact and shock, where the plateau is widest.
    const at = middle + 0.5 * (waves.contact + waves.right) * t;
    const k = Math.max(
      0,
      pressure.x.findIndex((x) => x > at),
    );
    const half = 0.5 * (pressure.values[k] + p.rightPressurePa);
    let shock = Number.NaN;
    for (let i = pressure.x.length - 2; i >= 0; i--) {
      if (!(pressure.values[i] >= half && pressure.values[i + 1] < half)) continue;
      const share = (pressure.values[i] - half) / (pressure.values[i] - pressure.values[i + 1]);
      shock = pressure.x[i] + share * (pressure.x[i + 1] - pressure.x[i]);
      break;
    }
    return { plateauPressure: pressure.values[k], shockPosition: shock, contactVelocity: velocity.values[k] };
  },
  profiles: (sim, _p, mesh) =>
    [
      ["density", "density along the tube", "rho", "kg/m^3", 0],
      ["pressure", "pressure along the tube", "p", "Pa", 3],
    ].map(([key, name, symbol, unit, k]) => {
      const { x, values } = row(sim, mesh, Number(k));
      return {
        key: String(key),
        name: String(name),
        abscissa: { name: "x", unit: "m", values: x },
        value: { name: String(symbol), unit: String(unit), values },
      };
    }),
  errorNorms: (sim, p, mesh) => {
    const { at } = tubeSolution(p);
    const t = sim.timeS;
    const h = p.lengthM / (mesh.structure?.[0].nx ?? 1);
    // Cell averages: a centre value says little about a cell with a jump in it.
    const average = (pick: "density" | "pressure") => (x: number) => {
      let sum = 0;
      for (let q = 0; q < STRIPS; q++) sum += at((x - 0.5 * h + ((q + 0.5) * h) / STRIPS - p.lengthM / 2) / t)[pick];
      return sum / STRIPS;
    };
    const take = (k: number) => Float64Array.from({ length: mesh.cellCount }, (_, c) => sim.space.w[4 * c + k]);
    return [fieldError(mesh, "density", "kg/m^3", take(0), average("density")), fieldError(mesh, "p", "Pa", take(3), average("pressure"))];
  },
});
