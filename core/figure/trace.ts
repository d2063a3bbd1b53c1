import type { Calibration, Pixel } from "./calibration.ts";

/** A picture: red, green, blue and opacity of every pixel, row by row. */
export interface Picture {
  readonly width: number;
  readonly height: number;
  readonly rgba: Uint8ClampedArray | Uint8Array;
}

export type Colour = readonly [red: number, green: number, blue: number];

/** Colour at a place, over white where it is not opaque. */
export function colourAt({ width, height, rgba }: Picture, [x, y]: Pixel): Colour {
  const column = Math.min(width - 1, Math.max(0, Math.round(x)));
  const row = Math.min(height - 1, Math.max(0, Math.round(y)));
  const k = 4 * (row * width + column);
  const opaque = rgba[k + 3] / 255;
  const over = (v: number) => 255 + (v - 255) * opaque;
  return [over(rgba[k]), over(rgba[k + 1]), over(rgba[k + 2])];
}

/** How like a colour another is: 1 the same, 0 as far as `tolerance` or further, on the scale of 0 to 255. */
function likeness(rgba: Picture["rgba"], k: number, [r, g, b]: Colour, tolerance: number): number {
  const opaque = rgba[k + 3] / 255;
  const d = (v: number, c: number) => 255 + (v - 255) * opaque - c;
  const [dr, dg, db] = [d(rgba[k], r), d(rgba[k + 1], g), d(rgba[k + 2], b)];
  const square = (dr * dr + dg * dg + db * db) / 3;
  return square >= tolerance * tolerance ? 0 : 1 - Math.sqrt(square) / tolerance;
}

/** pixels about a press in which the ink is looked for, and how far from the paper it must be, 0 to 255 */
const ABOUT = 3;
const INK_FAR = 30;

/** The colour most of the picture has: its paper. Colours are counted in steps, and every so many pixels are asked. */
export function paperOf(picture: Picture): Colour {
  const counts = new Map<number, { count: number; colour: Colour }>();
  const { width, height } = picture;
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / 20_000)));
  for (let y = 0; y < height; y += step)
    for (let x = 0; x < width; x += step) {
      const colour = colourAt(picture, [x, y]);
      const key = colour.reduce((k, v) => 32 * k + Math.round(v / 8), 0);
      const found = counts.get(key) ?? { count: 0, colour };
      found.count++;
      counts.set(key, found);
    }
  return [...counts.values()].reduce((a, b) => (b.count > a.count ? b : a)).colour;
}

/**
 * The ink at a press: within a few pixels the colour furthest from the paper, so that a thin line need not be hit in its middle.
 * @returns undefined where there is nothing but paper
 */
export function inkNear(picture: Picture, [x, y]: Pixel): { readonly colour: Colour; readonly at: Pixel } | undefined {
  const paper = paperOf(picture);
  const far = (c: Colour) => Math.sqrt(((c[0] - paper[0]) ** 2 + (c[1] - paper[1]) ** 2 + (c[2] - paper[2]) ** 2) / 3);
  let best: { colour: Colour; at: Pixel } | undefined;
  for (let dy = -ABOUT; dy <= ABOUT; dy++)
    for (let dx = -ABOUT; dx <= ABOUT; dx++) {
      const at: Pixel = [Math.round(x) + dx, Math.round(y) + dy];
      if (at[0] < 0 || at[1] < 0 || at[0] >= picture.width || at[1] >= picture.height) continue;
      const colour = colourAt(picture, at);
      if (far(colour) > (best ? far(best.colour) : INK_FAR)) best = { colour, at };
    }
  return best;
}

/** A place on a traced curve, and how thick the curve is there, pixels. */
export interface TracedPlace {
  readonly at: Pixel;
  readonly thickness: number;
}

export interface TraceWish {
  readonly picture: Picture;
  /** what the picture is cut to, pixels: left, top, right, bottom */
  readonly crop: readonly [number, number, number, number];
  readonly calibration: Calibration;
  readonly colour: Colour;
  /** how far from the colour a pixel may be, 0 to 255 */
  readonly tolerance: number;
  /** a place on the curve, where several have its colour */
  readonly start?: Pixel;
}

/** runs of pixels thinner than this are specks */
const LEAST = 0.8;
/** pixels along the axis a curve may be missing before it has ended: dashes are bridged */
const LONGEST_GAP = 60;
/** pixels a curve may be off where it was going, and how much more for every column it was missing */
const OFF = 3;
const OFF_EACH = 0.4;

/**
 * Traces a curve by its colour: column by column along the x axis, whichever way that is turned, the middle of the run of like pixels that goes on from
 * the one before. Dashes are bridged; where the curve is missing there is no place.
 * @returns places from left to right of the axis, about one a pixel
 */
export function traceCurve(wish: TraceWish): TracedPlace[] {
  const { picture, crop, calibration, start } = wish;
  const frame = frameOf(calibration, crop);
  if (!picture.width || frame.columns < 1) return [];
  const from = start
    ? { column: Math.min(frame.columns - 1, Math.max(0, Math.round(frame.alongOf(start)))), across: frame.acrossOf(start) }
    : leftmost(wish, frame);
  if (!from) return [];
  const chosen = new Map<number, Run>();
  // Both ways from where it is known to run.
  follow(wish, frame, chosen, { from: from.column, step: 1, wanted: from.across });
  follow(wish, frame, chosen, { from: from.column - 1, step: -1, wanted: chosen.get(from.column)?.middle ?? from.across });
  return [...chosen.entries()].sort(([a], [b]) => a - b).map(([k, run]) => ({ at: frame.place(k, run.middle), thickness: run.thickness }));
}

interface Run {
  /** along the column, pixels */
  readonly middle: number;
  readonly thickness: number;
}

/** The crop seen along the axes: columns along x, places along y in them. */
interface Frame {
  readonly columns: number;
  readonly rows: number;
  readonly place: (column: number, across: number) => Pixel;
  readonly alongOf: (p: Pixel) => number;
  readonly acrossOf: (p: Pixel) => number;
}

function frameOf(c: Calibration, [left, top, right, bottom]: TraceWish["crop"]): Frame {
  const direction = ([a, b]: readonly [Pixel, Pixel], along: 0 | 1): Pixel => {
    const d: Pixel = [b[0] - a[0], b[1] - a[1]];
    const size = Math.hypot(...d);
    // The same sense on every picture: x to the right, y downwards.
    const sign = d[along] < 0 ? -1 : 1;
    return [(sign * d[0]) / size, (sign * d[1]) / size];
  };
  const [ex, ey] = [direction(c.x.at, 0), direction(c.y.at, 1)];
  const det = ex[0] * ey[1] - ex[1] * ey[0];
  const alongOf = ([x, y]: Pixel) => (x * ey[1] - y * ey[0]) / det;
  const acrossOf = ([x, y]: Pixel) => (ex[0] * y - ex[1] * x) / det;
  const corners: Pixel[] = [
    [left, top],
    [right, top],
    [left, bottom],
    [right, bottom],
  ];
  const span = (f: (p: Pixel) => number) => [Math.min(...corners.map(f)), Math.max(...corners.map(f))] as const;
  const [a0, a1] = span(alongOf);
  const [b0, b1] = span(acrossOf);
  return {
    columns: Math.floor(a1 - a0) + 1,
    rows: Math.floor(b1 - b0) + 1,
    place: (k, across) => [(k + a0) * ex[0] + (across + b0) * ey[0], (k + a0) * ex[1] + (across + b0) * ey[1]],
    alongOf: (p) => alongOf(p) - a0,
    acrossOf: (p) => acrossOf(p) - b0,
  };
}

/** Where the colour is first found, column by column from the left. */
function leftmost(wish: TraceWish, frame: Frame): { column: number; across: number } | undefined {
  for (let column = 0; column < frame.columns; column++) {
    const [run] = runsIn(wish, frame, column, 0, frame.rows - 1);
    if (run) return { column, across: run.middle };
  }
  return undefined;
}

/** Runs of like pixels of a column that begin or end between two rows, each by its middle weighed by likeness. */
function runsIn({ picture, crop, colour, tolerance }: TraceWish, frame: Frame, column: number, from: number, to: number): Run[] {
  const { width, height, rgba } = picture;
  const [left, top, right, bottom] = [Math.max(0, crop[0]), Math.max(0, crop[1]), Math.min(width - 1, crop[2]), Math.min(height - 1, crop[3])];
  const [x0, y0] = frame.place(column, 0);
  const [x1, y1] = frame.place(column, 1);
  const [dx, dy] = [x1 - x0, y1 - y0];
  const likeAt = (j: number): number => {
    const [x, y] = [Math.round(x0 + j * dx), Math.round(y0 + j * dy)];
    return x >= left && x <= right && y >= top && y <= bottom ? likeness(rgba, 4 * (y * width + x), colour, tolerance) : 0;
  };
  const runs: Run[] = [];
  let [weight, sum] = [0, 0];
  // A run that reaches beyond the window is followed to its ends.
  let j = Math.max(0, Math.floor(from));
  while (j > 0 && likeAt(j) > 0) j--;
  for (; j <= frame.rows; j++) {
    const like = j < frame.rows ? likeAt(j) : 0;
    if (like > 0) {
      weight += like;
      sum += like * j;
      continue;
    }
    if (weight >= LEAST) runs.push({ middle: sum / weight, thickness: weight });
    weight = 0;
    sum = 0;
    if (j > to) break;
  }
  return runs;
}

/** rows about where the curve is awaited that are looked at, besides what it may be off: a steep run is long, and begins within them */
const WINDOW = 60;

interface Way {
  readonly from: number;
  readonly step: 1 | -1;
  readonly wanted: number;
}

function follow(wish: TraceWish, frame: Frame, chosen: Map<number, Run>, way: Way): void {
  let { wanted } = way;
  let [missing, slope, thickness] = [0, 0, OFF];
  for (let k = way.from; k >= 0 && k < frame.columns; k += way.step) {
    const ahead = wanted + slope * (missing + 1);
    // Runs of one curve overlap from column to column, however steep it is; after a gap it may have gone further.
    const off = OFF + Math.abs(slope) + OFF_EACH * missing;
    const reach = off + thickness + WINDOW;
    const runs = runsIn(wish, frame, k, ahead - reach, ahead + reach);
    const nearest = runs.reduce<Run | undefined>(
      (best, r) => (!best || Math.abs(r.middle - ahead) < Math.abs(best.middle - ahead) ? r : best),
      undefined,
    );
    if (!nearest || Math.abs(nearest.middle - ahead) > off + Math.max(thickness, nearest.thickness)) {
      if (++missing > LONGEST_GAP && chosen.size) return;
      continue;
    }
    if (chosen.size) slope = 0.7 * slope + (0.3 * (nearest.middle - wanted)) / (missing + 1);
    wanted = nearest.middle;
    thickness = nearest.thickness;
    missing = 0;
    chosen.set(k, nearest);
  }
}

/** A mark of a colour: the middle of a group of like pixels that touch. */
export interface FoundMark {
  readonly at: Pixel;
  /** pixels it covers */
  readonly area: number;
}

/** marks smaller than this are specks */
const SPECK = 6;

/** Marks of a colour inside the crop, from left to right: groups of pixels that touch, by their middle. */
export function findMarks({ picture, crop, colour, tolerance }: Pick<TraceWish, "picture" | "crop" | "colour" | "tolerance">): FoundMark[] {
  const { width, height, rgba } = picture;
  const [left, top, right, bottom] = [Math.max(0, crop[0]), Math.max(0, crop[1]), Math.min(width - 1, crop[2]), Math.min(height - 1, crop[3])].map(
    Math.round,
  );
  const columns = right - left + 1;
  if (columns < 1 || bottom < top) return [];
  const seen = new Uint8Array(columns * (bottom - top + 1));
  const marks: FoundMark[] = [];
  const stack: number[] = [];
  for (let begin = 0; begin < seen.length; begin++) {
    if (seen[begin]) continue;
    stack.push(begin);
    let [weight, sx, sy, area] = [0, 0, 0, 0];
    while (stack.length) {
      const k = stack.pop() as number;
      if (seen[k]) continue;
      seen[k] = 1;
      const [x, y] = [left + (k % columns), top + Math.floor(k / columns)];
      const like = likeness(rgba, 4 * (y * width + x), colour, tolerance);
      if (like === 0) continue;
      weight += like;
      sx += like * x;
      sy += like * y;
      area++;
      if (x > left) stack.push(k - 1);
      if (x < right) stack.push(k + 1);
      if (y > top) stack.push(k - columns);
      if (y < bottom) stack.push(k + columns);
    }
    if (area >= SPECK) marks.push({ at: [sx / weight, sy / weight], area });
  }
  return marks.sort((a, b) => a.at[0] - b.at[0]);
}

/** Places of a trace at so many even steps of the x axis, means of those about them: a curve as it is kept. */
export function thinTrace(places: readonly TracedPlace[], most: number): TracedPlace[] {
  if (places.length <= most) return [...places];
  const step = places.length / most;
  return Array.from({ length: most }, (_, k) => {
    const about = places.slice(Math.floor(k * step), Math.max(Math.floor(k * step) + 1, Math.floor((k + 1) * step)));
    const mean = (f: (p: TracedPlace) => number) => about.reduce((s, p) => s + f(p), 0) / about.length;
    return { at: [mean((p) => p.at[0]), mean((p) => p.at[1])] as const, thickness: mean((p) => p.thickness) };
  });
}
