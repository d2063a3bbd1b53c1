import type { ReportDocument } from "../../core/formats/reportDocument.ts";
import { SIGN_ROLES, type SignOff, type Withdrawal } from "../../core/records/signOff.ts";
import { PALE, pdfPages } from "./pdfPage.ts";

/** What stands on the sheet that goes with an issued report. */
export interface SignOffSheet {
  readonly document: Pick<ReportDocument, "title" | "number" | "issuedAt" | "issuedBy" | "programme">;
  readonly signOffs: readonly SignOff[];
  readonly withdrawn: Withdrawal | null;
  /** the later report that stands in its place */
  readonly supersededBy: number | null;
  /** files of the report by their name, with their SHA-256 */
  readonly sums: readonly (readonly [name: string, sum: string])[];
  readonly at: Date;
}

const moment = (iso: string): string => `${iso.slice(0, 16).replace("T", " ")} UTC`;

/**
 * Who signed a report, on a sheet of its own: the report is frozen when it is issued and signed afterwards, so that its files are told by their
 * sums.
 */
export async function signOffPdf({ document: d, signOffs, withdrawn, supersededBy, sums, at }: SignOffSheet): Promise<Uint8Array> {
  const { doc, say, finish } = pdfPages({ Title: `Signatures under report ${d.number}`, Author: d.issuedBy, CreationDate: at });
  const row = (what: string, said: string, mono = false) => {
    say(what, "bold", 9.5);
    say(said, mono ? "mono" : "text", mono ? 8 : 9.5);
    doc.moveDown(0.5);
  };
  say(d.programme, "text", 9, PALE);
  say(`Signatures under report ${d.number}: ${d.title}`, "bold", 16);
  say(`Issued ${moment(d.issuedAt)} by ${d.issuedBy}; this sheet was made ${moment(at.toISOString())}.`, "text", 9, PALE);
  doc.moveDown(1);
  if (withdrawn) row("Withdrawn", `By ${withdrawn.by} on ${moment(withdrawn.at)}: ${withdrawn.reason}`);
  else if (supersededBy !== null) row("Superseded", `Report ${supersededBy} stands in its place.`);
  for (const role of SIGN_ROLES) {
    const s = signOffs.find((x) => x.role === role);
    row(`${role[0].toUpperCase()}${role.slice(1)}`, s ? `${s.by}, ${moment(s.at)}` : "Not signed.");
  }
  doc.moveDown(0.5);
  say("What was signed, by the SHA-256 of its files:", "text", 9.5);
  doc.moveDown(0.5);
  for (const [name, sum] of sums) row(name, sum, true);
  return finish(`Signatures under report ${d.number}`);
}
