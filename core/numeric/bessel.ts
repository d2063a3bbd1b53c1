import { bisect } from "./bisect.ts";
import type { Complex } from "./complex.ts";

/**
 * Bessel function J of a whole order, by the trapezoid rule on its integral, which converges faster than any power.
 * @source Abramowitz & Stegun, Handbook of Mathematical Functions, 9.1.21
 * @example
 * besselJ(0, 1).toFixed(12) // "0.765197686558"
 */
export function besselJ(order: number, x: number): number {
  const n = Math.ceil(Math.abs(x)) + 2 * order + 40;
  let sum = 0;
  for (let k = 0; k < 2 * n; k++) {
    const t = (Math.PI * k) / n;
    sum += Math.cos(order * t - x * Math.sin(t));
  }
  return sum / (2 * n);
}

/** k-th positive zero of J0 (k = 1, 2 ...). */
export const zeroOfJ0 = (k: number): number => signChange((x) => besselJ(0, x), (k - 0.5) * Math.PI, k * Math.PI);

/** k-th positive zero of J1 (k = 1, 2 ...). */
export const zeroOfJ1 = (k: number): number => signChange((x) => besselJ(1, x), k * Math.PI, (k + 0.5) * Math.PI);

function signChange(f: (x: number) => number, low: number, high: number): number {
  return f(low) < 0 ? bisect(f, low, high) : bisect((x) => -f(x), low, high);
}

/**
 * Modified Bessel function I of order 0 or 1 of a complex argument, over e to the real part of it, so that nothing overflows.
 * @source Abramowitz & Stegun, Handbook of Mathematical Functions, 9.6.19
 */
export function scaledBesselI(order: 0 | 1, [re, im]: Complex): Complex {
  const n = Math.ceil(2 * Math.hypot(re, im)) + 40;
  let [a, b] = [0, 0];
  for (let k = 0; k < 2 * n; k++) {
    const cos = Math.cos((Math.PI * k) / n);
    const size = Math.exp(re * (cos - 1)) * (order ? cos : 1);
    a += size * Math.cos(im * cos);
    b += size * Math.sin(im * cos);
  }
  return [a / (2 * n), b / (2 * n)];
}
