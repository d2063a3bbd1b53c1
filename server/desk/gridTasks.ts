import { type Cut, cutGrid, NoCut, planeOf } from "../../core/dataset/cutGrid.ts";
import { CELL_KINDS, type Grid } from "../../core/dataset/grid.ts";
import { type GridQuality, gridQuality } from "../../core/dataset/gridQuality.ts";
import type { MetricLimits } from "../../core/dataset/metrics.ts";
import { extentOf } from "../../core/dataset/surface.ts";
import { readCellsFile } from "../../core/formats/surface/readAny.ts";
import { type ArrayWords, type FieldRole, gridFields, guessRole, ROLE_UNITS, unitInName } from "../../core/intake/gridFields.ts";
import { NotPlane, type PlaneGrid, planeGrid } from "../../core/intake/planeGrid.ts";
import { type MeshQuality, meshQuality } from "../../core/mesh/quality.ts";
import { packMesh } from "../../core/solver/meshFile.ts";
import { UseCaseError } from "../usecases/failure.ts";
import { type GridFile, gridBytes, inWords, inWordsLater } from "./gridBytes.ts";
import type { Tell } from "./told.ts";

/** cells in space whose quality is judged in one go */
const MOST_JUDGED = 1_000_000;

/** An array of a grid, with what it may be. */
export interface LookedArray {
  readonly name: string;
  readonly on: "cells" | "points";
  readonly components: number;
  /** null where no value is a number */
  readonly low: number | null;
  readonly high: number | null;
  readonly role: FieldRole;
  /** as its name says it, else the one of its role */
  readonly unit: string;
  /** the unit stands in its name */
  readonly said: boolean;
}

/** What a file with a grid holds. */
export interface LookedGrid {
  readonly points: number;
  readonly cells: number;
  readonly kinds: readonly { readonly name: string; readonly count: number }[];
  readonly arrays: readonly LookedArray[];
  readonly notes: readonly string[];
  /** room it fills, in the file's unit of length */
  readonly low: readonly number[];
  readonly high: readonly number[];
  /** cells in space it has */
  readonly solid: number;
  /** of its plane mesh, in the file's unit of length; absent where it is none */
  readonly plane?: { readonly cells: number; readonly width: number; readonly height: number };
  /** of its cells in space, where it has any and not too many to be judged at once */
  readonly quality?: GridQuality;
  /** why its fields cannot be those of a run */
  readonly refusal?: string;
}

async function gridOf(file: GridFile, tell: Tell): Promise<Grid> {
  tell({ done: 0, of: 3, what: "Reading the file" });
  const bytes = await gridBytes(file);
  return inWordsLater(() => readCellsFile(bytes));
}

const whereCut = (grid: Grid, cut: Cut | undefined): Grid => (cut ? cutGrid(grid, planeOf(cut)) : grid);

/** Looks at a file with a grid: what it is made of, and what its arrays may be; cut with a plane where that is asked. */
export async function lookGrid({ cut, ...file }: GridFile & { readonly cut?: Cut }, tell: Tell): Promise<LookedGrid> {
  const grid = await gridOf(file, tell);
  tell({ done: 1, of: 3, what: "Finding its plane" });
  const found = planeOrWhy(grid, cut);
  const plane = "mesh" in found ? found : undefined;
  const solid = grid.kinds.reduce((n, k) => n + (CELL_KINDS[k].dimension === 3 ? 1 : 0), 0);
  if (solid) tell({ done: 2, of: 3, what: "Judging its cells" });
  const quality = solid > 0 && solid <= MOST_JUDGED ? gridQuality(grid) : undefined;
  return {
    points: grid.points.length / 3,
    ...extentOf(grid.points),
    solid,
    cells: grid.kinds.length,
    kinds: [...new Set(grid.kinds)].map((k) => ({ name: CELL_KINDS[k].name, count: grid.kinds.reduce((n, x) => n + (x === k ? 1 : 0), 0) })),
    arrays: [...grid.onCells.map((a) => lookedAt(a, "cells")), ...grid.onPoints.map((a) => lookedAt(a, "points"))],
    notes: [
      ...grid.notes,
      ...(plane?.notes ?? []),
      ...(solid > MOST_JUDGED ? [`Its ${solid} cells in space are more than the ${MOST_JUDGED} whose quality is judged.`] : []),
    ],
    ...(quality ? { quality } : {}),
    ...(plane ? { plane: { cells: plane.mesh.cellCount, ...sideOf(plane) } } : { refusal: (found as Error).message }),
  };
}

/** Quality of the cells of a file in space. @throws {UseCaseError} it has none, or too many to be judged */
export async function judgeGrid({ limits, ...file }: GridFile & { readonly limits?: MetricLimits }, tell: Tell): Promise<GridQuality> {
  const grid = await gridOf(file, tell);
  const solid = grid.kinds.reduce((n, k) => n + (CELL_KINDS[k].dimension === 3 ? 1 : 0), 0);
  if (!solid) throw new UseCaseError("invalid", "The file has no cells in space.");
  if (solid > MOST_JUDGED) throw new UseCaseError("invalid", `Its ${solid} cells in space are more than the ${MOST_JUDGED} whose quality is judged.`);
  tell({ done: 2, of: 3, what: "Judging its cells" });
  return gridQuality(grid, limits);
}

function planeOrWhy(grid: Grid, cut: Cut | undefined): PlaneGrid | NotPlane | NoCut {
  try {
    return planeGrid(whereCut(grid, cut));
  } catch (error) {
    if (error instanceof NotPlane || error instanceof NoCut) return error;
    throw error;
  }
}

function sideOf({ mesh: { pointsM } }: PlaneGrid): { width: number; height: number } {
  const low = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  const high = [Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
  pointsM.forEach((v, i) => {
    low[i % 2] = Math.min(low[i % 2], v);
    high[i % 2] = Math.max(high[i % 2], v);
  });
  return { width: high[0] - low[0], height: high[1] - low[1] };
}

function lookedAt(array: Grid["onCells"][number], on: "cells" | "points"): LookedArray {
  const { name, components, values } = array;
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const v of values) {
    if (v < low) low = v;
    if (v > high) high = v;
  }
  const role = guessRole(array);
  const said = unitInName(name);
  const preset = role === "ignore" || role === "other" ? "" : ROLE_UNITS[role];
  return { name, on, components, ...(low <= high ? { low, high } : { low: null, high: null }), role, unit: said ?? preset, said: said !== undefined };
}

export interface TakeGrid extends GridFile {
  readonly cut?: Cut;
  /** metres of the file's unit of length */
  readonly unitM: number;
  readonly words: readonly ArrayWords[];
  readonly densityKgM3: number;
}

export interface TakenGrid {
  readonly mesh: Uint8Array;
  readonly quality: MeshQuality;
  readonly fields: readonly { readonly name: string; readonly unit: string; readonly values: Float64Array }[];
  readonly notes: readonly string[];
}

/** The plane mesh and the fields of a file, as they are stored. @throws {UseCaseError} what stands in the way */
export async function takeGrid({ unitM, words, densityKgM3, cut, ...file }: TakeGrid, tell: Tell): Promise<TakenGrid> {
  const whole = await gridOf(file, tell);
  const grid = inWords(() => whereCut(whole, cut));
  tell({ done: 1, of: 3, what: "Making the mesh" });
  const plane = inWords(() => planeGrid(grid, unitM));
  const { fields, notes } = inWords(() => gridFields(grid, plane, words, densityKgM3));
  tell({ done: 2, of: 3, what: "Packing it" });
  return { mesh: packMesh(plane.mesh), quality: meshQuality(plane.mesh), fields, notes: [...grid.notes, ...plane.notes, ...notes] };
}
