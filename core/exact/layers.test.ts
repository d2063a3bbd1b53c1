import { describe, expect, test } from "vitest";
import { curvatureOf, integralOf, slopeOf, solved } from "./exactForTests.ts";
import { similarLayer } from "./similarLayers.ts";

const nu = 1.366e-5;

describe("boundary layers", () => {
  test("flat plate: ten digits of the published figures", () => {
    const { wall, displacement, momentum } = similarLayer({ a: 0.5, b: 0 });
    expect(wall).toBeCloseTo(0.33205733621519, 11);
    expect(displacement).toBeCloseTo(1.7207876575205, 10);
    // Momentum integral: what the wall takes is what the layer lost.
    expect(momentum).toBeCloseTo(2 * wall, 10);
    const { values } = solved("flat-plate");
    expect(values.shape).toBeCloseTo(2.5911, 5);
    expect(values.cfMean / values.cf).toBeCloseTo(2, 12);
    expect(values.thickness / Math.sqrt((nu * 0.5) / 1)).toBeCloseTo(4.909989, 4);
  });
  test("flat plate: mass and momentum of the boundary-layer equations hold between neighbouring stations", () => {
    const u = (x: number, y: number) => solved("flat-plate", { xM: x }).curve("profile")(y);
    const [x, y] = [0.5, 0.006];
    const v = solved("flat-plate", { xM: x }).curve("across")(y);
    const [ux, uy, uyy] = [slopeOf((s) => u(s, y), x, 0.005), slopeOf((s) => u(x, s), y, 3e-4), curvatureOf((s) => u(x, s), y, 4e-4)];
    expect(u(x, y) * ux + v * uy - nu * uyy).toBeCloseTo(0, 6);
    expect(ux + slopeOf((s) => solved("flat-plate", { xM: x }).curve("across")(s), y, 3e-4)).toBeCloseTo(0, 7);
  });
  test("wedge flows: Hartree's table, the flat plate as one of them, and separation", () => {
    expect(solved("wedge-flow", { m: 1 / 3 }).values.curvature).toBeCloseTo(0.92768004, 7);
    expect(solved("wedge-flow", { m: 1 }).values.curvature).toBeCloseTo(1.2325876568, 8);
    expect(solved("wedge-flow", { m: -0.18 / 2.18 }).values.curvature).toBeCloseTo(0.12864, 4);
    const flat = solved("wedge-flow", { m: 0 }).values;
    expect(flat.cf / solved("flat-plate").values.cf).toBeCloseTo(1, 10);
    expect(flat.displacement / solved("flat-plate").values.displacement).toBeCloseTo(1, 9);
  });
  test("stagnation flow: plane and round to the published digits; mass is kept", () => {
    expect(solved("stagnation-flow").values.curvature).toBeCloseTo(1.2325876568, 9);
    expect(solved("stagnation-flow", { round: 1 }).values.curvature).toBeCloseTo(1.3119376939, 9);
    expect(similarLayer({ a: 1, b: 1 }).displacement).toBeCloseTo(0.6479, 4);
    for (const round of [0, 1]) {
      const { curve } = solved("stagnation-flow", { round });
      // Plane: u_x + v_y = 0; round: (r u)_r / r + v_y = 0.
      expect((1 + round) * 10 * curve("along")(0.001) + slopeOf(curve("towards"), 0.001, 5e-5)).toBeCloseTo(0, 6);
    }
  });
});

describe("jets, wakes and vortices", () => {
  test("plane jet: momentum is the same everywhere, and the boundary-layer equation holds", () => {
    const u = (x: number, y: number) => solved("plane-jet", { xM: x }).curve("profile")(y);
    const wide = solved("plane-jet", { xM: 0.05 }).curve("profile").to * 3;
    for (const x of [0.03, 0.05]) expect(integralOf((y) => u(x, y) ** 2, -wide, wide, 800)).toBeCloseTo(1e-5, 12);
    expect(integralOf((y) => u(0.05, y), -wide, wide, 800) / solved("plane-jet").values.flowRate).toBeCloseTo(1, 8);
    const [x, y] = [0.05, 0.004];
    const psi = (s: number, t: number) => integralOf((r) => u(s, r), 0, t, 60);
    const v = -slopeOf((s) => psi(s, y), x, 0.002);
    const left = u(x, y) * slopeOf((s) => u(s, y), x, 0.002) + v * slopeOf((t) => u(x, t), y, 4e-4);
    expect(left / (nu * curvatureOf((t) => u(x, t), y, 5e-4))).toBeCloseTo(1, 5);
    expect(u(0.05, solved("plane-jet").values.half) / solved("plane-jet").values.axis).toBeCloseTo(0.5, 12);
  });
  test("round jet: momentum and flow rate by its own profile", () => {
    const { values, curve } = solved("round-jet");
    const u = curve("profile");
    const far = u.to * 60;
    expect(integralOf((r) => 2 * Math.PI * r * u(r) ** 2, 0, far, 60000) / 1e-7).toBeCloseTo(1, 6);
    expect(integralOf((r) => 2 * Math.PI * r * u(r), 0, far, 60000) / values.flowRate).toBeCloseTo(1, 3);
    expect(u(values.half) / values.axis).toBeCloseTo(0.5, 12);
  });
  test("grid wake: momentum along x holds with the pressure it states", () => {
    const [speed, gap] = [1, 0.001];
    const at = (x: number) => solved("grid-wake", { xM: x });
    const u = (x: number, y: number) => at(x).curve("across")(y);
    const [x, y] = [0.0006, 0.0002];
    const { lambda } = at(x).values;
    const v = ((lambda * speed) / (2 * Math.PI)) * Math.exp((lambda * x) / gap) * Math.sin((2 * Math.PI * y) / gap);
    const h = 2e-5;
    const px = -slopeOf((s) => at(s).values.pressure, x, h);
    const left = u(x, y) * slopeOf((s) => u(s, y), x, h) + v * slopeOf((t) => u(x, t), y, h) + px / 1.274;
    const right = nu * (curvatureOf((s) => u(s, y), x, h) + curvatureOf((t) => u(x, t), y, h));
    expect(left / right).toBeCloseTo(1, 6);
  });
  test("vortices: the lattice loses energy at the rate it states; the line vortex diffuses and keeps its circulation", () => {
    const { values, curve } = solved("decaying-vortices");
    expect(slopeOf(curve("energy"), 0.5, 0.01) / curve("energy")(0.5)).toBeCloseTo(-values.rate, 9);
    expect(integralOf((x) => curve("profile")(x) ** 2, 0, 0.2, 40) / 0.2 / 2 / values.energy).toBeCloseTo(1, 10);
    const swirl = (r: number, t: number) => solved("spreading-vortex", { timeS: t }).curve("profile")(r);
    const r = 0.02;
    const diffusion = curvatureOf((x) => swirl(x, 10), r, 1e-3) + slopeOf((x) => swirl(x, 10), r, 1e-3) / r - swirl(r, 10) / r ** 2;
    expect(slopeOf((t) => swirl(r, t), 10, 0.1) / (nu * diffusion)).toBeCloseTo(1, 5);
    const core = solved("spreading-vortex").values;
    expect(slopeOf((x) => swirl(x, 10), core.radius, 1e-4)).toBeCloseTo(0, 6);
    expect(core.radius / Math.sqrt(4 * nu * 10)).toBeCloseTo(1.12090642, 7);
  });
  test("travelling vortex: entropy is one everywhere, and the pressure holds the swirl", () => {
    const { curve } = solved("isentropic-vortex");
    const [density, swirl] = [curve("density"), curve("swirl")];
    for (const r of [0.3, 1, 2]) {
      const dp = slopeOf((x) => density(x) ** 1.4, r, 0.02);
      expect(dp / ((density(r) * swirl(r) ** 2) / r)).toBeCloseTo(1, 7);
    }
    expect(density(5)).toBeCloseTo(1, 8);
    expect(() => solved("isentropic-vortex", { strength: 12, gamma: 1.6 })).toThrow("no gas is left");
  });
});
