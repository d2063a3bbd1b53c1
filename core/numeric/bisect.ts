/**
 * Root of a function that is negative at `low` and positive at `high`, by halving down to rounding.
 * @throws {RangeError} The function does not change sign that way.
 * @example
 * bisect((x) => x * x - 2, 0, 2).toFixed(9) // "1.414213562"
 */
export function bisect(f: (x: number) => number, low: number, high: number): number {
  let [a, b] = [low, high];
  if (f(a) > 0 || f(b) < 0) throw new RangeError(`No root between ${low} and ${high}.`);
  for (let k = 0; k < 200; k++) {
    const m = 0.5 * (a + b);
    if (m === a || m === b) break;
    if (f(m) < 0) a = m;
    else b = m;
  }
  return 0.5 * (a + b);
}
