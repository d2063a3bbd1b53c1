import { describe, expect, test } from "vitest";
import type { ErrorSource } from "../../method/budget/errorBudget.ts";
import { compareValue } from "../../method/comparison/compareValue.ts";
import type { QuantityComparison } from "../results/comparison.ts";
import type { QuantityRefinement } from "../results/refinement.ts";
import { gainOf, gainOfNext, gainOfSettling } from "./gain.ts";

/** A difference of 1 % against a limit of 2 %, with a mesh uncertainty of 3 % and a reference of 0.6 % at 95 %. */
const comparison = (uNum: number, open: string[] = [], difference = 0.1) =>
  ({
    ...compareValue({ simulated: 10 + difference, reference: 10, scale: 10, uNum, uInput: 0, uReference: 0.03, open }),
    limit: 0.02,
  }) as unknown as QuantityComparison;
const mesh: ErrorSource = { key: "mesh", name: "mesh", group: "numerical", stage: "refinement", note: "", relative: 0.03 };
const rung = (cells: number, seconds: number) => ({
  runId: "r",
  label: "",
  cells,
  spacing: 1,
  dimension: 2 as const,
  iterationError: 0,
  used: true,
  value: 1,
  seconds,
});
const refinement = {
  key: "q",
  rungs: [rung(1600, 40), rung(400, 10)],
  relative: 0.03,
  result: { kind: "monotone", orderUsed: 2 },
} as unknown as QuantityRefinement;

describe("what a step would gain", () => {
  test("the mesh that brings the band within what the difference leaves of the limit, its cells and its time", () => {
    const g = gainOf(mesh, comparison(0.15), refinement);
    // The band has to come from 2 hypot(1.5 %, 0.3 %) to 1 %: a mesh uncertainty of 2 sqrt(0.5^2 - 0.3^2) = 0.8 %, so 3.75 times the cells at order 2.
    expect(g?.from).toBeCloseTo(2 * Math.hypot(0.015, 0.003), 12);
    expect(g?.to).toBeCloseTo(0.01, 12);
    expect(g?.seconds).toBeCloseTo(40 * 3.75, 9);
    expect(g?.sentence).toContain("6,000 cells");
    expect(g?.sentence).toContain("which keeps the limit");
  });
  test("where no mesh can do it, halving says what it would be worth", () => {
    const g = gainOf(mesh, comparison(0.15, [], 0.19), refinement);
    expect(g?.to).toBeCloseTo(2 * Math.hypot(0.0075, 0.003), 12);
    expect(g?.sentence).toContain("the limit needs 0.10");
    expect(gainOf(mesh, comparison(0.15, [], 0.3), refinement)?.sentence).toContain("a smaller difference, whatever the band");
  });
  test("another source is halved; of what is open or nothing nobody can tell", () => {
    const inputs: ErrorSource = { ...mesh, key: "inputs", name: "inputs", group: "input" };
    expect(gainOf(inputs, comparison(0.15), refinement)?.to).toBeCloseTo(2 * Math.hypot(0.0075, 0.003), 12);
    expect(gainOf({ ...mesh, relative: 0 }, comparison(0), refinement)).toBeUndefined();
    expect(gainOf(mesh, comparison(0.15, ["domain"]), refinement)).toBeUndefined();
    expect(gainOf(mesh, undefined, refinement)).toBeUndefined();
  });
  test("the mesh that refinement planned, where its uncertainty is over the limit", () => {
    const planned = { ...refinement, limit: 0.01, next: { cells: 4800, spacing: 1, seconds: 120 } };
    expect(gainOfNext(planned)).toMatchObject({ from: 0.03, to: 0.01, seconds: 120, sentence: expect.stringContaining("4,800 cells") });
    expect(gainOfNext(refinement)).toBeUndefined();
  });
  test("settling an open source makes no band smaller, and says what a run for it costs", () => {
    const g = gainOfSettling(2, comparison(0.04, ["domain", "inputs"]), 90);
    expect(g.from).toBeCloseTo(0.01, 12);
    expect(g.sentence).toContain("at least 1.0");
    expect(g.sentence).toContain("1 more source is open then");
    expect(g.sentence).toContain("A run like the finest takes about");
    expect(gainOfSettling(1, undefined, "no run").sentence).toBe("The verdict can be given then. It needs no run.");
  });
});
