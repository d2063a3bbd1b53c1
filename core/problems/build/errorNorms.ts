import type { FaceGraph } from "../../mesh/faceMesh.ts";
import type { ErrorNorms } from "../../records/profile.ts";

/**
 * Error of a cell field against an exact one, values at centroids, volume weighted (method 9).
 * @param level "free" when the field is known up to a constant, as pressure in a closed box: the means are then made equal first
 */
export function fieldError(
  mesh: FaceGraph,
  field: string,
  unit: string,
  values: ArrayLike<number>,
  exact: (xM: number, yM: number) => number,
  level: "fixed" | "free" = "fixed",
): ErrorNorms {
  const { centroidM, volumeM2, cellCount } = mesh;
  const truth = Float64Array.from({ length: cellCount }, (_, c) => exact(centroidM[2 * c], centroidM[2 * c + 1]));
  let volume = 0;
  let offset = 0;
  let mean = 0;
  for (let c = 0; c < cellCount; c++) {
    volume += volumeM2[c];
    offset += (values[c] - truth[c]) * volumeM2[c];
    mean += truth[c] * volumeM2[c];
  }
  const shift = level === "free" ? offset / volume : 0;
  const base = level === "free" ? mean / volume : 0;
  let l1 = 0;
  let l2 = 0;
  let linf = 0;
  let worst = 0;
  let scale = 0;
  for (let c = 0; c < cellCount; c++) {
    const error = Math.abs(values[c] - truth[c] - shift);
    scale = Math.max(scale, Math.abs(truth[c] - base));
    l1 += error * volumeM2[c];
    l2 += error * error * volumeM2[c];
    if (error > linf) [linf, worst] = [error, c];
  }
  return {
    field,
    unit,
    l1: l1 / volume,
    l2: Math.sqrt(l2 / volume),
    linf,
    scale,
    worstAtM: [centroidM[2 * worst], centroidM[2 * worst + 1]],
  };
}
