import { type ProseBlock, type ProseRun, readProse } from "../../core/formats/prose.ts";
import type { ReportDocument } from "../../core/formats/reportDocument.ts";
import { withNumbers } from "../../core/formats/reportNumbers.ts";
import { HAIRLINE, INK, LEFT, PALE, type PdfPages, pdfPages, WIDTH } from "./pdfPage.ts";
import { drawTable } from "./pdfTable.ts";

type Drawing = ReportDocument["drawings"][number];

/** two drawings no wider than this share a row, points */
const NARROW = 400;
const PICTURE = 220;

/** The report as an A4 PDF with its fonts inside; tells how many of its chapters are set. */
export async function reportPdf(frozen: ReportDocument, tell: (chapters: number) => void = () => undefined): Promise<Uint8Array> {
  const d = withNumbers(frozen);
  const pages = pdfPages({ Title: `${d.title}, report ${d.number}`, Author: d.issuedBy, CreationDate: new Date(d.issuedAt) });
  const { doc, room, say } = pages;
  say(`${d.programme}`, "text", 9, PALE);
  say(d.title, "bold", 18);
  say(`Report ${d.number}, issued ${d.issuedAt.slice(0, 16).replace("T", " ")} UTC by ${d.issuedBy}`, "text", 9, PALE);
  say(`Evidence ${d.evidenceHash.slice(0, 16)}`, "mono", 8, PALE);
  doc.moveDown(0.8);
  // Verdicts in full follow the page for the decision; in reports that have none they come first.
  if (d.sections[0]?.stage !== "decision") verdictsOf(pages, d);
  for (const [done, s] of d.sections.entries()) {
    tell(done);
    doc.moveDown(1);
    room(60);
    say(s.title, "bold", 12);
    for (const t of s.sentences) say(t);
    if (s.markdown) for (const b of readProse(s.markdown)) sayProse(pages, b);
    const drawings = s.drawings.flatMap((key) => d.drawings.filter((x) => x.key === key));
    for (const row of inRows(drawings)) drawRow(pages, row);
    for (const p of d.pictures) if (p.stage === s.stage) drawPicture(pages, p);
    for (const key of s.tables) {
      const table = d.tables.find((x) => x.key === key);
      if (table) drawTable(pages, table);
    }
    if (s.stage === "decision") verdictsOf(pages, d);
  }
  return pages.finish(`${d.title}, report ${d.number}`);
}

/** indentation of an item under its mark, points */
const INDENT = 14;

/** A block of one's own words: bold and code have fonts of their own, what is slanted is drawn so. */
function sayProse({ doc, room, say }: PdfPages, b: ProseBlock): void {
  if (b.kind === "line") {
    room(10);
    doc
      .moveDown(0.4)
      .moveTo(LEFT, doc.y)
      .lineTo(LEFT + WIDTH, doc.y)
      .strokeColor(HAIRLINE)
      .stroke()
      .moveDown(0.4);
    return;
  }
  if (b.kind === "code") {
    say(b.text, "mono", 8);
    return;
  }
  const size = b.kind === "heading" ? 12 - b.level : 9;
  const depth = b.kind === "item" ? b.depth + 1 : b.kind === "quote" ? 1 : 0;
  const width = WIDTH - INDENT * depth;
  const text = b.runs.map((r) => r.text).join("");
  doc.font("bold").fontSize(size);
  if (b.kind === "heading") doc.moveDown(0.4);
  room(doc.heightOfString(text || " ", { width }));
  const y = doc.y;
  if (b.kind === "item")
    doc
      .font("text")
      .fillColor(INK)
      .text(b.mark, LEFT + INDENT * b.depth, y, { width: INDENT, lineBreak: false });
  doc.x = LEFT + INDENT * depth;
  doc.y = y;
  const runs = b.runs.length ? b.runs : [{ text: " " }];
  runs.forEach((r: ProseRun, k) => {
    doc
      .font(r.code ? "mono" : r.bold || b.kind === "heading" ? "bold" : "text")
      .fontSize(size)
      .fillColor(b.kind === "quote" ? PALE : INK);
    const more = { continued: k < runs.length - 1, link: r.href ?? null, underline: r.href !== undefined, oblique: r.italic === true };
    if (k) doc.text(r.text, more);
    else doc.text(r.text, LEFT + INDENT * depth, y, { width, ...more });
  });
  doc.x = LEFT;
}

function verdictsOf({ doc, say }: PdfPages, d: ReportDocument): void {
  doc.moveDown(0.8);
  for (const v of d.verdicts) {
    say(`${v.quantity}: ${v.word}`, "bold", 9.5);
    say(`${v.claim ?? v.sentence}${v.reasons.length ? ` Why: ${v.reasons.join("; ")}.` : ""}`);
    if (v.byArgument) say(`Rests on reasons instead of measurements: ${v.byArgument.join("; ")}.`);
    if (v.next) say(`Next: ${v.next}`);
  }
}

/** Width and height of a drawing from its view box. */
function sizeOf(svg: string): [number, number] {
  const found = svg.match(/viewBox="0 0 ([\d.]+) ([\d.]+)"/);
  return found ? [Number(found[1]), Number(found[2])] : [376, 232];
}

const isNarrow = (g: Drawing) => sizeOf(g.svg)[0] <= NARROW;

/** Two narrow drawings share a row. */
function inRows(drawings: readonly Drawing[]): Drawing[][] {
  const rows: Drawing[][] = [];
  for (let at = 0; at < drawings.length; at += rows[rows.length - 1].length) {
    const two = drawings.slice(at, at + 2);
    rows.push(two.every(isNarrow) ? two : two.slice(0, 1));
  }
  return rows;
}

function drawRow({ doc, room, draw }: PdfPages, row: readonly Drawing[]): void {
  const column = WIDTH / (isNarrow(row[0]) ? 2 : 1);
  const widthOf = (g: Drawing) => Math.min(column - 8, sizeOf(g.svg)[0]);
  const height = Math.max(...row.map((g) => (sizeOf(g.svg)[1] * widthOf(g)) / sizeOf(g.svg)[0]));
  const width = column - 8;
  doc.moveDown(0.4);
  const head = Math.max(...row.map((g) => headHeight(doc, g, width))) + 3;
  room(height + head + 6);
  const y = doc.y;
  row.forEach((g, k) => {
    const x = LEFT + k * column;
    sayHead(doc, g, x, y, width);
    draw(g.svg, x, y + head, widthOf(g), height);
  });
  doc.x = LEFT;
  doc.y = y + height + head + 4;
}

type Headed = Pick<Drawing, "title" | "caption">;

/** A title, and below it what whoever issued the report says of the figure. */
function sayHead(doc: PdfPages["doc"], { title, caption }: Headed, x: number, y: number, width: number): void {
  doc.font("bold").fontSize(8).fillColor(INK).text(title, x, y, { width });
  if (caption) doc.font("text").fontSize(8).text(caption, x, doc.y, { width });
}

function headHeight(doc: PdfPages["doc"], { title, caption }: Headed, width: number): number {
  const own = doc.font("bold").fontSize(8).heightOfString(title, { width });
  return own + (caption ? doc.font("text").fontSize(8).heightOfString(caption, { width }) : 0);
}

function drawPicture({ doc, room, say }: PdfPages, p: ReportDocument["pictures"][number]): void {
  doc.moveDown(0.4);
  room(PICTURE + 30);
  say(p.title, "bold", 8.5);
  if (p.caption) say(p.caption, "text", 8);
  const y = doc.y + 2;
  doc.image(Buffer.from(p.pngBase64, "base64"), LEFT, y, { fit: [PICTURE, PICTURE] });
  doc.y = y + PICTURE + 6;
}
