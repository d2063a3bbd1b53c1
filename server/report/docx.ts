import {
  AlignmentType,
  BorderStyle,
  Document,
  ExternalHyperlink,
  Footer,
  HeadingLevel,
  ImageRun,
  type IParagraphOptions,
  Packer,
  PageNumber,
  Paragraph,
  type ParagraphChild,
  Table,
  TableCell,
  TableLayoutType,
  TableRow,
  TextRun,
  WidthType,
} from "docx";
import { type ProseBlock, type ProseRun, readProse } from "../../core/formats/prose.ts";
import type { ReportDocument, ReportTable } from "../../core/formats/reportDocument.ts";
import { withNumbers } from "../../core/formats/reportNumbers.ts";
import { columnText } from "../../core/formatting/cell.ts";
import { fitted } from "./pdfTable.ts";
import { svgDots } from "./svgPng.ts";

/** dots a point of a drawing is made of, where the reader shows no SVG */
const SHARP = 2.5;
/** widest figure between the margins of an A4 page, points of 1/96 inch as the format counts */
const WIDEST = 600;
const INK = "1D2427";
const PALE = "4F5A5E";
const HAIRLINE = { style: BorderStyle.SINGLE, size: 4, color: "D3D1C7" } as const;
const NONE = { style: BorderStyle.NONE, size: 0, color: "auto" } as const;

type Part = Paragraph | Table;

/** An issued report as a text document in the open format of word processors, with its tables as tables and its drawings as vectors. */
export async function reportDocx(frozen: ReportDocument): Promise<Uint8Array> {
  const d = withoutControls(withNumbers(frozen));
  const children: Part[] = [
    paragraph(d.programme, { pale: true }),
    new Paragraph({ text: d.title, heading: HeadingLevel.TITLE }),
    paragraph(`Report ${d.number}, issued ${d.issuedAt.slice(0, 16).replace("T", " ")} UTC by ${d.issuedBy}`, { pale: true }),
    paragraph(`Evidence ${d.evidenceHash}`, { code: true }),
  ];
  if (d.sections[0]?.stage !== "decision") children.push(...verdictsOf(d));
  for (const s of d.sections) {
    children.push(...(await sectionOf(d, s)));
    if (s.stage === "decision") children.push(...verdictsOf(d));
  }
  const document = new Document({
    title: `${d.title}, report ${d.number}`,
    creator: d.issuedBy,
    description: d.purpose,
    styles: {
      default: {
        document: { run: { font: "Arial", size: 19 } },
        title: { run: { size: 36, bold: true, color: INK } },
        heading1: { run: { size: 25, bold: true, color: INK } },
        heading2: { run: { size: 21, bold: true, color: INK } },
      },
    },
    sections: [{ properties: { page: { margin: { top: 1000, bottom: 1000, left: 1100, right: 1100 } } }, footers: { default: footer(d) }, children }],
  });
  return new Uint8Array(await Packer.toBuffer(document));
}

/** Signs that no XML may hold would leave a file that nothing opens. */
function withoutControls<T>(value: T): T {
  // biome-ignore lint/suspicious/noControlCharactersInRegex: these are what is taken out
  if (typeof value === "string") return value.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, "") as T;
  if (Array.isArray(value)) return value.map(withoutControls) as T;
  if (value && typeof value === "object") return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, withoutControls(v)])) as T;
  return value;
}

const footer = (d: ReportDocument): Footer =>
  new Footer({
    children: [
      new Paragraph({
        alignment: AlignmentType.RIGHT,
        children: [
          new TextRun({
            children: [`${d.title}, report ${d.number}    page `, PageNumber.CURRENT, " of ", PageNumber.TOTAL_PAGES],
            size: 15,
            color: PALE,
          }),
        ],
      }),
    ],
  });

interface Look {
  readonly pale?: true;
  readonly bold?: true;
  readonly code?: true;
}

const paragraph = (text: string, { pale, bold, code }: Look = {}, more: IParagraphOptions = {}): Paragraph =>
  new Paragraph({
    spacing: { after: 60 },
    ...more,
    children: [
      new TextRun({ text, ...(pale ? { color: PALE } : {}), ...(bold ? { bold } : {}), ...(code ? { font: "Courier New", size: 16 } : {}) }),
    ],
  });

function verdictsOf(d: ReportDocument): Part[] {
  return d.verdicts.flatMap((v) => [
    paragraph(`${v.quantity}: ${v.word}`, { bold: true }, { keepNext: true }),
    paragraph(`${v.claim ?? v.sentence}${v.reasons.length ? ` Why: ${v.reasons.join("; ")}.` : ""}`),
    ...(v.byArgument ? [paragraph(`Rests on reasons instead of measurements: ${v.byArgument.join("; ")}.`, { bold: true })] : []),
    ...(v.next ? [paragraph(`Next: ${v.next}`)] : []),
  ]);
}

async function sectionOf(d: ReportDocument, s: ReportDocument["sections"][number]): Promise<Part[]> {
  const parts: Part[] = [
    new Paragraph({ text: s.title, heading: HeadingLevel.HEADING_1, spacing: { before: 300, after: 100 } }),
    ...s.sentences.map((t) => paragraph(t)),
    ...(s.markdown ? readProse(s.markdown).map(proseBlock) : []),
  ];
  for (const key of s.drawings) for (const g of d.drawings) if (g.key === key) parts.push(await drawingOf(g), ...titled(g));
  for (const p of d.pictures) if (p.stage === s.stage) parts.push(pictureOf(p), ...titled(p));
  for (const key of s.tables) for (const t of d.tables) if (t.key === key) parts.push(...titled(t, true), tableOf(t));
  return parts;
}

interface Titled {
  readonly title: string;
  readonly caption?: string | undefined;
}

/** A title, and what whoever issued the report says of it. */
const titled = ({ title, caption }: Titled, keepNext = false): Paragraph[] => [
  paragraph(title, { bold: true }, { keepNext, spacing: { before: 80, after: caption ? 20 : 80 } }),
  ...(caption ? [paragraph(caption, {}, { keepNext, spacing: { after: 60 } })] : []),
];

async function drawingOf(g: ReportDocument["drawings"][number]): Promise<Paragraph> {
  const [, w = "376", h = "232"] = g.svg.match(/viewBox="0 0 ([\d.]+) ([\d.]+)"/) ?? [];
  const width = Math.min(WIDEST, Number(w));
  const height = (Number(h) * width) / Number(w);
  const data = new TextEncoder().encode(g.svg);
  const { png } = await svgDots(g.svg, Math.round(SHARP * Number(w)));
  const fallback = { type: "png", data: Buffer.from(png) } as const;
  return figure(new ImageRun({ type: "svg", data: Buffer.from(data), transformation: { width, height }, fallback }));
}

function pictureOf(p: ReportDocument["pictures"][number]): Paragraph {
  const data = Buffer.from(p.pngBase64, "base64");
  // Width and height stand at their fixed places in every PNG.
  const [w, h] = [data.readUInt32BE(16), data.readUInt32BE(20)];
  const scale = Math.min(300 / w, 300 / h);
  return figure(new ImageRun({ type: "png", data, transformation: { width: Math.round(w * scale), height: Math.round(h * scale) } }));
}

const figure = (image: ImageRun): Paragraph => new Paragraph({ keepNext: true, spacing: { before: 120 }, children: [image] });

function tableOf(t: ReportTable): Table {
  const texts = t.columns.map((c, k) =>
    columnText(
      t.rows.map((r) => r[k] ?? null),
      c.unit,
      c.name,
    ),
  );
  const figures = t.columns.map((_, k) => t.rows.length > 0 && t.rows.every((r) => typeof (r[k] ?? 0) === "number"));
  const heads = t.columns.map((c) => (c.unit && c.unit !== "1" ? `${c.name} (${c.unit})` : c.name));
  const widths = columnWidths(heads.map((head, k) => [head, ...texts[k]]));
  const row = (cells: readonly string[], bold: boolean): TableRow =>
    new TableRow({
      cantSplit: true,
      tableHeader: bold,
      children: cells.map(
        (text, k) =>
          new TableCell({
            width: { size: widths[k], type: WidthType.DXA },
            margins: { top: 30, bottom: 30, right: 80 },
            children: [
              new Paragraph({ alignment: figures[k] ? AlignmentType.RIGHT : AlignmentType.LEFT, children: [new TextRun({ text, size: 15, bold })] }),
            ],
          }),
      ),
    });
  return new Table({
    layout: TableLayoutType.FIXED,
    columnWidths: widths,
    width: { size: widths.reduce((s, w) => s + w, 0), type: WidthType.DXA },
    borders: { top: HAIRLINE, bottom: HAIRLINE, left: NONE, right: NONE, insideHorizontal: HAIRLINE, insideVertical: NONE },
    rows: [
      row(heads, true),
      ...t.rows.map((_, i) =>
        row(
          texts.map((column) => column[i]),
          false,
        ),
      ),
    ],
  });
}

/** room between the margins, and a letter of a table, twentieths of a point */
const ROOM = 9700;
const LETTER = 86;
const CELL_GAP = 180;
/** letters of a word that may be broken: a hash does not take the room of other columns */
const LONGEST_WORD = 30;

/** Widths of columns by their longest cells, which share the page where there is not room for all. */
export function columnWidths(columns: readonly (readonly string[])[]): number[] {
  const wished = columns.map((cells) => CELL_GAP + LETTER * Math.min(60, Math.max(...cells.map((c) => c.length))));
  const least = columns.map(
    (cells) => CELL_GAP + LETTER * Math.min(LONGEST_WORD, Math.max(...cells.flatMap((c) => c.split(/\s+/)).map((w) => w.length))),
  );
  return fitted(wished, least, ROOM).map(Math.round);
}

function proseBlock(b: ProseBlock): Paragraph {
  switch (b.kind) {
    case "heading":
      return new Paragraph({ heading: HeadingLevel.HEADING_2, spacing: { before: 160, after: 60 }, children: proseRuns(b.runs) });
    case "item":
      return new Paragraph({
        indent: { left: 360 * (b.depth + 1), hanging: 300 },
        spacing: { after: 40 },
        tabStops: [{ type: "left", position: 360 * (b.depth + 1) }],
        children: [new TextRun(`${b.mark}\t`), ...proseRuns(b.runs)],
      });
    case "quote":
      return new Paragraph({ indent: { left: 360 }, spacing: { after: 60 }, children: proseRuns(b.runs) });
    case "code":
      return new Paragraph({
        spacing: { after: 60 },
        children: b.text.split("\n").map((line, k) => new TextRun({ text: line, font: "Courier New", size: 16, ...(k ? { break: 1 } : {}) })),
      });
    case "line":
      return new Paragraph({ border: { bottom: HAIRLINE } });
    default:
      return new Paragraph({ spacing: { after: 60 }, children: proseRuns(b.runs) });
  }
}

const proseRuns = (runs: readonly ProseRun[]): ParagraphChild[] =>
  runs.map((r) => {
    const look = { bold: r.bold === true, italics: r.italic === true, ...(r.code ? { font: "Courier New", size: 16 } : {}) };
    const text = new TextRun({ text: r.text.replace(/\n/g, " "), ...look, ...(r.href ? { style: "Hyperlink" } : {}) });
    return r.href ? new ExternalHyperlink({ link: r.href, children: [text] }) : text;
  });
