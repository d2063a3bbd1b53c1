import { count, percent, powerOfTen, sentenceCase, significant, withUncertainty } from "../../formatting/number.ts";
import type { IterationError } from "../../method/iteration/iterationError.ts";
import type { QuantitySpec } from "../../records/quantity.ts";
import { TAKE_WORDS } from "../../records/take.ts";
import type { Margin, MarginNote } from "../results/margin.ts";
import type { QuantityAverage, QuantitySettling, RunSettling } from "../results/settling.ts";
import { NO_RUN, remarksAsNotes } from "../stages/notes.ts";
import type { Told } from "../stages/part.ts";

const RULE = "residual-drop";

/** What the margin says of how far the finest run has settled. */
export function settlingWords({ evidence: e, assessment: a, quantity: q }: Told): Margin {
  const run = a.settling[0];
  if (!run) return { label: "Settled", figure: "–", verdict: "", tone: "none", notes: [NO_RUN] };
  const asked = significant(e.dropTarget, 2);
  const own = run.quantities.find((x) => x.key === q.key);
  const average = run.averages.find((x) => x.key === q.key);
  const scale = a.rules.find((r) => r.quantityKey === q.key)?.scale ?? 1;
  return {
    label: `Smallest drop, ${run.label}`,
    figure: run.smallestDrop === undefined ? "–" : `${significant(run.smallestDrop, 2)} orders`,
    verdict: run.state === "holds" ? `Settled: ${asked} were asked` : run.state === "fails" ? "Not settled" : "",
    tone: run.state,
    notes: [
      ...settledNote(run, asked),
      ...remarksAsNotes(run.remarks),
      ...(average ? [averageNote(average)] : []),
      ...(own && !average?.adopted ? [leftNote(own, q), ...toleranceNote(run, own, q, scale)] : []),
      settlingNext(run, e.dropTarget),
    ],
  };
}

function settledNote(run: RunSettling, asked: string): MarginNote[] {
  if (run.state !== "holds" || !run.residuals.length) return [];
  const rest = run.quantities.length ? ", and what is left in every quantity is below its threshold" : "";
  const sentence = `Every residual of ${run.label} fell by at least ${significant(run.smallestDrop ?? 0, 2)} orders where ${asked} were asked${rest}.`;
  return [{ heading: "Settled", sentence, rule: RULE }];
}

function averageNote(x: QuantityAverage): MarginNote {
  const { value, expanded } = x.taken ?? { value: x.mean, expanded: x.expanded };
  const what = x.taken ? TAKE_WORDS[x.take] : "mean";
  const figures = `${sentenceCase(what)} ${withUncertainty(value, expanded)} ± ${significant(expanded, 2)} (95 %) of ${count(x.samples)} samples, ${significant(x.effectiveSamples, 2)} of them independent`;
  const cut = `the first ${significant(x.cutAt, 3)} ${x.abscissa} are left out ${x.cutBy === "hand" ? "by hand" : "by test"}.`;
  const frequency = x.peak && x.abscissa === "s" ? ` Dominant frequency ${significant(x.peak.frequency, 4)} Hz.` : "";
  return {
    heading: x.adopted ? `The ${what} counts` : "An average is at hand",
    sentence: `${figures}; ${cut}${frequency}`,
    rule: "average-few-samples",
  };
}

const KIND_WORDS: Readonly<Record<IterationError["kind"], string>> = {
  real: "shrinks steadily",
  alternating: "alternates about its limit",
  complex: "circles its limit",
  noise: "is noise",
  still: "no longer changes",
  growing: "grows",
  cycling: "cycles about a level without closing in on it",
  moving: "goes one way without slowing down enough to tell where it ends",
  "too-short": "cannot be judged, the record is too short",
};

const WITH_A_FACTOR: readonly IterationError["kind"][] = ["real", "alternating", "complex"];

function leftNote(s: QuantitySettling, q: QuantitySpec): MarginNote {
  const factor = WITH_A_FACTOR.includes(s.kind) && Number.isFinite(s.factor) ? `, by a factor of ${significant(s.factor, 2)} an iteration` : "";
  const left = `About ${percent(s.relative)} is left, ${s.holds ? "below" : "not below"} ${percent(s.threshold)}, a tenth of its ${s.against}.`;
  return { heading: "What is left", sentence: `The change of ${q.name} ${KIND_WORDS[s.kind]}${factor}. ${left}`, rule: "iteration-error" };
}

function toleranceNote(run: RunSettling, s: QuantitySettling, q: QuantitySpec, scale: number): MarginNote[] {
  const loose = run.tolerance.find((t) => Math.abs(t.values[q.key] - s.value) <= s.threshold * scale);
  if (!loose) return [];
  const tolerance = powerOfTen(Math.round(Math.log10(loose.tolerance)));
  return [
    {
      heading: "Where one could have stopped",
      sentence: `From a tolerance of ${tolerance} on, iteration ${loose.iteration}, the value stays within its threshold.`,
      rule: "tolerance-study",
    },
  ];
}

/** What to do about a run's settling. */
function settlingNext(run: RunSettling, target: number): MarginNote {
  const heading = "Next";
  const rule = RULE;
  if (run.averages.some((x) => x.adopted)) return { heading, rule, sentence: "The means count. See whether the runs balance.", go: "balance" };
  const states = run.residuals.map((r) => r.state);
  if (states.includes("diverging"))
    return {
      heading,
      rule,
      sentence: "Take the run back to where it still fell: shorten the step, take a scheme with more damping, or look at the mesh where it breaks.",
      go: "runs",
    };
  const left = Math.max(0, ...run.residuals.map((r) => (r.state === "still-falling" ? (r.iterationsLeft ?? 0) : 0)));
  if (left > 0)
    return {
      heading,
      rule,
      sentence: `Let ${run.label} run on for about ${left} iterations; nothing else is needed to reach ${target} orders.`,
      go: "runs",
    };
  if (states.includes("stalled") || states.includes("cycling"))
    return {
      heading,
      rule,
      sentence: run.averages.length
        ? "The residuals fall no further. Average what wanders, if the flow is unsteady by nature; else look for the cells that hold it up."
        : "The residuals fall no further: look for the cells that hold it up, or run it in time.",
    };
  if (run.state === "holds") return { heading, rule, sentence: "Nothing is left to do here. See whether the runs balance.", go: "balance" };
  return {
    heading,
    sentence: "Tighten what is left in the quantities before the mesh is judged: they are to stay a tenth below its error.",
    go: "runs",
  };
}
