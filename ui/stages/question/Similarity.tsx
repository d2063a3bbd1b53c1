import { quantityText } from "@/core/formatting/number";
import { DataTable } from "../../tables/DataTable";
import type { QuestionView } from "../../view";
import { CompareSetups } from "./CompareSetups";
import { SetupRemarks } from "./SetupRemarks";

type Similar = QuestionView["assessment"]["setup"]["similarity"][number];

const COLUMNS = [
  { header: "Number", words: true, cell: (s: Similar) => s.name },
  { header: "Value", cell: (s: Similar) => quantityText(s.value, s.unit, 4) },
  { header: "From", words: true, className: "text-ink-3", cell: (s: Similar) => s.formula },
];

/** The similarity numbers, what the rules say of the set-up, and how it differs from that of another case. */
export function Similarity({ view }: { view: QuestionView }) {
  return (
    <section aria-label="Similarity numbers">
      <h2>Worked out from these</h2>
      <DataTable rows={view.assessment.setup.similarity} rowKey={(s) => s.key} columns={COLUMNS} />
      <SetupRemarks view={view} />
      <CompareSetups view={view} />
    </section>
  );
}
