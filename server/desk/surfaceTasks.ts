import type { Division } from "../../core/dataset/patches.ts";
import { type StitchedSurface, stitch } from "../../core/dataset/stitch.ts";
import { readGridFile } from "../../core/formats/surface/readAny.ts";
import { type StationCurves, type StationsAsked, stationCurves } from "../../core/intake/stationCurves.ts";
import { lookAtSurface, type SurfaceLook } from "../../core/intake/surfaceLook.ts";
import { type PointReading, type SurfacePoints, surfacePoints } from "../../core/intake/surfacePoints.ts";
import { readSurface } from "../../core/intake/surfaceRecord.ts";
import type { SurfaceFound, SurfaceSaid } from "../../core/records/surfaces.ts";
import { type GridFile, gridBytes, inWords, inWordsLater } from "./gridBytes.ts";
import type { Tell } from "./told.ts";

async function stitched(file: GridFile, tell: Tell): Promise<StitchedSurface> {
  tell({ done: 0, of: 3, what: "Reading the file" });
  const bytes = await gridBytes(file);
  tell({ done: 1, of: 3, what: "Stitching the faces" });
  const grid = await inWordsLater(() => readGridFile(bytes));
  return inWords(() => stitch(grid));
}

/** Looks at a file with a surface: its pieces, its arrays, what is wrong with it. */
export async function lookSurface({ division, ...file }: GridFile & { readonly division?: Division }, tell: Tell): Promise<SurfaceLook> {
  const surface = await stitched(file, tell);
  tell({ done: 2, of: 3, what: "Dividing it" });
  return inWords(() => lookAtSurface(surface, division));
}

export interface CutStations extends TakeSurface {
  readonly asked: StationsAsked;
}

/** Curves over cuts through a surface. */
export async function cutStations({ said, unitM, densityKgM3, asked, ...file }: CutStations, tell: Tell): Promise<StationCurves> {
  const surface = await stitched(file, tell);
  tell({ done: 2, of: 3, what: "Cutting it" });
  return inWords(() => stationCurves(surface, said, unitM, densityKgM3, asked));
}

export interface PointsOn extends TakeSurface {
  readonly of: PointReading;
  readonly text: string;
}

/** What a surface has at the points of a table. */
export async function pointsOn({ said, unitM, densityKgM3, of, text, ...file }: PointsOn, tell: Tell): Promise<SurfacePoints> {
  const surface = await stitched(file, tell);
  tell({ done: 2, of: 3, what: "Finding the points" });
  return inWords(() => surfacePoints(surface, said, unitM, densityKgM3, of, text));
}

export interface TakeSurface extends GridFile {
  readonly said: SurfaceSaid;
  /** metres of the file's unit of length */
  readonly unitM: number;
  readonly densityKgM3: number;
}

/** The patches of a surface as they are named, and the forces on them. */
export async function takeSurface({ said, unitM, densityKgM3, ...file }: TakeSurface, tell: Tell): Promise<SurfaceFound> {
  const surface = await stitched(file, tell);
  tell({ done: 2, of: 3, what: "Integrating" });
  return inWords(() => readSurface(surface, said, unitM, densityKgM3).found);
}
