import { DENSITY } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

/** Speed a pressure drop gives a jet. */
export const jetFromPressure = solution({
  id: "jet-from-pressure",
  name: "Jet speed from a pressure drop",
  subject: "Openings",
  words: "bernoulli torricelli velocity coefficient curtain outflow",
  nature: "exact",
  uncertainty: 0,
  uncertaintyNote: "exact without losses; the coefficient carries them",
  formulas: ["U = C_v\\sqrt{\\frac{2\\Delta p}{\\rho}+U_1^2}"],
  source: "Bernoulli; Batchelor, An Introduction to Fluid Dynamics, section 6.3",
  physics: {},
  parameters: [
    { key: "dropPa", label: "Pressure drop", symbol: "\\Delta p", unit: "Pa", preset: 20, low: 1e-6, high: 1e8, log: true },
    { key: "approachMS", label: "Speed ahead of the opening", symbol: "U_1", unit: "m/s", preset: 0, low: 0, high: 1e3 },
    { key: "coefficient", label: "Velocity coefficient", symbol: "C_v", unit: "", preset: 1, low: 0.5, high: 1 },
    { key: "soundMS", label: "Speed of sound, of liquids as well", symbol: "a", unit: "m/s", preset: 334, low: 1, high: 1e4 },
    DENSITY,
  ],
  range: (p) => [within("The Mach number of the jet", speed(p) / p.soundMS, { high: 0.3 })],
  values: (p) => [
    { key: "speed", name: "speed of the jet", unit: "m/s", value: speed(p) },
    { key: "dynamic", name: "dynamic pressure of the jet", unit: "Pa", value: 0.5 * p.densityKgM3 * speed(p) ** 2 },
  ],
  curves: (p) => [
    {
      key: "speed",
      name: "jet speed over pressure drop",
      x: { name: "pressure drop", unit: "Pa" },
      y: { name: "speed of the jet", unit: "m/s" },
      from: 0,
      to: 2 * p.dropPa,
      sample: pointwise((dropPa) => speed({ ...p, dropPa })),
    },
  ],
});

function speed(p: { readonly dropPa: number; readonly approachMS: number; readonly coefficient: number; readonly densityKgM3: number }): number {
  return p.coefficient * Math.sqrt((2 * p.dropPa) / p.densityKgM3 + p.approachMS ** 2);
}
