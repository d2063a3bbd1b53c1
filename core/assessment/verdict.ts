import { percent, sentenceCase } from "../formatting/number.ts";
import type { QuantityRule } from "../method/budget/rule.ts";
import type { QuantitySpec } from "../records/quantity.ts";
import type { SourceKey } from "../records/settlement.ts";
import type { Remark, State } from "../remarks/remark.ts";
import type { WeighedComparison } from "./comparing.ts";
import type { QuantityRefinement } from "./refinement.ts";
import type { Stage } from "./stage.ts";

/** Something that bears on a verdict, with the page that shows it and the rule that says it. */
export interface Reason {
  readonly sentence: string;
  readonly go: Stage;
  readonly rule?: string;
}

export type VerdictWord = "holds" | "holds with a remark" | "fails" | "stale" | "incomplete";

export interface Verdict {
  readonly quantityKey: string;
  readonly state: State;
  readonly word: VerdictWord;
  readonly sentence: string;
  /** why it is not simply "holds" */
  readonly reasons: readonly Reason[];
  /** what would settle each open source */
  readonly settles: readonly (Reason & { readonly source: SourceKey })[];
  /** the step that costs least */
  readonly next?: Reason;
}

/** What one stage contributes. */
export interface Part {
  readonly stage: Stage;
  readonly state: State;
  readonly remarks: readonly Remark[];
}

export interface JudgeInput {
  readonly quantity: QuantitySpec;
  readonly stale: boolean;
  /** results come from files */
  readonly broughtIn: boolean;
  readonly setup: Part;
  readonly settling: Part;
  readonly balance: Part;
  readonly refinement: Part & { readonly study: QuantityRefinement };
  readonly comparison: WeighedComparison;
  readonly rule: QuantityRule;
}

const STALE = "The runs were made with an earlier set-up; nothing is claimed until they are made again.";

/**
 * The verdict of a quantity. Old runs prove nothing, neither way; what fails fails whatever is open; an open source, or a comparison that
 * cannot be made, leaves it incomplete; doubts and estimates by hand are remarks.
 */
export function judge(i: JudgeInput): Verdict {
  const { quantity: q, rule, comparison } = i;
  const parts = [i.setup, i.settling, i.balance, i.refinement];
  const fails = [
    ...parts.flatMap((p) => (p.state === "fails" ? because(p, ["stop"]) : [])),
    ...(comparison.state === "fails" ? compared(comparison) : []),
  ];
  const settles = rule.sources.filter((s) => s.relative === undefined).map((s) => ({ source: s.key, ...settling(s.key, i) }));
  const open: Reason[] = rule.sources
    .filter((s) => s.relative === undefined)
    .map((s) => ({ sentence: `the ${s.name === "inputs" ? "uncertainty of the inputs" : `${s.name} error`} is open: ${s.note}`, go: s.stage }));
  const unjudged = comparison.state === "none" && !open.length ? compared(comparison) : [];
  const remarks = [
    ...parts.flatMap((p) => (p.state === "remark" ? because(p, ["doubt"]) : [])),
    ...(comparison.state === "remark" ? compared(comparison) : []),
    ...rule.sources
      .filter((s) => s.settled?.kind === "estimated")
      .map((s): Reason => ({ sentence: `${s.name} is an estimate of ${s.settled?.by}, not measured`, go: "verdict" })),
  ];
  const reasons = [...fails, ...open, ...unjudged, ...remarks];
  const make = (state: State, word: VerdictWord): Verdict => ({
    quantityKey: q.key,
    state,
    word,
    sentence: comparison.first?.sentence ?? "Nothing has been compared yet.",
    reasons,
    settles,
    next: nextStep(i, fails, settles, remarks),
  });
  if (i.stale) {
    const again: Reason = { sentence: "make the runs again with the present set-up", go: "runs" };
    return {
      ...make("stale", "stale"),
      sentence: STALE,
      reasons: [{ sentence: "the set-up was changed after the runs", go: "question" }],
      settles: [],
      next: again,
    };
  }
  if (fails.length) return make("fails", "fails");
  if (open.length || unjudged.length) return make("none", "incomplete");
  return remarks.length ? make("remark", "holds with a remark") : make("holds", "holds");
}

/** Sentences of a stage that count, one for each rule; a state without any still has its stage named. */
function because(p: Part, severities: readonly Remark["severity"][]): Reason[] {
  const found = p.remarks.filter((r) => severities.includes(r.severity) && !r.answered);
  const first = [...new Map(found.map((r) => [r.rule, r])).values()];
  const plain = (s: string) => s.replace(/\.$/, "");
  if (!first.length) return [{ sentence: `${p.stage} ${p.state === "fails" ? "fails" : "holds with a remark"}`, go: p.stage }];
  return first.map((r) => ({ sentence: plain(r.sentence), go: p.stage, rule: r.rule }));
}

const compared = (c: WeighedComparison): Reason[] => c.reasons.map((sentence) => ({ sentence, go: "comparison", rule: "yardstick-policy" }));

/** What settles an open source, in words, and where. */
function settling(key: SourceKey, i: JudgeInput): Reason {
  const { quantity: q, broughtIn } = i;
  const have = i.refinement.study.rungs.filter((r) => r.value !== undefined).length;
  const more = Math.max(1, 3 - have);
  const ways: Readonly<Record<SourceKey, Reason>> = {
    "round-off": { sentence: "state the precision the code works in", go: "verdict" },
    iteration: { sentence: `bring in a record of ${q.name} over the iterations, or estimate what is left`, go: "runs" },
    averaging: { sentence: `average ${q.name} over a longer record`, go: "settling" },
    mesh: broughtIn
      ? { sentence: `bring in ${more} more ${more === 1 ? "mesh" : "meshes"}, or estimate the mesh error`, go: "runs" }
      : { sentence: `run ${more} more ${more === 1 ? "mesh" : "meshes"} of the family`, go: "meshes" },
    "time-step": { sentence: "bring in a run with another time step, or bound what the step leaves", go: "runs" },
    balance: { sentence: "add the flows through the boundaries to the finest run, or say why none is needed", go: "runs" },
    domain: { sentence: "bring in a run in a larger domain, bound what its edge does, or say that there is no far field", go: "runs" },
    inputs: { sentence: "type how well the conditions are known, and how the quantity answers to them", go: "question" },
    reference: { sentence: "state the uncertainty of the yardstick, or estimate it", go: "yardsticks" },
  };
  return ways[key];
}

/** typing before looking up before running */
const COST: readonly SourceKey[] = ["round-off", "domain", "inputs", "reference", "balance", "averaging", "iteration", "time-step", "mesh"];

function nextStep(i: JudgeInput, fails: readonly Reason[], settles: Verdict["settles"], remarks: readonly Reason[]): Reason | undefined {
  if (i.rule.value === undefined) return { sentence: i.broughtIn ? "bring in a run" : "run a family of meshes", go: i.broughtIn ? "runs" : "meshes" };
  if (fails.length) return { sentence: `look at this first: ${fails[0].sentence}`, go: fails[0].go };
  const cheapest = COST.flatMap((key) => settles.filter((s) => s.source === key))[0];
  if (cheapest) return { sentence: cheapest.sentence, go: cheapest.go };
  if (i.comparison.state === "none") return { sentence: "add a yardstick that holds here", go: "yardsticks" };
  if (!remarks.length) return undefined;
  const largest = [...i.rule.sources].sort((a, b) => (b.relative ?? 0) - (a.relative ?? 0))[0];
  if (i.comparison.state === "remark" && largest)
    return {
      sentence: `make ${largest.name} smaller, ${percent(largest.relative ?? 0)} now: it is the largest part of the uncertainty`,
      go: largest.stage,
    };
  return { sentence: `see to this: ${remarks[0].sentence}`, go: remarks[0].go };
}

/** A reason as it stands in a list of its own. */
export const reasonText = (r: Reason): string => `${sentenceCase(r.sentence)}.`;
