import { describe, expect, test } from "vitest";
import { gridFaces } from "../../dataset/gridFaces.ts";
import { gridQuality } from "../../dataset/gridQuality.ts";
import { randomFrom } from "../../numeric/random.ts";
import { readGridFile, readPlainGrid } from "../surface/readAny.ts";
import { GridFileError } from "../vtk/scan.ts";
import { base, CUBE_FACES, cgnsFile, coordinates, type Made, section, solution, zone } from "./cgnsForTests.ts";
import { hdf5IsSpent } from "./hdf5.ts";

type Place = readonly [number, number, number];
/** Points of a block, the first index fastest. */
const block = (ni: number, nj: number, nk: number, low = 0): Place[] =>
  Array.from({ length: ni * nj * nk }, (_, q) => [low + (q % ni), Math.floor(q / ni) % nj, Math.floor(q / (ni * nj))] as const);

/** One of each kind of element, apart from one another; 12 cells in all, each of volume known. */
const CUBE: Place[] = [
  [0, 0, 0],
  [1, 0, 0],
  [1, 1, 0],
  [0, 1, 0],
  [0, 0, 1],
  [1, 0, 1],
  [1, 1, 1],
  [0, 1, 1],
];
const apart = (x: number, places: readonly Place[]): Place[] => places.map(([a, b, c]) => [a + x, b, c]);
const TETRAHEDRON = [0, 1, 3, 4].map((k) => CUBE[k]);
const PYRAMID: Place[] = [...CUBE.slice(0, 4), [0.5, 0.5, 1]];
const WEDGE = [0, 1, 3, 4, 5, 7].map((k) => CUBE[k]);
const numbers = (from: number, count: number) => Array.from({ length: count }, (_, k) => from + k);

const everyKind = (): Promise<Uint8Array> => {
  const points = [...apart(0, CUBE), ...apart(3, TETRAHEDRON), ...apart(6, PYRAMID), ...apart(9, WEDGE)];
  const mixed = [10, ...numbers(9, 4), 12, ...numbers(13, 5), 14, ...numbers(18, 6)];
  return cgnsFile({
    Base: base({
      Zone: zone("Unstructured", [23, 4, 0], {
        GridCoordinates: coordinates(points),
        Hexa: section(17, 1, 1, numbers(1, 8)),
        Rest: section(20, 2, 3, mixed, [0, 5, 11, 18]),
        Wall: section(7, 5, 1, [1, 4, 3, 2]),
        ZoneBC: { label: "ZoneBC_t", children: { floor: { label: "BC_t", data: "BCWall" } } },
        Centre: solution("CellCenter", { Pressure: [1, 2, 3, 4], VelocityX: [1, 1, 1, 1], VelocityY: [2, 2, 2, 2], VelocityZ: [3, 3, 3, 4] }),
        Nodes: solution("Vertex", { Temperature: numbers(300, 23) }),
        Faces: solution("FaceCenter", { Flux: [1] }),
        Rind: solution("CellCenter", { Density: [1, 1, 1, 1, 1, 1] }),
      }),
    }),
  });
};

describe("a file of the CGNS standard", () => {
  test("gives cells of every kind, the right way out, with what is known on them", async () => {
    const grid = await readGridFile(await everyKind());
    expect([...grid.kinds]).toEqual([12, 10, 14, 13]);
    const quality = gridQuality(grid);
    expect([quality.inverted, quality.open]).toEqual([[], []]);
    expect(quality.volume).toBeCloseTo(1 + 1 / 6 + 1 / 3 + 1 / 2, 12);
    expect(grid.onCells.map((a) => [a.name, a.components])).toEqual([
      ["Pressure", 1],
      ["Velocity", 3],
    ]);
    expect([...grid.onCells[1].values.slice(-3)]).toEqual([1, 2, 4]);
    expect(grid.onPoints[0].values[22]).toBe(322);
    expect(grid.notes).toEqual([
      "Sections on boundaries are no part of the cells: Wall (1).",
      'Boundary conditions of zone "Zone": floor (BCWall).',
      "Where floor lies is said in a way that is not read, or not at all.",
      "Values of Faces lie at FaceCenter, which is not read; they were left out.",
      "Density of Rind has 6 values where 4 are due and was left out.",
    ]);
  });
  test("of two structured zones they are put together where they meet", async () => {
    const one = (low: number) =>
      zone("Structured", [4, 3, 2, 3, 2, 1, 0, 0, 0], {
        GridCoordinates: coordinates(block(4, 3, 2, low), [4, 3, 2]),
        Sol: solution("CellCenter", { Pressure: numbers(low, 6) }, [3, 2, 1]),
      });
    const grid = await readGridFile(await cgnsFile({ Base: base({ left: one(0), right: one(3) }) }));
    expect(grid.kinds.length).toBe(12);
    expect([...grid.onCells[0].values]).toEqual([...numbers(0, 6), ...numbers(3, 6)]);
    expect(gridFaces(grid).neighbour.filter((c) => c < 0)).toHaveLength(2 * (6 * 2 + 6 + 2));
    expect(gridQuality(grid).volume).toBeCloseTo(12, 12);
  });
  test("polyhedra come by their faces, numbers below nothing turn one round", async () => {
    const faces = [...CUBE_FACES, [9, 10, 11, 12], [2, 9, 12, 6], [9, 10, 3, 2], [10, 11, 7, 3], [11, 12, 6, 7]];
    const starts = faces.map((_, k) => 4 * k);
    const made = (old: boolean): Readonly<Record<string, Made>> => ({
      Faces: section(22, 1, 11, old ? faces.flatMap((f) => [f.length, ...f]) : faces.flat(), old ? undefined : [...starts, 44]),
      Cells: section(23, 12, 2, [...(old ? [6] : []), 1, 2, 3, 4, 5, 6, ...(old ? [6] : []), -4, 7, 8, 9, 10, 11], old ? undefined : [0, 6, 12]),
    });
    for (const old of [false, true]) {
      const points = [...CUBE, [2, 0, 0], [2, 1, 0], [2, 1, 1], [2, 0, 1]] as Place[];
      const file = await cgnsFile({ Base: base({ Z: zone("Unstructured", [12, 2, 0], { GridCoordinates: coordinates(points), ...made(old) }) }) });
      const grid = await readGridFile(file);
      expect([...grid.kinds]).toEqual([42, 42]);
      expect(gridFaces(grid).owner).toHaveLength(11);
      expect(grid.polyhedra.get(1)?.[0]).toEqual([5, 6, 2, 1]);
    }
  });
  test("in a plane are its surfaces; elements of higher order are taken by their corners", async () => {
    const nodes: Place[] = [
      [0, 0, 0],
      [2, 0, 0],
      [2, 2, 0],
      [0, 2, 0],
      [1, 0, 0],
      [2, 1, 0],
      [1, 2, 0],
      [0, 1, 0],
    ];
    const file = await cgnsFile({
      Base: base({ Z: zone("Unstructured", [8, 1, 0], { GridCoordinates: coordinates(nodes), E: section(8, 1, 1, numbers(1, 8)) }) }, [2, 2]),
    });
    const grid = await readGridFile(file);
    expect([[...grid.kinds], [...grid.corners]]).toEqual([[9], [0, 1, 2, 3]]);
    expect(grid.notes).toEqual(["Shown by their corners: quadrilateral of eight nodes."]);
  });
});

describe("what cannot be read ends in a sentence", () => {
  const cube = { GridCoordinates: coordinates(CUBE) };
  const of = (children: Readonly<Record<string, Made>>, size: readonly number[] = [8, 1, 0], type: "Structured" | "Unstructured" = "Unstructured") =>
    cgnsFile({ Base: base({ Zone: zone(type, size, children) }) });
  test.each<[string, () => Promise<Uint8Array>, string]>([
    ["no base", () => cgnsFile({}), "no base: it is HDF5, but not of the CGNS standard"],
    ["no zone", () => cgnsFile({ Base: base({}) }), 'The base "Base" has no zone'],
    ["no coordinates", () => of({ E: section(17, 1, 1, numbers(1, 8)) }), "has no coordinates"],
    ["no elements", () => of(cube), "has no elements of 3 dimensions"],
    ["a vertex that is none", () => of({ ...cube, E: section(17, 1, 1, numbers(2, 8)) }), 'Section "E" names vertex 9, and there are 8'],
    ["a kind that is none", () => of({ ...cube, E: section(56, 1, 1, numbers(1, 8)) }), "elements of kind 56, which is not read"],
    ["a list that ends", () => of({ ...cube, E: section(17, 1, 2, numbers(1, 8)) }), "ends before its element 2"],
    ["more elements than numbers", () => of({ ...cube, E: section(17, 1, 99, [1, 2]) }), "names 99 elements and has 2 numbers"],
    [
      "a face that is not there",
      () => of({ ...cube, F: section(22, 1, 1, [1, 2, 3], [0, 3]), C: section(23, 2, 1, [7], [0, 1]) }),
      "names face 7, which there is not",
    ],
    ["offsets beyond the list", () => of({ ...cube, F: section(22, 1, 1, [1, 2, 3], [0, 30]) }), "does not lie in its list"],
    ["a size that is none", () => of(cube, [-8, 1, 0]), 'The size of zone "Zone" is none'],
    [
      "other counts",
      () => of({ GridCoordinates: coordinates(CUBE.slice(1)), E: section(17, 1, 1, numbers(1, 8)) }),
      'CoordinateX of zone "Zone" has 7 values where 8 are due',
    ],
    ["a block without cells", () => of(cube, [8, 1, 1, 7, 0, 0, 0, 0, 0], "Structured"), "A block of 8 by 1 by 1 vertices has no cells"],
  ])("%s", async (_name, file, sentence) => {
    const bytes = await file();
    await expect(readGridFile(bytes)).rejects.toThrow(GridFileError);
    await expect(readGridFile(bytes)).rejects.toThrow(sentence);
  });
  test("labels of changing length, which lie in a heap that may lead nowhere, are refused", async () => {
    await expect(readGridFile(await cgnsFile({ Base: { label: "CGNSBase_t", loose: true, data: Int32Array.of(3, 3) } }))).rejects.toThrow(
      'The label of node "Base" is not of 33 letters',
    );
  });
  test("the standard's older form is named, and other files go their own way", () => {
    expect(() => readPlainGrid(new TextEncoder().encode("@(#)ADF Database Version B02012>"))).toThrow("older form of the CGNS standard");
  });
  test("300 spoilt files are read or refused in a sentence", async () => {
    const sound = await everyKind();
    const random = randomFrom(17);
    let refused = 0;
    for (let n = 0; n < 300; n++) {
      const spoilt = sound.slice(0, random() < 0.2 ? Math.floor(random() * sound.length) : sound.length);
      for (let k = 0; k < 1 + 4 * random(); k++) spoilt[Math.floor(random() * spoilt.length)] = Math.floor(256 * random());
      try {
        await readGridFile(spoilt);
      } catch (error) {
        expect(error).toBeInstanceOf(GridFileError);
        refused++;
      }
    }
    expect(refused).toBeGreaterThan(20);
  });
  test("with hundreds of damaged files the package is spent, but not with sound ones", async () => {
    const sound = await everyKind();
    const before = hdf5IsSpent();
    for (let n = 0; n < 250; n++) await readGridFile(sound);
    expect(hdf5IsSpent()).toBe(before);
    for (let n = 0; n < 200; n++) await expect(readGridFile(sound.subarray(0, 500))).rejects.toThrow(GridFileError);
    expect(hdf5IsSpent()).toBe(true);
    expect((await readGridFile(sound)).kinds.length).toBeGreaterThan(0);
  });
});
