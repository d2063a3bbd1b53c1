import type { FamilyRun } from "./family";

/** The runs of a family, each with its name, its cells and its files, to be corrected. */
export function FamilyRuns(p: { runs: readonly FamilyRun[]; change: (runs: readonly FamilyRun[]) => void; tables: readonly string[] }) {
  const set = (k: number, part: Partial<FamilyRun>) => p.change(p.runs.map((r, i) => (i === k ? { ...r, ...part } : r)));
  return (
    <table className="mt-1 max-w-[900px]">
      <thead>
        <tr>
          <th className="w">Record</th>
          <th className="w">Name of the run</th>
          <th className="w">Cells</th>
          <th className="w">Values and flows from</th>
        </tr>
      </thead>
      <tbody>
        {p.runs.map((r, k) => (
          <tr key={r.record || r.table}>
            <td className="w font-mono">{r.record || "none"}</td>
            <td className="w">
              <input
                aria-label={`Name of run ${k + 1}`}
                className="field words"
                value={r.label}
                onChange={(e) => set(k, { label: e.target.value })}
              />
            </td>
            <td className="w">
              <input aria-label={`Cells of run ${k + 1}`} className="field" value={r.cells} onChange={(e) => set(k, { cells: e.target.value })} />
            </td>
            <td className="w">
              <select
                aria-label={`Table of run ${k + 1}`}
                className="field words"
                value={r.table}
                onChange={(e) => set(k, { table: e.target.value })}
              >
                <option value="">none</option>
                {p.tables.map((t) => (
                  <option key={t} value={t}>
                    {t}
                  </option>
                ))}
              </select>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
