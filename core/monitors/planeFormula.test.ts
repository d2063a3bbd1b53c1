import { describe, expect, test } from "vitest";
import { rectangleMesh } from "../mesh/rectangle.ts";
import { planeFormula, planeNames } from "./planeFormula.ts";

const uniform = { kind: "uniform" } as const;
const mesh = rectangleMesh({ lengthM: 2, heightM: 1, nx: 10, ny: 6, gradingX: uniform, gradingY: uniform, periodicX: false });
const of = (f: (x: number, y: number) => number) => Float64Array.from({ length: 60 }, (_, c) => f(mesh.centroidM[2 * c], mesh.centroidM[2 * c + 1]));
const fields = [
  { key: "u", name: "velocity along x", unit: "m/s", values: of((x, y) => 3 * x - y) },
  { key: "v", name: "velocity along y", unit: "m/s", values: of((x, y) => 2 * x + 5 * y) },
  { key: "p", name: "pressure", unit: "Pa", values: of(() => 8) },
  { key: "T", name: "T", unit: "K", values: of(() => 280) },
];

describe("formulas over the fields of a plane run", () => {
  test.each([
    ["u_dx + v_dy", 8, "s^-1"],
    ["v_dx - u_dy", 3, "s^-1"],
    ["p / (T * 0.1)", 2 / 7, "kg/(m s^2 K)"],
  ])("%s is %d everywhere", (text, value, unit) => {
    const made = planeFormula(mesh, fields, text);
    expect(made.unit).toBe(unit);
    for (const v of made.values) expect(v).toBeCloseTo(value, 9);
  });
  test("units that do not go together are refused, of slopes as well", () => {
    expect(() => planeFormula(mesh, fields, "p + T")).toThrow("do not go together");
    expect(() => planeFormula(mesh, fields, "u_dx + u")).toThrow("do not go together");
  });
  test("names are those of the fields and of their slopes, and others are refused with them", () => {
    expect(planeNames(fields).slice(0, 6)).toEqual(["u", "v", "p", "T", "u_dx", "u_dy"]);
    expect(() => planeFormula(mesh, fields, "w_dx")).toThrow('Nothing is called "w_dx". Known are u, u_dx, u_dy, v');
  });
});
