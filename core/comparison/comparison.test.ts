import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { assessBalance } from "../balance/balance.ts";
import { layoutRule } from "../drawing/ruleDrawing.ts";
import { percent, significant, withUncertainty } from "../formatting/number.ts";
import { pchip } from "../numeric/pchip.ts";
import type { ErrorSource } from "../sources/rule.ts";
import { compareProfile, compareValue, fieldOrders } from "./comparison.ts";

describe("single values", () => {
  test("difference inside 2 u_val claims nothing and never says validated", () => {
    const c = compareValue(1.01, 1, 0.01, 0.005);
    expect(c.claim).toBe("within-noise");
    expect(c.uVal).toBeCloseTo(Math.hypot(0.01, 0.005), 15);
    expect(c.sentence).not.toContain("validated");
  });
  test("a larger one shows an error", () => expect(compareValue(1.05, 1, 0.01, 0.005).claim).toBe("beyond-noise"));
  test("a missing part leaves it incomplete, not zero", () => expect(compareValue(1.05, 1, undefined, 0.005).uVal).toBeUndefined());
});

describe("profiles", () => {
  const profile = (f: (x: number) => number) => {
    const at = Array.from({ length: 40 }, (_, i) => i / 39);
    return { key: "p", name: "p", abscissa: { name: "x", unit: "1", values: at }, value: { name: "v", unit: "1", values: at.map(f) } };
  };
  test("the same curve has no difference; points outside take no part", () => {
    const c = compareProfile(
      profile((x) => x),
      { profileKey: "p", abscissa: [-1, 0.25, 0.5, 2], value: [9, 0.25, 0.5, 9], uncertaintyNote: "" },
    );
    expect(c.outside).toBe(2);
    expect(c.linf).toBeLessThan(1e-12);
  });
  test("a misprinted point is listed as the worst but kept out of the norms", () => {
    const c = compareProfile(
      profile((x) => x),
      { profileKey: "p", abscissa: [0.25, 0.5], value: [0.25, 0.9], uncertaintyNote: "", doubtful: [{ index: 1, reason: "misprint" }] },
    );
    expect(c.linf).toBeLessThan(1e-12);
    expect(c.worst?.doubtful).toBe("misprint");
  });
  test("interpolation never leaves the range of monotone data", () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 3, maxLength: 12 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (steps, t) => {
          const ys = steps.reduce<number[]>((a, s) => a.concat(a[a.length - 1] + s), [0]);
          const xs = ys.map((_, i) => i);
          const x = t * (xs.length - 1);
          const y = pchip(xs, ys, x);
          expect(y).toBeGreaterThanOrEqual(ys[Math.floor(x)] - 1e-12);
          expect(y).toBeLessThanOrEqual(ys[Math.min(xs.length - 1, Math.ceil(x))] + 1e-12);
        },
      ),
    );
  });
});

describe("orders of an exact field", () => {
  const norms = (e: number) => ({ field: "u", unit: "m/s", l1: e, l2: e, linf: e, scale: 1, worstAtM: [0, 0] as const });
  test("order 2", () =>
    expect(
      fieldOrders(
        [
          { label: "f", spacing: 1, norms: norms(0.01) },
          { label: "c", spacing: 2, norms: norms(0.04) },
        ],
        2,
      ).verdict,
    ).toBe("formal-order"));
  test("round-off on every mesh is exactness, not an order", () => {
    const r = fieldOrders(
      [
        { label: "f", spacing: 1, norms: norms(1e-15) },
        { label: "c", spacing: 2, norms: norms(7e-14) },
      ],
      2,
    );
    expect(r.verdict).toBe("exact");
    expect(r.rows.every((x) => x.order === undefined)).toBe(true);
  });
});

describe("balance", () => {
  const masses = (out: number) => ({
    boundaries: [
      { name: "in", mass: -1 },
      { name: "out", mass: out },
    ],
  });
  test("closed, close and open", () => {
    expect(assessBalance(masses(1)).state).toBe("holds");
    expect(assessBalance(masses(0.9995)).state).toBe("remark");
    expect(assessBalance(masses(0.991)).state).toBe("fails");
  });
  test("the limit never exceeds the mesh uncertainty", () => expect(assessBalance(masses(0.9995), 1e-4).state).toBe("fails"));
  test("momentum of both components is measured against the largest term of either", () => {
    const b = assessBalance({ boundaries: [{ name: "w", momentumX: [1, -1, 0], momentumY: [1e-9, 0, 0] }] });
    expect(b.lines.map((l) => l.state)).toEqual(["holds", "holds"]);
  });
});

test("labels of the rule never touch, wherever the pins fall", () => {
  const names = ["round-off", "iteration", "mesh", "balance", "domain", "inputs", "reference"] as const;
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -9, max: 0, noNaN: true }), { minLength: 4, maxLength: 4 }),
      fc.double({ min: -9, max: 0, noNaN: true }),
      (logs, d) => {
        const sources = logs.map(
          (l, i): ErrorSource => ({ key: names[i], name: names[i], group: "numerical", relative: 10 ** l, stage: "runs", note: "" }),
        );
        const { pins } = layoutRule({ quantityKey: "q", scale: 1, sources, missing: [], difference: 10 ** d }, 196, 1256);
        const boxes = pins
          .filter((p) => p.label)
          .map((p) => ({
            lane: p.lane,
            from: p.anchor === "start" ? p.textX : p.textX - p.name.length * 6.1,
            to: p.anchor === "start" ? p.textX + p.name.length * 6.1 : p.textX,
          }));
        for (const a of boxes)
          for (const b of boxes) if (a !== b && a.lane === b.lane) expect(Math.min(a.to, b.to) - Math.max(a.from, b.from)).toBeLessThanOrEqual(0.5);
      },
    ),
  );
});

test("figures carry the digits their uncertainty supports", () => {
  expect(withUncertainty(4.520712, 0.00054)).toBe("4.52071");
  expect(significant(-0.000000032, 2)).toBe("−3.2×10⁻⁸");
  expect(percent(0.00012)).toBe("0.012\u00a0%");
  expect(percent(3e-9)).toBe("3.0×10⁻⁹");
});
