import { describe, expect, test } from "vitest";
import type { Facts, Setup } from "../../records/setup.ts";
import { checkSetup } from "./checks.ts";
import {
  airDensity,
  airViscosity,
  away,
  kinematicViscosity,
  knownFluid,
  pipeEntryDiameters,
  platesEntryLength,
  reynoldsNumber,
  similarityNumbers,
  soundSpeed,
  waterDensity,
  waterViscosity,
} from "./setup.ts";

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
const check = (change: Partial<Setup>) => checkSetup({ ...sound, ...change });
const said = (change: Partial<Setup>) => check(change).map((r) => `${r.rule} ${r.severity}`);
const facts = (f: Facts, change: Partial<Setup> = {}) => said({ ...change, facts: f });
const rho = airDensity(T, P);
const mu = airViscosity(T);
const nu = mu / rho;

describe("fluids against tables", () => {
  test("air at 0, 20 and 100 degrees, water at 0, 20, 50 and 100", () => {
    // White, Fluid Mechanics, tables A.1 and A.2; densities of air at one atmosphere.
    for (const [t, density, viscosity] of [
      [273, 1.29, 1.71e-5],
      [293, 1.2, 1.8e-5],
      [373, 0.946, 2.17e-5],
    ]) {
      expect(airDensity(t, P) / density).toBeCloseTo(1, 1.9);
      expect(Math.abs(airViscosity(t) / viscosity - 1)).toBeLessThan(0.02);
    }
    for (const [t, density, viscosity] of [
      [273.15, 1000, 1.788e-3],
      [293.15, 998, 1.003e-3],
      [323.15, 988, 0.548e-3],
      [373.15, 958, 0.283e-3],
    ]) {
      expect(Math.abs(waterDensity(t) / density - 1)).toBeLessThan(0.003);
      expect(Math.abs(waterViscosity(t) / viscosity - 1)).toBeLessThan(0.02);
    }
    expect(waterDensity(277.15)).toBe(1000);
    expect(airDensity(300, 2 * P) / airDensity(300, P)).toBeCloseTo(2, 12);
  });
  test("sound: 340.3 m/s at 15 degrees; water's; a gas's own beats its name; unknown fluids have none", () => {
    expect(soundSpeed({ ...sound, temperatureK: 288.15 })).toBeCloseTo(340.3, 1);
    expect(soundSpeed({ ...sound, fluidName: "water" })).toBe(1480);
    expect(soundSpeed({ ...sound, soundSpeedMS: 5 })).toBe(5);
    expect(soundSpeed({ ...sound, fluidName: "glycol" })).toBeUndefined();
    expect(soundSpeed({ ...sound, temperatureK: undefined })).toBeUndefined();
  });
  test("names", () => {
    for (const plain of ["air", "Cold Air", "dry still air", "tap water", "liquid water"]) expect(knownFluid(plain)).toBeDefined();
    for (const other of ["", "cold", "air water", "humid air", "airs"]) expect(knownFluid(other)).toBeUndefined();
  });
  test("viscosity: dynamic over density, else the kinematic one, else none", () => {
    expect(kinematicViscosity(sound)).toBe(nu);
    expect(kinematicViscosity({ ...sound, dynamicViscosityPaS: undefined, kinematicViscosityM2S: 3 })).toBe(3);
    expect(kinematicViscosity({ ...sound, dynamicViscosityPaS: undefined })).toBeNaN();
    expect(reynoldsNumber(sound)).toBeCloseTo((2 * 0.1) / nu, 9);
    expect(away(3, 2)).toBe(0.5);
    expect(away(1, 2)).toBe(0.5);
  });
});

describe("each threshold, just inside and just outside", () => {
  const dense = (share: number) => said({ densityKgM3: rho * (1 + share) }).filter((s) => s.startsWith("density"));
  test("density: 2 % passes, to 5 % is a doubt, beyond a stop", () => {
    for (const sign of [1, -1]) {
      expect(dense(sign * 0.0199)).toEqual([]);
      expect(dense(sign * 0.0201)).toEqual(["density-from-state doubt"]);
      expect(dense(sign * 0.0499)).toEqual(["density-from-state doubt"]);
      expect(dense(sign * 0.0501)).toEqual(["density-from-state stop"]);
    }
  });
  test("density is not judged without a temperature above zero, without a pressure, or of a fluid not known", () => {
    const wrong = { densityKgM3: 2, dynamicViscosityPaS: undefined, kinematicViscosityM2S: nu };
    expect(said({ ...wrong })).toEqual(["density-from-state stop"]);
    expect(said({ ...wrong, temperatureK: undefined })).toEqual([]);
    expect(said({ ...wrong, temperatureK: 0 })).toEqual([]);
    expect(said({ ...wrong, pressurePa: undefined })).toEqual([]);
    expect(said({ ...wrong, fluidName: "oil" })).toEqual([]);
  });
  test("air with the viscosity of water is told so where water flows", () => {
    // Out of that range the fit of water says nothing, and air's own is no other fluid.
    const told = (temperatureK: number, viscosity: number) =>
      check({ temperatureK, densityKgM3: airDensity(temperatureK, P), dynamicViscosityPaS: viscosity }).some((r) =>
        r.sentence.includes("figure of water"),
      );
    expect([told(274, waterViscosity(274)), told(372, waterViscosity(372))]).toEqual([true, true]);
    expect([told(272, waterViscosity(272)), told(374, waterViscosity(374)), told(200, waterViscosity(274)), told(500, waterViscosity(372))]).toEqual([
      false,
      false,
      false,
      false,
    ]);
  });
  test("water is judged between freezing and boiling, without a pressure", () => {
    const water = (t: number, density: number) =>
      said({ fluidName: "water", temperatureK: t, pressurePa: undefined, densityKgM3: density, dynamicViscosityPaS: waterViscosity(t) });
    expect(water(293, 998)).toEqual([]);
    expect(water(293, 900)).toEqual(["density-from-state stop"]);
    expect(water(273, 900)).toEqual([]);
    expect(water(273.1, 900)).toEqual(["density-from-state stop"]);
    expect(water(372.9, 1100)).toEqual(["density-from-state stop"]);
    expect(water(373, 1100)).toEqual([]);
  });
  test("exchanged digits are offered where they would fit within half a per cent, and only then", () => {
    const sentence = (densityKgM3: number) => check({ densityKgM3 }).find((r) => r.rule === "density-from-state")?.sentence ?? "";
    expect(sentence(1.472)).toContain("1.274 would fit");
    expect(sentence(2.174)).toContain("1.274 would fit");
    expect(sentence(1.9)).not.toContain("exchanged");
    expect(sentence(1.333)).not.toContain("exchanged");
  });
  // Under four atmospheres dynamic and kinematic figures of air lie far apart.
  const dense4 = { pressurePa: 4 * P, densityKgM3: 4 * rho };
  const thick = (factor: number) => said({ ...dense4, dynamicViscosityPaS: mu * factor });
  test("viscosity: 10 % passes", () => {
    expect(thick(1.099)).toEqual([]);
    expect(thick(0.901)).toEqual([]);
    expect(thick(1.101)).toEqual(["viscosity-of-fluid stop"]);
    expect(thick(0.899)).toEqual(["viscosity-of-fluid stop"]);
  });
  test("a dynamic viscosity within 15 % of the kinematic one was entered for it", () => {
    const entered = (factor: number) => said({ ...dense4, dynamicViscosityPaS: (nu / 4) * factor });
    expect(entered(1.149)).toEqual(["dynamic-or-kinematic stop"]);
    expect(entered(0.851)).toEqual(["dynamic-or-kinematic stop"]);
    expect(entered(0.849)).toEqual(["viscosity-of-fluid stop"]);
    expect(entered(1.151)).toEqual(["viscosity-of-fluid stop"]);
    // Without a pressure the typed density stands in for the computed one.
    expect(said({ dynamicViscosityPaS: nu, pressurePa: undefined })).toEqual(["dynamic-or-kinematic stop"]);
  });
  test("the figure of the other fluid is named within 15 %", () => {
    const sentence = (change: Partial<Setup>) => check(change).find((r) => r.rule === "viscosity-of-fluid")?.sentence ?? "";
    expect(sentence({ dynamicViscosityPaS: 1.149 * waterViscosity(T) })).toContain("figure of water");
    expect(sentence({ dynamicViscosityPaS: 1.151 * waterViscosity(T) })).not.toContain("figure of");
    const water = { fluidName: "water", densityKgM3: 999, temperatureK: 293 };
    expect(sentence({ ...water, dynamicViscosityPaS: airViscosity(293) })).toContain("figure of air");
    // Above boiling no water is compared with: only air's own law is left.
    expect(sentence({ temperatureK: 400, dynamicViscosityPaS: 1e-3, densityKgM3: airDensity(400, P) })).not.toContain("figure of");
  });
  test("two viscosities: 1 % passes", () => {
    expect(said({ kinematicViscosityM2S: nu * 1.0099 })).toEqual([]);
    expect(said({ kinematicViscosityM2S: nu * 1.0101 })).toEqual(["two-viscosities stop"]);
    expect(said({ kinematicViscosityM2S: nu * 0.9899 })).toEqual(["two-viscosities stop"]);
  });
  test("typed Reynolds number: half a per cent passes, to 5 % is a doubt", () => {
    const re = (2 * 0.1) / nu;
    expect(said({ reynoldsTyped: re * 1.0049 })).toEqual([]);
    expect(said({ reynoldsTyped: re * 1.0051 })).toEqual(["reynolds-typed doubt"]);
    expect(said({ reynoldsTyped: re * 0.951 })).toEqual(["reynolds-typed doubt"]);
    expect(said({ reynoldsTyped: re * 1.051 })).toEqual(["reynolds-typed stop"]);
  });
  test("Mach number 0.3 is the last an incompressible set-up may have", () => {
    const c = soundSpeed(sound) ?? 0;
    expect(said({ velocityMS: 0.2999 * c })).toEqual([]);
    expect(said({ velocityMS: 0.3001 * c })).toEqual(["mach-incompressible stop"]);
    expect(said({ velocityMS: 0.9 * c, compressible: true })).toEqual([]);
  });
  test("stopping tolerance: five orders in a steady run, one within a step; three are a preset", () => {
    expect(said({ dropOrders: 5 })).toEqual([]);
    expect(said({ dropOrders: 4.9 })).toEqual(["stopping-tolerance doubt"]);
    expect(said({ dropOrders: 1, inTime: true })).toEqual([]);
    expect(said({ dropOrders: 0.9, inTime: true })).toEqual(["stopping-tolerance doubt"]);
    expect(check({ dropOrders: 3 })[0].sentence).toContain("preset of many codes");
    expect(check({ dropOrders: 4 })[0].sentence).not.toContain("preset");
  });
  test("plates: the piece may be as short as its entry length", () => {
    const entry = { lengthM: 1, gapM: 0.01, meanVelocityMS: 0.1 };
    const needed = platesEntryLength({ ...sound, entry });
    expect(said({ entry: { ...entry, lengthM: 1.0001 * needed } })).toEqual([]);
    expect(said({ entry: { ...entry, lengthM: 0.9999 * needed } })).toEqual(["entry-length stop"]);
  });
  test("worst first", () =>
    expect(check({ densityKgM3: 1.1, schemeOrder: 1, dropOrders: undefined }).map((r) => r.severity)).toEqual(["stop", "doubt", "note"]));
});

describe("thresholds of the facts", () => {
  const re = reynoldsNumber(sound);
  test("a model beyond its range: laminar above, turbulent below transition; at it neither", () => {
    expect(facts({ model: 0, transitionReynolds: re * 0.999 })).toEqual(["model-range stop"]);
    expect(facts({ model: 0, transitionReynolds: re * 1.001 })).toEqual([]);
    expect(facts({ model: 1, transitionReynolds: re * 1.001 })).toEqual(["model-range doubt"]);
    expect(facts({ model: 1, transitionReynolds: re * 0.999 })).toEqual([]);
    expect(facts({ model: 2, transitionReynolds: 1 })).toEqual([]);
  });
  test("a jet: up to 2 % faster than all its pressure drives it, down to 70 %", () => {
    const ideal = Math.sqrt(40 / rho);
    const jet = (share: number, more: Facts = {}) => facts({ jetSpeedMS: share * ideal, pressureDropPa: 20, ...more });
    expect(jet(1.019)).toEqual([]);
    expect(jet(1.021)).toEqual(["jet-and-pressure stop"]);
    expect(jet(0.701)).toEqual([]);
    expect(jet(0.699)).toEqual(["jet-and-pressure doubt"]);
    expect(facts({ jetSpeedMS: 5, pressureDropPa: 0 })).toEqual([]);
    expect(facts({ jetSpeedMS: 5, pressureDropPa: -3 })).toEqual([]);
    const withApproach = Math.sqrt(40 / rho + 9) / ideal;
    expect(jet(1.019 * withApproach, { approachSpeedMS: 3 })).toEqual([]);
    expect(jet(1.021 * withApproach, { approachSpeedMS: 3 })).toEqual(["jet-and-pressure stop"]);
  });
  test("lift over drag: 1 % of the larger passes; without drag there is no ratio", () => {
    const quoted = (liftToDrag: number, drag = 0.05) => facts({ liftCoefficient: 0.6, dragCoefficient: drag, liftToDrag });
    expect(quoted(12.11)).toEqual([]);
    expect(quoted(12.13)).toEqual(["lift-to-drag stop"]);
    expect(quoted(11.89)).toEqual([]);
    expect(quoted(11.87)).toEqual(["lift-to-drag stop"]);
    expect(quoted(99, 0)).toEqual([]);
  });
  const box = (low: number, high: number, bodyLow: number, bodyHigh: number) =>
    facts({ domainLowM: low, domainHighM: high, bodyLowM: bodyLow, bodyHighM: bodyHigh });
  test("a body may touch the domain's ends, not pass them", () => {
    expect(box(0, 10, 0, 1)).toEqual(["tight-domain doubt"]);
    expect(box(0, 10, -0.01, 1)).toEqual(["body-outside stop"]);
    expect(box(0, 10, 9, 10)).toEqual(["tight-domain doubt"]);
    expect(box(0, 10, 9, 10.01)).toEqual(["body-outside stop"]);
    expect(checkSetup({ ...sound, facts: { domainLowM: 0, domainHighM: 1, bodyLowM: -0.25, bodyHighM: 1.5 } })[0].sentence).toContain("0.500\u00a0m");
  });
  test("three body lengths ahead and six behind are the least", () => {
    expect(box(-3, 7, 0, 1)).toEqual([]);
    expect(box(-2.99, 7, 0, 1)).toEqual(["tight-domain doubt"]);
    expect(box(-3, 6.99, 0, 1)).toEqual(["tight-domain doubt"]);
    expect(box(-6, 14, 0, 2)).toEqual([]);
    expect(box(-3, 7, 1, 1)).toEqual([]);
  });
  test("blockage: 3 % passes, above 10 % stops", () => {
    const blocked = (share: number) => facts({ bodyFrontM2: share * 0.4, domainSectionM2: 0.4 });
    expect(blocked(0.0299)).toEqual([]);
    expect(blocked(0.0301)).toEqual(["blockage doubt"]);
    expect(blocked(0.0999)).toEqual(["blockage doubt"]);
    expect(blocked(0.1001)).toEqual(["blockage stop"]);
  });
  test("part of a body over part of its area: force and area stand for the same part within 2 %", () => {
    const half = (area: number, more: Facts = {}) => facts({ modelShare: 0.5, referenceAreaM2: area, wholeAreaM2: 2, ...more });
    expect(half(1.0 / 1.019)).toEqual([]);
    expect(half(1.0 / 1.021)).toEqual(["half-model-area stop"]);
    expect(half(2, { factorInFile: 2 })).toEqual([]);
    expect(half(2, { factorHere: 2 })).toEqual([]);
    expect(half(1, { factorHere: 2 })).toEqual(["half-model-area stop"]);
    expect(facts({ modelShare: 0.99, referenceAreaM2: 1, wholeAreaM2: 2 })).toEqual([]);
    expect(facts({ modelShare: 0.98, referenceAreaM2: 1, wholeAreaM2: 2 })).toEqual(["half-model-area stop"]);
  });
  test("a factor applied twice: both other than one, and their product not what the model's share asks for", () => {
    const twice = (inFile: number, here: number, share = 0.5) => facts({ modelShare: share, factorInFile: inFile, factorHere: here });
    expect(twice(2, 2)).toEqual(["factor-twice stop"]);
    expect(twice(2, 2, 0.25)).toEqual([]);
    expect(twice(2, 2, 0.2551)).toEqual(["factor-twice stop"]);
    expect(twice(1, 4)).toEqual([]);
    expect(twice(4, 1)).toEqual([]);
  });
  test("bodies of revolution and the place of their axis", () => {
    expect(facts({ roundBody: 1, axisymmetricSet: 0 })).toEqual(["axisymmetric-not-set stop"]);
    expect(facts({ roundBody: 0, axisymmetricSet: 0 })).toEqual([]);
    expect(facts({ axisymmetricSet: 1, axisOffsetM: 0.99e-10 })).toEqual([]);
    expect(facts({ axisymmetricSet: 1, axisOffsetM: -1.01e-10 })).toEqual(["axis-off-zero stop"]);
    expect(facts({ axisymmetricSet: 0, axisOffsetM: 1 })).toEqual([]);
  });
  test("mirrored lines: within a ten-thousandth of the length", () => {
    const lines = (two: number) => facts({ mirrorPlaneM: 0.3, lineOneM: 0.1, lineTwoM: two });
    expect(lines(0.5 + 0.99e-5)).toEqual([]);
    expect(lines(0.5 + 1.01e-5)).toEqual(["lines-not-mirrored stop"]);
    expect(lines(0.5 - 1.01e-5)).toEqual(["lines-not-mirrored stop"]);
  });
  test("pipes: laminar by Durst, turbulent by the quarter power, at the very length", () => {
    const pipe = (velocityMS: number, diameters: number) => facts({ pipeDiameterM: 0.01, pipeLengthM: 0.01 * diameters }, { velocityMS });
    const laminar = 1000;
    const speed = (x: number) => (x * nu) / 0.01;
    expect(pipe(speed(laminar), 1.001 * pipeEntryDiameters(laminar))).toEqual([]);
    expect(pipe(speed(laminar), 0.999 * pipeEntryDiameters(laminar))).toEqual(["pipe-entry-length stop"]);
    const turbulent = 1e4;
    expect(pipe(speed(turbulent), 1.001 * 1.6 * turbulent ** 0.25)).toEqual([]);
    expect(pipe(speed(turbulent), 0.999 * 1.6 * turbulent ** 0.25)).toEqual(["pipe-entry-length stop"]);
    // Just below transition the laminar length is over ten times the turbulent one.
    expect(pipe(speed(2299), 20)).toEqual(["pipe-entry-length stop"]);
    expect(pipe(speed(2301), 20)).toEqual([]);
  });
  test("inherited turbulence is a doubt; a length larger than the reference or tiny beside it a stop", () => {
    const kept = (length?: number, intensity?: number) =>
      checkSetup({
        ...sound,
        facts: {
          turbulenceInherited: 1,
          ...(length === undefined ? {} : { turbulenceLengthM: length }),
          ...(intensity === undefined ? {} : { turbulenceIntensity: intensity }),
        },
      });
    expect(kept().map((r) => r.severity)).toEqual(["doubt"]);
    expect(kept()[0].sentence).toContain("was copied from. Say why");
    expect(kept(0.0999)[0].severity).toBe("doubt");
    expect(kept(0.1001)[0].severity).toBe("stop");
    expect(kept(1.01e-5)[0].severity).toBe("doubt");
    expect(kept(0.99e-5)[0].severity).toBe("stop");
    expect(kept(0.05, 0.04)[0].sentence).toContain("(intensity 4.0\u00a0%; length 0.0500\u00a0m, 50\u00a0% of the L)");
    expect(facts({ turbulenceInherited: 0, turbulenceLengthM: 9 })).toEqual([]);
  });
});

describe("numbers worked out from a set-up", () => {
  const numbers = (change: Partial<Setup>) => Object.fromEntries(similarityNumbers({ ...sound, ...change }).map((n) => [n.key, n.value]));
  test("each by its formula", () => {
    const n = numbers({});
    expect(n.reynolds).toBeCloseTo((2 * 0.1) / nu, 8);
    expect(n.nu).toBe(nu);
    expect(n.dynamicPressure).toBeCloseTo(0.5 * rho * 4, 12);
    expect(n.mach).toBeCloseTo(2 / Math.sqrt(1.4 * 287.05 * T), 12);
    expect(n.diffusionTime).toBeCloseTo(0.01 / nu, 8);
    expect(Object.keys(n)).toEqual(["reynolds", "nu", "dynamicPressure", "mach", "diffusionTime"]);
  });
  test("without viscosity nothing viscous is named", () =>
    expect(Object.keys(numbers({ inviscid: true, heat: { prandtl: 0.7, expansionPerK: 1, differenceK: 1, gravityMS2: 1 } }))).toEqual([
      "dynamicPressure",
      "mach",
    ]));
  test("Rayleigh number only where all it needs is known", () => {
    const heat = { prandtl: 0.71, expansionPerK: 0.0036, differenceK: 10, gravityMS2: 9.81 };
    expect(numbers({ heat }).rayleigh).toBeCloseTo((9.81 * 0.0036 * 10 * 1e-3 * 0.71) / (nu * nu), 3);
    expect(numbers({ heat }).prandtl).toBe(0.71);
    for (const key of ["expansionPerK", "differenceK", "gravityMS2"] as const)
      expect(numbers({ heat: { ...heat, [key]: undefined } }).rayleigh).toBeUndefined();
  });
  test("pipes: friction by 64 / Re and by Blasius, entry by the same split", () => {
    const laminar = numbers({ velocityMS: (1000 * nu) / 0.02, facts: { pipeDiameterM: 0.02 } });
    expect(laminar.friction).toBeCloseTo(0.064, 12);
    expect(laminar.pipeEntry).toBeCloseTo(0.02 * pipeEntryDiameters(1000), 10);
    const turbulent = numbers({ velocityMS: (1e5 * nu) / 0.02, facts: { pipeDiameterM: 0.02 } });
    expect(turbulent.friction).toBeCloseTo(0.316 / 1e5 ** 0.25, 12);
    expect(turbulent.pipeEntry).toBeCloseTo(0.02 * 1.6 * 1e5 ** 0.25, 10);
    expect(numbers({ facts: { pipeDiameterM: 0 } }).friction).toBeUndefined();
  });
  test("Durst: 0.619 diameters at rest, 0.0567 Re when fast; Chen between plates", () => {
    expect(pipeEntryDiameters(0)).toBeCloseTo(0.619, 12);
    expect(pipeEntryDiameters(1e6) / 56700).toBeCloseTo(1, 5);
    const entry = { lengthM: 1, gapM: 0.05 };
    const slow = platesEntryLength({ ...sound, velocityMS: 1e-9, entry });
    expect(slow).toBeCloseTo(0.1 * 0.315, 6);
    expect(numbers({ entry }).entryLength).toBeCloseTo(platesEntryLength({ ...sound, entry }), 12);
  });
  test("drag to expect needs a coefficient and an area", () => {
    expect(numbers({ facts: { dragCoefficient: 0.5, referenceAreaM2: 3 } }).drag).toBeCloseTo(0.5 * 3 * 0.5 * rho * 4, 10);
    expect(numbers({ facts: { dragCoefficient: 0.5 } }).drag).toBeUndefined();
    expect(numbers({ facts: { referenceAreaM2: 3 } }).drag).toBeUndefined();
  });
});
