import { settingDifferences } from "@/core/problems/describe/runSettings";
import { DataTable } from "../../tables/DataTable";
import type { RunView } from "../../view";

/** What two runs were computed with, where it is not the same. */
export function Differences({ runs: [a, b] }: { runs: readonly RunView[] }) {
  const list = settingDifferences(a.settings, b.settings);
  return (
    <section className="my-3 border border-line bg-margin p-3" aria-label="Differences between two runs">
      <h2>
        What differs between {a.label} and {b.label}
      </h2>
      {list.length === 0 ? (
        <p className="text-ink-2">Nothing: the settings are the same to the last digit.</p>
      ) : (
        <DataTable
          rows={list}
          rowKey={(d) => d.path}
          columns={[
            { header: "Setting", cell: (d) => d.path },
            { header: a.label, cell: (d) => d.left.slice(0, 60) },
            { header: b.label, cell: (d) => d.right.slice(0, 60) },
          ]}
        />
      )}
    </section>
  );
}
