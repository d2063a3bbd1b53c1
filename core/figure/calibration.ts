/** A place in a picture, pixels from its top left corner; whole numbers are the middles of pixels. */
export type Pixel = readonly [x: number, y: number];

/** Two places on an axis and the values they stand for. */
export interface AxisCalibration {
  readonly at: readonly [Pixel, Pixel];
  readonly values: readonly [number, number];
  readonly log: boolean;
}

/** How pixels become figures: the axes may be turned, and need not meet at a right angle. */
export interface Calibration {
  readonly x: AxisCalibration;
  readonly y: AxisCalibration;
}

/** Standard uncertainties of places, pixels. */
export interface PixelDoubt {
  /** of each place that is read */
  readonly reading: number;
  /** of each of the four places of the calibration */
  readonly calibration: number;
}

/** A figure read off a picture: both coordinates, with the part of their standard uncertainty that is the reading's and that all readings share. */
export interface ReadPoint {
  readonly x: number;
  readonly y: number;
  readonly own: readonly [x: number, y: number];
  readonly shared: readonly [x: number, y: number];
}

/** What stands in the way of a calibration, in a sentence; undefined where nothing does. */
export function calibrationMistake({ x, y }: Calibration): string | undefined {
  for (const [name, axis] of [
    ["x", x],
    ["y", y],
  ] as const) {
    if (!axis.values.every(Number.isFinite)) return `Both places of the ${name} axis need a value.`;
    if (axis.values[0] === axis.values[1]) return `The two values of the ${name} axis are the same.`;
    if (axis.log && !(axis.values[0] > 0 && axis.values[1] > 0)) return `A logarithmic ${name} axis has positive values only.`;
    if (Math.hypot(axis.at[1][0] - axis.at[0][0], axis.at[1][1] - axis.at[0][1]) < 2)
      return `The two places of the ${name} axis are too close to each other.`;
  }
  const [ex, ey] = [edge(x), edge(y)];
  const sine = Math.abs(ex[0] * ey[1] - ex[1] * ey[0]) / (Math.hypot(...ex) * Math.hypot(...ey));
  return sine < 0.1 ? "The two axes run almost the same way." : undefined;
}

const edge = ({ at: [a, b] }: AxisCalibration): Pixel => [b[0] - a[0], b[1] - a[1]];

/** Share of the way along each axis at a place: p = origin + s ex + t ey, s counted from the first place of its own axis. */
function shares({ x, y }: Calibration, [px, py]: Pixel): readonly [number, number] {
  const [ex, ey] = [edge(x), edge(y)];
  const det = ex[0] * ey[1] - ex[1] * ey[0];
  const from = (o: Pixel): Pixel => [px - o[0], py - o[1]];
  const [a, b] = [from(x.at[0]), from(y.at[0])];
  return [(a[0] * ey[1] - a[1] * ey[0]) / det, (ex[0] * b[1] - ex[1] * b[0]) / det];
}

const valueAt = ({ values: [a, b], log }: AxisCalibration, share: number) => (log ? a * (b / a) ** share : a + (b - a) * share);

/**
 * Figures at a place of the picture.
 * @throws {RangeError} The calibration cannot be used.
 */
export function readPlace(c: Calibration, place: Pixel): readonly [x: number, y: number] {
  const mistake = calibrationMistake(c);
  if (mistake) throw new RangeError(mistake);
  const [s, t] = shares(c, place);
  return [valueAt(c.x, s), valueAt(c.y, t)];
}

/** Place of the picture where figures stand: the way back, to draw over it. */
export function placeOf({ x, y }: Calibration, [vx, vy]: readonly [number, number]): Pixel {
  const share = ({ values: [a, b], log }: AxisCalibration, v: number) => (log ? Math.log(v / a) / Math.log(b / a) : (v - a) / (b - a));
  const [ex, ey] = [edge(x), edge(y)];
  // Both lines of one coordinate are met where they cross.
  const [s, t] = [share(x, vx), share(y, vy)];
  const p: Pixel = [x.at[0][0] + s * ex[0], x.at[0][1] + s * ex[1]];
  const q: Pixel = [y.at[0][0] + t * ey[0], y.at[0][1] + t * ey[1]];
  const det = ex[0] * ey[1] - ex[1] * ey[0];
  const along = ((p[0] - q[0]) * ex[1] - (p[1] - q[1]) * ex[0]) / det;
  return [p[0] + along * ey[0], p[1] + along * ey[1]];
}

const STEP = 0.25;

/** Every place of the calibration moved by a step along x or y, in turn. */
function moved(c: Calibration): Calibration[] {
  const shift = (p: Pixel, k: 0 | 1): Pixel => (k ? [p[0], p[1] + STEP] : [p[0] + STEP, p[1]]);
  return (["x", "y"] as const).flatMap((axis) =>
    ([0, 1] as const).flatMap((which) =>
      ([0, 1] as const).map((k) => {
        const at = c[axis].at.map((p, i) => (i === which ? shift(p, k) : p)) as unknown as AxisCalibration["at"];
        return { ...c, [axis]: { ...c[axis], at } };
      }),
    ),
  );
}

/**
 * Figures at a place with what the pixels leave open of them: the reading's own part, and the calibration's, which all readings share.
 * Both are carried through by differences, also where an axis is logarithmic.
 */
export function readPoint(c: Calibration, place: Pixel, doubt: PixelDoubt): ReadPoint {
  const here = readPlace(c, place);
  const slope = (v: readonly [number, number]): readonly [number, number] => [(v[0] - here[0]) / STEP, (v[1] - here[1]) / STEP];
  const own = [slope(readPlace(c, [place[0] + STEP, place[1]])), slope(readPlace(c, [place[0], place[1] + STEP]))];
  const shared = moved(c).map((m) => slope(readPlace(m, place)));
  const size = (list: readonly (readonly [number, number])[], k: 0 | 1, u: number) => u * Math.hypot(...list.map((s) => s[k]));
  return {
    x: here[0],
    y: here[1],
    own: [size(own, 0, doubt.reading), size(own, 1, doubt.reading)],
    shared: [size(shared, 0, doubt.calibration), size(shared, 1, doubt.calibration)],
  };
}
