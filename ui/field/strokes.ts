import type { Window } from "@/core/drawing/cellRaster";

type Scale = (v: number) => number;

const ARROWS = 22;
const INK = "#1D2427";

/** Straight pieces [x0, y0, x1, y1, ...], m. */
export function strokeSegments(
  context: CanvasRenderingContext2D,
  segments: ArrayLike<number>,
  px: Scale,
  py: Scale,
  color: string,
  width: number,
): void {
  context.strokeStyle = color;
  context.lineWidth = width;
  context.beginPath();
  for (let k = 0; k < segments.length; k += 4) {
    context.moveTo(px(segments[k]), py(segments[k + 1]));
    context.lineTo(px(segments[k + 2]), py(segments[k + 3]));
  }
  context.stroke();
}

/** Straight pieces that may reach into a part of the plane, so many at a time at most. */
export function slicesWithin(segments: ArrayLike<number>, { x0, y0, pixelM, width, height }: Window, most: number): number[][] {
  const [x1, y1] = [x0 + width * pixelM, y0 + height * pixelM];
  const out: number[][] = [];
  let slice: number[] = [];
  for (let k = 0; k < segments.length; k += 4) {
    const [ax, ay, bx, by] = [segments[k], segments[k + 1], segments[k + 2], segments[k + 3]];
    if ((ax < x0 && bx < x0) || (ax > x1 && bx > x1) || (ay < y0 && by < y0) || (ay > y1 && by > y1)) continue;
    if (slice.length === 4 * most) {
      out.push(slice);
      slice = [];
    }
    slice.push(ax, ay, bx, by);
  }
  return slice.length ? [...out, slice] : out;
}

/** Arrows on an even raster of the picture, as long as the velocity is large. */
export function strokeArrows(
  context: CanvasRenderingContext2D,
  ids: Int32Array,
  view: Window,
  u: Float64Array,
  v: Float64Array,
  px: Scale,
  py: Scale,
): void {
  const step = Math.max(12, Math.round(view.width / ARROWS));
  let most = 0;
  for (let c = 0; c < u.length; c++) most = Math.max(most, Math.hypot(u[c], v[c]));
  const segments: number[] = [];
  for (let j = step >> 1; j < view.height; j += step) {
    for (let i = step >> 1; i < view.width; i += step) {
      const c = ids[j * view.width + i];
      if (c < 0 || !(most > 0)) continue;
      const x = view.x0 + (i + 0.5) * view.pixelM;
      const y = view.y0 + (view.height - j - 0.5) * view.pixelM;
      const scale = ((step - 2) * view.pixelM) / most;
      segments.push(...arrow(x, y, u[c] * scale, v[c] * scale));
    }
  }
  strokeSegments(context, segments, px, py, INK, 0.9);
}

/** A shaft and the two sides of its head. */
function arrow(x: number, y: number, dx: number, dy: number): number[] {
  const [ex, ey] = [x + dx, y + dy];
  const side = (s: number) => [ex, ey, ex - 0.3 * dx + s * 0.16 * dy, ey - 0.3 * dy - s * 0.16 * dx];
  return [x, y, ex, ey, ...side(-1), ...side(1)];
}
