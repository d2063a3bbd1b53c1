/**
 * Root of a smooth function near two guesses, by the secant rule down to rounding.
 * @throws {RangeError} It does not settle.
 * @example
 * secant((x) => x * x - 2, 1, 2).toFixed(12) // "1.414213562373"
 */
export function secant(f: (x: number) => number, first: number, second: number): number {
  let [a, b] = [first, second];
  let [fa, fb] = [f(a), f(b)];
  for (let k = 0; k < 60; k++) {
    if (fb === 0 || Math.abs(b - a) <= 4e-16 * Math.abs(b)) return b;
    // Both values at round-off: nothing is left to gain.
    if (fa === fb) return b;
    const next = b - (fb * (b - a)) / (fb - fa);
    [a, fa] = [b, fb];
    b = next;
    fb = f(b);
    if (!Number.isFinite(fb)) break;
    if (Math.abs(fb) < 1e-14 && Math.abs(b - a) < 1e-13 * (1 + Math.abs(b))) return b;
  }
  throw new RangeError(`No root was found near ${first}.`);
}
