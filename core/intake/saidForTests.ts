import type { SurfaceSaid } from "../records/surfaces.ts";

/** A surface in mm of which nothing was said but how it is divided. */
export const PLAIN_SAID: SurfaceSaid = {
  length: "mm",
  arrays: [],
  recipe: { division: { by: "angle", degrees: 30 }, names: [], splits: [] },
  normals: "out of the body",
  shearOn: "wall",
  referencePa: 0,
  aboutM: [0, 0, 0],
  links: [],
};
