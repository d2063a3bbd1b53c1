import { DENSITY, KINEMATIC, LENGTH, SPEED } from "./parameters.ts";
import { pointwise, solution } from "./solution.ts";

interface Wake {
  readonly speedMS: number;
  readonly spacingM: number;
  readonly kinematicM2S: number;
}

/** lambda of the exact wake: Re/2 - sqrt(Re^2/4 + 4 pi^2), with Re = U L / nu. */
export function wakeDecay(p: Wake): number {
  const half = (p.speedMS * p.spacingM) / p.kinematicM2S / 2;
  // Written so that nothing cancels at large Reynolds numbers.
  return (-4 * Math.PI ** 2) / (half + Math.sqrt(half * half + 4 * Math.PI ** 2));
}

/** Steady laminar flow behind a grid of bars. */
export const gridWake = solution({
  id: "grid-wake",
  name: "Wake of a grid",
  subject: "Jets and wakes",
  words: "kovasznay exact navier stokes two-dimensional grid laminar wake",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "u = U\\left(1-e^{\\lambda x/L}\\cos\\frac{2\\pi y}{L}\\right), \\qquad v = \\frac{\\lambda U}{2\\pi}e^{\\lambda x/L}\\sin\\frac{2\\pi y}{L}",
    "p = p_0 - \\tfrac12\\rho U^2 e^{2\\lambda x/L}, \\qquad \\lambda = \\frac{\\mathit{Re}}{2}-\\sqrt{\\frac{\\mathit{Re}^2}{4}+4\\pi^2}",
  ],
  source: "Kovasznay, Proc. Camb. Phil. Soc. 44, 58 (1948)",
  physics: { space: "plane" },
  parameters: [
    { ...SPEED, key: "speedMS", label: "Mean speed" },
    { ...LENGTH, key: "spacingM", label: "Spacing of the bars", symbol: "L", preset: 0.001, like: "length" },
    { ...LENGTH, key: "xM", label: "Distance behind the grid", symbol: "x", preset: 0.001, low: 0, log: false },
    KINEMATIC,
    DENSITY,
  ],
  range: () => [{ inside: true, sentence: "Exact at every Reynolds number; a real grid's wake stays laminar up to about Re 60." }],
  values: (p) => {
    const size = Math.exp((wakeDecay(p) * p.xM) / p.spacingM);
    return [
      { key: "lambda", name: "decay per spacing", unit: "", value: wakeDecay(p) },
      { key: "deficit", name: "velocity on the middle line behind a bar", unit: "m/s", value: p.speedMS * (1 - size) },
      { key: "pressure", name: "pressure below that far away", unit: "Pa", value: 0.5 * p.densityKgM3 * p.speedMS ** 2 * size ** 2 },
    ];
  },
  curves: (p) => [
    {
      key: "across",
      name: "velocity across the wake",
      x: { name: "y", unit: "m" },
      y: { name: "velocity u", unit: "m/s" },
      from: -p.spacingM / 2,
      to: p.spacingM / 2,
      sample: pointwise((y) => p.speedMS * (1 - Math.exp((wakeDecay(p) * p.xM) / p.spacingM) * Math.cos((2 * Math.PI * y) / p.spacingM))),
    },
    {
      key: "along",
      name: "velocity on the middle line",
      x: { name: "x", unit: "m" },
      y: { name: "velocity u", unit: "m/s" },
      from: 0,
      to: 3 * p.spacingM,
      sample: pointwise((x) => p.speedMS * (1 - Math.exp((wakeDecay(p) * x) / p.spacingM))),
    },
  ],
});
