import { bounds } from "../mesh/bounds.ts";
import type { FaceMesh } from "../mesh/faceMesh.ts";
import { type FieldColors, fieldColor } from "./fieldRaster.ts";

/** What part of the plane a picture shows: left and lower edge, m, and how long a pixel is, m. */
export interface Window {
  readonly x0: number;
  readonly y0: number;
  readonly pixelM: number;
  readonly width: number;
  readonly height: number;
}

/** The whole of a mesh in a picture of given size, with a small margin; the same scale along both directions. */
export function wholeMesh(mesh: Pick<FaceMesh, "pointsM">, width: number, height: number, margin = 2): Window {
  const { low, high } = bounds(mesh.pointsM);
  const pixelM = Math.max((high[0] - low[0]) / (width - 2 * margin), (high[1] - low[1]) / (height - 2 * margin));
  return {
    x0: (low[0] + high[0]) / 2 - (width / 2) * pixelM,
    y0: (low[1] + high[1]) / 2 - (height / 2) * pixelM,
    pixelM,
    width,
    height,
  };
}

/** Which cell lies under the middle of every pixel, rows from the top; -1 outside. Picking, recolouring and drawing all read this. */
export function cellsUnderPixels(mesh: Pick<FaceMesh, "pointsM" | "cellStart" | "cellPoints" | "cellCount">, view: Window): Int32Array {
  const { pointsM, cellStart, cellPoints, cellCount } = mesh;
  const { x0, y0, pixelM, width, height } = view;
  const ids = new Int32Array(width * height).fill(-1);
  const inverse = 1 / pixelM;
  for (let c = 0; c < cellCount; c++) {
    const from = cellStart[c];
    const to = cellStart[c + 1];
    let top = Number.NEGATIVE_INFINITY;
    let bottom = Number.POSITIVE_INFINITY;
    for (let k = from; k < to; k++) {
      const y = pointsM[2 * cellPoints[k] + 1];
      if (y > top) top = y;
      if (y < bottom) bottom = y;
    }
    const first = Math.max(0, Math.ceil((bottom - y0) * inverse - 0.5));
    const last = Math.min(height - 1, Math.ceil((top - y0) * inverse - 0.5) - 1);
    for (let row = first; row <= last; row++) {
      const y = y0 + (row + 0.5) * pixelM;
      let left = Number.POSITIVE_INFINITY;
      let right = Number.NEGATIVE_INFINITY;
      // Cells are convex: a line meets their rim twice.
      for (let k = from; k < to; k++) {
        const a = 2 * cellPoints[k];
        const b = 2 * cellPoints[k + 1 < to ? k + 1 : from];
        const ya = pointsM[a + 1];
        const yb = pointsM[b + 1];
        if (ya <= y === yb <= y) continue;
        const x = pointsM[a] + ((y - ya) / (yb - ya)) * (pointsM[b] - pointsM[a]);
        if (x < left) left = x;
        if (x > right) right = x;
      }
      const start = Math.max(0, Math.ceil((left - x0) * inverse - 0.5));
      const end = Math.min(width - 1, Math.ceil((right - x0) * inverse - 0.5) - 1);
      const line = (height - 1 - row) * width;
      for (let i = start; i <= end; i++) ids[line + i] = c;
    }
  }
  return ids;
}

/** The cell at a place in a picture whose cells are known; -1 outside. */
export function cellAt(
  { ids, view: { x0, y0, pixelM, width, height } }: { readonly ids: Int32Array; readonly view: Window },
  x: number,
  y: number,
): number {
  const i = Math.floor((x - x0) / pixelM);
  const row = height - 1 - Math.floor((y - y0) / pixelM);
  return i >= 0 && i < width && row >= 0 && row < height ? ids[row * width + i] : -1;
}

const tableOf = (colors: FieldColors) => Array.from({ length: 256 }, (_, k) => fieldColor(k / 255, colors));
const TABLES = { even: tableOf("even"), signed: tableOf("signed") };
const PAPER = [255, 255, 255] as const;

/** Colours of a field by cell. @returns 4 x width x height bytes, rows from the top; white outside the mesh */
export function paintCells(
  ids: Int32Array,
  values: ArrayLike<number>,
  [low, high]: readonly [number, number],
  colors: FieldColors = "even",
): Uint8ClampedArray<ArrayBuffer> {
  const table = TABLES[colors];
  const out = new Uint8ClampedArray(4 * ids.length);
  const factor = high > low ? 255 / (high - low) : 0;
  for (let i = 0; i < ids.length; i++) {
    const c = ids[i];
    const t = c < 0 ? -1 : Math.max(0, Math.min(255, Math.round((values[c] - low) * factor)));
    const color = t < 0 || Number.isNaN(t) ? PAPER : table[t];
    out[4 * i] = color[0];
    out[4 * i + 1] = color[1];
    out[4 * i + 2] = color[2];
    out[4 * i + 3] = 255;
  }
  return out;
}

/** Colours of a smoothed field: every pixel from its cell's value and slope. */
export function paintSmooth(
  ids: Int32Array,
  view: Window,
  centroidM: Float64Array,
  values: ArrayLike<number>,
  [gx, gy]: readonly [Float64Array, Float64Array],
  [low, high]: readonly [number, number],
): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(4 * ids.length);
  const factor = high > low ? 255 / (high - low) : 0;
  for (let row = 0; row < view.height; row++) {
    const y = view.y0 + (view.height - row - 0.5) * view.pixelM;
    for (let i = 0; i < view.width; i++) {
      const at = row * view.width + i;
      const c = ids[at];
      let color: readonly [number, number, number] = PAPER;
      if (c >= 0) {
        const x = view.x0 + (i + 0.5) * view.pixelM;
        const v = values[c] + gx[c] * (x - centroidM[2 * c]) + gy[c] * (y - centroidM[2 * c + 1]);
        color = TABLES.even[Math.max(0, Math.min(255, Math.round((v - low) * factor)))] ?? PAPER;
      }
      out[4 * at] = color[0];
      out[4 * at + 1] = color[1];
      out[4 * at + 2] = color[2];
      out[4 * at + 3] = 255;
    }
  }
  return out;
}
