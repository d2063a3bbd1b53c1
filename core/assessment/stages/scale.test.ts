import { describe, expect, test } from "vitest";
import type { RunEvidence } from "../../records/run.ts";
import type { Setup } from "../../records/setup.ts";
import { scaleOf, valuesFor } from "./scale.ts";

describe("scales", () => {
  const setup: Setup = {
    fluidName: "air",
    densityKgM3: 1.2,
    kinematicViscosityM2S: 1e-5,
    velocityMS: 3,
    velocityName: "U",
    lengthM: 0.5,
    lengthName: "L",
    compressible: false,
  };
  const run = (q: number | undefined) =>
    ({ result: { quantities: q === undefined ? {} : { q }, profiles: [], errorNorms: [] } }) as unknown as RunEvidence;
  const yard = (value: number, key = "q") => ({
    key: "y",
    name: "y",
    kind: "table" as const,
    source: "",
    validity: { sentence: "", inside: true },
    values: [{ quantityKey: key, value, uncertaintyNote: "" }],
    profiles: [],
  });
  const scale = (unit: string, reference?: number, own?: number, s = setup) =>
    scaleOf({ key: "q", name: "q", symbol: "q", unit, limit: 0.1 }, reference === undefined ? [] : [yard(reference)], run(own), s);

  test("the yardstick's size, else the run's, without their signs", () => {
    expect(scale("Pa s", -4, 7)).toEqual({ value: 4 });
    expect(scale("Pa s", undefined, -7)).toEqual({ value: 7 });
    expect(valuesFor([yard(1, "other"), yard(2)], "q").map((v) => v.value.value)).toEqual([2]);
  });
  test("of several yardsticks the one that leads, not the first: one that holds here before one that does not, the better known first", () => {
    const of = (value: number, inside: boolean, standardUncertainty?: number) => ({
      ...yard(value),
      validity: { sentence: "", inside },
      values: [{ quantityKey: "q", value, uncertaintyNote: "", ...(standardUncertainty === undefined ? {} : { standardUncertainty }) }],
    });
    const q = { key: "q", name: "q", symbol: "q", unit: "Pa s", limit: 0.1 };
    expect(scaleOf(q, [of(9, false, 0.01), of(5, true), of(4, true, 0.2), of(6, true, 0.1)], run(1), setup)).toEqual({ value: 6 });
    expect(scaleOf(q, [of(9, false, 0.01), of(5, true)], run(1), setup)).toEqual({ value: 5 });
  });
  test.each([
    ["m/s", 3, "the reference velocity"],
    ["km/h", 10.8, "the reference velocity"],
    ["Pa", 5.4, "the dynamic pressure"],
    ["m", 0.5, "the reference length"],
    ["N/m", 2.7, "the dynamic pressure on the reference length"],
    ["N", 1.35, "the dynamic pressure on the reference length squared"],
    ["kg/s", 0.9, "the mass through the reference length squared"],
    ["1/s", 6, "the reference velocity over length"],
    ["1", 1, "one"],
    ["", 1, "one"],
  ])("a reference of zero in %s is counted in %d, %s", (unit, value, name) => {
    expect(scale(unit, 0, 5)).toEqual({ value: expect.closeTo(value, 12), name });
  });
  test("a thousandth of the set-up's own size is the least a reference may have; of pure numbers any will do", () => {
    expect(scale("m/s", 0.0031)).toEqual({ value: 0.0031 });
    expect(scale("m/s", 0.0029).name).toBe("the reference velocity");
    expect(scale("1", 1e-7)).toEqual({ value: 1e-7 });
  });
  test("without any size of the set-up the computed value stands, then one; never zero", () => {
    expect(scale("Pa s", 0, 5)).toEqual({ value: 5, name: "the computed value" });
    expect(scale("Pa s", 0, -5)).toEqual({ value: 5, name: "the computed value" });
    expect(scale("Pa s", 0, 0)).toEqual({ value: 1, name: "one" });
    expect(scale("Pa s", 0, Number.NaN)).toEqual({ value: 1, name: "one" });
    expect(scale("Pa s")).toEqual({ value: 1, name: "one" });
    expect(scale("m/s", 0, 5, { ...setup, velocityMS: 0 })).toEqual({ value: 5, name: "the computed value" });
    expect(scale("m/s", Number.POSITIVE_INFINITY, 5).name).toBe("the reference velocity");
  });
});
