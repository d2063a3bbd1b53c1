import { DataTable } from "../../tables/DataTable";
import type { FamilyRun } from "./family";

/** The runs of a family, each with its name, its cells and its files, to be corrected. */
export function FamilyRuns(p: { runs: readonly FamilyRun[]; change: (runs: readonly FamilyRun[]) => void; tables: readonly string[] }) {
  const set = (k: number, part: Partial<FamilyRun>) => p.change(p.runs.map((r, i) => (i === k ? { ...r, ...part } : r)));
  return (
    <DataTable
      className="mt-1 max-w-[900px]"
      rows={p.runs}
      rowKey={(r) => r.record || r.table}
      columns={[
        { header: "Record", words: true, className: "font-mono", cell: (r) => r.record || "none" },
        {
          header: "Name of the run",
          words: true,
          cell: (r, k) => (
            <input aria-label={`Name of run ${k + 1}`} className="field words" value={r.label} onChange={(e) => set(k, { label: e.target.value })} />
          ),
        },
        {
          header: "Cells",
          words: true,
          cell: (r, k) => (
            <input aria-label={`Cells of run ${k + 1}`} className="field" value={r.cells} onChange={(e) => set(k, { cells: e.target.value })} />
          ),
        },
        {
          header: "Values and flows from",
          words: true,
          cell: (r, k) => <TableChoice run={r} at={k} tables={p.tables} set={(table) => set(k, { table })} />,
        },
      ]}
    />
  );
}

function TableChoice(p: { run: FamilyRun; at: number; tables: readonly string[]; set: (table: string) => void }) {
  return (
    <select aria-label={`Table of run ${p.at + 1}`} className="field words" value={p.run.table} onChange={(e) => p.set(e.target.value)}>
      <option value="">none</option>
      {p.tables.map((t) => (
        <option key={t} value={t}>
          {t}
        </option>
      ))}
    </select>
  );
}
