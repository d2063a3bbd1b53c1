import { describe, expect, test } from "vitest";
import type { Grid } from "../../dataset/grid.ts";
import { hexahedra } from "../../dataset/made.ts";
import { SlopeWork } from "../../dataset/slopes.ts";
import { aroundGrid, HOLES, OFF_BOX } from "./around.ts";
import { departureFrom, proposedLengths, reachOfDisturbance } from "./reach.ts";

/** Cubes of side 0.5 from -half to half (z from `floor`), without those of a cube of side 1 about the origin. */
function roundCube(half: number, floor = -half): Grid {
  const [n, nz] = [4 * half, 2 * (half - floor)];
  const whole = hexahedra([n, n, nz], (i, j, k) => [i / 2 - half, j / 2 - half, k / 2 + floor]);
  const middle = (c: number) => [c % n, Math.floor(c / n) % n, Math.floor(c / n / n)].map((m, d) => (m + 0.5) / 2 + (d === 2 ? floor : -half));
  const kept = Array.from(whole.kinds.keys()).filter((c) => Math.max(...middle(c).map(Math.abs)) > 0.5);
  return {
    ...whole,
    kinds: whole.kinds.slice(0, kept.length),
    cellStart: whole.cellStart.slice(0, kept.length + 1),
    corners: Int32Array.from(kept.flatMap((c) => [...whole.corners.subarray(8 * c, 8 * c + 8)])),
  };
}

function reach(grid: Grid, of: (x: number, y: number, z: number) => number, free: number, limit: number, body: string, unitM = 1) {
  const work = new SlopeWork(grid);
  const m = work.middles;
  const values = Float64Array.from(grid.kinds, (_, c) => of(m[3 * c], m[3 * c + 1], m[3 * c + 2]));
  return reachOfDisturbance(aroundGrid(work, unitM), departureFrom(values, free), limit, body);
}
const cubic = (x: number, y: number, z: number) => 2 - (x * x + y * y + z * z) ** -1.5;

describe("how far a disturbance reaches in space", () => {
  test("one that falls with the cube of the distance reaches as far as the cube root of the limit says, all six ways, in metres", () => {
    const found = reach(roundCube(6), cubic, 2, 0.01, HOLES, 0.001);
    expect(found.ways.map((w) => w.way)).toEqual(["−x", "+x", "−y", "+y", "−z", "+z"]);
    expect(found.bodyM).toBeCloseTo(0.001, 15);
    for (const w of found.ways) {
      expect(w.cutOff).toBe(false);
      // From the cube's side, half a length from its middle.
      expect(Math.abs(1000 * w.extentM - (100 ** (1 / 3) - 0.5))).toBeLessThan(0.07);
      expect(w.roomM).toBeCloseTo(0.0055, 12);
      expect(proposedLengths(w, found.bodyM)).toBe(5);
    }
  });
  test("a body that stands on the floor has no hole, but does not lie on the box; below it there is no room and nothing is known", () => {
    const standing = roundCube(5, -0.5);
    expect(() => reach(standing, cubic, 2, 0.02, HOLES)).toThrow("has no hole");
    const { ways, bodyM } = reach(standing, cubic, 2, 0.02, OFF_BOX);
    expect(bodyM).toBeCloseTo(1, 12);
    const [west, east, south, north, down, up] = ways;
    for (const w of [west, east, south, north, up]) expect(Math.abs(w.extentM - (50 ** (1 / 3) - 0.5))).toBeLessThan(0.07);
    // The last cell on the floor within the region reaches to 4, the region to 3.79.
    for (const w of reach(standing, cubic, 2, 3.79 ** -3, OFF_BOX).ways.filter((x) => x.roomM > 0))
      expect(Math.abs(w.extentM - 3.29)).toBeLessThan(0.07);
    expect(down).toEqual({ way: "−z", extentM: 0, roomM: 0, cutOff: false });
  });
  test("a wake that leaves the domain is cut off on that way alone; where it would end follows from how it falls", () => {
    const wake = (x: number, y: number, z: number) => (x > 0 && Math.hypot(y, z) < 1 ? 1 - 0.2 / Math.max(x, 0.5) : 1);
    const ways = reach(roundCube(6), wake, 1, 0.02, HOLES).ways;
    expect(ways.map((w) => w.cutOff)).toEqual([false, true, false, false, false, false]);
    expect(Math.abs((ways[1].expectedM ?? 0) - 9.5)).toBeLessThan(0.8);
  });
  test("a boundary the file names is the body by its name; another name is refused; gaps in the field count as no departure", () => {
    const grid = roundCube(4);
    const near = Array.from({ length: grid.points.length / 3 }, (_, q) => q).filter((q) =>
      [0, 1, 2].every((d) => Math.abs(grid.points[3 * q + d]) < 0.6),
    );
    const named: Grid = { ...grid, boundaries: [{ name: "crate", points: Int32Array.from(near) }] };
    const gaps = (x: number, y: number, z: number) => (x > 3 ? Number.NaN : cubic(x, y, z));
    expect(reach(named, gaps, 2, 0.05, "crate")).toEqual(reach(named, gaps, 2, 0.05, HOLES));
    expect(() => reach(named, cubic, 2, 0.05, "shelf")).toThrow('no boundary "shelf"');
    expect(() => reach(named, cubic, Number.NaN, 0.05, "crate")).toThrow("a value far away");
  });
});
