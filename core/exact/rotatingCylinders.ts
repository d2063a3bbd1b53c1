import { DENSITY, LENGTH, VISCOSITY } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

interface Cylinders {
  readonly innerM: number;
  readonly outerM: number;
  readonly innerTurns: number;
  readonly outerTurns: number;
  readonly densityKgM3: number;
  readonly viscosityPaS: number;
}

/** A and B of v = A r + B / r. */
function constants({ innerM: a, outerM: b, innerTurns, outerTurns }: Cylinders): readonly [number, number] {
  if (!(b > a)) throw new RangeError("The outer radius must be larger than the inner one.");
  const wide = b * b - a * a;
  return [(outerTurns * b * b - innerTurns * a * a) / wide, ((innerTurns - outerTurns) * a * a * b * b) / wide];
}

/** Laminar flow between two cylinders that turn about one axis. */
export const rotatingCylinders = solution({
  id: "rotating-cylinders",
  name: "Rotating cylinders",
  subject: "Moving walls",
  words: "couette taylor concentric turning annulus torque swirl",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "v_\\theta = A r + \\frac{B}{r}, \\quad A = \\frac{\\Omega_b b^2 - \\Omega_a a^2}{b^2-a^2}, \\quad B = \\frac{(\\Omega_a-\\Omega_b)a^2b^2}{b^2-a^2}",
    "T' = 4\\pi\\mu B",
  ],
  source: "White, Viscous Fluid Flow, 3rd ed., section 3-2.3; stability: Taylor, Phil. Trans. A 223, 289 (1923)",
  physics: { space: "axisymmetric" },
  parameters: [
    { ...LENGTH, key: "innerM", label: "Inner radius", symbol: "a", preset: 0.02, like: "length" },
    { ...LENGTH, key: "outerM", label: "Outer radius", symbol: "b", preset: 0.022 },
    { key: "innerTurns", label: "Speed of the inner cylinder", symbol: "\\Omega_a", unit: "rad/s", preset: 1, low: -1e5, high: 1e5 },
    { key: "outerTurns", label: "Speed of the outer cylinder", symbol: "\\Omega_b", unit: "rad/s", preset: 0, low: -1e5, high: 1e5 },
    VISCOSITY,
    DENSITY,
  ],
  range: (p) => {
    const gap = p.outerM - p.innerM;
    const nu = p.viscosityPaS / p.densityKgM3;
    // Where the swirl grows outward in both senses the flow is stable at any speed.
    const spread = p.innerTurns * p.innerM ** 2 - p.outerTurns * p.outerM ** 2;
    const stable = spread * Math.sign(p.innerTurns) <= 0 && p.innerTurns * p.outerTurns >= 0;
    const taylor = (2 * p.innerTurns * spread * gap ** 3) / (nu * nu * (p.innerM + p.outerM));
    return [
      stable
        ? { inside: true, sentence: "The swirl grows outward: the flow is stable." }
        : within("The Taylor number", Math.abs(taylor), { high: 1708 }),
    ];
  },
  values: (p) => {
    const [, b] = constants(p);
    return [
      { key: "torque", name: "torque on the outer cylinder per length", unit: "N", value: 4 * Math.PI * p.viscosityPaS * b },
      { key: "innerShear", name: "shear stress at the inner cylinder", unit: "Pa", value: (-2 * p.viscosityPaS * b) / p.innerM ** 2 },
      { key: "outerShear", name: "shear stress at the outer cylinder", unit: "Pa", value: (-2 * p.viscosityPaS * b) / p.outerM ** 2 },
      { key: "pressure", name: "pressure at the outer cylinder above the inner", unit: "Pa", value: pressure(p, p.outerM) },
    ];
  },
  curves: (p) => {
    const [a, b] = constants(p);
    const x = { name: "radius r", unit: "m" };
    const ends = { from: p.innerM, to: p.outerM };
    return [
      {
        key: "profile",
        name: "swirl across the gap",
        x,
        y: { name: "swirl velocity", unit: "m/s" },
        ...ends,
        sample: pointwise((r) => a * r + b / r),
      },
      {
        key: "pressure",
        name: "pressure across the gap",
        x,
        y: { name: "pressure above the inner wall's", unit: "Pa" },
        ...ends,
        sample: pointwise((r) => pressure(p, r)),
      },
    ];
  },
});

/** Pressure above that at the inner cylinder: the integral of rho v^2 / r. */
function pressure(p: Cylinders, r: number): number {
  const [a, b] = constants(p);
  const part = (x: number) => (a * a * x * x) / 2 + 2 * a * b * Math.log(x) - (b * b) / (2 * x * x);
  return p.densityKgM3 * (part(r) - part(p.innerM));
}
