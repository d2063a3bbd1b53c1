import { type FlowFormulas, type FlowProperties, manufacturedFlow } from "../../manufactured/flow.ts";
import { type GasProperties, manufacturedGas } from "../../manufactured/gas.ts";
import { remembered } from "../../numeric/remembered.ts";
import type { Reference } from "../../records/reference.ts";
import { exact } from "../describe/common.ts";
import {
  type ManufacturedCarriedParameters,
  type ManufacturedFlowParameters,
  type ManufacturedGasParameters,
  REVOLVED,
} from "../describe/manufactured.ts";
import type { Formulas, ProblemTruth } from "../describe/problem.ts";

/** where the fields are read, m */
export const POINT = [0.37, 0.61] as const;

/** sets of formulas whose derivatives are kept: a family of meshes shares one */
const KEPT = 8;
const flowOf = remembered((f: FlowFormulas, p: FlowProperties) => manufacturedFlow(f, p), KEPT);
const stateOf = remembered(manufacturedGas, KEPT);

/** The written-down flow with its sources; kept, since its derivatives are dear. */
export const fieldsOf = (p: ManufacturedFlowParameters, f: Formulas) =>
  flowOf({ streamFunction: f.streamFunction, pressure: f.pressure }, { viscosity: p.viscosityM2S });

const endOf = (p: { readonly endTimeS: number }, transient: boolean) => (transient ? p.endTimeS : 0);

/** A yardstick that is exact because its sources were made for it. */
const byConstruction = (key: string, name: string, values: Reference["values"]): Reference => ({
  key,
  name,
  kind: "exact",
  source: "Manufactured; Roache, J. Fluids Eng. 124 (2002) 4",
  validity: { sentence: "Exact by construction.", inside: true },
  values,
  profiles: [],
});

export const manufacturedFlowProblem: ProblemTruth<ManufacturedFlowParameters> = {
  yardsticks: (p, f) => {
    const field = fieldsOf(p, f);
    const t = endOf(p, field.usesTime);
    return [
      byConstruction("manufactured-flow", "The field that was written down", [
        exact("uPoint", field.u.at(...POINT, t)),
        exact("vPoint", field.v.at(...POINT, t)),
      ]),
    ];
  },
};

const carriedOf = remembered((f: FlowFormulas & { readonly carried: string }, p: FlowProperties) => manufacturedFlow(f, p), KEPT);

/** What a written-down flow that carries something is made with. */
export const carriedProperties = (p: ManufacturedCarriedParameters): FlowProperties => ({
  viscosity: p.viscosityM2S,
  diffusivity: p.diffusivityM2S,
  revolved: p.round === REVOLVED,
});

/** The written-down flow and what it carries, with their sources; kept, since the derivatives are dear. */
export const carriedFields = (p: ManufacturedCarriedParameters, { streamFunction, pressure, carried }: Formulas) =>
  carriedOf({ streamFunction, pressure, carried }, carriedProperties(p));

/** Where the fields are read: a ring lies a metre further out. */
export const pointOf = (p: { readonly round: number }) => [POINT[0], POINT[1] + (p.round === REVOLVED ? 1 : 0)] as const;

export const manufacturedCarriedProblem: ProblemTruth<ManufacturedCarriedParameters> = {
  yardsticks: (p, f) => {
    const field = carriedFields(p, f);
    const t = endOf(p, field.usesTime);
    return [
      byConstruction("manufactured-carried", "The fields that were written down", [
        exact("carriedPoint", field.q.at(...pointOf(p), t)),
        exact("uPoint", field.u.at(...pointOf(p), t)),
      ]),
    ];
  },
};

/** The gas of a written-down flow. */
export const gasOf = (p: ManufacturedGasParameters): GasProperties => ({
  gamma: p.gamma,
  gasConstant: p.gasConstant,
  viscosityPaS: p.viscosityPaS,
  prandtl: p.prandtl,
  revolved: p.round === REVOLVED,
});

/** The written-down gas flow with its sources; kept, since its derivatives are dear. */
export const gasFields = (p: ManufacturedGasParameters, f: Formulas) =>
  stateOf({ density: f.density, u: f.u, v: f.v, pressure: f.pressure }, gasOf(p));

export const manufacturedGasProblem: ProblemTruth<ManufacturedGasParameters> = {
  yardsticks: (p, f) => {
    const field = gasFields(p, f);
    const state = field.state(...pointOf(p), endOf(p, field.usesTime));
    return [
      byConstruction("manufactured-gas", "The field that was written down", [exact("densityPoint", state[0]), exact("pressurePoint", state[3])]),
    ];
  },
};
