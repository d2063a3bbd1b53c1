import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { BENCH_PROBLEMS } from "../problems/build/catalogue.ts";
import { presetParameters } from "../problems/describe/catalogue.ts";
import { cellCount } from "../problems/describe/problem.ts";
import { coarser } from "./agglomerate.ts";
import { joinBlocks } from "./blocks.ts";
import { type FaceGraph, faceShift, MeshError } from "./faceMesh.ts";
import { NearestCell } from "./locate.ts";
import { meshQuality, triangleAspect } from "./quality.ts";
import { rectangleMesh } from "./rectangle.ts";
import { revolved } from "./revolved.ts";
import { shapedRectangle } from "./shaped.ts";
import { CELL_SHAPES } from "./shapes.ts";

const uniform = { kind: "uniform" } as const;
const box = (n: number) => ({ lengthM: 1.2, heightM: 0.8, nx: n, ny: n, gradingX: uniform, gradingY: uniform, periodicX: false });

/** Area vectors around every cell sum to nothing, or to the hoop's share on revolved meshes; cells lie on the right side of their faces. */
function expectSound(mesh: FaceGraph): void {
  const { owner, neighbour, joinCount, faceCount, areaVectorM, volumeM2, centroidM } = mesh;
  const net = new Float64Array(2 * mesh.cellCount);
  let size = 0;
  for (let f = 0; f < faceCount; f++) {
    for (const k of [0, 1]) {
      net[2 * owner[f] + k] += areaVectorM[2 * f + k];
      if (f < joinCount) net[2 * neighbour[f] + k] -= areaVectorM[2 * f + k];
    }
    size = Math.max(size, Math.hypot(areaVectorM[2 * f], areaVectorM[2 * f + 1]));
    if (f >= joinCount) continue;
    const [sx, sy] = faceShift(mesh, f);
    const dx = centroidM[2 * neighbour[f]] + sx - centroidM[2 * owner[f]];
    const dy = centroidM[2 * neighbour[f] + 1] + sy - centroidM[2 * owner[f] + 1];
    expect(dx * areaVectorM[2 * f] + dy * areaVectorM[2 * f + 1]).toBeGreaterThan(0);
  }
  for (let c = 0; c < mesh.cellCount; c++) {
    expect(Math.abs(net[2 * c]) / size).toBeLessThan(1e-12);
    expect(Math.abs(net[2 * c + 1] - (mesh.hoopM2?.[c] ?? 0)) / size).toBeLessThan(1e-12);
    expect(volumeM2[c]).toBeGreaterThan(0);
  }
}
const total = (m: FaceGraph) => m.volumeM2.reduce((s, v) => s + v, 0);

describe("every template's mesh", () => {
  test.each(BENCH_PROBLEMS.map((p) => [p.id, p] as const))(
    "%s: closed cells, and coarser meshes that keep the volume and every boundary's area",
    (_id, p) => {
      const { family } = p;
      const spec = { nx: Math.max(8, family.baseNx >> 1), ny: Math.max(4, family.baseNy >> 1), gradingX: family.gradingX, gradingY: family.gradingY };
      const mesh = p.mesh(presetParameters(p), { ...spec, ...(family.shape ? { shape: family.shape } : {}) });
      expectSound(mesh);
      const next = coarser(mesh);
      if (!next) return;
      expect(total(next.mesh) / total(mesh)).toBeCloseTo(1, 12);
      const through = (m: FaceGraph, name: string) => {
        const b = m.boundaries.find((x) => x.name === name);
        let sum = 0;
        if (b) for (let f = b.start; f < b.start + b.count; f++) sum += m.areaVectorM[2 * f] + m.areaVectorM[2 * f + 1];
        return sum;
      };
      for (const { name } of mesh.boundaries) expect(through(next.mesh, name)).toBeCloseTo(through(mesh, name), 12);
    },
  );
});

describe("cell shapes", () => {
  test("all fill the same rectangle, whatever the seed", () => {
    fc.assert(
      fc.property(fc.constantFrom(...CELL_SHAPES), fc.integer({ min: 3, max: 11 }), fc.integer({ min: 0, max: 9999 }), (shape, n, seed) => {
        const mesh = shapedRectangle(box(n), shape, seed);
        expectSound(mesh);
        expect(total(mesh)).toBeCloseTo(0.96, 12);
        for (let next = coarser(mesh), k = 0; next && k < 3; next = coarser(next.mesh), k++) expect(total(next.mesh)).toBeCloseTo(0.96, 12);
      }),
      { numRuns: 40 },
    );
  });
  test("a seed gives the same mesh again, another one another; both families keep their places under refinement when smooth", () => {
    const points = (n: number, seed: number) => shapedRectangle(box(n), "smooth", seed).pointsM;
    expect(points(6, 3)).toEqual(points(6, 3));
    expect(points(6, 3)).not.toEqual(points(6, 4));
    const [coarse, fine] = [points(6, 3), points(12, 3)];
    for (let j = 0; j <= 6; j++) for (let i = 0; i <= 6; i++) expect(fine[2 * (2 * j * 13 + 2 * i)]).toBeCloseTo(coarse[2 * (j * 7 + i)], 12);
  });
  test("groups grown on triangles are compact: most have three to six cells", () => {
    const mesh = shapedRectangle(box(24), "triangles");
    const next = coarser(mesh);
    const ratio = mesh.cellCount / (next?.mesh.cellCount ?? 1);
    expect(ratio).toBeGreaterThan(3);
    expect(ratio).toBeLessThan(5);
  });
});

describe("mapped blocks", () => {
  const unit = (x: number) => ({ nx: 3, ny: 2, place: (s: number, t: number) => [x + s, t] as const, sides: { bottom: "b", top: "t" } });
  test("join where their sides lie upon one another", () => {
    const mesh = joinBlocks([
      { ...unit(0), sides: { ...unit(0).sides, left: "in" } },
      { ...unit(1), sides: { ...unit(1).sides, right: "out" } },
    ]);
    expect(mesh.joinCount).toBe(7 + 7 + 2);
    expect(mesh.boundaries.map((b) => [b.name, b.count]).sort()).toEqual([
      ["b", 6],
      ["in", 2],
      ["out", 2],
      ["t", 6],
    ]);
  });
  test("refuse a folded block, naming the cell", () => {
    expect(() => joinBlocks([{ nx: 2, ny: 2, place: (s, t) => [t, s], sides: { left: "a", right: "a", top: "a", bottom: "a" } }])).toThrow(MeshError);
  });
  test("an unnamed side with nothing beside it shows as such", () =>
    expect(joinBlocks([{ ...unit(0), sides: {} }]).boundaries.map((b) => b.name)).toEqual(["unmatched side"]));
});

describe("revolved meshes", () => {
  test("volumes of a cylinder, a cone's frustum side and Pappus' ring come out exactly", () => {
    const plane = rectangleMesh({ ...box(5), heightM: 2 });
    expect(2 * Math.PI * total(revolved(plane))).toBeCloseTo(Math.PI * 4 * 1.2, 12);
  });
  test("refuse to reach below the axis", () =>
    expect(() => revolved(joinBlocks([{ nx: 1, ny: 1, place: (s, t) => [s, t - 0.5], sides: {} }]))).toThrow(/axis/));
});

test("the nearest cell is found wherever the point lies, outside included", () => {
  const mesh = shapedRectangle(box(9), "hexagons");
  const finder = new NearestCell(mesh);
  fc.assert(
    fc.property(fc.double({ min: -1, max: 2, noNaN: true }), fc.double({ min: -1, max: 2, noNaN: true }), (x, y) => {
      const away = (c: number) => Math.hypot(mesh.centroidM[2 * c] - x, mesh.centroidM[2 * c + 1] - y);
      const least = Math.min(...Array.from({ length: mesh.cellCount }, (_, c) => away(c)));
      expect(away(finder.find(x, y))).toBeCloseTo(least, 12);
    }),
    { numRuns: 2000 },
  );
});

test("quality speaks of skew: none on rows, some on bent ones, much on an oblique ring", () => {
  expect(meshQuality(shapedRectangle(box(8), "rows")).nonOrthogonalityDeg).toBeLessThan(1e-5);
  expect(meshQuality(shapedRectangle(box(16), "smooth")).nonOrthogonalityDeg).toBeGreaterThan(2);
});

describe("aspect ratios and counts", () => {
  test("a triangle's aspect is its circumradius over twice its inradius", () => {
    expect(triangleAspect([1, 1, 1])).toBeCloseTo(1, 14);
    // Right-angled 3, 4, 5: circumradius 2.5, inradius 1.
    expect(triangleAspect([3, 4, 5])).toBeCloseTo(1.25, 14);
    expect(triangleAspect([1, 1, 1.9999])).toBeGreaterThan(50);
  });
  test.each(BENCH_PROBLEMS.flatMap((p) => (p.shapes ?? ["rows" as const]).map((shape) => [p.id, shape, p] as const)))(
    "%s on %s: planned cells are the mesh's own",
    (_id, shape, p) => {
      const parameters = presetParameters(p);
      const { baseNx, baseNy, gradingX, gradingY } = p.family;
      const spec = {
        nx: Math.max(4, Math.round(baseNx / 4)),
        ny: Math.max(5, Math.round(baseNy / 4)),
        gradingX,
        gradingY,
        ...(p.shapes ? { shape } : {}),
      };
      expect(cellCount(p, parameters, spec)).toBe(p.mesh(parameters, spec).cellCount);
    },
  );
});
