import type { StatedCondition } from "@/core/records/reference";

/** What conditions are called where they are typed. */
export const CONDITION_NAMES: Readonly<Record<StatedCondition["like"], string>> = {
  reynolds: "Reynolds number",
  velocity: "Reference velocity",
  length: "Reference length",
  density: "Density",
  viscosity: "Dynamic viscosity",
  kinematic: "Kinematic viscosity",
  mach: "Mach number",
  prandtl: "Prandtl number",
  rayleigh: "Rayleigh number",
};
