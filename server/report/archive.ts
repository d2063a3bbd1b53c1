import { strToU8, type Zippable, zipSync } from "fflate";
import { writeCsv } from "../../core/formats/delimited.ts";
import { type ReportDocument, reportSchema } from "../../core/formats/reportDocument.ts";

const safe = (name: string) => name.replace(/[^a-z0-9-]+/gi, "-");

/** Zip of open files: report.json with its schema, every table as CSV with units, drawings as SVG, pictures as PNG, the PDF. */
export function reportArchive(d: ReportDocument, pdf: Uint8Array): Uint8Array {
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
  // Fixed dates: the same report packs to the same bytes.
  return zipSync(files, { mtime: new Date(d.issuedAt) });
}
