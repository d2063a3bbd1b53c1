import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { Grid } from "../../dataset/grid.ts";
import { boxFaces, polygons } from "../../dataset/made.ts";
import { stitch } from "../../dataset/stitch.ts";
import { randomFrom } from "../../numeric/random.ts";
import { spoiltBytes } from "../spoiltForTests.ts";
import { GridFileError } from "../vtk/scan.ts";
import { readPly } from "./ply.ts";
import { readStl, writeStl } from "./stl.ts";

const bytesOf = (text: string) => new TextEncoder().encode(text);
const facet = (z: number) => `facet normal 0 0 1\nouter loop\nvertex 0 0 ${z}\nvertex 1 0 ${z}\nvertex 0 1 ${z}\nendloop\nendfacet\n`;
const solid = (name: string, ...zs: number[]) => `solid ${name}\n${zs.map(facet).join("")}endsolid ${name}\n`;

describe("STL", () => {
  test("what is written is read again, polygons as triangles: the same surface", () => {
    const of = (grid: Grid) => stitch(grid).faults.shells[0];
    const box = polygons(boxFaces([0, 0, 0], [2, 1, 0.5], 3));
    const bytes = writeStl(stitch(box).surface, "solid box");
    expect(new TextDecoder().decode(bytes.subarray(0, 5))).not.toBe("solid");
    expect(bytes.length).toBe(84 + 50 * 108);
    expect(of(readStl(bytes))).toMatchObject({ faces: 108, closed: true, volume: expect.closeTo(1, 6), area: expect.closeTo(of(box).area, 6) });
  });
  test("coordinates come back as they are, in single precision", () => {
    const float = fc.float({ noNaN: true, noDefaultInfinity: true });
    fc.assert(
      fc.property(fc.array(float, { minLength: 9, maxLength: 9 }), (corners) => {
        const bytes = new Uint8Array(84 + 50);
        const view = new DataView(bytes.buffer);
        view.setUint32(80, 1, true);
        corners.forEach((v, k) => {
          view.setFloat32(96 + 4 * k, v, true);
        });
        const grid = readStl(bytes);
        expect([...grid.corners].flatMap((q) => [...grid.points.subarray(3 * q, 3 * q + 3)]).map((v) => v + 0)).toEqual(corners.map((v) => v + 0));
      }),
    );
  });
  test("a text of several solids has parts by their names; one alone, or two of one name, have none", () => {
    const grid = readStl(bytesOf(`${solid("north rim", 0)}${solid("leaf", 1, 2)}`));
    expect(grid.parts).toEqual([
      { name: "north rim", from: 0, to: 1 },
      { name: "leaf", from: 1, to: 3 },
    ]);
    expect(readStl(bytesOf(solid("a", 1))).parts).toBeUndefined();
    expect(readStl(bytesOf(solid("a", 1) + solid("a", 2))).parts).toBeUndefined();
  });
  test("a binary one whose head begins with the word of a text one is binary", () => {
    const bytes = writeStl(stitch(polygons(boxFaces([0, 0, 0], [1, 1, 1], 1))).surface, "");
    bytes.set(bytesOf("solid box"));
    expect(readStl(bytes).kinds).toHaveLength(12);
  });
  test.each<[string, Uint8Array, string]>([
    ["nothing", new Uint8Array(), "no STL file"],
    ["another file", bytesOf("x".repeat(200)), "is cut off, or no STL file. (byte 80)"],
    [
      "a binary one cut off",
      writeStl(stitch(polygons(boxFaces([0, 0, 0], [1, 1, 1], 1))).surface, "").subarray(0, 300),
      "12 triangles, which are 684 bytes, and has 300",
    ],
    ["a text cut off", bytesOf(solid("a", 1).slice(0, -12)), "ends before its last solid does"],
    ["a text without its end", bytesOf(solid("a", 1, 2, 3).replace(/endsolid.*\n/, "")), "cut off"],
    ["a word for a number", bytesOf(solid("a", 1).replace("vertex 1 0", "vertex l 0")), '"l" is not a number. (byte 58)'],
    ["a missing word", bytesOf(solid("a", 1).replace("outer loop", "loop")), '"outer" should stand here, not "loop"'],
    ["no triangle", bytesOf("solid nothing at all in it, whatever its name says, which is long enough for a head\nendsolid\n"), "no triangle"],
  ])("refused: %s", (_what, bytes, words) => {
    expect(() => readStl(bytes)).toThrow(GridFileError);
    expect(() => readStl(bytes)).toThrow(words);
  });
});

const HEAD = `comment made by hand
element vertex 5
property float x
property double y
property float z
property float p
element face 2
property list uchar int vertex_indices
property short zone
element edge 1
property int vertex1
property list uchar int more
end_header
`;
const VERTICES = [
  [0, 0, 0, 10],
  [1, 0, 0, 20],
  [1, 1, 0, 30],
  [0, 1, 0, 40],
  [0.5, 0.5, 1, 50.5],
];

function binary(little: boolean): Uint8Array {
  const out: number[] = [...bytesOf(`ply\nformat binary_${little ? "little" : "big"}_endian 1.0\n${HEAD}`)];
  const put = (size: number, set: (v: DataView) => void) => {
    const view = new DataView(new ArrayBuffer(size));
    set(view);
    out.push(...new Uint8Array(view.buffer));
  };
  for (const [x, y, z, p] of VERTICES) {
    put(4, (v) => v.setFloat32(0, x, little));
    put(8, (v) => v.setFloat64(0, y, little));
    put(4, (v) => v.setFloat32(0, z, little));
    put(4, (v) => v.setFloat32(0, p, little));
  }
  for (const [zone, corners] of [
    [-3, [0, 1, 2, 3]],
    [4, [0, 1, 4]],
  ] as const) {
    out.push(corners.length);
    for (const c of corners) put(4, (v) => v.setInt32(0, c, little));
    put(2, (v) => v.setInt16(0, zone, little));
  }
  put(4, (v) => v.setInt32(0, 1, little));
  out.push(1);
  put(4, (v) => v.setInt32(0, 9, little));
  return Uint8Array.from(out);
}
const TEXT = bytesOf(`ply\r\nformat ascii 1.0\r\n${HEAD}${VERTICES.map((v) => v.join(" ")).join("\n")}\n4 0 1 2 3 -3\n3 0 1 4 4\n1 1 9\n`);

describe("PLY", () => {
  test.each<[string, Uint8Array]>([
    ["text", TEXT],
    ["binary, least byte first", binary(true)],
    ["binary, greatest byte first", binary(false)],
  ])("%s: corners, faces, and what else is known on both", (_what, bytes) => {
    const grid = readPly(bytes);
    expect([...grid.points]).toEqual(VERTICES.flatMap((v) => v.slice(0, 3)));
    expect([...grid.kinds]).toEqual([7, 5]);
    expect([...grid.corners]).toEqual([0, 1, 2, 3, 0, 1, 4]);
    expect(grid.onPoints).toEqual([{ name: "p", components: 1, values: Float64Array.of(10, 20, 30, 40, 50.5) }]);
    expect(grid.onCells).toEqual([{ name: "zone", components: 1, values: Float64Array.of(-3, 4) }]);
    expect(grid.notes).toEqual(['1 of "edge" are neither corners nor faces and were left out.']);
  });
  const text = new TextDecoder().decode(TEXT);
  test.each<[string, Uint8Array, string]>([
    ["another file", bytesOf("plywood"), 'does not begin with the word "ply"'],
    ["a head without an end", bytesOf("ply\nformat ascii 1.0\n"), "has no end"],
    ["cut off", TEXT.subarray(0, TEXT.length - 30), "cut off"],
    ["more than there can be", bytesOf(text.replace("vertex 5", "vertex 500000000")), "too short for them"],
    ["a corner that is not there", bytesOf(text.replace("3 0 1 4 4", "3 0 1 5 4")), "A face names corner 5 (entry 7); there are 5."],
    ["a word for a number", bytesOf(text.replace("50.5", "many")), '"many" is not a number.'],
    ["no place of its corners", bytesOf(text.replace("property float z", "property float w")), "no x, y and z"],
    ["an unknown type", bytesOf(text.replace("property double y", "property quad y")), "is no property that can be read"],
    ["an unknown format", bytesOf(text.replace("ascii", "morse")), 'The format "morse"'],
  ])("refused: %s", (_what, bytes, words) => {
    expect(() => readPly(bytes)).toThrow(GridFileError);
    expect(() => readPly(bytes)).toThrow(words);
  });
});

test("3,000 spoilt files are read or refused in a sentence", () => {
  const random = randomFrom(20_261_127);
  const sound: [(b: Uint8Array) => Grid, Uint8Array][] = [
    [readPly, TEXT],
    [readPly, binary(true)],
    [readPly, binary(false)],
    [readStl, bytesOf(solid("a", 1, 2) + solid("b", 3))],
    [readStl, writeStl(stitch(polygons(boxFaces([0, 0, 0], [1, 1, 1], 1))).surface, "box")],
  ];
  let read = 0;
  for (let k = 0; k < 3000; k++) {
    const [reader, bytes] = sound[k % sound.length];
    try {
      const grid = reader(spoiltBytes(bytes, random));
      expect(grid.points.every(Number.isFinite)).toBe(true);
      expect(grid.corners.every((q) => q >= 0 && q < grid.points.length / 3)).toBe(true);
      read++;
    } catch (error) {
      expect(error).toBeInstanceOf(GridFileError);
    }
  }
  expect(read).toBeGreaterThan(100);
});
