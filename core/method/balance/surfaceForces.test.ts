import { describe, expect, test } from "vitest";
import { boxFaces, polygons } from "../../dataset/made.ts";
import { stitch } from "../../dataset/stitch.ts";
import { size, type Vector } from "../../dataset/vector.ts";
import { PLAIN_SAID } from "../../intake/saidForTests.ts";
import { readSurface } from "../../intake/surfaceRecord.ts";
import type { ForceLink, SurfaceRecord, SurfaceSaid } from "../../records/surfaces.ts";
import { assessSurface } from "./surfaceForces.ts";

const BOX = boxFaces([0, 0, 0], [2000, 1000, 500], 4);
// A force a face on the sides below and above alone.
const grid = polygons(BOX, [
  { name: "p", components: 1, values: Float64Array.from(BOX, (f) => 50 - f.reduce((s, x) => s + x[0], 0) / 4 / 10) },
  { name: "tau", components: 3, values: Float64Array.from(BOX.flatMap((_, k) => (k >= 64 ? [5, 0, 0] : [0, 0, 0]))) },
]);
/** dp/dx is -100 Pa/m over 1 m^3, and 5 Pa act on twice 2 m^2 */
const [PRESSURE, SHEAR] = [100, 20];

const DRAG: ForceLink = { quantityKey: "d", of: "force", patches: [], direction: [1, 0, 0], factor: 1 };
const SAID: SurfaceSaid = {
  ...PLAIN_SAID,
  arrays: [
    { name: "p", on: "cells", role: "pressure", unit: "Pa" },
    { name: "tau", on: "cells", role: "shear", unit: "Pa" },
  ],
  links: [DRAG],
};
const record = (said: Partial<SurfaceSaid> = {}, of = grid): SurfaceRecord => {
  const all = { ...SAID, ...said };
  return { file: { name: "box.vtp", hash: "" }, said: all, found: readSurface(stitch(of), all, 1e-3, 1.2).found };
};
const QUANTITIES = { d: { name: "drag", unit: "N" }, c: { name: "drag coefficient", unit: "1" }, s: { name: "side force", unit: "N" } };
const judged = (reported: number, said: Partial<SurfaceSaid> = {}, of = grid) =>
  assessSurface("fine", record(said, of), QUANTITIES, { d: reported, c: reported, s: reported });

describe("forces from a surface against those reported", () => {
  test("in metres, by pressure and shear", () => {
    const { found } = record();
    expect(found.areaM2).toBeCloseTo(7, 12);
    const total = found.unnamed;
    expect(total?.pressureForce).toEqual([expect.closeTo(PRESSURE, 9), expect.closeTo(0, 9), expect.closeTo(0, 9)]);
    expect(total?.shearForce[0]).toBeCloseTo(SHEAR, 12);
    expect(found.shells[0].volume).toBeCloseTo(1, 12);
  });
  test.each([
    [120, "holds", 0],
    [120.59, "holds", 0.59 / 120],
    [121, "remark", 1 / 120],
    [127, "fails", 7 / 120],
  ] as const)("reported %d N: %s", (reported, state, relative) => {
    const a = judged(reported);
    expect(a.lines[0]).toMatchObject({
      state,
      integrated: expect.closeTo(120, 9),
      byPressure: expect.closeTo(100, 9),
      byShear: expect.closeTo(20, 9),
    });
    expect(a.lines[0].relative).toBeCloseTo(relative, 9);
    expect(a.state).toBe(state);
  });
  test("a small component is judged by the whole force and has no percentage of its own", () => {
    const a = judged(0.5, { links: [{ ...DRAG, quantityKey: "s", direction: [0, 3, 0] }] });
    expect(a.lines[0]).toMatchObject({ state: "holds", relative: expect.closeTo(0.5 / 120, 9) });
    expect(a.lines[0].own).toBeUndefined();
  });
  test("a coefficient is made of what it is said to be made with; a half model is counted once", () => {
    const coefficient = { densityKgM3: 2, speedMS: 10, areaM2: 0.5, lengthM: 1 };
    const a = judged(4.8, { links: [{ ...DRAG, quantityKey: "c", coefficient, factor: 2 }] });
    expect(a.lines[0]).toMatchObject({ integrated: expect.closeTo((2 * 120) / 50, 9), whole: expect.closeTo(4.8, 9), state: "holds" });
  });
  test("moments about a point, and a coefficient of one", () => {
    const about: Vector = [0, 1, 0];
    const { lines } = judged(120 * 0.5, { aboutM: about, links: [{ ...DRAG, of: "moment", direction: [0, 0, 1] }] });
    // The pressure acts on the middle of the box, half a metre beside the point; the stress on both sides there too.
    expect(lines[0].integrated).toBeCloseTo(60, 9);
    const coefficient = { densityKgM3: 2, speedMS: 10, areaM2: 0.5, lengthM: 3 };
    const c = judged(0, { aboutM: about, links: [{ ...DRAG, of: "moment", direction: [0, 0, 1], coefficient }] });
    expect(c.lines[0].integrated).toBeCloseTo(60 / 150, 9);
  });
});

describe("what a difference looks like is said", () => {
  const NAMES = {
    recipe: {
      ...SAID.recipe,
      names: [
        { at: [0, 500, 250] as Vector, name: "front" },
        { at: [2000, 500, 250] as Vector, name: "back" },
      ],
    },
  };
  const [front, back] = [["front", "back"], ["front"]];
  test.each<[string, number, Partial<SurfaceSaid>, string]>([
    ["the other sign", -120, {}, "With the other sign it agrees"],
    ["a half model", 240, {}, "Twice it agrees"],
    ["counted twice", 60, {}, "Half of it agrees"],
    ["shear of the wall on the fluid", 80, {}, "With the shear turned round it agrees"],
    ["the pressure's part alone", 100, {}, "the pressure's part alone"],
    ["a file without stress", 120, { arrays: [SAID.arrays[0]] }, "no stress along the wall"],
    ["a piece that was forgotten", 120, { ...NAMES, links: [{ ...DRAG, patches: front }] }, "one of them was forgotten"],
    // The pressure at the front is 50 Pa more than at its reference over half a square metre.
    ["another reference", 0.5 * 20, { ...NAMES, links: [{ ...DRAG, patches: back }] }, "a reference pressure of 30.000 Pa would explain it"],
  ])("%s", (_what, reported, said, words) => {
    const a = judged(reported, said);
    expect(a.lines[0].state).toBe("fails");
    expect(a.remarks.find((r) => r.rule === "surface-force")?.sentence).toContain(words);
  });
  test("a patch that is not there is named, and nothing is judged on it", () => {
    const a = judged(120, { links: [{ ...DRAG, patches: ["roof"] }] });
    expect(a.lines).toEqual([]);
    expect(a.remarks.find((r) => r.rule === "surface-force")).toMatchObject({ severity: "doubt", sentence: expect.stringContaining('"roof"') });
  });
});

describe("what is wrong with the surface itself", () => {
  const rulesOf = (faces: typeof BOX, values = BOX.map((_, k) => k)) =>
    judged(
      120,
      {},
      {
        ...polygons(faces),
        onCells: grid.onCells.map((a) => ({
          ...a,
          values: Float64Array.from(values.flatMap((k) => [...a.values.slice(a.components * k, a.components * (k + 1))])),
        })),
      },
    );
  test("a sound one says nothing but that its pieces have no names", () => {
    expect(judged(120).remarks.map((r) => [r.rule, r.severity])).toEqual([["surface-unnamed", "note"]]);
  });
  test("faces turned over: said, counted as their neighbours do, so that the force stays", () => {
    const a = rulesOf(BOX.map((f, k) => (k < 4 ? [...f].reverse() : f)));
    expect(a.remarks.find((r) => r.rule === "surface-turned")?.sentence).toMatch(
      /has 4 faces \(1\.8\s% of its area, the first at 0, 0\.125, 0\.0625 m\)/,
    );
    expect(a.lines[0].state).toBe("holds");
  });
  test("a missing piece: the rim with its length and place", () => {
    const a = rulesOf(BOX.slice(1), BOX.map((_, k) => k).slice(1));
    expect(a.remarks.find((r) => r.rule === "surface-open")?.sentence).toContain("open along a rim of 0.750 m at 0, 0.125");
    expect(a.lines[0].integrated).toBeLessThan(120);
  });
  test("a piece that is there twice", () => {
    const a = rulesOf([...BOX, BOX[0]], [...BOX.map((_, k) => k), 0]);
    expect(a.remarks.filter((r) => r.rule === "surface-twice").map((r) => r.severity)).toEqual(["doubt", "doubt"]);
  });
  test("the area vectors of the whole vanish", () => {
    expect(size(record().found.unnamed?.areaVector as Vector)).toBeLessThan(1e-12);
  });
});
