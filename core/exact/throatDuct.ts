import { areaRatio, ductFlow, machOfArea, normalShock } from "./gasDynamics.ts";
import { GAMMA } from "./parameters.ts";
import { pointwise, solution } from "./solution.ts";

/** Gas out of a reservoir through a duct with a throat. */
export const throatDuct = solution({
  id: "throat-duct",
  name: "Duct with a throat",
  subject: "Gas: ducts",
  words: "converging diverging isentropic choked shock in duct quasi one-dimensional area ratio back pressure",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "\\frac{A}{A^*} = \\frac1M\\left[\\frac{2}{\\gamma+1}\\left(1+\\tfrac{\\gamma-1}{2}M^2\\right)\\right]^{\\frac{\\gamma+1}{2(\\gamma-1)}}, \\qquad \\frac{p}{p_0} = \\left(1+\\tfrac{\\gamma-1}{2}M^2\\right)^{-\\frac{\\gamma}{\\gamma-1}}",
  ],
  source: "Liepmann & Roshko, Elements of Gasdynamics (1957), chapter 5; one-dimensional, no friction",
  physics: { compressible: true, inviscid: true },
  parameters: [
    { key: "exitArea", label: "Exit area over throat area", symbol: "A_e/A_t", unit: "", preset: 1.5, low: 1.0001, high: 1000, log: true },
    { key: "back", label: "Exit pressure over reservoir pressure", symbol: "p_b/p_0", unit: "", preset: 0.7, low: 1e-6, high: 0.999999 },
    GAMMA,
  ],
  range: () => [{ inside: true, sentence: "Exact for one-dimensional flow of a perfect gas without friction." }],
  values: (p) => {
    const flow = ductFlow(p.exitArea, p.back, p.gamma);
    const exit = flow.at(p.exitArea, true);
    const throat = flow.at(1, false);
    // Mass flow by its sonic value; below it the throat's own Mach number decides.
    const share = flow.choked ? 1 : 1 / areaRatio(throat.mach, p.gamma);
    const shock = flow.shockArea === undefined ? undefined : machOfArea(flow.shockArea, p.gamma, "supersonic");
    return [
      { key: "exitMach", name: "Mach number at the exit", unit: "", value: exit.mach },
      { key: "exitPressure", name: "pressure at the exit over the reservoir's", unit: "", value: exit.pressure },
      { key: "throatMach", name: "Mach number in the throat", unit: "", value: flow.choked ? 1 : throat.mach },
      { key: "flow", name: "mass flow over the choked one", unit: "", value: share },
      ...(shock === undefined || flow.shockArea === undefined
        ? []
        : [
            { key: "shockArea", name: "area at the shock over throat area", unit: "", value: flow.shockArea },
            { key: "shockMach", name: "Mach number ahead of the shock", unit: "", value: shock },
            {
              key: "total",
              name: "total pressure behind the shock over the reservoir's",
              unit: "",
              value: normalShock(shock, p.gamma).totalPressureRatio,
            },
          ]),
    ];
  },
  curves: (p) => {
    const flow = ductFlow(p.exitArea, p.back, p.gamma);
    const ends = { x: { name: "area over throat area, behind the throat", unit: "" }, from: 1, to: p.exitArea };
    return [
      {
        key: "pressure",
        name: "pressure behind the throat",
        y: { name: "pressure over the reservoir's", unit: "" },
        ...ends,
        sample: pointwise((a) => flow.at(a, true).pressure),
      },
      {
        key: "mach",
        name: "Mach number behind the throat",
        y: { name: "Mach number", unit: "" },
        ...ends,
        sample: pointwise((a) => flow.at(a, true).mach),
      },
    ];
  },
});
