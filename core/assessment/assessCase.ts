import { percent, powerOfTen, scientific, signedPercent } from "../formatting/number.ts";
import { assessBalance, type BalanceAssessment } from "../method/balance/balance.ts";
import { assessLaws } from "../method/balance/laws.ts";
import type { QuantityRule } from "../method/budget/rule.ts";
import { type FieldOrders, fieldOrders } from "../method/comparison/comparison.ts";
import type { SensitivityMeans } from "../method/propagation/inputs.ts";
import { checkSetup } from "../method/setup/checks.ts";
import { similarityNumbers } from "../method/setup/setup.ts";
import type { CaseEvidence } from "../records/case.ts";
import type { DerivedEvidence } from "../records/derived.ts";
import type { LawReading } from "../records/laws.ts";
import type { QuantitySpec } from "../records/quantity.ts";
import { FINISHED, type RunEvidence } from "../records/run.ts";
import { type State, stateOf, withAnswers, worst } from "../remarks/remark.ts";
import { averagesOf, withMeans } from "./averages.ts";
import type { BoardCell, CaseAssessment, RunBalance } from "./caseAssessment.ts";
import { compareAll, compareProfiles, type QuantityComparison, weigh } from "./comparing.ts";
import { assessDerived, derivedSet, withDerived } from "./derivedQuantities.ts";
import { buildRule, leading } from "./errorSources.ts";
import { assessRefinement, type KnownTruth, type QuantityRefinement } from "./refinement.ts";
import { type Scale, scaleOf, valuesFor } from "./scale.ts";
import { assessSettling, errorOf, type RunSettling } from "./settling.ts";
import { stageLines } from "./stages.ts";
import { judge } from "./verdict.ts";

/** Assesses a case from its evidence. Pure: the same evidence gives the same result. */
export function assessCase(evidence: CaseEvidence): CaseAssessment {
  const set = evidence.derived && derivedSet(evidence.derived, evidence.quantities);
  const worked = evidence.derived && set ? evidence.runs.map((r) => withDerived(r, evidence.derived as DerivedEvidence, set)) : evidence.runs;
  const e = { ...evidence, runs: worked.map((r) => withMeans(r, evidence.quantities, evidence.setup)) };
  const { ladder, stale } = chooseLadder(e);
  const finest = ladder[0];
  const scaled: Record<string, Scale> = Object.fromEntries(e.quantities.map((q) => [q.key, scaleOf(q, e.yardsticks, finest, e.setup)]));
  const scales = Object.fromEntries(Object.entries(scaled).map(([key, s]) => [key, s.value]));
  const errors = (q: QuantitySpec) => Object.fromEntries(ladder.map((r) => [r.id, valueError(r, q, e.setup)]));
  const refinement = e.quantities.map((q) => assessRefinement(ladder, q, scales[q.key], e.formalOrder, errors(q), truthOf(e, q.key)));
  const meshU = Object.fromEntries(refinement.map((r) => [r.key, r.result?.kind === "degenerate" ? undefined : r.relative]));
  const settling = ladder.map((r) => assessSettling(r, e.quantities, scales, meshU, e.dropTarget, e.setup));
  const smallest = Object.values(meshU).filter((u): u is number => u !== undefined);
  // What the mesh explains grows with its spacing at the formal order.
  const grown = (r: RunEvidence) =>
    Object.fromEntries(
      Object.entries(meshU).map(([k, u]) => [
        k,
        u === undefined || !r.mesh || !finest?.mesh ? u : u * (r.mesh.spacing / finest.mesh.spacing) ** e.formalOrder,
      ]),
    );
  const balance = ladder.flatMap((r) =>
    assessRunBalance(r, e.quantities, grown(r), smallest.length ? Math.min(...smallest) : undefined, e.setup.facts?.symmetricFlow === 1),
  );
  const remarks = withAnswers(checkSetup(e.setup), e.answers ?? []);
  const setup = { similarity: similarityNumbers(e.setup), remarks, state: stateOf(remarks) };
  const means: SensitivityMeans = {
    values: finest?.result?.quantities ?? {},
    ...(e.derived && set
      ? { derived: { set, keys: e.derived.specs.map((s) => s.key), constants: Object.fromEntries(e.derived.inputs.map((i) => [i.name, i.value])) } }
      : {}),
    swept: e.swept ?? [],
  };
  const study = (q: QuantitySpec) => refinement.find((r) => r.key === q.key) as QuantityRefinement;
  const rules = e.quantities.map((q) =>
    buildRule({ evidence: e, quantity: q, scale: scaled[q.key], finest, settling: settling[0], balance: balance[0], refinement: study(q), means }),
  );
  const standards = Object.fromEntries(rules.map((r) => [r.quantityKey, r.uNum === undefined ? undefined : r.uNum * r.scale]));
  const derived = e.derived && set ? assessDerived(e.derived, set, finest, standards) : [];
  const values = Object.fromEntries(e.quantities.map((q) => [q.key, compareAll(e, q, finest, rules.find((r) => r.quantityKey === q.key)!)]));
  const finished = rules.map((r) => withDifference(r, values[r.quantityKey]));
  const verdicts = e.quantities.map((q) =>
    judge({
      quantity: q,
      stale,
      broughtIn: (finest?.origin ?? (e.broughtIn ? "brought-in" : "bench")) === "brought-in",
      setup: { stage: "question", state: setup.state, remarks: setup.remarks },
      settling: { stage: "settling", state: settling[0]?.state ?? "none", remarks: settling[0]?.remarks ?? [] },
      balance: { stage: "balance", state: balance[0]?.state ?? "none", remarks: balance[0]?.remarks ?? [] },
      refinement: { stage: "refinement", state: study(q).state, remarks: study(q).remarks, study: study(q) },
      comparison: weigh(values[q.key]),
      rule: finished.find((r) => r.quantityKey === q.key) as QuantityRule,
    }),
  );
  const partial = {
    caseId: e.caseId,
    setup,
    ladder: ladder.map((r) => r.id),
    stale,
    settling,
    balance,
    refinement,
    comparison: { values, ...compareProfiles(e, finest), orders: orders(e, ladder) },
    derived,
    rules: finished,
    verdicts,
    board: board(setup.state, stale, settling[0], balance[0], refinement[0], values[e.quantities[0]?.key]),
  };
  return { ...partial, stages: stageLines(e, partial) };
}

/** Lift of a body said to be symmetric, over the largest force known. */
function noLift(quantities: readonly QuantitySpec[], values: Readonly<Record<string, number>>): LawReading[] {
  return quantities.flatMap((q) => {
    const largest = Math.max(...quantities.filter((x) => x.unit === q.unit).map((x) => Math.abs(values[x.key] ?? 0)));
    const lift = values[q.key];
    if (q.kind !== "cross-force" || lift === undefined || !(largest > Math.abs(lift))) return [];
    return [{ law: "no-lift" as const, share: Math.abs(lift) / largest }];
  });
}

function assessRunBalance(
  run: RunEvidence,
  quantities: readonly QuantitySpec[],
  meshU: Readonly<Record<string, number | undefined>>,
  smallest: number | undefined,
  symmetric: boolean,
): RunBalance[] {
  const { result } = run;
  if (!result) return [];
  const efficiencies = quantities.filter(
    (q) => q.kind === "efficiency" && (q.unit === "1" || q.unit === "") && result.quantities[q.key] !== undefined,
  );
  const readings: LawReading[] = [
    ...(result.laws ?? []),
    ...(symmetric ? noLift(quantities, result.quantities) : []),
    ...efficiencies.map((q) => ({ law: "efficiency-below-one" as const, share: Math.max(0, result.quantities[q.key] - 1) })),
  ];
  const accepted = Object.fromEntries(quantities.map((q) => [q.key, q.limit]));
  const laws = assessLaws(run.label, readings, result.second ?? [], meshU, accepted);
  if (!result.balance && laws.state === "none") return [];
  const flows: BalanceAssessment = result.balance ? assessBalance(result.balance, smallest) : { lines: [], remarks: [], state: "none" };
  return [
    {
      runId: run.id,
      label: run.label,
      cells: run.mesh?.cells,
      lines: flows.lines,
      laws: laws.laws,
      second: laws.second,
      remarks: [...flows.remarks, ...laws.remarks],
      // Without any flow through a boundary the balance stays unmeasured, whatever else holds.
      state:
        flows.state === "none" ? (laws.state === "fails" ? "fails" : "none") : laws.state === "none" ? flows.state : worst([flows.state, laws.state]),
    },
  ];
}

/** How far a run's value may be off for its record alone: what the iteration left, or the uncertainty of an adopted mean. */
function valueError(run: RunEvidence, q: QuantitySpec, setup: CaseEvidence["setup"]): number {
  const record = run.history?.quantities[q.key];
  if (!record) return 0;
  const [average] = averagesOf(run, [q], run.judging?.average === true, setup).filter((a) => a.adopted);
  if (average) return average.taken?.expanded ?? 0;
  return run.history?.time ? 0 : errorOf(record).error;
}

/** The newest finished run on each mesh, finest first: those of the present set-up, or the old ones while there are none. */
function chooseLadder(e: CaseEvidence): { ladder: RunEvidence[]; stale: boolean } {
  const finished = e.runs.filter((r) => FINISHED.includes(r.state) && r.result);
  const current = finished.filter((r) => r.setupHash === e.setupHash);
  const pool = current.length ? current : finished;
  const newest = new Map<string, RunEvidence>();
  for (const r of pool) {
    const key = r.mesh ? `${r.mesh.cells}:${r.mesh.spacing.toPrecision(6)}` : r.id;
    const old = newest.get(key);
    if (!old || (r.finishedAt ?? "") >= (old.finishedAt ?? "")) newest.set(key, r);
  }
  const ladder = [...newest.values()].sort((a, b) => (a.mesh?.spacing ?? 1e300) - (b.mesh?.spacing ?? 1e300));
  return { ladder, stale: finished.length > 0 && current.length === 0 };
}

/** The yardstick that is the truth of a quantity, for a case that is exact or published and where it holds. */
function truthOf(e: CaseEvidence, key: string): KnownTruth | undefined {
  if (e.kind === "measured") return undefined;
  const found = leading(
    valuesFor(e.yardsticks, key).filter(({ yardstick }) => yardstick.validity.inside && ["exact", "table"].includes(yardstick.kind)),
  );
  if (!found) return undefined;
  return { name: found.yardstick.name, value: found.value.value, uncertainty: 2 * (found.value.standardUncertainty ?? 0) };
}

/** The rule with the difference from the yardstick that counts most, and twice the validation uncertainty, at least what is known of it. */
function withDifference(rule: QuantityRule, comparisons: readonly QuantityComparison[]): QuantityRule {
  const first = comparisons[0];
  if (!first) return rule;
  const band = (u: number) => (2 * u) / rule.scale;
  return {
    ...rule,
    difference: first.difference / rule.scale,
    ...(first.uVal === undefined ? { bandAtLeast: band(first.uValAtLeast) } : { band: band(first.uVal) }),
  };
}

function orders(e: CaseEvidence, ladder: readonly RunEvidence[]): FieldOrders | undefined {
  const rows = ladder.flatMap((r) =>
    r.mesh && r.result?.errorNorms[0] ? [{ label: r.label, spacing: r.mesh.spacing, norms: r.result.errorNorms[0] }] : [],
  );
  return rows.length ? fieldOrders(rows, e.formalOrder) : undefined;
}

function board(
  setup: State,
  stale: boolean,
  settling: RunSettling | undefined,
  balance: BalanceAssessment | undefined,
  refinement: QuantityRefinement | undefined,
  compared: readonly QuantityComparison[] | undefined,
) {
  const age = (cell: BoardCell): BoardCell => (stale && cell.state !== "none" ? { ...cell, state: "stale" } : cell);
  const drop = settling?.smallestDrop;
  const mass = balance?.lines.find((l) => l.what === "mass") ?? balance?.lines[0];
  const c = compared?.[0];
  const cell = (state: State | undefined, figure: string | undefined): BoardCell => ({ state: state ?? "none", figure: figure ?? "" });
  const r = refinement?.result;
  const refined = r === undefined ? "" : r.kind === "degenerate" ? "no order" : percent(refinement?.relative ?? 0);
  return {
    settled: age(cell(settling?.state, drop === undefined ? "" : powerOfTen(-Math.round(drop)))),
    balanced: age(cell(balance?.state, mass ? (mass.relative < 1e-5 ? scientific(mass.relative, 1) : percent(mass.relative)) : "")),
    refined: age(cell(refinement?.state, refined)),
    compared: age(cell(c ? worst(setup === "fails" ? ["fails", c.state] : [c.state]) : "none", c ? signedPercent(c.difference / c.scale) : "")),
  };
}
