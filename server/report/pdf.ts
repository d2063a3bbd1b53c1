import { createRequire } from "node:module";
import path from "node:path";
import PDFDocument from "pdfkit";
import type { ReportDocument, ReportTable } from "../../core/formats/reportDocument.ts";
import { columnText } from "../../core/formatting/cell.ts";
import { applicationFolder } from "../config.ts";

const require = createRequire(import.meta.url);
const fontFile = (name: string) => path.join(applicationFolder(), "node_modules/dejavu-fonts-ttf/ttf", name);

const LEFT = 56;
const WIDTH = 483;
const BOTTOM = 780;

/** The report as an A4 PDF with its fonts inside. */
export async function reportPdf(d: ReportDocument): Promise<Uint8Array> {
  const drawSvg = require("svg-to-pdfkit") as (doc: PDFKit.PDFDocument, svg: string, x: number, y: number, options: object) => void;
  const doc = new PDFDocument({
    size: "A4",
    margin: LEFT,
    bufferPages: true,
    font: fontFile("DejaVuSans.ttf"),
    info: { Title: `${d.title}, report ${d.number}`, Author: d.issuedBy, CreationDate: new Date(d.issuedAt) },
  });
  doc.registerFont("text", fontFile("DejaVuSans.ttf"));
  doc.registerFont("bold", fontFile("DejaVuSans-Bold.ttf"));
  doc.registerFont("mono", fontFile("DejaVuSansMono.ttf"));
  const parts: Uint8Array[] = [];
  const finished = new Promise<void>((resolve, reject) => {
    doc.on("data", (b: Uint8Array) => parts.push(b));
    doc.on("end", resolve);
    doc.on("error", reject);
  });
  const room = (height: number) => {
    if (doc.y + height > BOTTOM) doc.addPage();
  };
  const say = (text: string, font = "text", size = 9, color = "#1D2427") => {
    doc.font(font).fontSize(size);
    room(doc.heightOfString(text, { width: WIDTH }));
    doc.fillColor(color).text(text, LEFT, doc.y, { width: WIDTH });
  };
  say(`${d.programme}`, "text", 9, "#4F5A5E");
  say(d.title, "bold", 18);
  say(`Report ${d.number}, issued ${d.issuedAt.slice(0, 16).replace("T", " ")} UTC by ${d.issuedBy}`, "text", 9, "#4F5A5E");
  say(`Evidence ${d.evidenceHash.slice(0, 16)}`, "mono", 8, "#4F5A5E");
  doc.moveDown(0.8);
  for (const v of d.verdicts) say(`${v.quantity}: ${v.word}. ${v.sentence}${v.reasons.length ? ` (${v.reasons.join("; ")})` : ""}`);
  for (const s of d.sections) {
    doc.moveDown(1);
    room(60);
    say(s.title, "bold", 12);
    for (const t of s.sentences) say(t);
    const drawings = s.drawings.flatMap((key) => d.drawings.filter((x) => x.key === key));
    for (let at = 0; at < drawings.length; ) {
      // Two narrow drawings share a row.
      const row = drawings.slice(at, at + (drawings.slice(at, at + 2).every((g) => sizeOf(g.svg)[0] <= 400) ? 2 : 1));
      at += row.length;
      const column = WIDTH / (sizeOf(row[0].svg)[0] <= 400 ? 2 : 1);
      const height = Math.max(...row.map((g) => (sizeOf(g.svg)[1] * Math.min(column - 8, sizeOf(g.svg)[0])) / sizeOf(g.svg)[0]));
      doc.moveDown(0.4);
      const head =
        Math.max(
          ...row.map((g) =>
            doc
              .font("bold")
              .fontSize(8)
              .heightOfString(g.title, { width: column - 8 }),
          ),
        ) + 3;
      room(height + head + 6);
      const y = doc.y;
      row.forEach((g, k) => {
        const x = LEFT + k * column;
        doc
          .font("bold")
          .fontSize(8)
          .fillColor("#1D2427")
          .text(g.title, x, y, { width: column - 8 });
        drawSvg(doc, g.svg, x, y + head, {
          width: Math.min(column - 8, sizeOf(g.svg)[0]),
          height,
          preserveAspectRatio: "xMinYMin meet",
          fontCallback: (family: string, bold: boolean) => (/Mono/.test(family) ? "mono" : bold ? "bold" : "text"),
          assumePt: true,
        });
      });
      doc.x = LEFT;
      doc.y = y + height + head + 4;
    }
    if (s.stage === "runs") {
      for (const p of d.pictures) {
        doc.moveDown(0.4);
        room(250);
        say(p.title, "bold", 8.5);
        const y = doc.y + 2;
        doc.image(Buffer.from(p.pngBase64, "base64"), LEFT, y, { fit: [220, 220] });
        doc.y = y + 226;
      }
    }
    for (const key of s.tables) {
      const table = d.tables.find((x) => x.key === key);
      if (table) drawTable(doc, table, room, say);
    }
  }
  const pages = doc.bufferedPageRange();
  for (let i = 0; i < pages.count; i++) {
    doc.switchToPage(i);
    doc.page.margins.bottom = 0;
    doc
      .font("text")
      .fontSize(7.5)
      .fillColor("#4F5A5E")
      .text(`${d.title}, report ${d.number}    page ${i + 1} of ${pages.count}`, LEFT, 812, { width: WIDTH, align: "right", lineBreak: false });
  }
  doc.end();
  await finished;
  return Buffer.concat(parts);
}

/** Width and height of a drawing from its view box. */
function sizeOf(svg: string): [number, number] {
  const found = svg.match(/viewBox="0 0 ([\d.]+) ([\d.]+)"/);
  return found ? [Number(found[1]), Number(found[2])] : [376, 232];
}

const sumOf = (widths: readonly number[]) => widths.reduce((s, w) => s + w, 0);

/** Widths of columns that fit the page, as wished where there is room. */
function fitted(wished: readonly number[], least: readonly number[]): number[] {
  if (sumOf(wished) <= WIDTH) return [...wished];
  const spare = WIDTH - sumOf(least);
  if (spare <= 0) return least.map((w) => (w * WIDTH) / sumOf(least));
  const wanting = sumOf(wished) - sumOf(least);
  return wished.map((w, i) => least[i] + (spare * (w - least[i])) / wanting);
}

function drawTable(
  doc: PDFKit.PDFDocument,
  t: ReportTable,
  room: (h: number) => void,
  say: (text: string, font: string, size: number) => void,
): void {
  doc.moveDown(0.5);
  room(60);
  say(t.title, "bold", 8.5);
  const columns = t.columns.map((c) => (c.unit && c.unit !== "1" ? `${c.name} (${c.unit})` : c.name));
  const written = t.columns.map((c, i) =>
    columnText(
      t.rows.map((r) => r[i]),
      c.unit,
      c.name,
    ),
  );
  const texts = t.rows.map((r, k) => r.map((_, i) => written[i][k]));
  doc.font("text").fontSize(7);
  const word = (text: string, font: string) => Math.max(...text.split(" ").map((w) => doc.font(font).widthOfString(w)));
  // No narrower than the longest word: what room is left goes to the columns that would like more.
  const least = columns.map((c, i) => Math.max(word(c, "bold"), ...texts.map((r) => word(r[i], "text"))) + 9);
  const natural = least.map((narrowest, i) =>
    Math.max(narrowest, Math.min(190, Math.max(...texts.map((r) => doc.font("text").widthOfString(r[i])))) + 9),
  );
  const widths = fitted(natural, least);
  const heightOf = (cells: string[], font: string) => {
    doc.font(font).fontSize(7);
    return Math.max(...cells.map((c, i) => doc.heightOfString(c, { width: widths[i] - 6 }))) + 3;
  };
  const line = (cells: string[], font: string) => {
    const height = heightOf(cells, font);
    // A table that goes on over the page has its heads again.
    if (font === "text" && doc.y + height > BOTTOM) {
      doc.addPage();
      line(columns, "bold");
      doc.font(font).fontSize(7);
    }
    const y = doc.y;
    let x = LEFT;
    cells.forEach((c, i) => {
      doc.fillColor("#1D2427").text(c, x, y, { width: widths[i] - 6, align: typeof t.rows[0][i] === "number" ? "right" : "left" });
      x += widths[i];
    });
    doc
      .moveTo(LEFT, y + height - 1.5)
      .lineTo(x, y + height - 1.5)
      .lineWidth(0.3)
      .strokeColor("#D3D1C7")
      .stroke();
    doc.x = LEFT;
    doc.y = y + height;
  };
  line(columns, "bold");
  for (const r of texts) line(r, "text");
}
