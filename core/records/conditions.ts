import type { StatedCondition } from "./reference.ts";

/** What conditions are called. */
export const CONDITION_NAMES: Readonly<Record<StatedCondition["like"], string>> = {
  reynolds: "Reynolds number",
  velocity: "reference velocity",
  length: "reference length",
  density: "density",
  viscosity: "dynamic viscosity",
  kinematic: "kinematic viscosity",
  mach: "Mach number",
  prandtl: "Prandtl number",
  rayleigh: "Rayleigh number",
};

/** Units of conditions, SI. */
export const CONDITION_UNITS: Readonly<Record<StatedCondition["like"], string>> = {
  reynolds: "",
  velocity: "m/s",
  length: "m",
  density: "kg/m^3",
  viscosity: "Pa s",
  kinematic: "m^2/s",
  mach: "",
  prandtl: "",
  rayleigh: "",
};
