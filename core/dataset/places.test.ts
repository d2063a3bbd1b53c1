import { describe, expect, test } from "vitest";
import { rectangleMesh } from "../mesh/rectangle.ts";
import { shapedRectangle } from "../mesh/shaped.ts";
import { concentrationOf, cornersOf } from "./places.ts";

const uniform = { kind: "uniform" } as const;
const box = { lengthM: 2, heightM: 1, nx: 80, ny: 40, gradingX: uniform, gradingY: uniform, periodicX: false };
const mesh = rectangleMesh(box);

const from = (density: (x: number, y: number) => number) =>
  concentrationOf(
    mesh,
    Float64Array.from({ length: mesh.cellCount }, (_, c) => density(mesh.centroidM[2 * c], mesh.centroidM[2 * c + 1])),
  );
const bump = (x0: number, y0: number, width: number) => (x: number, y: number) => Math.exp(-((x - x0) ** 2 + (y - y0) ** 2) / width ** 2);

test("a rectangle has four corners, each between two boundaries; a cut rim of triangles has no others", () => {
  for (const m of [mesh, shapedRectangle({ ...box, nx: 12, ny: 6 }, "triangles")]) {
    const found = cornersOf(m);
    expect(found.map((k) => k.at.map((v) => Math.round(1e9 * v) / 1e9).join()).sort()).toEqual(["0,0", "0,1", "2,0", "2,1"]);
    expect(found.every((k) => k.between[0] !== k.between[1])).toBe(true);
  }
});

describe("where an amount sits", () => {
  test("at both ends of the top: said as its ends, with their coordinates", () => {
    const c = from((x, y) => bump(0, 1, 0.04)(x, y) + bump(2, 1, 0.04)(x, y));
    expect(c?.place).toMatchObject({ kind: "ends", names: ["top"], withinM: 0.05 });
    expect(c?.place?.at.map((p) => p[0]).sort()).toEqual([0, 2]);
    // Within r of a Gaussian's middle lies 1 - exp(-(r/w)^2) of it, as of its quarter in the corner.
    expect(c?.place?.share).toBeCloseTo(1 - Math.exp(-((0.05 / 0.04) ** 2)), 1);
    expect(c?.sideM).toBe(1);
  });

  test("at one corner alone: that corner", () => {
    expect(from(bump(2, 0, 0.04))?.place).toMatchObject({ kind: "corner", at: [[2, 0]], names: expect.arrayContaining(["bottom", "right"]) });
  });

  test("along a wall: that wall, as thick as it is", () => {
    const place = from((_, y) => (y < 0.1 ? 1 : 0))?.place;
    expect(place).toMatchObject({ kind: "boundary", names: ["bottom"], withinM: 0.05 });
    expect(place?.share).toBeCloseTo(0.5, 6);
    expect(place?.areaShare).toBeCloseTo(0.05, 6);
  });

  test("round a spot inside: its middle", () => {
    const c = from(bump(0.7, 0.5, 0.05));
    expect(c?.place?.kind).toBe("spot");
    expect(c?.place?.at[0][0]).toBeCloseTo(0.7, 1);
    expect(c?.peak.at[0]).toBeCloseTo(0.7, 1);
  });

  test("spread evenly: nowhere, and a tenth of the area holds a tenth", () => {
    const c = from(() => 3);
    expect(c?.place).toBeUndefined();
    expect(c?.worstTenth).toBeCloseTo(0.1, 12);
  });

  test("a twentieth of the area with all of it: the worst tenth holds it all", () => {
    expect(from((x) => (x < 0.1 ? 1 : 0))?.worstTenth).toBeCloseTo(1, 12);
  });

  test("nothing to place, or no values: nothing is said; single gaps are passed over", () => {
    expect(from(() => 0)).toBeUndefined();
    expect(from(() => Number.NaN)).toBeUndefined();
    expect(from((x, y) => (x > 1.5 ? Number.NaN : bump(0, 1, 0.04)(x, y)))?.place?.at).toEqual([[0, 1]]);
  });
});
