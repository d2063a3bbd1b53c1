import type { ErrorBudget } from "../method/budget/errorBudget.ts";
import { type FieldOrders, fieldOrders } from "../method/comparison/comparison.ts";
import type { DerivedSet } from "../method/propagation/derived.ts";
import type { SensitivityMeans } from "../method/propagation/inputs.ts";
import type { CaseEvidence } from "../records/case.ts";
import type { QuantitySpec } from "../records/quantity.ts";
import type { RunEvidence } from "../records/run.ts";
import { chosenRuns, type Study, studyAlong } from "../study/study.ts";
import { assessRunBalance } from "./balance/assess.ts";
import { boardOf } from "./board.ts";
import { buildBudget } from "./budget/errorSources.ts";
import { leading, type Scale, scaleOf, valuesFor } from "./budget/sources/scale.ts";
import { compareAll, compareProfiles, weigh } from "./comparison/comparing.ts";
import { assessDerived, derivedSet, withDerived } from "./derived/derivedQuantities.ts";
import { assessSetup } from "./question/assess.ts";
import { assessRefinement, type KnownTruth } from "./refinement/refinement.ts";
import { stageLines } from "./registry.ts";
import type { RunBalance } from "./results/balance.ts";
import type { CaseAssessment } from "./results/case.ts";
import type { QuantityComparison } from "./results/comparison.ts";
import type { QuantityRefinement } from "./results/refinement.ts";
import type { RunSettling } from "./results/settling.ts";
import type { Stage } from "./results/stage.ts";
import type { Verdict } from "./results/verdict.ts";
import { averagesOf, withMeans } from "./settling/averages.ts";
import { assessSettling, errorOf } from "./settling/settling.ts";
import { judge, type Part } from "./verdict/verdict.ts";

/** What every stage of an assessment starts from. */
interface Ground {
  /** evidence with derived quantities worked out and adopted means in the place of last values */
  readonly e: CaseEvidence;
  readonly set?: DerivedSet | undefined;
  /** one run a mesh, finest first */
  readonly ladder: readonly RunEvidence[];
  readonly timeSteps: Study;
  readonly stale: boolean;
  readonly scales: Readonly<Record<string, Scale>>;
}

/** Assesses a case from its evidence. Pure: the same evidence gives the same result. */
export function assessCase(evidence: CaseEvidence): CaseAssessment {
  const g = groundOf(evidence);
  const { e, ladder, stale } = g;
  const finest = ladder[0];
  const refinement = e.quantities.map((q) => studyMeshes(g, q));
  const meshU = Object.fromEntries(refinement.map((r) => [r.key, r.result?.kind === "degenerate" ? undefined : r.relative]));
  const sizes = Object.fromEntries(Object.entries(g.scales).map(([key, s]) => [key, s.value]));
  const settling = ladder.map((r) =>
    assessSettling({ run: r, quantities: e.quantities, scales: sizes, meshUncertainty: meshU, dropTarget: e.dropTarget, strouhal: e.setup }),
  );
  const balance = balances(g, meshU);
  const setup = assessSetup(e);
  const rules = e.quantities.map((quantity, k) =>
    buildBudget({
      evidence: e,
      quantity,
      scale: g.scales[quantity.key],
      finest,
      settling: settling[0],
      balance: balance[0],
      refinement: refinement[k],
      timeSteps: g.timeSteps,
      recordError: (run) => valueError(run, quantity, e.setup),
      means: sensitivities(g),
    }),
  );
  const values = Object.fromEntries(e.quantities.map((q, k) => [q.key, compareAll(e, q, finest, rules[k])]));
  const finished = rules.map((r) => withDifference(r, values[r.quantityKey]));
  const found = { setup, settling, balance, refinement, rules: finished, values };
  const assessed = {
    caseId: e.caseId,
    setup,
    ladder: ladder.map((r) => r.id),
    stale,
    settling,
    balance,
    refinement,
    comparison: { values, ...compareProfiles(e, finest), orders: ordersOf(e, ladder) },
    derived: derivedOf(g, rules),
    rules: finished,
    verdicts: e.quantities.map((q, k) => verdictOf(g, q, k, found)),
    board: boardOf({
      setup: setup.state,
      stale,
      settling: settling[0],
      balance: balance[0],
      refinement: refinement[0],
      compared: values[e.quantities[0]?.key]?.[0],
    }),
  };
  return { ...assessed, stages: stageLines(e, assessed) };
}

function groundOf(evidence: CaseEvidence): Ground {
  const { derived } = evidence;
  const set = derived && derivedSet(derived, evidence.quantities);
  const worked = derived && set ? evidence.runs.map((r) => withDerived(r, derived, set)) : evidence.runs;
  const e = { ...evidence, runs: worked.map((r) => withMeans(r, evidence.quantities, evidence.setup)) };
  const { runs, stale } = chosenRuns(e);
  const ladder = studyAlong("mesh", runs).runs;
  const scales = Object.fromEntries(e.quantities.map((q) => [q.key, scaleOf(q, e.yardsticks, ladder[0], e.setup)]));
  return { e, set, ladder, timeSteps: studyAlong("time-step", runs), stale, scales };
}

function studyMeshes({ e, ladder, scales }: Ground, q: QuantitySpec): QuantityRefinement {
  return assessRefinement({
    ladder,
    quantity: q,
    scale: scales[q.key].value,
    formalOrder: e.formalOrder,
    iterationErrors: Object.fromEntries(ladder.map((r) => [r.id, valueError(r, q, e.setup)])),
    truth: truthOf(e, q.key),
  });
}

type MeshUncertainty = Readonly<Record<string, number | undefined>>;

function balances({ e, ladder }: Ground, meshU: MeshUncertainty): RunBalance[] {
  const known = Object.values(meshU).filter((u): u is number => u !== undefined);
  return ladder.flatMap(
    (run) =>
      assessRunBalance({
        run,
        quantities: e.quantities,
        meshUncertainty: onMesh(run, ladder[0], meshU, e.formalOrder),
        smallest: known.length ? Math.min(...known) : undefined,
        symmetric: e.setup.facts?.symmetricFlow === 1,
      }) ?? [],
  );
}

/** What the mesh of a coarser run explains: it grows with the spacing at the formal order. */
function onMesh(run: RunEvidence, finest: RunEvidence | undefined, meshU: MeshUncertainty, formalOrder: number): MeshUncertainty {
  if (!run.mesh || !finest?.mesh) return meshU;
  const growth = (run.mesh.spacing / finest.mesh.spacing) ** formalOrder;
  return Object.fromEntries(Object.entries(meshU).map(([key, u]) => [key, u === undefined ? u : u * growth]));
}

/** Where the sensitivity of a quantity to an input may come from. */
function sensitivities({ e, set, ladder }: Ground): SensitivityMeans {
  const values = ladder[0]?.result?.quantities ?? {};
  if (!e.derived || !set) return { values, swept: e.swept ?? [] };
  const constants = Object.fromEntries(e.derived.inputs.map((i) => [i.name, i.value]));
  return { values, derived: { set, keys: e.derived.specs.map((s) => s.key), constants }, swept: e.swept ?? [] };
}

function derivedOf({ e, set, ladder }: Ground, rules: readonly ErrorBudget[]): CaseAssessment["derived"] {
  if (!e.derived || !set) return [];
  const standards = Object.fromEntries(rules.map((r) => [r.quantityKey, r.uNum === undefined ? undefined : r.uNum * r.scale]));
  return assessDerived(e.derived, set, ladder[0], standards);
}

/** What the stages before the verdict found. */
interface Findings {
  readonly setup: CaseAssessment["setup"];
  readonly settling: readonly RunSettling[];
  readonly balance: readonly RunBalance[];
  readonly refinement: readonly QuantityRefinement[];
  readonly rules: readonly ErrorBudget[];
  readonly values: Readonly<Record<string, readonly QuantityComparison[]>>;
}

const NOTHING = { state: "none", remarks: [] } as const;

function verdictOf({ e, ladder, stale }: Ground, quantity: QuantitySpec, k: number, f: Findings): Verdict {
  const part = (stage: Stage, { state, remarks }: Pick<Part, "state" | "remarks"> = NOTHING): Part => ({ stage, state, remarks });
  return judge({
    quantity,
    stale,
    broughtIn: (ladder[0]?.origin ?? (e.broughtIn ? "brought-in" : "bench")) === "brought-in",
    parts: [part("question", f.setup), part("settling", f.settling[0]), part("balance", f.balance[0]), part("refinement", f.refinement[k])],
    refinement: f.refinement[k],
    comparison: weigh(f.values[quantity.key]),
    rule: f.rules[k],
  });
}

/** How far a run's value may be off for its record alone: what the iteration left, or the uncertainty of an adopted mean. */
function valueError(run: RunEvidence, q: QuantitySpec, setup: CaseEvidence["setup"]): number {
  const record = run.history?.quantities[q.key];
  if (!record) return 0;
  const [average] = averagesOf(run, [q], run.judging?.average === true, setup).filter((a) => a.adopted);
  if (average) return average.taken?.expanded ?? 0;
  return run.history?.time ? 0 : errorOf(record).error;
}

/** The yardstick that is the truth of a quantity, for a case that is exact or published and where it holds. */
function truthOf(e: CaseEvidence, key: string): KnownTruth | undefined {
  if (e.kind === "measured") return undefined;
  const holding = valuesFor(e.yardsticks, key).filter(({ yardstick: y }) => y.validity.inside && ["exact", "table"].includes(y.kind));
  const found = leading(holding);
  if (!found) return undefined;
  return { name: found.yardstick.name, value: found.value.value, uncertainty: 2 * (found.value.standardUncertainty ?? 0) };
}

/** The rule with the difference from the yardstick that counts most, and twice the validation uncertainty, at least what is known of it. */
function withDifference(rule: ErrorBudget, comparisons: readonly QuantityComparison[]): ErrorBudget {
  const first = comparisons[0];
  if (!first) return rule;
  const band = (u: number) => (2 * u) / rule.scale;
  return {
    ...rule,
    difference: first.difference / rule.scale,
    ...(first.uVal === undefined ? { bandAtLeast: band(first.uValAtLeast) } : { band: band(first.uVal) }),
  };
}

function ordersOf(e: CaseEvidence, ladder: readonly RunEvidence[]): FieldOrders | undefined {
  const rows = ladder.flatMap((r) =>
    r.mesh && r.result?.errorNorms[0] ? [{ label: r.label, spacing: r.mesh.spacing, norms: r.result.errorNorms[0] }] : [],
  );
  return rows.length ? fieldOrders(rows, e.formalOrder) : undefined;
}
