import { describe, expect, test } from "vitest";
import type { Facts, Setup } from "../../records/setup.ts";
import { parseQuantity } from "../../units/units.ts";
import { checkSetup } from "./checks.ts";
import { FACT_RULES } from "./factChecks.ts";
import { FACTS } from "./facts.ts";
import { airDensity, airViscosity, knownFluid, platesEntryLength, similarityNumbers } from "./setup.ts";

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
    ["density off", { densityKgM3: 1.1 }, "density-from-state", /1\.100\u00a0kg.*1\.274/],
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

describe("facts about domain, forces, axis and copies: each slip caught by its own rule alone, and silent on sound figures", () => {
  const slips: [string, Facts, Facts, RegExp, Partial<Setup>?][] = [
    ["model-range", { model: 0, transitionReynolds: 2300 }, { model: 1, transitionReynolds: 2300 }, /laminar model at Reynolds number 1\d{4}.*2300/],
    ["model-range", { model: 1, transitionReynolds: 5e5 }, { model: 0, transitionReynolds: 5e5 }, /turbulence model/],
    ["jet-and-pressure", { jetSpeedMS: 12, pressureDropPa: 20 }, { jetSpeedMS: 5.3, pressureDropPa: 20 }, /12\.00.*20\.00.*5\.60/],
    [
      "lift-to-drag",
      { liftCoefficient: 0.6, dragCoefficient: 0.05, liftToDrag: 14 },
      { liftCoefficient: 0.6, dragCoefficient: 0.05, liftToDrag: 12 },
      /14\.00.*12\.00/,
    ],
    [
      "body-outside",
      { domainLowM: 0, domainHighM: 3, bodyLowM: 2.8, bodyHighM: 3.2 },
      { domainLowM: -2, domainHighM: 6, bodyLowM: 0, bodyHighM: 0.4 },
      /0\.200/,
    ],
    [
      "tight-domain",
      { domainLowM: 0, domainHighM: 3, bodyLowM: 0.5, bodyHighM: 1 },
      { domainLowM: -4, domainHighM: 8, bodyLowM: 0, bodyHighM: 1 },
      /1\.0 body lengths ahead and 4\.0 behind/,
    ],
    ["blockage", { bodyFrontM2: 0.05, domainSectionM2: 0.36 }, { bodyFrontM2: 0.01, domainSectionM2: 0.36 }, /14/],
    [
      "half-model-area",
      { modelShare: 0.5, referenceAreaM2: 2, wholeAreaM2: 2 },
      { modelShare: 0.5, referenceAreaM2: 1, wholeAreaM2: 2 },
      /0\.500 times/,
    ],
    ["factor-twice", { modelShare: 0.5, factorInFile: 2, factorHere: 2 }, { modelShare: 0.5, factorInFile: 2, factorHere: 1 }, /not 4\.00/],
    ["axisymmetric-not-set", { roundBody: 1, axisymmetricSet: 0 }, { roundBody: 1, axisymmetricSet: 1 }, /endless bar/],
    ["axis-off-zero", { axisymmetricSet: 1, axisOffsetM: 0.002 }, { axisymmetricSet: 1, axisOffsetM: 0 }, /0\.002000.*2\.0/],
    [
      "lines-not-mirrored",
      { mirrorPlaneM: 0.3, lineOneM: 0.1, lineTwoM: 0.52 },
      { mirrorPlaneM: 0.3, lineOneM: 0.1, lineTwoM: 0.5 },
      /would have to lie at 0\.50000/,
    ],
    ["pipe-entry-length", { pipeDiameterM: 0.01, pipeLengthM: 0.1 }, { pipeDiameterM: 0.01, pipeLengthM: 2 }, /10\.0 diameters/],
    [
      "turbulence-inherited",
      { turbulenceInherited: 1, turbulenceLengthM: 4, turbulenceIntensity: 0.05 },
      { turbulenceInherited: 0, turbulenceLengthM: 0.01 },
      /4\.00\u00a0m/,
    ],
    ["fields-left-over", { startFieldsKept: 1 }, { startFieldsKept: 0 }, /other case/],
  ];
  test.each(slips)("%s", (rule, slip, fine, words) => {
    const found = checkSetup({ ...sound, facts: slip });
    expect(found.map((r) => r.rule)).toEqual([rule]);
    expect(found[0].sentence).toMatch(words);
    expect(found[0].sentence).toMatch(/\d/);
    expect(checkSetup({ ...sound, facts: fine })).toEqual([]);
    // A rule is silent while it does not know all it needs.
    for (const key of Object.keys(slip))
      if (Object.keys(slip).length > 1) {
        const { [key]: _gone, ...rest } = slip;
        expect(checkSetup({ ...sound, facts: rest }).length).toBeLessThanOrEqual(1);
      }
  });
  test("every fact a rule reads can be typed, and every rule has its help", () => {
    // What the rules ask for, seen by a set of facts that notes every key it is asked for and knows an answer.
    const asked = new Set<string>();
    const noting = (answer: number) =>
      new Proxy<Facts>(
        {},
        {
          get: (_, key) => {
            asked.add(String(key));
            return answer;
          },
        },
      );
    for (const answer of [0, 1, 2]) for (const rule of FACT_RULES) rule.check(noting(answer), sound);
    const typed = FACTS.map((f) => f.key);
    // One is read by the rules of the balance, three come from the physics that was stated.
    expect([...asked].filter((k) => !typed.includes(k)).sort()).toEqual(["axisymmetricSet", "model", "modelShare"]);
    expect(typed.filter((k) => !asked.has(k))).toEqual(["symmetricFlow"]);
  });
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
    ["wide", "m", /does not begin with a number/],
    ["", "m", /Nothing/],
    ["3 m", "1", /pure number/],
  ])("refuses %s", (text, unit, words) => {
    const r = parseQuantity(text, unit);
    expect(r.ok ? "" : r.sentence).toMatch(words);
  });
});

describe("figures found wrong once", () => {
  test("names of fluids are words, not parts of words", () => {
    const wet = { dynamicViscosityPaS: 2e-3, densityKgM3: 1030 };
    for (const fluidName of ["dairy cream", "fairway gas", "sea water", "watermelon juice"])
      expect(rules({ ...wet, fluidName }), fluidName).toEqual([]);
    for (const fluidName of ["Air", "cold air", "dry air"]) expect(rules({ ...wet, fluidName }), fluidName).toContain("density-from-state");
    expect(knownFluid("tap water")).toBe("water");
  });
  test("a jet with an approach speed may be faster than its pressure drop alone would drive it", () => {
    const facts = { jetSpeedMS: 10, pressureDropPa: 40 };
    expect(rules({ facts })).toContain("jet-and-pressure");
    expect(rules({ facts: { ...facts, approachSpeedMS: 6.5 } })).toEqual([]);
  });
  test("the entry length of plates goes by the mean velocity", () => {
    const entry = { lengthM: 1, gapM: 0.01, meanVelocityMS: 0.1 };
    const slow = platesEntryLength({ ...sound, velocityMS: 0.15, entry });
    const re = (0.1 * 0.02) / (airViscosity(T) / airDensity(T, P));
    expect(slow).toBeCloseTo(0.02 * (0.315 / (1 + 0.0175 * re) + 0.011 * re), 12);
    expect(platesEntryLength({ ...sound, velocityMS: 0.15, entry: { lengthM: 1, gapM: 0.01 } })).toBeGreaterThan(slow);
  });
  test("what another code did is asked, never preset: unknown is a note, a stated slip is caught", () => {
    const { schemeOrder: _order, dropOrders: _drop, ...unknown } = sound;
    expect(checkSetup({ ...unknown, foreign: true }).map((r) => [r.rule, r.severity])).toEqual([
      ["numerics-not-stated", "note"],
      ["tolerance-not-stated", "note"],
    ]);
    expect(checkSetup({ ...unknown, foreign: true, schemeOrder: 1, dropOrders: 3 }).map((r) => [r.rule, r.severity])).toEqual([
      ["first-order-scheme", "doubt"],
      ["stopping-tolerance", "doubt"],
    ]);
  });
  test("within time steps two orders are no slip, over a steady run they are", () => {
    expect(rules({ dropOrders: 2, inTime: true })).toEqual([]);
    expect(rules({ dropOrders: 2 })).toEqual(["stopping-tolerance"]);
  });
  test("Prandtl and Rayleigh numbers, entry, friction and drag are worked out where they apply", () => {
    const keys = (change: Partial<Setup>) => similarityNumbers({ ...sound, ...change }).map((n) => n.key);
    expect(keys({})).not.toContain("rayleigh");
    const heat = { prandtl: 0.71, expansionPerK: 1 / T, differenceK: 10, gravityMS2: 9.81 };
    const nu = airViscosity(T) / airDensity(T, P);
    const ra = similarityNumbers({ ...sound, heat }).find((n) => n.key === "rayleigh")?.value ?? 0;
    expect(ra / ((9.81 * 10 * 0.001 * 0.71) / (T * nu * nu))).toBeCloseTo(1, 10);
    const pipe = similarityNumbers({ ...sound, velocityMS: 0.1, facts: { pipeDiameterM: 0.02 } });
    expect(pipe.find((n) => n.key === "friction")?.value).toBeCloseTo((64 * nu) / (0.1 * 0.02), 10);
    const drag = similarityNumbers({ ...sound, facts: { dragCoefficient: 0.5, referenceAreaM2: 2 } }).find((n) => n.key === "drag");
    expect(drag?.value).toBeCloseTo(0.5 * 2 * 0.5 * airDensity(T, P) * 4, 10);
  });
});
