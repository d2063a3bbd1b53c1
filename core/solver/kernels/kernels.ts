import type * as plain from "./plain.ts";
import type * as plainCells from "./plainCells.ts";
import type * as plainFaces from "./plainFaces.ts";
import type * as plainHierarchy from "./plainHierarchy.ts";
import type * as plainRows from "./plainRows.ts";
import type * as plainSingle from "./plainSingle.ts";

export type { Pair } from "./plain.ts";
export type { Hierarchy, HierarchyLevel } from "./plainHierarchy.ts";

/** The hot loops of the flow solver, plain or compiled; both give the same bits. */
export type FlowKernels = typeof plain & typeof plainCells & typeof plainFaces & typeof plainRows & typeof plainSingle & typeof plainHierarchy;
