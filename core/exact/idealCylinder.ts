import { DENSITY, LENGTH, SPEED } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

/** Cylinder in an ideal stream, with or without circulation. */
export const idealCylinder = solution({
  id: "ideal-cylinder",
  name: "Cylinder in ideal flow",
  subject: "Ideal flow",
  words: "potential flow circulation magnus lift pressure coefficient inviscid kutta joukowski",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "v_\\theta = -2U\\sin\\theta - \\frac{\\Gamma}{2\\pi R}, \\qquad C_p = 1-\\left(\\frac{v_\\theta}{U}\\right)^2, \\qquad L' = \\rho U\\Gamma",
  ],
  source: "Batchelor, An Introduction to Fluid Dynamics, section 6.6; circulation counted clockwise, theta from downstream",
  physics: { inviscid: true, space: "plane" },
  parameters: [
    { ...LENGTH, key: "radiusM", label: "Radius", symbol: "R", preset: 0.05, like: "length" },
    { ...SPEED, key: "speedMS", label: "Speed of the stream" },
    { key: "circulation", label: "Circulation", symbol: "\\Gamma", unit: "m^2/s", preset: 0.2, low: -1e5, high: 1e5 },
    DENSITY,
  ],
  range: (p) => [within("Circulation over 4 pi U R", Math.abs(p.circulation) / (4 * Math.PI * p.speedMS * p.radiusM), { high: 1 })],
  values: (p) => {
    const share = p.circulation / (4 * Math.PI * p.speedMS * p.radiusM);
    return [
      { key: "lift", name: "lift per length", unit: "N/m", value: p.densityKgM3 * p.speedMS * p.circulation },
      { key: "cl", name: "lift coefficient (diameter)", unit: "", value: p.circulation / (p.speedMS * p.radiusM) },
      { key: "cd", name: "drag coefficient", unit: "", value: 0 },
      { key: "lowest", name: "lowest pressure coefficient", unit: "", value: 1 - (2 + 2 * Math.abs(share)) ** 2 },
      ...(Math.abs(share) <= 1 ? [{ key: "stagnation", name: "angle of the stagnation point", unit: "rad", value: Math.asin(-share) }] : []),
    ];
  },
  curves: (p) => [
    {
      key: "cp",
      name: "pressure coefficient over the surface",
      x: { name: "angle from downstream", unit: "rad" },
      y: { name: "pressure coefficient", unit: "" },
      from: 0,
      to: 2 * Math.PI,
      sample: pointwise((t) => 1 - (2 * Math.sin(t) + p.circulation / (2 * Math.PI * p.radiusM * p.speedMS)) ** 2),
    },
  ],
});
