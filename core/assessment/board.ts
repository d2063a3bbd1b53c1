import { z } from "zod";
import { percent, powerOfTen, scientific, signedPercent } from "../formatting/number.ts";
import { type State, worst } from "../remarks/remark.ts";
import type { RunBalance } from "./results/balance.ts";
import type { BoardCell, CaseAssessment } from "./results/case.ts";
import type { QuantityComparison } from "./results/comparison.ts";
import type { QuantityRefinement } from "./results/refinement.ts";
import type { RunSettling } from "./results/settling.ts";
import type { Assessor } from "./stages/assessor.ts";
import { State as StateShape } from "./stages/shapes.ts";

export interface BoardInput {
  readonly setup: State;
  readonly stale: boolean;
  readonly settling: RunSettling | undefined;
  readonly balance: RunBalance | undefined;
  /** of the leading quantity */
  readonly refinement: QuantityRefinement | undefined;
  readonly compared: QuantityComparison | undefined;
}

const Cell = z.looseObject({ state: StateShape, figure: z.string() });

export const boardAssessor: Assessor = {
  assess: ({ e, stale }, { setup, settling, balance, refinement, comparison }) => ({
    board: boardOf({
      setup: setup.state,
      stale,
      settling: settling[0],
      balance: balance[0],
      refinement: refinement[0],
      compared: comparison.values[e.quantities[0]?.key]?.[0],
    }),
  }),
  shape: { board: z.looseObject({ settled: Cell, balanced: Cell, refined: Cell, compared: Cell }) },
};

/** A case in four cells: the finest run, and the leading quantity. */
export function boardOf(i: BoardInput): CaseAssessment["board"] {
  const age = (cell: BoardCell): BoardCell => (i.stale && cell.state !== "none" ? { ...cell, state: "stale" } : cell);
  return { settled: age(settled(i)), balanced: age(balanced(i)), refined: age(refined(i)), compared: age(compared(i)) };
}

function settled({ settling }: BoardInput): BoardCell {
  const drop = settling?.smallestDrop;
  return { state: settling?.state ?? "none", figure: drop === undefined ? "" : powerOfTen(-Math.round(drop)) };
}

function balanced({ balance }: BoardInput): BoardCell {
  const line = balance?.lines.find((l) => l.what === "mass") ?? balance?.lines[0];
  const figure = !line ? "" : line.relative < 1e-5 ? scientific(line.relative, 1) : percent(line.relative);
  return { state: balance?.state ?? "none", figure };
}

function refined({ refinement }: BoardInput): BoardCell {
  const result = refinement?.result;
  const figure = result === undefined ? "" : result.kind === "degenerate" ? "no order" : percent(refinement?.relative ?? 0);
  return { state: refinement?.state ?? "none", figure };
}

/** Against a set-up that contradicts itself nothing is compared well. */
function compared({ setup, compared: c }: BoardInput): BoardCell {
  if (!c) return { state: "none", figure: "" };
  return { state: worst(setup === "fails" ? ["fails", c.state] : [c.state]), figure: signedPercent(c.difference / c.scale) };
}
