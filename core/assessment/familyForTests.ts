import { benchProblem } from "../problems/build/catalogue.ts";
import { setupOf } from "../problems/describe/caseSetup.ts";
import type { CaseEvidence } from "../records/case.ts";
import type { RunEvidence } from "../records/run.ts";
import { DRAG, evidenceOf, runOf } from "./evidenceForTests.ts";

export const problem = benchProblem("plates");
export const parameters = Object.fromEntries(problem.parameters.map((s) => [s.key, s.preset]));
export const q = DRAG;

/** A run whose drag lies a known distance from 10 N, with a record that settles or does not. */
export function run(n: number, value: number, change: Partial<RunEvidence> = {}, rate = 0.5): RunEvidence {
  const steps = Array.from({ length: 40 }, (_, i) => i);
  const history = {
    iteration: Float64Array.from(steps.map((i) => i + 1)),
    residuals: { mass: Float64Array.from(steps.map((i) => rate ** i)) },
    quantities: { q: Float64Array.from(steps.map((i) => value + rate ** i)) },
  };
  return runOf(n, value, { id: `run-${n}-${value}`, history, ...change });
}

/** The same held against one table, on the plates' own set-up. */
export function evidence(runs: RunEvidence[], change: Partial<CaseEvidence> = {}): CaseEvidence {
  const setup = setupOf({
    problemId: "plates",
    parameters,
    fluid: { name: "air", temperatureK: 277.15, pressurePa: 101325 },
    numerics: { scheme: "central", dropOrders: 6, maxIterations: 100 },
  });
  return evidenceOf(runs, { setup, ...change });
}

/** 10 + 64 h^2 on 16, 32, 64 cells a side: 10.25, 10.0625, 10.015625 */
export const family = [16, 32, 64].map((n) => run(n, 10 + 64 / n ** 2));
