import { describe, expect, test } from "vitest";
import { randomFrom } from "../core/numeric/random.ts";
import { solveDense } from "../core/numeric/solveDense.ts";
import { LIDDED_BOX_TABLES } from "../core/tables/liddedBox.ts";
import { WARM_WALL } from "../core/tables/warmWall.ts";
import { BandMatrix } from "./bandMatrix.ts";
import { type BoxFlow, steadyBox } from "./steadyBox.ts";
import { carriedOn, kinks, Readings } from "./tables.ts";

test("a band is solved as the whole matrix is", () => {
  const random = randomFrom(7);
  let solved = 0;
  for (let k = 0; k < 80; k++) {
    const size = 1 + Math.floor(12 * random());
    const reach = 1 + Math.floor(4 * random());
    const full = Array.from({ length: size }, (_, i) =>
      Array.from({ length: size }, (_, j) => (Math.abs(i - j) > reach ? 0 : 2 * random() - 1 + (i === j ? 2 : 0))),
    );
    const right = full.map(() => 2 * random() - 1);
    const expected = solveDense(full, right, 1e-3);
    if (!expected) continue;
    solved++;
    const band = new BandMatrix(size, reach);
    full.forEach((row, i) => {
      row.forEach((value, j) => {
        if (Math.abs(i - j) <= reach) band.add(i, j, value);
      });
    });
    band.split();
    // The triangles serve any right-hand side.
    for (const by of [1, -2.5]) {
      const b = Float64Array.from(right, (x) => by * x);
      band.solve(b);
      expected.forEach((x, i) => {
        expect(b[i]).toBeCloseTo(by * x, 8);
      });
    }
  }
  expect(solved).toBeGreaterThan(50);
});

test("three spacings are carried on without a remainder where the error has two powers", () => {
  const spaces = [10, 14, 20];
  const { value, doubt } = carriedOn(
    spaces,
    spaces.map((n) => 3 + 7 / n ** 2 - 40 / n ** 4),
  );
  expect(value).toBeCloseTo(3, 10);
  expect(doubt).toBeGreaterThan(1e-5);
  expect(
    carriedOn(
      spaces,
      spaces.map((n) => 3 + 7 / n ** 2),
    ).doubt,
  ).toBeLessThan(1e-12);
});

test("a wrong digit stands out of what bends slowly, by its size", () => {
  const points = [0, 0.1, 0.25, 0.3, 0.4, 0.5].map((x) => [x, 0.01 * x + (x === 0.3 ? 0.002 : 0)] as const);
  const found = kinks(points);
  expect(found.map((k) => k.at)).toEqual([0.1, 0.25, 0.3, 0.4]);
  expect(found[2].off).toBeCloseTo(0.002, 12);
  expect(found[0].off).toBeCloseTo(0, 12);
});

const SPACES = [32, 40, 48];
const readings = (spaces: readonly number[], conditions: readonly number[], solve: (c: number, n: number, guess?: BoxFlow) => BoxFlow) =>
  spaces.map((n) => {
    let flow: BoxFlow | undefined;
    for (const c of conditions) flow = solve(c, n, flow);
    return new Readings(flow as BoxFlow);
  });

describe("a method that shares nothing with the bench's", () => {
  test("finds the spectral table of the lidded box at Re 1000", () => {
    const table = LIDDED_BOX_TABLES.find((t) => t.id === "spectral-1000");
    const found = readings(SPACES, [100, 250, 500, 1000], (re, n, guess) => steadyBox({ lidSpeed: 1, viscosity: 1 / re }, n, guess));
    const at = (read: (r: Readings) => number) => carriedOn(SPACES, found.map(read)).value;
    for (const [y, u] of table?.u ?? []) if (y > 0 && y < 1) expect(Math.abs(at((r) => r.u(y)) - u)).toBeLessThan(6e-3);
    for (const [x, v] of table?.v ?? []) if (x > 0 && x < 1) expect(Math.abs(at((r) => r.v(x)) - v)).toBeLessThan(6e-3);
    expect(at((r) => r.vortex().value)).toBeCloseTo(table?.extrema.psiMin as number, 3);
    expect(at((r) => r.vortex().x)).toBeCloseTo(table?.extrema.vortexX as number, 3);
    expect(at((r) => r.vortex().y)).toBeCloseTo(table?.extrema.vortexY as number, 3);
  });

  test("finds the published heat and speeds of the chamber at Ra 1e4, and turns about its middle", () => {
    const spaces = [24, 28, 36];
    const table = WARM_WALL.find((t) => t.rayleigh === 1e4);
    const solve = (ra: number, n: number, guess?: BoxFlow) => steadyBox({ lidSpeed: 0, viscosity: 0.71, heat: { buoyancy: 0.71 * ra } }, n, guess);
    const found = readings(spaces, [1e3, 1e4], solve);
    const at = (read: (r: Readings) => number) => carriedOn(spaces, found.map(read)).value;
    expect(at((r) => r.nusselt()) / (table?.nusselt as number)).toBeCloseTo(1, 3);
    expect(-at((r) => Readings.lowestOf((x) => -r.v(x), 0, 0.5).value) / (table?.vMax as number)).toBeCloseTo(1, 2);
    expect(-at((r) => Readings.lowestOf((y) => -r.u(y), 0.5, 1).value) / (table?.uMax as number)).toBeCloseTo(1, 2);
    const { psi, heat } = solve(1e3, 16);
    for (let k = 0; k < psi.length; k++) {
      expect(psi[k]).toBeCloseTo(psi[psi.length - 1 - k], 8);
      expect(heat?.[k]).toBeCloseTo(-(heat?.[psi.length - 1 - k] as number), 8);
    }
  });

  test("a chamber without buoyancy conducts, and nothing moves", () => {
    const flow = steadyBox({ lidSpeed: 0, viscosity: 1, heat: { buoyancy: 0 } }, 12);
    expect(new Readings(flow).nusselt()).toBeCloseTo(1, 12);
    flow.lines.forEach((x, i) => {
      expect(flow.heat?.[3 * 13 + i]).toBeCloseTo(0.5 - x, 10);
    });
  });
});
