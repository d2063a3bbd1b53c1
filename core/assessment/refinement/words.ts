import { count, duration, percent, sentenceCase, significant, withUncertainty } from "../../formatting/number.ts";
import type { ErrorBudget } from "../../method/budget/errorBudget.ts";
import { LOOK_WORDS } from "../../method/refinement/look.ts";
import type { ThreeMesh } from "../../method/refinement/threeMesh.ts";
import { PROCEDURE_WORDS } from "../../records/procedure.ts";
import type { State } from "../../remarks/remark.ts";
import type { Margin, MarginNote } from "../results/margin.ts";
import type { QuantityRefinement } from "../results/refinement.ts";
import { remarksAsNotes } from "../stages/notes.ts";
import type { Told } from "../stages/part.ts";

const RULE = "three-mesh";

/** What the margin says of the mesh study of a quantity. */
export function refinementWords(t: Told): Margin {
  const { evidence: e, assessment: a, quantity: q } = t;
  const study = a.refinement.find((r) => r.key === q.key);
  const rule = a.rules.find((r) => r.quantityKey === q.key);
  const label = "Mesh uncertainty";
  if (!study?.result)
    return {
      label,
      figure: "–",
      verdict: "",
      tone: "none",
      notes: [{ heading: "What fills this", sentence: study?.headline ?? "Three meshes.", go: "meshes" }],
    };
  return {
    label: `${label}, fine mesh`,
    figure: `± ${percent(study.relative ?? 0)}`,
    verdict: `${VERDICTS[study.state] ?? "Holds"}: limit is ${percent(study.limit)}`,
    tone: study.state,
    notes: [
      ...resultNotes(study, study.result, e.formalOrder, rule?.scale ?? 1),
      ...remarksAsNotes(study.remarks),
      ...gainNote(study, rule),
      ...othersNote(t),
    ],
  };
}

const VERDICTS: Partial<Readonly<Record<State, string>>> = { fails: "Fails", remark: "Holds with a remark" };

function resultNotes(study: QuantityRefinement, r: ThreeMesh, formalOrder: number, scale: number): MarginNote[] {
  if (r.kind !== "monotone") {
    const heading = r.kind === "degenerate" ? "No order, and none needed" : `The set is ${r.kind}`;
    return [{ heading, sentence: study.headline, rule: RULE }];
  }
  return [orderNote(r, formalOrder), ...adoptedNote(study), ...extrapolatedNote(r, study, scale)];
}

type Monotone = Extract<ThreeMesh, { kind: "monotone" }>;

function orderNote(r: Monotone, formalOrder: number): MarginNote {
  const [low, high] = r.orderRange ?? [0, 0];
  const upper = Number.isFinite(high) ? high.toFixed(2) : "any";
  const between = high - low > 0.02 ? ` What is left in the runs lets it lie between ${low.toFixed(2)} and ${upper}.` : "";
  const agrees = r.agrees ? "The three meshes agree with it" : "The three meshes do not show it";
  return {
    heading: `Observed order ${r.order.toFixed(2)}`,
    sentence: `Formal order ${formalOrder}. ${agrees}: order ${significant(r.orderUsed, 3)} and a safety factor of ${r.safety} are used.${between}`,
    rule: RULE,
  };
}

/** How far an uncertainty like this one may be believed: what became of seeded sets that looked the same. */
export function coverageSentence({ alike }: Pick<QuantityRefinement, "alike">): string {
  if (!alike) return "";
  const rungs = alike.rungs > 6 ? "six or more" : String(alike.rungs);
  return `Of ${count(alike.sets)} seeded sets of ${rungs} rungs that looked like this, ${LOOK_WORDS[alike.look]}, the stated uncertainty covered ${percent(alike.covered / alike.sets)}.`;
}

/** Which procedure stands where more than one was asked. */
function adoptedNote(study: QuantityRefinement): MarginNote[] {
  const { procedures = [], adopted, relative = 0 } = study;
  if (!adopted || (!adopted.by && !procedures.some((p) => p.key === "least-squares"))) return [];
  const because = adopted.by ? `chosen by ${adopted.by.initials}: ${adopted.by.reason.replace(/\.$/, "")}` : adopted.because;
  return [
    {
      heading: `${percent(relative)} by ${PROCEDURE_WORDS[adopted.key]}`,
      sentence: `It stands for the mesh uncertainty: ${because}. ${coverageSentence(study)}`.trim(),
      rule: "adopted-procedure",
    },
  ];
}

function extrapolatedNote(r: Monotone, study: QuantityRefinement, scale: number): MarginNote[] {
  if (r.extrapolated === undefined) return [];
  const finest = study.rungs.find((g) => g.used)?.value;
  const uncertainty = study.uncertainty ?? r.uncertainty;
  const away =
    finest === undefined
      ? ""
      : ` The finest mesh gives ${withUncertainty(finest, uncertainty)}, ${percent(Math.abs(finest - r.extrapolated) / scale)} away.`;
  return [
    {
      heading: `Extrapolated ${withUncertainty(r.extrapolated, uncertainty)}`,
      sentence: `Richardson extrapolation at the observed order.${away}`,
      rule: RULE,
    },
  ];
}

/** The next mesh where one is planned, else that another source is larger. */
function gainNote(study: QuantityRefinement, rule: ErrorBudget | undefined): MarginNote[] {
  if (study.next) {
    const time = study.next.seconds ? `, in about ${duration(study.next.seconds)}` : "";
    const sentence = `${count(study.next.cells)} cells would bring it to ${percent(study.limit)}${time}.`;
    return [{ heading: "Next mesh", sentence, rule: "next-mesh", go: "meshes" }];
  }
  if (!rule?.dominant || rule.dominant === "mesh") return [];
  return [{ heading: "Cheapest next gain", sentence: `The mesh is not the largest error here: ${rule.dominant} is. A finer mesh buys nothing.` }];
}

function othersNote({ evidence: e, assessment: a, quantity: q }: Told): MarginNote[] {
  const lagging = a.refinement.filter((x) => x.key !== q.key && (x.state === "fails" || x.state === "remark"));
  if (!lagging.length) return [];
  const name = (key: string) => e.quantities.find((y) => y.key === key)?.name;
  const said = lagging.map((x) => `${name(x.key)} ${x.state === "fails" ? "fails here" : "holds with a remark"}`);
  return [{ heading: lagging.length === 1 ? "Another quantity" : "Other quantities", sentence: sentenceCase(`${said.join("; ")}.`) }];
}
