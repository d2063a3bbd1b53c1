import { KINEMATIC, LENGTH, SPEED } from "./parameters.ts";
import { similarLayer } from "./similarLayers.ts";
import { solution, within } from "./solution.ts";

/** m-form: U = C x^m, eta = y sqrt((m + 1) U / (2 nu x)), f''' + f f'' + beta (1 - f'^2) = 0, beta = 2 m / (m + 1) */
const layer = (m: number) => similarLayer({ a: 1, b: (2 * m) / (m + 1) });

/** Laminar boundary layers under a speed that goes with a power of the distance. */
export const wedgeFlow = solution({
  id: "wedge-flow",
  name: "Wedge flow",
  subject: "Boundary layers",
  words: "falkner skan boundary layer pressure gradient separation accelerated decelerated",
  nature: "similarity",
  uncertainty: 0,
  costly: true,
  formulas: [
    "f''' + f f'' + \\beta(1-f'^2) = 0, \\quad \\beta = \\frac{2m}{m+1}, \\quad U = C x^m, \\quad \\eta = y\\sqrt{\\frac{m+1}{2}\\frac{U}{\\nu x}}",
    "c_f = 2 f''(0)\\sqrt{\\frac{m+1}{2\\,\\mathit{Re}_x}}",
  ],
  source: "Falkner & Skan, Phil. Mag. 12, 865 (1931); Hartree, Proc. Camb. Phil. Soc. 33, 223 (1937)",
  physics: { space: "plane" },
  parameters: [
    { key: "m", label: "Exponent of the outer speed", symbol: "m", unit: "", preset: 1 / 3, low: -0.0904, high: 2 },
    { ...SPEED, key: "speedMS", label: "Outer speed here" },
    { ...LENGTH, key: "xM", label: "Distance from the edge", symbol: "x", preset: 0.5, like: "length" },
    KINEMATIC,
  ],
  range: (p) => [
    within("The exponent m", p.m, { low: -0.0904 }),
    within("The Reynolds number of the distance", (p.speedMS * p.xM) / p.kinematicM2S, { low: 1e3, high: 5e5 }),
  ],
  values: (p) => {
    const { wall, displacement, momentum } = layer(p.m);
    const reynolds = (p.speedMS * p.xM) / p.kinematicM2S;
    const unit = p.xM / Math.sqrt(((p.m + 1) / 2) * reynolds);
    return [
      { key: "cf", name: "skin friction coefficient here", unit: "", value: 2 * wall * Math.sqrt((p.m + 1) / (2 * reynolds)) },
      { key: "curvature", name: "f'' at the wall", unit: "", value: wall },
      { key: "displacement", name: "displacement thickness", unit: "m", value: displacement * unit },
      { key: "momentum", name: "momentum thickness", unit: "m", value: momentum * unit },
      { key: "shape", name: "shape factor", unit: "", value: displacement / momentum },
    ];
  },
  curves: (p) => {
    const unit = Math.sqrt((2 * p.kinematicM2S * p.xM) / ((p.m + 1) * p.speedMS));
    return [
      {
        key: "profile",
        name: "velocity along the wall",
        x: { name: "height y", unit: "m" },
        y: { name: "velocity u", unit: "m/s" },
        from: 0,
        to: 6 * unit,
        sample: (ys) =>
          layer(p.m)
            .at(ys.map((y) => y / unit))
            .map((s) => p.speedMS * s[1]),
      },
    ];
  },
});
