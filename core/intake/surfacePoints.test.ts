import { describe, expect, test } from "vitest";
import { boxFaces, polygons } from "../dataset/made.ts";
import { stitch } from "../dataset/stitch.ts";
import type { SurfaceSaid } from "../records/surfaces.ts";
import { PLAIN_SAID } from "./saidForTests.ts";
import { surfacePoints } from "./surfacePoints.ts";

// In mm; the pressure in kPa rises evenly, 1 Pa for each mm along x and 10 for each along y, over 1000 Pa.
const base = polygons(boxFaces([0, 0, 0], [2000, 1000, 500], 2));
const box = stitch({
  ...base,
  onPoints: [
    {
      name: "p",
      components: 1,
      values: Float64Array.from({ length: base.points.length / 3 }, (_, q) => 1 + (base.points[3 * q] + 10 * base.points[3 * q + 1]) / 1000),
    },
  ],
});
const SAID: SurfaceSaid = {
  ...PLAIN_SAID,
  arrays: [{ name: "p", on: "points", role: "pressure", unit: "kPa" }],
  referencePa: 1000,
};
const at = (text: string, said: Partial<SurfaceSaid> = {}) => surfacePoints(box, { ...SAID, ...said }, 1e-3, 1.2, "pressure", text);

describe("points on a surface", () => {
  test("what was computed is read at the nearest place of the surface, the reference taken off, in SI", () => {
    const found = at("x (m),y (m),z (m),tap (hPa)\n0.3,0.7,0.5,73\n2.004,0.25,0.1,45\n");
    expect(found).toMatchObject({ name: "tap", unit: "Pa", notes: [] });
    expect(found.points.map((p) => [p.line, p.measured, p.facing])).toEqual([
      [2, expect.closeTo(7300, 9), [0, 0, 1]],
      [3, expect.closeTo(4500, 9), [1, 0, 0]],
    ]);
    expect(found.points.map((p) => p.computed)).toEqual([expect.closeTo(7300, 8), expect.closeTo(4500, 8)]);
    expect(found.points.map((p) => p.apartM)).toEqual([expect.closeTo(0, 12), expect.closeTo(0.004, 12)]);
    expect(found.points[0].at).toEqual([300, 700, 500].map((v) => expect.closeTo(v, 9)));
  });
  test("what is taken for granted, left out or far away is said", () => {
    const found = at("x,y,z,p\n300,700,500,1\n300,,500,2\n300,700,900,3\n", { normals: "into the body" });
    expect(found.points.map((p) => [p.line, p.facing[2]])).toEqual([
      [2, -1],
      [4, -1],
    ]);
    expect(found.notes).toEqual([
      "Where the table gives no unit of its places, they are taken in that of the surface, mm.",
      "The table gives no unit of p; it is taken in Pa.",
      "1 of 3 rows have a gap and were left out.",
      "1 of 2 points lie more than 2 % of its longest side off the surface, the first on line 4.",
    ]);
  });
  test("places alone are enough", () => {
    const found = at("x (mm);y (mm);z (mm)\n10;20;0\n");
    expect(found.points[0]).not.toHaveProperty("measured");
    expect(found.points[0].computed).toBeCloseTo(210, 8);
  });
  test.each<[string, string, string]>([
    ["no place", "x (m),y (m),p (Pa)\n1,2,3\n", "no column z"],
    ["another kind of place", "x (s),y (m),z (m)\n1,2,3\n", 'the unit of x, "s", is no length'],
    ["another kind of value", "x (m),y (m),z (m),p (K)\n1,2,3,4\n", 'the unit of p, "K", cannot be turned into Pa'],
    ["no table", "", "line 1"],
  ])("refused: %s", (_what, text, words) => {
    expect(() => at(text)).toThrow(words);
  });
  test("what the surface does not have", () => {
    expect(() => surfacePoints(box, SAID, 1e-3, 1.2, "temperature", "x,y,z\n1,2,3\n")).toThrow("the surface has no temperature");
  });
});
