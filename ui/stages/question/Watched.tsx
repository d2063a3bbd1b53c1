import { significant, withUncertainty } from "@/core/formatting/number";
import type { QuestionView } from "../../view";

/** Where a quantity comes from: a formula with what it gives, a monitor in words, or what is said otherwise. */
export function Watched({ view, quantityKey, otherwise }: { view: QuestionView; quantityKey: string; otherwise: string }) {
  const formula = view.setup.derived?.find((d) => d.key === quantityKey)?.formula;
  const monitor = view.setup.monitors?.find((m) => m.key === quantityKey)?.monitor;
  const worked = view.assessment.derived.find((d) => d.key === quantityKey);
  const called = (key: string) => view.evidence.quantities.find((q) => q.key === key)?.name ?? key;
  return (
    <>
      {formula !== undefined ? `= ${formula}` : monitor ? monitorWords(monitor) : otherwise}
      {worked ? <span className="block">rests on {worked.uses.map(called).join(", ")}</span> : null}
      {typeof worked?.value === "number" ? (
        <span className="block font-mono">{withParts(worked.value, worked.standard)}, from its parts, 95 %</span>
      ) : null}
    </>
  );
}

/** What a formula gives on the finest run, with what the uncertainties of its parts make of it. */
function withParts(value: number, standard: number | undefined): string {
  const expanded = standard && 2 * standard;
  return `${withUncertainty(value, expanded)}${expanded ? ` ± ${significant(expanded, 2)}` : ""}`;
}

type Monitor = NonNullable<QuestionView["setup"]["monitors"]>[number]["monitor"];

function monitorWords(m: Monitor): string {
  const at = (x: readonly number[]) => `(${x.map((v) => Number(v.toPrecision(4))).join(", ")}) m`;
  if (m.on === "point") return `${m.field} at ${at(m.at)}`;
  if (m.on === "line") return `${m.field}, ${m.take}, from ${at(m.from)} to ${at(m.to)}`;
  if (m.on === "volume") return `${m.field}, ${m.take}, whole volume`;
  return `${m.take}${m.carried ? `, ${m.carried}` : ""}, boundary ${m.boundary}`;
}
