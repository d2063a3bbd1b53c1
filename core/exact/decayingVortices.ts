import { DENSITY, KINEMATIC, LENGTH, SPEED } from "./parameters.ts";
import { pointwise, solution } from "./solution.ts";

/** A plane lattice of vortices that dies away. */
export const decayingVortices = solution({
  id: "decaying-vortices",
  name: "Decaying vortices",
  subject: "Vortices",
  words: "taylor green lattice periodic transient plane navier stokes energy decay",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "u = U \\sin kx\\cos ky\\; e^{-2\\nu k^2 t}, \\qquad v = -U\\cos kx\\sin ky\\; e^{-2\\nu k^2 t}",
    "p = \\tfrac{\\rho U^2}{4}(\\cos 2kx + \\cos 2ky)\\; e^{-4\\nu k^2 t}",
  ],
  source: "Taylor, Phil. Mag. 46, 671 (1923); Taylor & Green, Proc. R. Soc. A 158, 499 (1937)",
  physics: { transient: true, space: "plane" },
  parameters: [
    { ...SPEED, key: "speedMS", label: "Largest speed at the start" },
    { ...LENGTH, key: "wavelengthM", label: "Wavelength", symbol: "2\\pi/k", preset: 0.2, like: "length" },
    { key: "timeS", label: "Time", symbol: "t", unit: "s", preset: 1, low: 0, high: 1e6 },
    KINEMATIC,
    DENSITY,
  ],
  range: () => [{ inside: true, sentence: "Exact at every Reynolds number; a fast lattice is unstable, and round-off breaks it up in the end." }],
  values: (p) => {
    const decay = fade(p, p.timeS);
    return [
      { key: "largest", name: "largest velocity", unit: "m/s", value: p.speedMS * decay },
      { key: "energy", name: "mean kinetic energy per mass", unit: "m^2/s^2", value: (p.speedMS * decay) ** 2 / 4 },
      { key: "rate", name: "rate of decay of the energy", unit: "1/s", value: 4 * p.kinematicM2S * wave(p) ** 2 },
      { key: "pressure", name: "largest pressure", unit: "Pa", value: (p.densityKgM3 * (p.speedMS * decay) ** 2) / 2 },
    ];
  },
  curves: (p) => [
    {
      key: "energy",
      name: "kinetic energy over time",
      x: { name: "time t", unit: "s" },
      y: { name: "mean kinetic energy per mass", unit: "m^2/s^2" },
      from: 0,
      to: Math.max(p.timeS, 1e-9),
      sample: pointwise((t) => (p.speedMS * fade(p, t)) ** 2 / 4),
    },
    {
      key: "profile",
      name: "velocity along a line through the vortices",
      x: { name: "x", unit: "m" },
      y: { name: "velocity u at y = 0", unit: "m/s" },
      from: 0,
      to: p.wavelengthM,
      sample: pointwise((x) => p.speedMS * fade(p, p.timeS) * Math.sin(wave(p) * x)),
    },
  ],
});

const wave = (p: { readonly wavelengthM: number }) => (2 * Math.PI) / p.wavelengthM;
const fade = (p: { readonly wavelengthM: number; readonly kinematicM2S: number }, t: number) => Math.exp(-2 * p.kinematicM2S * wave(p) ** 2 * t);
