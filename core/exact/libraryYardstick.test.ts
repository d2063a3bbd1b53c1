import { describe, expect, test } from "vitest";
import type { FromLibrary, Reference } from "../records/reference.ts";
import { explore } from "./explore.ts";
import { type Conditions, fitOf, followedParameters } from "./fitting.ts";
import { findSolution, LIBRARY } from "./library.ts";
import { canStandFor, libraryYardstick } from "./libraryYardstick.ts";
import type { Solution } from "./solution.ts";

const get = (id: string) => findSolution(id) as Solution;
const AIR: Conditions = {
  values: { velocity: 0.3, length: 0.02, density: 1.274, viscosity: 1.74e-5, reynolds: 439.3 },
  physics: { transient: false, compressible: false, turbulent: false, inviscid: false, heat: false, space: "axisymmetric" },
};
const ASKED = [
  { key: "drop", name: "pressure gradient", unit: "mbar/m" },
  { key: "t", name: "temperature", unit: "degC" },
];
const made = (change: Partial<FromLibrary> = {}): Reference & { made: FromLibrary } => ({
  key: "y",
  name: "Pipe",
  kind: "exact",
  source: "",
  validity: { sentence: "", inside: true },
  values: [],
  profiles: [],
  made: {
    solution: "pipe",
    parameters: { diameterM: 0.02 },
    followed: ["meanMS", "viscosityPaS", "densityKgM3"],
    values: [{ from: "gradient", quantityKey: "drop" }],
    curves: [{ from: "profile", profileKey: "across" }],
    ...change,
  },
});

describe("a yardstick of the library", () => {
  test("is worked out at the case's conditions, in the unit of what it stands for", () => {
    const y = libraryYardstick(made(), AIR, ASKED);
    expect(y.validity).toEqual({ inside: true, sentence: "The Reynolds number of the diameter is 439; it holds up to 2300." });
    expect(y.values).toEqual([
      { quantityKey: "drop", value: expect.closeTo((-32 * 1.74e-5 * 0.3) / 0.02 ** 2 / 100, 10), standardUncertainty: 0, uncertaintyNote: "exact" },
    ]);
    expect(y.profiles[0]).toMatchObject({ profileKey: "across", axes: { abscissa: { unit: "m" }, value: { unit: "m/s" } } });
    expect(y.profiles[0].value[0]).toBeCloseTo(0.6, 12);
    expect(y.source).toContain("Mean velocity 0.3 m/s (the case's)");
    expect(y.source).toContain("Diameter 0.02 m,");
  });
  test("follows the case: at other conditions it has other figures, and outside its range it does not hold", () => {
    const faster = libraryYardstick(made(), { ...AIR, values: { ...AIR.values, velocity: 3 } }, ASKED);
    expect(faster.values[0].value / libraryYardstick(made(), AIR, ASKED).values[0].value).toBeCloseTo(10, 10);
    expect(faster.validity).toEqual({ inside: false, sentence: expect.stringContaining("above 2300") });
  });
  test("what the case no longer says, a parameter out of bounds, and a solution that is gone make it hold nothing, in words", () => {
    const { velocity: _velocity, ...silent } = AIR.values;
    for (const [y, words] of [
      [libraryYardstick(made(), { ...AIR, values: silent }, ASKED), "The case no longer says what it follows: Mean velocity."],
      [libraryYardstick(made({ parameters: { diameterM: -1 } }), AIR, ASKED), "Diameter must lie between"],
      [libraryYardstick(made({ solution: "gone" }), AIR, ASKED), "no solution called gone"],
    ] as const) {
      expect(y.validity).toEqual({ inside: false, sentence: expect.stringContaining(words) });
      expect([y.values, y.profiles]).toEqual([[], []]);
    }
  });
  test("what a correlation leaves open is its uncertainty; temperatures keep their zero; other kinds stand for nothing", () => {
    const drag = libraryYardstick(
      made({
        solution: "sphere-drag",
        parameters: { reynolds: 100 },
        followed: [],
        values: [{ from: "cd", quantityKey: "cd", sign: -1 }],
        curves: [],
      }),
      AIR,
      [{ key: "cd", name: "drag", unit: "1" }],
    );
    expect(drag.values[0].value).toBeLessThan(0);
    expect(drag.values[0].standardUncertainty).toBeCloseTo(-0.03 * drag.values[0].value, 12);
    const wall = libraryYardstick(
      made({ solution: "wall-conduction", parameters: {}, followed: [], values: [{ from: "middle", quantityKey: "t" }], curves: [] }),
      AIR,
      ASKED,
    );
    expect(wall.values[0].value).toBeCloseTo(270 - 273.15, 9);
    expect(libraryYardstick(made({ values: [{ from: "friction", quantityKey: "drop" }] }), AIR, ASKED).values).toEqual([]);
    expect([
      canStandFor({ unit: "" }, { unit: "1" }),
      canStandFor({ unit: "Pa" }, { unit: "mbar" }),
      canStandFor({ unit: "Pa" }, { unit: "N" }),
    ]).toEqual([true, true, false]);
  });
});

describe("what fits a case", () => {
  test("a laminar axisymmetric case finds the pipe first, and gas, transient and plane ones speak against themselves", () => {
    const ranked = [...LIBRARY].sort((a, b) => fitOf(a, AIR).rank - fitOf(b, AIR).rank);
    expect(ranked.slice(0, 6).map((s) => s.id)).toContain("pipe");
    expect(fitOf(get("pipe"), AIR)).toMatchObject({ against: [], inside: true, parameters: { diameterM: 0.02, meanMS: 0.3 } });
    expect(fitOf(get("normal-shock"), AIR).against[0]).toContain("the case is not");
    expect(fitOf(get("pulsating-pipe"), AIR).against).toContain("it changes in time, the case is steady");
    expect(fitOf(get("flat-plate"), AIR).against.join()).toContain("it is plane, the case axisymmetric");
    expect(ranked.findIndex((s) => s.id === "pipe")).toBeLessThan(ranked.findIndex((s) => s.id === "normal-shock"));
  });
  test("what the case says beyond a parameter's bounds is not filled in", () => {
    expect(followedParameters(get("pipe"), { values: { length: 1e9, velocity: 1 } })).toEqual({ meanMS: 1 });
  });
});

describe("exploring", () => {
  test("reads figures with their units, says what it took for granted, and which entry it cannot read", () => {
    const found = explore(get("pipe"), { diameterM: "20 mm", meanMS: "0.5" }, 5);
    if (!found.ok) throw new Error(found.sentence);
    expect(found.parameters).toMatchObject({ diameterM: 0.02, meanMS: 0.5 });
    expect(found.said.join()).toContain("m/s");
    expect(found.curves[0].points.map(([x]) => x)).toEqual([0, 0.0025, 0.005, expect.closeTo(0.0075, 12), 0.01]);
    expect(found.values.every((v) => v.uncertainty === 0)).toBe(true);
    expect(explore(get("pipe"), { diameterM: "20 kg" })).toMatchObject({ ok: false, mistakes: { diameterM: expect.stringContaining("kg") } });
    expect(explore(get("annulus"), { innerM: "3 cm" })).toMatchObject({ ok: false, sentence: expect.stringContaining("outer radius") });
  });
  test("places over decades are even in decades and end where the curve ends", () => {
    const found = explore(get("sphere-drag"), {}, 3);
    const xs = found.ok ? found.curves[0].points.map(([x]) => x) : [];
    expect(xs).toEqual([0.01, expect.closeTo(Math.sqrt(0.01 * 2e5), 6), 2e5]);
  });
});
