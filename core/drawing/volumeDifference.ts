import type { GridArray } from "../dataset/grid.ts";
import { size, type Vector } from "../dataset/vector.ts";
import { plainName, withUnit } from "../intake/gridFields.ts";
import type { Made } from "../monitors/space/said.ts";
import type { ArrayKey, Volume } from "./volume.ts";

/** coordinates nearer than this over the room's size are the same */
const SAME = 1e-9;

/** Two volumes whose fields cannot be held against each other, in a sentence. */
export class NoDifference extends Error {}

/**
 * A field of one volume less that of another: entry by entry where both stand on one mesh, else with the other's values brought to this one's points,
 * linear in its cells.
 * @param unit of both, "" where none is said
 * @throws {NoDifference} the other has no such field, or lies elsewhere
 */
export function volumeDifference(volume: Volume, other: Volume, key: ArrayKey, unit: string, name: string): Made {
  const own = volume.find(key);
  const theirs = fieldOf(other, key, own);
  const called = (array: GridArray): GridArray => ({
    ...array,
    name: withUnit(`${plainName(key.name)} less ${name}`, unit),
  });
  if (sameMesh(volume, other)) {
    const values = own.values.map((v, k) => v - theirs.values[k]);
    return {
      array: called({ ...own, values }),
      on: key.on,
      unit,
      made: `${key.name} less that of ${name}, ${key.on === "cells" ? "cell by cell" : "point by point"}: the meshes are one.`,
    };
  }
  const mine = volume.onPoints(key);
  const field = other.onPoints(key);
  const out = new Float64Array(field.components);
  const values = new Float64Array(mine.values.length);
  let missed = 0;
  const { points } = volume.grid;
  for (let q = 0; q < points.length / 3; q++) {
    const inside = other.finder.valueAt([points[3 * q], points[3 * q + 1], points[3 * q + 2]], field, out);
    if (!inside) missed++;
    for (let d = 0; d < mine.components; d++) values[mine.components * q + d] = inside ? mine.values[mine.components * q + d] - out[d] : Number.NaN;
  }
  if (missed === points.length / 3) throw new NoDifference(`No point of the one mesh lies in a cell of ${name}: are both in one unit of length?`);
  const beside = missed ? ` ${missed} of ${points.length / 3} points lie in none of its cells and are left open.` : "";
  const brought = key.on === "cells" ? " Cell values of both were brought to points first." : "";
  return {
    array: called({ ...mine, values }),
    on: "points",
    unit,
    made: `${key.name} less that of ${name}, whose values were taken linear in its cells at the points of this mesh.${brought}${beside}`,
  };
}

function fieldOf(other: Volume, key: ArrayKey, own: GridArray): GridArray {
  let theirs: GridArray;
  try {
    theirs = other.find(key);
  } catch {
    throw new NoDifference(`The other result has no field "${key.name}" on ${key.on}.`);
  }
  if (theirs.components !== own.components)
    throw new NoDifference(`"${key.name}" has ${own.components} components here and ${theirs.components} there.`);
  return theirs;
}

function sameMesh(a: Volume, b: Volume): boolean {
  const [p, q] = [a.grid.points, b.grid.points];
  if (p.length !== q.length || a.grid.corners.length !== b.grid.corners.length) return false;
  if (!a.grid.corners.every((c, k) => c === b.grid.corners[k])) return false;
  const extent: Vector = [a.high[0] - a.low[0], a.high[1] - a.low[1], a.high[2] - a.low[2]];
  const near = SAME * size(extent);
  return p.every((v, k) => Math.abs(v - q[k]) <= near);
}
