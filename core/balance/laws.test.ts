import { describe, expect, test } from "vitest";
import { rectangleMesh } from "../mesh/rectangle.ts";
import { assessBalance, type BalanceRecord } from "./balance.ts";
import { forceInBox } from "./controlBox.ts";
import { assessLaws, mirrorLaw, wallFlow } from "./laws.ts";

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
