import { orderChart } from "@/core/drawing/caseCharts";
import { scientific, unitText } from "@/core/formatting/number";
import { Drawing } from "../../charts/Drawing";
import { type Column, DataTable } from "../../tables/DataTable";
import type { ComparisonView } from "../../view";

type Orders = NonNullable<ComparisonView["assessment"]["comparison"]["orders"]>;

const COLUMNS: readonly Column<Orders["rows"][number]>[] = [
  { header: "Mesh", className: "whitespace-nowrap", cell: (r) => r.label },
  { header: "L1", cell: (r) => scientific(r.l1, 3) },
  { header: "L2", cell: (r) => scientific(r.l2, 3) },
  { header: "largest", cell: (r) => scientific(r.linf, 3) },
  { header: "Order to the next", cell: (r) => (r.order == null ? "–" : r.order.toFixed(2)) },
];

/** Norms of the error of a whole field, from mesh to mesh. */
export function ExactField({ orders, formalOrder }: { orders: Orders; formalOrder: ComparisonView["evidence"]["formalOrder"] }) {
  return (
    <section className="mt-5 grid grid-cols-[376px_minmax(0,1fr)] gap-6" aria-label="Exact field">
      <div>
        <h2>Error against the exact field</h2>
        <Drawing svg={orderChart(orders, formalOrder)} name="error norms" />
      </div>
      <div>
        <DataTable className="tight mt-6" rows={orders.rows} rowKey={(r) => r.label} columns={COLUMNS} />
        <p className="mt-2 text-[12.5px] text-ink-2">{orders.sentence}</p>
        <p className="mt-1 text-[11.5px] text-ink-3">Cell-centre values, weighted by volume, {unitText(orders.unit)}.</p>
      </div>
    </section>
  );
}
