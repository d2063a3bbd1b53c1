import { normalsOf, randomFrom } from "../../numeric/random.ts";

/** Seeded normal deviates. */
export function normal(seed: number): () => number {
  const random = randomFrom(seed);
  return normalsOf(random);
}

/** Autoregressive series of unit deviation whose integrated correlation time, 1/2 + sum of rho, is tau. */
export function correlated(n: number, tau: number, seed: number): Float64Array {
  const g = normal(seed);
  const phi = (2 * tau - 1) / (2 * tau + 1);
  const push = Math.sqrt(1 - phi * phi);
  let x = g();
  return Float64Array.from({ length: n }, () => {
    const now = x;
    x = phi * x + push * g();
    return now;
  });
}

/** Autoregressive series with unit pushes, from rest, its first 500 samples left out. */
export function autoregressive(n: number, coefficients: readonly number[], seed: number): Float64Array {
  const g = normal(seed);
  const y = new Float64Array(n + 500);
  for (let i = coefficients.length; i < y.length; i++) y[i] = coefficients.reduce((sum, a, k) => sum + a * y[i - 1 - k], g());
  return y.subarray(500);
}
