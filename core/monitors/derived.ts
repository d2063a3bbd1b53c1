import type { FaceMesh } from "../mesh/faceMesh.ts";
import { samplerOf } from "../solver/readings/sampler.ts";
import type { CellField } from "../solver/simulation.ts";
import { type FluidOfRun, fieldName } from "./fieldNames.ts";

/** A field worked out from stored ones. */
export interface DerivedField {
  readonly key: string;
  readonly name: string;
  readonly unit: string;
  readonly values: Float64Array;
}

/**
 * Everything that can be shown of a run: stored fields, speed, vorticity, total pressure, stream function of plane flow, and for gases the Mach number.
 * @param fields u, v, p and whatever else was stored; absent ones leave out what needs them
 */
export function derivedFields(mesh: FaceMesh, fields: readonly CellField[], fluid: FluidOfRun): DerivedField[] {
  const of = (name: string) => fields.find((f) => f.name === name)?.values;
  const [u, v, p] = [of("u"), of("v"), of("p")];
  const out: DerivedField[] = [];
  if (u && v) {
    out.push({ key: "speed", name: "speed", unit: "m/s", values: u.map((x, c) => Math.hypot(x, v[c])) });
  }
  for (const f of fields) out.push({ key: f.name, name: fieldName(f.name, mesh.hoopM2 !== undefined), unit: f.unit, values: f.values });
  if (!u || !v) return out;
  const sampler = samplerOf(mesh);
  const [, uy] = sampler.slopes(u);
  const [vx] = sampler.slopes(v);
  out.push({ key: "vorticity", name: "vorticity", unit: "1/s", values: vx.map((x, c) => x - uy[c]) });
  const density = of("density");
  const gamma = fluid.gamma;
  if (p && density && gamma) {
    const mach = u.map((x, c) => Math.hypot(x, v[c]) / Math.sqrt((gamma * p[c]) / density[c]));
    out.push({ key: "mach", name: "Mach number", unit: "1", values: mach });
    out.push({
      key: "totalPressure",
      name: "total pressure",
      unit: "Pa",
      values: p.map((q, c) => q * (1 + ((gamma - 1) / 2) * mach[c] ** 2) ** (gamma / (gamma - 1))),
    });
  } else if (p) {
    out.push({
      key: "totalPressure",
      name: "total pressure",
      unit: "Pa",
      values: p.map((q, c) => q + 0.5 * fluid.densityKgM3 * (u[c] ** 2 + v[c] ** 2)),
    });
  }
  if (!density && mesh.periodic.length === 0)
    out.push({ key: "streamFunction", name: "stream function", unit: mesh.hoopM2 ? "m^3/s" : "m^2/s", values: streamFunction(mesh, u, v) });
  return out;
}

/** Stream function at the cells by walking from neighbour to neighbour, zero at the first cell reached; u = d psi/dy. */
export function streamFunction(mesh: FaceMesh, u: Float64Array, v: Float64Array): Float64Array {
  const { cellCount, joinCount, owner, neighbour, centroidM } = mesh;
  const around: number[][] = Array.from({ length: cellCount }, () => []);
  for (let f = 0; f < joinCount; f++) {
    around[owner[f]].push(neighbour[f]);
    around[neighbour[f]].push(owner[f]);
  }
  const psi = new Float64Array(cellCount).fill(Number.NaN);
  psi[0] = 0;
  const queue = [0];
  for (let head = 0; head < queue.length; head++) {
    const a = queue[head];
    for (const b of around[a]) {
      if (!Number.isNaN(psi[b])) continue;
      const radius = mesh.hoopM2 ? 0.5 * (centroidM[2 * a + 1] + centroidM[2 * b + 1]) : 1;
      psi[b] =
        psi[a] +
        radius * (0.5 * (u[a] + u[b]) * (centroidM[2 * b + 1] - centroidM[2 * a + 1]) - 0.5 * (v[a] + v[b]) * (centroidM[2 * b] - centroidM[2 * a]));
      queue.push(b);
    }
  }
  return psi;
}
