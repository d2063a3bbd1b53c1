import { writeCsv } from "../core/formats/csv.ts";
import { normalsOf, randomFrom } from "../core/numeric/random.ts";

/** Truth behind the made-up traverses behind the louvre step, and what was done to it in every file. */
export const TRAVERSE_TRUTH = {
  speedMS: 2,
  stepM: 0.05,
  /** places behind the step, in step heights */
  stations: [1, 4, 7, 10],
  /** standard deviation of a reading, and the calibration error all readings share, over the speed */
  reading: 0.008,
  calibration: 0.004,
  /** the probe slipped at one point: station, height in mm, and by how much the reading is off, m/s */
  slipped: { station: 7, heightMm: 40, offMS: 0.62 },
  /** the codes' layers are thicker than the truth's by these shares */
  thicker: { Lintel: 0.05, Purlin: 0.16 },
} as const;

const HEIGHTS_MM = [1, 2, 4, 7, 10, 15, 20, 25, 30, 35, 40, 45, 50, 55, 60, 70, 80, 100, 120, 150];

/** Velocity along the box behind the step, m/s: a layer that widens and sinks, with slow flow back under it. */
export function stepVelocity(station: number, heightMm: number, thicker = 0): number {
  const { speedMS } = TRAVERSE_TRUTH;
  const y = heightMm / 50;
  const middle = Math.max(0.12, 1 - 0.075 * station - 0.002 * station ** 2);
  const width = (0.12 + 0.055 * station) * (1 + thicker);
  const layer = 0.5 * (1 + Math.tanh((y - middle) / width));
  const back = station < 8 ? 0.17 * (1 - station / 8) ** 0.5 * Math.sin(Math.PI * Math.min(1, y / middle)) * Math.exp(-2 * y) : 0;
  return speedMS * (layer - back) * (1 - Math.exp(-y / 0.03));
}

const round = (v: number, digits: number) => Number(v.toFixed(digits));

/** The traverse: height, velocity and its own uncertainty at 95 %, station by station, with repeats at one height. */
export function traverseFile(seed = 7): string {
  const next = randomFrom(seed);
  const normal = normalsOf(next);
  const { speedMS, reading, calibration, slipped, stations } = TRAVERSE_TRUTH;
  const shared = calibration * speedMS * normal();
  const rows = stations.flatMap((station) =>
    HEIGHTS_MM.flatMap((height) => {
      const readings = height === 25 ? 3 : 1;
      return Array.from({ length: readings }, () => {
        const off = station === slipped.station && height === slipped.heightMm ? slipped.offMS : 0;
        return [
          station,
          height,
          round(stepVelocity(station, height) + shared + reading * speedMS * normal() + off, 3),
          round(2 * reading * speedMS, 3),
        ];
      });
    }),
  );
  return writeCsv(["x/H", "y (mm)", "u (m/s)", "uncertainty (m/s)"], rows);
}

/** Curves of a code on a mesh, at the stations of the traverse; the error of the mesh is of second order. */
export function curvesFile(code: keyof typeof TRAVERSE_TRUTH.thicker, spacingM: number): string {
  const at = Array.from({ length: 76 }, (_, i) => 2 * i);
  const wider = TRAVERSE_TRUTH.thicker[code] + 120 * spacingM ** 2;
  const rows = TRAVERSE_TRUTH.stations.flatMap((station) => at.map((height) => [station, height, round(stepVelocity(station, height, wider), 6)]));
  return writeCsv(["x/H", "y (mm)", "u (m/s)"], rows);
}
