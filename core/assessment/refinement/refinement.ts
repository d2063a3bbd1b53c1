import { percent, sentenceCase, significant, withUncertainty } from "../../formatting/number.ts";
import { coverageOfLook, lookOf } from "../../method/refinement/look.ts";
import { costExponent } from "../../method/refinement/planning.ts";
import { judgeLadder, type LadderJudgement } from "../../method/refinement/procedures.ts";
import { nextMesh, type ThreeMesh } from "../../method/refinement/threeMesh.ts";
import { PROCEDURE_WORDS } from "../../records/procedure.ts";
import type { QuantitySpec } from "../../records/quantity.ts";
import type { RunEvidence } from "../../records/run.ts";
import type { AdoptedProcedure, Divergent, LeftOut } from "../../records/studyChoice.ts";
import { type Remark, stateOf } from "../../remarks/remark.ts";
import { rulesOf } from "../../remarks/rule.ts";
import type { QuantityRefinement, Rung } from "../results/refinement.ts";

/** What a quantity truly is, where an exact or published yardstick that holds here says so. */
export interface KnownTruth {
  readonly name: string;
  readonly value: number;
  /** 95 % */
  readonly uncertainty: number;
}

/** One quantity on the meshes of a study. */
export interface MeshStudy {
  readonly ladder: readonly RunEvidence[];
  readonly quantity: QuantitySpec;
  /** what shares are of, in the quantity's unit */
  readonly scale: number;
  readonly formalOrder: number;
  /** by run, in the quantity's unit */
  readonly iterationErrors: Readonly<Record<string, number>>;
  readonly truth?: KnownTruth | undefined;
  /** runs that persons took off */
  readonly leftOut?: readonly LeftOut[] | undefined;
  /** procedure a person adopted for this quantity */
  readonly chosen?: AdoptedProcedure | undefined;
  /** a person said that it does not converge */
  readonly divergent?: Divergent | undefined;
}

/** What every procedure says of one quantity over the rungs of a ladder (method 3). */
export function assessRefinement(study: MeshStudy): QuantityRefinement {
  const { ladder, quantity: q, scale, formalOrder, iterationErrors, truth } = study;
  const all = ladder
    .filter((r) => r.mesh && r.result)
    .map((r) => ({
      runId: r.id,
      label: r.label,
      cells: r.mesh!.cells,
      spacing: r.mesh!.spacing,
      dimension: r.mesh!.dimension,
      value: r.result!.quantities[q.key],
      iterationError: Math.abs(iterationErrors[r.id] ?? 0) || 0,
      seconds: r.seconds,
    }))
    .sort((a, b) => a.spacing - b.spacing);
  const off = new Map(study.leftOut?.map((l) => [l.runId, { reason: l.reason, by: l.by }]));
  const usable = all.filter((r) => Number.isFinite(r.value) && !off.has(r.runId));
  const rungs: Rung[] = all.map((r) => {
    const leftOut = off.get(r.runId);
    return { ...r, used: usable.includes(r), ...(leftOut ? { leftOut } : {}) };
  });
  const divergent = divergenceOf(q, study.divergent);
  const base = { key: q.key, rungs, limit: q.limit, ...(divergent ? { divergent } : {}) };
  if (usable.length < 3) {
    const have = usable.length === 0 ? "no mesh has" : usable.length === 1 ? "one mesh has" : "two meshes have";
    return { ...base, remarks: [], state: "none", headline: `Needs three meshes; ${have} delivered ${q.name}.` };
  }
  const [fine, medium, coarse] = usable;
  const judged = judgeLadder(
    usable.map((r) => ({ spacing: r.spacing, value: r.value, error: r.iterationError })),
    formalOrder,
    study.chosen?.procedure,
  );
  const { three: result, adopted } = judged;
  const { uncertainty } = adopted;
  const relative = uncertainty / scale;
  const found = [
    ...refinementRemarks(result, q, relative, formalOrder, [medium.spacing / fine.spacing, coarse.spacing / medium.spacing]),
    ...adoptionRemarks(judged, q, scale),
    ...truthRemarks(fine.value, uncertainty, scale, q, truth),
  ];
  const remarks = divergent ? declared(found, q, divergent.reason) : found;
  const next = planNext(result, q, scale, uncertainty, fine, medium);
  return {
    ...base,
    result,
    procedures: judged.procedures,
    adopted: adoptedOf(judged, study.chosen),
    ...alikeOf(judged, formalOrder, usable.length),
    uncertainty,
    relative,
    next,
    remarks,
    state: stateOf(remarks),
    headline: headline(result, q, uncertainty, relative, fine.value, formalOrder),
  };
}

function adoptedOf({ adopted, because }: LadderJudgement, chosen: AdoptedProcedure | undefined): QuantityRefinement["adopted"] {
  const hand = chosen && chosen.procedure === adopted.key ? chosen : undefined;
  return { key: adopted.key, because, ...(hand ? { by: { initials: hand.by, reason: hand.reason } } : {}) };
}

/** What became of seeded sets that looked like this, with the procedure the rule chooses. */
function alikeOf({ three, because }: LadderJudgement, formalOrder: number, rungs: number): Pick<QuantityRefinement, "alike"> {
  const look = lookOf(three, formalOrder);
  const found = because === "chosen by hand" ? undefined : coverageOfLook(look, rungs);
  return found ? { alike: { look, rungs, ...found } } : {};
}

/** Why a quantity is known not to converge: its template says so, or a person. */
function divergenceOf(q: QuantitySpec, said: Divergent | undefined): QuantityRefinement["divergent"] {
  if (said) return { reason: said.reason, by: said.by };
  return q.divergent === undefined ? undefined : { reason: q.divergent, by: "the template" };
}

/** Of a quantity that is known not to converge nothing stops the case: what would is a doubt, and the first of all is said why. */
function declared(found: readonly Remark[], q: QuantitySpec, reason: string): Remark[] {
  return [
    {
      rule: "known-divergent",
      severity: "doubt",
      sentence: `${sentenceCase(q.name)} is known not to converge with the mesh: ${reason.replace(/\.$/, "")}. No claim rests on it.`,
    },
    ...found.map((r): Remark => (r.severity === "stop" ? { ...r, severity: "note" } : r)),
  ];
}

/** A smaller uncertainty than the rule's, chosen by hand, is said. */
function adoptionRemarks({ procedures, adopted, because }: LadderJudgement, q: QuantitySpec, scale: number): Remark[] {
  const ruled = Math.max(...procedures.filter((p) => p.key === "three-mesh" || p.key === "least-squares").map((p) => p.uncertainty));
  if (because !== "chosen by hand" || adopted.uncertainty >= ruled) return [];
  return [
    {
      rule: "adopted-procedure",
      severity: "doubt",
      sentence: `For ${q.name} the ${PROCEDURE_WORDS[adopted.key]} was adopted by hand, ${percent(adopted.uncertainty / scale)}, where the rule would take ${percent(ruled / scale)}.`,
    },
  ];
}

function headline(r: ThreeMesh, q: QuantitySpec, uncertainty: number, relative: number, value: number, formalOrder: number): string {
  switch (r.kind) {
    case "monotone":
      return r.extrapolated === undefined
        ? `Observed order ${r.order.toFixed(2)}, where ${formalOrder} is formal: nothing is extrapolated from that. ${sentenceCase(q.name)} is ${withUncertainty(value, uncertainty)} within ${percent(relative)}.`
        : `Observed order ${r.order.toFixed(2)}; the extrapolated ${q.name} is ${withUncertainty(r.extrapolated, uncertainty)}.`;
    case "oscillating":
      return `The values swing about ${withUncertainty(value, uncertainty)}; no order is claimed.`;
    case "diverging":
      return `The changes grow, or shrink too slowly, as the mesh is refined; nothing can be extrapolated.`;
    case "degenerate":
      return `No order can be observed: ${r.reason}. What is left is at most ${percent(relative)}.`;
    default:
      return r satisfies never;
  }
}

/** A stated uncertainty that does not reach the known truth is said, whatever its order looked like. */
function truthRemarks(value: number, uncertainty: number, scale: number, q: QuantitySpec, truth: KnownTruth | undefined): Remark[] {
  if (!truth) return [];
  const off = Math.abs(value - truth.value);
  if (off <= Math.hypot(uncertainty, truth.uncertainty)) return [];
  return [
    {
      rule: "uncertainty-misses",
      severity: "doubt",
      sentence: `The true error of ${q.name} is ${percent(off / scale)} by ${truth.name}; the mesh uncertainty of ${percent(uncertainty / scale)} does not cover it.`,
    },
  ];
}

function refinementRemarks(r: ThreeMesh, q: QuantitySpec, relative: number, formalOrder: number, ratios: readonly [number, number]): Remark[] {
  const out: Remark[] = [];
  if (ratios.some((x) => x < 1.1))
    out.push({
      rule: "ladder-ratio",
      severity: "doubt",
      sentence: `Neighbouring meshes differ by a ratio of only ${Math.min(...ratios).toFixed(3)}; below 1.1 noise rules the result, 1.3 is preferred.`,
    });
  else if (ratios.some((x) => x < 1.3))
    out.push({
      rule: "ladder-ratio",
      severity: "note",
      sentence: `The smallest ratio of neighbouring meshes is ${Math.min(...ratios).toFixed(2)}; 1.3 or more is preferred.`,
    });
  if (r.kind === "diverging")
    out.push({
      rule: "not-converging",
      severity: "stop",
      sentence: `${sentenceCase(q.name)} does not converge with the mesh.${q.derivative ? " It is made of slopes at walls, which are the last to converge." : ""}`,
    });
  if (r.kind === "oscillating")
    out.push({
      rule: "oscillating",
      severity: "doubt",
      sentence: `${sentenceCase(q.name)} oscillates with the mesh; three times half the range stands for its uncertainty.`,
    });
  if (r.kind === "monotone" && !r.agrees)
    out.push({
      rule: "not-asymptotic",
      severity: "doubt",
      sentence: `The three meshes do not show the formal order: ${r.order.toFixed(2)} was observed, ${formalOrder} is formal. Order ${r.orderUsed.toFixed(2)} and a safety factor of 3 are used instead.`,
    });
  if (r.kind === "monotone" && r.fromErrors > 0.5 * r.indexFine)
    out.push({
      rule: "rung-errors",
      severity: "doubt",
      sentence: `What iteration and averaging left in the runs makes ${percent(r.fromErrors / Math.max(r.uncertainty, 1e-300))} of the mesh uncertainty of ${q.name}: let the runs go further before the mesh is refined.`,
    });
  if (r.kind !== "diverging" && relative > q.limit)
    out.push({
      rule: "mesh-over-limit",
      severity: "stop",
      sentence: `The mesh uncertainty of ${q.name}, ${percent(relative)}, is over its limit of ${percent(q.limit)}.`,
    });
  return out;
}

function planNext(
  r: ThreeMesh,
  q: QuantitySpec,
  scale: number,
  uncertainty: number,
  fine: { spacing: number; cells: number; dimension: 2 | 3; seconds?: number },
  medium: { cells: number; seconds?: number },
) {
  if (r.kind !== "monotone") return undefined;
  const target = uncertainty / scale > q.limit ? q.limit * scale : undefined;
  if (target === undefined) return undefined;
  const plan = nextMesh({ ...fine, uncertainty, limit: target, orderUsed: r.orderUsed });
  return { ...plan, seconds: fine.seconds ? fine.seconds * (plan.cells / fine.cells) ** costExponent(fine, medium) : undefined };
}

/** Text of an order for tables: what was observed, or why there is none. */
export function orderText(r: ThreeMesh | undefined): string {
  if (!r) return "";
  if (r.kind === "monotone") return significant(r.order, 3);
  return r.kind;
}

/** The rules of this file in words. */
export const REFINEMENT_RULES = rulesOf("core/assessment/refinement/refinement.ts", [
  {
    rule: "ladder-ratio",
    text: "Neighbouring meshes should differ by 1.3 or more in spacing; below 1.1 noise rules the observed order.",
    source: "Celik et al. 2008",
  },
  {
    rule: "uncertainty-misses",
    text: "Where an exact or published yardstick holds, the true error of the finest mesh is held against the mesh uncertainty and that of the yardstick, by squares.",
    source: "method of this product",
  },
  {
    rule: "known-divergent",
    text: "A quantity that its template or a person declared not to converge keeps its warnings, but stops nothing: no claim rests on it.",
    source: "method of this product",
  },
  {
    rule: "mesh-over-limit",
    text: "The mesh uncertainty is larger than the limit of the quantity.",
    source: "own",
  },
]);
