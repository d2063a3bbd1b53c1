import { expect, test } from "vitest";
import type { RunEvidence } from "../../records/run.ts";
import { assessCase } from "../assessCase.ts";
import { evidenceOf, runOf } from "../evidenceForTests.ts";

/** A run of an exact problem by one scheme: two fields whose errors fall at an order each. */
function solved(n: number, scheme: string, order: number, setupHash = "now"): RunEvidence {
  const norms = (field: string, size: number) => ({ field, unit: "m/s", l1: size, l2: size, linf: 2 * size, scale: 1, worstAtM: [0, 0] as const });
  const run = runOf(n, 10, { id: `${scheme}-${n}`, setupHash, questionHash: "q", made: { code: "bench", nx: n, ny: n, scheme, shape: "rows" } });
  return { ...run, result: { ...run.result!, errorNorms: [norms("u", n ** -order), norms("v", 3 * n ** -order)] } };
}
const methodsOf = (runs: readonly RunEvidence[]) => assessCase(evidenceOf(runs, { questionHash: "q" })).comparison.methods;
const central = [16, 32, 64].map((n) => solved(n, "central", 2));

test("every field of the case's own method, then of every other on meshes of its own: order, formal order and verdict", () => {
  const upwind = [16, 32].map((n) => solved(n, "upwind", 1, "other"));
  const limited = [16, 32].map((n) => solved(n, "limited", 1.5, "another"));
  const found = methodsOf([...central, ...upwind, ...limited]).map((m) => [
    m.method,
    m.orders.field,
    m.orders.rows[0].order?.toFixed(2),
    m.formalOrder,
    m.orders.verdict,
  ]);
  expect(found.slice(0, 2)).toEqual([
    ["scheme central, shape rows", "u", "2.00", 2, "formal-order"],
    ["scheme central, shape rows", "v", "2.00", 2, "formal-order"],
  ]);
  // One of first order is held to that alone.
  expect(found).toContainEqual(["scheme upwind, shape rows", "v", "1.00", 1, "formal-order"]);
  expect(found).toContainEqual(["scheme limited, shape rows", "u", "1.50", 2, "below-order"]);
  expect(found).toHaveLength(6);
});

test("a method on one mesh, and a case without an exact field, have none", () => {
  expect(methodsOf([central[0]])).toEqual([]);
  expect(methodsOf([16, 32].map((n) => runOf(n, 10)))).toEqual([]);
  expect(new Set(methodsOf([...central, solved(32, "upwind", 1, "other")]).map((m) => m.method)).size).toBe(1);
});
