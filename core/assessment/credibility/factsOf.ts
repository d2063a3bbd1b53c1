import { standardOf } from "../../method/budget/errorBudget.ts";
import type { Condition } from "../../method/coverage/coverage.ts";
import type { CredibilityFacts } from "../../method/credibility/facts.ts";
import { pureNumbers } from "../../method/setup/setup.ts";
import type { CaseEvidence } from "../../records/case.ts";
import type { Person } from "../../records/programme.ts";
import { hasHeld, isJudged, type State } from "../../remarks/remark.ts";
import type { LadderAxis } from "../../study/ladders.ts";
import { farApart } from "../comparison/comparing.ts";
import type { CaseAssessment } from "../results/case.ts";
import type { Proof } from "../results/proof.ts";

/** Another case, as far as it bears on the credibility of this one. */
export interface OtherCase {
  readonly id: string;
  readonly title: string;
  readonly kind: CaseEvidence["kind"];
  /** of the same programme */
  readonly near: boolean;
  readonly codes: readonly string[];
  /** code of the runs its verdicts are of; absent where it has none */
  readonly judged?: string | undefined;
  readonly verdicts: readonly State[];
  readonly proofs: readonly Proof[];
  readonly conditions: readonly Condition[];
  readonly physics: { readonly time: string; readonly compressible: boolean };
}

export interface CredibilityContext {
  /** all cases of the data folder, this one among them */
  readonly cases: readonly OtherCase[];
  readonly caseId: string;
  readonly physics: OtherCase["physics"];
  /** conditions a person can state an uncertainty of */
  readonly conditions: number;
  readonly people: readonly Person[];
  readonly reports: number;
}

/** similar conditions differ by less than this factor */
const NEAR = 3;
/** orders that agree, as a share of the formal one */
const AGREES = 0.1;

/** Proofs of the exact problem a case solved: every field of every method, with the code that did it. */
export function proofsOf({ comparison: { methods } }: Pick<CaseAssessment, "comparison">): Proof[] {
  return methods.map(({ method, code, formalOrder, orders }) => {
    const order = orders.rows.find((r) => r.order !== undefined)?.order;
    return { code, field: orders.field, method, formalOrder, verdict: orders.verdict, ...(order === undefined ? {} : { order }) };
  });
}

/** Conditions of a set-up as pure numbers. */
export const conditionsOf = ({ setup }: Pick<CaseAssessment, "setup">): Condition[] =>
  pureNumbers(setup.similarity).map(({ key, name, value }) => ({ key, name, value }));

/** What bears on the credibility of one quantity of a case, read off its assessment and the cases beside it. */
export function factsOf(e: CaseEvidence, a: CaseAssessment, context: CredibilityContext, quantityKey: string): CredibilityFacts {
  const k = Math.max(
    0,
    e.quantities.findIndex((q) => q.key === quantityKey),
  );
  const rule = a.rules[k];
  const sources = rule?.sources ?? [];
  const numerical = sources.filter((s) => s.group !== "input");
  const byReason = (list: typeof sources) => list.filter((s) => s.settled && s.settled.kind !== "measured").map((s) => s.name);
  const open = (list: typeof sources) => list.filter((s) => s.relative === undefined).map((s) => s.name);
  const code = e.runs.find((r) => r.id === a.ladder[0])?.code ?? e.runs[0]?.code ?? "the code";
  const refinement = a.refinement[k];
  const order = refinement?.result?.kind === "monotone" ? refinement.result.order : undefined;
  const comparisons = a.comparison.values[quantityKey] ?? [];
  const deciding = comparisons.filter((c) => c.decides);
  const inputs = a.inputs.find((i) => i.quantityKey === quantityKey);
  const known = numerical.every((s) => s.relative !== undefined) && numerical.length > 0;
  return {
    stale: a.stale,
    exact: e.kind === "exact",
    defined: e.kind !== "measured",
    hasRuns: a.ladder.length > 0,
    code: codeFacts(code, context),
    solution: {
      meshes: (refinement?.rungs ?? []).filter((r) => r.value !== undefined && !r.leftOut).length,
      settled: a.settling[0] !== undefined && hasHeld(a.settling[0].state),
      open: open(numerical),
      byReason: byReason(numerical),
      orderAgrees: order !== undefined && Math.abs(order - e.formalOrder) <= AGREES * e.formalOrder,
      ...(known && e.quantities[k] ? { overLimit: (2 * standardOf(numerical)) / e.quantities[k].limit } : {}),
    },
    validation: {
      deciding: deciding.map((c) => c.yardstick),
      weak: comparisons.filter((c) => !c.decides).map((c) => (c.inside ? `${c.yardstick}, another code` : `${c.yardstick}, outside its range`)),
      complete: deciding.filter((c) => c.uVal !== undefined).length,
      agree: deciding.every((x, i) => deciding.slice(i + 1).every((y) => !farApart(x, y))),
      fails: comparisons.some((c) => c.decides && c.state === "fails"),
    },
    inputs: {
      stops: a.setup.remarks.filter((r) => r.severity === "stop" && !r.answered).map((r) => r.rule),
      doubts: a.setup.remarks.filter((r) => r.severity === "doubt" && !r.answered).map((r) => r.rule),
      given: e.inputs?.length ?? 0,
      conditions: context.conditions,
      propagated: inputs?.relative !== undefined,
      byRuns: (inputs?.shares ?? []).length > 0 && (inputs?.shares ?? []).every((s) => s.sensitivity && s.sensitivity.by !== "typed"),
    },
    uncertainty: {
      open: open(sources),
      byReason: byReason(sources),
      sources: sources.length,
      inputsKnown: sources.some((s) => s.key === "inputs" && s.relative !== undefined),
    },
    varied: variedIn(a, quantityKey, inputs?.relative !== undefined),
    history: historyFacts(code, a, context),
    people: {
      named: context.people.length,
      checks: context.people.some((p) => /check/i.test(p.role)),
      approves: context.people.some((p) => /approv/i.test(p.role)),
      reports: context.reports,
    },
  };
}

function codeFacts(code: string, { cases, physics }: CredibilityContext): CredibilityFacts["code"] {
  const exact = cases.filter((c) => c.kind === "exact" && c.codes.includes(code));
  const proofs = (c: OtherCase) => c.proofs.filter((p) => p.code === code && p.verdict !== "too-few");
  const shown = exact.filter((c) => proofs(c).length > 0 && proofs(c).every(hadOrder));
  return {
    name: code,
    met: exact.filter((c) => c.judged === code && c.verdicts.some(hasHeld)).map((c) => c.title),
    orderShown: shown.map((c) => c.title),
    sameKind: shown.filter((c) => c.physics.time === physics.time && c.physics.compressible === physics.compressible).length,
    short: exact.flatMap((c) =>
      proofs(c)
        .filter(below)
        .map((p) => `${p.field} in ${c.title}`),
    ),
  };
}

/** An order above the formal one is no proof of the formal one: something else may be at work. */
const hadOrder = (p: Proof): boolean => p.verdict === "formal-order" || p.verdict === "exact";
const below = (p: Proof): boolean => p.verdict === "below-order";

const AXES: readonly (readonly [string, readonly LadderAxis[]])[] = [
  ["time step", ["time-step"]],
  ["domain", ["domain"]],
  ["stopping tolerance", ["tolerance"]],
  ["scheme", ["scheme", "flux", "limiter"]],
  ["cell shape", ["shape"]],
];

/** What was varied and is known to have done something or nothing to the quantity. */
function variedIn(a: CaseAssessment, quantityKey: string, conditions: boolean): string[] {
  const meshes = (a.refinement.find((r) => r.key === quantityKey)?.rungs ?? []).filter((r) => r.value !== undefined).length;
  const along = (axes: readonly LadderAxis[]) =>
    a.ladders.list.some(
      (l) => axes.includes(l.axis) && (l.quantities.find((q) => q.key === quantityKey)?.values.filter((v) => v !== undefined).length ?? 0) >= 2,
    );
  return [...(meshes >= 2 ? ["mesh"] : []), ...AXES.flatMap(([name, axes]) => (along(axes) ? [name] : [])), ...(conditions ? ["conditions"] : [])];
}

function historyFacts(code: string, a: CaseAssessment, { cases, caseId }: CredibilityContext): CredibilityFacts["history"] {
  const others = cases.filter((c) => c.id !== caseId && c.near && c.judged === code && c.verdicts.some(isJudged));
  const own = conditionsOf(a);
  const similar = (c: OtherCase) => {
    const shared = own.flatMap((x) => {
      const there = c.conditions.find((y) => y.key === x.key)?.value;
      return there === undefined ? [] : [Math.max(x.value / there, there / x.value)];
    });
    return shared.length > 0 && shared.every((factor) => factor <= NEAR);
  };
  return {
    judged: others.map((c) => c.title),
    near: others.filter((c) => similar(c) && c.verdicts.some(hasHeld) && !c.verdicts.includes("fails")).map((c) => c.title),
    failed: others.filter((c) => c.verdicts.includes("fails")).map((c) => c.title),
  };
}
