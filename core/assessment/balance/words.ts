import { percent, sentenceCase } from "../../formatting/number.ts";
import type { RunBalance } from "../results/balance.ts";
import type { Margin, MarginNote } from "../results/margin.ts";
import { NO_RUN, remarksAsNotes } from "../stages/notes.ts";
import type { Told } from "../stages/part.ts";

const RULE = "balance-limit";
const NO_FLUXES: MarginNote = {
  heading: "What fills this",
  sentence: "Boundary fluxes. Bring in a table with the mass through every boundary.",
};

/** What the margin says of the balance of the finest run. */
export function balanceWords({ assessment: a }: Told): Margin {
  const b = a.balance[0];
  if (!b) return { label: "Net mass", figure: "–", verdict: "", tone: "none", notes: [a.settling.length ? NO_FLUXES : NO_RUN] };
  const notes = [...closes(b), ...remarksAsNotes(b.remarks), ...kept(b), ...twice(b), ...onSurface(b), balanceNext(b)];
  const mass = b.lines[0];
  if (!mass) return { label: "Net mass", figure: "–", verdict: "", tone: b.state, notes };
  return {
    label: `Net ${mass.what} over throughput`,
    figure: percent(mass.relative),
    verdict: b.state === "fails" ? "Does not close" : `Limit is ${percent(mass.limit)}`,
    tone: b.state,
    notes,
  };
}

function closes(b: RunBalance): MarginNote[] {
  if (!b.lines.length || b.lines.some((l) => l.state !== "holds")) return [];
  const sentence = b.lines.map((l) => `Net ${l.what} is ${percent(l.relative)} against a limit of ${percent(l.limit)}.`).join(" ");
  return [{ heading: "Everything closes", sentence, rule: RULE }];
}

function kept(b: RunBalance): MarginNote[] {
  const found = b.laws.filter((l) => l.state === "holds");
  if (!found.length) return [];
  const heading = found.length === b.laws.length ? "Every rule of its kind holds" : "Other rules hold";
  return [{ heading, sentence: `${found.map((l) => l.demands).join(". ")}.`, rule: found[0].law }];
}

const twice = (b: RunBalance): MarginNote[] =>
  b.second
    .filter((s) => s.state === "holds")
    .map((s) => ({
      heading: "Worked out twice",
      sentence: `${s.name[0].toUpperCase()}${s.name.slice(1)} by ${s.firstBy} and by ${s.secondBy} agree within ${percent(s.relative)}; ${percent(s.limit)} is let pass.`,
      rule: "second-computation",
    }));

const onSurface = ({ surface }: RunBalance): MarginNote[] =>
  (surface?.lines ?? [])
    .filter((l) => l.state === "holds")
    .map((l) => ({
      heading: "A second way",
      sentence: `${sentenceCase(l.name)} integrated over ${surface?.file} agrees with what was reported within ${percent(l.relative)} of the whole; ${percent(l.limit)} is let pass.`,
      rule: "surface-force",
    }));

/** What to do about a run's balance. */
function balanceNext(b: RunBalance): MarginNote {
  const heading = "Next";
  const rule = RULE;
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
