import type { QuantityRefinement } from "./refinement.ts";

/** 95 % mesh uncertainty over scale, by quantity; undefined where the meshes do not tell it. */
export type MeshUncertainty = Readonly<Record<string, number | undefined>>;

export const meshUncertainty = (found: readonly QuantityRefinement[]): MeshUncertainty =>
  Object.fromEntries(found.map((r) => [r.key, r.result?.kind === "degenerate" ? undefined : r.relative]));
