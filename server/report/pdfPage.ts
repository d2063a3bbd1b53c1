import { createRequire } from "node:module";
import path from "node:path";
import PDFDocument from "pdfkit";
import { applicationFolder } from "../config.ts";

const require = createRequire(import.meta.url);
const fontFile = (name: string) => path.join(applicationFolder(), "node_modules/dejavu-fonts-ttf/ttf", name);

/** edges of the text on an A4 page, points */
export const LEFT = 56;
export const WIDTH = 483;
export const BOTTOM = 780;
const FOOT = 812;

export const INK = "#1D2427";
export const PALE = "#4F5A5E";
export const HAIRLINE = "#D3D1C7";

export type Font = "text" | "bold" | "mono";

/** A4 pages that are written from the top down, with their fonts inside. */
export interface PdfPages {
  readonly doc: PDFKit.PDFDocument;
  /** begins a page where less than so much is left of this one */
  readonly room: (height: number) => void;
  readonly say: (text: string, font?: Font, size?: number, color?: string) => void;
  /** a drawing as lines and letters, not as dots */
  readonly draw: (svg: string, x: number, y: number, width: number, height: number) => void;
  /** ends the file, with `foot` and the number on every page */
  readonly finish: (foot: string) => Promise<Uint8Array>;
}

/** @param info what the file says of itself */
export function pdfPages(info: { readonly Title: string; readonly Author: string; readonly CreationDate: Date }): PdfPages {
  const drawSvg = require("svg-to-pdfkit") as (doc: PDFKit.PDFDocument, svg: string, x: number, y: number, options: object) => void;
  // No font to begin with: a file opened here and registered below would be read and parsed anew at every change of font.
  const doc = new PDFDocument({ size: "A4", margin: LEFT, bufferPages: true, font: null as unknown as string, info: { ...info } });
  doc.registerFont("text", fontFile("DejaVuSans.ttf"));
  doc.registerFont("bold", fontFile("DejaVuSans-Bold.ttf"));
  doc.registerFont("mono", fontFile("DejaVuSansMono.ttf"));
  const bytes = collect(doc);
  const room = (height: number) => {
    if (doc.y + height > BOTTOM) doc.addPage();
  };
  const say: PdfPages["say"] = (text, font = "text", size = 9, color = INK) => {
    doc.font(font).fontSize(size);
    room(doc.heightOfString(text, { width: WIDTH }));
    doc.fillColor(color).text(text, LEFT, doc.y, { width: WIDTH });
  };
  const draw: PdfPages["draw"] = (svg, x, y, width, height) =>
    drawSvg(doc, svg, x, y, {
      width,
      height,
      preserveAspectRatio: "xMinYMin meet",
      fontCallback: (family: string, bold: boolean): Font => (/Mono/.test(family) ? "mono" : bold ? "bold" : "text"),
      assumePt: true,
    });
  const finish = (foot: string) => {
    numberPages(doc, foot);
    doc.end();
    return bytes;
  };
  return { doc, room, say, draw, finish };
}

function collect(doc: PDFKit.PDFDocument): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  return new Promise((resolve, reject) => {
    doc.on("data", (b: Uint8Array) => parts.push(b));
    doc.on("end", () => resolve(Buffer.concat(parts)));
    doc.on("error", reject);
  });
}

function numberPages(doc: PDFKit.PDFDocument, foot: string): void {
  const pages = doc.bufferedPageRange();
  for (let i = 0; i < pages.count; i++) {
    doc.switchToPage(i);
    doc.page.margins.bottom = 0;
    const line = `${foot}    page ${i + 1} of ${pages.count}`;
    doc.font("text").fontSize(7.5).fillColor(PALE).text(line, LEFT, FOOT, { width: WIDTH, align: "right", lineBreak: false });
  }
}
