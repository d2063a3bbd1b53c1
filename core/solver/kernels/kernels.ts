import type * as plain from "./plain.ts";

export type { ConvectionScheme, Pair, SmootherRows } from "./plain.ts";
export { SCHEMES } from "./plain.ts";

/** The hot loops of the flow solver, plain or compiled; both give the same bits. */
export type FlowKernels = Omit<typeof plain, "SCHEMES">;
