import type { FaceMesh } from "../mesh/faceMesh.ts";

/** Straight pieces [x0, y0, x1, y1, ...], m. */
export type Segments = number[];

/** Edges of a mesh: boundary faces alone, or all. */
export function meshLines(mesh: FaceMesh, which: "boundary" | "all"): Segments {
  const { facePoints, pointsM, faceCount, joinCount } = mesh;
  const out: Segments = [];
  for (let f = which === "all" ? 0 : joinCount; f < faceCount; f++) {
    const [a, b] = [2 * facePoints[2 * f], 2 * facePoints[2 * f + 1]];
    out.push(pointsM[a], pointsM[a + 1], pointsM[b], pointsM[b + 1]);
  }
  return out;
}
