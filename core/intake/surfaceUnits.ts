import type { SurfaceRole } from "../records/surfaces.ts";

/** Unit each role is kept in. */
export const SURFACE_UNITS: Readonly<Record<Exclude<SurfaceRole, "ignore">, string>> = {
  pressure: "Pa",
  shear: "Pa",
  "shear-x": "Pa",
  "shear-y": "Pa",
  "shear-z": "Pa",
  velocity: "m/s",
  "velocity-x": "m/s",
  "velocity-y": "m/s",
  "velocity-z": "m/s",
  density: "kg/m^3",
  temperature: "K",
};
