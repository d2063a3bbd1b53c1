/** Slope of a function at a place by differences of the sixth order, a step apart. */
export const slopeOf = (f: (x: number) => number, x: number, h: number): number =>
  (45 * (f(x + h) - f(x - h)) - 9 * (f(x + 2 * h) - f(x - 2 * h)) + (f(x + 3 * h) - f(x - 3 * h))) / (60 * h);
