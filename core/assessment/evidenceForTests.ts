import type { CaseEvidence } from "../records/case.ts";
import type { QuantitySpec } from "../records/quantity.ts";
import type { RunEvidence } from "../records/run.ts";
import type { Setup } from "../records/setup.ts";

/** Evidence made up for tests: a force in newtons on a body, from runs whose truth is known. */
export const DRAG: QuantitySpec = { key: "q", name: "drag", symbol: "F", unit: "N", limit: 0.02 };

export const SETUP: Setup = {
  fluidName: "glycol",
  densityKgM3: 1.25,
  kinematicViscosityM2S: 1e-5,
  velocityMS: 2,
  velocityName: "U",
  lengthM: 0.05,
  lengthName: "L",
  compressible: false,
  schemeOrder: 2,
  dropOrders: 6,
};

const STEPS = Array.from({ length: 40 }, (_, i) => i);
export const CLOSED = {
  boundaries: [
    { name: "in", mass: -1 },
    { name: "out", mass: 1 },
  ],
};

/** A settled run on n cells a side that delivered a value. */
export function runOf(n: number, value: number, change: Partial<RunEvidence> = {}): RunEvidence {
  return {
    id: `run-${n}`,
    label: `${n} × ${n}`,
    origin: "bench",
    code: "bench",
    state: "done",
    setupHash: "now",
    mesh: { label: `${n} × ${n}`, cells: n * n, spacing: 1 / n, dimension: 2 },
    history: {
      iteration: Float64Array.from(STEPS.map((i) => i + 1)),
      residuals: { mass: Float64Array.from(STEPS.map((i) => 0.5 ** i)) },
      quantities: { q: Float64Array.from(STEPS.map((i) => value + 0.5 ** i)) },
    },
    result: { quantities: { q: value }, balance: CLOSED, profiles: [], errorNorms: [] },
    finishedAt: "2026-04-01T10:00:00Z",
    seconds: n / 10,
    ...change,
  };
}

export const TABLE: CaseEvidence["yardsticks"][number] = {
  key: "y",
  name: "Table",
  kind: "table",
  source: "s",
  validity: { sentence: "", inside: true },
  values: [{ quantityKey: "q", value: 10, standardUncertainty: 0.01, uncertaintyNote: "as printed" }],
  profiles: [],
};

/** 10 + 64 h^2 on 16, 32, 64 cells a side */
export const FAMILY = [16, 32, 64].map((n) => runOf(n, 10 + 64 / n ** 2));

export function evidenceOf(runs: readonly RunEvidence[] = FAMILY, change: Partial<CaseEvidence> = {}): CaseEvidence {
  return {
    caseId: "c",
    kind: "published",
    formalOrder: 2,
    setup: SETUP,
    setupHash: "now",
    dropTarget: 6,
    quantities: [DRAG],
    yardsticks: [TABLE],
    runs,
    ...change,
  };
}
