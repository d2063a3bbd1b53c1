import type { PatchRecipe } from "../dataset/patches.ts";
import type { OpenRim, Shell } from "../dataset/surfaceEdges.ts";
import type { PatchFlow } from "../dataset/surfaceFlows.ts";
import type { PatchForces } from "../dataset/surfaceForces.ts";
import type { Vector } from "../dataset/vector.ts";

/** What an array on a surface is said to be. */
export const SURFACE_ROLES = [
  "ignore",
  "pressure",
  "shear",
  "shear-x",
  "shear-y",
  "shear-z",
  "velocity",
  "velocity-x",
  "velocity-y",
  "velocity-z",
  "density",
  "temperature",
] as const;
export type SurfaceRole = (typeof SURFACE_ROLES)[number];

export interface SurfaceWords {
  readonly name: string;
  readonly on: "cells" | "points";
  readonly role: SurfaceRole;
  readonly unit: string;
}

/** A quantity the code reported, said to be part of what the surface gives. */
export interface ForceLink {
  readonly quantityKey: string;
  readonly of: "force" | "moment";
  /** patches it acts on; none for the whole surface, pieces without a name included */
  readonly patches: readonly string[];
  /** it is the part along this direction; of any length but none */
  readonly direction: Vector;
  /** times the modelled part stands in what was reported */
  readonly factor: number;
  /** what a coefficient was made with; absent where the quantity is in N or N m. `lengthM` of a moment's */
  readonly coefficient?: { readonly densityKgM3: number; readonly speedMS: number; readonly areaM2: number; readonly lengthM: number };
}

/** What a person said of a surface. Places and lengths are in the file's unit but where a name says otherwise. */
export interface SurfaceSaid {
  /** the file's unit of length */
  readonly length: string;
  readonly arrays: readonly SurfaceWords[];
  readonly recipe: PatchRecipe;
  /** where the normals of the faces as the file has them point, their few turned ones apart */
  readonly normals: "out of the body" | "into the body";
  /** the stress is that of the fluid on the wall, or of the wall on the fluid */
  readonly shearOn: "wall" | "fluid";
  readonly referencePa: number;
  readonly aboutM: Vector;
  readonly links: readonly ForceLink[];
}

/** One patch with what acts on it, SI. */
export interface PatchFound extends PatchForces {
  readonly name: string;
  /** what flows through it, out of the fluid positive, where the file has a velocity; `mean...` of the temperature, K */
  readonly flow?: PatchFlow;
}

/** What a surface was found to be, SI. */
export interface SurfaceFound {
  /** metres of the file's unit of length */
  readonly unitM: number;
  readonly faces: number;
  readonly areaM2: number;
  readonly shells: readonly Shell[];
  /** rims of open edges, longest first, and how many and how long they are in all */
  readonly rims: readonly OpenRim[];
  readonly openM: number;
  readonly openRims: number;
  readonly turned: { readonly faces: number; readonly areaM2: number; readonly at?: Vector };
  readonly twice: number;
  readonly crowded: number;
  readonly oneSided: number;
  readonly patches: readonly PatchFound[];
  /** what has no name: absent where all has one */
  readonly unnamed?: PatchForces & { readonly pieces: number; readonly flow?: PatchFlow };
  readonly has: { readonly pressure: boolean; readonly shear: boolean; readonly velocity: boolean };
  readonly notes: readonly string[];
}

/** The surface of a run: the file, what was said of it, what was read from both. */
export interface SurfaceRecord {
  readonly file: { readonly name: string; readonly hash: string };
  readonly said: SurfaceSaid;
  readonly found: SurfaceFound;
}
