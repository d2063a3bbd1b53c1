import { describe, expect, test } from "vitest";
import { boxFaces, polygons } from "../dataset/made.ts";
import { stitch } from "../dataset/stitch.ts";
import type { SurfaceSaid } from "../records/surfaces.ts";
import { PLAIN_SAID } from "./saidForTests.ts";
import { type StationsAsked, stationCurves } from "./stationCurves.ts";

// In mm: 2 by 1 by 0.5 m. The pressure is 1000 + x + 10 y of the millimetres' thousandth.
const BOX = boxFaces([0, 0, 0], [2000, 1000, 500], 4);
const base = polygons(BOX);
const grid = {
  ...base,
  onPoints: [
    {
      name: "p",
      components: 1,
      values: Float64Array.from({ length: base.points.length / 3 }, (_, q) => 1000 + base.points[3 * q] / 1000 + base.points[3 * q + 1] / 100),
    },
  ],
  onCells: [{ name: "tau", components: 3, values: Float64Array.from(BOX.flatMap((_, k) => [k, 0, 0])) }],
};
const box = stitch(grid);
const SAID: SurfaceSaid = {
  ...PLAIN_SAID,
  arrays: [
    { name: "p", on: "points", role: "pressure", unit: "Pa" },
    { name: "tau", on: "cells", role: "shear", unit: "Pa" },
  ],
  referencePa: 1000,
};
const ASKED: StationsAsked = { across: 2, stations: [250], of: "pressure", abscissa: "axis", along: 0, names: ["cp lee", "cp windward"] };
const curves = (asked: Partial<StationsAsked>, said: Partial<SurfaceSaid> = {}) =>
  stationCurves(box, { ...SAID, ...said }, 1e-3, 1.2, { ...ASKED, ...asked });

describe("curves over cuts", () => {
  test("a line that goes round is two curves along the axis, in metres, the reference taken off", () => {
    const { curves: found, lines, notes } = curves({});
    expect(found.map((c) => [c.key, c.name, c.abscissa.name, c.abscissa.unit, c.value.unit])).toEqual([
      ["cp-lee-at-z-0-25", "cp lee at z 0.25", "x", "m", "Pa"],
      ["cp-windward-at-z-0-25", "cp windward at z 0.25", "x", "m", "Pa"],
    ]);
    // On the far side y is 1 m, on the near one 0; the ends belong to both.
    const inner = (k: number) => found[k].abscissa.values.map((x, i) => [x, found[k].value.values[i]]).filter(([x]) => x > 0.01 && x < 1.99);
    for (const [x, v] of inner(0)) expect(v).toBeCloseTo(x + 10, 9);
    for (const [x, v] of inner(1)) expect(v).toBeCloseTo(x, 9);
    expect(found[0].abscissa.values.every((v, k, all) => k === 0 || v > all[k - 1])).toBe(true);
    expect(lines).toHaveLength(1);
    expect(notes).toEqual([]);
  });
  test("over its own length, by arc length, and as a coefficient", () => {
    const share = curves({ abscissa: "share", coefficient: { densityKgM3: 2, speedMS: 10 } }).curves[1];
    expect([share.abscissa.values[0], share.abscissa.values.at(-1), share.abscissa.unit, share.value.unit]).toEqual([0, 1, "1", "1"]);
    expect(share.value.values[Math.floor(share.value.values.length / 2)]).toBeCloseTo(
      share.abscissa.values[Math.floor(share.value.values.length / 2)] * 0.02,
      9,
    );
    const arc = curves({ abscissa: "arc" }).curves;
    // From where x is least to where it is greatest, over the sides between.
    expect((arc[0].abscissa.values.at(-1) as number) + (arc[1].abscissa.values.at(-1) as number)).toBeCloseTo(6, 9);
  });
  test("shear on faces, turned where it is that of the wall on the fluid", () => {
    const { curves: found } = curves({ of: "shear" }, { shearOn: "fluid" });
    expect(Math.max(...found[1].value.values)).toBeLessThanOrEqual(0);
    expect(found[0].value.name).toBe("shear along x");
  });
  test("stations that miss the surface are said", () => {
    const found = curves({ stations: [250, 700] });
    expect(found.curves).toHaveLength(2);
    expect(found.notes).toEqual(["The plane at z 700 misses the surface."]);
  });
  test.each<[string, Partial<StationsAsked>, string]>([
    ["none is cut", { stations: [-1] }, "none of the planes cuts the surface"],
    ["along the axis across", { along: 2 }, "cannot run along the axis"],
    ["what is not there", { of: "temperature" }, "the surface has no temperature"],
  ])("refused: %s", (_what, asked, words) => {
    expect(() => curves(asked)).toThrow(words);
  });
});
