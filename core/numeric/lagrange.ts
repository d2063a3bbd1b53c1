/** Value at x of the polynomial through the given points. */
export function lagrange(xs: ArrayLike<number>, ys: ArrayLike<number>, x: number): number {
  let sum = 0;
  for (let i = 0; i < xs.length; i++) {
    let term = ys[i];
    for (let k = 0; k < xs.length; k++) if (k !== i) term *= (x - xs[k]) / (xs[i] - xs[k]);
    sum += term;
  }
  return sum;
}

/** First of `width` consecutive points around x, kept inside [0, xs.length). xs ascending. */
export function stencilStart(xs: ArrayLike<number>, x: number, width: number): number {
  let i = 0;
  while (i < xs.length && xs[i] < x) i++;
  return Math.max(0, Math.min(xs.length - width, i - Math.floor(width / 2)));
}

/** Interpolates at x through the `width` nearest points (4: cubic). xs ascending, at least `width` of them. */
export function interpolateAt(xs: ArrayLike<number>, ys: ArrayLike<number>, x: number, width = 4): number {
  const w = Math.min(width, xs.length);
  const s = stencilStart(xs, x, w);
  const slice = (a: ArrayLike<number>) => Array.from({ length: w }, (_, k) => a[s + k]);
  return lagrange(slice(xs), slice(ys), x);
}

/**
 * Lowest value of sampled data and where it lies, refined by the quartic through five points about the lowest sample.
 * @param xs ascending, at least five
 */
export function lowest(xs: ArrayLike<number>, ys: ArrayLike<number>): { x: number; value: number } {
  let at = 0;
  for (let i = 1; i < ys.length; i++) if (ys[i] < ys[at]) at = i;
  const s = Math.max(0, Math.min(xs.length - 5, at - 2));
  const px = [0, 1, 2, 3, 4].map((k) => xs[s + k]);
  const py = [0, 1, 2, 3, 4].map((k) => ys[s + k]);
  let low = xs[Math.max(0, at - 1)];
  let high = xs[Math.min(xs.length - 1, at + 1)];
  // Golden section: the quartic has one minimum between the neighbours of the lowest sample.
  const g = (Math.sqrt(5) - 1) / 2;
  let a = high - g * (high - low);
  let b = low + g * (high - low);
  for (let k = 0; k < 60; k++) {
    if (lagrange(px, py, a) < lagrange(px, py, b)) high = b;
    else low = a;
    a = high - g * (high - low);
    b = low + g * (high - low);
  }
  const x = (low + high) / 2;
  return { x, value: lagrange(px, py, x) };
}
