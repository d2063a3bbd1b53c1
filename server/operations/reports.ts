import { recordSchema } from "../../core/formats/recordJson.ts";
import { reportSchema } from "../../core/formats/reportDocument.ts";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import { folderKey, publicPart, signed } from "../pack/signature.ts";
import { reportHtml } from "../report/html.ts";
import {
  compareReports,
  giveUpReport,
  IssueInput,
  issueReport,
  OutlineInput,
  outlineOf,
  readReport,
  reportUnderWay,
  SignInput,
  signReport,
  standingOf,
  WithdrawInput,
  withdrawReport,
} from "../usecases/reports.ts";
import { keepTemplate, ReportTemplate, reportTemplates } from "../usecases/reportTemplates.ts";
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
    run: async ({ opened, at, input }) => ({ number: (await issueReport(opened, at.id, input.issuedBy, new Date(), input)).number }),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/report-under-way",
    says: "How far the report of a case is that is being made; empty where none is.",
    output: z.object({ told: z.object({ done: z.number(), of: z.number(), what: z.string() }).optional() }),
    run: async ({ at }) => ({ told: reportUnderWay(at.id) }),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/report-outline",
    quiet: true,
    long: true,
    says: "What a report would show if it were issued now: its chapters with the keys and titles of their figures and tables; nothing is frozen.",
    input: OutlineInput,
    output: z.array(
      z.object({
        title: z.string(),
        figures: z.array(z.object({ key: z.string(), title: z.string() })),
        tables: z.array(z.object({ key: z.string(), title: z.string() })),
      }),
    ),
    run: ({ opened, at, input }) => outlineOf(opened, at.id, input),
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
    path: "/cases/{id}/reports/{number}/html",
    says: "A report as one HTML file, which fetches nothing and runs no script.",
    output: { file: "text/html" },
    run: async ({ opened, at }) => ({
      bytes: reportHtml((await readReport(opened, at.id, Number(at.number))).document),
      name: `report-${Number(at.number)}.html`,
    }),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/reports/{number}/docx",
    says: "A report as a text document for word processors (DOCX), with its tables as tables and its drawings as vectors.",
    output: { file: "application/vnd.openxmlformats-officedocument.wordprocessingml.document" },
    run: async ({ opened, at }) => {
      const { row, document } = await readReport(opened, at.id, Number(at.number));
      return { ...(await desk().ask("docx", { document })), name: `report-${row.number}.docx` };
    },
  }),
  operation({
    method: "get",
    path: "/cases/{id}/reports/{number}/sign-off",
    says: "Who signed a report, on a sheet of its own, with the sums of the files that were signed.",
    output: { file: "application/pdf" },
    run: async ({ opened, at }) => {
      const { row, document } = await readReport(opened, at.id, Number(at.number));
      const standing = await standingOf(opened, row);
      const sums = [["report.pdf", row.pdf] as const, ["report.json", row.document] as const, ["evidence pack", row.archive] as const];
      return {
        ...(await desk().ask("signOffSheet", { document, ...standing, sums, at: new Date() })),
        name: `report-${row.number}-signatures.pdf`,
      };
    },
  }),
  operation({
    method: "get",
    path: "/cases/{id}/reports/{number}/pack-signature",
    says: "Detached Ed25519 signature of a report's evidence pack, in base64, made with the key of this data folder.",
    output: { file: "text/plain" },
    run: async ({ opened, at }) => {
      const { row } = await readReport(opened, at.id, Number(at.number));
      return { bytes: signed(await opened.blobs.get(row.archive), await folderKey(opened.folder)), name: `report-${row.number}.sig` };
    },
  }),
  operation({
    method: "get",
    path: "/signing-key",
    says: "The half of this data folder's signing key that whoever checks a pack needs.",
    output: { file: "application/x-pem-file" },
    run: async ({ opened }) => ({ bytes: publicPart(await folderKey(opened.folder)), name: "tin-ruler-key.pem" }),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/reports/{number}/signatures",
    says: "Puts a signature under an issued report: prepared, checked or approved.",
    input: SignInput,
    output: Done,
    run: ({ opened, at, input }) => signReport(opened, at.id, Number(at.number), input),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/reports/{number}/withdraw",
    says: "Says that an issued report no longer stands, and why; it stays as it was.",
    input: WithdrawInput,
    output: Done,
    run: ({ opened, at, input }) => withdrawReport(opened, at.id, Number(at.number), input),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/reports/{number}/against/{later}",
    says: "What differs between two issued reports of a case, line by line.",
    output: z.array(z.object({ where: z.string(), left: z.string().optional(), right: z.string().optional() })),
    run: async ({ opened, at }) => (await compareReports(opened, at.id, Number(at.number), Number(at.later))).map((d) => ({ ...d })),
  }),
  operation({
    method: "get",
    path: "/report-templates",
    says: "Compositions of reports that were kept, by name.",
    output: z.array(ReportTemplate),
    run: async ({ opened }) => (await reportTemplates(opened)).map((t) => ({ ...t, blocks: [...t.blocks] })),
  }),
  operation({
    method: "put",
    path: "/report-templates",
    says: "Keeps a composition of a report under a name; without a chapter the name is forgotten.",
    input: ReportTemplate,
    output: Done,
    run: ({ opened, input }) => keepTemplate(opened, input),
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
