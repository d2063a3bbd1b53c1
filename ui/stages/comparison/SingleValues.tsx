import { sharedSentence } from "@/core/assessment/comparison/sayings";
import { asGiven, percent, signedPercent, unitText, withUncertainty } from "@/core/formatting/number";
import type { QuantitySpec } from "@/core/records/quantity";
import { StateMark } from "../../shell/StateMark";
import { CsvButton } from "../../tables/CsvButton";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";
import type { ComparisonView } from "../../view";
import { NumericalSpread } from "./NumericalSpread";

interface Row {
  readonly q: QuantitySpec;
  readonly v: ComparisonView["assessment"]["comparison"]["values"][string][number];
}

/** A simulated value with as many digits as its uncertainty lets stand; a tenth of a billionth where that is nothing. */
function simulatedText({ q, v }: Row): string {
  const uncertainty = v.uVal == null ? undefined : Math.max(v.uVal, Math.abs(v.simulated) * 1e-9) / 5;
  return `${withUncertainty(v.simulated, uncertainty)} ${unitText(q.unit)}`;
}

const COLUMNS: readonly Column<Row>[] = [
  { header: "Quantity", words: true, cell: ({ q }) => q.name },
  { header: "Yardstick", words: true, cell: ({ v }) => v.yardstick },
  { header: "Simulated", className: "whitespace-nowrap", cell: simulatedText },
  { header: "Reference", cell: ({ v }) => asGiven(v.reference) },
  { header: "Difference", cell: ({ v }) => signedPercent(v.difference / v.scale) },
  { header: "2 u_val", cell: ({ v }) => (v.uVal == null ? "–" : percent((2 * v.uVal) / v.scale)) },
  { header: "Limit", cell: ({ v }) => percent(v.limit) },
  { header: <Unseen>State</Unseen>, words: true, cell: ({ v }) => <StateMark state={v.state} /> },
];

/** What conditions make of the difference that count in the yardstick as well. */
function Shared({ q, v }: Row) {
  const said = sharedSentence(q.name, v);
  return said ? <p className="mt-1 text-[12px] text-ink-2">{said}</p> : null;
}

/** Every quantity against every yardstick that has it. */
export function SingleValues({ view }: { view: ComparisonView }) {
  const { values } = view.assessment.comparison;
  const rows = view.evidence.quantities.flatMap((q) => (values[q.key] ?? []).map((v): Row => ({ q, v })));
  return (
    <>
      <div className="flex justify-between">
        <h2>Single values</h2>
        <CsvButton
          name="comparison"
          header={["quantity", "yardstick", "simulated", "reference", "difference (fraction)", "u_val (fraction)", "unit"]}
          rows={rows.map(({ q, v }) => [
            q.name,
            v.yardstick,
            v.simulated,
            v.reference,
            v.difference / v.scale,
            v.uVal == null ? "" : v.uVal / v.scale,
            q.unit,
          ])}
        />
      </div>
      <DataTable
        className="tight mt-1"
        rows={rows}
        rowKey={({ q, v }) => q.key + v.yardstickKey}
        rowClass={({ q }) => (q.key === view.quantityKey ? "bg-margin" : "")}
        columns={COLUMNS}
      />
      {rows.map((r) => (
        <Shared key={r.q.key + r.v.yardstickKey} {...r} />
      ))}
      <NumericalSpread view={view} />
    </>
  );
}
