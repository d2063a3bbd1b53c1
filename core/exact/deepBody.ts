import { erfc } from "../numeric/errorFunction.ts";
import { pointwise, solution } from "./solution.ts";

/** Depth whose surface takes another temperature at once. */
export const deepBody = solution({
  id: "deep-body",
  name: "Deep body with a new surface temperature",
  subject: "Conduction",
  words: "semi-infinite solid erfc transient conduction ground penetration",
  nature: "exact",
  uncertainty: 0,
  formulas: ["\\frac{T-T_0}{T_s-T_0} = \\operatorname{erfc}\\frac{x}{2\\sqrt{at}}, \\qquad q = \\frac{k(T_s-T_0)}{\\sqrt{\\pi a t}}"],
  source: "Carslaw & Jaeger, Conduction of Heat in Solids, section 2.4",
  physics: { heat: true, transient: true },
  parameters: [
    { key: "firstK", label: "Temperature at first", symbol: "T_0", unit: "K", preset: 285, low: 1, high: 4000 },
    { key: "surfaceK", label: "Temperature of the surface", symbol: "T_s", unit: "K", preset: 255, low: 1, high: 4000 },
    { key: "diffusivityM2S", label: "Thermal diffusivity", symbol: "a", unit: "m^2/s", preset: 5e-7, low: 1e-9, high: 1e-2, log: true },
    { key: "conductivity", label: "Conductivity", symbol: "k", unit: "W/(m K)", preset: 1.5, low: 1e-4, high: 1e4, log: true },
    { key: "timeS", label: "Time", symbol: "t", unit: "s", preset: 3600, low: 1e-3, high: 1e10, log: true },
  ],
  range: () => [{ inside: true, sentence: "It holds while the far end has not felt the surface." }],
  values: (p) => [
    {
      key: "flux",
      name: "heat flux into the body",
      unit: "W/m^2",
      value: (p.conductivity * (p.surfaceK - p.firstK)) / Math.sqrt(Math.PI * p.diffusivityM2S * p.timeS),
    },
    { key: "depth", name: "depth where a hundredth of the change has come", unit: "m", value: 3.6427727484 * Math.sqrt(p.diffusivityM2S * p.timeS) },
  ],
  curves: (p) => [
    {
      key: "profile",
      name: "temperature over the depth",
      x: { name: "depth x", unit: "m" },
      y: { name: "temperature", unit: "K" },
      from: 0,
      to: 6 * Math.sqrt(p.diffusivityM2S * p.timeS),
      sample: pointwise((x) => p.firstK + (p.surfaceK - p.firstK) * erfc(x / (2 * Math.sqrt(p.diffusivityM2S * p.timeS)))),
    },
  ],
});
