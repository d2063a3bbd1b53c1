import { describe, expect, test } from "vitest";
import type { Grid } from "../../dataset/grid.ts";
import { patchesOf } from "../../dataset/patches.ts";
import { stitch } from "../../dataset/stitch.ts";
import { randomFrom } from "../../numeric/random.ts";
import { readGridFile } from "../surface/readAny.ts";
import { GridFileError } from "../vtk/scan.ts";
import { base, CUBE_FACES, cgnsFile, coordinates, type Made, section, zone } from "./cgnsForTests.ts";

type Place = readonly [number, number, number];
/** Points of a block of three by two by two cells and of another beside it, the first index fastest. */
const N = [4, 3, 3] as const;
const block = (low = 0): Place[] =>
  Array.from({ length: 36 }, (_, q) => [low + (q % N[0]), Math.floor(q / N[0]) % N[1], Math.floor(q / (N[0] * N[1]))] as const);
const vertex = (i: number, j: number, k: number) => 1 + i + N[0] * (j + N[1] * k);
const hexahedra = (): number[] => {
  const out: number[] = [];
  for (let k = 0; k < 2; k++)
    for (let j = 0; j < 2; j++)
      for (let i = 0; i < 3; i++)
        for (const top of [k, k + 1]) out.push(vertex(i, j, top), vertex(i + 1, j, top), vertex(i + 1, j + 1, top), vertex(i, j + 1, top));
  return out;
};
/** Faces of the floor, the lowest k, and of the inlet, the lowest i. */
const FLOOR = [0, 1].flatMap((j) => [0, 1, 2].map((i) => [vertex(i, j, 0), vertex(i, j + 1, 0), vertex(i + 1, j + 1, 0), vertex(i + 1, j, 0)]));
const INLET = [0, 1].flatMap((k) => [0, 1].map((j) => [vertex(0, j, k), vertex(0, j, k + 1), vertex(0, j + 1, k + 1), vertex(0, j + 1, k)]));

const condition = (children: Readonly<Record<string, Made>>): Made => ({ label: "BC_t", data: "BCWall", children });
const list = (name: string, numbers: readonly number[]): Readonly<Record<string, Made>> => ({
  [name]: { label: "IndexArray_t", data: Int32Array.from(numbers), shape: [1, numbers.length] },
});
const range = (name: string, low: readonly number[], high: readonly number[]): Readonly<Record<string, Made>> => ({
  [name]: { label: "IndexRange_t", data: Int32Array.from([...low, ...high]), shape: [low.length, 2] },
});
const at = (place: string): Readonly<Record<string, Made>> => ({ GridLocation: { label: "GridLocation_t", data: place } });
const numbers = (from: number, count: number) => Array.from({ length: count }, (_, k) => from + k);

const unstructured = (conditions: Readonly<Record<string, Made>> | undefined, more: Readonly<Record<string, Made>> = {}) =>
  cgnsFile({
    Base: base({
      Zone: zone("Unstructured", [36, 12, 0], {
        GridCoordinates: coordinates(block()),
        Cells: section(17, 1, 12, hexahedra()),
        floorFaces: section(7, 13, 6, FLOOR.flat()),
        // Mixed with a kind in front of each, so that its numbers are not its places in the list.
        inletFaces: section(
          20,
          19,
          4,
          INLET.flatMap((f) => [7, ...f]),
          [0, 5, 10, 15, 20],
        ),
        ...more,
        ...(conditions ? { ZoneBC: { label: "ZoneBC_t", children: conditions } } : {}),
      }),
    }),
  });
const structured = (conditions: Readonly<Record<string, Made>>, low = 0) =>
  zone("Structured", [...N, 3, 2, 2, 0, 0, 0], {
    GridCoordinates: coordinates(block(low), N),
    ZoneBC: { label: "ZoneBC_t", children: conditions },
  });

/** Pieces of a file's outside by its own names: faces, and area. */
async function pieces(file: Uint8Array | Promise<Uint8Array>) {
  const s = stitch(await readGridFile(await file));
  const found = patchesOf(s, { division: { by: "parts" }, names: [], splits: [] }).pieces;
  return { notes: s.grid.notes, of: Object.fromEntries(found.map((p) => [p.called ?? "", [p.faces, p.area]])) };
}

function within(grid: Grid): void {
  for (const b of grid.boundaries ?? []) {
    const corners = "points" in b ? [...b.points] : b.faces.flat();
    expect(corners.every((q) => q >= 0 && 3 * q < grid.points.length)).toBe(true);
  }
}

const FACES = { floor: [6, 6], inlet: [4, 4], "": [22, 22] };

describe("boundaries of a file of the CGNS standard name parts of its outside", () => {
  test.each<[string, () => Promise<Uint8Array>]>([
    [
      "by lists and ranges of faces",
      () =>
        unstructured({
          floor: condition({ ...list("PointList", numbers(13, 6)), ...at("FaceCenter") }),
          inlet: condition({ ...range("PointRange", [19], [22]), ...at("FaceCenter") }),
        }),
    ],
    [
      "by elements, as older files have it",
      () => unstructured({ floor: condition(range("ElementRange", [13], [18])), inlet: condition(list("ElementList", numbers(19, 4))) }),
    ],
    [
      "by vertices",
      () =>
        unstructured({
          floor: condition(list("PointList", [...new Set(FLOOR.flat())])),
          inlet: condition({ ...list("PointList", [...new Set(INLET.flat())]), ...at("Vertex") }),
        }),
    ],
    [
      "of a block by ranges of vertices and of faces",
      () =>
        cgnsFile({
          Base: base({
            Zone: structured({
              floor: condition(range("PointRange", [1, 1, 1], [4, 3, 1])),
              inlet: condition({ ...range("PointRange", [1, 1, 1], [1, 2, 2]), ...at("IFaceCenter") }),
            }),
          }),
        }),
    ],
  ])("%s", async (_way, file) => {
    expect((await pieces(file())).of).toEqual(FACES);
  });
  test("without conditions the sections of faces are the parts", async () => {
    expect((await pieces(unstructured(undefined))).of).toEqual({ floorFaces: FACES.floor, inletFaces: FACES.inlet, "": FACES[""] });
  });
  test("of polyhedra by the numbers of the faces they are made of", async () => {
    const corners = [0, 1].flatMap((z) => [[0, 0, z] as const, [1, 0, z] as const, [1, 1, z] as const, [0, 1, z] as const]);
    const file = cgnsFile({
      Base: base({
        Zone: zone("Unstructured", [8, 1, 0], {
          GridCoordinates: coordinates(corners),
          F: section(22, 1, 6, CUBE_FACES.flat(), [0, 4, 8, 12, 16, 20, 24]),
          C: section(23, 7, 1, numbers(1, 6), [0, 6]),
          ZoneBC: { label: "ZoneBC_t", children: { side: condition({ ...list("PointList", [3, 5]), ...at("FaceCenter") }) } },
        }),
      }),
    });
    expect((await pieces(file)).of).toEqual({ side: [2, 2], "": [4, 4] });
  });
  test("of two blocks that meet a name is one part, and where they meet is no outside", async () => {
    const floor = { floor: condition(range("PointRange", [1, 1, 1], [4, 3, 1])) };
    const file = cgnsFile({ Base: base({ left: structured(floor), right: structured(floor, 3) }) });
    expect((await pieces(file)).of).toEqual({ floor: [12, 12], "": [2 * 32 - 2 * 4 - 12, 2 * 32 - 2 * 4 - 12] });
  });
  test("what cannot be read of them is said by name, and the rest is read", async () => {
    const { of, notes } = await pieces(
      unstructured({
        floor: condition({ ...list("PointList", numbers(13, 6)), ...at("FaceCenter") }),
        absent: condition({ ...list("PointList", [999]), ...at("FaceCenter") }),
        edge: condition({ ...list("PointList", [1, 2]), ...at("EdgeCenter") }),
        beyond: condition(list("PointList", [37])),
        empty: condition({}),
      }),
    );
    expect(of).toEqual({ floor: [6, 6], "": [26, 26] });
    expect(notes).toContain("Where absent, beyond, edge, empty lie is said in a way that is not read, or not at all.");
  });
  test.each<[string, Readonly<Record<string, Made>>]>([
    ["a range beyond the block", range("PointRange", [1, 1, 1], [5, 3, 1])],
    ["a range through all of it", range("PointRange", [1, 1, 1], [4, 3, 3])],
    ["a range turned round", range("PointRange", [1, 3, 1], [4, 1, 1])],
    ["two indices of three", range("PointRange", [1, 1], [4, 1])],
  ])("of a block, %s is no part", async (_what, children) => {
    const grid = await readGridFile(await cgnsFile({ Base: base({ Zone: structured({ odd: condition(children) }) }) }));
    expect(grid.boundaries).toBeUndefined();
    expect(grid.notes).toContain("Where odd lies is said in a way that is not read, or not at all.");
  });
  test("whatever numbers conditions have, the cells are read and the parts lie on points there are", async () => {
    const random = randomFrom(29);
    const some = () => Array.from({ length: 1 + Math.floor(4 * random()) }, () => Math.floor(60 * random()) - 5);
    let read = 0;
    for (let n = 0; n < 60; n++) {
      const odd = { ...list(random() < 0.5 ? "PointList" : "ElementList", some()), ...at(random() < 0.5 ? "FaceCenter" : "Vertex") };
      const [from = 0, to = 0] = some();
      const grid = await readGridFile(await unstructured({ odd: condition(odd), reach: condition(range("PointRange", [from], [to])) }));
      within(grid);
      read += grid.boundaries?.some((b) => b.name === "odd" || b.name === "reach") ? 1 : 0;
      expect(grid.kinds.length).toBe(12);
    }
    expect(read).toBeGreaterThan(5);
    expect(read).toBeLessThan(55);
  });
  test("300 spoilt files give parts of their outside, or are refused in a sentence", async () => {
    const sound = await unstructured({
      floor: condition({ ...list("PointList", numbers(13, 6)), ...at("FaceCenter") }),
      inlet: condition(range("ElementRange", [19], [22])),
      roof: condition(list("PointList", numbers(25, 12))),
    });
    const random = randomFrom(23);
    let refused = 0;
    for (let n = 0; n < 300; n++) {
      const spoilt = sound.slice();
      for (let k = 0; k < 1 + 6 * random(); k++) spoilt[Math.floor(random() * spoilt.length)] = Math.floor(256 * random());
      try {
        within(await readGridFile(spoilt));
      } catch (error) {
        expect(error).toBeInstanceOf(GridFileError);
        // One sentence or two, and nothing of the package's own list of calls.
        expect((error as Error).message).toMatch(/^[^\n]{20,400}$/);
        expect((error as Error).message).not.toMatch(/HDF5-DIAG|\.c line/);
        refused++;
      }
    }
    expect(refused).toBeGreaterThan(10);
    // Nothing of them is left behind in the package that reads: the next sound file is whole.
    expect((await pieces(sound)).of).toMatchObject({ floor: [6, 6], inlet: [4, 4] });
  });
});
