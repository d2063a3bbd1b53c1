import type { Grading } from "../../mesh/grading.ts";
import type { CaseSetup } from "./caseSetup.ts";
import { described } from "./catalogue.ts";
import type { MeshSpec, RunSettings } from "./runSettings.ts";

const gradingText = (g: Grading): string => (g.kind === "uniform" ? "uniform" : `${g.kind} ${g.strength}`);

/** What a run was made with, by the name of the setting: whatever a ladder may vary, and nothing that the question holds. */
export function madeOf({ problemId, parameters, code, mesh, numerics, stated }: RunSettings): Readonly<Record<string, string | number>> {
  if (problemId === null) {
    const { schemeOrder, dropOrders, timeStepS, domainM } = stated ?? {};
    return {
      code,
      ...(schemeOrder === undefined ? {} : { "scheme order": schemeOrder }),
      ...(dropOrders === undefined ? {} : { orders: dropOrders }),
      ...(timeStepS === undefined ? {} : { "time step": timeStepS }),
      ...(domainM === undefined ? {} : { domain: domainM }),
    };
  }
  const { physicsWords, domain } = described(problemId);
  const { compressible, time } = physicsWords;
  const { nx, ny, gradingX, gradingY, shape = "rows" } = mesh as MeshSpec;
  return {
    code,
    nx,
    ny,
    "grading x": gradingText(gradingX),
    "grading y": gradingText(gradingY),
    shape,
    orders: numerics.dropOrders,
    ...(compressible ? { flux: numerics.riemannFlux ?? "contact", limiter: numerics.limiter ?? "smooth" } : { scheme: numerics.scheme }),
    ...(time === "steady" || numerics.courant === undefined ? {} : { "Courant number": numerics.courant }),
    ...(domain ? { domain: parameters[domain.parameter] } : {}),
  };
}

/** The question a run or a case asks, its numerics and the extent of its domain left out: what shares it may stand on one ladder. Of another code the set-up stands for it. */
export const questionOf = (
  { problemId, parameters, formulas }: Pick<CaseSetup, "problemId" | "parameters" | "formulas">,
  setupHash: string,
): object => {
  if (problemId === null) return { setupHash };
  const extent = described(problemId).domain?.parameter;
  const asked = Object.entries(parameters).filter(([key]) => key !== extent);
  return { problemId, parameters: Object.fromEntries(asked), formulas: formulas ?? {} };
};
