import type { BalanceRecord } from "../records/balance.ts";
import { type BoundaryRole, balanceOf } from "./quantityImport.ts";

/** What flows through a boundary at every row, outward positive. */
export interface BoundaryFlow {
  readonly name: string;
  readonly values: Float64Array;
}

/** Flows of a record by what flows. */
export type Through = ReadonlyMap<BoundaryRole, readonly BoundaryFlow[]>;

const NET_NAMES: Readonly<Record<BoundaryRole, string>> = {
  "boundary-mass": "mass",
  "boundary-x": "x momentum",
  "boundary-y": "y momentum",
  "boundary-energy": "energy",
  "boundary-species": "species",
};

/** Net over throughput at every row, of everything at least two boundaries give; what only one gives is said. */
export function netsOf(through: Through): { nets: readonly (readonly [string, Float64Array])[]; notes: readonly string[] } {
  const nets = [...through].filter(([, flows]) => flows.length > 1).map(([role, flows]) => [NET_NAMES[role], netOf(flows)] as const);
  const single = [...through].filter(([, flows]) => flows.length === 1).map(([role]) => NET_NAMES[role]);
  const notes = single.length ? [`Only one boundary gives its ${single.join(", ")}: nothing to balance it with over the iterations.`] : [];
  return { nets, notes };
}

/**
 * Flows through boundaries as the last row that has them gives them.
 * @param order rows in the order of their iterations, where the sheet's own is another
 */
export function lastFlows(through: Through, factor: number, order: readonly number[] | undefined): BalanceRecord | undefined {
  const boundaries = new Map<string, Partial<Record<BoundaryRole, number>>>();
  for (const [role, flows] of through)
    for (const { name, values } of flows) {
      let at = (order?.length ?? values.length) - 1;
      const value = () => values[order ? order[at] : at];
      while (at > 0 && !Number.isFinite(value())) at--;
      boundaries.set(name, { ...boundaries.get(name), [role]: value() });
    }
  return balanceOf(boundaries, factor);
}

/** Sum of boundary flows, outward positive, over the larger of what comes in and goes out. */
function netOf(flows: readonly BoundaryFlow[]): Float64Array {
  return flows[0].values.map((_, i) => {
    let [out, into] = [0, 0];
    for (const { values } of flows) {
      out += Math.max(0, values[i]);
      into += Math.max(0, -values[i]);
    }
    return Math.abs(out - into) / Math.max(out, into, Number.MIN_VALUE);
  });
}
