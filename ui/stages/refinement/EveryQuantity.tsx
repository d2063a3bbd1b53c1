import Link from "next/link";
import { byTrouble, meshDecision } from "@/core/assessment/refinement/decides";
import { orderText } from "@/core/assessment/refinement/refinement";
import { valuePanels } from "@/core/drawing/valuePanels";
import { percent, withUncertainty } from "@/core/formatting/number";
import { PROCEDURE_WORDS } from "@/core/records/procedure";
import { Drawing } from "../../charts/Drawing";
import { StateMark } from "../../shell/StateMark";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";
import type { RefinementView } from "../../view";

type Refined = RefinementView["assessment"]["refinement"][number];

const monotone = (x: Refined) => (x.result?.kind === "monotone" ? x.result : undefined);

function columnsOf({ id, evidence }: RefinementView): Column<Refined>[] {
  const quantity = (key: string) => evidence.quantities.find((k) => k.key === key);
  return [
    {
      header: "Quantity",
      words: true,
      cell: (x) => (
        <>
          <Link className="link" href={`/cases/${id}/refinement?q=${encodeURIComponent(x.key)}`}>
            {quantity(x.key)?.name}
          </Link>
          {quantity(x.key)?.derivative ? <span className="ml-2 text-[11.5px] text-ink-3">slope at a wall</span> : null}
        </>
      ),
    },
    { header: "Class", words: true, cell: (x) => (x.result?.kind === "degenerate" ? "no order" : (x.result?.kind ?? "–")) },
    {
      header: "Order",
      cell: (x) => {
        const m = monotone(x);
        return m ? orderText(m) : "–";
      },
    },
    {
      header: "Extrapolated",
      cell: (x) => {
        const m = monotone(x);
        return m?.extrapolated == null ? "–" : withUncertainty(m.extrapolated, x.uncertainty);
      },
    },
    { header: "Uncertainty, 95 %", cell: (x) => (x.relative == null ? "–" : percent(x.relative)) },
    { header: "Limit", cell: (x) => percent(x.limit) },
    { header: "By", words: true, cell: (x) => (x.adopted ? PROCEDURE_WORDS[x.adopted.key] : "–") },
    { header: <Unseen>State</Unseen>, words: true, cell: (x) => <StateMark state={x.state} /> },
  ];
}

/** How every quantity behaves from mesh to mesh: by trouble, slopes at walls apart, since they are the last to converge. */
export function EveryQuantity({ view }: { view: RefinementView }) {
  const { refinement, rules } = view.assessment;
  const { quantities } = view.evidence;
  const scales = Object.fromEntries(rules.map((r) => [r.quantityKey, r.scale]));
  const slopes = new Set(quantities.filter((q) => q.derivative).map((q) => q.key));
  const sorted = byTrouble(refinement);
  const groups = [
    { title: "Of the fields", rows: sorted.filter((r) => !slopes.has(r.key)) },
    { title: "Slopes at walls, the last to converge", rows: sorted.filter((r) => slopes.has(r.key)) },
  ].filter((g) => g.rows.length);
  const panels = valuePanels(sorted, quantities, scales);
  return (
    <>
      <h2 className="mt-5">Every quantity</h2>
      {meshDecision(refinement, quantities, scales).map((s) => (
        <p key={s} className="mt-1 text-[12.5px] text-ink-2">
          {s}
        </p>
      ))}
      <DataTable groups={groups} rowKey={(x) => x.key} rowClass={(x) => (x.key === view.quantityKey ? "bg-margin" : "")} columns={columnsOf(view)} />
      {panels ? (
        <div className="mt-4">
          <h2 className="mb-2">Value against spacing, all on one abscissa</h2>
          <Drawing svg={panels} name="every quantity against spacing" wide />
        </div>
      ) : null}
    </>
  );
}
