import { riemannSolution } from "./gasDynamics.ts";
import { GAMMA } from "./parameters.ts";
import { pointwise, solution } from "./solution.ts";

interface Tube {
  readonly leftDensity: number;
  readonly leftVelocity: number;
  readonly leftPressure: number;
  readonly rightDensity: number;
  readonly rightVelocity: number;
  readonly rightPressure: number;
  readonly gamma: number;
}

const solve = (p: Tube) =>
  riemannSolution(
    { density: p.leftDensity, velocity: p.leftVelocity, pressure: p.leftPressure },
    { density: p.rightDensity, velocity: p.rightVelocity, pressure: p.rightPressure },
    p.gamma,
  );

/** Two states of a gas in a tube let go at once. */
export const burstTube = solution({
  id: "riemann-problem",
  name: "Riemann problem",
  subject: "Gas: waves and shocks",
  words: "shock tube sod contact rarefaction diaphragm burst disc transient euler",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "f_L(p_*)+f_R(p_*)+u_R-u_L = 0, \\qquad f_K = \\begin{cases}(p-p_K)\\sqrt{\\dfrac{A_K}{p+B_K}} & p>p_K\\\\[4pt] \\dfrac{2c_K}{\\gamma-1}\\left[\\left(\\dfrac{p}{p_K}\\right)^{\\frac{\\gamma-1}{2\\gamma}}-1\\right] & p\\le p_K\\end{cases}",
  ],
  source: "Toro, Riemann Solvers and Numerical Methods for Fluid Dynamics, 3rd ed., chapter 4; perfect gas",
  physics: { compressible: true, inviscid: true, transient: true },
  parameters: [
    { key: "leftDensity", label: "Density on the left", symbol: "\\rho_L", unit: "kg/m^3", preset: 1, low: 1e-6, high: 1e4, log: true },
    { key: "leftVelocity", label: "Velocity on the left", symbol: "u_L", unit: "m/s", preset: 0, low: -1e5, high: 1e5 },
    { key: "leftPressure", label: "Pressure on the left", symbol: "p_L", unit: "Pa", preset: 1, low: 1e-6, high: 1e10, log: true },
    { key: "rightDensity", label: "Density on the right", symbol: "\\rho_R", unit: "kg/m^3", preset: 0.125, low: 1e-6, high: 1e4, log: true },
    { key: "rightVelocity", label: "Velocity on the right", symbol: "u_R", unit: "m/s", preset: 0, low: -1e5, high: 1e5 },
    { key: "rightPressure", label: "Pressure on the right", symbol: "p_R", unit: "Pa", preset: 0.1, low: 1e-6, high: 1e10, log: true },
    { key: "timeS", label: "Time", symbol: "t", unit: "s", preset: 0.2, low: 1e-9, high: 1e3, log: true },
    GAMMA,
  ],
  range: () => [{ inside: true, sentence: "Exact for a perfect gas until a wave meets the end of the tube." }],
  values: (p) => {
    const { star, waves } = solve(p);
    return [
      { key: "pressure", name: "pressure between the waves", unit: "Pa", value: star.pressure },
      { key: "velocity", name: "velocity between the waves", unit: "m/s", value: star.velocity },
      { key: "left", name: "speed of the foremost wave to the left", unit: "m/s", value: waves.left },
      { key: "contact", name: "speed of the contact", unit: "m/s", value: waves.contact },
      { key: "right", name: "speed of the foremost wave to the right", unit: "m/s", value: waves.right },
    ];
  },
  curves: (p) => {
    const { at, waves } = solve(p);
    const reach = 1.3 * p.timeS * Math.max(Math.abs(waves.left), Math.abs(waves.right));
    const ends = { x: { name: "x from the diaphragm", unit: "m" }, from: -reach, to: reach };
    return [
      {
        key: "density",
        name: "density at that time",
        y: { name: "density", unit: "kg/m^3" },
        ...ends,
        sample: pointwise((x) => at(x / p.timeS).density),
      },
      {
        key: "velocity",
        name: "velocity at that time",
        y: { name: "velocity", unit: "m/s" },
        ...ends,
        sample: pointwise((x) => at(x / p.timeS).velocity),
      },
      {
        key: "pressure",
        name: "pressure at that time",
        y: { name: "pressure", unit: "Pa" },
        ...ends,
        sample: pointwise((x) => at(x / p.timeS).pressure),
      },
    ];
  },
});
