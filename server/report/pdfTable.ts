import type { ReportTable } from "../../core/formats/reportDocument.ts";
import { columnText } from "../../core/formatting/cell.ts";
import { BOTTOM, type Font, HAIRLINE, INK, LEFT, type PdfPages, WIDTH } from "./pdfPage.ts";

const SIZE = 7;
/** a column as wide as it would like to be is no wider than this */
const WIDEST = 190;
/** a word wider than this may be broken */
const LONGEST_WORD = 130;
/** room between a cell's words and the next column */
const GAP = 6;

const sumOf = (widths: readonly number[]) => widths.reduce((s, w) => s + w, 0);

/** Widths of columns that fit the page, as wished where there is room. */
export function fitted(wished: readonly number[], least: readonly number[], room = WIDTH): number[] {
  if (sumOf(wished) <= room) return [...wished];
  const spare = room - sumOf(least);
  if (spare <= 0) return least.map((w) => (w * room) / sumOf(least));
  const wanting = sumOf(wished) - sumOf(least);
  return wished.map((w, i) => least[i] + (spare * (w - least[i])) / wanting);
}

/** A table as wide as the page; one that goes on over the page has its heads again. */
export function drawTable({ doc, room, say }: PdfPages, t: ReportTable): void {
  doc.moveDown(0.5);
  room(60);
  say(t.title, "bold", 8.5);
  if (t.caption) say(t.caption, "text", 8);
  const heads = t.columns.map((c) => (c.unit && c.unit !== "1" ? `${c.name} (${c.unit})` : c.name));
  const texts = textsOf(t);
  const widths = widthsOf(doc, heads, texts);
  const right = (i: number) => typeof t.rows[0][i] === "number";
  const line = (cells: readonly string[], font: Font) => {
    doc.font(font).fontSize(SIZE);
    const height = Math.max(...cells.map((c, i) => doc.heightOfString(c, { width: widths[i] - GAP }))) + 3;
    if (font === "text" && doc.y + height > BOTTOM) {
      doc.addPage();
      line(heads, "bold");
      doc.font(font).fontSize(SIZE);
    }
    const y = doc.y;
    let x = LEFT;
    cells.forEach((c, i) => {
      doc.fillColor(INK).text(c, x, y, { width: widths[i] - GAP, align: right(i) ? "right" : "left" });
      x += widths[i];
    });
    const under = y + height - 1.5;
    doc.moveTo(LEFT, under).lineTo(x, under).lineWidth(0.3).strokeColor(HAIRLINE).stroke();
    doc.x = LEFT;
    doc.y = y + height;
  };
  line(heads, "bold");
  for (const r of texts) line(r, "text");
}

/** Rows of a table as text. */
function textsOf(t: ReportTable): string[][] {
  const columns = t.columns.map((c, i) =>
    columnText(
      t.rows.map((r) => r[i]),
      c.unit,
      c.name,
    ),
  );
  return t.rows.map((r, k) => r.map((_, i) => columns[i][k]));
}

/** No column narrower than its longest word: what room is left goes to those that would like more. */
function widthsOf(doc: PDFKit.PDFDocument, heads: readonly string[], texts: readonly (readonly string[])[]): number[] {
  doc.font("text").fontSize(SIZE);
  // A word no line could hold whole, a hash, is broken where it must be: it does not take the room of other columns.
  const word = (text: string, font: Font) => Math.max(...text.split(" ").map((w) => Math.min(LONGEST_WORD, doc.font(font).widthOfString(w))));
  const least = heads.map((c, i) => Math.max(word(c, "bold"), ...texts.map((r) => word(r[i], "text"))) + 9);
  const natural = least.map((narrowest, i) =>
    Math.max(narrowest, Math.min(WIDEST, Math.max(...texts.map((r) => doc.font("text").widthOfString(r[i])))) + 9),
  );
  return fitted(natural, least);
}
