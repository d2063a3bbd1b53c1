import { boundaryNames, namesOfOutside } from "../../dataset/boundaries.ts";
import type { GridArray } from "../../dataset/grid.ts";
import { type WallSlopes, wallSlopes } from "../../dataset/wallSlopes.ts";
import { FieldMistake } from "../../intake/gridFields.ts";
import type { KnownFields } from "./knownFields.ts";
import type { Made } from "./said.ts";

interface Walls {
  readonly isWall: (face: number) => boolean;
  readonly words: string;
}

/** speed over the greatest, below which a place stands still */
const STILL = 1e-9;

/** Which faces of the outside are walls. @throws {FieldMistake} the file names its boundaries and nobody said which are walls, or none stands still */
function wallsOf({ grid, work, said }: KnownFields, velocity: GridArray, on: "cells" | "points"): Walls {
  const named = boundaryNames(grid);
  if (named.length) {
    const asked = said.walls ?? [];
    if (!asked.length) throw new FieldMistake("Walls", `say which of its boundaries are walls: ${named.join(", ")}.`);
    const unknown = asked.find((name) => !named.includes(name));
    if (unknown !== undefined) throw new FieldMistake("Walls", `it has no boundary "${unknown}"; there are ${named.join(", ")}.`);
    const { of } = namesOfOutside(grid, work.faces);
    const walls = new Set(asked.map((name) => named.indexOf(name)));
    return { isWall: (f) => walls.has(of[f]), words: `at ${asked.join(", ")}` };
  }
  if (on === "cells") return { isWall: () => true, words: "all of the outside taken for walls, since the file names no boundaries" };
  const { values } = velocity;
  const speed = (q: number) => Math.hypot(values[3 * q], values[3 * q + 1], values[3 * q + 2]);
  let greatest = 0;
  for (let q = 0; q < values.length / 3; q++) greatest = Math.max(greatest, speed(q));
  const { start, corners } = work.faces;
  const isWall = (f: number) => corners.subarray(start[f], start[f + 1]).every((q) => speed(q) <= STILL * greatest);
  return { isWall, words: "at the faces of the outside where every corner stands still" };
}

interface AtWalls {
  readonly slopes: WallSlopes;
  readonly viscosityPaS: number;
  readonly words: string;
}

function atWalls(fields: KnownFields): AtWalls {
  const { viscosityPaS } = fields.said;
  if (!(viscosityPaS !== undefined && viscosityPaS > 0)) throw new FieldMistake("Fields", "say the viscosity of the fluid.");
  const { array, on } = fields.known("velocity", 3);
  const { isWall, words } = wallsOf(fields, array, on);
  const slopes = wallSlopes(fields.work, array, on, isWall);
  if (!slopes.cell.length) throw new FieldMistake(array.name, "no face of the outside stands still at all its corners.");
  const two = slopes.byTwo === slopes.cell.length ? "all" : `${slopes.byTwo} of ${slopes.cell.length}`;
  const parabola =
    on === "cells"
      ? `a parabola from the standing wall through the middles of two cells behind one another at ${two} of the faces, else a straight line to the first`
      : `a parabola through the wall and two faces behind one another at ${two} of the faces, else a straight line`;
  return { slopes, viscosityPaS, words: `by ${viscosityPaS} Pa s and ${array.name}, ${words}; ${parabola}` };
}

const RESOLVED = "It holds where the layer at the wall is resolved; with a wall function it comes out too small";

/** Shear stress on walls, in the cells that touch them: the mean over their faces there. */
export function wallShear(fields: KnownFields): Made {
  const { slopes, viscosityPaS, words } = atWalls(fields);
  const cells = fields.grid.kinds.length;
  const [out, area] = [new Float64Array(3 * cells), new Float64Array(cells)];
  slopes.cell.forEach((c, k) => {
    area[c] += slopes.area[k];
    for (let d = 0; d < 3; d++) out[3 * c + d] += (slopes.area[k] * viscosityPaS * slopes.slope[3 * k + d]) / fields.said.unitM;
  });
  for (let c = 0; c < cells; c++) for (let d = 0; d < 3; d++) out[3 * c + d] = area[c] > 0 ? out[3 * c + d] / area[c] : Number.NaN;
  return fields.made("wall shear stress", "Pa", 3, out, "cells", `viscosity times the slope of the velocity across the wall, ${words}. ${RESOLVED}`);
}

/** Distance of the first cell's middle from its wall in wall units, the greatest of a cell's walls. */
export function yPlus(fields: KnownFields): Made {
  const { slopes, viscosityPaS, words } = atWalls(fields);
  const density = fields.has("density") ? fields.known("density", 1) : undefined;
  const onCells = density && (density.on === "points" ? fields.toCells(density.array) : density.array);
  const of = onCells ? (c: number) => onCells.values[c] : () => fields.density();
  const { unitM } = fields.said;
  const out = new Float64Array(fields.grid.kinds.length).fill(Number.NaN);
  slopes.cell.forEach((c, k) => {
    const rate = Math.hypot(slopes.slope[3 * k], slopes.slope[3 * k + 1], slopes.slope[3 * k + 2]) / unitM;
    const value = slopes.distance[k] * unitM * Math.sqrt((of(c) * rate) / viscosityPaS);
    if (!(out[c] >= value)) out[c] = value;
  });
  const what = density ? density.array.name : `${fields.density()} kg/m^3`;
  return fields.made(
    "y+",
    "1",
    1,
    out,
    "cells",
    `the distance of the first cell's middle from the wall by the friction speed, ${what}, ${words}. ${RESOLVED}`,
  );
}
