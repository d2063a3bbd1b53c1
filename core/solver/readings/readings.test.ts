import { describe, expect, test } from "vitest";
import { rectangleMesh } from "../../mesh/rectangle.ts";
import { assessBalance } from "../../method/balance/balance.ts";
import { assessLaws } from "../../method/balance/laws.ts";
import { backwardFacingStep } from "../../problems/build/backwardFacingStep.ts";
import { DEFAULT_NUMERICS } from "../../problems/describe/caseSetup.ts";
import { presetParameters } from "../../problems/describe/catalogue.ts";
import type { BalanceRecord } from "../../records/balance.ts";
import { GasSpace } from "../gas/gasSpace.ts";
import type { SteadyFlow } from "../incompressible/steadyFlow.ts";
import { TransientFlow } from "../incompressible/transientFlow.ts";
import { forceInBox } from "./controlBox.ts";
import { mirrorLaw, wallFlow } from "./flowLaws.ts";
import { gasLaws } from "./gasLaws.ts";

const uniform = { kind: "uniform" } as const;
const mesh = rectangleMesh({ lengthM: 4, heightM: 4, nx: 160, ny: 160, gradingX: uniform, gradingY: uniform, periodicX: false });
const over = (f: (x: number, y: number) => number) =>
  Float64Array.from({ length: mesh.cellCount }, (_, c) => f(mesh.centroidM[2 * c] - 2, mesh.centroidM[2 * c + 1] - 2));

describe("a control box", () => {
  test("finds no drag and the lift of its circulation on a cylinder in potential flow", () => {
    const [speed, radius, circulation] = [1.5, 0.4, 0.8];
    const velocity = (x: number, y: number) => {
      const r2 = x * x + y * y;
      const swirl = circulation / (2 * Math.PI * r2);
      return [speed * (1 - (radius ** 2 * (x * x - y * y)) / r2 ** 2) - swirl * y, (-speed * radius ** 2 * 2 * x * y) / r2 ** 2 + swirl * x];
    };
    const u = over((x, y) => velocity(x, y)[0]);
    const v = over((x, y) => velocity(x, y)[1]);
    const p = u.map((q, c) => -0.5 * (q * q + v[c] ** 2));
    const [drag, lift] = forceInBox(mesh, { u, v, p, kinematicViscosity: 0 }, { fromM: [0.9, 0.8], toM: [3.2, 3.3] });
    // Kutta and Joukowski: lift = - speed * circulation, counted anticlockwise.
    expect(lift).toBeCloseTo(-speed * circulation, 2);
    expect(Math.abs(drag)).toBeLessThan(2e-3);
  });
  test("finds the force of shear: a layer of straight profile carries nothing, a parabola its pressure drop", () => {
    const nu = 0.3;
    const u = over((_x, y) => 1 - (y / 2) ** 2);
    const zero = over(() => 0);
    const p = over((x) => -0.5 * nu * x);
    // In balance everywhere: nothing stands in the box.
    const balanced = forceInBox(mesh, { u, v: zero, p, kinematicViscosity: nu }, { fromM: [0.5, 1], toM: [3, 3.5] });
    expect(Math.hypot(...balanced)).toBeLessThan(1e-9);
    const unbalanced = forceInBox(mesh, { u, v: zero, p: zero, kinematicViscosity: nu }, { fromM: [0.5, 1], toM: [3, 3.5] });
    expect(unbalanced[0]).toBeCloseTo(-0.5 * nu * 2.5 * 2.5, 9);
  });
});

describe("laws", () => {
  const record: BalanceRecord = {
    boundaries: [
      { name: "inlet", mass: -2 },
      { name: "outlet", mass: 1.99 },
      { name: "floor", mass: 0.01, closed: true },
    ],
  };
  test("a leak through a wall is a share of what passes, and a stop", () => {
    const [reading] = wallFlow(record);
    expect(reading.share).toBeCloseTo(0.01 / 1.995, 12);
    const judged = assessLaws("L1", [reading], [], {});
    expect(judged.state).toBe("fails");
    expect(judged.remarks).toEqual([
      expect.objectContaining({ rule: "wall-flow", severity: "stop", sentence: expect.stringContaining("off by 0.50") }),
    ]);
  });
  test("a symmetric field is its own image, a bent one is off by its bend", () => {
    const mirror = { point: (x: number, y: number) => [x, 4 - y] as const, velocity: [1, -1] as const };
    const u = over((x, y) => Math.cos(y) * (1 + 0.1 * x));
    const v = over((_x, y) => Math.sin(y));
    expect(mirrorLaw(mesh, u, v, mirror)[0].share).toBeLessThan(1e-12);
    const top = Math.max(...u.map((q, c) => Math.hypot(q, v[c])));
    const bent = u.map((q, c) => q + (mesh.centroidM[2 * c + 1] > 2 ? 0.05 : 0));
    expect(mirrorLaw(mesh, bent, v, mirror)[0].share * top).toBeCloseTo(0.05, 2);
  });
  test("second computations are held to the mesh uncertainty of both, or to one in a hundred", () => {
    const reading = { quantityKey: "drag", name: "drag", unit: "N", first: 10, firstBy: "the surface", second: 10.2, secondBy: "a box" };
    const state = (u: number | undefined) => assessLaws("L1", [], [reading], { drag: u }).second[0];
    expect(state(undefined)).toMatchObject({ state: "remark", against: "1 %", limit: 0.01 });
    expect(state(0.02)).toMatchObject({ state: "holds", against: "mesh uncertainty" });
    expect(state(0.01)).toMatchObject({ state: "remark" });
    const wide = assessLaws("L1", [], [reading], { drag: 0.001 }, { drag: 0.3 }).second[0];
    expect(wide).toMatchObject({ state: "holds", against: "a tenth of its limit", limit: 0.03 });
  });
});

describe("signs and storage", () => {
  const rules = (b: BalanceRecord) => assessBalance(b).remarks.map((r) => r.rule);
  const masses = (...m: number[]): BalanceRecord => ({ boundaries: m.map((mass, k) => ({ name: `b${k}`, mass })) });
  test("flows all one way, or one turned round, are asked about; a plain loss is not", () => {
    expect(rules(masses(1, 1))).toContain("balance-sign");
    expect(
      assessBalance(masses(-1, 0.6, -0.4))
        .remarks.map((r) => r.sentence)
        .join(),
    ).toContain("with the sign of b2 turned it would close to 0 %".replace("0 %", "0"));
    expect(rules(masses(-1, 0.98))).toEqual(["balance-limit"]);
    expect(rules(masses(-1, 1))).toEqual([]);
  });
  test("what a filling box takes up closes its balance", () => {
    const filling = { ...masses(-1, 0.25), storage: { mass: 0.75 } };
    expect(assessBalance(filling).lines[0]).toMatchObject({ net: 0, state: "holds" });
  });
});

describe("flows in time", () => {
  /** A duct whose inflow swells, with a trace that comes in and is made inside. */
  const duct = () => {
    const box = rectangleMesh({ lengthM: 1, heightM: 0.5, nx: 24, ny: 12, gradingX: uniform, gradingY: uniform, periodicX: false });
    return new TransientFlow(
      box,
      {
        densityKgM3: 1.3,
        kinematicViscosity: 0.01,
        bodyForce: [0.2, -0.1],
        boundaries: {
          left: { kind: "velocity", velocity: (_x, y, t) => [(1 + t) * y * (0.5 - y) * 16, 0] },
          right: { kind: "outlet", pressureOverDensity: 0 },
          bottom: { kind: "wall" },
          top: { kind: "wall" },
        },
        scalars: [
          {
            key: "trace",
            unit: "1",
            diffusivity: 0.005,
            conditions: {
              left: { kind: "value", value: (_x, y, t) => y + t },
              bottom: { kind: "value", value: 0.3 },
              top: { kind: "flux", outward: 0 },
            },
            source: (x, _y, t) => 0.5 * Math.sin(x) * (1 + t),
          },
        ],
      },
      { scheme: "linear-upwind", endTimeS: 0.3, longestStepS: 0.02, courant: 5, dropOrders: 9, maxIterations: 100 },
    );
  };
  test("mass, momentum and what is carried close at every step, with what is stored and made inside", () => {
    const flow = duct();
    let stored = 0;
    while (flow.state === "running") {
      flow.advance();
      const record = flow.balance();
      for (const line of assessBalance(record).lines) expect(line.relative, `${line.what} at ${flow.timeS} s`).toBeLessThan(2e-7);
      stored = Math.max(stored, Math.abs(record.storage?.scalars?.trace ?? 0), Math.abs(record.storage?.momentum?.[0] ?? 0));
    }
    // Without storage nothing would have closed.
    expect(stored).toBeGreaterThan(0.05);
    const { storage, ...forgotten } = flow.balance();
    expect(storage).toBeDefined();
    expect(assessBalance(forgotten).state).toBe("fails");
    expect(flow.laws().map((l) => l.law)).toEqual(["wall-flow"]);
  });
  test("total pressure made by nobody is found", () => {
    const p = { ...presetParameters(backwardFacingStep), lengthSteps: 6, inletSteps: 2 };
    const mesh = backwardFacingStep.mesh(p, { nx: 32, ny: 8, gradingX: uniform, gradingY: uniform });
    const flow = backwardFacingStep.simulate(p, mesh, { ...DEFAULT_NUMERICS, ...backwardFacingStep.numerics }, {}) as SteadyFlow;
    while (flow.state === "running" || flow.state === "climbing") flow.advance();
    const share = () => flow.laws().find((l) => l.law === "total-pressure")?.share ?? Number.NaN;
    expect(share()).toBeLessThan(0.01);
    const { u, v, p: pressure } = flow.finest.boundary;
    const heads = Array.from(pressure, (q, b) => q + 0.5 * (u[b] ** 2 + v[b] ** 2));
    const span = Math.max(...heads) - Math.min(...heads);
    flow.finest.p[40] = Math.max(...heads) + 0.2 * span - 0.5 * (flow.finest.u[40] ** 2 + flow.finest.v[40] ** 2);
    expect(share()).toBeCloseTo(0.2, 9);
  });
});

test("a gas whose entropy falls in one cell, or whose enthalpy is not kept, is found by as much", () => {
  const gamma = 1.4;
  const state = [1.2, 600, 0, 1e5] as const;
  const box = rectangleMesh({ lengthM: 1, heightM: 0.5, nx: 10, ny: 5, gradingX: uniform, gradingY: uniform, periodicX: false });
  const space = new GasSpace(
    box,
    {
      gas: { gamma, gasConstant: 287, viscosityPaS: 0, prandtl: 0.7 },
      boundaries: { left: { kind: "state", state }, right: { kind: "free-outlet" }, bottom: { kind: "slip" }, top: { kind: "slip" } },
      initial: () => state,
    },
    "contact",
    "none",
  );
  const shares = () => {
    space.evaluate();
    return Object.fromEntries(gasLaws(box, space).map((l) => [l.law, l.share]));
  };
  for (const share of Object.values(shares())) expect(share).toBeLessThan(1e-13);
  // Cooler at the same pressure and speed: the entropy is less by the logarithm of the densities' ratio.
  space.w[4 * 23] = 1.3;
  const cooled = shares();
  expect(cooled.entropy).toBeCloseTo(Math.log(1.3 / 1.2), 12);
  const enthalpy = (rho: number) => ((gamma / (gamma - 1)) * 1e5) / rho + 0.5 * 600 ** 2;
  expect(cooled["total-enthalpy"]).toBeCloseTo((1 - enthalpy(1.3) / enthalpy(1.2)) / 50, 12);
});
