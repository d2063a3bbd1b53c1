/** Moments that fall in one part of a period. */
export interface Phase {
  /** middle of the part, as a share of the period from the first moment on */
  readonly share: number;
  /** numbers of the moments in it, from 0 */
  readonly moments: readonly number[];
}

/** Moments that cannot be sorted by phase, in a sentence. */
export class NoPhases extends Error {}

/**
 * Sorts moments by the phase of a motion that repeats itself, counted from the first of them.
 * @param timesS rising
 * @param periodS above 0
 * @param parts even parts of the period, at least 2
 * @returns the parts that have moments, in their order
 * @throws {NoPhases} no period, or the moments do not reach over one
 * @example
 * phasesOf([0, 1, 2, 3], 2, 2) // [{ share: 0.25, moments: [0, 2] }, { share: 0.75, moments: [1, 3] }]
 */
export function phasesOf(timesS: readonly number[], periodS: number, parts: number): Phase[] {
  if (!(periodS > 0) || !Number.isInteger(parts) || parts < 2) throw new NoPhases("A phase needs a period above 0 and at least two parts of it.");
  const [first, last] = [timesS[0], timesS[timesS.length - 1]];
  // The last of moments a step apart ends a step before the period does.
  const step = timesS.length > 1 ? (last - first) / (timesS.length - 1) : 0;
  if (!(last - first + step >= periodS * (1 - 1e-9)))
    throw new NoPhases(`The moments reach over ${Number((last - first).toPrecision(4))} s: less than one period of ${periodS} s.`);
  const found = Array.from({ length: parts }, (): number[] => []);
  timesS.forEach((t, k) => {
    const turns = (t - first) / periodS;
    // What lies a rounding before the end of a turn is its beginning.
    const share = turns + 1e-9 - Math.floor(turns + 1e-9);
    found[Math.min(parts - 1, Math.floor(share * parts))].push(k);
  });
  return found.flatMap((moments, p) => (moments.length ? [{ share: (p + 0.5) / parts, moments }] : []));
}

/** Mean of fields of several moments, name by name: only names all of them have. */
export function meanFields<F extends { readonly name: string; readonly unit: string; readonly values: Float64Array }>(
  moments: readonly (readonly F[])[],
): F[] {
  return moments[0].flatMap((f): F[] => {
    const own = moments.map((m) => m.find((x) => x.name === f.name));
    if (!own.every((x) => x !== undefined && x.values.length === f.values.length)) return [];
    const values = new Float64Array(f.values.length);
    for (const x of own) for (let c = 0; c < values.length; c++) values[c] += (x as F).values[c] / own.length;
    return [{ ...f, values }];
  });
}
