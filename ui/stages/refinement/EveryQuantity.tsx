import Link from "next/link";
import { orderText } from "@/core/assessment/refinement/refinement";
import { percent, significant, withUncertainty } from "@/core/formatting/number";
import { StateMark } from "../../shell/StateMark";
import { type Column, DataTable } from "../../tables/DataTable";
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
        return m?.extrapolated == null ? "–" : withUncertainty(m.extrapolated, m.uncertainty);
      },
    },
    { header: "Uncertainty, 95 %", cell: (x) => (x.relative == null ? "–" : percent(x.relative)) },
    { header: "Limit", cell: (x) => percent(x.limit) },
    {
      header: "Factor",
      cell: (x) => {
        const m = monotone(x);
        return m ? significant(m.safety, 3) : "–";
      },
    },
    { header: "", words: true, cell: (x) => <StateMark state={x.state} /> },
  ];
}

/** How every quantity behaves from mesh to mesh. */
export function EveryQuantity({ view }: { view: RefinementView }) {
  return (
    <>
      <h2 className="mt-5">Every quantity</h2>
      <DataTable
        rows={view.assessment.refinement}
        rowKey={(x) => x.key}
        rowClass={(x) => (x.key === view.quantityKey ? "bg-margin" : "")}
        columns={columnsOf(view)}
      />
    </>
  );
}
