/** Logarithm of the gamma function. @source Lanczos, J. SIAM Numer. Anal. B 1 (1964) 86. */
function logGamma(x: number): number {
  const c = [76.18009172947146, -86.50532032941678, 24.01409824083091, -1.231739572450155, 1.208650973866179e-3, -5.395239384953e-6];
  const t = x + 5.5 - (x + 0.5) * Math.log(x + 5.5);
  let sum = 1.000000000190015;
  for (let k = 0; k < 6; k++) sum += c[k] / (x + k + 1);
  return -t + Math.log((Math.sqrt(2 * Math.PI) * sum) / x);
}

/** Regularised incomplete beta function by its continued fraction. @source Abramowitz & Stegun 26.5.8. */
function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  if (x > (a + 1) / (a + b + 2)) return 1 - incompleteBeta(1 - x, b, a);
  const front = Math.exp(logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log(1 - x)) / a;
  let c = 1;
  let d = 1 / (1 - ((a + b) * x) / (a + 1) || 1e-300);
  let fraction = d;
  for (let m = 1; m < 300; m++) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / (1 + even * d || 1e-300);
    c = 1 + even / c || 1e-300;
    fraction *= d * c;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / (1 + odd * d || 1e-300);
    c = 1 + odd / c || 1e-300;
    fraction *= d * c;
    if (Math.abs(d * c - 1) < 1e-14) break;
  }
  return front * fraction;
}

/**
 * Value that |t| stays below with probability 0.95, for any positive number of degrees of freedom, whole or not.
 * @example
 * studentT95(10).toFixed(3) // "2.228"
 */
export function studentT95(freedom: number): number {
  if (!(freedom > 0)) return Number.POSITIVE_INFINITY;
  const outside = (t: number) => incompleteBeta(freedom / (freedom + t * t), freedom / 2, 0.5);
  let [low, high] = [0, 2];
  while (outside(high) > 0.05 && high < 1e12) high *= 2;
  for (let k = 0; k < 80; k++) {
    const middle = (low + high) / 2;
    if (outside(middle) > 0.05) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
