import { LENGTH, shapeOf } from "./parameters.ts";
import { pointwise, solution } from "./solution.ts";

interface Wall {
  readonly round: number;
  readonly innerM: number;
  readonly thicknessM: number;
  readonly conductivity: number;
  readonly insideK: number;
  readonly outsideK: number;
  readonly source: number;
}

/** Temperature a distance into the wall, K: flat, or the wall of a tube. */
function temperature(p: Wall, x: number): number {
  const [dt, s] = [p.outsideK - p.insideK, p.source / p.conductivity];
  if (!p.round) return p.insideK + (dt * x) / p.thicknessM + (s / 2) * x * (p.thicknessM - x);
  const [a, b, r] = [p.innerM, p.innerM + p.thicknessM, p.innerM + x];
  const share = Math.log(r / a) / Math.log(b / a);
  return p.insideK + dt * share + (s / 4) * ((b * b - a * a) * share - (r * r - a * a));
}

/** Heat leaving through the inner and outer face per area of the flat wall, or per length of the tube. */
function flux(p: Wall): { readonly inner: number; readonly outer: number } {
  const drop = p.conductivity * (p.insideK - p.outsideK);
  if (!p.round) return { inner: -drop / p.thicknessM + (p.source * p.thicknessM) / 2, outer: drop / p.thicknessM + (p.source * p.thicknessM) / 2 };
  const [a, b] = [p.innerM, p.innerM + p.thicknessM];
  const log = Math.log(b / a);
  const slope = (r: number) => (p.outsideK - p.insideK) / (r * log) + (p.source / (4 * p.conductivity)) * ((b * b - a * a) / (r * log) - 2 * r);
  return { inner: 2 * Math.PI * a * p.conductivity * slope(a), outer: -2 * Math.PI * b * p.conductivity * slope(b) };
}

/** Steady conduction through a flat wall or the wall of a tube, with heat made inside. */
export const wallConduction = solution({
  id: "wall-conduction",
  name: "Conduction through a wall",
  subject: "Conduction",
  words: "slab cylinder tube steady heat source fourier insulation",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "T = T_1+(T_2-T_1)\\frac{x}{L}+\\frac{\\dot q}{2k}x(L-x) \\quad\\text{flat}",
    "T = T_1+(T_2-T_1)\\frac{\\ln(r/a)}{\\ln(b/a)}+\\frac{\\dot q}{4k}\\left[(b^2-a^2)\\frac{\\ln(r/a)}{\\ln(b/a)}-(r^2-a^2)\\right] \\quad\\text{tube}",
  ],
  source: "Carslaw & Jaeger, Conduction of Heat in Solids, sections 3.2 and 7.2",
  physics: { heat: true },
  parameters: [
    shapeOf("flat wall", "tube"),
    { ...LENGTH, key: "innerM", label: "Inner radius of the tube", symbol: "a", preset: 0.05 },
    { ...LENGTH, key: "thicknessM", label: "Thickness", symbol: "L", preset: 0.12, like: "length" },
    { key: "conductivity", label: "Conductivity", symbol: "k", unit: "W/(m K)", preset: 0.03, low: 1e-4, high: 1e4, log: true },
    { key: "insideK", label: "Temperature of the inner face", symbol: "T_1", unit: "K", preset: 255, low: 1, high: 4000 },
    { key: "outsideK", label: "Temperature of the outer face", symbol: "T_2", unit: "K", preset: 285, low: 1, high: 4000 },
    { key: "source", label: "Heat made inside", symbol: "\\dot q", unit: "W/m^3", preset: 0, low: -1e9, high: 1e9 },
  ],
  range: () => [{ inside: true, sentence: "Exact for a conductivity that does not depend on temperature." }],
  values: (p) => {
    const unit = p.round ? "W/m" : "W/m^2";
    return [
      { key: "inner", name: "heat leaving through the inner face", unit, value: flux(p).inner },
      { key: "outer", name: "heat leaving through the outer face", unit, value: flux(p).outer },
      { key: "middle", name: "temperature in the middle of the wall", unit: "K", value: temperature(p, p.thicknessM / 2) },
    ];
  },
  curves: (p) => [
    {
      key: "profile",
      name: "temperature through the wall",
      x: { name: "distance from the inner face", unit: "m" },
      y: { name: "temperature", unit: "K" },
      from: 0,
      to: p.thicknessM,
      sample: pointwise((x) => temperature(p, x)),
    },
  ],
});
