import { percent, quantityText, signedPercent, significant } from "../../formatting/number.ts";
import { type ErrorBudget, type ErrorSource, numericalUncertainty } from "../../method/budget/errorBudget.ts";
import { SETTLEMENT_WORDS } from "../../method/budget/settlement.ts";
import { K, listed } from "../../method/comparison/compareValue.ts";
import { pureNumbers, type SimilarityNumber } from "../../method/setup/setup.ts";
import { codeWords } from "../../records/build.ts";
import type { DecisionRule } from "../../records/programme.ts";
import type { QuantitySpec } from "../../records/quantity.ts";
import type { RunEvidence } from "../../records/run.ts";
import type { NumericalSpread } from "../../records/studyChoice.ts";
import type { State } from "../../remarks/remark.ts";
import { rulesOf } from "../../remarks/rule.ts";
import type { QuantityComparison } from "../results/comparison.ts";
import type { Claim } from "../results/verdict.ts";

export interface ClaimInput {
  readonly quantity: QuantitySpec;
  readonly rule: ErrorBudget;
  /** the comparison that counts most */
  readonly first?: QuantityComparison | undefined;
  /** finest first */
  readonly ladder: readonly Pick<RunEvidence, "label" | "code">[];
  readonly similarity: readonly SimilarityNumber[];
  readonly compressible: boolean;
  readonly fluid: string;
  /** conditions are what they are by definition, as in an exact or published case */
  readonly defined: boolean;
  readonly stale: boolean;
  /** why a stage before fails: what stands on it is no evidence */
  readonly broken?: string | undefined;
  readonly spread?: NumericalSpread | undefined;
}

const CONFIDENCE = 0.95;

/**
 * What may be claimed of one quantity: the interval its model error lies in where everything is known and a yardstick decides, else the numerical
 * interval of its value where that is known, else nothing; at which conditions, on what it rests, and what it does not cover.
 * @source ASME V&V 20-2009: the model error lies in E +- k u_val
 */
export function claimOf(i: ClaimInput): Claim {
  const conditions = conditionsOf(i);
  const byArgument = i.rule.sources
    .filter(argued)
    .flatMap((s) => (s.settled ? [`${s.name} (${SETTLEMENT_WORDS[s.settled.kind]}, ${s.settled.by})`] : []));
  const base = { conditions, byArgument, restsOn: restsOn(i), notCovered: notCovered(i) };
  const nothing = (why: string): Claim => ({ ...base, kind: "nothing", sentence: `Nothing is claimed of ${i.quantity.name}: ${why}.` });
  if (i.stale) return nothing("its runs were made with an earlier set-up");
  if (i.rule.value === undefined) return nothing("no run has delivered it");
  if (i.broken) return nothing(i.broken);
  const uNum = numericalUncertainty(i.rule.sources, i.spread);
  if (uNum === undefined) {
    const open = i.rule.sources.filter((s) => s.relative === undefined && s.group !== "input").map((s) => s.name);
    return nothing(`how large the error of ${listed(open)} is, nobody knows`);
  }
  return { ...base, ...intervalOf(i, i.rule.value, uNum), confidence: CONFIDENCE };
}

/** The interval that can be stated, with its sentence. */
function intervalOf(i: ClaimInput, value: number, uNum: number): Pick<Claim, "kind" | "low" | "high" | "sentence"> {
  const { quantity: q, rule, first } = i;
  const half = K * uNum * rule.scale;
  const said = `At ${listed(conditionsOf(i)) || "the conditions typed"}, ${q.name} is ${quantityText(value, q.unit, 5)} with a numerical uncertainty of ${percent(half / rule.scale)}`;
  const tail = `${foundation(i)} ${limits(i)}`;
  if (!first?.decides || first.uVal === undefined) {
    const why = first?.decides ? `${listed(first.open)} ${first.open.length > 1 ? "are" : "is"} open` : "no yardstick decides here";
    return {
      kind: "numerical",
      low: value - half,
      high: value + half,
      sentence: `${said} (95 %); nothing is claimed of its error, since ${why}. ${tail}`,
    };
  }
  const [e, band] = [first.difference / first.scale, (K * first.uVal) / first.scale];
  const of = first.scaleName ? ` of ${first.scaleName}` : "";
  return {
    kind: "model-error",
    low: e - band,
    high: e + band,
    sentence: `${said}, and its error against ${first.yardstick} lies between ${signedPercent(e - band)} and ${signedPercent(e + band)}${of} (95 %, k = ${K}), ${kept(first)}. ${tail}`,
  };
}

const BY_RULE: Readonly<Record<DecisionRule, string>> = {
  "both-ways": "with its uncertainty both ways",
  guarded: "by guarded acceptance",
  simple: "by simple acceptance",
};

const KEPT: Readonly<Record<State, string>> = {
  holds: "keeps",
  remark: "may keep or break",
  fails: "breaks",
  none: "is not held against",
  stale: "is not held against",
};

/** How it stands to its limit. */
const kept = ({ state, limit, decision = "both-ways" }: QuantityComparison): string =>
  `which ${KEPT[state]} the limit of ${percent(limit)} ${BY_RULE[decision]}`;

/** A person's reason stands for it, and no measurement. */
const argued = (s: ErrorSource): boolean => s.settled !== undefined && s.settled.kind !== "measured";

/** Similarity numbers that say where the claim holds; a Mach number that nothing depends on does not. */
const numbersOf = ({ similarity, compressible }: ClaimInput): SimilarityNumber[] =>
  pureNumbers(similarity).filter((s) => s.key !== "mach" || compressible);

function conditionsOf(i: ClaimInput): string[] {
  return [...numbersOf(i).map((s) => `${s.name} ${significant(s.value, 4)}`), ...(i.fluid ? [`in ${i.fluid}`] : [])];
}

function restsOn({ ladder, first }: ClaimInput): string[] {
  const [finest] = ladder;
  const meshes = ladder.length === 1 ? "one mesh" : `${ladder.length} meshes`;
  return [...(finest ? [`${meshes} of ${codeWords(finest.code)} (finest ${finest.label})`] : []), ...(first ? [first.yardstick] : [])];
}

function notCovered(i: ClaimInput): string[] {
  const { rule, defined } = i;
  const others = numbersOf(i).map((s) => s.name);
  return [
    ...(others.length ? [`any other ${listed(others)}`] : ["any other condition"]),
    ...(defined || rule.sources.some((s) => s.key === "inputs")
      ? []
      : ["what the uncertainty of the conditions makes of it: they are taken as typed"]),
    ...rule.sources.filter((s) => s.relative === undefined).map((s) => `${s.name}, which is open`),
  ];
}

const foundation = (i: ClaimInput): string => {
  const names = i.rule.sources.filter(argued).map((s) => s.name);
  const reasons = names.length ? `, and on reasons instead of measurements for ${listed(names)}` : "";
  return `It rests on ${listed(restsOn(i))}${reasons}.`;
};

const limits = (i: ClaimInput): string => `It does not cover ${listed(notCovered(i))}.`;

/** The rules of this file in words. */
export const CLAIM_RULES = rulesOf("core/assessment/verdict/claim.ts", [
  {
    rule: "claim",
    text: "Claimed is the interval E ± 2 u_val the model error lies in at 95 %, where every source is known and a yardstick decides; else the numerical interval of the value, where its sources are known; else nothing. The claim names its conditions, what it rests on, which sources were settled by reasons instead of measurements, and what it does not cover. Where a stage fails or the runs are of an earlier set-up, nothing is claimed.",
    source: "after ASME V&V 20",
  },
]);
