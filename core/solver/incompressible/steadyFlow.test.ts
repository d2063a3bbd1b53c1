import { describe, expect, test } from "vitest";
import { joinBlocks } from "../../mesh/blocks.ts";
import { type RectangleMesh, rectangleMesh } from "../../mesh/rectangle.ts";
import { revolved } from "../../mesh/revolved.ts";
import { fieldError } from "../../problems/build/errorNorms.ts";
import { liddedBox, liddedBoxPhysics } from "../../problems/build/liddedBox.ts";
import { plates, platesPhysics } from "../../problems/build/plates.ts";
import type { BenchProblem } from "../../problems/build/problem.ts";
import type { Parameters } from "../../problems/describe/problem.ts";
import { LIDDED_BOX_TABLES } from "../../tables/liddedBox.ts";
import { FlowSetupError } from "../discrete/boundaryConditions.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow, type SteadyFlowOptions } from "./steadyFlow.ts";

const normOf = (flow: SteadyFlow, p: Parameters) => plates.errorNorms(flow, p, flow.mesh as RectangleMesh, {})[0].l2;
const presets = (p: Pick<BenchProblem, "parameters">): Parameters => Object.fromEntries(p.parameters.map((q) => [q.key, q.preset]));

function solve(problem: typeof plates | typeof liddedBox, p: Parameters, n: number, grading: number, options: Partial<SteadyFlowOptions> = {}) {
  const g = grading > 0 ? ({ kind: "both-ends", strength: grading } as const) : ({ kind: "uniform" } as const);
  const mesh = problem.mesh(p, { nx: n, ny: n, gradingX: problem === plates ? { kind: "uniform" } : g, gradingY: g }) as RectangleMesh;
  const physics = problem === plates ? platesPhysics(p) : liddedBoxPhysics(p);
  const flow = new SteadyFlow(mesh, physics, { ...DEFAULT_STEADY_OPTIONS, ...options });
  while (flow.state === "running" || flow.state === "climbing") flow.advance();
  return flow;
}

describe("flow between plates", () => {
  const pushed: Parameters = { ...presets(plates), pressureGradientPaM: -0.05 };

  test("a straight profile is exact on any mesh, graded or not", () => {
    for (const grading of [0, 1.5]) {
      const flow = solve(plates, presets(plates), 8, grading, { dropOrders: 11 });
      const [e] = plates.errorNorms(flow, presets(plates), flow.mesh as RectangleMesh, {});
      expect(e.linf / e.scale).toBeLessThan(1e-10);
    }
  });

  test.each([
    ["joined ends, uniform", 0, 0],
    ["joined ends, graded", 0, 1.5],
    ["inflow and outlet, graded", 1, 1.5],
  ])("a curved profile comes out at order 2: %s", (_name, ends, grading) => {
    const p: Parameters = { ...pushed, ends };
    const l2 = [16, 32].map((n) => normOf(solve(plates, p, n, grading), p));
    expect(Math.log2(l2[0] / l2[1])).toBeGreaterThan(1.9);
    expect(Math.log2(l2[0] / l2[1])).toBeLessThan(2.1);
  });

  test("shear on joined plates equals the exact one to round-off: the force balance demands it", () => {
    const flow = solve(plates, pushed, 8, 0, { dropOrders: 12 });
    const exact = plates.yardsticks(pushed, {})[0].values.find((v) => v.quantityKey === "shearResting");
    expect(plates.evaluate(flow, pushed, flow.mesh as RectangleMesh).shearResting / (exact?.value ?? 0)).toBeCloseTo(1, 9);
  });

  test("mass closes to round-off cell by cell with an outlet, momentum to what the residual leaves", () => {
    const p: Parameters = { ...pushed, ends: 2, lengthM: 0.1 };
    const flow = solve(plates, p, 16, 1);
    const { owner, neighbour, joinCount, faceCount, cellCount } = flow.mesh;
    const net = new Float64Array(cellCount);
    for (let f = 0; f < faceCount; f++) {
      net[owner[f]] += flow.finest.flux[f];
      if (f < joinCount) net[neighbour[f]] -= flow.finest.flux[f];
    }
    const inflow = plates.evaluate(flow, p, flow.mesh as RectangleMesh).flowRate;
    expect(Math.max(...net.map(Math.abs)) / inflow).toBeLessThan(1e-13);
    const b = flow.balance();
    const parts = b.boundaries.flatMap((x) => [...(x.momentumX ?? [])]);
    expect(Math.abs(parts.reduce((s, v) => s + v, 0)) / Math.max(...parts.map(Math.abs))).toBeLessThan(1e-6);
  });

  test("symmetry about the middle: a plane of symmetry in place of half the gap gives the same flow", () => {
    const p: Parameters = { ...pushed, wallSpeedMS: 0, ends: 1 };
    const whole = solve(plates, p, 16, 0);
    const halfPhysics = platesPhysics(p);
    const mesh = rectangleMesh({
      lengthM: p.lengthM,
      heightM: p.gapM / 2,
      nx: 16,
      ny: 8,
      gradingX: { kind: "uniform" },
      gradingY: { kind: "uniform" },
      periodicX: false,
    });
    const half = new SteadyFlow(
      mesh,
      { ...halfPhysics, boundaries: { ...halfPhysics.boundaries, top: { kind: "symmetry" } } },
      DEFAULT_STEADY_OPTIONS,
    );
    while (half.state === "running" || half.state === "climbing") half.advance();
    for (let c = 0; c < mesh.cellCount; c++) expect(half.finest.u[c] / 0.1).toBeCloseTo(whole.finest.u[c] / 0.1, 5);
  });
});

test("a symmetric jet stays symmetric to rounding for 200 iterations", () => {
  const even = { kind: "uniform" } as const;
  const n = 16;
  const mesh = rectangleMesh({ lengthM: 2, heightM: 1, nx: 2 * n, ny: n, gradingX: even, gradingY: even, periodicX: false });
  const flow = new SteadyFlow(
    mesh,
    {
      kinematicViscosity: 0.02,
      bodyForce: [0, 0],
      boundaries: {
        left: { kind: "velocity", velocity: (_x: number, y: number) => [Math.abs(y - 0.5) < 0.2 ? 1 - (5 * (y - 0.5)) ** 2 : 0, 0] },
        right: { kind: "outlet", pressureOverDensity: 0 },
        bottom: { kind: "wall" },
        top: { kind: "wall" },
      },
    },
    { ...DEFAULT_STEADY_OPTIONS, dropOrders: 30, maxIterations: 200 },
  );
  while (flow.state === "running" || flow.state === "climbing") flow.advance();
  // At the level of rounding the run ends by itself; the iteration goes on here.
  for (let k = flow.history.length; k < 200; k++) flow.finest.smooth();
  const { u, v, p } = flow.finest;
  for (let c = 0; c < mesh.cellCount; c++) {
    const image = (n - 1 - Math.floor(c / (2 * n))) * 2 * n + (c % (2 * n));
    expect(Math.abs(u[c] - u[image])).toBeLessThan(1e-12);
    expect(Math.abs(v[c] + v[image])).toBeLessThan(1e-12);
    expect(Math.abs(p[c] - p[image])).toBeLessThan(1e-12);
  }
});

describe("lidded box at Re 1000", () => {
  const p = presets(liddedBox);
  const table = LIDDED_BOX_TABLES.find((t) => t.id === "spectral-1000")?.extrema ?? {};
  const coarse = solve(liddedBox, p, 64, 1.5, { dropOrders: 6 });
  const fine = solve(liddedBox, p, 128, 1.5, { dropOrders: 6 });
  const a = liddedBox.evaluate(coarse, p, coarse.mesh as RectangleMesh);
  const b = liddedBox.evaluate(fine, p, fine.mesh as RectangleMesh);

  test.each(["uMin", "vMax", "vMin"])(
    "%s on a graded 128 x 128 lies within 0.5 %% of the spectral figure and closes in on it at about order 2",
    (key) => {
      expect(Math.abs(b[key] / table[key] - 1)).toBeLessThan(0.005);
      const extrapolated = b[key] + (b[key] - a[key]) / 3;
      expect(Math.abs(extrapolated / table[key] - 1)).toBeLessThan(0.0006);
    },
  );

  test("vortex centre and stream function", () => {
    expect(Math.abs(b.vortexX - table.vortexX)).toBeLessThan(4e-4);
    expect(Math.abs(b.vortexY - table.vortexY)).toBeLessThan(4e-4);
    expect(Math.abs(b.psiMin / table.psiMin - 1)).toBeLessThan(0.004);
  });

  test("few cycles, nearly the same on both meshes", () => {
    expect(coarse.state).toBe("reached-target");
    expect(coarse.history.length).toBeLessThanOrEqual(24);
    expect(fine.history.length).toBeLessThanOrEqual(24);
  });
});

describe("revolved flow with swirl", () => {
  test("between two rotating cylinders the velocity about the axis comes out at order 2, and pressure that carries it at nearly that", () => {
    const [r1, r2, spin] = [0.02, 0.04, 3];
    const b = (spin * r1 * r1 * r2 * r2) / (r2 * r2 - r1 * r1);
    const a = -b / (r2 * r2);
    const error = (n: number) => {
      const mesh = revolved(
        joinBlocks(
          [{ nx: 4, ny: n, place: (s, t) => [0.01 * s, r1 + t * (r2 - r1)], sides: { left: "left", right: "right", bottom: "inner", top: "outer" } }],
          [{ names: ["left", "right"], shiftM: [0.01, 0] }],
        ),
      );
      const wall = { kind: "wall" } as const;
      const flow = new SteadyFlow(
        mesh,
        {
          kinematicViscosity: 1e-4,
          bodyForce: [0, 0],
          boundaries: { inner: wall, outer: wall },
          scalars: [
            {
              key: "swirl",
              unit: "m/s",
              diffusivity: 1e-4,
              swirl: true,
              conditions: { inner: { kind: "value", value: spin * r1 }, outer: { kind: "value", value: 0 } },
            },
          ],
        },
        { ...DEFAULT_STEADY_OPTIONS, dropOrders: 9 },
      );
      while (flow.state === "running" || flow.state === "climbing") flow.advance();
      const exact = (r: number) => a * r + b / r;
      const pressure = (r: number) => (a * a * r * r) / 2 + 2 * a * b * Math.log(r) - (b * b) / (2 * r * r);
      return [
        fieldError(mesh, "w", "m/s", flow.finest.scalars[0].q, (_x, r) => exact(r)).l2,
        fieldError(mesh, "p", "m^2/s^2", flow.finest.p, (_x, r) => pressure(r), "free").l2,
      ];
    };
    const [coarse, fine] = [error(16), error(32)];
    expect(Math.log2(coarse[0] / fine[0])).toBeGreaterThan(1.9);
    // Pressure is extrapolated along a straight line to the walls, which holds its order back a little.
    expect(Math.log2(coarse[1] / fine[1])).toBeGreaterThan(1.7);
  });
});

describe("behaviour", () => {
  test("the same set-up gives the same bits, whatever the slices", () => {
    const one = solve(liddedBox, presets(liddedBox), 24, 1.2);
    const two = solve(liddedBox, presets(liddedBox), 24, 1.2);
    expect(Buffer.from(two.finest.u.buffer).equals(Buffer.from(one.finest.u.buffer))).toBe(true);
    expect(two.history).toEqual(one.history);
  });

  test("the answer depends neither on multigrid nor on the start", () => {
    const a = solve(liddedBox, presets(liddedBox), 24, 0, { dropOrders: 10 });
    const b = solve(liddedBox, presets(liddedBox), 24, 0, { dropOrders: 10, multigrid: false, coarseToFine: false, window: 12, maxIterations: 3000 });
    const scale = presets(liddedBox).lidSpeedMS;
    for (let c = 0; c < a.mesh.cellCount; c++) expect((a.finest.u[c] - b.finest.u[c]) / scale).toBeCloseTo(0, 6);
  });

  test("odd counts nest as well", () => expect(solve(liddedBox, presets(liddedBox), 27, 1).state).toBe("reached-target"));

  test("absurd set-ups are refused with a reason", () => {
    const mesh = rectangleMesh({
      lengthM: 1,
      heightM: 1,
      nx: 4,
      ny: 4,
      gradingX: { kind: "uniform" },
      gradingY: { kind: "uniform" },
      periodicX: false,
    });
    const wall = { kind: "wall" } as const;
    const make = (nu: number, left: object) => () =>
      new SteadyFlow(
        mesh,
        { kinematicViscosity: nu, bodyForce: [0, 0], boundaries: { left, right: wall, bottom: wall, top: wall } as never },
        DEFAULT_STEADY_OPTIONS,
      );
    expect(make(0, wall)).toThrow(FlowSetupError);
    expect(make(Number.NaN, wall)).toThrow(FlowSetupError);
    expect(make(1, { kind: "velocity", velocity: [1, 0] })).toThrow(/no outlet/);
    expect(make(1, { kind: "velocity", velocity: [Number.POSITIVE_INFINITY, 0] })).toThrow(/not finite/);
  });

  test("a run that cannot settle ends and says so", () => {
    const p: Parameters = { ...presets(liddedBox), viscosityPaS: 1e-11 };
    const flow = solve(liddedBox, p, 16, 0, { maxIterations: 60 });
    expect(["diverged", "reached-limit"]).toContain(flow.state);
    expect(flow.history.length).toBeLessThanOrEqual(60);
  });
});
