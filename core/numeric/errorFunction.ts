const SERIES_END = 2.5;

/**
 * Complementary error function, to double precision.
 * @source Abramowitz & Stegun, Handbook of Mathematical Functions, 7.1.5 and 7.1.14
 * @example
 * erfc(1).toFixed(12) // "0.157299207050"
 */
export function erfc(x: number): number {
  if (x < 0) return 2 - erfc(-x);
  if (x < SERIES_END) return 1 - series(x);
  // Continued fraction from its far end: eighty links are enough beyond 2.5.
  let tail = 0;
  for (let k = 80; k >= 1; k--) tail = k / 2 / (x + tail);
  return Math.exp(-x * x) / (Math.sqrt(Math.PI) * (x + tail));
}

/** All terms positive: nothing cancels. */
function series(x: number): number {
  let term = x;
  let sum = x;
  for (let k = 1; term > 1e-18 * sum; k++) {
    term *= (2 * x * x) / (2 * k + 1);
    sum += term;
  }
  return (2 / Math.sqrt(Math.PI)) * Math.exp(-x * x) * sum;
}
