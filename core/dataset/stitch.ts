import type { Grid } from "./grid.ts";
import { type FaceGeometry, faceGeometry, type Surface, surfaceOf } from "./surface.ts";
import { type SurfaceEdges, type SurfaceFaults, surfaceEdges, surfaceFaults } from "./surfaceEdges.ts";

/** A surface with what hangs together on it and what is wrong with it, in the file's unit of length. */
export interface StitchedSurface {
  readonly grid: Grid;
  readonly surface: Surface;
  readonly geometry: FaceGeometry;
  readonly edges: SurfaceEdges;
  readonly faults: SurfaceFaults;
  /** see `SurfaceFaults` */
  readonly sign: Int8Array;
}

/** The surface of a grid, stitched and looked through. @throws {NoSurface} it has none */
export function stitch(grid: Grid): StitchedSurface {
  const surface = surfaceOf(grid);
  const geometry = faceGeometry(surface);
  const edges = surfaceEdges(surface);
  const faults = surfaceFaults(surface, edges, geometry);
  return { grid, surface, geometry, edges, faults, sign: faults.sign };
}
