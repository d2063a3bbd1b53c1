import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { LIDDED_BOX_TABLES } from "../core/tables/liddedBox.ts";
import { WARM_WALL, warmWallUncertainty } from "../core/tables/warmWall.ts";
import { differenceWeights } from "./differenceWeights.ts";
import { sharpBox } from "./sharpBox.ts";
import { type BoxFlow, linesOf, steadyBox } from "./steadyBox.ts";
import { integralWeights, Readings, settledOn } from "./tables.ts";

test("differences are those of the polynomial through the points", () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: 5, maxLength: 5 }),
      fc.double({ min: -1, max: 1, noNaN: true }),
      (c, x) => {
        const xs = [-1, -0.4, 0.1, 0.3, 0.9];
        const p = (t: number) => c.reduce((s, q, k) => s + q * t ** k, 0);
        const [value, first, second] = differenceWeights(xs, x).map((w) => w.reduce((s, q, k) => s + q * p(xs[k]), 0));
        expect(value).toBeCloseTo(p(x), 9);
        expect(first).toBeCloseTo(c[1] + 2 * c[2] * x + 3 * c[3] * x ** 2 + 4 * c[4] * x ** 3, 8);
        expect(second).toBeCloseTo(2 * c[2] + 6 * c[3] * x + 12 * c[4] * x ** 2, 7);
      },
    ),
  );
  expect(differenceWeights([-1, 0, 1], 0)[2]).toEqual([1, -2, 1]);
});

test("integrals over crowded lines are those of polynomials, to as many powers as there are spaces", () => {
  for (const n of [5, 8]) {
    const [lines, weights] = [linesOf(n), integralWeights(n)];
    for (let power = 0; power <= n; power++) expect(weights.reduce((s, w, k) => s + w * lines[k] ** power, 0)).toBeCloseTo(1 / (power + 1), 13);
  }
});

test("the finest mesh speaks, and what it changed is the doubt", () => {
  expect(settledOn([9, 3, 2.5])).toEqual({ value: 2.5, doubt: 0.5 });
});

const nusselt = (flow: BoxFlow) => new Readings(flow, 8).nusselt();
const chamber = (ra: number) => ({ lidSpeed: 0, viscosity: 0.71, heat: { buoyancy: 0.71 * ra } });
const near = (conditions: readonly number[], n: number) =>
  conditions.reduce<BoxFlow | undefined>((f, ra) => steadyBox(chamber(ra), n, f), undefined) as BoxFlow;

describe("polynomials through seven lines", () => {
  test("find the published chamber at Ra 1e5 on few lines, where three lines are ten times further off", () => {
    const t = WARM_WALL.find((w) => w.rayleigh === 1e5) as (typeof WARM_WALL)[number];
    const rough = near([1e3, 1e4, 1e5], 24);
    const flow = sharpBox(chamber(1e5), 32, sharpBox(chamber(1e5), 24, rough));
    expect(flow.lines).toHaveLength(33);
    expect(Math.abs(nusselt(flow) / t.nusselt - 1)).toBeLessThan(2e-4);
    expect(Math.abs(nusselt(rough) / t.nusselt - 1)).toBeGreaterThan(10 * Math.abs(nusselt(flow) / t.nusselt - 1));
    const r = new Readings(flow, 8);
    const [up, along] = [Readings.lowestOf((x) => -r.v(x), 0, 0.5), Readings.lowestOf((y) => -r.u(y), 0.5, 1)];
    const uncertainty = warmWallUncertainty(t);
    for (const [key, value] of [
      ["vMax", -up.value],
      ["vMaxAt", up.x],
      ["uMax", -along.value],
      ["uMaxAt", along.x],
    ] as const)
      expect(Math.abs(value - t[key])).toBeLessThan(2 * uncertainty[key]);
  });

  test("find the spectral extrema under the lid at Re 100, but for the corners' part", () => {
    const printed = LIDDED_BOX_TABLES.find((t) => t.id === "spectral-100")?.extrema as Record<string, number>;
    const problem = { lidSpeed: 1, viscosity: 0.01 };
    const r = new Readings(sharpBox(problem, 40, steadyBox(problem, 32)), 6);
    expect(Readings.lowestOf((y) => r.u(y)).value).toBeCloseTo(printed.uMin, 3);
    expect(Readings.lowestOf((x) => r.v(x)).value).toBeCloseTo(printed.vMin, 3);
    expect(-Readings.lowestOf((x) => -r.v(x)).value).toBeCloseTo(printed.vMax, 3);
  });

  test("a chamber without buoyancy conducts, and nothing moves; with it the flow turns about its middle", () => {
    const still = sharpBox(chamber(0), 12, steadyBox(chamber(0), 10));
    expect(nusselt(still)).toBeCloseTo(1, 12);
    expect(Math.max(...still.psi.map(Math.abs))).toBeLessThan(1e-10);
    const { psi, heat } = sharpBox(chamber(1e3), 16, near([1e3], 16));
    for (let k = 0; k < psi.length; k++) {
      expect(psi[k]).toBeCloseTo(psi[psi.length - 1 - k], 7);
      expect(heat?.[k]).toBeCloseTo(-(heat?.[psi.length - 1 - k] as number), 7);
    }
  });
});
