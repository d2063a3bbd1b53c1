import { findSolution } from "./library.ts";
import { evaluate } from "./solution.ts";

/** A solution of the library at given parameters, for tests: its values by key, and its curves as functions. */
export function solved(id: string, given: Readonly<Record<string, number>> = {}) {
  const s = findSolution(id);
  if (!s) throw new Error(`There is no solution ${id}.`);
  const found = evaluate(s, given);
  if (!found.ok) throw new Error(found.sentence);
  const values = Object.fromEntries(found.values.map((v) => [v.key, v.value]));
  const curve = (key: string) => {
    const c = found.curves.find((x) => x.key === key);
    if (!c) throw new Error(`${id} has no curve ${key}.`);
    return Object.assign((x: number) => c.sample([x])[0], { from: c.from, to: c.to });
  };
  return { values, curve, inside: found.inside, range: found.range };
}

export { slopeOf } from "../numeric/differences.ts";

/** Second derivative by differences of the sixth order. */
export const curvatureOf = (f: (x: number) => number, x: number, h: number) =>
  (2 * (f(x + 3 * h) + f(x - 3 * h)) - 27 * (f(x + 2 * h) + f(x - 2 * h)) + 270 * (f(x + h) + f(x - h)) - 490 * f(x)) / (180 * h * h);

/** Integral by Simpson's rule. */
export function integralOf(f: (x: number) => number, from: number, to: number, intervals = 2000): number {
  let sum = 0;
  for (let k = 0; k <= intervals; k++) sum += (k === 0 || k === intervals ? 1 : k % 2 ? 4 : 2) * f(from + ((to - from) * k) / intervals);
  return (sum * (to - from)) / intervals / 3;
}
