import { KINEMATIC, PHASE, SPEED } from "./parameters.ts";
import { pointwise, solution } from "./solution.ts";

/** A plate that swings in its own plane under resting fluid. */
export const oscillatingPlate = solution({
  id: "oscillating-plate",
  name: "Swinging plate",
  subject: "Moving walls",
  words: "stokes second problem oscillating wall transient penetration depth",
  nature: "exact",
  uncertainty: 0,
  formulas: ["u = U e^{-y/\\delta}\\cos(\\omega t - y/\\delta), \\qquad \\delta = \\sqrt{2\\nu/\\omega}"],
  source: "Stokes (1851); Schlichting & Gersten, Boundary-Layer Theory, 9th ed., section 5.3",
  physics: { transient: true, space: "plane" },
  parameters: [
    { ...SPEED, key: "speedMS", label: "Largest speed of the plate" },
    KINEMATIC,
    { key: "frequencyHz", label: "Frequency", symbol: "\\omega/2\\pi", unit: "Hz", preset: 1, low: 1e-6, high: 1e6, log: true },
    PHASE,
  ],
  range: () => [
    { inside: true, sentence: "The swing has gone on long enough that its start is forgotten, and the fluid reaches some ten layers far." },
  ],
  values: (p) => {
    const delta = depth(p);
    return [
      { key: "depth", name: "thickness of the layer", unit: "m", value: delta },
      { key: "wavelength", name: "wavelength", unit: "m", value: 2 * Math.PI * delta },
      {
        key: "shear",
        name: "wall shear stress over density",
        unit: "m^2/s^2",
        value: ((-p.kinematicM2S * p.speedMS) / delta) * (Math.cos(p.phase) - Math.sin(p.phase)),
      },
    ];
  },
  curves: (p) => [
    {
      key: "profile",
      name: "velocity over the height at this phase",
      x: { name: "height y", unit: "m" },
      y: { name: "velocity u", unit: "m/s" },
      from: 0,
      to: 6 * depth(p),
      sample: pointwise((y) => p.speedMS * Math.exp(-y / depth(p)) * Math.cos(p.phase - y / depth(p))),
    },
  ],
});

const depth = (p: { readonly kinematicM2S: number; readonly frequencyHz: number }) => Math.sqrt(p.kinematicM2S / (Math.PI * p.frequencyHz));
