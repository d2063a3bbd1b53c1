import { KINEMATIC } from "./parameters.ts";
import { similarLayer } from "./similarLayers.ts";
import { solution } from "./solution.ts";

/** eta = y sqrt(B / nu): plane f''' + f f'' + 1 - f'^2 = 0, round f''' + 2 f f'' + 1 - f'^2 = 0 */
const layer = (round: number) => similarLayer({ a: round ? 2 : 1, b: 1 });

/** Viscous flow against a wall, plane or round: an exact solution of the full equations. */
export const stagnationFlow = solution({
  id: "stagnation-flow",
  name: "Stagnation flow",
  subject: "Boundary layers",
  words: "hiemenz homann stagnation point impinging plane axisymmetric",
  nature: "similarity",
  uncertainty: 0,
  costly: true,
  formulas: [
    "f''' + n f f'' + 1 - f'^2 = 0, \\quad n = 1 \\text{ plane}, \\; 2 \\text{ round}, \\quad \\eta = y\\sqrt{B/\\nu}",
    "u = B x f'(\\eta), \\qquad v = -n\\sqrt{B\\nu}\\, f(\\eta)",
  ],
  source: "Hiemenz, Dinglers J. 326, 321 (1911); Homann, Z. angew. Math. Mech. 16, 153 (1936)",
  physics: {},
  parameters: [
    {
      key: "round",
      label: "Shape",
      symbol: "n",
      unit: "",
      preset: 0,
      low: 0,
      high: 1,
      choices: [
        [0, "plane"],
        [1, "round"],
      ],
    },
    { key: "rateS", label: "Rate of strain outside", symbol: "B", unit: "1/s", preset: 10, low: 1e-4, high: 1e6, log: true },
    KINEMATIC,
  ],
  range: () => [{ inside: true, sentence: "It holds near the stagnation point, where the outer speed grows with the distance." }],
  values: (p) => {
    const { wall, displacement, thickness } = layer(p.round);
    const unit = Math.sqrt(p.kinematicM2S / p.rateS);
    return [
      { key: "curvature", name: "f'' at the wall", unit: "", value: wall },
      {
        key: "shear",
        name: "wall shear stress over density and distance",
        unit: "m/s^2",
        value: wall * p.rateS * Math.sqrt(p.rateS * p.kinematicM2S),
      },
      { key: "displacement", name: "displacement thickness", unit: "m", value: displacement * unit },
      { key: "thickness", name: "thickness where u is 99 %", unit: "m", value: thickness * unit },
    ];
  },
  curves: (p) => {
    const unit = Math.sqrt(p.kinematicM2S / p.rateS);
    const scaled = (ys: readonly number[]) => layer(p.round).at(ys.map((y) => y / unit));
    const ends = { x: { name: "height y", unit: "m" }, from: 0, to: 4 * unit };
    return [
      {
        key: "along",
        name: "velocity along the wall over its outer value",
        y: { name: "u / (B x)", unit: "" },
        ...ends,
        sample: (ys) => scaled(ys).map((s) => s[1]),
      },
      {
        key: "towards",
        name: "velocity towards the wall",
        y: { name: "velocity v", unit: "m/s" },
        ...ends,
        sample: (ys) => scaled(ys).map((s) => -(p.round ? 2 : 1) * Math.sqrt(p.rateS * p.kinematicM2S) * s[0]),
      },
    ];
  },
});
