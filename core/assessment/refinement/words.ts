import { count, duration, percent, sentenceCase, significant, withUncertainty } from "../../formatting/number.ts";
import type { ErrorBudget } from "../../method/budget/errorBudget.ts";
import type { ThreeMesh } from "../../method/refinement/threeMesh.ts";
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
  return [orderNote(r, formalOrder), ...extrapolatedNote(r, study.rungs[0]?.value, scale)];
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

function extrapolatedNote(r: Monotone, finest: number | undefined, scale: number): MarginNote[] {
  if (r.extrapolated === undefined) return [];
  const away =
    finest === undefined
      ? ""
      : ` The finest mesh gives ${withUncertainty(finest, r.uncertainty)}, ${percent(Math.abs(finest - r.extrapolated) / scale)} away.`;
  return [
    {
      heading: `Extrapolated ${withUncertainty(r.extrapolated, r.uncertainty)}`,
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
