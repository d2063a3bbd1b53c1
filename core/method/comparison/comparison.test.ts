import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { layoutRule } from "../../drawing/ruleDrawing.ts";
import { percent, significant, withUncertainty } from "../../formatting/number.ts";
import { pchip } from "../../numeric/pchip.ts";
import { assessBalance } from "../balance/balance.ts";
import type { ErrorSource } from "../budget/errorBudget.ts";
import { type ComparedValues, compareValue } from "./compareValue.ts";
import { compareProfile, fieldOrders } from "./comparison.ts";

const values = (simulated: number, reference: number, more: Partial<ComparedValues> = {}) =>
  compareValue({ simulated, reference, scale: 1, uNum: 0.01, uInput: 0, uReference: 0.005, open: [], ...more });

describe("single values", () => {
  test("difference inside 2 u_val claims nothing and never says validated", () => {
    const c = values(1.01, 1);
    expect(c.claim).toBe("within-noise");
    expect(c.uVal).toBeCloseTo(Math.hypot(0.01, 0.005), 15);
    expect(c.sentence).not.toContain("validated");
  });
  test("a larger one shows an error", () => expect(values(1.05, 1).claim).toBe("beyond-noise"));
  test("the inputs are a part of u_val like the others", () =>
    expect(values(1.01, 1, { uInput: 0.02 }).uVal).toBeCloseTo(Math.hypot(0.01, 0.02, 0.005), 15));
  test("the band is twice u_val: just inside, just outside", () => {
    const band = 2 * Math.hypot(0.01, 0.005);
    expect(values(1 + 0.999 * band, 1).claim).toBe("within-noise");
    expect(values(1 + 1.001 * band, 1).claim).toBe("beyond-noise");
  });
  test("an open part leaves it incomplete, with what the others make of u_val at least", () => {
    const c = values(1.05, 1, { open: ["mesh", "domain"] });
    expect([c.claim, c.uVal]).toEqual(["incomplete", undefined]);
    expect(c.uValAtLeast).toBeCloseTo(Math.hypot(0.01, 0.005), 15);
    expect(c.sentence).toBe(
      "Differs by +5.0\u00a0%; mesh and domain are open. The validation uncertainty is at least 2.2\u00a0%, twice u_val of what is known.",
    );
  });
  test("a reference of zero is counted in the scale, by its name, and never as a percentage of zero", () => {
    const c = values(0.004, 0, { scale: 2, scaleName: "the reference velocity" });
    expect(c.sentence).toContain("+0.20\u00a0% of the reference velocity");
    for (const scale of [0, -1, Number.NaN]) expect(() => values(1, 0, { scale })).toThrow(RangeError);
    expect(() => values(Number.NaN, 1)).toThrow(RangeError);
  });
});

/** A comparison that was made. */
const compared = (...args: Parameters<typeof compareProfile>) => {
  const c = compareProfile(...args);
  if ("refused" in c) throw new Error(c.refused);
  return c;
};

describe("profiles", () => {
  const profile = (f: (x: number) => number) => {
    const at = Array.from({ length: 40 }, (_, i) => i / 39);
    return { key: "p", name: "p", abscissa: { name: "x", unit: "1", values: at }, value: { name: "v", unit: "1", values: at.map(f) } };
  };
  test("the same curve has no difference; points outside take no part", () => {
    const c = compared(
      profile((x) => x),
      { profileKey: "p", abscissa: [-1, 0.25, 0.5, 2], value: [9, 0.25, 0.5, 9], uncertaintyNote: "" },
    );
    expect(c.outside).toBe(2);
    expect(c.linf).toBeLessThan(1e-12);
  });
  test("a misprinted point is listed as the worst but kept out of the norms", () => {
    const c = compared(
      profile((x) => x),
      { profileKey: "p", abscissa: [0.25, 0.5], value: [0.25, 0.9], uncertaintyNote: "", doubtful: [{ index: 1, reason: "misprint" }] },
    );
    expect(c.linf).toBeLessThan(1e-12);
    expect(c.worst?.doubtful).toBe("misprint");
  });
  const curve = (at: number[], ys: number[]) => ({
    key: "p",
    name: "p",
    abscissa: { name: "x", unit: "1", values: at },
    value: { name: "v", unit: "1", values: ys },
  });
  const reference = { profileKey: "p", abscissa: [0.25, 0.75], value: [0, 1], uncertaintyNote: "" };
  test("norms: mean, root mean square and largest, over the points, in the range of the reference", () => {
    const c = compared(curve([0, 0.5, 1], [0.3, 0.3, 0.3]), reference);
    expect([c.l1, c.l2, c.linf, c.range]).toEqual([0.5, Math.sqrt((0.09 + 0.49) / 2), 0.7, 1].map((x) => expect.closeTo(x, 12)));
  });
  test("no common point is a refusal, never a norm of nothing", () => {
    const c = compareProfile(curve([2, 3], [0, 1]), reference);
    expect("refused" in c && c.refused).toMatch(/no point in common: the reference lies from 0.25.* to 0.75.*, the simulated curve from 2.* to 3/);
    const doubtful = compareProfile(curve([0, 1], [0, 1]), { ...reference, doubtful: [0, 1].map((index) => ({ index, reason: "x" })) });
    expect("refused" in doubtful && doubtful.refused).toContain("Every point of the reference is doubtful");
  });
  test("repeats are averaged and said; contradictions at one place are refused by name", () => {
    const c = compared(curve([0, 0.5, 0.5, 1], [0, 0.5, 0.504, 1]), reference);
    expect(c.notes[0]).toMatch(/^1 entries/);
    const bad = compareProfile(curve([0, 0.5, 0.5, 1], [0, 0.2, 0.8, 1]), reference);
    expect("refused" in bad && bad.refused).toMatch(/At 0.5.* 2 values that contradict each other, from 0.2.* to 0.8/);
  });
  test("a reference without a range is counted in its largest value", () => {
    const c = compared(curve([0, 1], [2, 2]), { ...reference, value: [4, 4] });
    expect([c.range, c.rangeName, c.linf]).toEqual([4, "largest value", 2]);
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

test("energy is balanced over the heat exchanged where a large stream would hide a loss", () => {
  const stream = (wall: number) =>
    assessBalance({
      boundaries: [
        { name: "in", mass: -1, scalars: { energy: [-1000, 0] } },
        { name: "out", mass: 1, scalars: { energy: [1010, 0] } },
        { name: "wall", closed: true, scalars: { energy: [0, wall] } },
      ],
    }).lines.find((l) => l.what === "energy");
  expect(stream(-10)).toMatchObject({ over: "the heat exchanged", relative: 0, state: "holds" });
  // One watt of a thousand is 0.1 % of the throughput, but a tenth of what the wall gives.
  expect(stream(-9)?.relative).toBeCloseTo(1 / 9, 12);
  expect(stream(-9)?.state).toBe("fails");
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

test("a field that is nothing everywhere and is met is exact, and no percentage of zero is printed", () => {
  const nothing = { field: "u", unit: "m/s", l1: 0, l2: 0, linf: 0, scale: 0, worstAtM: [0, 0] as const };
  const found = fieldOrders(
    [1, 2].map((h) => ({ label: `${h}`, spacing: h, norms: nothing })),
    2,
  );
  expect(found.verdict).toBe("exact");
  expect(found.sentence).not.toContain("NaN");
  expect(found.rows[0].order).toBeUndefined();
});
