import { percent, powerOfTen, scientific, significant } from "@/core/formatting/number";
import { RESIDUAL_STATE_WORDS, type ResidualState } from "@/core/method/iteration/residuals";
import type { State } from "@/core/remarks/remark";
import { StateMark } from "../../shell/StateMark";
import { DataTable, Unseen } from "../../tables/DataTable";
import type { SettlingView } from "../../view";

interface FiguresProps {
  readonly view: SettlingView;
  readonly s: SettlingView["assessment"]["settling"][number];
}

const markOf = (state: ResidualState): State => (state === "settled" ? "holds" : state === "still-falling" ? "remark" : "fails");

/** How far each residual fell. */
export function Drops({ s }: Pick<FiguresProps, "s">) {
  return (
    <>
      <h2>Drop of each residual</h2>
      <DataTable
        className="tight mt-1"
        rows={s.residuals}
        rowKey={(r) => r.name}
        columns={[
          { header: "Equation", words: true, cell: (r) => r.name },
          { header: "Start", cell: (r) => scientific(r.start, 2) },
          { header: "End", cell: (r) => scientific(r.end, 2) },
          { header: "Orders", cell: (r) => r.drop.toFixed(1) },
          { header: "Factor", cell: (r) => significant(r.factor, 3) },
          {
            header: "State",
            words: true,
            className: "whitespace-nowrap",
            cell: (r) => (
              <>
                <StateMark state={markOf(r.state)} plain /> {RESIDUAL_STATE_WORDS[r.state]}
              </>
            ),
          },
        ]}
      />
    </>
  );
}

/** What the value would have been, had the run stopped at a laxer tolerance. */
export function Tolerances({ view, s }: FiguresProps) {
  const { quantityKey: key } = view;
  const symbol = view.evidence.quantities.find((x) => x.key === key)?.symbol;
  const final = s.quantities.find((x) => x.key === key)?.value;
  const scale = view.assessment.rules.find((r) => r.quantityKey === key)?.scale;
  const away = (v: number | null | undefined) =>
    v == null || final === undefined || scale === undefined ? "–" : percent(Math.abs(v - final) / scale);
  return (
    <>
      <h2 className="mt-4">Value against stopping tolerance</h2>
      {s.tolerance.length ? (
        <DataTable
          className="tight mt-1"
          rows={s.tolerance}
          rowKey={(t) => String(t.tolerance)}
          columns={[
            { header: "Tolerance", cell: (t) => powerOfTen(Math.round(Math.log10(t.tolerance))) },
            { header: "Iteration", cell: (t) => t.iteration },
            { header: symbol, cell: (t) => (t.values[key] == null ? "–" : significant(t.values[key], 7)) },
            { header: "From its last value", cell: (t) => away(t.values[key]) },
          ]}
        />
      ) : (
        <p className="mt-1 text-ink-2">Not even a tolerance of {powerOfTen(-2)} was met by every residual.</p>
      )}
    </>
  );
}

/** The iteration error left in each quantity, against what it is to stay below. */
export function IterationErrors({ view, s }: FiguresProps) {
  const name = (key: string) => view.evidence.quantities.find((x) => x.key === key)?.name ?? key;
  return (
    <div>
      <h2>Iteration error left in each quantity</h2>
      <DataTable
        className="tight mt-1"
        rows={s.quantities}
        rowKey={(x) => x.key}
        columns={[
          { header: "Quantity", words: true, cell: (x) => name(x.key) },
          { header: "Left", cell: (x) => percent(x.relative) },
          { header: "To stay below", title: (x) => `a tenth of the ${x.against}`, cell: (x) => percent(x.threshold) },
          { header: "Shrinks as", words: true, cell: (x) => x.kind },
          { header: <Unseen>State</Unseen>, words: true, cell: (x) => <StateMark state={x.holds ? "holds" : "remark"} /> },
        ]}
      />
      <p className="mt-2 text-[11.5px] text-ink-3">
        A tenth of the mesh uncertainty, or of the limit while there is no mesh study. Real, alternating and complex name the leading eigenvalue;
        noise counts half its range.
      </p>
    </div>
  );
}
