import { type Calibration, type Pixel, placeOf } from "../core/figure/calibration.ts";
import { randomFrom } from "../core/numeric/random.ts";
import { stepVelocity } from "./traverse.ts";

/** The made-up paper figure: velocity over height at two stations behind the step, printed and scanned a little askew. */
export const PAPER_FIGURE = {
  width: 1100,
  height: 820,
  /** frame of the figure before it was turned, pixels */
  left: 140,
  top: 90,
  right: 1040,
  bottom: 690,
  turnDegrees: 1.3,
  xMm: [0, 150],
  uMS: [-0.5, 2.5],
  curves: [
    { name: "x/H = 4", station: 4, colour: "#b03020", dash: "none", labelMS: 1.55 },
    { name: "x/H = 10", station: 10, colour: "#1f4f9a", dash: "16 9", labelMS: 2.2 },
  ],
  /** the paper's layers are a little thicker than the truth's */
  thicker: 0.02,
} as const;

/** Velocity the paper prints, m/s. */
export const paperCurve = (station: number, heightMm: number): number => stepVelocity(station, heightMm, PAPER_FIGURE.thicker);

/** Where a place of the frame lies in the scan, pixels: middles of pixels are whole numbers. */
export function scanned([x, y]: Pixel): Pixel {
  const { width, height, turnDegrees } = PAPER_FIGURE;
  const turn = (turnDegrees * Math.PI) / 180;
  const [dx, dy] = [x - width / 2, y - height / 2];
  return [width / 2 + dx * Math.cos(turn) - dy * Math.sin(turn) - 0.5, height / 2 + dx * Math.sin(turn) + dy * Math.cos(turn) - 0.5];
}

/** The calibration a careful person makes: by the corners of the frame. */
export function paperCalibration(): Calibration {
  const { left, right, top, bottom, xMm, uMS } = PAPER_FIGURE;
  return {
    x: { at: [scanned([left, bottom]), scanned([right, bottom])], values: xMm, log: false },
    y: { at: [scanned([left, bottom]), scanned([left, top])], values: uMS, log: false },
  };
}

/** Places a person clicks along a printed curve, each off by less than a pixel, always the same for one seed. */
export function clicks(station: number, seed: number): Pixel[] {
  const next = randomFrom(seed);
  const c = paperCalibration();
  return [3, 8, 14, 20, 26, 32, 38, 44, 50, 58, 68, 80, 100, 120, 140].map((mm): Pixel => {
    const [x, y] = placeOf(c, [mm, paperCurve(station, mm)]);
    return [x + 1.2 * (next() - 0.5), y + 1.2 * (next() - 0.5)];
  });
}
