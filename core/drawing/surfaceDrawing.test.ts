import { expect, test } from "vitest";
import { boxFaces, polygons } from "../dataset/made.ts";
import { patchesOf } from "../dataset/patches.ts";
import { stitch } from "../dataset/stitch.ts";
import { fieldColor } from "./fieldRaster.ts";
import { drawSurface, patchColor } from "./surfaceDrawing.ts";

const BOX = boxFaces([10, 20, 30], [4, 2, 4], 2);
const grid = polygons(BOX, [
  { name: "p", components: 1, values: Float64Array.from(BOX, (_, k) => k + 1) },
  { name: "tau", components: 3, values: Float64Array.from(BOX.flatMap((_, k) => [k % 2 ? 3 : -3, 4, 0])) },
]);
const box = stitch(grid);
const patches = patchesOf(box, { division: { by: "angle", degrees: 30 }, names: [{ at: [12, 21, 34], name: "lid" }], splits: [] });

test("triangles about the origin, the corners at a distance of one; every place can be found back", () => {
  const d = drawSurface(box, patches, { by: "patches" });
  expect(d.positions).toHaveLength(24 * 2 * 9);
  expect([d.middle, d.radius]).toEqual([[12, 21, 32], 3]);
  const far = Math.max(...Array.from({ length: 144 }, (_, i) => Math.hypot(...d.positions.subarray(3 * i, 3 * i + 3))));
  expect(far).toBeCloseTo(1, 6);
  expect([...d.positions.subarray(0, 3)].map((v, k) => v * d.radius + d.middle[k])[0]).toBeCloseTo(10, 5);
  expect([...d.faceOf.subarray(0, 4)]).toEqual([0, 0, 1, 1]);
});

test("painted by patches: those without a name are pale", () => {
  const d = drawSurface(box, patches, { by: "patches" });
  expect([...d.colors.subarray(0, 3)]).toEqual([...patchColor(-1)]);
  expect([...d.colors.subarray(3 * 3 * 2 * 20, 3 * 3 * 2 * 20 + 3)]).toEqual([...patchColor(0)]);
  expect(patchColor(0)).not.toEqual(patchColor(6));
  expect(new Set(drawSurface(box, patches, { by: "pieces" }).colors.filter((_, i) => i % 3 === 0)).size).toBeGreaterThan(4);
});

test("painted by values: from least to greatest, or about zero where they have both signs", () => {
  const p = drawSurface(box, patches, { by: "array", on: "cells", name: "p", component: 0 });
  expect(p.range).toEqual([1, 24]);
  expect([...p.colors.subarray(0, 3)]).toEqual([...fieldColor(0)]);
  expect([...(p.values as Float64Array)]).toEqual(BOX.map((_, k) => k + 1));
  const x = drawSurface(box, patches, { by: "array", on: "cells", name: "tau", component: 0 });
  expect(x.range).toEqual([-3, 3]);
  expect([...x.colors.subarray(0, 3)]).toEqual([...fieldColor(0, "signed")]);
  expect(drawSurface(box, patches, { by: "array", on: "cells", name: "tau", component: "size" }).range).toEqual([5, 5]);
  expect(drawSurface(box, patches, { by: "array", on: "cells", name: "p", component: 0 }, [0, 100]).range).toEqual([0, 100]);
  expect(() => drawSurface(box, patches, { by: "array", on: "points", name: "p", component: 0 })).toThrow("no array");
});

test("painted by what was made of the file's arrays", () => {
  const values = Float64Array.from(box.surface.corners, (q) => box.surface.points[3 * q]);
  const d = drawSurface(box, patches, { by: "field", field: { on: "corners", components: 1, values } });
  expect(d.range).toEqual([10, 14]);
  expect([d.scheme, d.values?.[0]]).toEqual(["even", 10]);
});

test("edges: sharp ones, open ones, all", () => {
  const d = drawSurface(box, patches, { by: "pieces" });
  expect([d.sharp.length / 6, d.open.length, d.edges.length / 6]).toEqual([24, 0, 48]);
  const open = stitch(polygons(BOX.slice(1)));
  const o = drawSurface(open, patchesOf(open, { division: { by: "angle", degrees: 30 }, names: [], splits: [] }), { by: "pieces" });
  expect(o.open.length / 6).toBe(4);
});
