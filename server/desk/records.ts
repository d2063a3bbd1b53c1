import { derivedSet, withDerived } from "../../core/assessment/derived/derivedQuantities.ts";
import type { DerivedEvidence } from "../../core/records/derived.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { HistoryEvidence, RunEvidence } from "../../core/records/run.ts";
import { BlobStore, bytesToDoubles } from "../blobs/blobStore.ts";
import type { HistoryColumn } from "../db/schema.ts";
import { Kept } from "../usecases/kept.ts";

/** Where a finished record lies: columns of doubles in a blob. */
export interface StoredRecord {
  readonly blob: string;
  readonly columns: readonly HistoryColumn[];
  readonly rows: number;
  readonly starts: Readonly<Record<string, number>> | null;
}

/** The record of a run: where it lies, or itself while the run is under way. */
export type RecordSource = { readonly stored: StoredRecord } | { readonly underWay: HistoryEvidence };

/** What is worked out of a record besides: the derived quantities of its case. */
export interface Worked {
  readonly run: RunEvidence;
  readonly derived: DerivedEvidence;
  readonly quantities: readonly QuantitySpec[];
}

/** The record of a run as a task is given it. */
export interface RecordMaterial {
  /** folder of the blobs */
  readonly blobs: string;
  readonly source: RecordSource;
  readonly worked?: Worked;
}

/** Columns of a record turned into the form assessments read. */
export function historyFromColumns(
  columns: readonly HistoryColumn[],
  column: (index: number) => Float64Array,
  starts: Readonly<Record<string, number>> | null | undefined,
): HistoryEvidence {
  const residuals: Record<string, Float64Array> = {};
  const quantities: Record<string, Float64Array> = {};
  const balances: Record<string, Float64Array> = {};
  let iteration: Float64Array = new Float64Array();
  let time: Float64Array | undefined;
  columns.forEach((c, i) => {
    if (c.role === "iteration") iteration = column(i);
    else if (c.role === "time") time = column(i);
    else if (c.role === "residual") residuals[c.key] = column(i);
    else if (c.role === "balance") balances[c.key] = column(i);
    else quantities[c.key] = column(i);
  });
  return {
    iteration,
    ...(time ? { time } : {}),
    residuals,
    quantities,
    ...(Object.keys(balances).length ? { balances } : {}),
    starts: starts ?? undefined,
  };
}

/** numbers of records that are kept at hand */
const MOST_NUMBERS = 24e6;
const numbersIn = (h: HistoryEvidence) =>
  h.iteration.length * (2 + Object.keys(h.residuals).length + Object.keys(h.quantities).length + Object.keys(h.balances ?? {}).length);
const records = new Kept<HistoryEvidence>(MOST_NUMBERS, numbersIn);
const workedRecords = new Kept<HistoryEvidence>(MOST_NUMBERS, numbersIn);

const nameOf = (r: StoredRecord) => `${r.blob} ${JSON.stringify([r.columns, r.starts])}`;

/** A finished record, read once: the very same arrays are given out again. @throws {BlobError} it is missing or damaged */
export const readStored = (blobs: string, r: StoredRecord): Promise<HistoryEvidence> =>
  records.get(nameOf(r), async () => {
    const data = bytesToDoubles(await new BlobStore(blobs).get(r.blob));
    return historyFromColumns(r.columns, (i) => data.subarray(i * r.rows, (i + 1) * r.rows), r.starts);
  });

export const readRecord = (blobs: string, source: RecordSource): Promise<HistoryEvidence> =>
  "stored" in source ? readStored(blobs, source.stored) : Promise.resolve(source.underWay);

const withWorked = (history: HistoryEvidence, { run, derived, quantities }: Worked): HistoryEvidence =>
  withDerived({ ...run, history }, derived, derivedSet(derived, quantities)).history as HistoryEvidence;

/** A record with the derived quantities of its case. @throws {DerivedError} a formula of theirs does not hold */
export async function readWorked({ blobs, source, worked }: RecordMaterial): Promise<HistoryEvidence> {
  if (!worked) return readRecord(blobs, source);
  if ("underWay" in source) return withWorked(source.underWay, worked);
  const { derived, quantities, run } = worked;
  const key = `${nameOf(source.stored)} ${JSON.stringify([derived, quantities, run.result?.quantities])}`;
  return workedRecords.get(key, async () => withWorked(await readStored(blobs, source.stored), worked));
}
