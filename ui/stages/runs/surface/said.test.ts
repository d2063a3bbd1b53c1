import { expect, test } from "vitest";
import { boxFaces, polygons } from "@/core/dataset/made";
import { stitch } from "@/core/dataset/stitch";
import { lookAtSurface } from "@/core/intake/surfaceLook";
import type { SurfaceRecord } from "@/core/records/surfaces";
import { firstTyped, inputOf, patchesOf, patchNames, recipeOf } from "./said";

const BOX = boxFaces([0, 0, 0], [2, 1, 0.5], 4);
const grid = polygons(BOX, [
  { name: "p (Pa)", components: 1, values: Float64Array.from(BOX, (_, k) => k + 0.5) },
  { name: "zone", components: 1, values: Float64Array.from(BOX, (_, k) => (k < 32 ? 1 : 2)) },
]);
const look = lookAtSurface(stitch(grid));
const QUANTITIES = [
  { key: "d", name: "drag", unit: "N" },
  { key: "c", name: "drag coefficient", unit: "1" },
  { key: "t", name: "temperature", unit: "K" },
];
const CONDITIONS = { densityKgM3: 1.274, velocityMS: 8, lengthM: 1.2 };
const FILE = { hash: "0".repeat(64), name: "box.vtp" };

test("at first there stands what the file tells: roles, its own pieces with their words, normals; nothing is held against anything", () => {
  const t = firstTyped(look, QUANTITIES, CONDITIONS, null);
  expect(t).toMatchObject({ division: { by: "array", array: "zone" }, names: ["zone 1", "zone 2"], normals: "out of the body" });
  expect(t.roles["cells p (Pa)"]).toEqual({ role: "pressure", unit: "Pa" });
  expect(t.links.map((l) => [l.quantityKey, l.of, l.density, l.speed])).toEqual([
    ["d", "", "1.274 kg/m^3", "8 m/s"],
    ["c", "", "1.274 kg/m^3", "8 m/s"],
  ]);
  const input = inputOf(t, look, QUANTITIES, FILE);
  expect(input.links).toEqual([]);
  expect(input.arrays).toEqual([{ name: "p (Pa)", on: "cells", role: "pressure", unit: "Pa" }]);
  expect(input.names.map((n) => n.name)).toEqual(["zone 1", "zone 2"]);
});

test("what was said before stands there again, and goes out as it was", () => {
  const t = firstTyped(look, QUANTITIES, CONDITIONS, null);
  const link = { ...t.links[1], of: "moment" as const, patches: "zone 1", direction: ["0", "1,5", "0"] as const, area: "2 m^2" };
  const input = inputOf({ ...t, links: [link], reference: "3 Pa", about: ["1", "0", "0"] }, look, QUANTITIES, FILE);
  expect(input.links).toEqual([
    {
      quantityKey: "c",
      of: "moment",
      patches: ["zone 1"],
      direction: [0, 1.5, 0],
      factor: 1,
      coefficient: { density: "1.274 kg/m^3", speed: "8 m/s", area: "2 m^2", length: "1.2 m" },
    },
  ]);
  const said = {
    ...input,
    recipe: { division: input.division, names: input.names, splits: [] },
    referencePa: 3,
    links: [{ ...input.links[0], coefficient: { densityKgM3: 1.274, speedMS: 8, areaM2: 2, lengthM: 1.2 } }],
  };
  const named = lookAtSurface(stitch(grid), undefined, input.names);
  const again = firstTyped(named, QUANTITIES, {}, { file: FILE, said, found: {} } as unknown as SurfaceRecord);
  expect(inputOf(again, look, QUANTITIES, FILE)).toEqual(input);
});

test("an entry that is no number is named", () => {
  const t = firstTyped(look, QUANTITIES, CONDITIONS, null);
  expect(() => inputOf({ ...t, about: ["0", "far", "0"] }, look, QUANTITIES, FILE)).toThrow('Moments about, y: "far" is not a number.');
  const link = { ...t.links[0], of: "force" as const, factor: "" };
  expect(() => inputOf({ ...t, links: [link] }, look, QUANTITIES, FILE)).toThrow('Factor of drag: "" is not a number.');
});

test("names go to the piece whose face is nearest; the whole, all that have a name, and some of them", () => {
  // On the second zone, though nearer to the middle of the first.
  expect(lookAtSurface(stitch(grid), undefined, [{ at: [0.1, 0.5, 0], name: "foot" }]).names).toEqual(["", "foot"]);
  const recipe = recipeOf({ ...firstTyped(look, QUANTITIES, CONDITIONS, null), names: [" front ", ""] }, look.pieces);
  expect(patchNames(recipe)).toEqual(["front"]);
  expect([patchesOf("", ["a"]), patchesOf("*", ["a", "b"]), patchesOf("a ,b,", ["a", "b"])]).toEqual([[], ["a", "b"], ["a", "b"]]);
});
