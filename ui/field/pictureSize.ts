import { bounds } from "@/core/mesh/bounds";
import type { FaceMesh } from "@/core/mesh/faceMesh";

const LEAST = 90;
const MARGIN = 8;

/** Height of a picture that shows a whole mesh at a width, px, between what can still be read and what was given. */
export function pictureHeight(mesh: FaceMesh, width: number, most: number): number {
  const { low, high } = bounds(mesh.pointsM);
  return Math.round(Math.max(LEAST, Math.min(most, (width * (high[1] - low[1])) / (high[0] - low[0]) + MARGIN)));
}
