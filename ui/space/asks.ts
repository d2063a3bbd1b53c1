import type { Division, PatchRecipe } from "@/core/dataset/patches";
import type { Painted, SurfaceDrawing } from "@/core/drawing/surfaceDrawing";
import type { StationCurves, StationsAsked } from "@/core/intake/stationCurves";
import type { SurfaceLook } from "@/core/intake/surfaceLook";
import type { PointReading, SurfacePoints } from "@/core/intake/surfacePoints";
import type { SurfaceSaid } from "@/core/records/surfaces";

/** A surface with what was said of it. */
interface AsSaid {
  readonly said: SurfaceSaid;
  readonly densityKgM3: number;
}

/** Painted by a pressure or temperature as it was said to be, SI. */
export interface PaintedAsSaid extends AsSaid {
  readonly by: "said";
  readonly of: PointReading;
}

/** What the page asks of the worker that holds a surface. */
export interface SpaceQuestions {
  /** the file all further questions are about */
  load: {
    readonly ask: { readonly bytes: Uint8Array; readonly division?: Division; readonly names?: PatchRecipe["names"] };
    readonly answer: SurfaceLook;
  };
  divide: { readonly ask: { readonly division: Division }; readonly answer: SurfaceLook };
  draw: {
    readonly ask: { readonly recipe: PatchRecipe; readonly painted: Painted | PaintedAsSaid };
    readonly answer: { readonly drawing: SurfaceDrawing; readonly notes: readonly string[] };
  };
  /** what it has at the points of a table */
  points: { readonly ask: AsSaid & { readonly unitM: number; readonly of: PointReading; readonly text: string }; readonly answer: SurfacePoints };
  /** curves over cuts through it */
  cut: {
    readonly ask: { readonly said: SurfaceSaid; readonly unitM: number; readonly densityKgM3: number; readonly asked: StationsAsked };
    readonly answer: StationCurves;
  };
  /** the surface with the numbers of its patches, in an open format */
  write: { readonly ask: { readonly recipe: PatchRecipe; readonly as: "stl" | "vtp"; readonly title: string }; readonly answer: Uint8Array };
}

export type SpaceKind = keyof SpaceQuestions;
