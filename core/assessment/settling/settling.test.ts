import { describe, expect, test } from "vitest";
import type { RunEvidence } from "../../records/run.ts";
import { assessSettling } from "./settling.ts";

const q = { key: "q", name: "drag", symbol: "F", unit: "N", limit: 0.01 };

function settling(count: number, residual: (n: number) => number, value: (n: number) => number) {
  const iteration = Array.from({ length: count }, (_, i) => 10 * (i + 1));
  const run: RunEvidence = {
    id: "r",
    label: "R1",
    origin: "brought-in",
    code: "Lintel",
    state: "done",
    setupHash: "",
    history: {
      iteration: Float64Array.from(iteration),
      residuals: { mass: Float64Array.from(iteration.map((_, i) => residual(i))) },
      quantities: { q: Float64Array.from(iteration.map((_, i) => value(i))) },
    },
  };
  return assessSettling({ run, quantities: [q], scales: { q: 1 }, meshUncertainty: {}, dropTarget: 4 });
}

describe("where the rules took hold", () => {
  test("the target and the threshold of a quantity, counted in the iterations of the record", () => {
    // Counted from 1, four orders are lost after 20 entries of a fifth of an order each; 0.5^i is below a thousandth from the tenth on.
    const s = settling(
      40,
      (i) => 10 ** (-i / 5),
      (i) => 2 + 0.5 ** i,
    );
    expect(s.marks).toEqual([{ rule: "residual-drop", iteration: 210, label: "target met" }]);
    expect(s.quantities[0].standsFrom).toBe(110);
    expect(s.state).toBe("holds");
  });
  test("one outlier late in the record does not move the mark where the fall ends", () => {
    const stalled = (i: number) => Math.max(10 ** (-i / 10), 1e-2) * (i === 150 ? 40 : 1);
    const s = settling(200, stalled, (i) => 2 + (i % 2 ? 0.05 : -0.05));
    expect(Math.abs((s.marks.find((m) => m.label === "falls no further")?.iteration ?? 0) / 10 - 18)).toBeLessThanOrEqual(2);
  });
  test("a run's own settings are judged like those of a case", () => {
    const run: RunEvidence = {
      id: "r",
      label: "R1",
      origin: "brought-in",
      code: "Lintel",
      state: "done",
      setupHash: "",
      stated: { schemeOrder: 1, dropOrders: 3 },
      history: {
        iteration: Float64Array.of(1, 2, 3, 4, 5, 6),
        residuals: { mass: Float64Array.of(1, 1e-2, 1e-4, 1e-6, 1e-8, 1e-9) },
        quantities: {},
      },
    };
    expect(assessSettling({ run, quantities: [], scales: {}, meshUncertainty: {}, dropTarget: 6 }).remarks.map((r) => r.rule)).toEqual([
      "first-order-scheme",
      "stopping-tolerance",
    ]);
  });
  test("a residual that stalls is marked where it ceased to fall; nothing is said to be met", () => {
    const s = settling(
      200,
      (i) => Math.max(10 ** (-i / 10), 1e-2),
      (i) => 2 + (i % 2 ? 0.05 : -0.05),
    );
    expect(s.residuals[0].state).toBe("stalled");
    expect(s.marks.map((m) => m.label)).toEqual(["falls no further"]);
    expect(Math.abs((s.marks[0].iteration - 10) / 10 - 17)).toBeLessThanOrEqual(1);
    expect(s.quantities[0].holds).toBe(false);
  });
});
