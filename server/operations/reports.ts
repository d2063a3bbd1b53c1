import { recordSchema } from "../../core/formats/recordJson.ts";
import { reportSchema } from "../../core/formats/reportDocument.ts";
import type { Store } from "../db/store.ts";
import { giveUpReport, IssueInput, issueReport, readReport, reportUnderWay } from "../usecases/reports.ts";
import { Done, type Operation, operation, type Sent, z } from "./operation.ts";

/** One of the files of an issued report, as it was issued. */
async function reportFile(opened: Store, at: { readonly id: string; readonly number: string }, kind: "pdf" | "zip" | "json"): Promise<Sent> {
  const { row } = await readReport(opened, at.id, Number(at.number));
  const hash = { pdf: row.pdf, zip: row.archive, json: row.document }[kind];
  return { bytes: await opened.blobs.get(hash), name: `report-${row.number}.${kind}` };
}

/** Issued reports, and the shapes of the files that go out and come in. */
export const REPORT_OPERATIONS: readonly Operation[] = [
  operation({
    method: "post",
    path: "/cases/{id}/reports",
    says: "Issues a report: frozen, numbered, signed.",
    input: IssueInput,
    output: z.object({ number: z.number() }),
    long: true,
    run: async ({ opened, at, input }) => ({ number: (await issueReport(opened, at.id, input.issuedBy)).number }),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/report-under-way",
    says: "How far the report of a case is that is being made; empty where none is.",
    output: z.object({ told: z.object({ done: z.number(), of: z.number(), what: z.string() }).optional() }),
    run: async ({ at }) => ({ told: reportUnderWay(at.id) }),
  }),
  operation({
    method: "delete",
    path: "/cases/{id}/report-under-way",
    says: "Gives up the report that is being made of a case; nothing of it is kept.",
    output: Done,
    run: async ({ at }) => giveUpReport(at.id),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/reports/{number}/pdf",
    says: "A report as PDF.",
    output: { file: "application/pdf" },
    run: ({ opened, at }) => reportFile(opened, at, "pdf"),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/reports/{number}/zip",
    says: "A report with its tables, drawings and evidence.",
    output: { file: "application/zip" },
    run: ({ opened, at }) => reportFile(opened, at, "zip"),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/reports/{number}/json",
    says: "A report as data.",
    output: { file: "application/json" },
    run: ({ opened, at }) => reportFile(opened, at, "json"),
  }),
  operation({
    method: "get",
    path: "/schema/report",
    says: "JSON Schema of a report's data.",
    output: z.unknown(),
    run: async () => reportSchema(),
  }),
  operation({
    method: "get",
    path: "/schema/record",
    says: "JSON Schema of a record as it can be brought in.",
    output: z.unknown(),
    run: async () => recordSchema(),
  }),
];
