import { cornerExpansion, expansionAngle } from "./gasDynamics.ts";
import { GAMMA, MACH } from "./parameters.ts";
import { pointwise, solution } from "./solution.ts";

/** Supersonic flow around a corner that gives way. */
export const expansionFan = solution({
  id: "expansion-fan",
  name: "Expansion fan",
  subject: "Gas: waves and shocks",
  words: "prandtl meyer corner expansion supersonic isentropic",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "\\nu(M) = \\sqrt{\\tfrac{\\gamma+1}{\\gamma-1}}\\arctan\\sqrt{\\tfrac{\\gamma-1}{\\gamma+1}(M^2-1)}-\\arctan\\sqrt{M^2-1}, \\qquad \\nu(M_2) = \\nu(M_1)+\\theta",
  ],
  source: "Liepmann & Roshko, Elements of Gasdynamics (1957), section 4.10; perfect gas",
  physics: { compressible: true, inviscid: true, space: "plane" },
  parameters: [
    MACH,
    { key: "turning", label: "Angle the corner gives way by", symbol: "\\theta", unit: "rad", preset: 0.1745329252, low: 1e-6, high: 2.2 },
    GAMMA,
  ],
  range: () => [{ inside: true, sentence: "Exact for a perfect gas; it says nothing of the gas that condenses when it grows cold." }],
  values: (p) => {
    const s = cornerExpansion(p.mach, p.turning, p.gamma);
    return [
      { key: "mach", name: "Mach number behind", unit: "", value: s.machBehind },
      { key: "pressure", name: "pressure behind over that ahead", unit: "", value: s.pressureRatio },
      { key: "temperature", name: "temperature behind over that ahead", unit: "", value: s.pressureRatio ** ((p.gamma - 1) / p.gamma) },
      { key: "head", name: "angle of the first wave to the flow ahead", unit: "rad", value: Math.asin(1 / p.mach) },
      { key: "tail", name: "angle of the last wave to the flow ahead", unit: "rad", value: Math.asin(1 / s.machBehind) - p.turning },
    ];
  },
  curves: (p) => [
    {
      key: "angle",
      name: "angle a sonic flow has turned by, over Mach number",
      x: { name: "Mach number", unit: "" },
      y: { name: "turning from sonic", unit: "rad" },
      from: 1,
      to: Math.max(3, p.mach),
      sample: pointwise((m) => expansionAngle(m, p.gamma)),
    },
  ],
});
