import { writeCsv } from "../../core/formats/csv.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { HistoryEvidence } from "../../core/records/run.ts";

type Named = Pick<QuantitySpec, "key" | "name" | "unit">;

/** Columns of a record besides the iteration, each with its name and unit. */
function columnsOf(h: HistoryEvidence, quantities: readonly Named[]): (readonly [string, Float64Array])[] {
  const worded = (key: string) => {
    const q = quantities.find((x) => x.key === key);
    return q ? `${q.name} (${q.unit || "1"})` : key;
  };
  return [
    ...(h.time ? [["time (s)", h.time] as const] : []),
    ...Object.entries(h.residuals).map(([k, v]) => [`${k} residual (1)`, v] as const),
    ...Object.entries(h.quantities).map(([k, v]) => [worded(k), v] as const),
    ...Object.entries(h.balances ?? {}).map(([k, v]) => [`net ${k} over throughput (1)`, v] as const),
  ];
}

/**
 * A record as CSV, every column with its unit: the whole, or some of its rows. Only the piece that begins at row 0 has the names of the columns.
 * @param from first row
 * @param to the row after the last
 */
export function recordText(h: HistoryEvidence, quantities: readonly Named[], from = 0, to = h.iteration.length): string {
  const columns = columnsOf(h, quantities);
  const lines = from === 0 ? [writeCsv(["iteration", ...columns.map(([k]) => k)], []).trimEnd()] : [];
  for (let i = from; i < Math.min(to, h.iteration.length); i++) {
    let line = String(h.iteration[i]);
    for (const [, v] of columns) line += Number.isFinite(v[i]) ? `,${v[i]}` : ",";
    lines.push(line);
  }
  return lines.length ? `${lines.join("\n")}\n` : "";
}
