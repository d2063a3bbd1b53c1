import { type Division, dividingArrays, type PatchRecipe, type Piece, PRESET_ANGLE, patchesOf } from "../dataset/patches.ts";
import type { StitchedSurface } from "../dataset/stitch.ts";
import { extentOf, faceCount } from "../dataset/surface.ts";
import type { OpenRim, Shell } from "../dataset/surfaceEdges.ts";
import { at, type Vector } from "../dataset/vector.ts";
import type { SurfaceRole, SurfaceSaid } from "../records/surfaces.ts";
import { unitInName } from "./gridFields.ts";
import { guessSurfaceRole } from "./surfaceFields.ts";
import { normalsOf } from "./surfaceRecord.ts";
import { SURFACE_UNITS } from "./surfaceUnits.ts";

/** An array of a surface, with what it may be. */
export interface SurfaceArray {
  readonly name: string;
  readonly on: "cells" | "points";
  readonly components: number;
  readonly role: SurfaceRole;
  /** as its name says it, else the one of its role */
  readonly unit: string;
}

/** What a file with a surface holds, before anything is said of it; lengths and places in the file's unit. */
export interface SurfaceLook {
  readonly faces: number;
  readonly points: number;
  readonly low: Vector;
  readonly high: Vector;
  readonly normals: SurfaceSaid["normals"];
  readonly why: string;
  readonly arrays: readonly SurfaceArray[];
  /** ways it can be divided that the file itself offers */
  readonly divisions: readonly Division[];
  readonly shells: readonly Shell[];
  readonly rims: readonly OpenRim[];
  readonly turned: { readonly faces: number; readonly at?: Vector };
  readonly twice: number;
  readonly crowded: number;
  readonly oneSided: number;
  /** as it falls apart by the division that was chosen */
  readonly division: Division;
  readonly pieces: readonly Piece[];
  /** name each piece has by the places that were given, "" without one */
  readonly names: readonly string[];
  readonly notes: readonly string[];
}

const MOST_TOLD = 10;

/**
 * Looks at a surface, divided as it is asked for, or else as the file itself offers.
 * @param given names by places on the surface
 * @throws {NoDivision} it cannot be divided so
 */
export function lookAtSurface(s: StitchedSurface, asked?: Division, given: PatchRecipe["names"] = []): SurfaceLook {
  const { grid, surface, faults } = s;
  const divisions: Division[] = [
    ...(grid.parts?.length || grid.boundaries?.length ? [{ by: "parts" } as const] : []),
    ...dividingArrays(grid).map((array) => ({ by: "array", array }) as const),
    { by: "angle", degrees: PRESET_ANGLE },
  ];
  const division = asked ?? divisions[0];
  const { pieces, names, nameOfPiece } = patchesOf(s, { division, names: given, splits: [] });
  const arrays = (["points", "cells"] as const).flatMap((on) =>
    (on === "cells" ? grid.onCells : grid.onPoints).map((a): SurfaceArray => {
      const role = guessSurfaceRole(a);
      return { name: a.name, on, components: a.components, role, unit: unitInName(a.name) ?? (role === "ignore" ? "" : SURFACE_UNITS[role]) };
    }),
  );
  return {
    faces: faceCount(surface),
    points: surface.points.length / 3,
    ...extentOf(surface.points),
    ...normalsOf(s),
    arrays: onlyOnce(arrays),
    divisions,
    shells: [...faults.shells].sort((a, b) => b.area - a.area).slice(0, MOST_TOLD),
    rims: faults.rims.slice(0, MOST_TOLD),
    turned: { faces: faults.turned.length, ...(faults.turned.length ? { at: at(s.geometry.middle, faults.turned[0]) } : {}) },
    twice: faults.twice.length,
    crowded: faults.crowded.edges,
    oneSided: faults.oneSided,
    division,
    pieces,
    names: Array.from(nameOfPiece, (k) => names[k] ?? ""),
    notes: [...grid.notes, ...surface.notes],
  };
}

/** Of two arrays that may be the same thing the first is proposed. */
function onlyOnce(arrays: readonly SurfaceArray[]): SurfaceArray[] {
  const taken = new Set<SurfaceRole>();
  return arrays.map((a) => {
    if (a.role === "ignore" || !taken.has(a.role)) {
      taken.add(a.role);
      return a;
    }
    return { ...a, role: "ignore" };
  });
}
