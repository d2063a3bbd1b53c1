import { writeCsv } from "../../core/formats/csv.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { HistoryEvidence } from "../../core/records/run.ts";
import type { HistoryColumn } from "../db/schema.ts";

type Named = Pick<QuantitySpec, "key" | "name" | "unit">;

/** What a column of a record is called, with its unit. */
export function columnTitle(role: HistoryColumn["role"], key: string, quantities: readonly Named[]): string {
  if (role === "iteration") return "iteration";
  if (role === "time") return "time (s)";
  if (role === "residual") return `${key} residual (1)`;
  if (role === "balance") return `net ${key} over throughput (1)`;
  const q = quantities.find((x) => x.key === key);
  return q ? `${q.name} (${q.unit || "1"})` : key;
}

/** Columns of a record besides the iteration, each with its name and unit. */
function columnsOf(h: HistoryEvidence, quantities: readonly Named[]): (readonly [string, Float64Array])[] {
  const of = (role: HistoryColumn["role"], columns: Readonly<Record<string, Float64Array>>) =>
    Object.entries(columns).map(([k, v]) => [columnTitle(role, k, quantities), v] as const);
  return [
    ...of("time", h.time ? { time: h.time } : {}),
    ...of("residual", h.residuals),
    ...of("quantity", h.quantities),
    ...of("balance", h.balances ?? {}),
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
