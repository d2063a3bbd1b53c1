import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { cellTree } from "./cellTree.ts";
import { Finder } from "./finder.ts";
import type { Grid } from "./grid.ts";
import { hexahedra } from "./made.ts";
import { streamline } from "./streamline.ts";
import type { Vector } from "./vector.ts";

/** n hexahedra a side from -1 to 1, bent inside, with a field of three components on points. */
function cube(n: number, bent: number, field: (x: Vector) => Vector): Grid & { readonly velocity: Grid["onPoints"][number] } {
  const grid = hexahedra([n, n, n], (i, j, k) => {
    const inner = [i, j, k].every((m) => m > 0 && m < n);
    return [i, j, k].map((m, d) => -1 + (2 * m) / n + (inner ? bent * Math.sin(3 * i + 5 * j + 7 * k + d) : 0)) as unknown as Vector;
  });
  const values = new Float64Array(grid.points.length);
  for (let q = 0; q < values.length; q += 3) values.set(field([grid.points[q], grid.points[q + 1], grid.points[q + 2]]), q);
  return { ...grid, velocity: { name: "U", components: 3, values } };
}

const lineOf = (grid: ReturnType<typeof cube>, seed: Vector, sense: 1 | -1 = 1, fastest = 2) =>
  streamline(new Finder(grid, cellTree(grid)), grid.velocity, seed, sense, fastest);
const last = (places: Float64Array): number[] => [...places.subarray(-3)];
const turning = (x: Vector): Vector => [-x[1], x[0], 0.1];

describe("what is where", () => {
  const linear = (x: Vector): Vector => [1 + x[0] - 2 * x[1], 3 * x[2], x[0] + x[1] + x[2]];
  const number = fc.double({ min: -1, max: 1, noNaN: true });
  test("a field linear in space is met exactly in bent cells, and every place inside lies in one", () => {
    const grid = cube(4, 0.06, linear);
    const finder = new Finder(grid, cellTree(grid));
    const out = new Float64Array(3);
    fc.assert(
      fc.property(number, number, number, (x, y, z) => {
        expect(finder.valueAt([x, y, z], grid.velocity, out)).toBe(true);
        linear([x, y, z]).forEach((v, d) => {
          expect(out[d]).toBeCloseTo(v, 8);
        });
      }),
      { numRuns: 300 },
    );
  });
  test("the middle of each cell lies in that cell; outside there is none", () => {
    const grid = cube(3, 0, linear);
    const finder = new Finder(grid, cellTree(grid));
    for (let c = 0; c < 27; c++) {
      const place = [c % 3, Math.floor(c / 3) % 3, Math.floor(c / 9)].map((m) => -2 / 3 + (2 * m) / 3) as unknown as Vector;
      expect(finder.cellAt(place)).toBe(c);
      expect(finder.sizeOf(c)).toBeCloseTo(2 / 3, 12);
    }
    expect(finder.cellAt([1.001, 0, 0])).toBe(-1);
    expect(finder.valueAt([0, -1.5, 0], grid.velocity, new Float64Array(3))).toBe(false);
  });
});

describe("lines along a velocity", () => {
  test("in a flow that turns and rises every line is a helix, wherever cells meet, and knows its time", () => {
    const line = lineOf(cube(6, 0.04, turning), [0.6, 0, -0.5]);
    if (!line) throw new Error("no line");
    expect(line.end).toBe("left");
    for (let k = 0; k < line.times.length; k++) {
      const t = line.times[k];
      expect(line.places[3 * k]).toBeCloseTo(0.6 * Math.cos(t), 4);
      expect(line.places[3 * k + 1]).toBeCloseTo(0.6 * Math.sin(t), 4);
      expect(line.places[3 * k + 2]).toBeCloseTo(-0.5 + 0.1 * t, 6);
    }
    expect(line.times.at(-1)).toBeCloseTo(15, 5);
  });
  test("against the flow it comes from where it would have come", () => {
    const line = lineOf(cube(5, 0.04, turning), [0.6, 0, 0.9], -1);
    expect(last(line?.places ?? new Float64Array())[2]).toBeCloseTo(-1, 6);
    expect(line?.times.at(-1)).toBeCloseTo(-19, 5);
  });
  test("a line that comes back to its seed is closed, and as long as its circle", () => {
    const line = lineOf(
      cube(6, 0.03, ([x, y]) => [-y, x, 0]),
      [0.5, 0, 0.1],
    );
    expect(line?.end).toBe("closed");
    expect(line?.times.at(-1)).toBeGreaterThan(2 * Math.PI - 0.5);
    expect(line?.times.at(-1)).toBeLessThan(2 * Math.PI + 0.5);
  });
  test("towards a place of rest it ends there; a saddle leads it out along its hyperbola", () => {
    const sink = lineOf(
      cube(4, 0, ([x, y, z]) => [-x, -y, -z]),
      [0.7, 0.3, -0.2],
    );
    expect(sink?.end).toBe("still");
    expect(Math.hypot(...last(sink?.places ?? new Float64Array()))).toBeLessThan(1e-5);
    const saddle = lineOf(
      cube(4, 0.05, ([x, y]) => [x, -y, 0]),
      [0.1, 0.9, 0.05],
    );
    const [x, y] = last(saddle?.places ?? new Float64Array());
    expect(saddle?.end).toBe("left");
    expect(x).toBeCloseTo(1, 6);
    expect(x * y).toBeCloseTo(0.09, 6);
    expect(saddle?.times.at(-1)).toBeCloseTo(Math.log(10), 5);
  });
  test("a seed outside makes none", () => {
    expect(lineOf(cube(2, 0, turning), [3, 0, 0])).toBeUndefined();
  });
});
