import { DENSITY, LENGTH, SPEED, VISCOSITY } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

/** Sphere in a slow stream: inertia left out. */
export const creepingSphere = solution({
  id: "creeping-sphere",
  name: "Sphere in creeping flow",
  subject: "Bodies",
  words: "stokes drag law settling sphere low reynolds",
  nature: "asymptotic",
  uncertainty: 0.02,
  uncertaintyNote: "what the next term, 3 Re / 16, would add",
  formulas: [
    "F = 3\\pi\\mu D U, \\qquad C_D = \\frac{24}{\\mathit{Re}}",
    "u_r = U\\cos\\theta\\left(1-\\frac{3R}{2r}+\\frac{R^3}{2r^3}\\right), \\quad u_\\theta = -U\\sin\\theta\\left(1-\\frac{3R}{4r}-\\frac{R^3}{4r^3}\\right)",
  ],
  source: "Stokes, Trans. Camb. Phil. Soc. 9, 8 (1851); Batchelor, An Introduction to Fluid Dynamics, section 4.9",
  physics: { space: "axisymmetric" },
  parameters: [
    { ...LENGTH, key: "diameterM", label: "Diameter", symbol: "D", preset: 1e-5, like: "length" },
    { ...SPEED, key: "speedMS", label: "Speed", preset: 0.05 },
    VISCOSITY,
    DENSITY,
  ],
  range: (p) => [within("The Reynolds number of the diameter", reynolds(p), { high: 0.1 })],
  values: (p) => {
    const uncertainty = (3 / 16) * reynolds(p);
    return [
      { key: "drag", name: "drag", unit: "N", value: 3 * Math.PI * p.viscosityPaS * p.diameterM * p.speedMS, uncertainty },
      { key: "cd", name: "drag coefficient", unit: "", value: 24 / reynolds(p), uncertainty },
      { key: "reynolds", name: "Reynolds number", unit: "", value: reynolds(p), uncertainty: 0 },
    ];
  },
  curves: (p) => [
    {
      key: "beside",
      name: "velocity beside the sphere, at its equator",
      x: { name: "radius r", unit: "m" },
      y: { name: "velocity along the stream", unit: "m/s" },
      from: p.diameterM / 2,
      to: 5 * p.diameterM,
      sample: pointwise((r) => {
        const a = p.diameterM / 2 / r;
        return p.speedMS * (1 - (3 * a) / 4 - a ** 3 / 4);
      }),
    },
    {
      key: "pressure",
      name: "pressure over the surface",
      x: { name: "angle from the front", unit: "rad" },
      y: { name: "pressure above that far away", unit: "Pa" },
      from: 0,
      to: Math.PI,
      sample: pointwise((t) => ((3 * p.viscosityPaS * p.speedMS) / p.diameterM) * Math.cos(t)),
    },
  ],
});

const reynolds = (p: { readonly densityKgM3: number; readonly speedMS: number; readonly diameterM: number; readonly viscosityPaS: number }) =>
  (p.densityKgM3 * p.speedMS * p.diameterM) / p.viscosityPaS;
