/** Right-hand side of y' = f(x, y), written into `out`. */
export type Slope = (x: number, y: Float64Array, out: Float64Array) => void;

/** Weights of the stages before each stage, of the pair of the orders five and four. @source Dormand & Prince, J. Comput. Appl. Math. 6, 19 (1980) */
export const STAGE_WEIGHTS: readonly (readonly number[])[] = [
  [],
  [1 / 5],
  [3 / 40, 9 / 40],
  [44 / 45, -56 / 15, 32 / 9],
  [19372 / 6561, -25360 / 2187, 64448 / 6561, -212 / 729],
  [9017 / 3168, -355 / 33, 46732 / 5247, 49 / 176, -5103 / 18656],
  [35 / 384, 0, 500 / 1113, 125 / 192, -2187 / 6784, 11 / 84],
];
/** Weights of all stages in the difference of the two orders. */
export const ERROR_WEIGHTS: readonly number[] = [71 / 57600, 0, -71 / 16695, 71 / 1920, -17253 / 339200, 22 / 525, -1 / 40];
const C = [0, 1 / 5, 3 / 10, 4 / 5, 8 / 9, 1, 1];
const MOST_STEPS = 200_000;

/**
 * Solves y' = f(x, y) from `x0` and returns y at every place asked for, by the embedded pair of orders five and four with steps of its own choice.
 * @param places ascending or descending away from `x0`
 * @param tolerance error allowed a step, over 1 + |y|
 * @throws {RangeError} The solution runs away before the last place.
 * @source Dormand & Prince, J. Comput. Appl. Math. 6, 19 (1980)
 */
export function integrate(f: Slope, x0: number, y0: readonly number[], places: readonly number[], tolerance = 1e-13): Float64Array[] {
  const n = y0.length;
  const k = C.map(() => new Float64Array(n));
  const trial = new Float64Array(n);
  let [x, y] = [x0, Float64Array.from(y0)];
  let step = places.length ? (places[places.length - 1] - x0) / 100 : 0;
  let steps = 0;
  const found: Float64Array[] = [];
  for (const target of places) {
    while (x !== target) {
      if (++steps > MOST_STEPS) throw new RangeError(`The solution runs away near ${x}.`);
      const last = Math.abs(step) >= Math.abs(target - x);
      const h = last ? target - x : step;
      k.forEach((slope, s) => {
        for (let i = 0; i < n; i++) {
          let sum = 0;
          for (let j = 0; j < s; j++) sum += STAGE_WEIGHTS[s][j] * k[j][i];
          trial[i] = y[i] + h * sum;
        }
        f(x + C[s] * h, trial, slope);
      });
      let error = 0;
      for (let i = 0; i < n; i++) {
        let sum = 0;
        for (let s = 0; s < 7; s++) sum += ERROR_WEIGHTS[s] * k[s][i];
        error = Math.max(error, Math.abs(h * sum) / (tolerance * (1 + Math.abs(y[i]))));
      }
      if (!(error < Number.POSITIVE_INFINITY)) {
        step = h / 10;
        continue;
      }
      // The last stage stands at the end of the step: `trial` is the new value.
      if (error <= 1) {
        x = last ? target : x + h;
        y = Float64Array.from(trial);
      }
      const grow = Math.min(4, Math.max(0.2, 0.9 * error ** -0.2));
      if (!last || error > 1) step = h * grow;
    }
    found.push(y);
  }
  return found;
}
