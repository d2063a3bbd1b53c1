import { expect, test } from "vitest";
import { rectangleMesh } from "../mesh/rectangle.ts";
import { revolved } from "../mesh/revolved.ts";
import { fieldStudy } from "./fieldStudy.ts";

const uniform = { kind: "uniform" } as const;

/** A smooth field with an error of second order that sits near one corner of the top. */
function rungs(counts: readonly number[], strength = 4) {
  return counts.map((n) => {
    const mesh = rectangleMesh({ lengthM: 1, heightM: 1, nx: n, ny: n, gradingX: uniform, gradingY: uniform, periodicX: false });
    const values = Float64Array.from({ length: mesh.cellCount }, (_, c) => {
      const [x, y] = [mesh.centroidM[2 * c], mesh.centroidM[2 * c + 1]];
      // Exact averages of x^2 + x y and the error at the middle of the cell.
      return x * x + 1 / (12 * n * n) + x * y + (strength / n ** 2) * Math.exp(-60 * ((x - 1) ** 2 + (y - 1) ** 2));
    });
    return { label: `${n} × ${n}`, spacing: 1 / n, mesh, values };
  });
}

test.each([
  ["the coarsest", 2],
  ["the finest", 0],
])("meshes that share no line, brought to %s: second order, and the error where it was put", (_, onto) => {
  const told: number[] = [];
  const set = rungs([72, 49, 32]);
  const found = fieldStudy({ rungs: set, onto, way: "averages", formalOrder: 2 }, (s) => told.push(s));
  expect(found.normOrder).toBeGreaterThan(1.9);
  expect(found.normOrder).toBeLessThan(2.1);
  expect(found.where?.place).toMatchObject({ kind: "corner", at: [[1, 1]], names: expect.arrayContaining(["top", "right"]) });
  expect(found.where?.place?.share).toBeGreaterThan(0.5);
  const mesh = set[onto].mesh;
  const at = mesh.centroidM.findIndex((x, i) => i % 2 === 0 && Math.hypot(x - 0.95, mesh.centroidM[i + 1] - 0.95) < 0.02) / 2;
  const [x, y] = [mesh.centroidM[2 * at], mesh.centroidM[2 * at + 1]];
  const truth = (4 / 72 ** 2) * Math.exp(-60 * ((x - 1) ** 2 + (y - 1) ** 2));
  expect(found.error[at] / truth).toBeGreaterThan(0.8);
  expect(found.error[at] / truth).toBeLessThan(1.25);
  expect(told.at(-1)).toBe(1);
  expect([...told].sort((a, b) => a - b)).toEqual(told);
});

test("four meshes: norms of every neighbouring pair; two: no order", () => {
  expect(fieldStudy({ rungs: rungs([48, 36, 24, 18]), onto: 3, way: "averages", formalOrder: 2 }).norms).toHaveLength(3);
  expect(fieldStudy({ rungs: rungs([24, 12]), onto: 1, way: "points", formalOrder: 2 }).points).toBeUndefined();
});

test("values that do not fit their mesh, and a mesh that is not there, are refused by name", () => {
  const [fine, coarse] = rungs([8, 4]);
  const study = (list: (typeof fine)[], onto: number) => () => fieldStudy({ rungs: list, onto, way: "averages", formalOrder: 2 });
  expect(study([{ ...fine, values: new Float64Array(3) }, coarse], 1)).toThrow("8 × 8 has 3 values on 64 cells.");
  expect(study([fine, coarse], 5)).toThrow("There is no rung 6");
});

test("on revolved meshes points are taken whatever was asked for, and the study says so", () => {
  const set = rungs([24, 12]).map((r) => ({ ...r, mesh: revolved(r.mesh) }));
  expect(fieldStudy({ rungs: set, onto: 1, way: "averages", formalOrder: 2 }).way).toBe("points");
  expect(fieldStudy({ rungs: rungs([24, 12]), onto: 1, way: "averages", formalOrder: 2 }).way).toBe("averages");
});
