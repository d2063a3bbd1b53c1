import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { cornersOf, facesOf } from "../../dataset/grid.ts";
import { rectangleMesh } from "../../mesh/rectangle.ts";
import { randomFrom } from "../../numeric/random.ts";
import { spoiltBytes } from "../spoiltForTests.ts";
import { writeVtkGrid } from "../vtkGrid.ts";
import { fromBase64 } from "./base64.ts";
import { unpackLz4 } from "./lz4.ts";
import { readAscii } from "./numbers.ts";
import { readVtkGrid } from "./readGrid.ts";
import { GridFileError } from "./scan.ts";
import { everyKind, FileMaker, STYLES } from "./vtkForTests.ts";

const text = (s: string) => new TextEncoder().encode(s);

describe("a cell of every kind, with values on points and cells", () => {
  const plain = readVtkGrid(everyKind({ format: "ascii" }));
  test("is what was written", () => {
    expect([...plain.kinds]).toEqual([5, 7, 8, 9, 10, 11, 12, 13, 14, 22, 42]);
    expect(cornersOf(plain, 2)).toEqual([0, 1, 4, 3]);
    expect(cornersOf(plain, 9)).toEqual([0, 1, 2]);
    expect(facesOf(plain, 10)).toEqual([
      [0, 1, 3],
      [0, 1, 9],
      [1, 3, 9],
      [0, 3, 9],
    ]);
    expect(facesOf(plain, 6)).toContainEqual([9, 10, 13, 12]);
    expect(facesOf(plain, 5).map((f) => [...f].sort((a, b) => a - b).join())).toEqual(
      facesOf(plain, 6).map((f) => [...f].sort((a, b) => a - b).join()),
    );
    expect(plain.onPoints.map((a) => [a.name, a.components])).toEqual([["p & q", 1]]);
    expect(plain.onCells[0].values[3 * 2 + 1]).toBe(1 / 5);
    expect(plain.notes).toEqual(["Shown by their corners: quadratic triangle."]);
  });
  test.each(STYLES)("comes the same to the last bit as %s", (_name, style) => {
    const read = readVtkGrid(everyKind(style));
    expect(read).toEqual(plain);
  });
});

/** A list of bytes whose parts are no copies, as a server has it, somewhere in a larger one. */
class Shared extends Uint8Array<ArrayBuffer> {
  static within(bytes: Uint8Array, before: number): Shared {
    const all = new Uint8Array(before + bytes.length + 5).fill(255);
    all.set(bytes, before);
    return new Shared(all.buffer, before, bytes.length);
  }
  override slice(from?: number, to?: number): Uint8Array<ArrayBuffer> {
    return this.subarray(from, to);
  }
}

describe("bytes that lie in others, as a server reads a file", () => {
  const plain = readVtkGrid(everyKind({ format: "ascii" }));
  const cases = STYLES.flatMap(([name, style]) => [0, 1, 4, 7, 8].map((before) => [name, before, style] as const));
  test.each(cases)("are read as they are: %s, %d bytes in", (_name, before, style) => {
    const read = readVtkGrid(Shared.within(everyKind(style), before));
    expect(read).toEqual(plain);
    const arrays = [read.points, read.kinds, read.corners, ...read.onCells.map((a) => a.values)];
    for (const a of arrays) expect(Object.getPrototypeOf(a)).not.toBe(Shared.prototype);
  });
});

describe("other kinds of files", () => {
  test("our own file comes back: points, cells, fields", () => {
    const uniform = { kind: "uniform" } as const;
    const mesh = rectangleMesh({ lengthM: 2, heightM: 1, nx: 7, ny: 5, gradingX: uniform, gradingY: uniform, periodicX: false });
    const values = Float64Array.from({ length: 35 }, (_, c) => Math.cos(c) / 3);
    const read = readVtkGrid(text(writeVtkGrid(mesh, [{ name: "u, m/s", values }])));
    expect([...read.corners]).toEqual([...mesh.cellPoints]);
    expect([...read.onCells[0].values]).toEqual([...values]);
    expect(read.points[3 * 9]).toBe(mesh.pointsM[18]);
  });
  test("an image, a rectilinear and a curved block have the same cells where they are the same block", () => {
    const [image, rows, curved] = [0, 1, 2].map(() => new FileMaker({ format: "binary" }));
    const values = [1, 2];
    const data = (m: FileMaker) => `<CellData>${m.array("q", "Float64", values)}</CellData><PointData/>`;
    const points = [0, 1].flatMap((j) => [0, 1, 2].map((i) => [10 + 0.5 * i, 20 + 2 * j, 30])).flat();
    const extent = 'Extent="0 2 0 1 0 0"';
    const grids = [
      readVtkGrid(
        image.file("ImageData", `<Piece ${extent}>${data(image)}</Piece>`, 'WholeExtent="0 2 0 1 0 0" Origin="10 20 30" Spacing="0.5 2 1"'),
      ),
      readVtkGrid(
        rows.file(
          "RectilinearGrid",
          `<Piece ${extent}>${data(rows)}<Coordinates>${rows.array("x", "Float64", [10, 10.5, 11])}${rows.array("y", "Float64", [20, 22])}${rows.array("z", "Float64", [30])}</Coordinates></Piece>`,
        ),
      ),
      readVtkGrid(
        curved.file("StructuredGrid", `<Piece ${extent}>${data(curved)}<Points>${curved.array("P", "Float64", points, 3)}</Points></Piece>`),
      ),
    ];
    for (const g of grids) {
      expect([...g.points]).toEqual(points);
      expect([0, 1].map((c) => cornersOf(g, c))).toEqual([
        [0, 1, 4, 3],
        [1, 2, 5, 4],
      ]);
      expect([...g.onCells[0].values]).toEqual(values);
    }
    expect(grids.map((g) => g.kinds[0])).toEqual([8, 8, 9]);
  });
  test("a surface: polygons with lines and strips beside them", () => {
    const m = new FileMaker({ format: "appended" });
    const section = (name: string, connectivity: number[], offsets: number[]) =>
      `<${name}>${m.array("connectivity", "Int64", connectivity)}${m.array("offsets", "Int64", offsets)}</${name}>`;
    const body = `<Piece NumberOfPoints="5" NumberOfVerts="0" NumberOfLines="1" NumberOfStrips="1" NumberOfPolys="2"><Points>${m.array("P", "Float32", [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 2, 0, 0], 3)}</Points>${section("Lines", [0, 4], [2])}${section("Polys", [0, 1, 2, 0, 1, 2, 3], [3, 7])}${section("Strips", [0, 1, 3, 2], [4])}</Piece>`;
    const g = readVtkGrid(m.file("PolyData", body));
    expect([...g.kinds]).toEqual([3, 5, 9, 6]);
    expect([...g.cellStart]).toEqual([0, 2, 5, 9, 13]);
  });
  test("two pieces become one grid; what only one has is left out and said", () => {
    const m = new FileMaker({ format: "ascii" });
    const piece = (x: number, name: string) =>
      `<Piece NumberOfPoints="3" NumberOfCells="1"><Points>${m.array("P", "Float64", [x, 0, 0, x + 1, 0, 0, x, 1, 0], 3)}</Points><Cells>${m.array("connectivity", "Int32", [0, 1, 2])}${m.array("offsets", "Int32", [3])}${m.array("types", "UInt8", [5])}</Cells><CellData>${m.array("both", "Float64", [x])}${m.array(name, "Float64", [x])}</CellData></Piece>`;
    const g = readVtkGrid(m.file("UnstructuredGrid", piece(0, "a") + piece(5, "b")));
    expect([...g.corners]).toEqual([0, 1, 2, 3, 4, 5]);
    expect([...g.onCells[0].values]).toEqual([0, 5]);
    expect(g.notes).toContain("The array a is not in every piece and was left out.");
  });
});

describe("numbers as text", () => {
  test("are the doubles nearest to them, as the language reads them", () => {
    fc.assert(
      fc.property(fc.array(fc.double({ noNaN: true }), { minLength: 1 }), (list) => {
        const bytes = text(list.map((v) => (Object.is(v, -0) ? "-0" : String(v))).join(" "));
        expect([...readAscii(bytes, 0, bytes.length, list.length)]).toEqual(list);
      }),
    );
    const words = [
      "1.7976931348623157e308",
      "5e-324",
      "0.1",
      "123456789012345678901234567890",
      "-.5",
      "3.",
      "+2E+3",
      "1e22",
      "1e23",
      "9007199254740993",
      "nan",
      "-INF",
    ];
    const bytes = text(words.join("\n\t "));
    expect([...readAscii(bytes, 0, bytes.length, 99)]).toEqual(
      words.map((w) => (w === "nan" ? Number.NaN : w === "-INF" ? Number.NEGATIVE_INFINITY : Number(w))),
    );
  });
  test("a word that is none is named with its place; too many are too many", () => {
    const bytes = text("1 2 three");
    expect(() => readAscii(bytes, 0, bytes.length, 9)).toThrow('"three" is no number. (byte 4)');
    expect(() => readAscii(bytes, 0, 3, 1)).toThrow("more than the 1 values");
  });
});

test("base64 of any bytes, in several texts one after the other, with white space between", () => {
  fc.assert(
    fc.property(fc.array(fc.uint8Array(), { maxLength: 4 }), (parts) => {
      const s = text(
        parts
          .map((p) =>
            Buffer.from(p)
              .toString("base64")
              .replace(/(.{7})/g, "$1\n"),
          )
          .join(" "),
      );
      expect([...fromBase64(s, 0, s.length)]).toEqual(parts.flatMap((p) => [...p]));
    }),
  );
});

describe("LZ4 blocks", () => {
  test("the format's own example: literals, then a copy that reaches into itself", () => {
    // 4 literals "abcd", then 12 bytes copied from 4 back, then the last 5 literals.
    const block = Uint8Array.of(0x48, 97, 98, 99, 100, 4, 0, 0x50, 118, 119, 120, 121, 122);
    expect(new TextDecoder().decode(unpackLz4(block, 21))).toBe("abcdabcdabcdabcdvwxyz");
  });
  test.each([
    ["another length", Uint8Array.of(0x10, 97), 2],
    ["a copy from before the beginning", Uint8Array.of(0x10, 97, 9, 0), 9],
    ["cut off", Uint8Array.of(0xf0), 20],
  ])("%s is damaged", (_name, block, size) => {
    expect(() => unpackLz4(block, size)).toThrow("damaged");
  });
});

describe("what cannot be read ends in a sentence with the place", () => {
  const good = new TextDecoder().decode(everyKind({ format: "ascii" }));
  test.each<[string, string | Uint8Array, string]>([
    ["nothing", "", "does not begin with VTKFile. (byte 0)"],
    ["another file", "iteration,drag\n", "does not begin with VTKFile"],
    ["a file of files", '<VTKFile type="PUnstructuredGrid"></VTKFile>', "only names other files"],
    ["an unknown packing", '<VTKFile type="PolyData" compressor="x"></VTKFile>', "packed by x"],
    ["cut off", good.slice(0, -40), "The file ends before it is closed"],
    [
      "a corner that is no point",
      good.replace("0 1 2 0 1 2 3 4", "0 1 77 0 1 2 3 4"),
      "Value 2 of the array connectivity is 77; it is a whole number from 0 to 29.",
    ],
    ["a kind that is none", good.replace("5 7 8 9", "99 7 8 9"), "Cell 0 is of kind 99"],
    ["too few corners", good.replace("3 8 12", "2 8 12"), "Cell 0 is a triangle with 2 corners"],
    ["ends that go back", good.replace("3 8 12", "9 8 12"), "Cell 1 ends at 8, which is before it begins"],
    ["points that are missing", good.replace('NumberOfPoints="30"', 'NumberOfPoints="31"'), "values where 93 are due"],
    ["a comment without an end", '<!-- <VTKFile type="PolyData">', "A comment of the file has no end. (byte 4)"],
    [
      "a small file of a huge block",
      '<VTKFile type="ImageData"><ImageData><Piece Extent="0 9999 0 4000 0 0"></Piece></ImageData></VTKFile>',
      "more points than a file of this size can hold",
    ],
    [
      "a packed array that says it is huge",
      `<VTKFile type="UnstructuredGrid" compressor="vtkZLibDataCompressor"><UnstructuredGrid><Piece NumberOfPoints="9000000" NumberOfCells="0"><Points><DataArray type="Float64" NumberOfComponents="3" format="binary">${Buffer.from(Uint32Array.of(1, 216_000_000, 0, 4, 0).buffer).toString("base64")}</DataArray></Points><Cells><DataArray Name="offsets" type="Int32"/><DataArray Name="connectivity" type="Int32"/><DataArray Name="types" type="UInt8"/></Cells></Piece></UnstructuredGrid></VTKFile>`,
      "say they unpack to more than is due",
    ],
    ["a count that is none", good.replace('NumberOfPoints="30"', 'NumberOfPoints="1e99"'), "NumberOfPoints is"],
  ])("%s", (_name, file, sentence) => {
    expect(() => readVtkGrid(typeof file === "string" ? text(file) : file)).toThrow(sentence);
  });
  test("3,000 mutated files of every style: read, or refused with a sentence; none hangs or throws anything else", () => {
    const random = randomFrom(21);
    const files = STYLES.map(([, s]) => everyKind(s));
    let refused = 0;
    for (let k = 0; k < 3000; k++) {
      try {
        const grid = readVtkGrid(spoiltBytes(files[k % files.length], random));
        expect(grid.cellStart.length).toBe(grid.kinds.length + 1);
      } catch (error) {
        if (!(error instanceof GridFileError)) throw error;
        expect(error.message.length).toBeGreaterThan(15);
        refused++;
      }
    }
    expect(refused).toBeGreaterThan(1000);
  });
});
