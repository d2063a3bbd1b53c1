import { GAS, UNIFORM } from "./common.ts";
import type { ParameterSpec, ProblemDescription, ValuesOf } from "./problem.ts";

const PARAMETERS = [
  { key: "throatM", label: "Height of the throat", unit: "m", preset: 0.02, min: 1e-6, max: 100, help: "Half of the duct is computed." },
  {
    key: "lengthM",
    label: "Length",
    unit: "m",
    preset: 0.4,
    min: 1e-6,
    max: 1000,
    help: "The throat is in the middle; long ducts come close to one-dimensional theory.",
  },
  { key: "openingRatio", label: "Area of the ends over the throat's", unit: "", preset: 1.5, min: 1.01, max: 10, help: "Both ends alike." },
  { key: "totalPressurePa", label: "Reservoir pressure", unit: "Pa", preset: 101325, min: 1, max: 1e9, help: "Total pressure at the inlet." },
  {
    key: "totalTemperatureK",
    label: "Reservoir temperature",
    unit: "K",
    preset: 277.15,
    min: 1,
    max: 1e4,
    help: "Total temperature at the inlet.",
  },
  {
    key: "backRatio",
    label: "Exit pressure over the reservoir's",
    unit: "",
    preset: 0.75,
    min: 0.001,
    max: 0.9999,
    help: "Decides between subsonic flow, a shock inside, and shock-free supersonic flow.",
  },
  ...GAS,
] as const satisfies readonly ParameterSpec[];

export type DuctParameters = ValuesOf<typeof PARAMETERS>;

/** A duct that narrows to a throat and widens again between a reservoir and a given pressure. */
export const contouredDuct: ProblemDescription<DuctParameters> = {
  id: "contoured-duct",
  title: "Contoured duct",
  kind: "exact",
  tests: "Choking, passage through the speed of sound and, at higher back pressure, a shock that must stand at the right place.",
  order: "Order 2 without a shock; the shock's position and what lies behind it at order 1.",
  formalOrder: 2,
  physicsWords: { time: "steady", model: "inviscid", space: "plane", compressible: true },
  parameters: PARAMETERS,
  quantities: [
    { key: "massFlow", name: "mass flow per depth", symbol: "m", unit: "kg/(s m)", limit: 0.01 },
    { key: "throatPressure", name: "pressure at the throat over the reservoir's", symbol: "p_t/p_0", unit: "1", limit: 0.01 },
    { key: "machDown", name: "Mach number a tenth behind the throat", symbol: "M_0.6", unit: "1", limit: 0.01 },
    { key: "exitMach", name: "Mach number at the exit", symbol: "M_e", unit: "1", limit: 0.01 },
    { key: "shockAt", name: "position of the shock", symbol: "x_s/L", unit: "1", limit: 0.01 },
  ],
  family: { baseNx: 80, baseNy: 8, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM },
  counts: { nx: "cells along the duct", ny: "cells from the middle to the wall" },
  graded: false,
  numerics: { riemannFlux: "contact", limiter: "smooth", dropOrders: 6, maxIterations: 600 },
  reference: (p) => ({
    velocityMS: Math.sqrt(p.gamma * p.gasConstant * p.totalTemperatureK),
    lengthM: p.throatM,
    velocityName: "speed of sound in the reservoir",
    lengthName: "throat height",
  }),
};
