import type { Conditions } from "../../exact/fitting.ts";
import type { Like, SolutionPhysics } from "../../exact/solution.ts";
import { type CaseSetup, physicsOf, setupOf } from "./caseSetup.ts";

const SPACES: Readonly<Record<string, SolutionPhysics["space"]>> = {
  plane: "plane",
  axisymmetric: "axisymmetric",
  "three-dimensional": "three-dimensional",
};

/** What a case says that solutions of the library can be held against; what it does not say is absent. */
export function conditionsOf(c: CaseSetup): Conditions {
  const s = setupOf(c);
  const physics = physicsOf(c);
  const viscosity = s.dynamicViscosityPaS;
  const kinematic = s.kinematicViscosityM2S ?? (viscosity === undefined ? undefined : viscosity / s.densityKgM3);
  const { heat } = s;
  const values: Partial<Record<Like, number | undefined>> = {
    velocity: s.velocityMS,
    length: s.lengthM,
    density: s.densityKgM3,
    viscosity,
    kinematic,
    reynolds: kinematic ? (s.velocityMS * s.lengthM) / kinematic : undefined,
    mach: s.soundSpeedMS === undefined ? undefined : s.velocityMS / s.soundSpeedMS,
    gamma: c.parameters.gamma,
    prandtl: heat?.prandtl,
    temperatureDifference: heat?.differenceK,
    gravity: heat?.gravityMS2,
    rayleigh:
      heat?.expansionPerK !== undefined && heat.differenceK !== undefined && heat.gravityMS2 !== undefined && kinematic
        ? (heat.gravityMS2 * heat.expansionPerK * heat.differenceK * s.lengthM ** 3 * heat.prandtl) / kinematic ** 2
        : undefined,
  };
  return {
    values: Object.fromEntries(Object.entries(values).filter(([, v]) => v !== undefined && Number.isFinite(v) && v !== 0)),
    physics: {
      transient: physics.time === "transient",
      compressible: s.compressible,
      turbulent: physics.model.startsWith("turbulen"),
      inviscid: s.inviscid ?? false,
      heat: heat !== undefined,
      space: SPACES[physics.space],
    },
  };
}
