import { strToU8, type Zippable, zipSync } from "fflate";
import { writeCsv } from "../../core/formats/csv.ts";
import { type ReportDocument, reportSchema } from "../../core/formats/reportDocument.ts";

const safe = (name: string) => name.replace(/[^a-z0-9-]+/gi, "-");

/** A file of the archive besides what the document holds: records, profiles, fields. */
export interface ArchiveFile {
  readonly path: string;
  readonly text: string | Uint8Array;
}

/** Zip of open files: report.json with its schema, every table as CSV with units, drawings as SVG, pictures as PNG, the PDF, and the evidence itself. */
export function reportArchive(d: ReportDocument, pdf: Uint8Array, evidence: readonly ArchiveFile[] = []): Uint8Array {
  const files: Zippable = {
    "report.json": strToU8(JSON.stringify(d, null, 1)),
    "report.schema.json": strToU8(JSON.stringify(reportSchema(), null, 1)),
    "report.pdf": pdf,
  };
  for (const t of d.tables) {
    const header = t.columns.map((c) => (c.unit ? `${c.name} (${c.unit})` : c.name));
    files[`tables/${safe(t.key)}.csv`] = strToU8(
      writeCsv(
        header,
        t.rows.map((r) => r.map((v) => v ?? "")),
      ),
    );
  }
  for (const g of d.drawings) files[`drawings/${safe(g.key)}.svg`] = strToU8(`<?xml version="1.0" encoding="UTF-8"?>\n${g.svg}`);
  for (const p of d.pictures) files[`pictures/${safe(p.key)}.png`] = Buffer.from(p.pngBase64, "base64");
  for (const f of evidence)
    files[
      f.path
        .split("/")
        .map((part) => part.replace(/[^\w.-]+/g, "-"))
        .join("/")
    ] = typeof f.text === "string" ? strToU8(f.text) : f.text;
  // Fixed dates: the same report packs to the same bytes.
  return zipSync(files, { mtime: new Date(d.issuedAt) });
}
