import { normalShock } from "./gasDynamics.ts";
import { GAMMA, MACH } from "./parameters.ts";
import { pointwise, solution } from "./solution.ts";

/** Shock across the flow. */
export const plainShock = solution({
  id: "normal-shock",
  name: "Normal shock",
  subject: "Gas: waves and shocks",
  words: "rankine hugoniot jump compressible total pressure entropy pitot rayleigh",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "\\frac{p_2}{p_1} = 1+\\frac{2\\gamma}{\\gamma+1}(M_1^2-1), \\quad \\frac{\\rho_2}{\\rho_1} = \\frac{(\\gamma+1)M_1^2}{(\\gamma-1)M_1^2+2}, \\quad M_2^2 = \\frac{1+\\frac{\\gamma-1}{2}M_1^2}{\\gamma M_1^2-\\frac{\\gamma-1}{2}}",
  ],
  source: "Liepmann & Roshko, Elements of Gasdynamics (1957), section 2.13; perfect gas",
  physics: { compressible: true, inviscid: true },
  parameters: [MACH, GAMMA],
  range: () => [{ inside: true, sentence: "Exact for a perfect gas." }],
  values: (p) => {
    const s = normalShock(p.mach, p.gamma);
    const temperature = s.pressureRatio / s.densityRatio;
    const ahead = (1 + ((p.gamma - 1) / 2) * p.mach ** 2) ** (p.gamma / (p.gamma - 1));
    return [
      { key: "pressure", name: "pressure behind over that ahead", unit: "", value: s.pressureRatio },
      { key: "density", name: "density behind over that ahead", unit: "", value: s.densityRatio },
      { key: "temperature", name: "temperature behind over that ahead", unit: "", value: temperature },
      { key: "mach", name: "Mach number behind", unit: "", value: s.machBehind },
      { key: "total", name: "total pressure behind over that ahead", unit: "", value: s.totalPressureRatio },
      { key: "pitot", name: "total pressure behind over pressure ahead", unit: "", value: s.totalPressureRatio * ahead },
      { key: "entropy", name: "rise of entropy over the gas constant", unit: "", value: -Math.log(s.totalPressureRatio) },
    ];
  },
  curves: (p) => [
    {
      key: "pressure",
      name: "pressure ratio over Mach number",
      x: { name: "Mach number ahead", unit: "" },
      y: { name: "pressure behind over that ahead", unit: "" },
      from: 1,
      to: Math.max(2, p.mach),
      sample: pointwise((m) => normalShock(m, p.gamma).pressureRatio),
    },
    {
      key: "total",
      name: "total pressure ratio over Mach number",
      x: { name: "Mach number ahead", unit: "" },
      y: { name: "total pressure behind over that ahead", unit: "" },
      from: 1,
      to: Math.max(2, p.mach),
      sample: pointwise((m) => normalShock(m, p.gamma).totalPressureRatio),
    },
  ],
});
