import type { FlowKernels, Pair } from "../kernels/kernels.ts";
import { gradientOverJoins } from "../kernels/plain.ts";
import type { FlowGeometry } from "./flowGeometry.ts";

/** Cells and their neighbours, with the loops of an arena where the arrays come from one. */
type Neighbours = Pick<FlowGeometry, "joins" | "faces" | "owner" | "neighbour"> & { readonly arena?: { readonly kernels: FlowKernels } };

/** Least-squares gradient of a cell field with the boundary values that take part in the factors, 1/m. */
export function gradient(g: Neighbours, factors: Float64Array, q: Float64Array, qb: Float64Array, out: Pair): void {
  const { joins, faces, owner } = g;
  const [gx, gy] = out;
  gx.fill(0);
  gy.fill(0);
  (g.arena?.kernels.gradientOverJoins ?? gradientOverJoins)(g, factors, q, out);
  for (let f = joins; f < faces; f++) {
    const o = owner[f];
    const d = qb[f - joins] - q[o];
    gx[o] += factors[4 * f] * d;
    gy[o] += factors[4 * f + 1] * d;
  }
}
