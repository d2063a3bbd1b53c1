import { benchProblem } from "../problems/build/catalogue.ts";
import { setupOf } from "../problems/describe/caseSetup.ts";
import type { CaseEvidence } from "../records/case.ts";
import type { QuantitySpec } from "../records/quantity.ts";
import type { RunEvidence } from "../records/run.ts";

export const problem = benchProblem("plates");
export const parameters = Object.fromEntries(problem.parameters.map((s) => [s.key, s.preset]));
export const q: QuantitySpec = { key: "q", name: "drag", symbol: "F", unit: "N", limit: 0.02 };

/** A run whose drag lies a known distance from 10 N, with a record that settles or does not. */
export function run(n: number, value: number, change: Partial<RunEvidence> = {}, rate = 0.5): RunEvidence {
  const steps = Array.from({ length: 40 }, (_, i) => i);
  return {
    id: `run-${n}-${value}`,
    label: `${n} × ${n}`,
    origin: "bench",
    code: "bench",
    state: "done",
    setupHash: "now",
    mesh: { label: `${n} × ${n}`, cells: n * n, spacing: 1 / n, dimension: 2 },
    history: {
      iteration: Float64Array.from(steps.map((i) => i + 1)),
      residuals: { mass: Float64Array.from(steps.map((i) => rate ** i)) },
      quantities: { q: Float64Array.from(steps.map((i) => value + rate ** i)) },
    },
    result: {
      quantities: { q: value },
      balance: {
        boundaries: [
          { name: "in", mass: -1 },
          { name: "out", mass: 1 },
        ],
      },
      profiles: [],
      errorNorms: [],
    },
    finishedAt: "2026-04-01T10:00:00Z",
    seconds: n / 10,
    ...change,
  };
}

export function evidence(runs: RunEvidence[], change: Partial<CaseEvidence> = {}): CaseEvidence {
  return {
    caseId: "c",
    kind: "published",
    formalOrder: 2,
    setup: setupOf({
      problemId: "plates",
      parameters,
      fluid: { name: "air", temperatureK: 277.15, pressurePa: 101325 },
      numerics: { scheme: "central", dropOrders: 6, maxIterations: 100 },
    }),
    setupHash: "now",
    dropTarget: 6,
    quantities: [q],
    yardsticks: [
      {
        key: "y",
        name: "Table",
        kind: "table",
        source: "s",
        validity: { sentence: "", inside: true },
        values: [{ quantityKey: "q", value: 10, standardUncertainty: 0.01, uncertaintyNote: "" }],
        profiles: [],
      },
    ],
    runs,
    ...change,
  };
}

/** 10 + 64 h^2 on 16, 32, 64 cells a side: 10.25, 10.0625, 10.015625 */
export const family = [16, 32, 64].map((n) => run(n, 10 + 64 / n ** 2));
