import { type DuctFlow, ductFlow } from "../../exact/gasDynamics.ts";
import type { DuctParameters } from "../describe/duct.ts";
import type { ProblemTruth } from "../describe/problem.ts";

/** Height of the duct over the throat's at x / L: a throat in the middle, smooth at both ends. */
export const contour = (p: DuctParameters, s: number) => 1 + ((p.openingRatio - 1) * (1 + Math.cos(2 * Math.PI * s))) / 2;

/** steepest slope of the wall */
const slopeOf = (p: DuctParameters) => ((p.openingRatio - 1) * Math.PI * p.throatM) / (2 * p.lengthM);

/** The one-dimensional flow through the duct. */
export const theory = (p: DuctParameters): DuctFlow => ductFlow(p.openingRatio, p.backRatio, p.gamma);

export const contouredDuct: ProblemTruth<DuctParameters> = {
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
