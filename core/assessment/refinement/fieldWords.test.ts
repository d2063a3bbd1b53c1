import { describe, expect, test } from "vitest";
import type { Concentration, Place } from "../../dataset/places.ts";
import type { FieldStudy } from "../../study/fieldStudy.ts";
import { fieldSentences, whereSentence } from "./fieldWords.ts";

/** Figures and their signs hold together by a narrow space that does not break. */
const plain = (s: string) => s.replaceAll("\u00a0", " ");
const error = Float64Array.of(0.5, 0.012, 3e-4);
const peak = { cell: 1, at: [0.1, 0.2] } as const;
const where = (place?: Partial<Place>): Concentration => ({
  sideM: 0.1,
  worstTenth: 0.284,
  peak,
  ...(place ? { place: { kind: "corner", names: ["top", "right"], at: [[0.1, 0.1]], withinM: 0.01, share: 0.82, areaShare: 0.016, ...place } } : {}),
});
const study: FieldStudy = {
  onto: 1,
  way: "averages",
  values: [],
  error,
  norms: [],
  missing: 0,
  leastCovered: 1,
};
const about = { unit: "m/s", formalOrder: 2, mesh: "40 × 40", inTime: false };
const points = { order: error, error, band: error, orders: [], shares: { monotone: 0.9, oscillating: 0.1, diverging: 0, settled: 0 } };

describe("where the error sits", () => {
  test.each([
    [{}, "the corner where top meets right (0.100, 0.100 m)"],
    [{ names: ["step", "step"] }, "the corner of step at (0.100, 0.100 m)"],
    [
      {
        kind: "ends",
        names: ["lid"],
        at: [
          [0, 0.1],
          [0.1, 0.1],
        ],
      },
      "the corners of lid (0, 0.100; 0.100, 0.100 m)",
    ],
    [{ kind: "corners", names: [] }, "the corners (0.100, 0.100 m)"],
    [{ kind: "boundary", names: ["post"], at: [] }, "the boundary post"],
    [{ kind: "spot", names: [] }, "the spot at (0.100, 0.100 m)"],
  ] as const)("%j", (place, words) => {
    expect(plain(whereSentence(where(place as Partial<Place>), error, "m/s"))).toBe(
      `82 % of the estimated error lies within 0.010 m (0.10 of the smaller side) of ${words}, on 1.6 % of the area. It is largest at x 0.100, y 0.200 m: 0.012 m/s.`,
    );
  });

  test("nowhere in particular; a pure number has no unit", () => {
    expect(plain(whereSentence(where(), error, "1"))).toBe(
      "The estimated error is spread: the tenth of the area where it is densest holds 28 % of it. It is largest at x 0.100, y 0.200 m: 0.012.",
    );
  });
});

describe("what a study says", () => {
  test("with three meshes: order, shares, mean local order", () => {
    const [said] = fieldSentences({ ...study, normOrder: 1.98, points: { ...points, averageOrder: 2.04 } }, about);
    expect(plain(said)).toBe(
      "The root mean square of the change from mesh to mesh falls at order 1.98, formal 2. Of the area 90 % converges, 10 % oscillates; mean local order 2.04.",
    );
  });

  test("a change that does not fall has no order", () => {
    expect(fieldSentences({ ...study, points }, about)[0]).toMatch(
      /^The root mean square of the change from mesh to mesh does not fall\. Of the area/,
    );
  });

  test("with two: none is claimed; without an error: said", () => {
    expect(fieldSentences(study, about).slice(0, 2)).toEqual([
      "Two meshes show no order; the error is estimated as if it fell at the formal order 2.",
      "No error can be told: the meshes agree to within rounding.",
    ]);
  });

  test("of a flow in time it is said which moment is compared", () => {
    expect(fieldSentences(study, about)).toHaveLength(3);
    expect(fieldSentences(study, { ...about, inTime: true })[3]).toMatch(/^Each field is that of the end of its run/);
  });

  test("cells without a value or covered in part are told of", () => {
    const last = (s: Partial<FieldStudy>) => plain(fieldSentences({ ...study, ...s }, about)[2]);
    expect(last({})).toBe("All meshes were brought to 40 × 40 as averages over its cells, which keep what the overlaps hold.");
    expect(last({ way: "points" })).toContain("as values at the middle of its cells.");
    expect(last({ missing: 3 })).toContain("3 of its cells lie to more than half outside another mesh and are left out.");
    expect(last({ leastCovered: 0.93 })).toContain("at least 93 % of it, that part stands for the whole.");
  });
});
