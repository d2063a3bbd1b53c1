import { describe, expect, test } from "vitest";
import type { Grid } from "../dataset/grid.ts";
import { readVtkGrid } from "../formats/vtk/readGrid.ts";
import { everyKind, FileMaker } from "../formats/vtk/vtkForTests.ts";
import { writeVtkGrid } from "../formats/vtkGrid.ts";
import { shapedRectangle } from "../mesh/shaped.ts";
import { type ArrayWords, gridFields, guessRole, unitInName } from "./gridFields.ts";
import { NotPlane, onMeshCells, planeGrid } from "./planeGrid.ts";

const uniform = { kind: "uniform" } as const;
const mesh = shapedRectangle({ lengthM: 2, heightM: 1, nx: 12, ny: 6, gradingX: uniform, gradingY: uniform, periodicX: false }, "honeycomb" as never);
const values = Float64Array.from({ length: mesh.cellCount }, (_, c) => mesh.centroidM[2 * c] + 10 * mesh.centroidM[2 * c + 1]);
const flat = readVtkGrid(new TextEncoder().encode(writeVtkGrid(mesh, [{ name: "T, K", values }])));

/** The plane grid with its points put where another axis is across. */
const turned = (g: Grid, to: readonly [number, number, number]): Grid => {
  const points = new Float64Array(g.points.length);
  for (let q = 0; q < points.length / 3; q++) for (let d = 0; d < 3; d++) points[3 * q + to[d]] = g.points[3 * q + d];
  return { ...g, points };
};

/** nx times ny blocks of one layer, as codes in space write plane cases. */
function layer(thickness: number, layers = 1): Grid {
  const m = new FileMaker({ format: "ascii" });
  const points = [0, 1, 2].flatMap((k) => (k <= layers ? [0, 1, 2].flatMap((j) => [0, 1, 2, 3].flatMap((i) => [i, j, k * thickness])) : []));
  const body = `<Piece Extent="0 3 0 2 0 ${layers}"><CellData>${m.array(
    "U",
    "Float64",
    Array.from({ length: 18 * layers }, (_, k) => k),
    3,
  )}${m.array(
    "p",
    "Float64",
    Array.from({ length: 6 * layers }, (_, k) => k),
  )}</CellData><PointData>${m.array(
    "q",
    "Float64",
    Array.from({ length: points.length / 3 }, (_, k) => points[3 * k]),
  )}</PointData><Points>${m.array("P", "Float64", points, 3)}</Points></Piece>`;
  return readVtkGrid(m.file("StructuredGrid", body));
}

describe("a plane mesh of a grid", () => {
  test("a mesh that was written comes back with its areas, neighbours and values", () => {
    const plane = planeGrid(flat);
    expect(plane.notes).toEqual([]);
    expect(plane.mesh.cellCount).toBe(mesh.cellCount);
    expect(plane.mesh.joinCount).toBe(mesh.joinCount);
    plane.mesh.volumeM2.forEach((v, c) => {
      expect(v).toBeCloseTo(mesh.volumeM2[c], 14);
    });
    expect(onMeshCells(plane, flat.onCells[0], false)).toEqual(values);
  });
  test("a plane that lies askew keeps its areas; its y leans as z does, and a velocity is told along both", () => {
    // Turned about z by 30 degrees after it was put upright: across (sin 30, -cos 30, 0).
    const [c, s] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)];
    const points = new Float64Array(flat.points.length);
    for (let q = 0; q < points.length; q += 3) points.set([c * flat.points[q], s * flat.points[q], flat.points[q + 1]], q);
    const velocity = Float64Array.from({ length: 3 * flat.kinds.length }, (_, k) => [2 * c - 5 * s, 2 * s + 5 * c, 7][k % 3]);
    const grid: Grid = { ...flat, points, onCells: [{ name: "U", components: 3, values: velocity }] };
    const plane = planeGrid(grid);
    const area = (m: typeof mesh) => m.volumeM2.reduce((sum, v) => sum + v, 0);
    expect(area(plane.mesh)).toBeCloseTo(area(mesh), 12);
    expect(plane.mesh.centroidM[20]).toBeCloseTo(mesh.centroidM[20], 12);
    expect(plane.mesh.centroidM[21]).toBeCloseTo(mesh.centroidM[21], 12);
    expect(plane.notes).toEqual(["The grid lies askew: the x and y of the fields are its directions (0.866, 0.5, 0) and (0, 0, 1)."]);
    const { fields } = gridFields(grid, plane, [{ name: "U", on: "cells", role: "velocity", unit: "cm/s" }], 1);
    expect(fields[0].values[3]).toBeCloseTo(0.02, 14);
    expect(fields[1].values[3]).toBeCloseTo(0.07, 14);
  });
  test.each([
    [[0, 2, 1] as const, [0, 2], "lies across y: its x and z are the x and y of the fields"],
    [[1, 2, 0] as const, [1, 2], "lies across x: its y and z"],
  ])("put along other axes it is the same mesh, and says so", (to, axes, note) => {
    const plane = planeGrid(turned(flat, to));
    expect(plane.along.map((v) => v.indexOf(1))).toEqual(axes);
    expect(plane.notes.join()).toContain(note);
    expect(plane.mesh.volumeM2.reduce((s, v) => s + v, 0)).toBeCloseTo(2, 12);
  });
  test("turned the wrong way round, every cell is turned back; millimetres are metres", () => {
    const mirrored = { ...flat, points: flat.points.map((v, i) => (i % 3 === 0 ? -1000 * v : 1000 * v)) };
    const plane = planeGrid(mirrored, 1e-3);
    expect(plane.mesh.volumeM2.every((v) => v > 0)).toBe(true);
    expect(plane.mesh.volumeM2.reduce((s, v) => s + v, 0)).toBeCloseTo(2, 12);
  });
  test("one layer of blocks in space is its lower side; values on points are means of that side's corners", () => {
    const g = layer(0.1);
    const plane = planeGrid(g);
    expect(plane.mesh.cellCount).toBe(6);
    expect(plane.mesh.joinCount).toBe(7);
    expect(plane.notes).toEqual(["The grid is one layer of cells along z; its side at 0 is taken for the plane."]);
    expect([...onMeshCells(plane, g.onPoints[0], true)]).toEqual([0.5, 1.5, 2.5, 0.5, 1.5, 2.5]);
  });
  test("points that stand twice, as between pieces, are one: cells meet across them", () => {
    const m = new FileMaker({ format: "ascii" });
    const piece = (x: number) =>
      `<Piece NumberOfPoints="4" NumberOfCells="1"><Points>${m.array("P", "Float64", [x, 0, 0, x + 1, 0, 0, x + 1, 1, 0, x, 1, 0], 3)}</Points><Cells>${m.array("connectivity", "Int32", [0, 1, 2, 3])}${m.array("offsets", "Int32", [4])}${m.array("types", "UInt8", [9])}</Cells></Piece>`;
    const plane = planeGrid(readVtkGrid(m.file("UnstructuredGrid", piece(0) + piece(1))));
    expect([plane.mesh.cellCount, plane.mesh.joinCount, plane.mesh.faceCount]).toEqual([2, 1, 7]);
  });
  test.each<[string, Grid, string]>([
    ["two layers", layer(0.1, 2), "lies in space, 12 cells with more than one layer"],
    ["cells in every direction", readVtkGrid(everyKind({ format: "ascii" })), "lies in space"],
    ["a bent surface", { ...flat, points: flat.points.map((v, i) => (i % 3 === 2 ? flat.points[i - 2] ** 2 : v)) }, "The surface is bent"],
    ["one place", { ...flat, points: new Float64Array(flat.points.length) }, "lie in one place"],
  ])("%s: refused with a sentence", (_name, grid, sentence) => {
    expect(() => planeGrid(grid)).toThrow(NotPlane);
    expect(() => planeGrid(grid)).toThrow(sentence);
  });
});

describe("fields of its arrays", () => {
  const g = layer(0.1);
  const plane = planeGrid(g);
  const words = (change: Partial<ArrayWords> = {}): ArrayWords => ({ name: "p", on: "cells", role: "pressure", unit: "Pa", ...change });
  test("a velocity becomes its two components in the plane, a pressure over density a pressure, with a note", () => {
    const { fields, notes } = gridFields(g, plane, [words({ name: "U", role: "velocity", unit: "cm/s" }), words({ unit: "m^2/s^2" })], 1.2);
    expect(fields.map((f) => [f.name, f.unit])).toEqual([
      ["u", "m/s"],
      ["v", "m/s"],
      ["p", "Pa"],
    ]);
    expect([...fields[1].values].map((v) => Math.round(1e9 * v) / 1e9)).toEqual([0.01, 0.04, 0.07, 0.1, 0.13, 0.16]);
    expect(fields[2].values[5]).toBeCloseTo(6, 12);
    expect(notes).toEqual(["p is pressure over density; it was multiplied by the density of the case, 1.2 kg/m^3."]);
  });
  test("degrees are degrees, not differences; a field of its own keeps name and unit", () => {
    const { fields, notes } = gridFields(
      g,
      plane,
      [words({ role: "temperature", unit: "degC" }), words({ name: "q", on: "points", role: "other", unit: "W" })],
      1,
    );
    expect(fields[0].values[4]).toBeCloseTo(277.15, 10);
    expect([fields[1].name, fields[1].unit]).toEqual(["q", "W"]);
    expect(notes).toEqual(["q lies on points: each cell has the mean of its corners."]);
  });
  test.each<[string, ArrayWords[], string]>([
    ["no such array", [words({ name: "w" })], "w: the file has no such array on its cells."],
    ["another unit", [words({ unit: "kg" })], 'p: "kg" cannot be turned into Pa.'],
    ["no unit", [words({ unit: " " })], "p: say its unit"],
    ["too many components", [words({ name: "U" })], "U: it has 3 components; a pressure has one."],
    ["too few", [words({ role: "velocity", unit: "m/s" })], "p: a velocity has two components or three."],
    ["twice the same", [words(), words({ name: "q", on: "points", role: "pressure" })], "q: p comes from two arrays"],
    ["none", [words({ role: "ignore" })], "say what at least one array is"],
  ])("%s: refused", (_name, said, sentence) => {
    expect(() => gridFields(g, plane, said, 1)).toThrow(sentence);
  });
  test("roles are guessed by name and components, units by the end of a name", () => {
    const roles = [
      ["U", 3],
      ["velocity", 2],
      ["u", 1],
      ["p", 1],
      ["T (K)", 1],
      ["rho, kg/m^3", 1],
      ["k", 1],
    ].map(([name, components]) => guessRole({ name: name as string, components: components as number }));
    expect(roles).toEqual(["velocity", "velocity", "velocity-x", "pressure", "temperature", "density", "ignore"]);
    expect(["T (K)", "rho, kg/m^3", "p"].map(unitInName)).toEqual(["K", "kg/m^3", undefined]);
  });
});
