import {
  count as countText,
  duration,
  percent,
  powerOfTen,
  sentenceCase,
  signedPercent,
  significant,
  withUncertainty,
} from "../formatting/number.ts";
import type { CaseEvidence } from "../records/case.ts";
import { TAKE_WORDS } from "../records/take.ts";
import type { Remark } from "../remarks/remark.ts";
import type { CaseAssessment, RunBalance } from "./caseAssessment.ts";
import type { RunSettling } from "./settling.ts";
import type { Stage } from "./stage.ts";
import { reasonText } from "./verdict.ts";

/** A sentence of the margin with its heading, and the rule it comes from. */
export interface MarginNote {
  readonly heading: string;
  readonly sentence: string;
  readonly rule?: string;
  readonly go?: Stage;
}

export interface Margin {
  /** label above the big figure */
  readonly label: string;
  readonly figure: string;
  readonly verdict: string;
  readonly notes: readonly MarginNote[];
}

const NO_RUN: MarginNote = {
  heading: "What fills this",
  sentence: "A finished run. Start the family on the Runs page or bring in results from files.",
  go: "runs",
};

/** What to do about a run's settling. */
function settlingNext(run: RunSettling, target: number): MarginNote {
  const heading = "Next";
  const rule = "residual-drop";
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

/** What to do about a run's balance. */
function balanceNext(b: RunBalance): MarginNote {
  const heading = "Next";
  const rule = "balance-limit";
  const off = b.lines.find((l) => l.state === "fails");
  if (b.remarks.some((r) => r.rule === "balance-sign"))
    return { heading, rule, sentence: "Bring the table in again with the way its flows are counted.", go: "runs" };
  if (off)
    return {
      heading,
      rule,
      sentence: `Look which boundary the missing ${off.what} leaves by, and whether it shrinks with iteration or with the mesh: the first asks for more iterations, the second for a finer mesh, neither for a leak.`,
    };
  if (b.laws.some((l) => l.state === "fails"))
    return { heading, rule, sentence: "A flow that breaks such a rule is wrong somewhere: find the place before its figures are used.", go: "runs" };
  if (b.lines.some((l) => l.state === "remark"))
    return {
      heading,
      rule,
      sentence: "It closes, but not far below its limit: more iterations would tell whether that is all it can do.",
      go: "settling",
    };
  return { heading, rule, sentence: "Nothing is left to do here. See how far the mesh is refined.", go: "refinement" };
}

const OF_RUNS: readonly Stage[] = ["settling", "balance", "refinement", "comparison"];

/** What the evidence says at one stage about one quantity, in sentences. Of runs older than the set-up it says so first, and claims nothing. */
export function marginFor(stage: Stage, e: CaseEvidence, a: CaseAssessment, quantityKey: string): Margin | undefined {
  const margin = presentMargin(stage, e, a, quantityKey);
  if (!margin || !a.stale || !OF_RUNS.includes(stage)) return margin;
  return {
    ...margin,
    verdict: "Stale: made with an earlier set-up",
    notes: [
      {
        heading: "Older than the set-up",
        sentence: "The set-up was changed after these runs. Nothing here holds for it until they are made again.",
        go: "runs",
      },
      ...margin.notes
        .filter((n) => n.heading !== "Next")
        .map((n) => ({ ...n, heading: `Of the old runs: ${n.heading[0].toLowerCase()}${n.heading.slice(1)}` })),
    ],
  };
}

function presentMargin(stage: Stage, e: CaseEvidence, a: CaseAssessment, quantityKey: string): Margin | undefined {
  const q = e.quantities.find((x) => x.key === quantityKey) ?? e.quantities[0];
  if (!q) return undefined;
  const remarksAsNotes = (remarks: readonly Remark[]) =>
    remarks.map((r) => ({
      heading: r.answered ? "Accepted" : r.severity === "stop" ? "Does not hold" : r.severity === "doubt" ? "A doubt" : "To know",
      sentence: r.sentence,
      rule: r.rule,
    }));
  const refinement = a.refinement.find((r) => r.key === q.key);
  const rule = a.rules.find((r) => r.quantityKey === q.key);
  switch (stage) {
    case "question": {
      const re = a.setup.similarity.find((s) => s.key === "reynolds");
      const notes: MarginNote[] = remarksAsNotes(a.setup.remarks);
      if (!notes.length)
        notes.push({
          heading: "Nothing contradicts itself",
          sentence: "Every set-up rule that applies was checked and none has anything to say.",
          rule: "setup-complete",
        });
      const stops = a.setup.remarks.filter((r) => r.severity === "stop" && !r.answered).length;
      notes.push(
        stops
          ? {
              heading: "Next",
              rule: "setup-complete",
              sentence: `Mend ${stops === 1 ? "what contradicts itself" : `the ${stops} contradictions`}, or accept ${stops === 1 ? "it" : "each"} with a reason; runs made before a change count as stale.`,
            }
          : a.ladder.length
            ? { heading: "Next", rule: "setup-complete", sentence: "The set-up can stand. See whether the runs have settled.", go: "settling" }
            : {
                heading: "Next",
                sentence: "The set-up can stand. Plan a family of meshes, or bring in results.",
                go: e.runs.length ? "runs" : "meshes",
              },
      );
      return {
        label: "Reynolds number, computed",
        figure: re ? significant(re.value, 5) : "",
        verdict: a.setup.state === "fails" ? "The set-up contradicts itself" : "",
        notes,
      };
    }
    case "settling": {
      const run = a.settling[0];
      if (!run) return { label: "Settled", figure: "–", verdict: "", notes: [NO_RUN] };
      const s = run.quantities.find((x) => x.key === q.key);
      const notes: MarginNote[] = remarksAsNotes(run.remarks);
      const average = run.averages.find((x) => x.key === q.key);
      if (average) {
        const value = average.taken ?? { value: average.mean, expanded: average.expanded };
        const what = average.taken ? TAKE_WORDS[average.take] : "mean";
        notes.push({
          heading: average.adopted ? `The ${what} counts` : "An average is at hand",
          sentence: `${sentenceCase(what)} ${withUncertainty(value.value, value.expanded)} ± ${significant(value.expanded, 2)} (95 %) of ${countText(average.samples)} samples, ${significant(average.effectiveSamples, 2)} of them independent; the first ${significant(average.cutAt, 3)} ${average.abscissa} are left out ${average.cutBy === "hand" ? "by hand" : "by test"}.${average.peak && average.abscissa === "s" ? ` Dominant frequency ${significant(average.peak.frequency, 4)} Hz.` : ""}`,
          rule: "average-few-samples",
        });
      }
      if (s && !average?.adopted) {
        const words = {
          real: "shrinks steadily",
          alternating: "alternates about its limit",
          complex: "circles its limit",
          noise: "is noise",
          still: "no longer changes",
          growing: "grows",
          cycling: "cycles about a level without closing in on it",
          moving: "goes one way without slowing down enough to tell where it ends",
          "too-short": "cannot be judged, the record is too short",
        } as const;
        notes.push({
          heading: "What is left",
          sentence: `The change of ${q.name} ${words[s.kind]}${["real", "alternating", "complex"].includes(s.kind) && Number.isFinite(s.factor) ? `, by a factor of ${significant(s.factor, 2)} an iteration` : ""}. About ${percent(s.relative)} is left, ${s.holds ? "below" : "not below"} ${percent(s.threshold)}, a tenth of its ${s.against}.`,
          rule: "iteration-error",
        });
      }
      const loose = average?.adopted
        ? undefined
        : run.tolerance.find((t) => Math.abs(t.values[q.key] - (s?.value ?? 0)) <= (s?.threshold ?? 0) * (rule?.scale ?? 1));
      if (loose && s)
        notes.push({
          heading: "Where one could have stopped",
          sentence: `From a tolerance of ${powerOfTen(Math.round(Math.log10(loose.tolerance)))} on, iteration ${loose.iteration}, the value stays within its threshold.`,
          rule: "tolerance-study",
        });
      if (run.state === "holds" && run.residuals.length)
        notes.unshift({
          heading: "Settled",
          sentence: `Every residual of ${run.label} fell by at least ${significant(run.smallestDrop ?? 0, 2)} orders where ${significant(e.dropTarget, 2)} were asked${run.quantities.length ? ", and what is left in every quantity is below its threshold" : ""}.`,
          rule: "residual-drop",
        });
      notes.push(settlingNext(run, e.dropTarget));
      return {
        label: `Smallest drop, ${run.label}`,
        figure: run.smallestDrop === undefined ? "–" : `${significant(run.smallestDrop, 2)} orders`,
        verdict: run.state === "holds" ? `Settled: ${significant(e.dropTarget, 2)} were asked` : run.state === "fails" ? "Not settled" : "",
        notes,
      };
    }
    case "balance": {
      const b = a.balance[0];
      if (!b)
        return {
          label: "Net mass",
          figure: "–",
          verdict: "",
          notes: [
            a.settling.length
              ? { heading: "What fills this", sentence: "Boundary fluxes. Bring in a table with the mass through every boundary." }
              : NO_RUN,
          ],
        };
      const mass = b.lines[0];
      const notes: MarginNote[] = remarksAsNotes(b.remarks);
      if (b.lines.length && b.lines.every((l) => l.state === "holds"))
        notes.unshift({
          heading: "Everything closes",
          sentence: b.lines.map((l) => `Net ${l.what} is ${percent(l.relative)} against a limit of ${percent(l.limit)}.`).join(" "),
          rule: "balance-limit",
        });
      const kept = b.laws.filter((l) => l.state === "holds");
      if (kept.length)
        notes.push({
          heading: kept.length === b.laws.length ? "Every rule of its kind holds" : "Other rules hold",
          sentence: `${kept.map((l) => l.demands).join(". ")}.`,
          rule: kept[0].law,
        });
      for (const s of b.second.filter((x) => x.state === "holds"))
        notes.push({
          heading: "Worked out twice",
          sentence: `${s.name[0].toUpperCase()}${s.name.slice(1)} by ${s.firstBy} and by ${s.secondBy} agree within ${percent(s.relative)}; ${percent(s.limit)} is let pass.`,
          rule: "second-computation",
        });
      notes.push(balanceNext(b));
      if (!mass) return { label: "Net mass", figure: "–", verdict: "", notes };
      return {
        label: `Net ${mass.what} over throughput`,
        figure: percent(mass.relative),
        verdict: b.state === "fails" ? "Does not close" : `Limit is ${percent(mass.limit)}`,
        notes,
      };
    }
    case "refinement": {
      if (!refinement?.result)
        return {
          label: "Mesh uncertainty",
          figure: "–",
          verdict: "",
          notes: [{ heading: "What fills this", sentence: refinement?.headline ?? "Three meshes.", go: "meshes" }],
        };
      const r = refinement.result;
      const notes: MarginNote[] = [];
      const finest = refinement.rungs[0]?.value;
      if (r.kind === "monotone") {
        const between =
          r.orderRange && r.orderRange[1] - r.orderRange[0] > 0.02
            ? ` What is left in the runs lets it lie between ${r.orderRange[0].toFixed(2)} and ${Number.isFinite(r.orderRange[1]) ? r.orderRange[1].toFixed(2) : "any"}.`
            : "";
        notes.push({
          heading: `Observed order ${r.order.toFixed(2)}`,
          sentence: `Formal order ${e.formalOrder}. ${r.agrees ? "The three meshes agree with it" : "The three meshes do not show it"}: order ${significant(r.orderUsed, 3)} and a safety factor of ${r.safety} are used.${between}`,
          rule: "three-mesh",
        });
        if (r.extrapolated !== undefined) {
          const away =
            finest === undefined
              ? ""
              : ` The finest mesh gives ${withUncertainty(finest, r.uncertainty)}, ${percent(Math.abs(finest - r.extrapolated) / (rule?.scale ?? 1))} away.`;
          notes.push({
            heading: `Extrapolated ${withUncertainty(r.extrapolated, r.uncertainty)}`,
            sentence: `Richardson extrapolation at the observed order.${away}`,
            rule: "three-mesh",
          });
        }
      } else {
        notes.push({
          heading: r.kind === "degenerate" ? "No order, and none needed" : `The set is ${r.kind}`,
          sentence: refinement.headline,
          rule: "three-mesh",
        });
      }
      notes.push(...remarksAsNotes(refinement.remarks));
      if (refinement.next)
        notes.push({
          heading: "Next mesh",
          sentence: `${countText(refinement.next.cells)} cells would bring it to ${percent(refinement.limit)}${refinement.next.seconds ? `, in about ${duration(refinement.next.seconds)}` : ""}.`,
          rule: "next-mesh",
          go: "meshes",
        });
      else if (rule?.dominant && rule.dominant !== "mesh")
        notes.push({
          heading: "Cheapest next gain",
          sentence: `The mesh is not the largest error here: ${rule.dominant} is. A finer mesh buys nothing.`,
        });
      const lagging = a.refinement.filter((x) => x.key !== q.key && (x.state === "fails" || x.state === "remark"));
      if (lagging.length)
        notes.push({
          heading: lagging.length === 1 ? "Another quantity" : "Other quantities",
          sentence:
            `${lagging.map((x) => `${e.quantities.find((y) => y.key === x.key)?.name} ${x.state === "fails" ? "fails here" : "holds with a remark"}`).join("; ")}.`.replace(
              /^./,
              (c) => c.toUpperCase(),
            ),
        });
      return {
        label: "Mesh uncertainty, fine mesh",
        figure: `± ${percent(refinement.relative ?? 0)}`,
        verdict: `${refinement.state === "fails" ? "Fails" : refinement.state === "remark" ? "Holds with a remark" : "Holds"}: limit is ${percent(refinement.limit)}`,
        notes,
      };
    }
    case "comparison": {
      const c = a.comparison.values[q.key]?.[0];
      const notes: MarginNote[] = [];
      if (c)
        notes.push({
          heading: c.claim === "within-noise" ? "Within the noise" : c.claim === "beyond-noise" ? "Larger than the noise" : "Cannot be claimed yet",
          sentence: c.sentence,
          rule: "validation-uncertainty",
        });
      for (const y of a.comparison.values[q.key]?.filter((x) => !x.inside) ?? [])
        notes.push({
          heading: "Outside its range",
          sentence: `${y.yardstick} is used where it does not hold; it decides nothing.`,
          rule: "yardstick-range",
          go: "yardsticks",
        });
      if (a.comparison.orders)
        notes.push({
          heading: a.comparison.orders.verdict === "exact" ? "Exact on every mesh" : "Order of the field",
          sentence: a.comparison.orders.sentence,
          rule: "field-order",
        });
      for (const p of a.comparison.refused)
        notes.push({ heading: "Cannot be compared", sentence: `${p.name}, ${p.yardstick}: ${p.sentence}`, rule: "curve-norms" });
      for (const p of a.comparison.profiles.slice(0, 2)) {
        if (p.worst)
          notes.push({
            heading: "Worst point",
            sentence: `${p.name}, ${p.yardstick}: ${significant(Math.abs(p.worst.difference), 2)} at ${significant(p.worst.at, 3)}, ${percent(Math.abs(p.worst.difference) / p.range)} of the ${p.rangeName}.${p.worst.doubtful ? ` That point ${p.worst.doubtful}.` : ""}`,
          });
      }
      if (!c) notes.push(a.settling.length ? { heading: "No yardstick", sentence: `Nothing to compare ${q.name} with.`, go: "yardsticks" } : NO_RUN);
      return {
        label: "Difference from the yardstick",
        figure: c ? signedPercent(c.difference / c.scale) : "–",
        verdict: c
          ? `${{ fails: "Fails: limit", holds: "Holds: limit", remark: "Holds with a remark: limit", none: "Open: limit", stale: "Limit" }[c.state]} is ${percent(c.limit)}`
          : "",
        notes,
      };
    }
    case "verdict": {
      const v = a.verdicts.find((x) => x.quantityKey === q.key);
      if (!v) return undefined;
      const notes: MarginNote[] = [{ heading: "What may be said", sentence: v.sentence, rule: "validation-uncertainty" }];
      for (const [k, r] of v.reasons.entries())
        notes.push({
          heading: v.reasons.length === 1 ? "Why" : `Why, ${k + 1} of ${v.reasons.length}`,
          sentence: reasonText(r),
          rule: r.rule,
          go: r.go,
        });
      if (v.next) notes.push({ heading: v.state === "none" ? "Cheapest next step" : "Next", sentence: reasonText(v.next), go: v.next.go });
      else if (v.state === "holds") notes.push({ heading: "Next", sentence: "Nothing is left to settle. Issue the report.", go: "report" });
      if (rule?.dominant) notes.push({ heading: "Largest source", sentence: `${sentenceCase(rule.dominant)} dominates.` });
      return { label: q.name, figure: v.word, verdict: "", notes };
    }
    default:
      return undefined;
  }
}
