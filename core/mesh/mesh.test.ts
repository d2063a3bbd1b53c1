import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { coarser } from "./agglomerate.ts";
import { buildFaceMesh, type FaceGraph, faceShift, MeshError } from "./faceMesh.ts";
import { familyMembers } from "./family.ts";
import { type Grading, gridLines } from "./grading.ts";
import { meshQuality } from "./quality.ts";
import { rectangleMesh } from "./rectangle.ts";
import { rectangleQuality } from "./rectangleQuality.ts";

const anyGrading: fc.Arbitrary<Grading> = fc.oneof(
  fc.constant({ kind: "uniform" } as const),
  fc.record({
    kind: fc.constantFrom("both-ends" as const, "low-end" as const, "high-end" as const),
    strength: fc.double({ min: 0.1, max: 3, noNaN: true }),
  }),
);
const anySpec = fc.record({
  lengthM: fc.double({ min: 0.01, max: 10, noNaN: true }),
  heightM: fc.double({ min: 0.01, max: 10, noNaN: true }),
  nx: fc.integer({ min: 2, max: 14 }),
  ny: fc.integer({ min: 2, max: 14 }),
  gradingX: anyGrading,
  gradingY: anyGrading,
  periodicX: fc.boolean(),
});

describe("rectangles of any grading", () => {
  test("volumes fill the rectangle, every cell is closed, faces point from owner to neighbour", () => {
    fc.assert(
      fc.property(anySpec, (spec) => {
        const m = rectangleMesh(spec);
        const area = spec.lengthM * spec.heightM;
        expect(m.volumeM2.reduce((s, v) => s + v, 0) / area).toBeCloseTo(1, 12);
        const closed = new Float64Array(2 * m.cellCount);
        for (let f = 0; f < m.faceCount; f++) {
          for (const k of [0, 1]) {
            closed[2 * m.owner[f] + k] += m.areaVectorM[2 * f + k];
            if (f < m.joinCount) closed[2 * m.neighbour[f] + k] -= m.areaVectorM[2 * f + k];
          }
        }
        expect(Math.max(...closed.map(Math.abs)) / (spec.lengthM + spec.heightM)).toBeLessThan(1e-14);
        for (let f = 0; f < m.joinCount; f++) {
          const seen = faceShift(m, f)[0];
          const dx = m.centroidM[2 * m.neighbour[f]] + seen - m.centroidM[2 * m.owner[f]];
          const dy = m.centroidM[2 * m.neighbour[f] + 1] - m.centroidM[2 * m.owner[f] + 1];
          expect(dx * m.areaVectorM[2 * f] + dy * m.areaVectorM[2 * f + 1]).toBeGreaterThan(0);
        }
      }),
      { numRuns: 60 },
    );
  });

  test("quality worked out from the grid lines equals that of the mesh built from them", () => {
    fc.assert(
      fc.property(anySpec, (spec) => {
        const quick = rectangleQuality(spec);
        const full = meshQuality(rectangleMesh({ ...spec, periodicX: false }));
        for (const key of ["spacingM", "smallestEdgeM", "largestEdgeM", "aspectRatio", "totalVolumeM2"] as const)
          expect(quick[key] / full[key]).toBeCloseTo(1, 9);
        expect(quick.neighbourVolumeRatio / full.neighbourVolumeRatio).toBeCloseTo(1, 9);
        expect(full.nonOrthogonalityDeg).toBeLessThan(1e-5);
      }),
      { numRuns: 60 },
    );
  });

  test("grid lines increase from 0 to the length; both ends mirror one another", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 200 }), anyGrading, (count, grading) => {
        const lines = gridLines(1, count, grading);
        expect([lines[0], lines[count]]).toEqual([0, 1]);
        for (let i = 0; i < count; i++) expect(lines[i + 1]).toBeGreaterThan(lines[i]);
        if (grading.kind === "both-ends") for (let i = 0; i <= count; i++) expect(lines[i] + lines[count - i]).toBeCloseTo(1, 14);
      }),
    );
  });

  test("a family refines itself: the finer mesh of ratio 2 holds every line of the coarser", () => {
    const grading = { kind: "both-ends", strength: 1.5 } as const;
    const coarse = gridLines(3, 12, grading);
    const fine = gridLines(3, 24, grading);
    coarse.forEach((x, i) => {
      expect(fine[2 * i]).toBeCloseTo(x, 13);
    });
    expect(familyMembers(12, 8, 1.5, 3).map((m) => [m.nx, m.ny])).toEqual([
      [12, 8],
      [18, 12],
      [27, 18],
    ]);
  });
});

describe("coarser meshes", () => {
  test("pair rows and columns, odd counts included, down to where two cells are left", () => {
    const spec = {
      lengthM: 2,
      heightM: 1,
      nx: 27,
      ny: 16,
      gradingX: { kind: "low-end", strength: 2 } as const,
      gradingY: { kind: "uniform" } as const,
      periodicX: false,
    };
    let m: FaceGraph = rectangleMesh(spec);
    const seen: number[][] = [];
    for (let next = coarser(m); next; next = coarser(m)) {
      m = next.mesh;
      expect(m.volumeM2.reduce((s, v) => s + v, 0)).toBeCloseTo(2, 12);
      const [block] = m.structure ?? [];
      seen.push([block.nx, block.ny]);
    }
    expect(seen).toEqual([
      [13, 8],
      [6, 4],
      [3, 2],
    ]);
  });
});

describe("refusals", () => {
  test("a cell turned inside out is named", () => {
    const bad = () =>
      buildFaceMesh({
        pointsM: Float64Array.of(0, 0, 1, 0, 1, 1, 0, 1),
        joins: [],
        boundaries: [{ name: "all", faces: [] }],
        cells: [[0, 3, 2, 1]],
      });
    expect(bad).toThrow(MeshError);
    expect(bad).toThrow(/Cell 0 has volume -1/);
  });
  test.each([
    ["no length", () => gridLines(0, 4, { kind: "uniform" })],
    ["not a number", () => gridLines(Number.NaN, 4, { kind: "uniform" })],
    ["half a cell", () => gridLines(1, 2.5, { kind: "uniform" })],
    ["absurd grading", () => gridLines(1, 4, { kind: "low-end", strength: 50 })],
    ["ratio of one", () => familyMembers(8, 8, 1, 3)],
    ["too many", () => familyMembers(8, 8, 2, 40)],
  ])("%s", (_name, make) => expect(make).toThrow(RangeError));
});
