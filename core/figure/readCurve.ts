import { type Calibration, type Pixel, type PixelDoubt, readPoint } from "./calibration.ts";

/** A place of a curve as it was clicked or traced. */
export interface CurvePlace {
  readonly at: Pixel;
  /** the end of its error bar, either way, where it has one */
  readonly bar?: Pixel;
}

/** A curve read off a picture, places rising; uncertainties are standard ones. */
export interface CurveOfFigure {
  readonly abscissa: readonly number[];
  readonly value: readonly number[];
  /** the reading's, with what the printed bar says */
  readonly own: readonly number[];
  /** the calibration's, which all points share */
  readonly shared: readonly number[];
  readonly place: readonly number[];
  /** places in the order of the points */
  readonly places: readonly Pixel[];
}

/**
 * Figures of a curve with what is uncertain of them: reading and calibration by their pixels, and printed error bars by squares with them.
 * @param coverage what the printed bars are multiples of: 2 for 95 %, 1 for a standard deviation
 */
export function readFigureCurve(c: Calibration, places: readonly CurvePlace[], doubt: PixelDoubt, coverage: 1 | 2): CurveOfFigure {
  const read = places
    .map((p) => {
      const point = readPoint(c, p.at, doubt);
      const bar = p.bar ? Math.abs(readPoint(c, p.bar, doubt).y - point.y) / coverage : 0;
      return { at: p.at, point, own: Math.hypot(point.own[1], bar) };
    })
    .sort((a, b) => a.point.x - b.point.x);
  return {
    abscissa: read.map((r) => r.point.x),
    value: read.map((r) => r.point.y),
    own: read.map((r) => r.own),
    shared: read.map((r) => r.point.shared[1]),
    place: read.map((r) => Math.hypot(r.point.own[0], r.point.shared[0])),
    places: read.map((r) => r.at),
  };
}
