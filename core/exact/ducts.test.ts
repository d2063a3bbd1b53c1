import { describe, expect, test } from "vitest";
import { curvatureOf, integralOf, slopeOf, solved } from "./exactForTests.ts";
import { pulsatingVelocity } from "./pulsatingPipe.ts";
import { rectangleVelocity } from "./rectangularDuct.ts";

const [mu, rho] = [1.74e-5, 1.274];

describe("developed flow in ducts", () => {
  test("pipe: the profile carries the flow rate, and the wall's shear balances the pressure", () => {
    const { values, curve } = solved("pipe");
    const flow = integralOf((r) => 2 * Math.PI * r * curve("profile")(r), 0, 0.01, 100);
    expect(flow / values.flowRate).toBeCloseTo(1, 12);
    expect((values.shear * 4) / 0.02 / -values.gradient).toBeCloseTo(1, 12);
    expect(values.friction * values.reynolds).toBeCloseTo(64, 10);
    expect((8 * values.shear) / (rho * 0.5 ** 2) / values.friction).toBeCloseTo(1, 12);
  });
  test("annulus: mu (u'' + u'/r) = dp/dx, no slip, flow rate as the integral, shear as the slopes", () => {
    const { values, curve } = solved("annulus");
    const u = curve("profile");
    for (const r of [0.012, 0.015, 0.018]) expect((mu * (curvatureOf(u, r, 4e-4) + slopeOf(u, r, 4e-4) / r)) / -0.05).toBeCloseTo(1, 5);
    expect(Math.abs(u(0.01)) + Math.abs(u(0.02))).toBeLessThan(1e-15);
    expect(integralOf((r) => 2 * Math.PI * r * u(r), 0.01, 0.02) / values.flowRate).toBeCloseTo(1, 11);
    // Both walls together carry the pressure over the section.
    expect((2 * Math.PI * (0.01 * values.inner + 0.02 * values.outer)) / (0.05 * Math.PI * (0.02 ** 2 - 0.01 ** 2))).toBeCloseTo(1, 12);
    expect(slopeOf(u, values.radius, 1e-4)).toBeCloseTo(0, 8);
    expect(() => solved("annulus", { innerM: 0.03 })).toThrow("larger than the inner");
  });
  test("rectangle: the square's published figures, the field equation, and plates as its limit", () => {
    const square = solved("rectangular-duct").values;
    expect(square.frictionReynolds).toBeCloseTo(56.9083, 3);
    expect(square.ratio).toBeCloseTo(2.0963, 3);
    const p = { widthM: 0.02, heightM: 0.05, pressureGradientPaM: -0.05, viscosityPaS: mu };
    const laplace = curvatureOf((y) => rectangleVelocity(p, y, 0.006), 0.003, 1e-3) + curvatureOf((z) => rectangleVelocity(p, 0.003, z), 0.006, 1e-3);
    expect((mu * laplace) / -0.05).toBeCloseTo(1, 5);
    for (const [y, z] of [
      [0.01, 0.01],
      [0.002, 0.025],
    ])
      expect(Math.abs(rectangleVelocity(p, y, z)) / rectangleVelocity(p, 0, 0)).toBeLessThan(1e-4);
    const flat = solved("rectangular-duct", { widthM: 0.01, heightM: 10 }).values;
    expect(flat.frictionReynolds).toBeCloseTo(96, 0);
    const turned = solved("rectangular-duct", { widthM: 0.05, heightM: 0.02 }).values;
    expect(turned.flowRate).toBe(solved("rectangular-duct", { widthM: 0.02, heightM: 0.05 }).values.flowRate);
  });
  test("ellipse: a circle is the pipe, and the field equation holds", () => {
    const circle = solved("elliptic-duct", { halfWidthM: 0.01, halfHeightM: 0.01, pressureGradientPaM: -0.03 }).values;
    const pipe = solved("pipe", { diameterM: 0.02, meanMS: circle.mean }).values;
    expect(pipe.gradient).toBeCloseTo(-0.03, 12);
    const { curve, values } = solved("elliptic-duct");
    expect((mu * (curvatureOf(curve("across"), 0, 1e-3) + curvatureOf(curve("up"), 0, 1e-3))) / -0.05).toBeCloseTo(1, 8);
    expect(values.flowRate / (Math.PI * 0.02 * 0.01 * values.mean)).toBeCloseTo(1, 12);
  });
  test("pulsating pipe: rho u_t = K cos + mu (u_rr + u_r / r) at any phase; slow swings are the pipe's parabola", () => {
    const base = { radiusM: 0.01, amplitudePaM: 1, frequencyHz: 1, densityKgM3: rho, viscosityPaS: mu };
    const omega = 2 * Math.PI;
    for (const phase of [0.3, 2, 4.4])
      for (const r of [0.002, 0.006, 0.0085]) {
        const f = (x: number) => pulsatingVelocity({ ...base, phase }, x);
        const inTime = rho * omega * slopeOf((t) => pulsatingVelocity({ ...base, phase: t }, r), phase, 0.02);
        expect(inTime - mu * (curvatureOf(f, r, 2e-4) + slopeOf(f, r, 2e-4) / r)).toBeCloseTo(Math.cos(phase), 6);
      }
    const slow = solved("pulsating-pipe", { frequencyHz: 1e-4, amplitudePaM: 1e-4 });
    expect(slow.values.axis / ((1e-4 * 0.01 ** 2) / (4 * mu))).toBeCloseTo(1, 5);
    expect(
      integralOf((r) => 2 * Math.PI * r * solved("pulsating-pipe").curve("profile")(r), 0, 0.01, 200) / solved("pulsating-pipe").values.flowRate,
    ).toBeCloseTo(1, 6);
  });
  test("plates: shear and flow rate by their own curve", () => {
    const { values, curve } = solved("plates");
    const u = curve("profile");
    expect((mu * slopeOf(u, 0.003, 1e-4) - values.resting) / (0.003 * -0.05)).toBeCloseTo(1, 8);
    expect(integralOf(u, 0, 0.01, 10)).toBeCloseTo(values.flowRate, 14);
    expect(values.largest).toBeGreaterThanOrEqual(u(0.006));
  });
  test("wedge channel: the published curvature at Re 50 and 5 degrees, the equation, and plates as its limit", () => {
    const { values, curve } = solved("wedge-channel", { halfAngle: Math.PI / 36, reynolds: 50 });
    expect(values.curvature).toBeCloseTo(-3.53941564, 7);
    const f = curve("profile");
    const a = Math.PI / 36;
    for (const x of [0.2, 0.5, 0.8]) {
      const third = slopeOf((y) => curvatureOf(f, y, 0.02), x, 0.02);
      expect(third + (2 * a * 50 * f(x) + 4 * a * a) * slopeOf(f, x, 0.02)).toBeCloseTo(0, 4);
    }
    expect(integralOf(f, 0, 1, 200)).toBeCloseTo(values.mean, 9);
    expect(solved("wedge-channel", { halfAngle: 1e-3, reynolds: 1e-3 }).values.curvature).toBeCloseTo(-2, 5);
    // A strongly converging flow is flat with thin layers.
    expect(solved("wedge-channel", { halfAngle: 0.1, reynolds: -900 }).values.mean).toBeGreaterThan(0.85);
    expect(solved("wedge-channel", { halfAngle: 0.2, reynolds: 100 }).inside).toBe(false);
  });
});

describe("moving walls", () => {
  test("a plate set moving: u_t = nu u_yy, and the shear is the slope at the wall", () => {
    const nu = 1.366e-5;
    const u = (y: number, t: number) => solved("sudden-plate", { timeS: t }).curve("profile")(y);
    for (const y of [0.002, 0.006]) expect(slopeOf((t) => u(y, t), 1, 0.02) / (nu * curvatureOf((x) => u(x, 1), y, 3e-4))).toBeCloseTo(1, 6);
    const { values } = solved("sudden-plate");
    const wall = (u(1e-6, 1) - u(0, 1)) / 1e-6;
    expect((nu * wall) / values.shear).toBeCloseTo(1, 5);
    expect(u(values.layer, 1)).toBeCloseTo(0.01, 8);
    expect(integralOf((y) => u(y, 1), 0, 0.05, 400)).toBeCloseTo(values.flux * 0.5 * 2 * 0.5 * 2, 8);
  });
  test("a swinging plate: u_t = nu u_yy at any phase", () => {
    const u = (y: number, phase: number) => solved("oscillating-plate", { phase }).curve("profile")(y);
    for (const phase of [0.5, 3]) {
      const inTime = 2 * Math.PI * slopeOf((t) => u(0.001, t), phase, 0.05);
      expect(inTime / (1.366e-5 * curvatureOf((y) => u(y, phase), 0.001, 1e-4))).toBeCloseTo(1, 6);
    }
    const { values } = solved("oscillating-plate", { phase: 1 });
    expect((1.366e-5 * (u(1e-7, 1) - u(0, 1))) / 1e-7 / values.shear).toBeCloseTo(1, 3);
  });
  test("rotating cylinders: no slip, one torque at every radius, pressure against the swirl", () => {
    const { values, curve } = solved("rotating-cylinders", { innerTurns: 2, outerTurns: -0.5 });
    const v = curve("profile");
    expect(v(0.02)).toBeCloseTo(0.04, 12);
    expect(v(0.022)).toBeCloseTo(-0.011, 12);
    for (const r of [0.0203, 0.0215]) {
      const shear = mu * (slopeOf(v, r, 1e-5) - v(r) / r);
      expect((-2 * Math.PI * r * r * shear) / values.torque).toBeCloseTo(1, 6);
      expect(slopeOf(curve("pressure"), r, 1e-5) / ((rho * v(r) ** 2) / r)).toBeCloseTo(1, 6);
    }
    expect(solved("rotating-cylinders", { innerTurns: 0, outerTurns: 50 }).inside).toBe(true);
    expect(solved("rotating-cylinders", { innerTurns: 200, outerTurns: 0 }).inside).toBe(false);
  });
});
