import { describe, expect, test } from "vitest";
import { conformalLift } from "./conformalProfile.ts";
import { integralOf, slopeOf, solved } from "./exactForTests.ts";
import { turbulentFriction } from "./frictionFactor.ts";
import { dischargeCoefficient } from "./orifice.ts";
import { reichardt, spalding, vanDriest } from "./wallLaw.ts";

describe("bodies", () => {
  test("creeping sphere: pressure gives a third of the drag, and the side velocity meets no slip and the stream", () => {
    const { values, curve } = solved("creeping-sphere");
    const pressure = curve("pressure");
    const r = 5e-6;
    const push = integralOf((t) => pressure(t) * Math.cos(t) * 2 * Math.PI * r * r * Math.sin(t), 0, Math.PI, 200);
    expect(push / values.drag).toBeCloseTo(1 / 3, 8);
    expect(curve("beside")(r)).toBeCloseTo(0, 12);
    expect(curve("beside")(r * 1e4) / 0.05).toBeCloseTo(1, 3);
    expect(values.cd * values.reynolds).toBeCloseTo(24, 10);
  });
  test("slow sphere: what it adds to the creeping law is its own first member; the logarithm only helps while it is small", () => {
    const { values } = solved("slow-sphere", { reynolds: 0.1 });
    expect(values.oseen / 240).toBeCloseTo(1 + 3 / 160, 12);
    expect(values.cd).toBeLessThan(values.oseen);
    expect(solved("slow-sphere", { reynolds: 50 }).inside).toBe(false);
  });
  // Standard drag of a sphere: Clift, Grace & Weber, Bubbles, Drops and Particles (1978), table 5.2.
  test.each([
    [1, 27.15],
    [10, 4.26],
    [100, 1.087],
    [1000, 0.471],
    [1e5, 0.49],
  ])("drag of a sphere at Re %d within eight percent of the standard curve", (reynolds, cd) => {
    expect(Math.abs(solved("sphere-drag", { reynolds }).values.cd / cd - 1)).toBeLessThan(0.08);
  });
  // Steady computed drag: Dennis & Chang, J. Fluid Mech. 42, 471 (1970), Re 20 and 40; measured: Wieselsberger (1921) near Re 1e4.
  test.each([
    [20, 2.045],
    [40, 1.522],
    [1e4, 1.13],
  ])("drag of a cylinder at Re %d within what is stated", (reynolds, cd) => {
    expect(Math.abs(solved("cylinder-drag", { reynolds }).values.cd / cd - 1)).toBeLessThan(0.15);
  });
  test("a slow cylinder: fit and expansion agree within what both state", () => {
    const { values } = solved("cylinder-drag", { reynolds: 0.05 });
    expect(values.cd / values.slow).toBeCloseTo(1, 0);
  });
});

describe("ideal flow", () => {
  test("cylinder: its own pressures give the lift and no drag", () => {
    const { values, curve } = solved("ideal-cylinder");
    const cp = curve("cp");
    // Per diameter: half the integral of -cp sin, circulation clockwise lifts.
    expect(integralOf((t) => -0.5 * cp(t) * Math.sin(t), 0, 2 * Math.PI, 400)).toBeCloseTo(values.cl, 10);
    expect(integralOf((t) => cp(t) * Math.cos(t), 0, 2 * Math.PI, 400)).toBeCloseTo(0, 10);
    expect(cp(values.stagnation)).toBeCloseTo(1, 12);
    expect(solved("ideal-cylinder", { circulation: 2 }).inside).toBe(false);
  });
  test("conformal profile: a flat plate lifts 2 pi sin alpha; pressures integrate to the lift; lift without drag", () => {
    const alpha = 0.07;
    expect(conformalLift({ thickness: 1e-6, camber: 0, incidence: alpha })).toBeCloseTo(2 * Math.PI * Math.sin(alpha), 5);
    const { values, curve } = solved("conformal-profile", { thickness: 0.12, camber: 0, incidence: alpha });
    const [upper, lower] = [curve("upper"), curve("lower")];
    // Places crowd at the nose, where the suction peak stands.
    const normal = integralOf((s) => (lower(s * s) - upper(s * s)) * 2 * s, Math.sqrt(upper.from), Math.sqrt(upper.to), 2000);
    expect(normal / Math.cos(alpha) / values.cl).toBeCloseTo(1, 2);
    expect(conformalLift({ thickness: 0.1, camber: 0.1, incidence: 0 })).toBeGreaterThan(0.6);
    // Both sides leave the trailing edge alike.
    expect(Math.abs(upper(0.999) - lower(0.999))).toBeLessThan(0.01);
  });
  test("thin profile: load and its moment by the curve; the conformal one tends to it", () => {
    const { values, curve } = solved("thin-profile");
    const load = curve("load");
    const in2 = (f: (x: number) => number) => integralOf((t) => f((1 - Math.cos(t)) / 2) * 0.5 * Math.sin(t), 1e-6, Math.PI, 4000);
    expect(in2(load)).toBeCloseTo(values.cl, 5);
    expect(in2((x) => -(x - 0.25) * load(x))).toBeCloseTo(values.cm, 5);
    // Mapped from a circle raised by h the camber is h / 2 of the chord.
    const f = 0.01;
    expect(conformalLift({ thickness: 1e-6, camber: 2 * f, incidence: 0.03 }) / (2 * Math.PI * (0.03 + 2 * f))).toBeCloseTo(1, 3);
  });
});

describe("friction, walls and openings", () => {
  test("friction factor satisfies its own equation; smooth, rough and laminar ends; the gap between is refused", () => {
    for (const [re, k] of [
      [4e3, 0],
      [1e5, 1e-4],
      [1e8, 0.02],
    ]) {
      const s = 1 / Math.sqrt(turbulentFriction(re, k));
      expect(s + 2 * Math.log10(k / 3.7 + (2.51 * s) / re)).toBeCloseTo(0, 12);
    }
    const { values } = solved("friction-factor");
    expect(values.f).toBeCloseTo(0.01799, 5);
    expect(Math.abs(values.power / values.f - 1)).toBeLessThan(0.02);
    expect(Math.abs(values.explicit / values.f - 1)).toBeLessThan(0.02);
    expect(solved("friction-factor", { reynolds: 2000 }).values.f).toBeCloseTo(0.032, 12);
    expect(solved("friction-factor", { reynolds: 3000 }).inside).toBe(false);
    expect(turbulentFriction(1e9, 0.01)).toBeCloseTo((2 * Math.log10(370)) ** -2, 6);
  });
  test("entry length: its two ends are creeping flow and a share of the Reynolds number", () => {
    expect(solved("entry-length", { reynolds: 1e-3 }).values.pipe).toBeCloseTo(0.619, 4);
    expect(solved("entry-length", { reynolds: 2300 }).values.pipe / 2300).toBeCloseTo(0.0567, 3);
    expect(solved("entry-length", { reynolds: 2300 }).values.plates / 2300).toBeCloseTo(0.0442, 3);
  });
  test("laws of the wall: y+ at the wall, the logarithm outside, and all within one unit of each other between", () => {
    const law = { kappa: 0.41, offset: 5 };
    for (const u of [spalding(law, 0.5), reichardt(law, 0.5), vanDriest(0.41, [0.5])[0]]) expect(u).toBeCloseTo(0.5, 1);
    const log = Math.log(1000) / 0.41 + 5;
    expect(spalding(law, 1000)).toBeCloseTo(log, 1);
    expect(reichardt(law, 1000)).toBeCloseTo(log, 1);
    expect(Math.abs(vanDriest(0.41, [1000])[0] - log)).toBeLessThan(0.5);
    for (const y of [5, 11, 20, 40, 80]) expect(Math.abs(spalding(law, y) - reichardt(law, y))).toBeLessThan(1.1);
    // The one formula turned around gives the height back.
    const u = spalding(law, 60);
    const k = 0.41 * u;
    expect(u + Math.exp(-0.41 * 5) * (Math.exp(k) - 1 - k - k ** 2 / 2 - k ** 3 / 6)).toBeCloseTo(60, 9);
    expect(solved("wall-law", { yPlus: 1000, frictionReynolds: 2000 }).inside).toBe(false);
  });
  test("plate friction: the mean is what the local one adds up to, and the laws agree within what is stated", () => {
    const { values, curve } = solved("plate-friction", { reynolds: 1e7 });
    expect(values.cf).toBeCloseTo(0.00257, 5);
    // d (Re C_F) / d Re = c_f
    expect(Math.abs(slopeOf((re) => re * curve("mean")(re), 1e7, 1e4) / values.cf - 1)).toBeLessThan(0.03);
    for (const other of [values.logarithm / values.cfMean, values.fifth / values.cf, values.seventh / values.cf])
      expect(Math.abs(other - 1)).toBeLessThan(0.1);
  });
  test("orifice: the coefficient's limits, and mass flow and coefficient belong together", () => {
    expect(dischargeCoefficient(1e-9, 1e30, 0.2)).toBeCloseTo(0.5961, 8);
    const { values } = solved("orifice");
    expect(dischargeCoefficient(0.5, values.reynolds, 0.1)).toBeCloseTo(values.coefficient, 12);
    expect((4 * values.mass) / (Math.PI * 0.1 * 1e-3) / values.reynolds).toBeCloseTo(1, 12);
    expect(values.coefficient).toBeGreaterThan(0.6);
    expect(values.coefficient).toBeLessThan(0.61);
    expect(solved("orifice", { beta: 0.8 }).inside).toBe(false);
  });
  test("jet speed and flow coefficients: one bar of water through Kv 1 is a cubic metre an hour; Cv is 1.156 of it", () => {
    expect(solved("jet-from-pressure", { dropPa: 0.5 * 1.274 * 9, approachMS: 4 }).values.speed).toBeCloseTo(5, 12);
    const { values } = solved("flow-coefficient", { flowM3S: 1 / 3600, dropPa: 1e5, densityKgM3: 1000 });
    expect(values.kv).toBeCloseTo(1, 12);
    expect(values.cv).toBeCloseTo(1.156, 3);
    expect(values.cd ** -2).toBeCloseTo(values.zeta, 6);
  });
});
