import { KINEMATIC, LENGTH, SPEED } from "./parameters.ts";
import { similarLayer } from "./similarLayers.ts";
import { pointwise, solution, within } from "./solution.ts";

/** eta = y sqrt(U / (nu x)): f''' + f f'' / 2 = 0 */
const layer = () => similarLayer({ a: 0.5, b: 0 });

/** Laminar boundary layer along a flat plate. */
export const flatPlate = solution({
  id: "flat-plate",
  name: "Laminar flat plate",
  subject: "Boundary layers",
  words: "blasius boundary layer zero pressure gradient skin friction displacement momentum thickness",
  nature: "similarity",
  uncertainty: 0,
  costly: true,
  formulas: [
    "f''' + \\tfrac12 f f'' = 0, \\quad f(0)=f'(0)=0, \\quad f'(\\infty)=1, \\quad \\eta = y\\sqrt{U/\\nu x}, \\quad u = U f'",
    "c_f = \\frac{2 f''(0)}{\\sqrt{\\mathit{Re}_x}} = \\frac{0.664}{\\sqrt{\\mathit{Re}_x}}",
  ],
  source: "Blasius, Z. Math. Phys. 56, 1 (1908); Schlichting & Gersten, Boundary-Layer Theory, section 6.5",
  physics: { space: "plane" },
  parameters: [
    { ...SPEED, key: "speedMS", label: "Speed outside the layer" },
    { ...LENGTH, key: "xM", label: "Distance from the leading edge", symbol: "x", preset: 0.5, like: "length" },
    KINEMATIC,
  ],
  range: (p) => [within("The Reynolds number of the distance", (p.speedMS * p.xM) / p.kinematicM2S, { low: 1e3, high: 5e5 })],
  values: (p) => {
    const { wall, displacement, momentum, thickness } = layer();
    const reynolds = (p.speedMS * p.xM) / p.kinematicM2S;
    const unit = p.xM / Math.sqrt(reynolds);
    return [
      { key: "cf", name: "skin friction coefficient here", unit: "", value: (2 * wall) / Math.sqrt(reynolds) },
      { key: "cfMean", name: "skin friction coefficient, mean up to here", unit: "", value: (4 * wall) / Math.sqrt(reynolds) },
      { key: "shear", name: "wall shear stress over density", unit: "m^2/s^2", value: (p.speedMS ** 2 * wall) / Math.sqrt(reynolds) },
      { key: "displacement", name: "displacement thickness", unit: "m", value: displacement * unit },
      { key: "momentum", name: "momentum thickness", unit: "m", value: momentum * unit },
      { key: "thickness", name: "thickness where u is 99 %", unit: "m", value: thickness * unit },
      { key: "shape", name: "shape factor", unit: "", value: displacement / momentum },
    ];
  },
  curves: (p) => {
    const unit = Math.sqrt((p.kinematicM2S * p.xM) / p.speedMS);
    const scaled = (places: readonly number[]) => layer().at(places.map((y) => y / unit));
    const ends = { x: { name: "height y", unit: "m" }, from: 0, to: 9 * unit };
    return [
      {
        key: "profile",
        name: "velocity along the plate",
        y: { name: "velocity u", unit: "m/s" },
        ...ends,
        sample: (ys) => scaled(ys).map((s) => p.speedMS * s[1]),
      },
      {
        key: "across",
        name: "velocity away from the plate",
        y: { name: "velocity v", unit: "m/s" },
        ...ends,
        sample: (ys) => scaled(ys).map((s, i) => 0.5 * Math.sqrt((p.kinematicM2S * p.speedMS) / p.xM) * ((ys[i] / unit) * s[1] - s[0])),
      },
      {
        key: "friction",
        name: "skin friction along the plate",
        x: { name: "distance x", unit: "m" },
        y: { name: "skin friction coefficient", unit: "" },
        from: p.xM / 50,
        to: p.xM,
        sample: pointwise((x) => (2 * layer().wall) / Math.sqrt((p.speedMS * x) / p.kinematicM2S)),
      },
    ];
  },
});
