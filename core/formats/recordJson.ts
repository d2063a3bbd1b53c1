import { z } from "zod";
import { type FileProblem, MOST_ROWS } from "./delimited.ts";
import type { SheetResult } from "./sheet.ts";

/** A record as JSON: columns of numbers, all of one length, null for a gap. */
export const RecordDocument = z.object({
  format: z.literal("tin-ruler-record"),
  version: z.literal(1),
  columns: z
    .array(
      z.object({
        name: z.string().trim().min(1).max(200),
        unit: z.string().max(60).optional().describe("such as kg/s; 1 for a pure number"),
        values: z.array(z.number().nullable()).max(MOST_ROWS),
      }),
    )
    .min(1)
    .max(400),
});
export type RecordDocument = z.infer<typeof RecordDocument>;

/** JSON Schema (draft 2020-12) of a record. */
export function recordSchema(): object {
  return { $id: "tin-ruler-record-1", title: "Tin Ruler record", ...z.toJSONSchema(RecordDocument) };
}

const refused = (sentence: string, line = 1, column?: string): SheetResult => ({
  ok: false,
  problems: [{ line, ...(column === undefined ? {} : { column }), sentence }] satisfies FileProblem[],
});

/** Reads a record of the published schema. Problems name the line of the text where the JSON breaks off, or the column and its entry. */
export function readRecordJson(text: string): SheetResult {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    const place = Number((error as Error).message.match(/position (\d+)/)?.[1] ?? text.length);
    return refused("This is not JSON from here on; the file may be cut off.", text.slice(0, place).split("\n").length);
  }
  const read = RecordDocument.safeParse(data);
  if (!read.success) {
    const issue = read.error.issues[0];
    const where = issue.path.join(".");
    return refused(`${where ? `${where}: ` : ""}${issue.message}. The schema of a record is at /api/schema/record.`);
  }
  const { columns } = read.data;
  const rows = columns[0].values.length;
  if (!rows) return refused("The columns are empty.");
  const names = columns.map((c) => c.name);
  const twice = names.find((n, i) => names.indexOf(n) !== i);
  if (twice !== undefined) return refused(`Two columns are both named "${twice}".`, 1, twice);
  const uneven = columns.find((c) => c.values.length !== rows);
  if (uneven) return refused(`${uneven.values.length} values where the first column has ${rows}.`, 1, uneven.name);
  return {
    ok: true,
    sheet: {
      delimiter: "json",
      header: names,
      units: columns.map((c) => c.unit),
      rows,
      columns: columns.map((c) => Float64Array.from(c.values, (v) => v ?? Number.NaN)),
      lines: Float64Array.from({ length: rows }, (_, i) => i + 1),
      sample: Array.from({ length: Math.min(5, rows) }, (_, i) => columns.map((c) => String(c.values[i] ?? ""))),
      faults: columns.map(() => []),
    },
  };
}
