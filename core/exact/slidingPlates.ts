import { DENSITY, LENGTH, PRESSURE_GRADIENT, VISCOSITY } from "./parameters.ts";
import { platesFlowRate, platesShear, platesVelocity } from "./plates.ts";
import { pointwise, solution, within } from "./solution.ts";

/** Flow between plates: one sliding, pushed by a pressure gradient, or both. */
export const slidingPlates = solution({
  id: "plates",
  name: "Parallel plates",
  subject: "Ducts and plates",
  words: "couette poiseuille channel gap sliding wall pressure gradient laminar developed",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "u(y) = \\frac{U y}{H} + \\frac{1}{2\\mu}\\frac{dp}{dx}\\,(y^2 - H y)",
    "\\dot V' = \\frac{U H}{2} - \\frac{H^3}{12\\mu}\\frac{dp}{dx}, \\qquad \\tau_{0,H} = \\frac{\\mu U}{H} \\mp \\frac{H}{2}\\frac{dp}{dx}",
  ],
  source: "White, Viscous Fluid Flow, 3rd ed., section 3-2",
  physics: { space: "plane" },
  parameters: [
    { ...LENGTH, key: "gapM", label: "Gap", symbol: "H", preset: 0.01, like: "length" },
    { key: "wallSpeedMS", label: "Speed of the sliding plate", symbol: "U", unit: "m/s", preset: 0.05, low: -1e3, high: 1e3 },
    PRESSURE_GRADIENT,
    VISCOSITY,
    DENSITY,
  ],
  range: (p) => {
    const mean = Math.abs(platesFlowRate(p)) / p.gapM;
    const fastest = Math.max(mean, Math.abs(p.wallSpeedMS) / 2);
    return [within("The Reynolds number of gap and mean speed", (p.densityKgM3 * fastest * p.gapM) / p.viscosityPaS, { high: 1300 })];
  },
  values: (p) => {
    const { resting, sliding } = platesShear(p);
    const extremum = p.gapM / 2 - (p.viscosityPaS * p.wallSpeedMS) / (p.gapM * p.pressureGradientPaM || Number.MIN_VALUE);
    const inner = extremum > 0 && extremum < p.gapM ? [platesVelocity(p, extremum)] : [];
    const ends = [0, p.wallSpeedMS, ...inner];
    return [
      { key: "flowRate", name: "flow rate per depth", unit: "m^2/s", value: platesFlowRate(p) },
      { key: "mean", name: "mean velocity", unit: "m/s", value: platesFlowRate(p) / p.gapM },
      { key: "largest", name: "largest velocity", unit: "m/s", value: Math.max(...ends) },
      { key: "smallest", name: "smallest velocity", unit: "m/s", value: Math.min(...ends) },
      { key: "resting", name: "shear stress at the resting plate", unit: "Pa", value: resting },
      { key: "sliding", name: "shear stress at the sliding plate", unit: "Pa", value: sliding },
    ];
  },
  curves: (p) => [
    {
      key: "profile",
      name: "velocity across the gap",
      x: { name: "height y", unit: "m" },
      y: { name: "velocity u", unit: "m/s" },
      from: 0,
      to: p.gapM,
      sample: pointwise((y) => platesVelocity(p, y)),
    },
  ],
});
