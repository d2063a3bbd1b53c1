import type { ReportDocument } from "../../core/formats/reportDocument.ts";
import { withNumbers } from "../../core/formats/reportNumbers.ts";
import { INK, LEFT, PALE, type PdfPages, pdfPages, WIDTH } from "./pdfPage.ts";
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
  const titled = () => doc.font("bold").fontSize(8);
  doc.moveDown(0.4);
  const head = Math.max(...row.map((g) => titled().heightOfString(g.title, { width: column - 8 }))) + 3;
  room(height + head + 6);
  const y = doc.y;
  row.forEach((g, k) => {
    const x = LEFT + k * column;
    titled()
      .fillColor(INK)
      .text(g.title, x, y, { width: column - 8 });
    draw(g.svg, x, y + head, widthOf(g), height);
  });
  doc.x = LEFT;
  doc.y = y + height + head + 4;
}

function drawPicture({ doc, room, say }: PdfPages, p: ReportDocument["pictures"][number]): void {
  doc.moveDown(0.4);
  room(PICTURE + 30);
  say(p.title, "bold", 8.5);
  const y = doc.y + 2;
  doc.image(Buffer.from(p.pngBase64, "base64"), LEFT, y, { fit: [PICTURE, PICTURE] });
  doc.y = y + PICTURE + 6;
}
