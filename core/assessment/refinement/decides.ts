import { percent } from "../../formatting/number.ts";
import type { QuantitySpec } from "../../records/quantity.ts";
import type { State } from "../../remarks/remark.ts";
import type { QuantityRefinement } from "../results/refinement.ts";

const WORST: readonly State[] = ["fails", "stale", "remark", "none", "holds"];

/** Share of its limit that a quantity's mesh uncertainty takes; without one it comes before all others. */
const used = (r: QuantityRefinement): number => (r.relative === undefined ? Number.POSITIVE_INFINITY : r.relative / r.limit);

/** Quantities by trouble: those that fail first, and of equals those that take more of their limit. */
export const byTrouble = (found: readonly QuantityRefinement[]): QuantityRefinement[] =>
  [...found].sort((a, b) => WORST.indexOf(a.state) - WORST.indexOf(b.state) || used(b) - used(a) || 0);

/** share of its limit within which a value on a coarser mesh counts as that of the finest */
const SETTLED = 0.1;

/** How many meshes coarser than the finest already gave its value, within a tenth of the limit. */
export function settledSince(r: QuantityRefinement, scale: number): number {
  const values = r.rungs.filter((g) => g.used).map((g) => g.value);
  const [finest] = values;
  if (finest === undefined) return 0;
  let meshes = 0;
  while (meshes + 1 < values.length && Math.abs((values[meshes + 1] ?? Number.NaN) - finest) <= SETTLED * r.limit * scale) meshes++;
  return meshes;
}

/** Which quantity decides the mesh, and which have long been settled, in sentences. */
export function meshDecision(
  found: readonly QuantityRefinement[],
  quantities: readonly QuantitySpec[],
  scales: Readonly<Record<string, number>>,
): string[] {
  const name = (r: QuantityRefinement) => quantities.find((q) => q.key === r.key)?.name ?? r.key;
  const counted = found.filter((r) => r.relative !== undefined && !r.divergent);
  const [first] = [...counted].sort((a, b) => used(b) - used(a));
  if (!first) return [];
  const decides = `The ${name(first)} decides the mesh: its uncertainty takes ${percent(used(first))} of its limit.`;
  const long = counted.filter((r) => settledSince(r, scales[r.key] ?? 1) >= 2).map(name);
  const apart = found.filter((r) => r.divergent).map(name);
  return [
    decides,
    ...(long.length ? [`Settled since two meshes ago, within a tenth of the limit: ${long.join(", ")}.`] : []),
    ...(apart.length ? [`Known not to converge, and not counted: ${apart.join(", ")}.`] : []),
  ];
}
