import { describe, expect, test } from "vitest";
import { interpolateAt, lowest } from "../numeric/lagrange.ts";
import { benchProblem } from "../problems/build/catalogue.ts";
import { run } from "../problems/build/problemRunsForTests.ts";
import { setupFingerprint, setupOf } from "../problems/describe/caseSetup.ts";
import { presetParameters } from "../problems/describe/catalogue.ts";
import { settingDifferences } from "../problems/describe/runSettings.ts";
import { foundUncertainty, LIDDED_BOX_TABLES, type LiddedBoxTable } from "../tables/liddedBox.ts";
import { WARM_WALL } from "../tables/warmWall.ts";
import { platesFlowRate, platesShear, platesVelocity } from "./plates.ts";

describe("plates, exact", () => {
  const f = { gapM: 0.02, wallSpeedMS: 0.3, pressureGradientPaM: -0.4, viscosityPaS: 2e-5 };
  test("no slip at both plates, and the equation of motion holds: mu u'' = dp/dx", () => {
    expect(platesVelocity(f, 0)).toBe(0);
    expect(platesVelocity(f, f.gapM)).toBeCloseTo(f.wallSpeedMS, 12);
    const d = 1e-4;
    const curvature = (platesVelocity(f, 0.01 + d) - 2 * platesVelocity(f, 0.01) + platesVelocity(f, 0.01 - d)) / d ** 2;
    expect(f.viscosityPaS * curvature).toBeCloseTo(f.pressureGradientPaM, 6);
  });
  test("the flow rate is the integral of the profile, by Simpson's rule, which is exact for it", () => {
    const n = 10;
    let sum = 0;
    for (let i = 0; i <= n; i++) sum += (i === 0 || i === n ? 1 : i % 2 ? 4 : 2) * platesVelocity(f, (f.gapM * i) / n);
    expect((sum * f.gapM) / n / 3).toBeCloseTo(platesFlowRate(f), 12);
  });
  test("the plates' shear carries the pressure difference: tau_H - tau_0 = H dp/dx", () => {
    const s = platesShear(f);
    expect(s.sliding - s.resting).toBeCloseTo(f.gapM * f.pressureGradientPaM, 12);
  });
});

describe("lidded box, tables", () => {
  test.each(LIDDED_BOX_TABLES.filter((t) => t.u.length))("$name: walls at rest, lid at speed, no point twice", (t) => {
    const u = new Map(t.u.map(([y, v]) => [y, v]));
    expect([u.get(0), u.get(1)]).toEqual([0, 1]);
    expect(u.size).toBe(t.u.length);
    expect(new Map(t.v).size).toBe(t.v.length);
    for (const x of [0, 1]) expect(new Map(t.v).get(x)).toBe(0);
  });
  test.each(LIDDED_BOX_TABLES.filter((t) => t.u.length))("$name: no point of a profile lies beyond the extrema printed beside it", (t) => {
    const believed = t.u.filter(([y]) => !t.misprintU?.some((m) => m.x === y));
    expect(Math.min(...believed.map((p) => p[1]))).toBeGreaterThanOrEqual(t.extrema.uMin - 1e-6);
    expect(Math.min(...t.v.map((p) => p[1]))).toBeGreaterThanOrEqual(t.extrema.vMin - 1e-6);
    expect(Math.max(...t.v.map((p) => p[1]))).toBeLessThanOrEqual(t.extrema.vMax + 1e-3);
  });
  test("the two sources agree at Re 1000 within two percent of the lid speed at every common height", () => {
    const [spectral, classical] = ["spectral-1000", "classical-1000"].map((id) => LIDDED_BOX_TABLES.find((t) => t.id === id));
    for (const [y, v] of spectral?.u ?? []) expect(Math.abs(v - (new Map(classical?.u).get(y) ?? Number.NaN))).toBeLessThan(0.02);
  });
  test("the classical tables say of themselves what lies between them and the spectral ones, where there are such", () => {
    for (const reynolds of [100, 1000]) {
      const of = (kind: string) => LIDDED_BOX_TABLES.find((t) => t.id === `${kind}-${reynolds}`) as LiddedBoxTable;
      const [sharp, table] = [of("spectral"), of("classical")];
      for (const [key, value] of Object.entries(sharp.extrema))
        expect(Math.abs(table.extrema[key] - value)).toBeLessThan(2 * (foundUncertainty(key, table) ?? 0));
      const held = (points: LiddedBoxTable["u"], others: LiddedBoxTable["u"], key: string) => {
        for (const [at, value] of points)
          expect(Math.abs((new Map(others).get(at) ?? Number.NaN) - value)).toBeLessThan(2 * (foundUncertainty(key, table) ?? 0));
      };
      held(sharp.u, table.u, "uMin");
      held(sharp.v, table.v, "vMin");
    }
    expect(foundUncertainty("lidForce", LIDDED_BOX_TABLES[2])).toBeUndefined();
    expect(foundUncertainty("uMin", LIDDED_BOX_TABLES[0])).toBeUndefined();
  });
  test("in the core, which turns as a whole, the velocity rises alike at every high Reynolds number, but where a misprint is told", () => {
    const high = LIDDED_BOX_TABLES.filter((t) => t.reynolds >= 3200);
    expect(high.map((t) => t.reynolds)).toEqual([3200, 5000, 7500, 10_000]);
    for (const t of high) {
      const u = new Map(t.u);
      const rise = ((u.get(0.5) ?? 0) - (u.get(0.4531) ?? 0)) / (0.5 - 0.4531);
      const told = t.misprintU?.some((m) => m.x === 0.5 || m.x === 0.4531) ?? false;
      expect([t.reynolds, Math.abs(rise / 0.933 - 1) < 0.01]).toEqual([t.reynolds, !told]);
    }
  });
  test("at Re 3200 the bench agrees with the table's extrema within what is stated of them", () => {
    const p = benchProblem("lidded-box");
    const preset = presetParameters(p) as Record<string, number>;
    const viscosityPaS = (preset.densityKgM3 * preset.lidSpeedMS * preset.sideM) / 3200;
    const job = run("lidded-box", { parameters: { viscosityPaS }, scale: 3, numerics: { dropOrders: 5 } });
    const { quantities } = job.result();
    const table = LIDDED_BOX_TABLES.find((t) => t.reynolds === 3200);
    for (const key of ["uMin", "vMax", "vMin"]) {
      const value = table?.extrema[key] ?? Number.NaN;
      expect(Math.abs(quantities[key] - value)).toBeLessThan(2 * (foundUncertainty(key, table ?? {}) ?? 0));
    }
  });
  test("yardsticks hold at their own Reynolds number only; far from it the nearest stay and say that they do not", () => {
    const p = benchProblem("lidded-box");
    const presets = Object.fromEntries(p.parameters.map((s) => [s.key, s.preset]));
    expect(p.yardsticks(presets, {}).map((y) => [y.key, y.validity.inside])).toEqual([
      ["spectral-1000", true],
      ["classical-1000", true],
    ]);
    expect(p.yardsticks({ ...presets, lidSpeedMS: presets.lidSpeedMS * 1.05 }, {}).every((y) => !y.validity.inside)).toBe(true);
    const far = p.yardsticks({ ...presets, lidSpeedMS: presets.lidSpeedMS * 2.5 }, {});
    expect(far.length).toBeGreaterThan(0);
    expect(far.every((y) => !y.validity.inside)).toBe(true);
  });
});

describe("warm wall, tables", () => {
  test("heat and speeds rise with the Rayleigh number by powers that fall towards their limits, and the layers grow thin", () => {
    const power = (of: (t: (typeof WARM_WALL)[number]) => number) =>
      WARM_WALL.slice(1).map((t, i) => Math.log10(of(t) / of(WARM_WALL[i])) / Math.log10(t.rayleigh / WARM_WALL[i].rayleigh));
    const heat = power((t) => t.nusselt).slice(1);
    for (const [i, p] of heat.entries()) {
      // A quarter is the limit of a laminar layer.
      expect(p).toBeGreaterThan(0.25);
      expect(p).toBeLessThan(i ? heat[i - 1] : 0.32);
    }
    for (const p of power((t) => t.vMax).slice(2)) expect(Math.abs(p - 0.5)).toBeLessThan(0.012);
    for (const [i, t] of WARM_WALL.slice(1).entries()) expect(t.vMaxAt).toBeLessThan(WARM_WALL[i].vMaxAt);
  });
});

describe("interpolation used for extrema", () => {
  const xs = [0, 0.8, 2.1, 2.9, 4.2, 5];
  test("a cubic is read exactly between uneven points", () => {
    const cubic = (x: number) => 1 - 2 * x + 0.5 * x ** 2 + 0.1 * x ** 3;
    for (const x of [0.1, 1.7, 2.5, 4.9]) expect(interpolateAt(xs, xs.map(cubic), x)).toBeCloseTo(cubic(x), 11);
  });
  test("the lowest point of a quartic is found between the samples", () => {
    const quartic = (x: number) => (x - 2.4) ** 2 * (1 + 0.05 * (x - 2.4) ** 2) - 3;
    const found = lowest(xs, xs.map(quartic));
    expect(found.x).toBeCloseTo(2.4, 5);
    expect(found.value).toBeCloseTo(-3, 9);
  });
});

describe("set-ups", () => {
  const base = {
    problemId: "plates",
    parameters: Object.fromEntries(benchProblem("plates").parameters.map((s) => [s.key, s.preset])),
    fluid: { name: "air" },
    numerics: { scheme: "central" as const, dropOrders: 8, maxIterations: 400 },
  };
  test("only what a run depends on enters its fingerprint", () => {
    expect(setupFingerprint({ ...base, reynoldsTyped: 5, fluid: { name: "water" } })).toEqual(setupFingerprint(base));
    expect(setupFingerprint({ ...base, numerics: { ...base.numerics, scheme: "upwind" } })).not.toEqual(setupFingerprint(base));
  });
  test("the reference velocity of a pushed flow is the largest in the gap, not the wall's", () => {
    const pushed = { ...base, parameters: { ...base.parameters, wallSpeedMS: 0, pressureGradientPaM: -0.05 } };
    expect(setupOf(pushed).velocityMS).toBeCloseTo((0.05 * 0.01 ** 2) / (8 * 1.74e-5), 10);
  });
  test("differences are listed by path and nothing else", () => {
    const other = { ...base, numerics: { ...base.numerics, dropOrders: 6 }, extra: 1 };
    expect(settingDifferences(base, other)).toEqual([
      { path: "extra", left: "not set", right: "1" },
      { path: "numerics.dropOrders", left: "8", right: "6" },
    ]);
    expect(settingDifferences(base, structuredClone(base))).toEqual([]);
  });
});
