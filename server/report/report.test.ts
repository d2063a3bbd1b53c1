import PDFDocument from "pdfkit";
import { describe, expect, test } from "vitest";
import { RULE_TEXTS } from "../../core/assessment/rules.ts";
import { readDelimited } from "../../core/formats/delimited.ts";
import { ReportDocument, reportSchema } from "../../core/formats/reportDocument.ts";
import { cellText } from "../../core/formatting/cell.ts";
import { percent, powerOfTen, quantityText, scientific, signedPercent } from "../../core/formatting/number.ts";
import { zipped } from "../pack/packFiles.ts";
import { reportFiles } from "./archive.ts";
import { reportPdf } from "./pdf.ts";
import { fitted } from "./pdfTable.ts";

const svg =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 376 232" width="376" height="232"><rect width="376" height="232" fill="#fff"/><text x="9" y="20" font-family="DejaVu Sans">h / h₁</text></svg>';
const document: ReportDocument = {
  format: "tin-ruler-report",
  version: 1,
  number: 3,
  issuedBy: "Ö. Ł.",
  issuedAt: "2026-04-01T10:00:00.000Z",
  caseId: "c",
  title: "Strip",
  purpose: "",
  programme: "P",
  evidenceHash: "0".repeat(64),
  verdicts: [{ quantity: "q", word: "holds", sentence: "Fine.", reasons: [] }],
  sections: [{ stage: "runs", title: "Runs", sentences: ["±0.1 % at 4 °C"], tables: ["t"], drawings: ["a", "b", "c"] }],
  tables: [
    {
      key: "t",
      title: "T",
      columns: [
        { name: "name", unit: "" },
        { name: "pressure drop", unit: "Pa" },
      ],
      rows: [
        ["=SUM(A1)", 1 / 3],
        ["two, with a comma", null],
      ],
    },
  ],
  drawings: ["a", "b", "c"].map((key) => ({ key, title: key, svg })),
  pictures: [],
  runs: [],
};

describe("PDF", () => {
  test("the fonts inside hold every sign that is printed", () => {
    const pdf = new PDFDocument({ font: "node_modules/dejavu-fonts-ttf/ttf/DejaVuSans.ttf" });
    const { font } = (pdf as unknown as { _font: { font: { hasGlyphForCodePoint(c: number): boolean } } })._font;
    const printed = [
      ...RULE_TEXTS.map((r) => r.text + r.source),
      percent(-3e-12),
      signedPercent(0.5),
      scientific(-1.23456789e-10, 9),
      powerOfTen(-1234567890),
      quantityText(2, "kg/m^3"),
      "± × ≤ ₁ – µ ν ρ ° ² ³",
    ].join("");
    const missing = [...new Set(printed)].filter((c) => !font.hasGlyphForCodePoint(c.codePointAt(0) ?? 0));
    expect(missing).toEqual([]);
  });
  test("a report of any length is a whole file", async () => {
    const rows = Array.from({ length: 300 }, (_, i) => [`row ${i}`, i / 7]);
    const pdf = Buffer.from(await reportPdf({ ...document, tables: [{ ...document.tables[0], rows }] })).toString("latin1");
    expect(pdf.startsWith("%PDF-")).toBe(true);
    expect(pdf.trimEnd().endsWith("%%EOF")).toBe(true);
    expect((pdf.match(/\/Type \/Page\b/g) ?? []).length).toBeGreaterThan(3);
  });
});

describe("files of a report", () => {
  const files = reportFiles(document, Uint8Array.of(1));
  const text = (name: string) => new TextDecoder().decode(files[name]);
  test("hold the document as issued, with its schema", () => {
    expect(ReportDocument.parse(JSON.parse(text("report.json")))).toEqual(document);
    expect(JSON.parse(text("report.schema.json"))).toEqual(JSON.parse(JSON.stringify(reportSchema())));
  });
  test("tables read back with all their digits, units in the header, no formula in a text cell; their metadata name the same columns", () => {
    const read = readDelimited(text("tables/t.csv"));
    if (!read.ok) throw new Error(read.problems[0].sentence);
    expect(read.table.units).toEqual([undefined, "Pa"]);
    expect(Number(read.table.cells[0][1])).toBe(1 / 3);
    expect(read.table.cells.map((r) => r[0])).toEqual(["'=SUM(A1)", "two, with a comma"]);
    const { url, tableSchema } = JSON.parse(text("tables/t.csv-metadata.json"));
    expect([url, tableSchema.columns.map((c: { titles: string }) => c.titles).join()]).toEqual(["t.csv", text("tables/t.csv").split("\n")[0]]);
    expect(tableSchema.columns[1]).toMatchObject({ datatype: "double", "schema:unitText": "Pa" });
  });
  test("the same files pack to the same bytes, whatever the time zone", () => {
    const at = new Date("2026-04-01T23:30:00Z");
    const packed = zipped(files, at);
    expect(zipped(files, at)).toEqual(packed);
    const zone = process.env.TZ;
    try {
      process.env.TZ = "Asia/Tokyo";
      expect(zipped(files, at)).toEqual(packed);
    } finally {
      if (zone === undefined) delete process.env.TZ;
      else process.env.TZ = zone;
    }
  });
  test("a document of another shape is not taken for a report", () =>
    expect(ReportDocument.safeParse({ ...document, version: 2 }).success).toBe(false));
});

test.each([
  [null, "1", "limit", "–"],
  [0.012, "1", "limit", "1.2\u00a0%"],
  [0.012, "Pa", "limit of pressure", "0.012000"],
  [4096, "1", "cells", "4096"],
  ["holds", "", "state", "holds"],
])("cell %s of unit %s in column %s reads %s", (value, unit, column, text) => expect(cellText(value, unit, column)).toBe(text));

describe("columns of a table on paper", () => {
  const sum = (w: number[]) => w.reduce((a, b) => a + b, 0);
  test("are as wide as they would like where there is room", () => expect(fitted([100, 200], [50, 50])).toEqual([100, 200]));
  test("share what is missing by how much more than the least each would like", () => {
    const found = fitted([400, 250], [100, 150]);
    expect(sum(found)).toBeCloseTo(483, 9);
    expect((400 - found[0]) / (250 - found[1])).toBeCloseTo(3, 9);
  });
  test("shrink alike where not even the longest words fit", () => {
    const found = fitted([500, 500], [400, 200]);
    expect(sum(found)).toBeCloseTo(483, 9);
    expect(found[0] / found[1]).toBeCloseTo(2, 9);
  });
});
