import { z } from "zod";

const caption = z.string().optional().describe("what whoever issued it says of it");

const Table = z.object({
  key: z.string(),
  title: z.string(),
  caption,
  columns: z.array(z.object({ name: z.string(), unit: z.string().describe("SI unit, 1 for pure numbers, empty for words") })),
  rows: z.array(z.array(z.union([z.string(), z.number(), z.null()]))),
});
export type ReportTable = z.infer<typeof Table>;

const Section = z.object({
  stage: z.string(),
  title: z.string(),
  sentences: z.array(z.string()),
  markdown: z.string().optional().describe("words of one's own, after the sentences"),
  tables: z.array(z.string()).describe("keys of tables shown here"),
  drawings: z.array(z.string()).describe("keys of drawings shown here"),
});

/** An issued report: everything it shows, frozen. */
export const ReportDocument = z.object({
  format: z.literal("tin-ruler-report"),
  version: z.literal(1),
  number: z.number().int(),
  issuedBy: z.string(),
  issuedAt: z.string(),
  caseId: z.string(),
  title: z.string(),
  purpose: z.string(),
  programme: z.string(),
  evidenceHash: z.string().describe("SHA-256 of the evidence the report rests on"),
  rests: z.object({ inputs: z.string(), timeLine: z.string() }).optional().describe("SHA-256 of inputs.json and time-line.json in its evidence pack"),
  cases: z
    .array(z.object({ caseId: z.string(), title: z.string(), evidenceHash: z.string() }))
    .optional()
    .describe("all cases of a report of several, the one it was issued of first"),
  verdicts: z.array(
    z.object({
      quantity: z.string(),
      word: z.string(),
      sentence: z.string(),
      reasons: z.array(z.string()),
      claim: z.string().optional(),
      byArgument: z.array(z.string()).optional(),
      next: z.string().optional(),
    }),
  ),
  sections: z.array(Section),
  tables: z.array(Table),
  drawings: z.array(z.object({ key: z.string(), title: z.string(), caption, svg: z.string() })),
  /** shown in the section of their stage; reports from before they had one show them with the runs */
  pictures: z.array(z.object({ key: z.string(), stage: z.string().default("runs"), title: z.string(), caption, pngBase64: z.string() })),
  runs: z.array(z.object({ label: z.string(), code: z.string(), settingsHash: z.string(), settings: z.unknown() })),
});
export type ReportDocument = z.infer<typeof ReportDocument>;

/** JSON Schema (draft 2020-12) of the report, as it is published with every archive. */
export function reportSchema(): object {
  return { $id: "tin-ruler-report-1", title: "Tin Ruler report", ...z.toJSONSchema(ReportDocument) };
}
