import type { ProcedureKey } from "../../records/procedure.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { type CrossCheck, correctionFactor, factorOfSafety } from "./crossChecks.ts";
import { type LeastSquares, leastSquares } from "./leastSquares.ts";
import { type ThreeMesh, threeMesh } from "./threeMesh.ts";

/** One value on a ladder. */
export interface RungValue {
  readonly spacing: number;
  readonly value: number;
  /** 95 % error of the value for other reasons than the spacing, in the quantity's unit */
  readonly error: number;
}

/** What one procedure says of the finest value. */
export interface Procedure {
  readonly key: ProcedureKey;
  /** 95 %, in the quantity's unit */
  readonly uncertainty: number;
  /** observed order, where there is one */
  readonly order?: number;
  /** the value at no spacing, where the procedure gives one */
  readonly limit?: number;
  /** factor between its estimate of the error and the uncertainty */
  readonly factor?: number;
}

/** All procedures on one ladder, and the one that is adopted. */
export interface LadderJudgement {
  readonly three: ThreeMesh;
  readonly squares?: LeastSquares;
  readonly procedures: readonly Procedure[];
  readonly adopted: Procedure;
  /** why, in a sentence's part */
  readonly because: string;
}

/**
 * Runs every procedure a ladder allows, on its finest three rungs or on all of them, and adopts the larger of the three-mesh index and the
 * least-squares uncertainty. Errors the values have for other reasons enter every procedure by squares.
 * @param rungs finest first, at least three
 * @param chosen procedure a person adopted, where one did
 * @throws {RangeError} fewer than three rungs, or what a procedure refuses
 */
export function judgeLadder(rungs: readonly RungValue[], formalOrder: number, chosen?: ProcedureKey): LadderJudgement {
  if (rungs.length < 3) throw new RangeError(`Three rungs are the fewest to judge; there are ${rungs.length}.`);
  const [fine, medium, coarse] = rungs;
  const three = threeMesh({
    phi: [fine.value, medium.value, coarse.value],
    spacing: [fine.spacing, medium.spacing, coarse.spacing],
    formalOrder,
    errors: [fine.error, medium.error, coarse.error],
  });
  const squares = rungs.length > 3 ? leastSquares({ spacing: rungs.map((r) => r.spacing), phi: rungs.map((r) => r.value) }, formalOrder) : undefined;
  const procedures: Procedure[] = [ofThree(three), ...(squares ? [ofSquares(squares, fine.error)] : []), ...checks(three, fine, medium, formalOrder)];
  const byPerson = procedures.find((p) => p.key === chosen);
  const [index, fit] = procedures;
  const larger = fit?.key === "least-squares" && fit.uncertainty > index.uncertainty ? fit : index;
  const because = byPerson ? "chosen by hand" : squares ? "the larger of the three-mesh index and least squares" : "three rungs allow no other";
  return { three, ...(squares ? { squares } : {}), procedures, adopted: byPerson ?? larger, because };
}

function ofThree(r: ThreeMesh): Procedure {
  if (r.kind !== "monotone") return { key: "three-mesh", uncertainty: r.uncertainty };
  return {
    key: "three-mesh",
    uncertainty: r.uncertainty,
    order: r.order,
    factor: r.safety,
    ...(r.extrapolated === undefined ? {} : { limit: r.extrapolated }),
  };
}

function ofSquares(r: LeastSquares, error: number): Procedure {
  return {
    key: "least-squares",
    uncertainty: Math.hypot(r.uncertainty, error),
    ...(r.observed === undefined ? {} : { order: r.observed }),
    ...(r.scattered ? {} : { limit: r.fit.limit }),
    factor: r.safety,
  };
}

/** Procedures that start from an observed order, which only a monotone set has. */
function checks(three: ThreeMesh, fine: RungValue, medium: RungValue, formalOrder: number): Procedure[] {
  if (three.kind !== "monotone") return [];
  const { order } = three;
  const ratio = medium.spacing / fine.spacing;
  const error = (medium.value - fine.value) / (ratio ** order - 1);
  const found: [ProcedureKey, CrossCheck][] = [
    ["factor-of-safety", factorOfSafety({ error, order, formalOrder })],
    ["correction-factor", correctionFactor({ error, order, formalOrder }, ratio)],
  ];
  const rest = Math.hypot(fine.error, medium.error) / (ratio ** order - 1);
  return found.map(([key, c]) => ({ key, order, factor: c.factor, uncertainty: Math.hypot(c.uncertainty, rest) }));
}

/** The rules of this file in words. */
export const PROCEDURE_RULES = rulesOf("core/method/refinement/procedures.ts", [
  {
    rule: "adopted-procedure",
    text: "Of the three-mesh index on the finest three rungs and the least-squares uncertainty over all of them the larger is adopted; a person may adopt another, and says why. Factor of safety and correction factor are shown beside them, where the set is monotone.",
    source: "method of this product",
  },
]);
