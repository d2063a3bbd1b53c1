import type { Numbers } from "../../core/numeric/numbers.ts";
import type { HistoryEvidence } from "../../core/records/run.ts";
import type { HistoryColumn } from "../db/schema.ts";
import type { Store } from "../db/store.ts";
import { saveHistory } from "../repositories/runs.ts";

/** Columns of a record in the order they are stored in. */
export function recordColumns(h: HistoryEvidence): { columns: HistoryColumn[]; values: Float64Array[] } {
  const pairs: [HistoryColumn, Float64Array][] = [
    [{ role: "iteration", key: "iteration" }, h.iteration],
    ...(h.time ? [[{ role: "time", key: "time" }, h.time] as [HistoryColumn, Float64Array]] : []),
    ...Object.entries(h.residuals).map(([key, v]): [HistoryColumn, Float64Array] => [{ role: "residual", key }, v]),
    ...Object.entries(h.quantities).map(([key, v]): [HistoryColumn, Float64Array] => [{ role: "quantity", key }, v]),
    ...Object.entries(h.balances ?? {}).map(([key, v]): [HistoryColumn, Float64Array] => [{ role: "balance", key }, v]),
  ];
  return { columns: pairs.map(([c]) => c), values: pairs.map(([, v]) => v) };
}

/** A record as it is stored: columns of doubles, one after the other. */
export interface PackedRecord {
  readonly columns: HistoryColumn[];
  readonly rows: number;
  readonly bytes: Uint8Array;
}

export function packRecord(history: HistoryEvidence): PackedRecord {
  const { columns, values } = recordColumns(history);
  const rows = history.iteration.length;
  const data = new Float64Array(rows * columns.length);
  values.forEach((v, i) => {
    data.set(v, i * rows);
  });
  return { columns, rows, bytes: new Uint8Array(data.buffer) };
}

export async function storeRecord(opened: Store, runId: string, history: HistoryEvidence): Promise<void> {
  const { bytes, ...rest } = packRecord(history);
  await saveHistory(opened.db, { runId, ...rest, blob: await opened.blobs.put(bytes) });
}

/** Where no table of quantities came, the last entry of each record stands for the result. */
export function lastValues(records: Readonly<Record<string, Numbers>>): Record<string, number> {
  return Object.fromEntries(
    Object.entries(records).flatMap(([key, v]) => {
      let at = v.length - 1;
      while (at >= 0 && !Number.isFinite(v[at])) at--;
      return at < 0 ? [] : [[key, v[at]]];
    }),
  );
}
