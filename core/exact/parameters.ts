import type { Parameter } from "./solution.ts";

/** Parameters many solutions share; presets are air at the cold store's four degrees. */
export const DENSITY = {
  key: "densityKgM3",
  label: "Density",
  symbol: "\\rho",
  unit: "kg/m^3",
  preset: 1.274,
  low: 1e-4,
  high: 3e4,
  log: true,
  like: "density",
} as const satisfies Parameter;

export const VISCOSITY = {
  key: "viscosityPaS",
  label: "Dynamic viscosity",
  symbol: "\\mu",
  unit: "Pa s",
  preset: 1.74e-5,
  low: 1e-7,
  high: 1e4,
  log: true,
  like: "viscosity",
} as const satisfies Parameter;

export const KINEMATIC = {
  key: "kinematicM2S",
  label: "Kinematic viscosity",
  symbol: "\\nu",
  unit: "m^2/s",
  preset: 1.366e-5,
  low: 1e-9,
  high: 1e2,
  log: true,
  like: "kinematic",
} as const satisfies Parameter;

export const GAMMA = {
  key: "gamma",
  label: "Ratio of specific heats",
  symbol: "\\gamma",
  unit: "",
  preset: 1.4,
  low: 1.01,
  high: 1.67,
  like: "gamma",
} as const satisfies Parameter;

export const MACH = {
  key: "mach",
  label: "Mach number ahead",
  symbol: "M_1",
  unit: "",
  preset: 2,
  low: 1,
  high: 30,
  like: "mach",
} as const satisfies Parameter;

export const PRANDTL = {
  key: "prandtl",
  label: "Prandtl number",
  symbol: "\\mathit{Pr}",
  unit: "",
  preset: 0.71,
  low: 1e-3,
  high: 1e5,
  log: true,
  like: "prandtl",
} as const satisfies Parameter;

/** A speed of any name. */
export const SPEED = { symbol: "U", unit: "m/s", preset: 1, low: 1e-6, high: 1e4, log: true, like: "velocity" } as const;

/** A length of any name. */
export const LENGTH = { unit: "m", preset: 0.1, low: 1e-6, high: 1e3, log: true } as const;

/** A Reynolds number of any name. */
export const REYNOLDS = {
  key: "reynolds",
  symbol: "\\mathit{Re}",
  unit: "",
  preset: 100,
  low: 1e-4,
  high: 1e7,
  log: true,
  like: "reynolds",
} as const;

export const PRESSURE_GRADIENT = {
  key: "pressureGradientPaM",
  label: "Pressure gradient",
  symbol: "dp/dx",
  unit: "Pa/m",
  preset: -0.05,
  low: -1e6,
  high: 1e6,
} as const satisfies Parameter;

export const PHASE = {
  key: "phase",
  label: "Phase",
  symbol: "\\omega t",
  unit: "",
  preset: 0,
  low: 0,
  high: 2 * Math.PI,
} as const satisfies Parameter;

/** A flat body or a round one. */
export const shapeOf = (flat: string, round: string) =>
  ({
    key: "round",
    label: "Shape",
    symbol: "",
    unit: "",
    preset: 0,
    low: 0,
    high: 1,
    choices: [
      [0, flat],
      [1, round],
    ],
  }) as const satisfies Parameter;
