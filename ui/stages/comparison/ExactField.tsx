import { ORDER_WORDS } from "@/core/assessment/results/comparison";
import { orderChart } from "@/core/drawing/caseCharts";
import { scientific, unitText } from "@/core/formatting/number";
import { Drawing } from "../../charts/Drawing";
import { CsvButton } from "../../tables/CsvButton";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";
import type { ComparisonView } from "../../view";

type Orders = NonNullable<ComparisonView["assessment"]["comparison"]["orders"]>;

const COLUMNS: readonly Column<Orders["rows"][number]>[] = [
  { header: "Mesh", className: "whitespace-nowrap", cell: (r) => r.label },
  { header: "L1", cell: (r) => scientific(r.l1, 3) },
  { header: "L2", cell: (r) => scientific(r.l2, 3) },
  { header: "largest", cell: (r) => scientific(r.linf, 3) },
  { header: "Order", cell: (r) => (r.order == null ? "–" : r.order.toFixed(2)) },
];

type Method = ComparisonView["assessment"]["comparison"]["methods"][number];

const METHOD_COLUMNS: readonly Column<Method>[] = [
  { header: "Method", words: true, cell: (m) => m.method },
  { header: "Field", words: true, cell: (m) => m.orders.field },
  { header: "L2, finest mesh", cell: (m) => scientific(m.orders.rows[0].l2, 3) },
  { header: "Order", cell: (m) => (m.orders.rows[0].order == null ? "–" : m.orders.rows[0].order.toFixed(2)) },
  { header: "Formal", cell: (m) => m.formalOrder },
  { header: <Unseen>Said of it</Unseen>, words: true, cell: (m) => ORDER_WORDS[m.orders.verdict] },
];

interface Props {
  readonly orders: Orders;
  readonly methods: readonly Method[];
  readonly formalOrder: ComparisonView["evidence"]["formalOrder"];
}

/** Norms of the error of a whole field, from mesh to mesh, and how every method and field fares. */
export function ExactField({ orders, methods, formalOrder }: Props) {
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
      {methods.length > 1 ? <ByMethod methods={methods} /> : null}
    </section>
  );
}

/** Every method and field in a row: its finest mesh, its order, and whether that is the one it promises. */
function ByMethod({ methods }: Pick<Props, "methods">) {
  return (
    <div className="col-span-2">
      <div className="flex items-baseline justify-between">
        <h3>By method and field</h3>
        <CsvButton
          name="methods"
          header={["method", "field", "unit", "mesh", "spacing, m", "L1", "L2", "largest", "order to the next", "formal order"]}
          rows={methods.flatMap((m) =>
            m.orders.rows.map((r) => [m.method, m.orders.field, m.orders.unit, r.label, r.spacing, r.l1, r.l2, r.linf, r.order ?? "", m.formalOrder]),
          )}
        />
      </div>
      <DataTable
        className="tight"
        rows={methods}
        rowKey={(m) => `${m.method} ${m.orders.field} ${m.orders.rows[0].label}`}
        columns={METHOD_COLUMNS}
      />
    </div>
  );
}
