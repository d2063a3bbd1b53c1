import { strToU8 } from "fflate";
import { writeCsv } from "../../core/formats/csv.ts";
import { type ReportDocument, type ReportTable, reportSchema } from "../../core/formats/reportDocument.ts";
import { columnNames, tabularMetadata } from "../../core/formats/tabularMetadata.ts";
import type { Files } from "../pack/manifest.ts";
import { reportHtml } from "./html.ts";

const safe = (name: string) => name.replace(/[^a-z0-9-]+/gi, "-");

export const json = (value: unknown): Uint8Array => strToU8(`${JSON.stringify(value, null, 1)}\n`);

/** The report itself as open files: its data with their schema, every table as CSV with its metadata, drawings as SVG, pictures as PNG, pages as PDF and HTML. */
export function reportFiles(d: ReportDocument, pdf: Uint8Array): Files {
  const files: Record<string, Uint8Array> = {
    "report.json": json(d),
    "report.schema.json": json(reportSchema()),
    "report.pdf": pdf,
    "report.html": strToU8(reportHtml(d)),
  };
  for (const t of d.tables) Object.assign(files, tableFiles(`tables/${safe(t.key)}`, t));
  for (const g of d.drawings) files[`drawings/${safe(g.key)}.svg`] = strToU8(`<?xml version="1.0" encoding="UTF-8"?>\n${g.svg}`);
  for (const p of d.pictures) files[`pictures/${safe(p.key)}.png`] = Buffer.from(p.pngBase64, "base64");
  return files;
}

function tableFiles(path: string, t: ReportTable): Files {
  const titles = t.columns.map((c) => (c.unit ? `${c.name} (${c.unit})` : c.name));
  const names = columnNames(titles);
  const columns = t.columns.map((c, k) => ({ name: names[k], title: titles[k], ...(c.unit ? { unit: c.unit } : {}) }));
  const name = path.split("/").at(-1);
  return {
    [`${path}.csv`]: strToU8(
      writeCsv(
        titles,
        t.rows.map((r) => r.map((v) => v ?? "")),
      ),
    ),
    [`${path}.csv-metadata.json`]: json(tabularMetadata(`${name}.csv`, t.title, columns)),
  };
}
