import { type DuctFlow, ductFlow } from "../../exact/gasDynamics.ts";
import { GAS, UNIFORM } from "./common.ts";
import type { Parameters, ProblemDescription } from "./problem.ts";

/** Height of the duct over the throat's at x / L: a throat in the middle, smooth at both ends. */
export const contour = (p: Parameters, s: number) => 1 + ((p.openingRatio - 1) * (1 + Math.cos(2 * Math.PI * s))) / 2;

/** steepest slope of the wall */
const slopeOf = (p: Parameters) => ((p.openingRatio - 1) * Math.PI * p.throatM) / (2 * p.lengthM);

export const theory = (p: Parameters): DuctFlow => ductFlow(p.openingRatio, p.backRatio, p.gamma);

/** A duct that narrows to a throat and widens again between a reservoir and a given pressure. */
export const contouredDuct: ProblemDescription = {
  id: "contoured-duct",
  title: "Contoured duct",
  kind: "exact",
  tests: "Choking, passage through the speed of sound and, at higher back pressure, a shock that must stand at the right place.",
  order: "Order 2 without a shock; the shock's position and what lies behind it at order 1.",
  formalOrder: 2,
  physicsWords: { time: "steady", model: "inviscid", space: "plane", compressible: true },
  parameters: [
    { key: "throatM", label: "Height of the throat", unit: "m", preset: 0.02, min: 1e-6, max: 100, help: "Half of the duct is computed." },
    {
      key: "lengthM",
      label: "Length",
      unit: "m",
      preset: 0.4,
      min: 1e-6,
      max: 1000,
      help: "The throat is in the middle; long ducts come close to one-dimensional theory.",
    },
    { key: "openingRatio", label: "Area of the ends over the throat's", unit: "", preset: 1.5, min: 1.01, max: 10, help: "Both ends alike." },
    { key: "totalPressurePa", label: "Reservoir pressure", unit: "Pa", preset: 101325, min: 1, max: 1e9, help: "Total pressure at the inlet." },
    {
      key: "totalTemperatureK",
      label: "Reservoir temperature",
      unit: "K",
      preset: 277.15,
      min: 1,
      max: 1e4,
      help: "Total temperature at the inlet.",
    },
    {
      key: "backRatio",
      label: "Exit pressure over the reservoir's",
      unit: "",
      preset: 0.75,
      min: 0.001,
      max: 0.9999,
      help: "Decides between subsonic flow, a shock inside, and shock-free supersonic flow.",
    },
    ...GAS,
  ],
  quantities: [
    { key: "massFlow", name: "mass flow per depth", symbol: "m", unit: "kg/(s m)", limit: 0.01 },
    { key: "throatPressure", name: "pressure at the throat over the reservoir's", symbol: "p_t/p_0", unit: "1", limit: 0.01 },
    { key: "machDown", name: "Mach number a tenth behind the throat", symbol: "M_0.6", unit: "1", limit: 0.01 },
    { key: "exitMach", name: "Mach number at the exit", symbol: "M_e", unit: "1", limit: 0.01 },
    { key: "shockAt", name: "position of the shock", symbol: "x_s/L", unit: "1", limit: 0.01 },
  ],
  family: { baseNx: 80, baseNy: 8, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM },
  counts: { nx: "cells along the duct", ny: "cells from the middle to the wall" },
  graded: false,
  numerics: { riemannFlux: "contact", limiter: "smooth", dropOrders: 6, maxIterations: 600 },
  reference: (p) => ({
    velocityMS: Math.sqrt(p.gamma * p.gasConstant * p.totalTemperatureK),
    lengthM: p.throatM,
    velocityName: "speed of sound in the reservoir",
    lengthName: "throat height",
  }),
  yardsticks: (p) => {
    const flow = theory(p);
    const s = Array.from({ length: 161 }, (_, k) => k / 160);
    const at = (q: number) => flow.at(contour(p, q), q > 0.5);
    const exit = at(1);
    const part = 1 + ((p.gamma - 1) / 2) * exit.mach ** 2;
    const temperature = p.totalTemperatureK / part;
    const mass =
      ((exit.pressure * p.totalPressurePa) / (p.gasConstant * temperature)) *
      exit.mach *
      Math.sqrt(p.gamma * p.gasConstant * temperature) *
      p.openingRatio *
      p.throatM;
    // Streamlines that bend make the flow two-dimensional: the square of the steepest slope is its measure.
    const bend = slopeOf(p) ** 2;
    const value = (quantityKey: string, v: number, share = 1) => ({
      quantityKey,
      value: v,
      standardUncertainty: (share * bend * Math.abs(v)) / Math.sqrt(3),
      uncertaintyNote: "square of the steepest slope: the duct is not quite one-dimensional",
    });
    const shock = flow.shockArea;
    const place = shock === undefined ? undefined : 1 - Math.acos((2 * (shock - 1)) / (p.openingRatio - 1) - 1) / (2 * Math.PI);
    const values = [
      value("massFlow", mass),
      value("throatPressure", at(0.5).pressure),
      value("machDown", at(0.6).mach),
      value("exitMach", exit.mach),
      ...(place === undefined ? [] : [value("shockAt", place)]),
    ];
    const kind =
      place !== undefined
        ? `a shock stands at ${place.toFixed(3)} L`
        : flow.choked
          ? "supersonic and shock-free behind the throat"
          : "subsonic throughout";
    return [
      {
        key: "duct-theory",
        name: "One-dimensional theory",
        kind: "exact",
        source: "One-dimensional isentropic flow with a normal shock; Liepmann & Roshko, Elements of Gasdynamics (1957)",
        validity: {
          sentence: `Holds for slender ducts, steepest slope below about 0.15 (here ${slopeOf(p).toPrecision(2)}): ${kind}.`,
          inside: slopeOf(p) < 0.15,
        },
        values,
        profiles: [
          { profileKey: "mach", abscissa: s, value: s.map((q) => at(q).mach), standardUncertainty: bend, uncertaintyNote: "two-dimensionality" },
          {
            profileKey: "pressure",
            abscissa: s,
            value: s.map((q) => at(q).pressure),
            standardUncertainty: bend,
            uncertaintyNote: "two-dimensionality",
          },
        ],
      },
    ];
  },
};
