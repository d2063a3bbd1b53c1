import { strFromU8, unzipSync } from "fflate";
import { expect, test } from "vitest";
import { ReportDocument } from "../../core/formats/reportDocument.ts";
import { columnWidths, reportDocx } from "./docx.ts";
import { svgDots } from "./svgPng.ts";

const svg =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 50" width="100" height="50"><rect width="100" height="50" fill="#fff"/><rect x="10" y="10" width="30" height="30" fill="#B5412B"/><text x="50" y="30" font-family="\'DejaVu Sans\'" font-size="14">±ρ</text></svg>';
const png = Buffer.from((await svgDots(svg, 20)).png).toString("base64");
const document = ReportDocument.parse({
  format: "tin-ruler-report",
  version: 1,
  number: 3,
  issuedBy: "Ö. Ł.",
  issuedAt: "2026-04-01T10:00:00.000Z",
  caseId: "c",
  title: "Strip & <wa\u0001ke>",
  purpose: "",
  programme: "P",
  evidenceHash: "0".repeat(64),
  verdicts: [
    { quantity: "drag", word: "holds", sentence: "Fine.", reasons: ["because"], byArgument: ["mesh (bounded by H. M.)"], next: "See to this" },
  ],
  sections: [
    { stage: "decision", title: "For the decision", sentences: ["±0.1 % at 4 °C"], tables: [], drawings: [] },
    {
      stage: "words",
      title: "In our own words",
      sentences: [],
      markdown: "**Bold** and [a link](https://example.org/x).\n\n- item",
      tables: [],
      drawings: [],
    },
    { stage: "runs", title: "Runs", sentences: [], tables: ["t"], drawings: ["a"] },
  ],
  tables: [
    {
      key: "t",
      title: "T",
      caption: "As typed.",
      columns: [
        { name: "name", unit: "" },
        { name: "pressure drop", unit: "Pa" },
      ],
      rows: [
        ["first", 1.5],
        ["second", null],
      ],
    },
  ],
  drawings: [{ key: "a", title: "A", svg }],
  pictures: [{ key: "p", stage: "runs", title: "Picture", pngBase64: png }],
  runs: [],
});

const files = unzipSync(await reportDocx(document));
const xml = strFromU8(files["word/document.xml"]);
const texts = [...xml.matchAll(/<w:t[ >][^<]*|<w:t>[^<]*/g)].map((m) => m[0].replace(/^[^>]*>/, ""));

test("everything the report says stands in the text document, in its order, with numbers before titles", () => {
  const order = [
    "Strip &amp; &lt;wake&gt;",
    "For the decision",
    "±0.1 % at 4 °C",
    "drag: holds",
    "Fine. Why: because.",
    "Next: See to this",
    "Bold",
    "a link",
    "item",
    "Figure 1. A",
    "Figure 2. Picture",
    "Table 1. T",
    "As typed.",
    "name",
    "pressure drop (Pa)",
    "first",
  ];
  const places = order.map((t) => texts.indexOf(t));
  expect(places.filter((p) => p < 0)).toEqual([]);
  expect([...places].sort((a, b) => a - b)).toEqual(places);
  expect(texts).toContain("Rests on reasons instead of measurements: mesh (bounded by H. M.).");
  expect(xml.match(/<w:tbl>/g)).toHaveLength(1);
  expect(xml.match(/<w:b\/>|<w:b [^>]*\/>/g)?.length).toBeGreaterThan(2);
  expect(strFromU8(files["word/_rels/document.xml.rels"])).toContain("https://example.org/x");
});

test("drawings go as vectors with dots for whoever shows none, pictures as they are", () => {
  const media = Object.keys(files).filter((f) => f.startsWith("word/media/"));
  expect(media.filter((f) => f.endsWith(".svg")).map((f) => strFromU8(files[f]))).toEqual([svg]);
  const pngs = media.filter((f) => f.endsWith(".png")).map((f) => Buffer.from(files[f]).readUInt32BE(16));
  expect(pngs.sort((a, b) => a - b)).toEqual([20, 250]);
});

test("a drawing as dots has its colours where they belong, and its letters", async () => {
  const { rgba } = await svgDots(svg, 100);
  const at = (x: number, y: number) => [...rgba.subarray(4 * (100 * y + x), 4 * (100 * y + x) + 3)];
  expect(at(25, 25)).toEqual([0xb5, 0x41, 0x2b]);
  expect(at(3, 3)).toEqual([255, 255, 255]);
  let dark = 0;
  for (let x = 50; x < 80; x++) for (let y = 15; y < 35; y++) if (at(x, y)[0] < 128) dark++;
  expect(dark).toBeGreaterThan(15);
});

test("columns are as wide as their cells where there is room, and share the page where there is not", () => {
  expect(columnWidths([["a", "bb"], ["ccc"]])).toEqual([180 + 2 * 86, 180 + 3 * 86]);
  const [label, hash] = columnWidths([["16 × 16", "run"], ["a".repeat(64)]]);
  expect([label, hash]).toEqual([180 + 7 * 86, 180 + 60 * 86]);
  const three = columnWidths([["run name here"], ["a".repeat(64)], ["b".repeat(64)]]);
  expect(three[0]).toBeGreaterThanOrEqual(180 + 4 * 86);
  expect(three[1]).toBe(three[2]);
  const wide = columnWidths(Array.from({ length: 5 }, () => ["word ".repeat(20)]));
  expect(wide.reduce((s, w) => s + w, 0)).toBeLessThanOrEqual(9702);
  expect(new Set(wide).size).toBe(1);
});
