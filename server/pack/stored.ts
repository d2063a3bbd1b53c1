import { type Column, getTableColumns } from "drizzle-orm";
import type { PgTable } from "drizzle-orm/pg-core";
import { z } from "zod";
import { caseTable, field, finding, history, mesh, programme, quantity, report, run, sweep, yardstick } from "../db/schema.ts";

const moment = z.iso.datetime().transform((text) => new Date(text));

function shapeOf(c: Column): z.ZodType {
  switch (c.columnType) {
    case "PgUUID":
      return z.uuid();
    case "PgText":
      return z.string();
    case "PgInteger":
      return z.int();
    case "PgDoublePrecision":
      return z.number();
    case "PgBoolean":
      return z.boolean();
    case "PgTimestamp":
      return moment;
    case "PgJsonb":
      return c.notNull ? z.unknown().refine((v) => v !== undefined && v !== null) : z.unknown();
    default:
      throw new RangeError(`A column of kind ${c.columnType} has no word in a pack yet.`);
  }
}

/** Rows of a table as JSON: the same columns, moments as text. */
function rowsOf<T extends PgTable>(table: T): z.ZodType<T["$inferSelect"][]> {
  const columns = Object.entries(getTableColumns(table));
  return z.array(z.strictObject(Object.fromEntries(columns.map(([k, c]) => [k, c.notNull ? shapeOf(c) : shapeOf(c).nullable()])))) as never;
}

const Condition = z.object({ key: z.string(), name: z.string(), value: z.number() });
const Proof = z.looseObject({ code: z.string(), field: z.string(), method: z.string(), formalOrder: z.number(), verdict: z.string() });

/** Another case, as far as it bears on the credibility of those in the pack. */
const Other = z.object({
  id: z.string(),
  title: z.string(),
  programmeId: z.string(),
  kind: z.enum(["exact", "published", "measured"]),
  codes: z.array(z.string()),
  judged: z.string().optional(),
  verdicts: z.array(z.string()),
  proofs: z.array(Proof),
  conditions: z.array(Condition),
  physics: z.object({ time: z.string(), compressible: z.boolean() }),
});

const Composed = z.object({
  blocks: z.array(z.string()).optional(),
  text: z.string().optional(),
  captions: z.record(z.string(), z.string()).optional(),
  also: z.array(z.uuid()).optional(),
});

/** Everything stored that a report is made from; the bytes of records, fields and files lie beside it by their hash. */
export const Stored = z.strictObject({
  format: z.literal("tin-ruler-evidence"),
  version: z.literal(1),
  method: z.string().describe("hash of the code the figures were worked out by"),
  bench: z.string().describe("version of the bench that was there"),
  report: z.strictObject({ number: z.int().min(1), issuedBy: z.string(), issuedAt: moment, composed: Composed }),
  /** in the order the report has them: the first is the one it was issued of */
  cases: rowsOf(caseTable),
  quantities: rowsOf(quantity),
  yardsticks: rowsOf(yardstick),
  meshes: rowsOf(mesh),
  runs: rowsOf(run),
  sweeps: rowsOf(sweep),
  findings: rowsOf(finding),
  /** issued before this one */
  reports: rowsOf(report),
  programmes: rowsOf(programme),
  histories: rowsOf(history),
  fields: rowsOf(field),
  precision: z.record(z.string(), z.enum(["single", "double"])).describe("precision of codes, where it was stated"),
  others: z.array(Other).describe("other cases of the data folder, as far as they bear on credibility"),
});

export type Stored = z.output<typeof Stored>;

/** JSON Schema (draft 2020-12) of what a pack is made from, as it is published with every pack. */
export const storedSchema = (): object => ({
  $id: "tin-ruler-evidence-1",
  title: "What a report was made from",
  ...z.toJSONSchema(Stored, { io: "input" }),
});
