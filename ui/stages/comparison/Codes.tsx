import { percent, signedPercent, significant, unitText, withUncertainty } from "@/core/formatting/number";
import { CsvButton } from "../../tables/CsvButton";
import { DataTable } from "../../tables/DataTable";
import type { ComparisonView } from "../../view";

/** Values of the chosen quantity by the finest run of every code, each against the others. */
export function Codes({ view }: { view: ComparisonView }) {
  const q = view.evidence.quantities.find((x) => x.key === view.quantityKey);
  const found = q && view.assessment.comparison.codes[q.key];
  if (!q || !found) return null;
  const scale = view.assessment.rules.find((r) => r.quantityKey === q.key)?.scale ?? Math.abs(found.mean);
  return (
    <section className="mt-5" aria-label="Between codes">
      <div className="flex justify-between">
        <h2>{q.name} between codes</h2>
        <CsvButton
          name={`${q.name} between codes`}
          header={["run", "value", "uncertainty at 95 %", "mean of the others", "difference", "unit"]}
          rows={found.each.map((p) => [p.label, p.value, p.uncertainty ?? "", p.others, p.difference, q.unit])}
        />
      </div>
      <DataTable
        className="tight mt-1"
        rows={found.each}
        rowKey={(p) => p.label}
        columns={[
          { header: "Code and run", words: true, cell: (p) => p.label },
          { header: "Value", cell: (p) => `${withUncertainty(p.value, p.uncertainty ?? Math.abs(found.spread))} ${unitText(q.unit)}`.trimEnd() },
          { header: "± 95 %, meshes", cell: (p) => (p.uncertainty == null ? "–" : percent(p.uncertainty / scale)) },
          { header: "Mean of the others", cell: (p) => significant(p.others, 5) },
          { header: "Difference", cell: (p) => signedPercent(p.difference / scale) },
        ]}
      />
      <p className="mt-1 text-[11.5px] text-ink-3">
        {found.sentence} Standard deviation {percent(found.spread / scale)}.
      </p>
    </section>
  );
}
