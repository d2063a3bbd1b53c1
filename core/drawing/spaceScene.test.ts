import { describe, expect, test } from "vitest";
import { acrossAxis } from "../dataset/cutGrid.ts";
import type { Grid } from "../dataset/grid.ts";
import { hexahedra } from "../dataset/made.ts";
import { fieldColor } from "./fieldRaster.ts";
import { lineProfile } from "./lineProfile.ts";
import type { SceneAsked } from "./sceneAsked.ts";
import { type ScenePart, spaceScene } from "./spaceScene.ts";
import { Volume } from "./volume.ts";

/** 6 x 6 x 6 hexahedra from -1 to 1: a flow that turns about z and rises, on points; x of each cell's middle, on cells. */
const base = hexahedra([6, 6, 6], (i, j, k) => [i / 3 - 1, j / 3 - 1, k / 3 - 1]);
const points = Array.from({ length: base.points.length / 3 }, (_, q) => base.points.subarray(3 * q, 3 * q + 3));
const grid: Grid = {
  ...base,
  onPoints: [
    { name: "U, m/s", components: 3, values: Float64Array.from(points.flatMap(([x, y]) => [-y, x, 0.1])) },
    { name: "height", components: 1, values: Float64Array.from(points, ([, , z]) => z) },
  ],
  onCells: [{ name: "x", components: 1, values: Float64Array.from(base.kinds, (_, c) => (2 * (c % 6) + 1) / 6 - 1) }],
};
const volume = new Volume(grid);
const plain: SceneAsked = { smooth: false, range: "seen", outside: "outline", planes: [], equal: 0 };
const height = { name: "height", on: "points", component: 0 } as const;
const x = { name: "x", on: "cells", component: 0 } as const;
const triangles = (p: ScenePart) => p.positions.length / 9;
/** Area of a part, in the grid's unit. */
const areaOf = ({ positions: p }: ScenePart): number => {
  let sum = 0;
  for (let t = 0; t < p.length; t += 9) {
    const [u, v] = [3, 6].map((k) => [0, 1, 2].map((d) => p[t + k + d] - p[t + d]));
    sum += Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
  }
  return sum * volume.radius ** 2;
};

describe("a volume", () => {
  test("says what it holds, and what its arrays may be", () => {
    const look = volume.look();
    expect(look).toMatchObject({
      cells: 216,
      solid: 216,
      points: 343,
      kinds: [{ name: "hexahedron", count: 216 }],
      low: [-1, -1, -1],
      high: [1, 1, 1],
    });
    expect(look.arrays.map((a) => [a.name, a.on, a.components, a.unit])).toEqual([
      ["x", "cells", 1, ""],
      ["U, m/s", "points", 3, "m/s"],
      ["height", "points", 1, ""],
    ]);
    expect(look.guessed.map((g) => [g.name, g.role, g.unit])).toEqual([
      ["x", "ignore", ""],
      ["U, m/s", "velocity", "m/s"],
      ["height", "ignore", ""],
    ]);
    expect(look.arrays[1].high).toBeCloseTo(Math.hypot(1, 1, 0.1), 12);
  });
  test("has twelve sharp edges, of six stretches each", () => {
    expect(volume.outline()).toHaveLength(12 * 6 * 6);
  });
  test("is asked at a place: its cell, values of cells as they are, of points between them", () => {
    expect(volume.probe([0.5, 0.1, 0.3])).toEqual({
      cell: 4 + 6 * 3 + 36 * 3,
      values: [
        { key: { name: "x", on: "cells" }, values: [grid.onCells[0].values[4]] },
        { key: { name: "U, m/s", on: "points" }, values: [expect.closeTo(-0.1, 12), expect.closeTo(0.5, 12), expect.closeTo(0.1, 12)] },
        { key: { name: "height", on: "points" }, values: [expect.closeTo(0.3, 12)] },
      ],
    });
    expect(volume.probe([2, 0, 0])).toBeUndefined();
  });
  test("keeps the fields that were made of it, and one of the same name once", () => {
    const own = new Volume(grid);
    const said = { unitM: 1, densityKgM3: 1, arrays: [{ name: "U, m/s", on: "points", role: "velocity", unit: "m/s" }] } as const;
    expect(own.make(said, { kind: "vorticity" })).toMatchObject({ name: "vorticity, 1/s", on: "cells", components: 3, unit: "1/s" });
    own.make(said, { kind: "vorticity" });
    const made = own.look().arrays.filter((a) => a.made);
    expect(made).toHaveLength(1);
    expect(made[0].high).toBeCloseTo(2, 9);
    expect(own.onPoints({ name: "vorticity, 1/s", on: "cells" }).values[2]).toBeCloseTo(2, 9);
    expect(() => own.find({ name: "nothing", on: "cells" })).toThrow('no field "nothing" on cells');
  });
});

describe("a scene of it", () => {
  test("of the outside has every face of it, in the colours of the values", () => {
    const { parts, range, scheme } = spaceScene(volume, { ...plain, outside: "whole", colour: height });
    expect(parts.map((p) => [p.what, triangles(p)])).toEqual([["outside", 6 * 36 * 2]]);
    expect(areaOf(parts[0])).toBeCloseTo(24, 4);
    expect([range, scheme]).toEqual([[-1, 1], "signed"]);
    const top = Array.from({ length: parts[0].positions.length / 3 }, (_, k) => k).filter(
      (k) => parts[0].positions[3 * k + 2] * volume.radius > 0.999,
    );
    for (const k of top) expect([...parts[0].colors.subarray(3 * k, 3 * k + 3)]).toEqual(fieldColor(1, "signed"));
  });
  test("without a colour it is plain, and with cell values each polygon has one", () => {
    const [bare] = spaceScene(volume, { ...plain, outside: "whole" }).parts;
    expect(new Set(bare.colors).size).toBe(3);
    const [cut] = spaceScene(volume, { ...plain, colour: x, planes: [acrossAxis(2, 0.1)] }).parts;
    for (let t = 0; t < cut.colors.length; t += 9)
      for (let d = 0; d < 3; d++) expect(new Set([cut.colors[t + d], cut.colors[t + 3 + d], cut.colors[t + 6 + d]]).size).toBe(1);
    const [even] = spaceScene(volume, { ...plain, smooth: true, colour: x, planes: [acrossAxis(2, 0.1)] }).parts;
    expect(Array.from({ length: triangles(even) }, (_, t) => even.colors[9 * t] !== even.colors[9 * t + 3])).toContain(true);
  });
  test("cut away above one of its planes, half of the outside is left, and the cut closes it", () => {
    const asked: SceneAsked = { ...plain, outside: "whole", colour: height, planes: [acrossAxis(0, 0.1), acrossAxis(1, 0)], clip: 0 };
    const { parts, notes } = spaceScene(volume, asked);
    expect(parts.map((p) => p.what)).toEqual(["outside", "cut", "cut"]);
    expect(areaOf(parts[0])).toBeCloseTo(4 + 4 * 1.1 * 2, 4);
    expect(areaOf(parts[1])).toBeCloseTo(4, 4);
    expect(areaOf(parts[2])).toBeCloseTo(2.2, 4);
    expect(notes).toEqual(["Cut 1 at x 0.1: 36 cells.", "Cut 2 at y 0: 36 cells."]);
  });
  test("of some of its cells has the faces round these, and cuts through these alone", () => {
    const asked: SceneAsked = { ...plain, outside: "whole", colour: x, keep: { ...x, low: 0, high: 1 }, planes: [acrossAxis(2, 0.1)] };
    const { parts, notes, range } = spaceScene(volume, asked);
    expect(areaOf(parts[0])).toBeCloseTo(2 * (4 + 2 + 2), 4);
    expect(areaOf(parts[1])).toBeCloseTo(2, 4);
    expect(range[0]).toBeCloseTo(1 / 6, 12);
    expect(notes).toEqual(["108 of 216 cells have x from 0 to 1.", "Cut 1 at z 0.1: 18 cells."]);
    const middle = spaceScene(volume, { ...plain, outside: "whole", keep: { ...height, low: -0.6, high: 0.6 } });
    expect(middle.notes).toEqual(["144 of 216 cells have height, as the mean of their corners, from -0.6 to 0.6."]);
    expect(areaOf(middle.parts[0])).toBeCloseTo(2 * 4 + 4 * 2 * (4 / 3), 4);
  });
  test("says what the field comes to over each cut, the whole of it, and what a vector carries through", () => {
    const asked: SceneAsked = { ...plain, planes: [acrossAxis(2, 0.1), acrossAxis(0, 0.5)], clip: 1 };
    const u = spaceScene(volume, { ...asked, colour: { name: "U, m/s", on: "points", component: "size" } }).integrals;
    expect(u.map((i) => [i.number, i.name])).toEqual([
      [0, "U, m/s"],
      [1, "U, m/s"],
    ]);
    expect(u[0]).toMatchObject({ area: expect.closeTo(4, 9), through: expect.closeTo(0.4, 9), gaps: 0 });
    expect(u[1].through).toBeCloseTo(0, 9);
    expect(u[1].mean[1]).toBeCloseTo(0.5, 9);
    expect(spaceScene(volume, { ...asked, colour: height }).integrals[0].mean[0]).toBeCloseTo(0.1, 9);
    expect(spaceScene(volume, asked).integrals).toEqual([]);
  });
  test("of one value has its surface, whose colours are of another field", () => {
    const { parts, natural, notes } = spaceScene(volume, {
      ...plain,
      colour: height,
      level: { name: "U, m/s", on: "points", component: "size", value: 0.5 },
    });
    expect(parts.map((p) => p.what)).toEqual(["level"]);
    // Round the axis, a little less than the circle's own length by the cells' chords.
    expect(areaOf(parts[0])).toBeLessThan(2 * Math.PI * Math.sqrt(0.24) * 2 * 1.15);
    expect(areaOf(parts[0])).toBeGreaterThan(2 * Math.PI * Math.sqrt(0.24) * 2 * 0.8);
    expect(natural).toEqual([-1, 1]);
    expect(notes).toEqual([expect.stringMatching(/^Surface of U, m\/s 0.5: \d+ polygons\.$/)]);
  });
  test("a half model stands beside its mirror image, which is not counted", () => {
    const asked: SceneAsked = { ...plain, outside: "whole", colour: x, planes: [acrossAxis(2, 0.1)], mirror: { axis: 0, at: 1 } };
    const [alone, both] = [spaceScene(volume, { ...asked, mirror: undefined }), spaceScene(volume, asked)];
    expect(areaOf(both.parts[0])).toBeCloseTo(2 * areaOf(alone.parts[0]), 4);
    expect(both.outline).toHaveLength(2 * alone.outline.length);
    const reach = (p: ScenePart) => Math.max(...Array.from({ length: p.positions.length / 3 }, (_, k) => p.positions[3 * k])) * volume.radius;
    expect(reach(both.parts[1])).toBeCloseTo(3, 5);
    expect(both.natural).toEqual(alone.natural);
    expect(both.notes.at(-1)).toBe("Mirrored at x 1 for looking: nothing of the image is counted, and no line was followed in it.");
  });
  test("what is not there is said, and the rest is drawn", () => {
    const { parts, notes } = spaceScene(volume, { ...plain, outside: "whole", planes: [acrossAxis(1, 7)], level: { ...height, value: 9 } });
    expect(parts.map((p) => p.what)).toEqual(["outside"]);
    expect(notes[0]).toContain("The plane at y 7 cuts no cell");
    expect(notes[1]).toContain("height is 9 nowhere");
  });
  test("colours reach over what is seen, all there is, or what was typed", () => {
    const cut = { ...plain, colour: height, planes: [acrossAxis(2, 0.5)] };
    expect(spaceScene(volume, cut).range[0]).toBeCloseTo(0.5, 12);
    expect(spaceScene(volume, { ...cut, range: "whole" }).natural).toEqual([-1, 1]);
    expect(spaceScene(volume, { ...cut, range: [0, 4] })).toMatchObject({ range: [0, 4], scheme: "even" });
  });
  test("lines begin at a point, along a line or over a cut, in the colour's values, and say how they end", () => {
    const lines = { of: { name: "U, m/s", on: "points" }, sense: "both" } as const;
    const one = spaceScene(volume, { ...plain, colour: height, lines: { ...lines, seeds: { from: "point", at: [0.4, 0, 0] } } });
    expect(one.ends).toEqual([{ end: "left", count: 2 }]);
    expect(one.notes).toEqual(["Of 2 lines 2 left the cells."]);
    expect(one.streams.colors.length).toBe(one.streams.positions.length);
    expect(one.natural[0]).toBeCloseTo(-1, 5);
    const row = spaceScene(volume, {
      ...plain,
      lines: { ...lines, sense: "with", seeds: { from: "line", at: [0.2, 0, 0], to: [1.8, 0, 0], count: 5 } },
    });
    expect(row.notes.join()).toContain("2 of 5 places where lines were to begin lie in no cell");
    const cut = spaceScene(volume, {
      ...plain,
      planes: [acrossAxis(2, -0.5)],
      lines: { ...lines, sense: "against", seeds: { from: "cut", count: 12 } },
    });
    expect(cut.ends.reduce((s, e) => s + e.count, 0)).toBe(12);
  });
  test("arrows stand on the cuts, none longer than their raster; lines of equal value lie where the value does", () => {
    const asked: SceneAsked = { ...plain, colour: height, planes: [acrossAxis(0, 0.1)], arrows: { name: "U, m/s", on: "points" }, equal: 3 };
    const { arrows, equal } = spaceScene(volume, asked);
    expect(arrows.length % 18).toBe(0);
    expect(arrows.length).toBeGreaterThan(18 * 20);
    const heights = new Set(Array.from({ length: equal.length / 3 }, (_, k) => (equal[3 * k + 2] * volume.radius).toFixed(4)));
    expect([...heights].map(Number).sort((a, b) => a - b)).toEqual([-0.5, 0, 0.5]);
  });
});

describe("values along a line", () => {
  test("are linear between points, steps between cells, and gaps outside, which is said", () => {
    const along = lineProfile(
      volume,
      height,
      false,
      [
        [0.05, 0.05, -0.9],
        [0.05, 0.05, 1.1],
      ],
      5,
    );
    expect(along.way).toEqual([0, 0.5, 1, 1.5, 2]);
    [-0.9, -0.4, 0.1, 0.6].forEach((v, k) => {
      expect(along.values[k]).toBeCloseTo(v, 9);
    });
    expect(along.values[4]).toBeNaN();
    expect(along.said).toBe("values on points, linear between them; 1 of 5 places lie in no cell");
    expect(
      lineProfile(
        volume,
        x,
        false,
        [
          [-0.9, 0.1, 0.1],
          [0.9, 0.1, 0.1],
        ],
        7,
      ).values[0],
    ).toBeCloseTo(-5 / 6, 12);
    expect(
      lineProfile(
        volume,
        x,
        true,
        [
          [-0.3, 0.1, 0.1],
          [0.3, 0.1, 0.1],
        ],
        3,
      ).values[1],
    ).toBeCloseTo(0, 9);
    expect(() =>
      lineProfile(
        volume,
        x,
        false,
        [
          [0, 0, 0],
          [0, 0, 0],
        ],
        7,
      ),
    ).toThrow(RangeError);
  });
  test("with corners go on round each of them, at even steps over the whole way", () => {
    const corners = [
      [-0.8, 0.05, -0.5],
      [-0.8, 0.05, 0.5],
      [0.7, 0.05, 0.5],
    ] as const;
    const { way, places, values } = lineProfile(volume, height, false, corners, 6);
    expect(way).toEqual([0, 0.5, 1, 1.5, 2, 2.5].map((s) => expect.closeTo(s, 12)));
    expect(places[2]).toEqual([-0.8, 0.05, 0.5].map((v) => expect.closeTo(v, 12)));
    expect(places[4]).toEqual([0.2, 0.05, 0.5].map((v) => expect.closeTo(v, 12)));
    // The field is the height itself: it rises along the first leg and stays along the second.
    expect(values).toEqual([-0.5, 0, 0.5, 0.5, 0.5, 0.5].map((v) => expect.closeTo(v, 9)));
    expect(() => lineProfile(volume, height, false, [corners[0], corners[1], corners[1]], 6)).toThrow("corners that differ");
    expect(() => lineProfile(volume, height, false, [corners[0]], 6)).toThrow(RangeError);
  });
});
