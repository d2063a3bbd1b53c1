import { erfc } from "../numeric/errorFunction.ts";
import { KINEMATIC, SPEED } from "./parameters.ts";
import { pointwise, solution } from "./solution.ts";

/** A plate under resting fluid set moving at once. */
export const suddenPlate = solution({
  id: "sudden-plate",
  name: "Plate set moving at once",
  subject: "Moving walls",
  words: "stokes first problem rayleigh impulsive diffusion transient",
  nature: "exact",
  uncertainty: 0,
  formulas: ["\\frac{u}{U} = \\operatorname{erfc}\\frac{y}{2\\sqrt{\\nu t}}, \\qquad \\frac{\\tau_w}{\\rho} = -U\\sqrt{\\frac{\\nu}{\\pi t}}"],
  source: "Stokes (1851); Schlichting & Gersten, Boundary-Layer Theory, 9th ed., section 5.3",
  physics: { transient: true, space: "plane" },
  parameters: [
    { ...SPEED, key: "speedMS", label: "Speed of the plate" },
    KINEMATIC,
    { key: "timeS", label: "Time since the start", symbol: "t", unit: "s", preset: 1, low: 1e-6, high: 1e6, log: true },
  ],
  range: () => [{ inside: true, sentence: "The fluid reaches far enough that its other end has not felt the plate yet." }],
  values: (p) => [
    { key: "shear", name: "wall shear stress over density", unit: "m^2/s^2", value: -p.speedMS * Math.sqrt(p.kinematicM2S / (Math.PI * p.timeS)) },
    {
      key: "layer",
      name: "height where the fluid has a hundredth of the speed",
      unit: "m",
      value: 3.6427727484 * Math.sqrt(p.kinematicM2S * p.timeS),
    },
    {
      key: "flux",
      name: "volume dragged along per width and time",
      unit: "m^2/s",
      value: 2 * p.speedMS * Math.sqrt((p.kinematicM2S * p.timeS) / Math.PI),
    },
  ],
  curves: (p) => [
    {
      key: "profile",
      name: "velocity over the height",
      x: { name: "height y", unit: "m" },
      y: { name: "velocity u", unit: "m/s" },
      from: 0,
      to: 6 * Math.sqrt(p.kinematicM2S * p.timeS),
      sample: pointwise((y) => p.speedMS * erfc(y / (2 * Math.sqrt(p.kinematicM2S * p.timeS)))),
    },
  ],
});
