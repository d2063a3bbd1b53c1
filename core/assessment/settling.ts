import { percent, significant } from "../formatting/number.ts";
import { type IterationError, iterationError, type ToleranceRow, toleranceStudy } from "../iteration/iterationError.ts";
import { assessResidual, RESIDUAL_STATE_WORDS, type ResidualAssessment } from "../iteration/residuals.ts";
import type { QuantitySpec } from "../problems/problem.ts";
import type { RunEvidence } from "./evidence.ts";
import { type Remark, type State, stateOf } from "./outcome.ts";

export interface QuantitySettling extends IterationError {
  readonly key: string;
  /** error over the quantity's scale */
  readonly relative: number;
  /** what the error is to stay below: a tenth of the mesh uncertainty, or of the limit while there is none */
  readonly threshold: number;
  readonly against: "mesh uncertainty" | "limit";
  readonly holds: boolean;
}

export interface RunSettling {
  readonly runId: string;
  readonly label: string;
  readonly residuals: readonly ResidualAssessment[];
  readonly quantities: readonly QuantitySettling[];
  readonly tolerance: readonly ToleranceRow[];
  readonly smallestDrop?: number;
  readonly remarks: readonly Remark[];
  readonly state: State;
}

/** Has one run settled: drop target met by every residual and every quantity's iteration error below its threshold (method 1). */
export function assessSettling(
  run: RunEvidence,
  quantities: readonly QuantitySpec[],
  scales: Readonly<Record<string, number>>,
  meshUncertainty: Readonly<Record<string, number | undefined>>,
  dropTarget: number,
): RunSettling {
  const base = { runId: run.id, label: run.label };
  const history = run.history;
  if (!history || history.iteration.length === 0) {
    return {
      ...base,
      residuals: [],
      quantities: [],
      tolerance: [],
      remarks: [{ rule: "no-history", severity: "note", sentence: `${run.label} has no record of its iterations.` }],
      state: "none",
    };
  }
  const residuals = Object.entries(history.residuals).map(([name, values]) =>
    assessResidual(name, values, { dropTarget, start: history.starts?.[name] }),
  );
  const settled = quantities.flatMap((q) => {
    const record = history.quantities[q.key];
    if (!record) return [];
    const error = iterationError(record);
    const relative = Math.abs(error.error) / scales[q.key];
    const mesh = meshUncertainty[q.key];
    const threshold = mesh !== undefined && mesh > 1e-9 ? mesh / 10 : q.limit / 10;
    return [
      {
        ...error,
        key: q.key,
        relative,
        threshold,
        against: mesh !== undefined && mesh > 1e-9 ? ("mesh uncertainty" as const) : ("limit" as const),
        holds: relative < threshold,
      },
    ];
  });
  const starts = Object.fromEntries(residuals.map((r) => [r.name, r.start]));
  const remarks = [...residualRemarks(run.label, residuals, dropTarget), ...quantityRemarks(run.label, settled, quantities)];
  return {
    ...base,
    residuals,
    quantities: settled,
    tolerance: residuals.length ? toleranceStudy(history.residuals, starts, history.quantities) : [],
    smallestDrop: residuals.length ? Math.min(...residuals.map((r) => r.drop)) : undefined,
    remarks,
    state: residuals.length || settled.length ? stateOf(remarks) : "none",
  };
}

function residualRemarks(label: string, residuals: readonly ResidualAssessment[], target: number): Remark[] {
  return residuals.flatMap((r): Remark[] => {
    const out: Remark[] = [];
    if (r.gaps > 0)
      out.push({ rule: "history-gaps", severity: "note", sentence: `${label}: ${r.gaps} entries of ${r.name} are missing and were left out.` });
    if (r.state === "settled") return out;
    const left = r.iterationsLeft ? ` At this pace about ${r.iterationsLeft} iterations are left.` : "";
    out.push({
      rule: "residual-drop",
      severity: r.state === "still-falling" ? "doubt" : "stop",
      sentence: `${label}: the residual of ${r.name} is ${RESIDUAL_STATE_WORDS[r.state]} after ${significant(r.drop, 2)} orders; ${significant(target, 2)} were asked.${left}`,
    });
    return out;
  });
}

function quantityRemarks(label: string, settled: readonly QuantitySettling[], quantities: readonly QuantitySpec[]): Remark[] {
  return settled.flatMap((s): Remark[] => {
    if (s.holds) return [];
    const name = quantities.find((q) => q.key === s.key)?.name ?? s.key;
    return [
      {
        rule: "iteration-error",
        severity: "doubt",
        sentence: `${label}: the iteration error left in ${name}, ${percent(s.relative)}, is not below ${percent(s.threshold)}, a tenth of its ${s.against}.`,
      },
    ];
  });
}
