import type { FaceMesh } from "../mesh/faceMesh.ts";
import { cellAverages, faceFluxes } from "../mesh/integrals.ts";
import type { FieldFunction } from "./formula.ts";
import type { WrittenSolution } from "./written.ts";

/** A table of numbers with what its columns are called. */
interface Columns {
  readonly header: readonly string[];
  readonly columns: readonly ArrayLike<number>[];
}

const places = (at: Float64Array, k: 0 | 1) => at.filter((_, i) => i % 2 === k);
const named = ({ name, unit }: { readonly name: string; readonly unit: string }) => `${name} (${unit})`;

/** Exact means of every field and every source over the cells of a mesh, by quadrature, with where the cells lie and how large they are. */
export function averagesOnMesh(w: WrittenSolution, mesh: FaceMesh, timeS: number): Columns {
  const of = [...w.fields, ...w.sources];
  const size = mesh.hoopM2 ? "volume of one radian (m^3)" : "volume of unit depth (m^3/m)";
  return {
    header: ["cell", "x (m)", "y (m)", size, ...of.map(named)],
    columns: [
      Float64Array.from({ length: mesh.cellCount }, (_, c) => c + 1),
      places(mesh.centroidM, 0),
      places(mesh.centroidM, 1),
      mesh.volumeM2,
      ...of.map((f) => cellAverages(mesh, (x, y) => f.formula.at(x, y, timeS))),
    ],
  };
}

type Flow = readonly [name: string, along: FieldFunction, across: FieldFunction];

/** What flows through every face, exactly: volume, and what is carried along with it; of a gas mass, momentum and energy without shear and conduction. */
export function fluxesOnMesh(w: WrittenSolution, mesh: FaceMesh, timeS: number, gamma = 1.4): Columns {
  const flows = flowsOf(w, gamma);
  const cells = (list: Int32Array) => Array.from({ length: mesh.faceCount }, (_, f) => (list[f] >= 0 ? list[f] + 1 : 0));
  return {
    header: ["face", "from cell", "to cell, 0 outside", "x (m)", "y (m)", ...flows.map(([name]) => name)],
    columns: [
      Float64Array.from({ length: mesh.faceCount }, (_, f) => f + 1),
      cells(mesh.owner),
      cells(mesh.neighbour),
      places(mesh.faceCentreM, 0),
      places(mesh.faceCentreM, 1),
      ...flows.map(([, along, across]) => faceFluxes(mesh, (x, y) => [along(x, y, timeS), across(x, y, timeS)])),
    ],
  };
}

function flowsOf(w: WrittenSolution, gamma: number): Flow[] {
  const by = new Map(w.fields.map((f) => [f.key, f.formula.at]));
  const [u, v] = [by.get("velocity_x") as FieldFunction, by.get("velocity_y") as FieldFunction];
  const carriedAlong = (name: string, q: FieldFunction): Flow => [name, (...a) => q(...a) * u(...a), (...a) => q(...a) * v(...a)];
  if (w.kind !== "gas") {
    const q = by.get("carried");
    return [["volume flux", u, v], ...(q ? [carriedAlong("flux of what is carried, by the flow", q)] : [])];
  }
  const [r, p] = [by.get("density") as FieldFunction, by.get("pressure") as FieldFunction];
  const enthalpy: FieldFunction = (...a) => (gamma * p(...a)) / (gamma - 1) + (r(...a) * (u(...a) ** 2 + v(...a) ** 2)) / 2;
  return [
    carriedAlong("mass flux", r),
    ["flux of momentum along x", (...a) => r(...a) * u(...a) ** 2 + p(...a), (...a) => r(...a) * u(...a) * v(...a)],
    ["flux of momentum along y", (...a) => r(...a) * u(...a) * v(...a), (...a) => r(...a) * v(...a) ** 2 + p(...a)],
    carriedAlong("flux of energy", enthalpy),
  ];
}
