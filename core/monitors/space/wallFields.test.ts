import { describe, expect, test } from "vitest";
import type { Grid } from "../../dataset/grid.ts";
import { hexahedra } from "../../dataset/made.ts";
import { cellMiddles } from "../../dataset/pointValues.ts";
import { SlopeWork } from "../../dataset/slopes.ts";
import { asTetrahedra } from "../../dataset/tetrahedraForTests.ts";
import type { Vector } from "../../dataset/vector.ts";
import type { SpaceArray, SpaceSaid } from "./said.ts";
import { spaceField } from "./spaceFields.ts";

const [MU, RHO, H, PEAK] = [1.74e-5, 1.274, 0.02, 0.3];
/** turns the strip out of every plane of the axes */
const [C, S] = [Math.cos(0.6), Math.sin(0.6)];
const turned = ([x, y, z]: Vector): Vector => [C * x - S * z, y, S * x + C * z];
const back = ([x, y, z]: Vector): Vector => [C * x + S * z, y, -S * x + C * z];

/** A strip of height H between two plates, in millimetres, its layers growing from the lower plate, askew in space; with a velocity of each place in the strip, in metres. */
function strip(on: "points" | "cells", speed: (z: number) => number, shape: (grid: Grid) => Grid = (g) => g): Grid {
  const plain = shape(hexahedra([4, 3, 8], (i, j, k) => turned([5 * i, 6 * j, 1000 * H * (k / 8) ** 1.5])));
  const places = on === "points" ? plain.points : cellMiddles(plain);
  const values = new Float64Array(places.length);
  for (let q = 0; q < places.length; q += 3) {
    const [, , z] = back([places[q] / 1000, places[q + 1] / 1000, places[q + 2] / 1000]);
    values.set(turned([speed(z), 0, 0]), q);
  }
  const array = { name: "U", components: 3, values };
  return { ...plain, ...(on === "points" ? { onPoints: [array] } : { onCells: [array] }) };
}

const parabola = (z: number) => (4 * PEAK * z * (H - z)) / H ** 2;
const said = (on: "points" | "cells", more: Partial<SpaceSaid> = {}): SpaceSaid => {
  const arrays: SpaceArray[] = [{ name: "U", on, role: "velocity", unit: "m/s" }];
  return { unitM: 0.001, densityKgM3: RHO, viscosityPaS: MU, arrays, ...more };
};
const make = (grid: Grid, words: SpaceSaid, kind: "wallShear" | "yPlus") => spaceField(new SlopeWork(grid), words, { kind });
/** a cell on a plate, away from the sides: column 1, 1 of 4 by 3 */
const [LOWER, UPPER, WITHIN] = [5, 5 + 12 * 7, 5 + 12 * 3];
/** shear of the parabola at either plate */
const SHEAR = (4 * MU * PEAK) / H;

describe.each(["points", "cells"] as const)("walls of a strip with a parabola, values on %s", (on) => {
  test("bear what the parabola says, along the flow, whatever the layers' heights", () => {
    const { array, on: where, unit, made } = make(strip(on, parabola), said(on), "wallShear");
    expect([where, unit, array.name]).toEqual(["cells", "Pa", "wall shear stress, Pa"]);
    for (const c of [LOWER, UPPER]) {
      const along = back([array.values[3 * c], array.values[3 * c + 1], array.values[3 * c + 2]]);
      expect(along[0] / SHEAR).toBeCloseTo(1, 9);
      expect(Math.abs(along[1]) + Math.abs(along[2])).toBeLessThan(1e-9 * SHEAR);
    }
    expect(array.values[3 * WITHIN]).toBeNaN();
    expect(made).toContain("at all of the faces");
    expect(made).toContain("with a wall function it comes out too small");
  });
  test("the first cell's middle lies at the wall units the friction speed gives", () => {
    const { array, unit, made } = make(strip(on, parabola), said(on), "yPlus");
    const first = H * (1 / 8) ** 1.5;
    expect(array.values[LOWER]).toBeCloseTo(((first / 2) * Math.sqrt(SHEAR / RHO) * RHO) / MU, 9);
    expect(unit).toBe("1");
    expect(made).toMatch(/^y\+: the distance/);
  });
  test("in tetrahedra a straight line stands instead, exact of a straight one, and that is said", () => {
    const { array, made } = make(
      strip(on, (z) => (PEAK * z) / H, asTetrahedra),
      said(on),
      "wallShear",
    );
    expect(made).toMatch(on === "cells" ? /at 0 of \d+ of the faces, else a straight line/ : /at 0 of \d+/);
    // On points the upper plate moves and is no wall; of the lower one every tetrahedron that lies on it with a face.
    const along = Array.from({ length: array.values.length / 3 }, (_, c) =>
      back([array.values[3 * c], array.values[3 * c + 1], array.values[3 * c + 2]]),
    );
    const lower =
      on === "points" ? along.filter((v) => Number.isFinite(v[0])) : along.slice(6 * LOWER, 6 * LOWER + 6).filter((v) => Number.isFinite(v[0]));
    expect(lower.length).toBeGreaterThan(1);
    for (const v of lower) expect(v[0]).toBeCloseTo((MU * PEAK) / H, 12);
  });
});

describe("which faces are walls", () => {
  const grid = strip("cells", parabola);
  const layer = 5 * 4;
  const plate = (name: string, first: number) => ({ name, points: Int32Array.from({ length: layer }, (_, q) => first + q) });
  const named: Grid = { ...grid, boundaries: [plate("floor", 0), plate("ceiling", 8 * layer)] };
  test("is said where the file has names, and only those have a shear", () => {
    const { array, made } = make(named, said("cells", { walls: ["ceiling"] }), "wallShear");
    expect(Array.from(array.values.keys()).filter((k) => k % 3 === 0 && Number.isFinite(array.values[k]))).toHaveLength(12);
    expect(Number.isFinite(array.values[3 * UPPER])).toBe(true);
    expect(made).toContain("at ceiling;");
  });
  test("is taken for all of the outside where cells have values and nothing is named, which is said", () => {
    const { made, array } = make(grid, said("cells"), "yPlus");
    expect(made).toContain("all of the outside taken for walls");
    expect(Array.from(array.values).filter(Number.isFinite)).toHaveLength(4 * 3 * 8 - 2 * 1 * 6);
  });
  test.each([
    ["nobody says which of the names", named, said("cells"), "which of its boundaries are walls: floor, ceiling"],
    ["a name is not there", named, said("cells", { walls: ["roof"] }), 'no boundary "roof"; there are floor, ceiling'],
    ["nothing stands still", strip("points", () => 1), said("points"), "no face of the outside stands still"],
    ["no viscosity is said", grid, said("cells", { viscosityPaS: undefined }), "say the viscosity"],
    ["a viscosity is none", grid, said("cells", { viscosityPaS: -1 }), "say the viscosity"],
  ])("is refused where %s", (_name, of, words, sentence) => {
    expect(() => make(of, words, "wallShear")).toThrow(sentence);
  });
  test("a density on points counts as the mean of each cell's corners, one that is missing is asked for", () => {
    const n = grid.points.length / 3;
    const dense: Grid = { ...grid, onPoints: [{ name: "rho", components: 1, values: new Float64Array(n).fill(4 * RHO) }] };
    const arrays = [...said("cells").arrays, { name: "rho", on: "points", role: "density", unit: "kg/m^3" } as const];
    const plain = make(grid, said("cells"), "yPlus").array.values[LOWER];
    expect(make(dense, said("cells", { arrays }), "yPlus").array.values[LOWER]).toBeCloseTo(2 * plain, 9);
    expect(() => make(grid, said("cells", { densityKgM3: undefined }), "yPlus")).toThrow("say the density");
  });
});
