import { inflateSync } from "fflate";
import { describe, expect, test } from "vitest";
import { rectangleMesh } from "../mesh/rectangle.ts";
import { writeCsv } from "./csv.ts";
import { encodePng } from "./png.ts";
import { readRecordJson, recordSchema } from "./recordJson.ts";
import { reportSchema } from "./reportDocument.ts";
import { writeVtkGrid } from "./vtkGrid.ts";

describe("unstructured grids", () => {
  const uniform = { kind: "uniform" } as const;
  const mesh = rectangleMesh({ lengthM: 3, heightM: 2, nx: 3, ny: 2, gradingX: uniform, gradingY: uniform, periodicX: false });
  const text = writeVtkGrid(mesh, [{ name: 'u "x" <m/s>', values: Float64Array.of(1.5, 2, -3e-9, 0, 1, 2) }]);
  /** Numbers of an array, found by its name as any reader of the format finds them. */
  const array = (name: string) =>
    text
      .match(new RegExp(`Name="${name}"[^>]*>([^<]*)<`))?.[1]
      .trim()
      .split(/\s+/)
      .map(Number) ?? [];
  test("counts, points with a third coordinate of zero, cells as polygons", () => {
    expect(text).toContain('<Piece NumberOfPoints="12" NumberOfCells="6">');
    const points = array("Points");
    expect(points).toHaveLength(36);
    expect(points.filter((_, i) => i % 3 === 2)).toEqual(new Array(12).fill(0));
    expect(Math.max(...points.filter((_, i) => i % 3 === 0))).toBe(3);
    expect(array("types")).toEqual(new Array(6).fill(7));
  });
  test("every offset is where its cell ends, and its corners enclose the cell's area", () => {
    const [offsets, connectivity, points] = [array("offsets"), array("connectivity"), array("Points")];
    expect(offsets).toEqual([4, 8, 12, 16, 20, 24]);
    expect(connectivity).toHaveLength(24);
    offsets.forEach((end, c) => {
      const corners = connectivity.slice(c === 0 ? 0 : offsets[c - 1], end);
      const area = corners.reduce((sum, p, k) => {
        const n = corners[(k + 1) % corners.length];
        return sum + (points[3 * p] * points[3 * n + 1] - points[3 * n] * points[3 * p + 1]) / 2;
      }, 0);
      expect(Math.abs(area)).toBeCloseTo(1, 12);
      expect(corners.reduce((sum, p) => sum + points[3 * p], 0) / 4).toBeCloseTo(mesh.centroidM[2 * c], 12);
    });
  });
  test("fields with all their digits; names cannot break the file", () => {
    expect(text).toContain('Name="u &#34;x&#34; &#60;m/s&#62;"');
    expect(text).toContain("\n1.5\n2\n-3e-9\n0\n");
    expect(text.match(/<DataArray/g)).toHaveLength(5);
    expect(text.match(/<\/DataArray>/g)).toHaveLength(5);
  });
});

describe("pictures", () => {
  const rgb = Uint8Array.from({ length: 3 * 2 * 3 }, (_, i) => 7 * i);
  const png = encodePng(3, 2, rgb);
  const view = new DataView(png.buffer);
  test("signature, and chunks one behind the other to the end, each with its check sum", () => {
    expect([...png.subarray(0, 8)]).toEqual([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
    const names: string[] = [];
    for (let at = 8; at < png.length; ) {
      const size = view.getUint32(at);
      names.push(String.fromCharCode(...png.subarray(at + 4, at + 8)));
      // By the definition of the specification: a polynomial of 0xEDB88320, bit by bit.
      let c = 0xffffffff;
      for (const b of png.subarray(at + 4, at + 8 + size)) {
        c ^= b;
        for (let k = 0; k < 8; k++) c = c & 1 ? (c >>> 1) ^ 0xedb88320 : c >>> 1;
      }
      expect(view.getUint32(at + 8 + size)).toBe((c ^ 0xffffffff) >>> 0);
      at += 12 + size;
    }
    expect(names).toEqual(["IHDR", "IDAT", "IEND"]);
  });
  test("eight bits of red, green and blue, rows without a filter", () => {
    expect([...png.subarray(16, 29)]).toEqual([0, 0, 0, 3, 0, 0, 0, 2, 8, 2, 0, 0, 0]);
    const raw = inflateSync(png.subarray(41 + 2, 41 + view.getUint32(33) - 4));
    expect([...raw]).toEqual([0, ...rgb.subarray(0, 9), 0, ...rgb.subarray(9)]);
  });
  test("another count of bytes is refused", () => expect(() => encodePng(3, 2, rgb.subarray(1))).toThrow("17 bytes are not 3 x 2"));
});

describe("comma-separated text", () => {
  test("what a spreadsheet would take for a formula is defused; numbers, also negative ones as text, are not", () => {
    expect(
      writeCsv(
        ["a", "b"],
        [
          ["=1+1", "+x"],
          ["@x", "-x"],
          [-1, "-1"],
          ["\tx", 'say "y", z'],
        ],
      ),
    ).toBe('a,b\n\'=1+1,\'+x\n\'@x,\'-x\n-1,-1\n\'\tx,"say ""y"", z"\n');
  });
});

describe("JSON records", () => {
  const json = (columns: unknown, more: object = {}) => JSON.stringify({ format: "tin-ruler-record", version: 1, columns, ...more });
  const problem = (text: string) => {
    const r = readRecordJson(text);
    return r.ok ? undefined : r.problems[0];
  };
  test("gaps, a sample of five rows, rows counted from one", () => {
    const r = readRecordJson(
      json([
        { name: " it ", values: [1, 2, 3, 4, 5, 6] },
        { name: "q", unit: "N", values: [1, null, 3, 4, 5, 6] },
      ]),
    );
    if (!r.ok) throw new Error(r.problems[0].sentence);
    expect(r.sheet.header).toEqual(["it", "q"]);
    expect(r.sheet.sample).toHaveLength(5);
    expect(r.sheet.sample[1]).toEqual(["2", ""]);
    expect([...r.sheet.lines]).toEqual([1, 2, 3, 4, 5, 6]);
    expect(r.sheet.columns[1][1]).toBeNaN();
    expect(r.sheet.faults).toEqual([[], []]);
  });
  test("what is wrong, and in which column", () => {
    expect(problem(json([{ name: "a", values: [] }]))).toMatchObject({ line: 1, sentence: "The columns are empty." });
    expect(
      problem(
        json([
          { name: "a", values: [1] },
          { name: "a", values: [1] },
        ]),
      ),
    ).toMatchObject({ column: "a", sentence: 'Two columns are both named "a".' });
    expect(
      problem(
        json([
          { name: "a", values: [1, 2] },
          { name: "b", values: [1] },
        ]),
      ),
    ).toMatchObject({ column: "b", sentence: "1 values where the first column has 2." });
    expect(problem(json([]))?.sentence).toMatch(/^columns: .*schema of a record is at \/api\/schema\/record/);
    expect(problem(json([{ name: "a", values: [1] }], { version: 2 }))?.sentence).toMatch(/^version: /);
    expect(problem("[]")?.sentence).not.toMatch(/^: /);
    expect(problem('{\n\n"format" oops')).toMatchObject({ line: 3 });
    expect(problem("")).toMatchObject({ line: 1 });
  });
  test("schemas are published under names of their own", () => {
    expect(recordSchema()).toMatchObject({ $id: "tin-ruler-record-1", type: "object", required: ["format", "version", "columns"] });
    expect(reportSchema()).toMatchObject({ $id: "tin-ruler-report-1", type: "object" });
  });
});
