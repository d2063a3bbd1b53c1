import type * as plain from "./plain.ts";
import type * as plainCells from "./plainCells.ts";

export type { Pair, SmootherRows } from "./plain.ts";

/** The hot loops of the flow solver, plain or compiled; both give the same bits. */
export type FlowKernels = typeof plain & typeof plainCells;
