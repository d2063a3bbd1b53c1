import { describe, expect, test } from "vitest";
import { rectangleMesh } from "../../mesh/rectangle.ts";
import { buoyantLayerM, longestCellM } from "./buoyantLayer.ts";
import type { FlowPhysics } from "./flowPhysics.ts";
import type { ScalarCondition } from "./scalarField.ts";

const uniform = { kind: "uniform" } as const;
const room = (nx: number, ny: number, lengthM = 2, heightM = 2) =>
  rectangleMesh({ lengthM, heightM, nx, ny, gradingX: uniform, gradingY: uniform, periodicX: false });

const physics = (conditions: Record<string, ScalarCondition>, buoyancy?: [number, number]): FlowPhysics => ({
  kinematicViscosity: 2e-5,
  bodyForce: [0, 0],
  boundaries: {},
  scalars: [{ key: "temperature", unit: "K", diffusivity: 3e-5, conditions, ...(buoyancy ? { buoyancy } : {}) }],
});

describe("the layer that buoyancy leaves on a wall", () => {
  const [name, other] = room(4, 4).boundaries.map((b) => b.name);
  test("is the size of the room over the fourth root of its Rayleigh number", () => {
    const held = { [name]: { kind: "value", value: 290 }, [other]: { kind: "value", value: 280 } } as const;
    const rayleigh = (0.03 * 10 * 2 ** 3) / (2e-5 * 3e-5);
    expect(buoyantLayerM(room(4, 4), physics(held, [0, 0.03])) / (2 / rayleigh ** 0.25)).toBeCloseTo(1, 10);
    expect(buoyantLayerM(room(4, 4), physics(held, [0.018, -0.024])) / (2 / rayleigh ** 0.25)).toBeCloseTo(1, 10);
  });
  test("by a given flux: the difference it needs over the room", () => {
    const rayleigh = (0.03 * ((6e-5 * 2) / 3e-5) * 2 ** 3) / (2e-5 * 3e-5);
    expect(buoyantLayerM(room(4, 4), physics({ [name]: { kind: "flux", outward: -6e-5 } }, [0, 0.03])) / (2 / rayleigh ** 0.25)).toBeCloseTo(1, 10);
  });
  test("values that vary along a wall count with their range", () => {
    const along = physics({ [name]: { kind: "value", value: (x, y) => 280 + 5 * (x + y) } }, [0, 0.03]);
    expect(buoyantLayerM(room(8, 8), along)).toBeLessThan(2);
  });
  test("is nowhere where nothing rises", () => {
    const held = { [name]: { kind: "value", value: 290 }, [other]: { kind: "value", value: 280 } } as const;
    for (const p of [physics(held), physics({ [name]: { kind: "value", value: 280 } }, [0, 0.03]), { ...physics(held), scalars: undefined }])
      expect(buoyantLayerM(room(4, 4), p)).toBe(Number.POSITIVE_INFINITY);
  });
});

test("the longest extent of a cell, along either axis", () => {
  expect(longestCellM(room(4, 10))).toBeCloseTo(0.5, 12);
  expect(longestCellM(room(10, 4, 2, 6))).toBeCloseTo(1.5, 12);
});
