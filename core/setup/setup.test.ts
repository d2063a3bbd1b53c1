import { describe, expect, test } from "vitest";
import { parseQuantity } from "../units/units.ts";
import { checkSetup } from "./checks.ts";
import { airDensity, airViscosity, type Setup, similarityNumbers } from "./setup.ts";

const T = 277.15;
const P = 101325;
const sound: Setup = {
  fluidName: "air",
  temperatureK: T,
  pressurePa: P,
  densityKgM3: airDensity(T, P),
  dynamicViscosityPaS: airViscosity(T),
  velocityMS: 2,
  velocityName: "U",
  lengthM: 0.1,
  lengthName: "L",
  compressible: false,
  schemeOrder: 2,
  dropOrders: 6,
};
const rules = (change: Partial<Setup>) => checkSetup({ ...sound, ...change }).map((r) => r.rule);

test("a sound set-up draws no remark", () => expect(rules({})).toEqual([]));

describe("each slip is caught by its own rule, with the numbers in the sentence", () => {
  test.each<[string, Partial<Setup>, string, RegExp]>([
    ["density off", { densityKgM3: 1.1 }, "density-from-state", /1\.1000\u00a0kg.*1\.274/],
    ["two digits exchanged", { densityKgM3: 1.724 }, "density-from-state", /look exchanged: 1\.274 would/],
    ["water's viscosity under air", { dynamicViscosityPaS: 1.57e-3 }, "viscosity-of-fluid", /figure of water/],
    ["kinematic for dynamic", { dynamicViscosityPaS: airViscosity(T) / airDensity(T, P) }, "dynamic-or-kinematic", /one was entered for the other/],
    ["two viscosities at odds", { kinematicViscosityM2S: 1e-5 }, "two-viscosities", /dynamic viscosity over density/],
    ["typed Reynolds number", { reynoldsTyped: 20000 }, "reynolds-typed", /typed as 20000/],
    ["fast incompressible flow", { velocityMS: 120 }, "mach-incompressible", /Mach number 0\.36/],
    ["first-order scheme", { schemeOrder: 1 }, "first-order-scheme", /first order/],
    ["tolerance left on", { dropOrders: 3 }, "stopping-tolerance", /left on/],
    ["short entry", { velocityMS: 0.1, entry: { lengthM: 0.01, gapM: 0.01 } }, "entry-length", /shorter than its entry length/],
  ])("%s", (_name, change, rule, words) => {
    const found = checkSetup({ ...sound, ...change }).find((r) => r.rule === rule);
    expect(found?.sentence).toMatch(words);
  });
  test("a slip draws only its own rule", () => expect(rules({ densityKgM3: 1.1 })).toEqual(["density-from-state"]));
});

test("similarity numbers", () => {
  const re = similarityNumbers({ ...sound, densityKgM3: 1, dynamicViscosityPaS: 1e-3 }).find((s) => s.key === "reynolds");
  expect(re?.value).toBeCloseTo(200, 10);
});

describe("any unit in, SI out", () => {
  test.each<[string, string, number]>([
    ["20 mm", "m", 0.02],
    ["4 °C", "K", 277.15],
    ["1,5 m/s", "m/s", 1.5],
    ["1.74e-5", "Pa s", 1.74e-5],
    ["36 km/h", "m/s", 10],
    ["2 %", "1", 0.02],
    ["1.274 kg/m³", "kg/m^3", 1.274],
    ["1 bar", "Pa", 1e5],
  ])("%s", (text, unit, si) => {
    const r = parseQuantity(text, unit);
    expect(r.ok && r.si).toBeCloseTo(si, 10);
  });
  test.each([
    ["20 kg", "m", /wrong dimension/],
    ["wide", "m", /not understood/],
    ["", "m", /Nothing/],
    ["3 m", "1", /pure number/],
  ])("refuses %s", (text, unit, words) => {
    const r = parseQuantity(text, unit);
    expect(r.ok ? "" : r.sentence).toMatch(words);
  });
});
