import { assessBalance, type BalanceAssessment } from "../balance/balance.ts";
import { assessLaws, type LawLine, type LawReading, type SecondLine } from "../balance/laws.ts";
import {
  compareProfile,
  compareValue,
  type FieldOrders,
  fieldOrders,
  type ProfileComparison,
  type ValueComparison,
} from "../comparison/comparison.ts";
import { percent, powerOfTen, scientific, signedPercent, significant } from "../formatting/number.ts";
import type { QuantitySpec } from "../problems/problem.ts";
import type { Yardstick, YardstickValue } from "../reference/yardstick.ts";
import { checkSetup } from "../setup/checks.ts";
import { type SimilarityNumber, similarityNumbers } from "../setup/setup.ts";
import { dominantSource, type ErrorSource, numericalUncertainty, type QuantityRule } from "../sources/rule.ts";
import { averagesOf, withMeans } from "./averages.ts";
import { assessDerived, type DerivedAssessment, type DerivedEvidence, derivedSet, withDerived } from "./derivedQuantities.ts";
import { type CaseEvidence, FINISHED, type RunEvidence } from "./evidence.ts";
import { type Remark, type State, stateOf, withAnswers, worst } from "./outcome.ts";
import { assessRefinement, type KnownTruth, type QuantityRefinement } from "./refinement.ts";
import { assessSettling, errorOf, type RunSettling } from "./settling.ts";
import { type StageLine, stageLines } from "./stages.ts";

export interface QuantityComparison extends ValueComparison {
  readonly yardstick: string;
  readonly yardstickKey: string;
  readonly inside: boolean;
  readonly limit: number;
  readonly state: State;
}

export interface Verdict {
  readonly quantityKey: string;
  readonly state: State;
  readonly word: "holds" | "holds with a remark" | "fails" | "stale" | "incomplete";
  readonly sentence: string;
  readonly reasons: readonly string[];
}

export interface BoardCell {
  readonly state: State;
  readonly figure: string;
}

/** What goes in and out of one run, and what holds for every flow of its kind. */
export interface RunBalance extends BalanceAssessment {
  readonly runId: string;
  readonly label: string;
  readonly cells?: number;
  readonly laws: readonly LawLine[];
  readonly second: readonly SecondLine[];
}

/** Everything the application says of a case; screen, report, API and command line show this object. */
export interface CaseAssessment {
  readonly caseId: string;
  readonly setup: { readonly similarity: readonly SimilarityNumber[]; readonly remarks: readonly Remark[]; readonly state: State };
  /** runs the assessments rest on, finest first, and whether they were made with an earlier set-up */
  readonly ladder: readonly string[];
  readonly stale: boolean;
  readonly settling: readonly RunSettling[];
  readonly balance: readonly RunBalance[];
  readonly refinement: readonly QuantityRefinement[];
  readonly comparison: {
    readonly values: Readonly<Record<string, readonly QuantityComparison[]>>;
    readonly profiles: readonly (ProfileComparison & { readonly yardstick: string; readonly name: string; readonly runLabel: string })[];
    readonly orders?: FieldOrders;
  };
  /** quantities worked out by formula */
  readonly derived: readonly DerivedAssessment[];
  readonly rules: readonly QuantityRule[];
  readonly verdicts: readonly Verdict[];
  readonly board: { readonly settled: BoardCell; readonly balanced: BoardCell; readonly refined: BoardCell; readonly compared: BoardCell };
  readonly stages: readonly StageLine[];
}

/** Assesses a case from its evidence. Pure: the same evidence gives the same result. */
export function assessCase(evidence: CaseEvidence): CaseAssessment {
  const set = evidence.derived && derivedSet(evidence.derived, evidence.quantities);
  const worked = evidence.derived && set ? evidence.runs.map((r) => withDerived(r, evidence.derived as DerivedEvidence, set)) : evidence.runs;
  const e = { ...evidence, runs: worked.map((r) => withMeans(r, evidence.quantities)) };
  const { ladder, stale } = chooseLadder(e);
  const finest = ladder[0];
  const scales = Object.fromEntries(e.quantities.map((q) => [q.key, scaleOf(q, e.yardsticks, finest)]));
  const errors = (q: QuantitySpec) => Object.fromEntries(ladder.map((r) => [r.id, valueError(r, q)]));
  const refinement = e.quantities.map((q) => assessRefinement(ladder, q, scales[q.key], e.formalOrder, errors(q), truthOf(e, q.key)));
  const meshU = Object.fromEntries(refinement.map((r) => [r.key, r.result?.kind === "degenerate" ? undefined : r.relative]));
  const settling = ladder.map((r) => assessSettling(r, e.quantities, scales, meshU, e.dropTarget));
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
  const rules = e.quantities.map((q) => buildRule(e, q, scales[q.key], finest, settling[0], balance[0], refinement.find((r) => r.key === q.key)!));
  const standards = Object.fromEntries(rules.map((r) => [r.quantityKey, r.uNum === undefined ? undefined : r.uNum * r.scale]));
  const derived = e.derived && set ? assessDerived(e.derived, set, finest, standards) : [];
  const values = Object.fromEntries(e.quantities.map((q) => [q.key, compareAll(e, q, finest, rules.find((r) => r.quantityKey === q.key)!)]));
  const finished = rules.map((r) => withDifference(r, values[r.quantityKey]));
  const verdicts = e.quantities.map((q) =>
    judge(q, {
      setup: setup.state,
      stale,
      settling: settling[0],
      balance: balance[0],
      rule: finished.find((r) => r.quantityKey === q.key)!,
      refinement: refinement.find((r) => r.key === q.key)!,
      comparisons: values[q.key],
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
    comparison: { values, profiles: profiles(e, finest), orders: orders(e, ladder) },
    derived,
    rules: finished,
    verdicts,
    board: board(setup.state, stale, settling[0], balance[0], refinement[0], values[e.quantities[0]?.key]),
  };
  return { ...partial, stages: stageLines(e, partial) };
}

const SIDEWAYS = /\blift\b|\b(side|cross) force\b/i;

/** Lift of a body said to be symmetric, over the largest force known. */
function noLift(quantities: readonly QuantitySpec[], values: Readonly<Record<string, number>>): LawReading[] {
  return quantities.flatMap((q) => {
    const largest = Math.max(...quantities.filter((x) => x.unit === q.unit).map((x) => Math.abs(values[x.key] ?? 0)));
    const lift = values[q.key];
    if (!SIDEWAYS.test(q.name) || lift === undefined || !(largest > Math.abs(lift))) return [];
    return [{ law: "no-lift" as const, share: Math.abs(lift) / largest }];
  });
}

const EFFICIENCY = /\befficiency\b|\beffectiveness\b/i;

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
    (q) => (q.unit === "1" || q.unit === "") && EFFICIENCY.test(q.name) && result.quantities[q.key] !== undefined,
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
function valueError(run: RunEvidence, q: QuantitySpec): number {
  const record = run.history?.quantities[q.key];
  if (!record) return 0;
  if (run.judging?.average) return averagesOf(run, [q], true)[0]?.expanded ?? 0;
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

function valuesFor(yardsticks: readonly Yardstick[], key: string): { yardstick: Yardstick; value: YardstickValue }[] {
  return yardsticks.flatMap((y) => y.values.filter((v) => v.quantityKey === key).map((value) => ({ yardstick: y, value })));
}

/** The yardstick that is the truth of a quantity, for a case that is exact or published and where it holds. */
function truthOf(e: CaseEvidence, key: string): KnownTruth | undefined {
  if (e.kind === "measured") return undefined;
  const found = valuesFor(e.yardsticks, key).find(({ yardstick }) => yardstick.validity.inside && ["exact", "table"].includes(yardstick.kind));
  if (!found) return undefined;
  return { name: found.yardstick.name, value: found.value.value, uncertainty: 2 * (found.value.standardUncertainty ?? 0) };
}

/** What relative errors of a quantity are counted in: the yardstick's value, else the finest result's. */
function scaleOf(q: QuantitySpec, yardsticks: readonly Yardstick[], finest: RunEvidence | undefined): number {
  const reference = valuesFor(yardsticks, q.key)[0]?.value.value;
  const own = finest?.result?.quantities[q.key];
  const scale = Math.abs(reference || own || 1);
  return scale > 0 && Number.isFinite(scale) ? scale : 1;
}

function buildRule(
  e: CaseEvidence,
  q: QuantitySpec,
  scale: number,
  finest: RunEvidence | undefined,
  settling: RunSettling | undefined,
  balance: BalanceAssessment | undefined,
  refinement: QuantityRefinement,
): QuantityRule {
  const settled = settling?.quantities.find((s) => s.key === q.key);
  const average = settling?.averages.find((a) => a.key === q.key && a.adopted);
  const at = finest?.finishedAt;
  const bench = finest?.origin === "bench";
  const mass = balance?.lines.find((l) => l.what === "mass");
  const reference = valuesFor(e.yardsticks, q.key)[0];
  const uD = reference?.value.standardUncertainty;
  const sources: ErrorSource[] = [
    {
      key: "round-off",
      name: "round-off",
      group: "machine",
      relative: bench && finest?.mesh ? Number.EPSILON * Math.sqrt(finest.mesh.cells) : undefined,
      stage: "runs",
      note: bench ? "machine precision times the root of the number of cells" : "the precision the code worked in is not known",
      at,
    },
    {
      key: "iteration",
      name: "iteration",
      group: "numerical",
      relative: average ? 0 : finite(settled?.relative),
      stage: "settling",
      note: average
        ? "the mean stands for the value; see averaging"
        : settled
          ? `last changes of the finest run, ${settled.kind}`
          : "no record of this quantity over the iterations",
      at,
    },
    ...averagingSource(settling, q.key, scale, at),
    { key: "mesh", name: "mesh", group: "numerical", relative: finite(refinement.relative), stage: "refinement", note: refinement.headline, at },
    {
      key: "balance",
      name: "balance",
      group: "numerical",
      relative: mass?.relative,
      stage: "balance",
      note: mass ? "net mass over throughput of the finest run" : "no boundary fluxes",
      at,
    },
  ];
  if (e.kind === "measured") {
    sources.push({ key: "domain", name: "domain", group: "numerical", stage: "refinement", note: "no runs with another domain size" });
    sources.push({ key: "inputs", name: "inputs", group: "input", stage: "question", note: "no uncertainty of the inputs was given" });
  }
  sources.push({
    key: "reference",
    name: "reference",
    group: "input",
    relative: uD === undefined ? undefined : (2 * uD) / scale,
    stage: "yardsticks",
    note: reference ? reference.value.uncertaintyNote : "no yardstick for this quantity",
  });
  const uNum = numericalUncertainty(sources);
  return {
    quantityKey: q.key,
    scale,
    value: finest?.result?.quantities[q.key],
    sources,
    uNum,
    dominant: dominantSource(sources)?.name,
    missing: sources.filter((s) => s.relative === undefined).map((s) => s.name),
  };
}

/** The uncertainty of the mean, where the mean stands for the run's value. */
function averagingSource(settling: RunSettling | undefined, key: string, scale: number, at: string | undefined): ErrorSource[] {
  const average = settling?.averages.find((a) => a.key === key && a.adopted);
  if (!average) return [];
  const note = `mean of ${average.samples} samples, ${significant(average.effectiveSamples, 3)} of them independent`;
  return [{ key: "averaging", name: "averaging", group: "numerical", relative: finite(average.expanded / scale), stage: "settling", note, at }];
}

const finite = (x: number | undefined) => (x !== undefined && Number.isFinite(x) ? x : undefined);

function compareAll(e: CaseEvidence, q: QuantitySpec, finest: RunEvidence | undefined, rule: QuantityRule): QuantityComparison[] {
  const simulated = finest?.result?.quantities[q.key];
  if (simulated === undefined || !Number.isFinite(simulated)) return [];
  return valuesFor(e.yardsticks, q.key).map(({ yardstick, value }) => {
    const uNum = rule.uNum === undefined ? undefined : rule.uNum * rule.scale;
    const c = compareValue(simulated, value.value, uNum, value.standardUncertainty);
    return {
      ...c,
      yardstick: yardstick.name,
      yardstickKey: yardstick.key,
      inside: yardstick.validity.inside,
      limit: q.limit,
      state: againstLimit(c, q.limit, yardstick.validity.inside),
    };
  });
}

function againstLimit(c: ValueComparison, limit: number, inside: boolean): State {
  if (!inside) return "fails";
  const size = Math.abs(c.difference) / c.scale;
  const band = c.uVal === undefined ? 0 : (2 * c.uVal) / c.scale;
  if (size - band > limit) return "fails";
  if (c.uVal === undefined || size + band > limit) return "remark";
  return "holds";
}

function withDifference(rule: QuantityRule, comparisons: readonly QuantityComparison[]): QuantityRule {
  const first = comparisons[0];
  if (!first) return rule;
  return { ...rule, difference: first.difference / rule.scale, band: first.uVal === undefined ? undefined : (2 * first.uVal) / rule.scale };
}

interface JudgeInput {
  setup: State;
  stale: boolean;
  settling?: RunSettling;
  balance?: BalanceAssessment;
  rule: QuantityRule;
  refinement: QuantityRefinement;
  comparisons: readonly QuantityComparison[];
}

function judge(q: QuantitySpec, i: JudgeInput): Verdict {
  const comparison = i.comparisons[0];
  const parts: [string, State][] = [
    ["the set-up", i.setup],
    ["settling", i.settling?.state ?? "none"],
    ["the balance", i.balance?.state ?? "none"],
    ["refinement", i.refinement.state],
    ["the comparison", comparison?.state ?? "none"],
  ];
  const failing = parts.filter(([, s]) => s === "fails").map(([name]) => name);
  const reasons: string[] = failing.map((name) => `${name} fails`);
  if (i.rule.missing.length) reasons.push(`not measured: ${i.rule.missing.join(", ")}`);
  for (const [name, s] of parts) if (s === "remark") reasons.push(`${name} holds with a remark`);
  const figure = comparison ? comparison.sentence : "Nothing has been compared yet.";
  const make = (state: State, word: Verdict["word"]): Verdict => ({ quantityKey: q.key, state, word, sentence: figure, reasons });
  // Old runs against present yardsticks prove nothing, neither way.
  if (i.stale)
    return { ...make("stale", "stale"), sentence: "The runs were made with an earlier set-up; nothing is claimed until the family is run again." };
  if (failing.length) return make("fails", "fails");
  if (i.rule.missing.length || parts.some(([, s]) => s === "none")) return make("none", "incomplete");
  return reasons.length ? make("remark", "holds with a remark") : make("holds", "holds");
}

function profiles(e: CaseEvidence, finest: RunEvidence | undefined) {
  return (finest?.result?.profiles ?? []).flatMap((p) =>
    e.yardsticks.flatMap((y) =>
      y.profiles
        .filter((r) => r.profileKey === p.key)
        .map((r) => ({ ...compareProfile(p, r), yardstick: y.name, name: p.name, runLabel: finest?.label ?? "" })),
    ),
  );
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
