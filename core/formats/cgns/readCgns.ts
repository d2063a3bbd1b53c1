import type { Grid, GridArray } from "../../dataset/grid.ts";
import { weld } from "../../dataset/weld.ts";
import { firstFew } from "../../formatting/firstFew.ts";
import { joined } from "../vtk/readGrid.ts";
import { GridFileError } from "../vtk/scan.ts";
import { boundariesOf } from "./boundaries.ts";
import { type CgnsNode, childOf, ofKind, wholesOf, wordsOf } from "./node.ts";
import { type Section, sectionsOf, structuredCells } from "./sections.ts";

/** points or cells one zone may have */
const MOST = 50_000_000;

type Counted = Grid;

/**
 * The grid of a file in the CGNS standard: structured and unstructured zones, put together where there are several; values at vertices and cell centres;
 * elements of higher order by their corners. Boundary conditions name parts of the outside.
 * @throws {GridFileError} in a sentence
 * @source CGNS, Standard Interface Data Structures, version 4: zones, elements, flow solutions, boundary conditions
 */
export function readCgns(root: CgnsNode): Grid {
  const base = childOf(root, "CGNSBase_t");
  if (!base) throw new GridFileError("The file has no base: it is HDF5, but not of the CGNS standard.");
  const [cellDimension = 0, space = 0] = wholesOf(base);
  if (!(cellDimension >= 2 && cellDimension <= 3 && space >= 2 && space <= 3))
    throw new GridFileError(`The base has cells of ${cellDimension} dimensions in ${space}; 2 and 3 are read.`);
  const zones = ofKind(base, "Zone_t");
  if (!zones.length) throw new GridFileError(`The base "${base.name}" has no zone.`);
  const bases = ofKind(root, "CGNSBase_t").length;
  const grids = zones.map((zone) => readZone(zone, cellDimension));
  const one = grids.length === 1 ? grids[0] : weld(joined(grids));
  return bases > 1 ? { ...one, notes: [...one.notes, `Of ${bases} bases the first, "${base.name}", is read.`] } : one;
}

function readZone(zone: CgnsNode, dimension: number): Counted {
  const structured = wordsOf(childOf(zone, "ZoneType_t")) === "Structured";
  const size = wholesOf(zone);
  const indices = structured ? dimension : 1;
  if (size.length < 2 * indices || !size.slice(0, 2 * indices).every((n) => n >= 0 && n <= MOST))
    throw new GridFileError(`The size of zone "${zone.name}" is none.`);
  const vertices = size.slice(0, indices).reduce((a, b) => a * b, 1);
  const notes: string[] = [];
  const points = coordinatesOf(zone, vertices);
  const sections = structured ? [] : sectionsOf(zone, vertices);
  const cells = structured ? structuredCells(size.slice(0, indices)) : unstructured(zone, dimension, sections, notes);
  const count = cells.kinds.length;
  const boundaries = boundariesOf(zone, structured ? size.slice(0, indices) : vertices, sections, notes);
  return {
    points,
    ...cells,
    onPoints: solutionsOf(zone, "Vertex", vertices, notes),
    onCells: solutionsOf(zone, "CellCenter", count, notes),
    ...(dimension === 3 && boundaries.length ? { boundaries } : {}),
    notes,
  };
}

function unstructured(zone: CgnsNode, dimension: number, sections: readonly Section[], notes: string[]): Section["cells"] {
  const own = sections.filter((s) => s.dimension === dimension);
  if (!own.length) throw new GridFileError(`Zone "${zone.name}" has no elements of ${dimension} dimensions.`);
  const others = sections.filter((s) => s.dimension < dimension && !s.ofCells);
  if (others.length)
    notes.push(
      `Sections on boundaries are no part of the cells: ${firstFew(
        others.map((s) => `${s.name} (${s.cells.kinds.length})`),
        12,
      )}.`,
    );
  const higher = new Set(own.flatMap((s) => s.higher));
  if (higher.size) notes.push(`Shown by their corners: ${[...higher].join(", ")}.`);
  return own.length === 1 ? own[0].cells : together(own.map((s) => s.cells));
}

/** Elements of several sections one after the other. */
function together(parts: readonly Section["cells"][]): Section["cells"] {
  const count = parts.reduce((n, p) => n + p.kinds.length, 0);
  const kinds = new Uint8Array(count);
  const cellStart = new Int32Array(count + 1);
  const corners = new Int32Array(parts.reduce((n, p) => n + p.corners.length, 0));
  const polyhedra = new Map<number, readonly (readonly number[])[]>();
  let [cell, corner] = [0, 0];
  for (const p of parts) {
    kinds.set(p.kinds, cell);
    corners.set(p.corners, corner);
    for (let c = 0; c < p.kinds.length; c++) cellStart[cell + c + 1] = corner + p.cellStart[c + 1];
    for (const [c, faces] of p.polyhedra) polyhedra.set(cell + c, faces);
    cell += p.kinds.length;
    corner += p.corners.length;
  }
  return { kinds, cellStart, corners, polyhedra };
}

function coordinatesOf(zone: CgnsNode, vertices: number): Float64Array {
  const own = childOf(zone, "GridCoordinates_t", "GridCoordinates") ?? childOf(zone, "GridCoordinates_t");
  if (!own) throw new GridFileError(`Zone "${zone.name}" has no coordinates.`);
  const points = new Float64Array(3 * vertices);
  let found = 0;
  ["CoordinateX", "CoordinateY", "CoordinateZ"].forEach((name, d) => {
    const data = childOf(own, "DataArray_t", name)?.data();
    if (!data) return;
    if (data.length !== vertices) throw new GridFileError(`${name} of zone "${zone.name}" has ${data.length} values where ${vertices} are due.`);
    found++;
    for (let q = 0; q < vertices; q++) {
      const v = Number(data[q]);
      if (!Number.isFinite(v)) throw new GridFileError(`Point ${q} of zone "${zone.name}" has a coordinate that is no number.`);
      points[3 * q + d] = v;
    }
  });
  if (found < 2)
    throw new GridFileError(`Zone "${zone.name}" has no Cartesian coordinates (CoordinateX, CoordinateY, CoordinateZ); others are not read.`);
  return points;
}

/** Values of all solutions at one place; parts of a vector, told by a last letter X, Y, Z, are put together. */
function solutionsOf(zone: CgnsNode, at: "Vertex" | "CellCenter", count: number, notes: string[]): GridArray[] {
  const single: { readonly name: string; readonly values: Float64Array }[] = [];
  const solutions = ofKind(zone, "FlowSolution_t");
  for (const solution of solutions) {
    const place = wordsOf(childOf(solution, "GridLocation_t")) || "Vertex";
    if (place !== "Vertex" && place !== "CellCenter") {
      if (at === "Vertex") notes.push(`Values of ${solution.name} lie at ${place}, which is not read; they were left out.`);
      continue;
    }
    if (place !== at) continue;
    for (const array of ofKind(solution, "DataArray_t")) {
      const data = array.data();
      if (!data) continue;
      // A rind of further cells round a zone would shift every value.
      if (data.length !== count) {
        notes.push(`${array.name} of ${solution.name} has ${data.length} values where ${count} are due and was left out.`);
        continue;
      }
      const name = single.some((s) => s.name === array.name) ? `${array.name} of ${solution.name}` : array.name;
      single.push({ name, values: Float64Array.from(data as ArrayLike<number | bigint>, Number) });
    }
  }
  return vectorsOf(single);
}

function vectorsOf(single: readonly { readonly name: string; readonly values: Float64Array }[]): GridArray[] {
  const taken = new Set<string>();
  return single.flatMap(({ name, values }): GridArray[] => {
    if (taken.has(name)) return [];
    const stem = name.match(/^(.*)[XYZ]$/)?.[1];
    const parts = stem === undefined ? [] : ["X", "Y", "Z"].map((d) => single.find((s) => s.name === `${stem}${d}`));
    if (stem && parts[0] && parts[1]) {
      for (const d of ["X", "Y", "Z"]) taken.add(`${stem}${d}`);
      const own = new Float64Array(3 * values.length);
      parts.forEach((p, d) => {
        for (let k = 0; p && k < values.length; k++) own[3 * k + d] = p.values[k];
      });
      return [{ name: stem, components: 3, values: own }];
    }
    return [{ name, components: 1, values }];
  });
}
