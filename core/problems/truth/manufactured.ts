import { manufacturedFlow, manufacturedGas } from "../../manufactured/sources.ts";
import { remembered } from "../../numeric/remembered.ts";
import { exact } from "../describe/common.ts";
import type { ManufacturedFlowParameters, ManufacturedGasParameters } from "../describe/manufactured.ts";
import type { Formulas, ProblemTruth } from "../describe/problem.ts";

/** where the fields are read, m */
export const POINT = [0.37, 0.61] as const;

/** sets of formulas whose derivatives are kept: a family of meshes shares one */
const KEPT = 8;
const flowOf = remembered(manufacturedFlow, KEPT);
const stateOf = remembered(manufacturedGas, KEPT);

/** The written-down flow with its sources; kept, since its derivatives are dear. */
export const fieldsOf = (p: ManufacturedFlowParameters, f: Formulas) => flowOf(f.streamFunction, f.pressure, p.viscosityM2S);

const endOf = (p: { readonly endTimeS: number }, transient: boolean) => (transient ? p.endTimeS : 0);

export const manufacturedFlowProblem: ProblemTruth<ManufacturedFlowParameters> = {
  yardsticks: (p, f) => {
    const field = fieldsOf(p, f);
    const t = endOf(p, field.usesTime);
    return [
      {
        key: "manufactured-flow",
        name: "The field that was written down",
        kind: "exact",
        source: "Manufactured; Roache, J. Fluids Eng. 124 (2002) 4",
        validity: { sentence: "Exact by construction.", inside: true },
        values: [exact("uPoint", field.u.at(...POINT, t)), exact("vPoint", field.v.at(...POINT, t))],
        profiles: [],
      },
    ];
  },
};

/** The gas of a written-down flow. */
export const gasOf = (p: ManufacturedGasParameters) => ({
  gamma: p.gamma,
  gasConstant: p.gasConstant,
  viscosityPaS: p.viscosityPaS,
  prandtl: p.prandtl,
});

/** The written-down gas flow with its sources; kept, since its derivatives are dear. */
export const gasFields = (p: ManufacturedGasParameters, f: Formulas) =>
  stateOf({ density: f.density, u: f.u, v: f.v, pressure: f.pressure }, gasOf(p));

export const manufacturedGasProblem: ProblemTruth<ManufacturedGasParameters> = {
  yardsticks: (p, f) => {
    const field = gasFields(p, f);
    const state = field.state(...POINT, endOf(p, field.usesTime));
    return [
      {
        key: "manufactured-gas",
        name: "The field that was written down",
        kind: "exact",
        source: "Manufactured; Roache, J. Fluids Eng. 124 (2002) 4",
        validity: { sentence: "Exact by construction.", inside: true },
        values: [exact("densityPoint", state[0]), exact("pressurePoint", state[3])],
        profiles: [],
      },
    ];
  },
};
