import { describe, expect, test } from "vitest";
import { rectangleMesh } from "../../mesh/rectangle.ts";
import { shapedRectangle } from "../../mesh/shaped.ts";
import { boundaryState, OUTLET } from "../discrete/boundaryConditions.ts";
import { flowGeometry } from "../discrete/flowGeometry.ts";
import { plainArena } from "../kernels/arena.ts";
import { momentumResiduals } from "./levelTerms.ts";
import { PressureEquation } from "./pressureEquation.ts";

const UNIFORM = { kind: "uniform" } as const;
const wall = { kind: "wall" } as const;
const size = { lengthM: 2, heightM: 1, nx: 8, ny: 6, gradingX: UNIFORM, gradingY: UNIFORM, periodicX: false };

function equationOn(mesh: ReturnType<typeof rectangleMesh> | ReturnType<typeof shapedRectangle>, right: object = wall) {
  const geometry = flowGeometry(mesh);
  const boundary = boundaryState(mesh, { left: wall, right, bottom: wall, top: wall } as Parameters<typeof boundaryState>[1]);
  const outlets = [...boundary.type.keys()].filter((b) => boundary.type[b] === OUTLET).map((b) => b + geometry.joins);
  return { geometry, boundary, outlets, equation: new PressureEquation(geometry, boundary, outlets) };
}

const outlet = { kind: "outlet", pressureOverDensity: 0 };
/** the same numbers everywhere, without a pattern */
const scattered = (i: number) => Math.sin(12.9898 * (i + 1)) * 43758.5453 - Math.floor(Math.sin(12.9898 * (i + 1)) * 43758.5453) - 0.5;

describe("slopes of a pressure", () => {
  test.each(["rows", "smooth", "hexagons", "jittered"] as const)("a linear one is exact on %s, up to the boundaries", (shape) => {
    const mesh = shapedRectangle(size, shape);
    const { geometry, boundary, equation } = equationOn(mesh);
    const p = Float64Array.from({ length: mesh.cellCount }, (_, c) => 3 * mesh.centroidM[2 * c] - 2 * mesh.centroidM[2 * c + 1] + 1);
    const out: [Float64Array, Float64Array] = [new Float64Array(p.length), new Float64Array(p.length)];
    equation.gradientOf(p, boundary.p, out);
    for (let c = 0; c < p.length; c++) expect([out[0][c], out[1][c]]).toEqual([expect.closeTo(3, 9), expect.closeTo(-2, 9)]);
    for (let f = geometry.joins; f < geometry.faces; f++)
      expect(boundary.p[f - geometry.joins]).toBeCloseTo(3 * mesh.faceCentreM[2 * f] - 2 * mesh.faceCentreM[2 * f + 1] + 1, 9);
  });
});

describe("fluxes", () => {
  const net = (geometry: ReturnType<typeof flowGeometry>, flux: Float64Array) => {
    const out = new Float64Array(geometry.cells);
    for (let f = 0; f < geometry.faces; f++) {
      out[geometry.owner[f]] += flux[f];
      if (f < geometry.joins) out[geometry.neighbour[f]] -= flux[f];
    }
    return out;
  };
  const largest = (x: Float64Array) => x.reduce((m, v) => Math.max(m, Math.abs(v)), 0);

  test("what goes into a cell and does not come out is counted once a cell", () => {
    const { geometry, equation } = equationOn(rectangleMesh(size));
    const flux = new Float64Array(geometry.faces);
    flux[3] = 0.5;
    expect(equation.imbalanceOf(flux)).toBeCloseTo(1, 15);
    flux[3] = -0.25;
    expect(equation.imbalanceOf(flux)).toBeCloseTo(0.5, 15);
  });

  const closedOn = (right: object) => {
    const { geometry, equation } = equationOn(rectangleMesh(size), right);
    equation.mobility.fill(1);
    const flux = Float64Array.from({ length: geometry.faces }, (_x, f) => (f < geometry.joins ? scattered(f) : 0));
    const open = largest(net(geometry, flux));
    const close = () => {
      equation.close(flux);
      return largest(net(geometry, flux)) / open;
    };
    return { left: close(), again: close };
  };
  test("are closed cell by cell to rounding where there is an outlet, and stay closed", () => {
    const found = closedOn(outlet);
    expect(found.left).toBeLessThan(1e-13);
    expect(found.again()).toBeLessThan(1e-13);
  });
  test("and so they are within walls all round", () => {
    const found = closedOn(wall);
    expect(found.left).toBeLessThan(1e-12);
    expect(found.again()).toBeLessThan(1e-12);
  });

  test("projecting takes the gradient of anything out of a flow at rest", () => {
    const mesh = rectangleMesh(size);
    const { geometry, equation } = equationOn(mesh, outlet);
    const fields = {
      u: new Float64Array(mesh.cellCount),
      v: new Float64Array(mesh.cellCount),
      p: new Float64Array(mesh.cellCount),
      flux: new Float64Array(geometry.faces),
    };
    const push = Float64Array.from({ length: mesh.cellCount }, (_, c) => scattered(c));
    for (let f = 0; f < geometry.joins; f++) fields.flux[f] = geometry.conductance[f] * (push[geometry.neighbour[f]] - push[geometry.owner[f]]);
    // Beyond the outlet the potential is nothing.
    for (let f = geometry.joins; f < geometry.faces; f++)
      if (mesh.boundaries[mesh.boundaryOfFace[f - geometry.joins]].name === "right")
        fields.flux[f] = -geometry.conductance[f] * push[geometry.owner[f]];
    equation.project(fields);
    expect(largest(fields.flux)).toBeLessThan(1e-9);
  });
});

describe("a correction", () => {
  test("brings the defect down at once, tells what it was, and leaves the pressure without a mean where none is given", () => {
    const mesh = rectangleMesh(size);
    const { geometry, equation } = equationOn(mesh);
    equation.mobility.fill(0.01);
    const fields = {
      u: new Float64Array(mesh.cellCount),
      v: new Float64Array(mesh.cellCount),
      p: new Float64Array(mesh.cellCount).fill(7),
      flux: new Float64Array(geometry.faces),
    };
    for (let f = 0; f < geometry.joins; f++) fields.flux[f] = scattered(f);
    const before = equation.imbalanceOf(fields.flux);
    expect(equation.correct(fields)).toBe(before);
    expect(equation.imbalanceOf(fields.flux)).toBeLessThan(0.1 * before);
    const mean = fields.p.reduce((s, p, c) => s + p * geometry.volume[c], 0);
    expect(Math.abs(mean)).toBeLessThan(1e-10);
    expect(largestOf(fields.u) + largestOf(fields.v)).toBeGreaterThan(0);
  });
  const largestOf = (x: Float64Array) => x.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
});

describe("residuals of momentum", () => {
  const { kernels } = plainArena();
  const of = (...x: number[]) => Float64Array.from(x);
  /** Two cells without neighbours, so that what is left of a row is what it was given less diagonal times value. */
  const measured = (u: Float64Array, v: Float64Array, left: readonly [Float64Array, Float64Array], d: number) => {
    const pattern = { size: 2, rowStart: Int32Array.of(0, 1, 2), column: Int32Array.of(0, 1), diagonal: Int32Array.of(0, 1) };
    const given = left.map((r, k) => r.map((x, i) => x + d * [u, v][k][i])) as [Float64Array, Float64Array];
    const sums = new Float64Array(3);
    const means = [u, v].map((q) => kernels.meanOf(q));
    const none = new Int32Array(0);
    kernels.residualPair({ ...pattern, ownerEntry: none, neighbourEntry: none }, of(d, d), [u, v], given, means[0], means[1], of(0, 0), sums);
    return momentumResiduals(sums);
  };
  test("both components share the scale of what moves: their distance from the mean, by the diagonal", () => {
    // Means 2 and 0: 3 * |1 - 2| + 3 * |3 - 2| = 6.
    expect(measured(of(1, 3), of(0, 0), [of(0.5, -1), of(0, 0.3)], 3)).toEqual({ xMomentum: 0.25, yMomentum: expect.closeTo(0.05, 15) });
  });
  test("before anything moves nothing is off; what is no number does not pass for it", () => {
    expect(measured(of(0, 0), of(0, 0), [of(0, 0), of(0, 0)], 1)).toEqual({ xMomentum: 0, yMomentum: 0 });
    expect(measured(of(Number.NaN, 0), of(0, 0), [of(0, 0), of(0, 0)], 1).xMomentum).toBeNaN();
  });
});
