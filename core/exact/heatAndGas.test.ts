import { describe, expect, test } from "vitest";
import { coneVelocities } from "./conicalShock.ts";
import { coolingHeat, coolingTemperature } from "./coolingBody.ts";
import { curvatureOf, integralOf, slopeOf, solved } from "./exactForTests.ts";
import { frictionLength } from "./frictionDuct.ts";
import { graetz, graetzMembers } from "./pipeHeat.ts";
import { plateHeatSlope } from "./plateHeat.ts";

describe("heat", () => {
  test("pipe entry: the published eigenvalues and weights, and their sums", () => {
    const [a, b] = graetzMembers();
    expect(a.lambda).toBeCloseTo(2.7043644199, 9);
    expect(b.lambda).toBeCloseTo(6.6790314493, 9);
    expect(a.weight).toBeCloseTo(0.74877455, 7);
    expect(solved("pipe-heat").values.last).toBeCloseTo(3.6567934577, 8);
    // At the entry all the heat is still to come: 8 sum G / lambda^2 = 1.
    expect(8 * graetzMembers().reduce((s, m) => s + m.weight / m.lambda ** 2, 0)).toBeCloseTo(1, 2);
    expect(graetz(1).local).toBeCloseTo(3.6567934577, 8);
  });
  test("pipe entry: what the wall gives is what the fluid loses, and the mean is the mean of the local", () => {
    const x = 0.02;
    // d theta_m / dx+ = -4 Nu theta_m
    expect(slopeOf((s) => graetz(s).mixed, x, 1e-3) / (-4 * graetz(x).local * graetz(x).mixed)).toBeCloseTo(1, 7);
    const tail = integralOf((s) => graetz(s).local, 0.002, x, 400);
    expect((graetz(x).mean * x - graetz(0.002).mean * 0.002) / tail).toBeCloseTo(1, 6);
    // Close to the entry: mean 1.615 x+^(-1/3) - 0.7, Shah & London (1978), eq. (189).
    expect(graetz(1e-3).mean / (1.615 * 1e-3 ** (-1 / 3) - 0.7)).toBeCloseTo(1, 2);
  });
  // Kays, Convective Heat and Mass Transfer, table 8-3; his x+ is twice ours.
  test.each([
    [0.0005, 12.86],
    [0.005, 5.99],
    [0.02, 4.18],
    [0.04, 3.79],
    [0.1, 3.66],
  ])("pipe entry: the tabled Nusselt number at x+ = %d", (x, nusselt) => {
    expect(Math.abs(graetz(x).local / nusselt - 1)).toBeLessThan(0.006);
  });
  test("plate: Pr 1 is the friction itself; Pohlhausen's table; the limits of small and large Prandtl numbers", () => {
    expect(plateHeatSlope(1)).toBeCloseTo(0.33205733621519, 9);
    expect(plateHeatSlope(0.7)).toBeCloseTo(0.29268, 4);
    expect(plateHeatSlope(10)).toBeCloseTo(0.72814, 4);
    expect(plateHeatSlope(1000) / 10).toBeCloseTo(0.3387, 3);
  });
  test("turbulent pipe: the two laws agree within what the rougher one states", () => {
    const { values } = solved("turbulent-pipe-heat");
    expect(Math.abs(values.power / values.nusselt - 1)).toBeLessThan(0.25);
    expect(solved("turbulent-pipe-heat", { reynolds: 2000 }).inside).toBe(false);
  });
  test("upright plate: the laminar formula agrees where both hold, and the quarter power is kept", () => {
    const { values } = solved("vertical-plate", { rayleigh: 1e6 });
    expect(Math.abs(values.laminar / values.nusselt - 1)).toBeLessThan(0.1);
    expect(solved("vertical-plate", { rayleigh: 1e8, prandtl: 0.71 }).values.nusselt).toBeGreaterThan(50);
  });
  // Ostrach, National Advisory Committee for Aeronautics, Report 1111 (1953): f'' and -theta' at the wall.
  test.each([
    [0.72, 0.676, 0.5046],
    [1, 0.6421, 0.5671],
    [2, 0.5713, 0.7165],
    [10, 0.4192, 1.1694],
    [100, 0.2517, 2.191],
    [1000, 0.145, 3.966],
  ])("layer along a warm plate: the published table at Pr %d", (prandtl, curvature, gradient) => {
    const { values } = solved("warm-plate-layer", { prandtl });
    expect(Math.abs(values.curvature - curvature)).toBeLessThan(1.01e-4);
    expect(Math.abs(values.gradient / gradient - 1)).toBeLessThan(3e-4);
  });
  test("layer along a warm plate: the limits of large and small Prandtl numbers", () => {
    // -theta'(0) -> 0.7110 Pr^(1/4) and 0.8491 Pr^(1/2): Le Fevre (1956), with Nu = -theta' (Gr / 4)^(1/4).
    expect(solved("warm-plate-layer", { prandtl: 1000 }).values.gradient / 1000 ** 0.25 / 0.711).toBeCloseTo(1, 1);
    expect(solved("warm-plate-layer", { prandtl: 0.01 }).values.gradient / 0.01 ** 0.5 / 0.8491).toBeCloseTo(0.95, 1);
  });
  test.each([0.03, 0.71, 7, 300])("layer along a warm plate, Pr %d: momentum, energy and what the wall gives", (prandtl) => {
    const given = { prandtl, xM: 0.3, differenceK: 10, expansionPerK: 3.6e-3, gravityMS2: 9.81, kinematicM2S: 1.36e-5 };
    const { curve, values } = solved("warm-plate-layer", given);
    const { gravityMS2: g, expansionPerK: beta, differenceK: dT, kinematicM2S: nu, xM: x } = given;
    const at = (key: string, height: number) => solved("warm-plate-layer", { ...given, xM: height }).curve(key);
    const [u, warmth] = [curve("velocity"), curve("warmth")];
    const gr = (g * beta * dT * x ** 3) / nu ** 2;
    const unit = x / (gr / 4) ** 0.25;
    for (const eta of [0.4, 1, 2]) {
      const y = eta * unit * Math.min(1, prandtl ** -0.25);
      const h = 2e-3 * unit;
      // Across the layer v follows from continuity: v = -d/dx of the integral of u.
      const flow = (height: number) => integralOf(at("velocity", height), 0, y, 400);
      const v = -slopeOf(flow, x, 0.01 * x);
      const along = (key: string) => slopeOf((height) => at(key, height)(y), x, 0.01 * x);
      const momentum = u(y) * along("velocity") + v * slopeOf(u, y, h) - nu * curvatureOf(u, y, h) - g * beta * warmth(y);
      const energy = u(y) * along("warmth") + v * slopeOf(warmth, y, h) - (nu / prandtl) * curvatureOf(warmth, y, h);
      expect(Math.abs(momentum) / (g * beta * dT)).toBeLessThan(1e-5);
      expect(Math.abs(energy) / ((nu / prandtl) * (dT / unit ** 2))).toBeLessThan(1e-4);
    }
    expect((-slopeOf(warmth, 1e-9 + 3e-3 * unit, 1e-3 * unit) * x) / dT / values.local).toBeCloseTo(1, 4);
    expect(values.mean / values.local).toBeCloseTo(4 / 3, 12);
  });
  test("layer along a warm plate: the formula fitted to measurements lies within its scatter of it, and too high a plate is outside", () => {
    const { values, inside } = solved("warm-plate-layer", { prandtl: 0.71, xM: 0.4 });
    const rayleigh = ((9.81 * 3.6e-3 * 10 * 0.4 ** 3) / 1.36e-5 ** 2) * 0.71;
    expect(inside).toBe(true);
    expect(Math.abs(solved("vertical-plate", { rayleigh, prandtl: 0.71 }).values.laminar / values.mean - 1)).toBeLessThan(0.1);
    expect(solved("warm-plate-layer", { xM: 5 }).inside).toBe(false);
  });
  test("wall: k T'' = -q (flat), k (r T')' / r = -q (tube); what is made inside leaves", () => {
    for (const round of [0, 1]) {
      const { curve, values } = solved("wall-conduction", { round, source: 400 });
      const t = curve("profile");
      const x = 0.05;
      const bend = curvatureOf(t, x, 5e-3) + (round ? slopeOf(t, x, 5e-3) / (0.05 + x) : 0);
      expect((-0.03 * bend) / 400).toBeCloseTo(1, 6);
      expect([t(0), t(0.12)]).toEqual([255, expect.closeTo(285, 10)]);
      const made = 400 * (round ? Math.PI * (0.17 ** 2 - 0.05 ** 2) : 0.12);
      expect((values.inner + values.outer) / made).toBeCloseTo(1, 10);
    }
  });
  test.each([0, 1])("cooling body %d: theta_Fo = theta'' (+ theta'/x), the surface gives off Bi theta, heat is kept", (round) => {
    const body = { round, biot: 1 };
    const theta = (x: number, fo = 0.2) => coolingTemperature(body, fo, x);
    const bend = curvatureOf(theta, 0.5, 0.02) + (round ? slopeOf(theta, 0.5, 0.02) / 0.5 : 0);
    expect(slopeOf((fo) => theta(0.5, fo), 0.2, 0.005) / bend).toBeCloseTo(1, 7);
    expect(slopeOf(theta, 1, 0.01)).toBeCloseTo(-theta(1), 9);
    expect(slopeOf((fo) => coolingHeat(body, fo), 0.2, 0.005) / (-(1 + round) * theta(1))).toBeCloseTo(1, 8);
    const heat = integralOf((x) => theta(x) * (round ? 2 * x : 1), 0, 1, 200);
    expect(heat).toBeCloseTo(coolingHeat(body, 0.2), 9);
    // Without resistance outside the surface is cold at once.
    expect(coolingTemperature({ round, biot: 1e6 }, 0.1, 1)).toBeCloseTo(0, 5);
  });
  test("deep body: the flux is the slope at the surface", () => {
    const { values, curve } = solved("deep-body");
    const t = curve("profile");
    expect((-1.5 * (t(1e-6) - t(0))) / 1e-6 / values.flux).toBeCloseTo(1, 5);
    expect(t(values.depth)).toBeCloseTo(285 - 0.3, 7);
  });
});

describe("gas", () => {
  test("normal shock at Mach 2: ten digits; mass, momentum and energy cross it unchanged", () => {
    const { values: s } = solved("normal-shock");
    expect([s.pressure, s.density, s.mach ** 2]).toEqual([expect.closeTo(4.5, 12), expect.closeTo(8 / 3, 12), expect.closeTo(1 / 3, 12)]);
    expect(s.total).toBeCloseTo(0.7208738615, 9);
    const sound = Math.sqrt(s.temperature);
    expect(s.density * s.mach * sound).toBeCloseTo(2, 11);
    expect(s.pressure + 1.4 * s.density * (s.mach * sound) ** 2).toBeCloseTo(1 + 1.4 * 4, 10);
    expect(s.temperature * (1 + 0.2 * s.mach ** 2)).toBeCloseTo(1 + 0.2 * 4, 11);
    expect(s.entropy).toBeCloseTo(Math.log(s.pressure) / 0.4 - (1.4 / 0.4) * Math.log(s.density), 10);
  });
  test("oblique shock: published angles, both branches, the stand-off, and the velocity along the shock unchanged", () => {
    const degrees = (x: number) => (x * 180) / Math.PI;
    const weak = solved("oblique-shock").values;
    const strong = solved("oblique-shock", { strong: 1 });
    expect(degrees(weak.angle)).toBeCloseTo(39.314, 3);
    expect(degrees(strong.values.angle)).toBeCloseTo(83.7, 1);
    expect(strong.inside).toBe(false);
    expect(degrees(weak.largest)).toBeCloseTo(22.9735, 4);
    for (const s of [weak, strong.values]) {
      const along = (m: number, t: number, angle: number) => m * Math.sqrt(t) * Math.cos(angle);
      expect(along(s.mach, s.pressure / s.density, s.angle - 0.1745329252)).toBeCloseTo(along(2, 1, s.angle), 9);
    }
    expect(() => solved("oblique-shock", { turning: 0.41 })).toThrow("at most by 22.97");
  });
  test("expansion fan: the angle at Mach 2, and no entropy is made", () => {
    expect((solved("expansion-fan").curve("angle")(2) * 180) / Math.PI).toBeCloseTo(26.3797608, 6);
    const { values } = solved("expansion-fan");
    expect(values.pressure * ((1 + 0.2 * values.mach ** 2) / 1.8) ** 3.5).toBeCloseTo(1, 10);
  });
  test("cone: mass is kept between shock and cone, the flow is free of swirl and runs along the cone; weaker than a wedge", () => {
    const p = { mach: 2, halfAngle: Math.PI / 18, gamma: 1.4 };
    const { values } = solved("conical-shock", p);
    expect((values.angle * 180) / Math.PI).toBeCloseTo(31.2, 1);
    const state = (t: number) => coneVelocities(p, [t])[0];
    const flux = (t: number) => {
      const [r, c] = state(t);
      return (1 - r * r - c * c) ** 2.5 * c * Math.sin(t);
    };
    for (const t of [0.25, 0.35, 0.45]) {
      const [r, c] = state(t);
      expect(slopeOf(flux, t, 0.01) + 2 * (1 - r * r - c * c) ** 2.5 * r * Math.sin(t)).toBeCloseTo(0, 6);
      expect(slopeOf((s) => state(s)[0], t, 0.01)).toBeCloseTo(c, 7);
    }
    expect(state(p.halfAngle)[1]).toBeCloseTo(0, 8);
    expect(values.pressure).toBeLessThan(solved("oblique-shock", { turning: p.halfAngle }).values.pressure);
    expect(() => solved("conical-shock", { mach: 1.5, halfAngle: 0.9 })).toThrow("too blunt");
  });
  test("duct with a throat: area ratio 1.6875 is Mach 2; a shock inside joins its two sides", () => {
    const fast = solved("throat-duct", { exitArea: 1.6875, back: 0.01 }).values;
    expect(fast.exitMach).toBeCloseTo(2, 10);
    const shocked = solved("throat-duct").values;
    expect(shocked.exitPressure).toBeCloseTo(0.7, 9);
    expect(shocked.total).toBeLessThan(1);
    expect(solved("throat-duct", { back: 0.99 }).values.flow).toBeLessThan(1);
  });
  test("Riemann problem: the published middle state, in the library as in its tube", () => {
    const { values, curve } = solved("riemann-problem");
    expect(values.pressure).toBeCloseTo(0.30313, 5);
    expect(values.velocity).toBeCloseTo(0.92745, 5);
    const mass = integralOf(curve("density"), curve("density").from, curve("density").to, 40000);
    expect(mass).toBeCloseTo(curve("density").to * 1.125, 3);
  });
  test("friction and heat in a duct: published choking figures; what goes in comes out", () => {
    expect(frictionLength(0.3, 1.4)).toBeCloseTo(5.29925, 4);
    expect(frictionLength(2, 1.4)).toBeCloseTo(0.30499, 4);
    const f = solved("friction-duct").values;
    // rho u = p M / sqrt(T)
    expect((f.pressure * f.mach) / Math.sqrt(f.temperature)).toBeCloseTo(0.3, 10);
    expect(f.temperature * (1 + 0.2 * f.mach ** 2)).toBeCloseTo(1 + 0.2 * 0.09, 10);
    expect(() => solved("friction-duct", { length: 6 })).toThrow("chokes");
    const h = solved("heated-duct").values;
    expect((h.pressure * h.mach) / Math.sqrt(h.temperature)).toBeCloseTo(0.3, 10);
    expect(h.pressure * (1 + 1.4 * h.mach ** 2)).toBeCloseTo(1 + 1.4 * 0.09, 10);
    expect(1 / h.choking).toBeCloseTo(0.34686, 5);
    expect(() => solved("heated-duct", { ratio: 3 })).toThrow("chokes");
  });
});
