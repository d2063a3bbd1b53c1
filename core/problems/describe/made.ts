import type { Grading } from "../../mesh/grading.ts";
import type { CaseSetup } from "./caseSetup.ts";
import { described } from "./catalogue.ts";
import type { MeshSpec, RunSettings } from "./runSettings.ts";

const gradingText = (g: Grading): string => (g.kind === "uniform" ? "uniform" : `${g.kind} ${g.strength}`);

/** What a run was made with, by the name of the setting: whatever a ladder may vary, and nothing that the question holds. */
export function madeOf({ problemId, code, mesh, numerics, stated }: RunSettings): Readonly<Record<string, string | number>> {
  if (problemId === null) {
    const { schemeOrder, dropOrders, timeStepS } = stated ?? {};
    return {
      code,
      ...(schemeOrder === undefined ? {} : { "scheme order": schemeOrder }),
      ...(dropOrders === undefined ? {} : { orders: dropOrders }),
      ...(timeStepS === undefined ? {} : { "time step": timeStepS }),
    };
  }
  const { compressible, time } = described(problemId).physicsWords;
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
  };
}

/** The question a run or a case asks, its numerics left out: what shares it may stand on one ladder. Of another code the set-up stands for it. */
export const questionOf = (
  { problemId, parameters, formulas }: Pick<CaseSetup, "problemId" | "parameters" | "formulas">,
  setupHash: string,
): object => (problemId === null ? { setupHash } : { problemId, parameters, formulas: formulas ?? {} });
