import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { shapedRectangle } from "../../mesh/shaped.ts";
import type { CellShape } from "../../mesh/shapes.ts";
import { faceGeometry } from "../discrete/flowGeometry.ts";
import { GasSpace } from "./gasSpace.ts";
import { RimSlopes, rimOf } from "./rimSlopes.ts";

const uniform = { kind: "uniform" } as const;
const box = (shape: CellShape, heightM = 1, ny = 6, periodicX = false) =>
  shapedRectangle({ lengthM: 2, heightM, nx: 8, ny, gradingX: uniform, gradingY: uniform, periodicX }, shape);

describe("slopes along a boundary", () => {
  test.each([
    ["rows", 1],
    ["smooth", 1],
    ["jittered", 1],
    ["triangles", 1],
    ["hexagons", 1],
    ["rows", 0.002],
  ] as const)("are exact of every polynomial of second degree: %s, %s high", (shape, heightM) => {
    const mesh = box(shape, heightM);
    const g = faceGeometry(mesh);
    const rim = rimOf(g);
    const [onFaces, inCells] = [RimSlopes.onFaces(g), RimSlopes.inCells(g)];
    const number = fc.double({ min: -3, max: 3, noNaN: true });
    fc.assert(
      fc.property(fc.tuple(number, number, number, number, number, number), ([a, b, c, d, e, f]) => {
        // y in heights, so that a flat box asks as much of the slope across as of that along.
        const at = (x: number, y: number) => a + b * x + c * (y / heightM) + d * x * x + e * x * (y / heightM) + f * (y / heightM) ** 2;
        const slopeAt = (x: number, y: number) => [b + 2 * d * x + (e * y) / heightM, (c + e * x + (2 * f * y) / heightM) / heightM];
        const of = (cell: number) => at(mesh.centroidM[2 * cell], mesh.centroidM[2 * cell + 1]);
        const check = (slopes: RimSlopes, place: number, [x, y]: readonly number[]) => {
          expect(slopes.reaches(place)).toBe(true);
          const [sx, sy] = slopes.slope(place, at(x, y), of);
          const [ex, ey] = slopeAt(x, y);
          expect(sx).toBeCloseTo(ex, 8);
          expect(sy * heightM).toBeCloseTo(ey * heightM, 8);
        };
        for (let place = 0; place < g.faces - g.joins; place++) {
          const face = g.joins + place;
          check(onFaces, place, [mesh.faceCentreM[2 * face], mesh.faceCentreM[2 * face + 1]]);
        }
        for (const place of rim) {
          const face = g.joins + place;
          const c = g.owner[face];
          const [x, y] = mesh.centroidM.slice(2 * c, 2 * c + 2);
          check(inCells, place, [x, y]);
          // From the cell by its slope to the face, and by the bend onto the polynomial.
          const [sx, sy] = slopeAt(x, y);
          const reached = of(c) + sx * g.dx[face] + sy * g.dy[face] + inCells.bend(place, of(c), of);
          expect(reached).toBeCloseTo(at(mesh.faceCentreM[2 * face], mesh.faceCentreM[2 * face + 1]), 8);
        }
      }),
      { numRuns: 20 },
    );
  });

  test("go on past joined ends, where x begins anew", () => {
    const mesh = box("rows", 1, 6, true);
    const g = faceGeometry(mesh);
    const wave = (x: number) => Math.sin(Math.PI * x);
    const onFaces = RimSlopes.onFaces(g);
    for (let place = 0; place < g.faces - g.joins; place++) {
      const x = mesh.faceCentreM[2 * (g.joins + place)];
      const [sx] = onFaces.slope(place, wave(x), (cell) => wave(mesh.centroidM[2 * cell]));
      expect(Math.abs(sx - Math.PI * Math.cos(Math.PI * x))).toBeLessThan(0.3 * Math.PI);
    }
  });

  test("are refused where cells lie in too few rows", () => {
    const g = faceGeometry(shapedRectangle({ lengthM: 1, heightM: 1, nx: 2, ny: 2, gradingX: uniform, gradingY: uniform, periodicX: false }, "rows"));
    const onFaces = RimSlopes.onFaces(g);
    for (let place = 0; place < g.faces - g.joins; place++) expect(onFaces.reaches(place)).toBe(false);
  });
});

test("a gas between a wall and one that moves: nothing is left of the exact solution, neither of the shear nor of the heat it makes", () => {
  const gas = { gamma: 1.4, gasConstant: 287, viscosityPaS: 2, prandtl: 0.7 };
  const [speed, held, pressurePa] = [250, 290, 101_325];
  const heatCapacity = (gas.gamma * gas.gasConstant) / (gas.gamma - 1);
  // White, Viscous Fluid Flow, section 3-2.1, with a viscosity that does not depend on temperature.
  const state = (_: number, y: number) => {
    const temperature = held + ((gas.prandtl * speed ** 2) / (2 * heatCapacity)) * y * (1 - y);
    return [pressurePa / (gas.gasConstant * temperature), speed * y, 0, pressurePa] as const;
  };
  const space = new GasSpace(
    box("rows", 1, 6, true),
    { gas, boundaries: { bottom: { kind: "wall", temperatureK: held }, top: { kind: "state", state: state(0, 1) } }, initial: state },
    "contact",
    "none",
  );
  space.evaluate();
  const shear = (gas.viscosityPaS * speed) / 1;
  const area = 2 / 8;
  for (let c = 0; c < 48; c++) {
    expect(Math.abs(space.residual[4 * c]) / (1.2 * speed * area)).toBeLessThan(1e-12);
    expect(Math.abs(space.residual[4 * c + 1]) / (shear * area)).toBeLessThan(1e-10);
    expect(Math.abs(space.residual[4 * c + 3]) / (shear * speed * area)).toBeLessThan(1e-10);
  }
  // Half of the heat leaves through each side.
  const out = Array.from({ length: space.out.length / 4 }, (_, b) => space.out[4 * b + 3]);
  expect(out.reduce((s, q) => s + q, 0) / (shear * speed * 2)).toBeCloseTo(0, 9);
  expect(out.filter((q) => q > 0).reduce((s, q) => s + q, 0) / (0.5 * shear * speed * 2)).toBeCloseTo(1, 9);
});
