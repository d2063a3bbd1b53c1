import { describe, expect, test } from "vitest";
import type { Grid } from "../../dataset/grid.ts";
import { hexahedra } from "../../dataset/made.ts";
import { cellMiddles } from "../../dataset/pointValues.ts";
import { SlopeWork } from "../../dataset/slopes.ts";
import type { Vector } from "../../dataset/vector.ts";
import { FieldMistake } from "../../intake/gridFields.ts";
import { fieldFormula } from "../fieldFormula.ts";
import { symbolsOf } from "../symbols.ts";
import type { SpaceArray, SpaceSaid } from "./said.ts";
import { formulaNames, spaceField } from "./spaceFields.ts";

const plain = hexahedra([3, 3, 3], (i, j, k) => [i, j, k].map((m, d) => m + 0.1 * Math.sin(3 * i + 5 * j + 7 * k + d)) as unknown as Vector);

/** The grid in millimetres, with a velocity and a pressure of each place in metres, on its points or cells. */
function grid(on: "points" | "cells", velocity: (x: Vector) => Vector, pressure: (x: Vector) => number = () => 0): Grid {
  const places = on === "points" ? plain.points : cellMiddles(plain);
  const list = Array.from(
    { length: places.length / 3 },
    (_, k) => [places[3 * k] / 1000, places[3 * k + 1] / 1000, places[3 * k + 2] / 1000] as const,
  );
  const arrays = [
    { name: "U, m/s", components: 3, values: Float64Array.from(list.flatMap((x) => [...velocity(x)])) },
    { name: "p (kPa)", components: 1, values: Float64Array.from(list, (x) => pressure(x) / 1000) },
  ];
  return { ...plain, ...(on === "points" ? { onPoints: arrays } : { onCells: arrays }) };
}

const words = (on: "points" | "cells"): SpaceArray[] => [
  { name: "U, m/s", on, role: "velocity", unit: "m/s" },
  { name: "p (kPa)", on, role: "pressure", unit: "kPa" },
];
const said = (on: "points" | "cells", more: Partial<SpaceSaid> = {}): SpaceSaid => ({ unitM: 0.001, densityKgM3: 1.2, arrays: words(on), ...more });
const all = (values: Float64Array, expected: readonly number[], digits = 6) =>
  values.forEach((v, k) => {
    expect(v).toBeCloseTo(expected[k % expected.length], digits);
  });

describe.each(["points", "cells"] as const)("fields made of values on %s", (on) => {
  const turning = grid(on, ([x, y, z]) => [-4 * y, 4 * x, 0 * z]);
  const straining = grid(on, ([x, y]) => [3 * x, -3 * y, 0]);
  const make = (g: Grid, kind: "vorticity" | "q" | "lambda2" | "divergence") => spaceField(new SlopeWork(g), said(on), { kind });

  test("a flow that turns as a whole has twice its rate for vorticity, its square for Q, and less than nothing for lambda-2", () => {
    const vorticity = make(turning, "vorticity");
    expect(vorticity).toMatchObject({ on: "cells", unit: "1/s", array: { name: "vorticity, 1/s", components: 3 } });
    expect(vorticity.made).toContain(on === "points" ? "what the faces of each cell carry" : "least squares over the cells round");
    all(vorticity.array.values, [0, 0, 8]);
    all(make(turning, "q").array.values, [16]);
    all(make(turning, "lambda2").array.values, [-16]);
    all(make(turning, "divergence").array.values, [0]);
  });
  test("a flow that only strains has the opposite", () => {
    all(make(straining, "q").array.values, [-9]);
    all(make(straining, "lambda2").array.values, [9]);
    all(make(straining, "vorticity").array.values, [0, 0, 0]);
    all(
      make(
        grid(on, (x) => x),
        "divergence",
      ).array.values,
      [3],
    );
  });
  test("the slope of a pressure in kPa over millimetres comes in Pa/m", () => {
    const sloping = grid(
      on,
      () => [0, 0, 0],
      ([x, y, z]) => 5 * x - 2 * y + z,
    );
    const { array, unit } = spaceField(new SlopeWork(sloping), said(on), { kind: "slope", of: { name: "p (kPa)", on } });
    expect([unit, array.name]).toEqual(["Pa/m", "slope of p, Pa/m"]);
    all(array.values, [5, -2, 1]);
  });
  test("speed, total pressure and pressure coefficient stay where their fields lie", () => {
    const flow = grid(
      on,
      () => [3, 4, 0],
      () => 70,
    );
    const work = new SlopeWork(flow);
    expect(spaceField(work, said(on), { kind: "speed" })).toMatchObject({ on, unit: "m/s" });
    all(spaceField(work, said(on), { kind: "speed" }).array.values, [5]);
    const total = spaceField(work, said(on), { kind: "totalPressure" });
    expect(total.made).toContain("1.2 kg/m^3 of the case");
    all(total.array.values, [85]);
    const far = { pressurePa: 10, speedMS: 10 };
    all(spaceField(work, said(on, { far }), { kind: "pressureCoefficient" }).array.values, [1]);
  });
});

describe("fields of a gas", () => {
  const [gamma, gasConstant] = [1.4, 287.05];
  const sound = Math.sqrt(gamma * gasConstant * 300);
  const base = grid(
    "cells",
    () => [0.5 * sound, 0, 0],
    () => 100_000,
  );
  const temperature = { name: "T", components: 1, values: new Float64Array(27).fill(300) };
  const density = { name: "rho", components: 1, values: new Float64Array(27).fill(100_000 / (gasConstant * 300)) };
  const gas: Grid = { ...base, onCells: [...base.onCells, temperature, density] };
  const make = (more: readonly SpaceArray[], kind: "mach" | "totalPressure" | "totalTemperature" | "entropy", far?: SpaceSaid["far"]) =>
    spaceField(new SlopeWork(gas), said("cells", { arrays: [...words("cells"), ...more], gas: { gamma, gasConstant }, ...(far ? { far } : {}) }), {
      kind,
    });
  const [byT, byRho] = [
    [{ name: "T", on: "cells", role: "temperature", unit: "K" }],
    [{ name: "rho", on: "cells", role: "density", unit: "kg/m^3" }],
  ] as const;

  test("the Mach number by temperature is that by pressure and density; total state at 0.5 as the tables of a perfect gas have it", () => {
    all(make(byT, "mach").array.values, [0.5], 12);
    all(make(byRho, "mach").array.values, [0.5], 12);
    all(make(byT, "totalPressure").array.values, [118_621.27], 1);
    all(make(byRho, "totalPressure").array.values, [118_621.27], 1);
    all(make(byT, "totalTemperature").array.values, [315], 9);
  });
  test("a gas that was brought from the state far away without loss has no entropy over it", () => {
    all(make(byT, "entropy", { pressurePa: 100_000 / 2 ** 3.5, speedMS: 1, temperatureK: 150 }).array.values, [0], 9);
    all(make(byT, "entropy", { pressurePa: 50_000, speedMS: 1, temperatureK: 300 }).array.values, [-gasConstant * Math.log(2)], 9);
  });
});

describe("fields of the cells themselves", () => {
  const work = new SlopeWork(hexahedra([3, 3, 3], (i, j, k) => [10 * i, 10 * j, [0, 1, 2, 7][k]]));
  const of = (kind: "depth" | "firstHeight" | "layerCount" | "layerGrowth" | "volume" | "aspect") => spaceField(work, said("cells"), { kind });
  const bottom = 4;
  test("are in metres where they are lengths, and say what they are", () => {
    expect(of("firstHeight")).toMatchObject({ unit: "m", on: "cells", array: { name: "height of the first layer, m" } });
    expect(of("firstHeight").array.values[bottom]).toBeCloseTo(0.001, 12);
    expect(of("layerCount").array.values[bottom]).toBe(2);
    expect(of("layerGrowth").array.values[bottom]).toBeCloseTo(1, 12);
    expect(of("volume").array.values[bottom]).toBeCloseTo(1e-7, 18);
    expect([...of("depth").array.values].filter((v) => v === 1)).toHaveLength(1);
    expect(of("aspect").array.values[bottom]).toBeCloseTo(10, 9);
    expect(of("aspect").made).toContain("looked at from 100 on");
  });
});

describe("a pressure over density", () => {
  const flow = grid(
    "points",
    () => [0, 0, 0],
    ([x]) => 3000 * x,
  );
  const arrays: SpaceArray[] = [{ name: "p (kPa)", on: "points", role: "pressure", unit: "m^2/s^2" }];
  const slope = (more: Partial<SpaceSaid>) =>
    spaceField(new SlopeWork(flow), { unitM: 0.001, arrays, ...more }, { kind: "slope", of: { name: "p (kPa)", on: "points" } });
  test("counts times the density that was said, and is refused without one", () => {
    const { array, unit } = slope({ densityKgM3: 1.2 });
    expect(unit).toBe("Pa/m");
    // 3 m/s^2 in the file's own numbers.
    all(array.values, [3.6, 0, 0]);
    expect(() => slope({})).toThrow("say the density of the fluid");
  });
});

describe("what is missing is said", () => {
  const work = new SlopeWork(grid("cells", () => [1, 0, 0]));
  test.each([
    ["a role nobody has", said("cells", { arrays: [] }), { kind: "speed" as const }, "say which array is the velocity"],
    ["an array that is not there", said("points"), { kind: "speed" as const }, "no such array on its points"],
    [
      "a unit of another kind",
      said("cells", { arrays: [{ name: "U, m/s", on: "cells", role: "velocity", unit: "K" }] }),
      { kind: "speed" as const },
      '"K" cannot be turned into m/s',
    ],
    ["no gas", said("cells"), { kind: "mach" as const }, "ratio of specific heats"],
    ["no state far away", said("cells"), { kind: "pressureCoefficient" as const }, "pressure and the speed far away"],
    ["a slope of a vector", said("cells"), { kind: "slope" as const, of: { name: "U, m/s", on: "cells" as const } }, "it has 3 components"],
    ["a formula that is none", said("cells"), { kind: "formula" as const, text: "U_x +", name: "f" }, "is no formula"],
    [
      "a name nobody has",
      said("cells"),
      { kind: "formula" as const, text: "U_x + b", name: "f" },
      'Nothing is called "b". Known are U_x, U_y, U_z, p',
    ],
    ["units that do not go together", said("cells"), { kind: "formula" as const, text: "U_x + p", name: "f" }, "do not go together"],
  ])("%s", (_name, what, wish, sentence) => {
    expect(() => spaceField(work, what, wish)).toThrow(FieldMistake);
    expect(() => spaceField(work, what, wish)).toThrow(sentence);
  });
});

describe("formulas over fields", () => {
  test("find every component and bring their unit with them, in SI", () => {
    const flow = grid(
      "points",
      () => [3, 4, 12],
      () => 70,
    );
    const work = new SlopeWork(flow);
    expect(formulaNames(work, said("points"))).toEqual(["U_x", "U_y", "U_z", "p"]);
    const { array, on, unit } = spaceField(work, said("points"), {
      kind: "formula",
      text: "p / sqrt(U_x^2 + U_y^2 + U_z^2)^2",
      name: "like a density",
    });
    expect([on, unit]).toEqual(["points", "kg/m^3"]);
    all(array.values, [70 / 169], 12);
  });
  test("two places do not mix, a formula without a field is none, and a root of less than nothing leaves a gap", () => {
    const [a, b] = [
      { symbol: "a", unit: "m", values: [1, 4], on: "cells" },
      { symbol: "b", unit: "m", values: [1, 2], on: "points" },
    ] as const;
    expect(() => fieldFormula("a + b", [a, b])).toThrow("b lies on points, a on cells");
    expect(() => fieldFormula("1 + 2", [a])).toThrow("names no field");
    expect([...fieldFormula("sqrt(a - a*2)", [{ ...a, unit: "1" }]).values]).toEqual([Number.NaN, Number.NaN]);
    expect(fieldFormula("a * a", [a])).toMatchObject({ unit: "m^2", on: "cells" });
  });
  test("names become symbols, each another one", () => {
    expect(symbolsOf(["p, Pa", "p (static)", "wall distance", "2nd", "ρ"])).toEqual(["p", "p_2", "wall_distance", "f_2nd", "f_"]);
  });
});
