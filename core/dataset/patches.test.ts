import { describe, expect, test } from "vitest";
import { boxFaces, polygons } from "./made.ts";
import { dividingArrays, NoDivision, type PatchRecipe, patchesOf } from "./patches.ts";
import { stitch } from "./stitch.ts";
import type { Vector } from "./vector.ts";

const BOX = boxFaces([0, 0, 0], [2, 1, 0.5], 4);
const ANGLE: PatchRecipe = { division: { by: "angle", degrees: 30 }, names: [], splits: [] };
const TOP: Vector = [1, 0.5, 0.5];
const counts = ({ names, nameOf }: ReturnType<typeof patchesOf>) =>
  Object.fromEntries([["", nameOf.filter((k) => k < 0).length], ...names.map((n, k) => [n, nameOf.filter((x) => x === k).length])]);

describe("patches", () => {
  const s = stitch(polygons(BOX));
  test("a box falls into its six sides at its edges, each with its area, its way and a place on it", () => {
    const { pieces } = patchesOf(s, ANGLE);
    expect(pieces).toHaveLength(6);
    expect(pieces.map((p) => p.area)).toEqual([0.5, 0.5, 1, 1, 2, 2].map((v) => expect.closeTo(v, 12)));
    expect(pieces[5].facing).toEqual([0, 0, 1].map((v) => expect.closeTo(v, 12)));
    expect(pieces[5].at[2]).toBe(0.5);
    expect(patchesOf(s, { ...ANGLE, division: { by: "angle", degrees: 91 } }).pieces).toHaveLength(1);
  });
  test("names are given by places; two of one name are one patch; what is left is counted", () => {
    const recipe: PatchRecipe = {
      ...ANGLE,
      names: [
        { at: TOP, name: "lid" },
        { at: [1, 0.5, 0], name: "lid" },
        { at: [0, 0.5, 0.2], name: "front" },
      ],
    };
    const found = patchesOf(s, recipe);
    expect(counts(found)).toEqual({ "": 48, lid: 32, front: 16 });
    // The next of the family is finer and a little larger: the same places find the same sides.
    const next = stitch(polygons(boxFaces([-0.01, 0, 0], [2.03, 1.01, 0.52], 7)));
    expect(counts(patchesOf(next, recipe))).toEqual({ "": 3 * 49, lid: 98, front: 49 });
  });
  test("a piece named twice has the later name, which is said", () => {
    const found = patchesOf(s, {
      ...ANGLE,
      names: [
        { at: TOP, name: "a" },
        { at: [0.3, 0.5, 0.5], name: "b" },
      ],
    });
    expect(counts(found)).toEqual({ "": 80, a: 0, b: 16 });
    expect(found.notes[0]).toContain('"b" lies on the piece that is called "a" already');
  });
  test.each<[string, PatchRecipe["splits"][number], number]>([
    ["on one side of a plane", { by: "plane", of: "lid", at: [1, 0, 0], normal: [1, 0, 0], name: "half" }, 8],
    ["within a box", { by: "box", of: "lid", low: [0, 0, 0.4], high: [0.5, 1, 0.6], name: "half" }, 4],
    ["facing a way", { by: "normal", of: "", direction: [-2, 0, 0], withinDeg: 1, name: "half" }, 16],
    ["smooth from a place", { by: "smooth", of: "", at: [2, 0.5, 0.25], degrees: 10, name: "half" }, 16],
  ])("split: %s", (_what, split, faces) => {
    const found = patchesOf(s, { ...ANGLE, names: [{ at: TOP, name: "lid" }], splits: [split] });
    expect(counts(found).half).toBe(faces);
    expect(found.notes).toEqual([]);
  });
  test("a split that finds nothing, or is of a patch that is not there, is said and changes nothing", () => {
    const splits: PatchRecipe["splits"] = [
      { by: "plane", of: "absent", at: [0, 0, 0], normal: [1, 0, 0], name: "x" },
      { by: "box", of: "", low: [9, 9, 9], high: [10, 10, 10], name: "y" },
      { by: "smooth", of: "", at: TOP, degrees: 10, name: "z" },
    ];
    const found = patchesOf(s, { ...ANGLE, names: [{ at: TOP, name: "lid" }], splits });
    expect(counts(found)).toEqual({ "": 80, lid: 16 });
    expect(found.notes).toEqual([
      'There is no patch "absent" to take "x" from.',
      'No face of those without a name lies where "y" is to be.',
      'No face of those without a name lies where "z" is to be.',
    ]);
  });
  test("a face turned over does not cut a smooth piece in two", () => {
    const turned = stitch(polygons(BOX.map((f, k) => (k === 90 ? [...f].reverse() : f))));
    expect(patchesOf(turned, ANGLE).pieces).toHaveLength(6);
  });
});

describe("division by what the file says", () => {
  const side = { name: "zone", components: 1, values: Float64Array.from(BOX, (_, f) => (f < 32 ? 7 : f < 64 ? 3 : 12)) };
  const bent = { name: "p", components: 1, values: Float64Array.from(BOX, (_, f) => f + 0.5) };
  const own = { name: "id", components: 1, values: Float64Array.from(BOX, (_, f) => f) };
  const s = stitch(polygons(BOX, [side, bent, own]));
  test("by an array of whole numbers, of which only those that repeat are offered", () => {
    expect(patchesOf(s, { ...ANGLE, division: { by: "array", array: "zone" } }).pieces.map((p) => [p.called, p.faces])).toEqual([
      ["zone 7", 32],
      ["zone 3", 32],
      ["zone 12", 32],
    ]);
    expect(dividingArrays(s.grid)).toEqual(["zone"]);
  });
  test("by the file's own parts", () => {
    const parts = [
      { name: "body", from: 0, to: 60 },
      { name: "foot", from: 60, to: 96 },
    ];
    expect(patchesOf({ ...s, grid: { ...s.grid, parts } }, { ...ANGLE, division: { by: "parts" } }).pieces.map((p) => [p.called, p.faces])).toEqual([
      ["body", 60],
      ["foot", 36],
    ]);
  });
  test.each<[string, PatchRecipe["division"], string]>([
    ["an array that is not there", { by: "array", array: "q" }, 'no array "q"'],
    ["an array of fractions", { by: "array", array: "p" }, "not whole numbers"],
    ["parts the file has not", { by: "parts" }, "no named parts"],
  ])("refused: %s", (_what, division, words) => {
    expect(() => patchesOf(s, { ...ANGLE, division })).toThrow(NoDivision);
    expect(() => patchesOf(s, { ...ANGLE, division })).toThrow(words);
  });
});
