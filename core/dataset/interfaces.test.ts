import { describe, expect, test } from "vitest";
import { joined } from "../formats/vtk/readGrid.ts";
import type { Grid } from "./grid.ts";
import { gridFaces } from "./gridFaces.ts";
import { gridInterfaces } from "./interfaces.ts";
import { hexahedra } from "./made.ts";
import type { Vector } from "./vector.ts";

/** A cube of side 1 from a corner, n cells a side. */
const cube = (n: number, low: Vector, place: (x: Vector) => Vector = (x) => x): Grid =>
  hexahedra([n, n, n], (i, j, k) => place([low[0] + i / n, low[1] + j / n, low[2] + k / n]));
const found = (...grids: readonly Grid[]) => {
  const all = joined(grids);
  return gridInterfaces(all, gridFaces(all));
};

describe("faces that lie on others without being one with them", () => {
  test("of two meshes of other cells that meet whole nothing is open", () => {
    const made = found(cube(4, [0, 0, 0]), cube(3, [1, 0, 0]));
    expect(made).toMatchObject({ faces: 16 + 9, open: 0 });
    expect(made?.area).toBeCloseTo(2, 12);
  });
  test("shifted by a quarter a quarter of each side faces nothing, of the faces that meet at all", () => {
    const made = found(cube(2, [0, 0, 0]), cube(4, [1, 0.25, 0]));
    // All four of the coarse side, of the fine one the three rows that meet it.
    expect(made?.faces).toBe(4 + 12);
    expect(made?.area).toBeCloseTo(1 + 0.75, 12);
    expect(made?.open).toBeCloseTo(0.25, 12);
    expect(made?.at[1]).toBeCloseTo(0.25, 12);
  });
  test("over a curved interface the chords may leave a gap", () => {
    const bent = ([x, y, z]: Vector): Vector => [x + 0.1 * Math.sin(Math.PI * y), y, z];
    const made = found(cube(6, [0, 0, 0], bent), cube(8, [1, 0, 0], bent));
    expect(made?.faces).toBe(36 + 64);
    expect((made?.open ?? 1) / (made?.area ?? 1)).toBeLessThan(0.01);
  });
  test("one mesh, meshes apart, and faces that look the same way have none", () => {
    expect(found(cube(3, [0, 0, 0]))).toBeUndefined();
    expect(found(cube(3, [0, 0, 0]), cube(3, [1.2, 0, 0]))).toBeUndefined();
    expect(found(cube(3, [0, 0, 0]), cube(2, [0, 0, 1.0001]))).toMatchObject({ faces: 9 + 4 });
  });
});
