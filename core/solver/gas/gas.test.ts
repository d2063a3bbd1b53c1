import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { areaRatio, cornerExpansion, ductFlow, machOfArea, normalShock, obliqueShock, riemannSolution } from "../../exact/gasDynamics.ts";
import { shapedRectangle } from "../../mesh/shaped.ts";
import { benchProblem } from "../../problems/build/catalogue.ts";
import { ductMesh, ductPhysics } from "../../problems/build/duct.ts";
import { travellingVortex, vortexMesh, vortexPhysics } from "../../problems/build/vortex.ts";
import { presetParameters } from "../../problems/describe/catalogue.ts";
import type { VortexParameters } from "../../problems/describe/vortex.ts";
import { vortexField } from "../../problems/truth/vortex.ts";
import { contactFlux, LIMITERS, linearisedFlux } from "./gas.ts";
import { GasSpace } from "./gasSpace.ts";
import { SteadyGas } from "./steadyGas.ts";

const positive = fc.double({ min: 0.05, max: 20, noNaN: true });
const velocity = fc.double({ min: -5, max: 5, noNaN: true });
const anyState = fc.tuple(positive, velocity, velocity, positive).map((s) => Float64Array.from(s));
const anyNormal = fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }).map((a) => [Math.cos(a), Math.sin(a)] as const);

describe.each([
  ["contact", contactFlux],
  ["linearised", linearisedFlux],
] as const)("%s flux", (_name, flux) => {
  const of = (l: Float64Array, r: Float64Array, nx: number, ny: number) => {
    const out = new Float64Array(4);
    flux(out, 1.4, l, r, nx, ny);
    return out;
  };
  test("of two equal states is the exact one", () => {
    fc.assert(
      fc.property(anyState, anyNormal, (w, [nx, ny]) => {
        const q = w[1] * nx + w[2] * ny;
        const h = 3.5 * w[3] + 0.5 * w[0] * (w[1] ** 2 + w[2] ** 2);
        const exact = [w[0] * q, w[0] * q * w[1] + w[3] * nx, w[0] * q * w[2] + w[3] * ny, q * h];
        const scale = Math.max(...exact.map(Math.abs), 1);
        of(w, w, nx, ny).forEach((f, k) => {
          expect(f / scale).toBeCloseTo(exact[k] / scale, 10);
        });
      }),
    );
  });
  test("seen from the other side it is the same with the sign turned: nothing is lost between two cells", () => {
    fc.assert(
      fc.property(anyState, anyState, anyNormal, (l, r, [nx, ny]) => {
        const a = of(l, r, nx, ny);
        const b = of(r, l, -nx, -ny);
        const scale = Math.max(...a.map(Math.abs), 1);
        for (let k = 0; k < 4; k++) expect((a[k] + b[k]) / scale).toBeCloseTo(0, 9);
      }),
    );
  });
});

test("a contact that stands is kept by the flux named after it", () => {
  const out = new Float64Array(4);
  contactFlux(out, 1.4, Float64Array.of(1, 0, 0.7, 2), Float64Array.of(0.1, 0, -0.3, 2), 1, 0);
  [0, 2, 0, 0].forEach((f, k) => {
    expect(out[k]).toBeCloseTo(f, 14);
  });
});

describe("compiled loops", () => {
  const p = presetParameters(travellingVortex);
  test.each(LIMITERS)("give the bits of their plain twins, limiter %s", (limiter) => {
    for (const shape of ["jittered", "smooth"] as const) {
      const mesh = vortexMesh(p, 14, 14, shape);
      const [a, b] = [false, true].map((plain) => new GasSpace(mesh, vortexPhysics(p), "contact", limiter, plain));
      for (const s of [a, b]) s.evaluate();
      expect(Buffer.from(a.residual).equals(Buffer.from(b.residual))).toBe(true);
      expect(Array.from(a.residual)).toEqual(Array.from(b.residual));
      expect(Array.from(a.waves)).toEqual(Array.from(b.waves));
      expect(Array.from(a.share)).toEqual(Array.from(b.share));
    }
  });
  test("leave nothing behind in a box whose sides are joined: every flux that leaves a cell enters another", () => {
    const space = new GasSpace(vortexMesh(p, 20, 20, "jittered"), vortexPhysics(p), "contact", "bounds");
    space.evaluate();
    for (let k = 0; k < 4; k++) {
      let [net, size] = [0, 0];
      for (let i = k; i < space.residual.length; i += 4) {
        net += space.residual[i];
        size += Math.abs(space.residual[i]);
      }
      expect(Math.abs(net) / size).toBeLessThan(1e-12);
    }
  });
});

test("a symmetric set-up stays symmetric to rounding for 200 steps", () => {
  const uniform = { kind: "uniform" } as const;
  const mesh = shapedRectangle({ lengthM: 2, heightM: 1, nx: 24, ny: 16, gradingX: uniform, gradingY: uniform, periodicX: false }, "rows");
  const inflow = [1.4, 2, 0, 1] as const;
  const flow = new SteadyGas(
    mesh,
    {
      gas: { gamma: 1.4, gasConstant: 287, viscosityPaS: 0, prandtl: 0.7 },
      boundaries: { left: { kind: "state", state: inflow }, right: { kind: "free-outlet" }, bottom: { kind: "slip" }, top: { kind: "slip" } },
      initial: (x, y) => [1.4, 2, 0, 1 + 0.3 * Math.exp(-20 * ((x - 1) ** 2 + (y - 0.5) ** 2))],
    },
    { riemannFlux: "contact", limiter: "smooth", maxIterations: 200, dropOrders: 16, explicit: true },
  );
  while (flow.state === "running") flow.advance();
  const { w } = flow.space;
  for (let j = 0; j < 8; j++) {
    for (let i = 0; i < 24; i++) {
      const [a, b] = [4 * (j * 24 + i), 4 * ((15 - j) * 24 + i)];
      expect(Math.abs(w[a] - w[b])).toBeLessThan(1e-12);
      expect(Math.abs(w[a + 2] + w[b + 2])).toBeLessThan(1e-12);
    }
  }
});

test("a standing shock settles to six orders on a mesh where the limiter alone would wander, and stands where theory has it", () => {
  const p = presetParameters(benchProblem("contoured-duct"));
  const mesh = ductMesh(p, { nx: 90, ny: 9 });
  const flow = new SteadyGas(mesh, ductPhysics(p), { riemannFlux: "linearised", limiter: "smooth", maxIterations: 400, dropOrders: 6 });
  while (flow.state === "running") flow.advance();
  expect(flow.state).toBe("reached-target");
  // The steepest rise of pressure along the lowest row, within a cell of the exact place.
  const row = Array.from({ length: 90 }, (_, i) => flow.space.w[4 * i + 3]);
  const rises = row.slice(1).map((q, i) => q - row[i]);
  expect(Math.abs((rises.indexOf(Math.max(...rises)) + 1) / 90 - 0.7562)).toBeLessThan(1.2 / 90);
}, 120_000);

test("a perturbed uniform flow is kept when nothing perturbs it", () => {
  const p = presetParameters<VortexParameters>(travellingVortex);
  const still = vortexField({ ...p, strength: 1e-12 });
  const space = new GasSpace(
    vortexMesh(p, 8, 8, "jittered"),
    { ...vortexPhysics(p), initial: (x, y) => still(x, y, 0) as never },
    "linearised",
    "none",
  );
  space.evaluate();
  expect(Math.max(...space.residual.map(Math.abs)) / 101325).toBeLessThan(1e-10);
});

describe("exact gas dynamics against printed tables", () => {
  test("Riemann problems of Toro's table 4.2: pressure and velocity between the waves", () => {
    const at = (l: number[], r: number[]) => {
      const s = riemannSolution({ density: l[0], velocity: l[1], pressure: l[2] }, { density: r[0], velocity: r[1], pressure: r[2] }, 1.4).star;
      return [s.pressure, s.velocity];
    };
    const close = (found: number[], printed: number[], digits: number) => {
      for (const [k, v] of found.entries()) expect(v).toBeCloseTo(printed[k], digits);
    };
    close(at([1, 0, 1], [0.125, 0, 0.1]), [0.30313, 0.92745], 5);
    close(at([1, -2, 0.4], [1, 2, 0.4]), [0.00189, 0], 5);
    close(at([1, 0, 1000], [1, 0, 0.01]), [460.894, 19.5975], 3);
    close(at([1, 0, 0.01], [1, 0, 100]), [46.095, -6.19633], 3);
    close(at([5.99924, 19.5975, 460.894], [5.99242, -6.19633, 46.095]), [1691.64, 8.68975], 1);
  });
  test("a vacuum is refused", () =>
    expect(() => riemannSolution({ density: 1, velocity: -9, pressure: 1 }, { density: 1, velocity: 9, pressure: 1 }, 1.4)).toThrow(/vacuum/));
  test("normal shock at Mach 2 and areas as printed in tables", () => {
    const s = normalShock(2, 1.4);
    expect(s.pressureRatio).toBeCloseTo(4.5, 12);
    expect(s.densityRatio).toBeCloseTo(2.6667, 4);
    expect(s.machBehind).toBeCloseTo(0.5774, 4);
    expect(s.totalPressureRatio).toBeCloseTo(0.7209, 4);
    expect(areaRatio(2, 1.4)).toBeCloseTo(1.6875, 4);
  });
  test("a wedge of 20 degrees at Mach 3, an expansion of 20 degrees at Mach 2", () => {
    const s = obliqueShock(3, (20 * Math.PI) / 180, 1.4);
    expect((s.angle * 180) / Math.PI).toBeCloseTo(37.76, 2);
    expect(s.machBehind).toBeCloseTo(1.994, 3);
    expect(cornerExpansion(2, (20 * Math.PI) / 180, 1.4).machBehind).toBeCloseTo(2.83, 2);
  });
  test("area and Mach number are each other's inverse on both branches", () => {
    fc.assert(
      fc.property(fc.double({ min: 1.001, max: 20, noNaN: true }), (ratio) => {
        for (const branch of ["subsonic", "supersonic"] as const) expect(areaRatio(machOfArea(ratio, 1.4, branch), 1.4) / ratio).toBeCloseTo(1, 9);
      }),
    );
  });
  test("a duct's exit pressure is met, with or without a shock", () => {
    for (const back of [0.9, 0.75, 0.66]) expect(ductFlow(1.5, back, 1.4).at(1.5, true).pressure).toBeCloseTo(back, 6);
    expect(ductFlow(1.5, 0.75, 1.4).shockArea).toBeGreaterThan(1);
    expect(ductFlow(1.5, 0.95, 1.4).choked).toBe(false);
  });
});
