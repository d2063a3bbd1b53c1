import type { LevelTransfer } from "../../mesh/agglomerate.ts";
import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { NearestCell } from "../../mesh/locate.ts";
import { faceGeometry, leastSquaresFactors } from "../discrete/flowGeometry.ts";
import { gradient } from "../discrete/gradient.ts";
import type { Pair } from "../kernels/kernels.ts";
import type { FlowLevel } from "./flowLevel.ts";

/** Starts a finer level from a coarser one's fields with their slopes; fluxes by interpolation. */
export function prolong(coarse: FlowLevel, fine: FlowLevel, transfer: LevelTransfer): void {
  coarse.evaluateScalars();
  coarse.evaluate();
  const scratch: Pair = [new Float64Array(coarse.geometry.cells), new Float64Array(coarse.geometry.cells)];
  coarse.pressureGradient(coarse.p, coarse.boundary.p, scratch);
  const fineAt = fine.geometry.mesh.centroidM;
  const coarseAt = coarse.geometry.mesh.centroidM;
  const carry = (q: Float64Array, [gx, gy]: Pair, out: Float64Array) => {
    for (let i = 0; i < out.length; i++) {
      const k = transfer.cell[i];
      out[i] = q[k] + gx[k] * (fineAt[2 * i] - coarseAt[2 * k]) + gy[k] * (fineAt[2 * i + 1] - coarseAt[2 * k + 1]);
    }
  };
  carry(coarse.u, coarse.slopes.u, fine.u);
  carry(coarse.v, coarse.slopes.v, fine.v);
  carry(coarse.p, scratch, fine.p);
  coarse.scalars.forEach((q, k) => {
    q.completeSlopes();
    carry(q.q, q.slope, fine.scalars[k].q);
  });
  fluxesFromVelocity(fine);
}

/** Face fluxes by plain interpolation of the velocities: a start, to be made free of sources by the next step. */
export function fluxesFromVelocity(level: FlowLevel): void {
  const { joins, owner, neighbour, weight, sx, sy } = level.geometry;
  const { u, v, flux } = level;
  for (let f = 0; f < joins; f++) {
    const w = weight[f];
    flux[f] = (w * u[owner[f]] + (1 - w) * u[neighbour[f]]) * sx[f] + (w * v[owner[f]] + (1 - w) * v[neighbour[f]]) * sy[f];
  }
  for (const f of level.outletFaces) flux[f] = u[owner[f]] * sx[f] + v[owner[f]] * sy[f];
}

/** Values of a cell field of one mesh at the centroids of another, with the slope of the nearest cell. */
export function interpolateField(from: FaceMesh, values: Float64Array, to: Pick<FaceMesh, "cellCount" | "centroidM">): Float64Array {
  const g = faceGeometry(from);
  const factors = leastSquaresFactors(g, () => false);
  const slope: Pair = [new Float64Array(g.cells), new Float64Array(g.cells)];
  gradient(g, factors, values, new Float64Array(g.faces - g.joins), slope);
  const nearest = new NearestCell(from);
  return Float64Array.from({ length: to.cellCount }, (_, c) => {
    const [x, y] = [to.centroidM[2 * c], to.centroidM[2 * c + 1]];
    const k = nearest.find(x, y);
    return values[k] + slope[0][k] * (x - from.centroidM[2 * k]) + slope[1][k] * (y - from.centroidM[2 * k + 1]);
  });
}
