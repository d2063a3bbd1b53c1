import { percent, sentenceCase } from "../../formatting/number.ts";
import type { ErrorBudget, ErrorSource } from "../../method/budget/errorBudget.ts";
import type { QuantitySpec } from "../../records/quantity.ts";
import type { NumericalSpread } from "../../records/studyChoice.ts";
import type { Remark, State } from "../../remarks/remark.ts";
import { sourceOf } from "../budget/registry.ts";
import type { WeighedComparison } from "../comparison/comparing.ts";
import type { QuantityRefinement } from "../results/refinement.ts";
import type { Stage } from "../results/stage.ts";
import type { Reason, Verdict } from "../results/verdict.ts";
import { gainOf, gainOfNext, gainOfSettling } from "./gain.ts";

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
  /** what the stages before say, in their order */
  readonly parts: readonly Part[];
  readonly refinement: QuantityRefinement;
  readonly comparison: WeighedComparison;
  readonly rule: ErrorBudget;
  /** how the error of the finest mesh is taken to lie, where not about it */
  readonly spread?: NumericalSpread | undefined;
  /** titles of open findings about it */
  readonly findings?: readonly string[];
  /** and of those that block it */
  readonly blocking?: readonly string[];
}

const STALE = "The runs were made with an earlier set-up; nothing is claimed until they are made again.";

/**
 * The verdict of a quantity. Old runs prove nothing, neither way; what fails fails whatever is open; an open source, or a comparison that
 * cannot be made, leaves it incomplete; doubts and estimates by hand are remarks.
 */
export function judge(i: JudgeInput): Judged {
  const { comparison, rule } = i;
  const weighed: Weighed = {
    fails: [
      ...i.parts.flatMap((p) => (p.state === "fails" ? because(p, ["stop"]) : [])),
      ...(i.blocking ?? []).map((title): Reason => ({ sentence: blockedBy(title), go: "verdict" })),
      ...(comparison.state === "fails" ? compared(comparison) : []),
    ],
    settles: rule.sources.filter(isOpen).map((s) => ({ source: s.key, ...sourceOf(s.key).settle(i) })),
    open: rule.sources.filter(isOpen).map(openReason),
    unjudged: comparison.state === "none" && !rule.sources.some(isOpen) ? compared(comparison) : [],
    remarks: [
      ...i.parts.flatMap((p) => (p.state === "remark" ? because(p, ["doubt"]) : [])),
      ...(comparison.state === "remark" ? compared(comparison) : []),
      ...rule.sources.flatMap(estimateReason),
      ...(i.findings ?? []).map((title): Reason => ({ sentence: `the finding “${title}” is open`, go: "verdict" })),
    ],
  };
  return i.stale ? staleVerdict(i) : { ...wordOf(weighed), ...explained(i, weighed) };
}

export const blockedBy = (title: string): string => `the finding “${title}” blocks it until it is cured`;

/** A verdict without what may be claimed by it. */
export type Judged = Omit<Verdict, "claim">;

/** Everything that bears on a verdict, by how it bears. */
interface Weighed {
  readonly fails: readonly Reason[];
  readonly settles: Verdict["settles"];
  readonly open: readonly Reason[];
  readonly unjudged: readonly Reason[];
  readonly remarks: readonly Reason[];
}

const isOpen = (s: ErrorSource): boolean => s.relative === undefined;

const openReason = (s: ErrorSource): Reason => ({
  sentence: `the ${s.name === "inputs" ? "uncertainty of the inputs" : `${s.name} error`} is open: ${s.note}`,
  go: s.stage,
});

const estimateReason = (s: ErrorSource): Reason[] =>
  s.settled?.kind === "estimated" ? [{ sentence: `${s.name} is an estimate of ${s.settled.by}, not measured`, go: "verdict" }] : [];

function wordOf(w: Weighed): Pick<Verdict, "state" | "word"> {
  if (w.fails.length) return { state: "fails", word: "fails" };
  if (w.open.length || w.unjudged.length) return { state: "none", word: "incomplete" };
  return w.remarks.length ? { state: "remark", word: "holds with a remark" } : { state: "holds", word: "holds" };
}

const explained = (i: JudgeInput, w: Weighed): Omit<Judged, "state" | "word"> => ({
  quantityKey: i.quantity.key,
  sentence: i.comparison.first?.sentence ?? "Nothing has been compared yet.",
  reasons: [...w.fails, ...w.open, ...w.unjudged, ...w.remarks],
  settles: w.settles,
  next: nextStep(i, w),
});

const staleVerdict = ({ quantity }: JudgeInput): Judged => ({
  quantityKey: quantity.key,
  state: "stale",
  word: "stale",
  sentence: STALE,
  reasons: [{ sentence: "the set-up was changed after the runs", go: "question" }],
  settles: [],
  next: { sentence: "make the runs again with the present set-up", go: "runs" },
});

/** Sentences of a stage that count, one for each rule; a state without any still has its stage named. */
function because(p: Part, severities: readonly Remark["severity"][]): Reason[] {
  const found = p.remarks.filter((r) => severities.includes(r.severity) && !r.answered);
  const first = [...new Map(found.map((r) => [r.rule, r])).values()];
  const plain = (s: string) => s.replace(/\.$/, "");
  if (!first.length) return [{ sentence: `${p.stage} ${p.state === "fails" ? "fails" : "holds with a remark"}`, go: p.stage }];
  return first.map((r) => ({ sentence: plain(r.sentence), go: p.stage, rule: r.rule }));
}

const compared = (c: WeighedComparison): Reason[] => c.reasons.map((sentence) => ({ sentence, go: "comparison", rule: "yardstick-policy" }));

function nextStep(i: JudgeInput, { fails, settles, remarks }: Weighed): Verdict["next"] {
  if (i.rule.value === undefined)
    return i.broughtIn ? { sentence: "bring in a run", go: "runs" } : { sentence: "run a family of meshes", go: "meshes" };
  if (fails.length) {
    const gain = fails[0].rule === "mesh-over-limit" ? gainOfNext(i.refinement) : undefined;
    return { sentence: `look at this first: ${fails[0].sentence}`, go: fails[0].go, ...(gain ? { gain } : {}) };
  }
  const [cheapest] = [...settles].sort((a, b) => sourceOf(a.source).effort - sourceOf(b.source).effort);
  if (cheapest)
    return { sentence: cheapest.sentence, go: cheapest.go, gain: gainOfSettling(settles.length, i.comparison.first, runFor(i, cheapest.go)) };
  if (i.comparison.state === "none") return { sentence: "add a yardstick that holds here", go: "yardsticks" };
  if (!remarks.length) return undefined;
  const [largest] = [...i.rule.sources].sort((a, b) => (b.relative ?? 0) - (a.relative ?? 0));
  if (i.comparison.state === "remark" && largest) {
    const gain = gainOf(largest, i.comparison.first, i.refinement, i.spread);
    return {
      sentence: `make ${largest.name} smaller, ${percent(largest.relative ?? 0)} now: it is the largest part of the uncertainty`,
      go: largest.stage,
      ...(gain ? { gain } : {}),
    };
  }
  return { sentence: `see to this: ${remarks[0].sentence}`, go: remarks[0].go };
}

/** pages where a source is settled by computing */
const BY_RUNS: readonly Stage[] = ["meshes", "refinement", "runs"];

/** Time of a run like the finest, where settling needs one and the bench makes it. */
function runFor({ broughtIn, refinement }: JudgeInput, go: Stage): number | "no run" | undefined {
  if (!BY_RUNS.includes(go)) return "no run";
  return broughtIn ? undefined : refinement.rungs[0]?.seconds;
}

/** A reason as it stands in a list of its own. */
export const reasonText = (r: Reason): string => `${sentenceCase(r.sentence)}.`;

/** The next step with what it would gain and cost, as far as figures tell. */
export const nextText = (next: NonNullable<Verdict["next"]>): string => `${reasonText(next)}${next.gain ? ` ${next.gain.sentence}` : ""}`;
