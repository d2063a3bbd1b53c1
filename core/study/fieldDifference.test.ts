import { describe, expect, test } from "vitest";
import { differenceSentences } from "../assessment/refinement/fieldWords.ts";
import type { FaceMesh } from "../mesh/faceMesh.ts";
import { rectangleMesh } from "../mesh/rectangle.ts";
import { shapedRectangle } from "../mesh/shaped.ts";
import { fieldDifference } from "./fieldDifference.ts";

const uniform = { kind: "uniform" } as const;
const box = (nx: number, ny: number, lengthM = 2) => ({ lengthM, heightM: 1, nx, ny, gradingX: uniform, gradingY: uniform, periodicX: false });
const rung = (label: string, mesh: FaceMesh, of: (x: number, y: number) => number) => ({
  label,
  spacing: 0.1,
  mesh,
  values: Float64Array.from({ length: mesh.cellCount }, (_, c) => of(mesh.centroidM[2 * c], mesh.centroidM[2 * c + 1])),
});

describe("one field of two runs", () => {
  test("a known difference on other meshes: a slope carried over exactly, the step found where it is", () => {
    const a = rung("A", rectangleMesh(box(40, 20)), (x, y) => x + 2 * y);
    const b = rung("B", shapedRectangle(box(23, 11), "triangles"), (x, y) => x + 2 * y + 0.5);
    for (const onto of [0, 1] as const) {
      const d = fieldDifference({ pair: [a, b], onto, way: "averages" });
      expect(d.values[0]).toHaveLength([a, b][onto].mesh.cellCount);
      expect(d.norms[0].l1).toBeCloseTo(0.5, 10);
      expect(d.norms[0].largest).toBeCloseTo(0.5, 9);
      expect(d.missing).toBe(0);
    }
  });
  test("where the two differ in a strip alone, the strip is named", () => {
    const mesh = rectangleMesh(box(40, 20));
    const a = rung("A", mesh, (x) => x);
    const b = rung("B", mesh, (x, y) => x + (y > 0.9 ? 0.1 : 0));
    const d = fieldDifference({ pair: [a, b], onto: 0, way: "averages" });
    expect(d.norms[0].l2).toBeCloseTo(0.1 * Math.sqrt(0.1), 12);
    const said = differenceSentences(d, { unit: "m/s", labels: ["A", "B"], name: "velocity along x" });
    expect(said[0]).toMatch(/^Velocity along x of B differs from that of A by 0\.0316\sm\/s in the root mean square \(1\.6\s%/);
    expect(said[1]).toContain("of the difference lies within");
    expect(said[1]).toContain("the boundary top");
    expect(said[2]).toContain("Both were brought to A as averages");
    expect(said[3]).toBe("Agreement between two runs, or two codes, is no truth.");
  });
  test("of which one covers only half, the other half is left out and counted; beside one another they are refused", () => {
    const a = rung("A", rectangleMesh(box(40, 20)), (x) => x);
    const b = rung("B", rectangleMesh(box(20, 20, 1)), (x) => x);
    const d = fieldDifference({ pair: [a, b], onto: 0, way: "averages" });
    expect(d.missing).toBe(400);
    expect(d.norms[0].largest).toBeLessThan(1e-12);
    expect(differenceSentences(d, { unit: "m", labels: ["A", "B"], name: "x" }).join(" ")).toContain("400 of its cells");
    const far = { ...b, mesh: rectangleMesh(box(20, 20, 1)) };
    far.mesh.pointsM.forEach((_, i) => {
      if (i % 2 === 0) far.mesh.pointsM[i] += 10;
    });
    far.mesh.centroidM.forEach((_, i) => {
      if (i % 2 === 0) far.mesh.centroidM[i] += 10;
    });
    expect(() => fieldDifference({ pair: [a, far], onto: 0, way: "averages" })).toThrow("lie beside one another");
    expect(() => fieldDifference({ pair: [a, { ...b, values: new Float64Array(3) }], onto: 0, way: "averages" })).toThrow("3 values on 400 cells");
  });
});
