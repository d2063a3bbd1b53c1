import { scaledBesselI } from "../numeric/bessel.ts";
import { type Complex, divided, times } from "../numeric/complex.ts";
import { DENSITY, LENGTH, PHASE, VISCOSITY } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

interface Pulse {
  readonly radiusM: number;
  readonly amplitudePaM: number;
  readonly frequencyHz: number;
  readonly phase: number;
  readonly densityKgM3: number;
  readonly viscosityPaS: number;
}

/** Radius over the thickness of the oscillating layer: R sqrt(omega / nu). */
export const womersley = (p: Pulse) => p.radiusM * Math.sqrt((2 * Math.PI * p.frequencyHz * p.densityKgM3) / p.viscosityPaS);

/** sqrt(i) x. */
const turned = (x: number): Complex => [x * Math.SQRT1_2, x * Math.SQRT1_2];

/** Amplitude of the velocity at a radius as a complex number: the velocity is its real part turned by exp(i omega t). */
function amplitude(p: Pulse, r: number): Complex {
  const alpha = womersley(p);
  const share = r / p.radiusM;
  const ratio = divided(scaledBesselI(0, turned(alpha * share)), scaledBesselI(0, turned(alpha)));
  // Both functions were taken over their growth.
  const size = Math.exp(alpha * Math.SQRT1_2 * (share - 1));
  const k = p.amplitudePaM / (p.densityKgM3 * 2 * Math.PI * p.frequencyHz);
  return times([0, -k], [1 - size * ratio[0], -size * ratio[1]]);
}

/** Velocity at a radius, m/s, under the pressure gradient -dp/dx = K cos(omega t). */
export function pulsatingVelocity(p: Pulse, r: number): number {
  const [a, b] = amplitude(p, r);
  return a * Math.cos(p.phase) - b * Math.sin(p.phase);
}

function flowRate(p: Pulse): number {
  const z = turned(womersley(p));
  const [a, b] = divided(scaledBesselI(1, z), times(z, scaledBesselI(0, z)));
  const k = (p.amplitudePaM * Math.PI * p.radiusM ** 2) / (p.densityKgM3 * 2 * Math.PI * p.frequencyHz);
  const [c, d] = times([0, -k], [1 - 2 * a, -2 * b]);
  return c * Math.cos(p.phase) - d * Math.sin(p.phase);
}

/** Laminar pipe flow under a pressure gradient that swings about zero. */
export const pulsatingPipe = solution({
  id: "pulsating-pipe",
  name: "Pulsating pipe",
  subject: "Ducts and plates",
  words: "womersley oscillating tube transient pulse laminar bessel",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "u = \\Re\\left\\{\\frac{K}{i\\omega\\rho}\\left[1-\\frac{I_0(\\sqrt{i}\\,\\alpha\\, r/R)}{I_0(\\sqrt{i}\\,\\alpha)}\\right]e^{i\\omega t}\\right\\}, \\qquad -\\frac{dp}{dx}=K\\cos\\omega t",
    "\\alpha = R\\sqrt{\\omega/\\nu}",
  ],
  source: "Womersley, J. Physiol. 127, 553 (1955); White, Viscous Fluid Flow, section 3-4.2",
  physics: { transient: true, space: "axisymmetric" },
  parameters: [
    { ...LENGTH, key: "radiusM", label: "Radius", symbol: "R", preset: 0.01, like: "length" },
    { key: "amplitudePaM", label: "Amplitude of the pressure gradient", symbol: "K", unit: "Pa/m", preset: 1, low: 1e-9, high: 1e7, log: true },
    { key: "frequencyHz", label: "Frequency", symbol: "\\omega/2\\pi", unit: "Hz", preset: 1, low: 1e-4, high: 1e4, log: true },
    PHASE,
    VISCOSITY,
    DENSITY,
  ],
  range: (p) => {
    const alpha = womersley(p);
    const layer = Math.sqrt(p.viscosityPaS / (p.densityKgM3 * Math.PI * p.frequencyHz));
    const fastest = Math.hypot(...amplitude(p, 0));
    return [
      within("The Womersley number", alpha, { high: 1000 }),
      within("The Reynolds number of the oscillating layer", (p.densityKgM3 * fastest * layer) / p.viscosityPaS, { high: 500 }),
    ];
  },
  values: (p) => [
    { key: "womersley", name: "Womersley number", unit: "", value: womersley(p) },
    { key: "axis", name: "velocity on the axis", unit: "m/s", value: pulsatingVelocity(p, 0) },
    { key: "swing", name: "amplitude of the velocity on the axis", unit: "m/s", value: Math.hypot(...amplitude(p, 0)) },
    { key: "flowRate", name: "flow rate", unit: "m^3/s", value: flowRate(p) },
  ],
  curves: (p) => [
    {
      key: "profile",
      name: "velocity over the radius at this phase",
      x: { name: "radius r", unit: "m" },
      y: { name: "velocity u", unit: "m/s" },
      from: 0,
      to: p.radiusM,
      sample: pointwise((r) => pulsatingVelocity(p, r)),
    },
    {
      key: "history",
      name: "flow rate over a period",
      x: { name: "phase", unit: "" },
      y: { name: "flow rate", unit: "m^3/s" },
      from: 0,
      to: 2 * Math.PI,
      sample: pointwise((phase) => flowRate({ ...p, phase })),
    },
  ],
});
