import type { Pixel } from "./calibration.ts";
import type { Colour, Picture } from "./trace.ts";

/** A curve to be drawn: where it runs by a parameter, its colour and thickness, and its dashes in pixels. */
export interface Drawn {
  readonly along: (s: number) => Pixel;
  readonly from: number;
  readonly to: number;
  readonly colour: Colour;
  readonly thickness: number;
  readonly dash?: readonly [on: number, off: number];
}

interface Dot {
  readonly at: Pixel;
  readonly radius: number;
  readonly colour: Colour;
}

/** colour of the paper */
export const PAPER: Colour = [250, 249, 246];

/** A picture of curves and dots as a printer of figures makes it: edges soft by one pixel. */
export function drawFigure(width: number, height: number, curves: readonly Drawn[], dots: readonly Dot[] = []): Picture {
  const rgba = new Uint8ClampedArray(4 * width * height);
  for (let k = 0; k < width * height; k++) rgba.set([...PAPER, 255], 4 * k);
  const cover = new Float64Array(width * height);
  const ink = (colour: Colour) => {
    cover.forEach((c, k) => {
      if (c > 0) for (let i = 0; i < 3; i++) rgba[4 * k + i] += (colour[i] - rgba[4 * k + i]) * c;
    });
    cover.fill(0);
  };
  const stamp = ([cx, cy]: Pixel, radius: number) => {
    for (let y = Math.floor(cy - radius - 1); y <= cy + radius + 1; y++)
      for (let x = Math.floor(cx - radius - 1); x <= cx + radius + 1; x++) {
        if (x < 0 || y < 0 || x >= width || y >= height) continue;
        const soft = Math.min(1, Math.max(0, radius + 0.5 - Math.hypot(x - cx, y - cy)));
        cover[y * width + x] = Math.max(cover[y * width + x], soft);
      }
  };
  for (const { along, from, to, colour, thickness, dash } of curves) {
    let way = 0;
    let before = along(from);
    for (let k = 0; k <= 6000; k++) {
      const at = along(from + ((to - from) * k) / 6000);
      way += Math.hypot(at[0] - before[0], at[1] - before[1]);
      before = at;
      if (!dash || way % (dash[0] + dash[1]) < dash[0]) stamp(at, thickness / 2);
    }
    ink(colour);
  }
  for (const d of dots) {
    stamp(d.at, d.radius);
    ink(d.colour);
  }
  return { width, height, rgba };
}
