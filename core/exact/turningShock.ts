import { largestTurning, obliqueShock } from "./gasDynamics.ts";
import { GAMMA, MACH } from "./parameters.ts";
import { pointwise, solution } from "./solution.ts";

/** Shock that turns the flow, weak or strong, up to where it stands off. */
export const turningShock = solution({
  id: "oblique-shock",
  name: "Oblique shock",
  subject: "Gas: waves and shocks",
  words: "wedge ramp turning weak strong detachment theta beta mach compressible",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "\\tan\\theta = 2\\cot\\beta\\,\\frac{M_1^2\\sin^2\\beta-1}{M_1^2(\\gamma+\\cos 2\\beta)+2}",
    "\\sin^2\\beta_{max} = \\frac{1}{\\gamma M_1^2}\\left[\\tfrac{\\gamma+1}{4}M_1^2-1+\\sqrt{(\\gamma+1)\\left(1+\\tfrac{\\gamma-1}{2}M_1^2+\\tfrac{\\gamma+1}{16}M_1^4\\right)}\\right]",
  ],
  source: "Liepmann & Roshko, Elements of Gasdynamics (1957), section 4.3; perfect gas",
  physics: { compressible: true, inviscid: true, space: "plane" },
  parameters: [
    MACH,
    { key: "turning", label: "Angle the flow is turned by", symbol: "\\theta", unit: "rad", preset: 0.1745329252, low: 1e-4, high: 1 },
    {
      key: "strong",
      label: "Branch",
      symbol: "",
      unit: "",
      preset: 0,
      low: 0,
      high: 1,
      choices: [
        [0, "weak"],
        [1, "strong"],
      ],
    },
    GAMMA,
  ],
  range: (p) =>
    p.strong
      ? [{ inside: false, sentence: "Behind a body in a free stream the weak shock forms; the strong one needs a pressure that holds it." }]
      : [{ inside: true, sentence: "Exact for a perfect gas and a plane ramp." }],
  values: (p) => {
    const s = obliqueShock(p.mach, p.turning, p.gamma, p.strong ? "strong" : "weak");
    const top = largestTurning(p.mach, p.gamma);
    return [
      { key: "angle", name: "angle of the shock", unit: "rad", value: s.angle },
      { key: "pressure", name: "pressure behind over that ahead", unit: "", value: s.pressureRatio },
      { key: "density", name: "density behind over that ahead", unit: "", value: s.densityRatio },
      { key: "mach", name: "Mach number behind", unit: "", value: s.machBehind },
      { key: "largest", name: "largest turning of an attached shock", unit: "rad", value: top.turning },
      { key: "cp", name: "pressure coefficient behind", unit: "", value: (2 * (s.pressureRatio - 1)) / (p.gamma * p.mach ** 2) },
    ];
  },
  curves: (p) => {
    const to = 0.9999 * largestTurning(p.mach, p.gamma).turning;
    const ends = { x: { name: "turning", unit: "rad" }, y: { name: "angle of the shock", unit: "rad" }, from: to / 500, to };
    return (["weak", "strong"] as const).map((branch) => ({
      key: branch,
      name: `angle of the ${branch} shock over turning`,
      ...ends,
      sample: pointwise((t) => obliqueShock(p.mach, t, p.gamma, branch).angle),
    }));
  },
});
