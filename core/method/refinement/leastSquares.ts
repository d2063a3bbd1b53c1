import { rulesOf } from "../../remarks/rule.ts";
import { type Fit, fixedFit, powerFit, type Rungs, valueAt } from "./fits.ts";

/** Result of the least-squares procedure; see method 3. */
export interface LeastSquares {
  readonly fit: Fit;
  /** exponent of the power law, where one was found, whatever fit was then used */
  readonly observed?: number;
  /** (largest - smallest value) / (values - 1) */
  readonly dataRange: number;
  /** deviation of the fit beyond the data range: the values scatter more than they change */
  readonly scattered: boolean;
  readonly safety: 1.25 | 3;
  /** estimated error of the fine value, signed: fine value less the limit of the fit */
  readonly error: number;
  /** 95 % uncertainty of the fine value, in the quantity's unit */
  readonly uncertainty: number;
}

const LEAST_ORDER = 0.5;
/** share above the formal order an exponent may have and still be believed */
const BAND = 0.05;

/**
 * Discretisation uncertainty of the finest of four or more values from fits by least squares, weighted and unweighted, the one with the smallest
 * deviation. Where the power law's exponent lies outside [0.5, formal order], fits with fixed exponents take its place: one term of order 1
 * or 2 above it, these and both terms together below it.
 * @throws {RangeError} fewer than four values, values not finite, spacings not positive or not all different
 * @source Eça & Hoekstra, J. Comput. Phys. 262 (2014) 104.
 */
export function leastSquares(rungs: Rungs, formalOrder: number): LeastSquares {
  const { spacing, phi } = rungs;
  if (spacing.length < 4 || phi.length !== spacing.length) throw new RangeError(`Four values are the fewest to fit; there are ${spacing.length}.`);
  if (!phi.every(Number.isFinite)) throw new RangeError("Every value must be finite.");
  if (!spacing.every((h) => h > 0) || new Set(spacing).size < spacing.length) throw new RangeError("Spacings must be positive and all different.");
  const finest = spacing.indexOf(Math.min(...spacing));
  const powers = [false, true].flatMap((weighted) => powerFit(rungs, weighted) ?? []);
  const within = powers.filter((f) => inRange(exponentOf(f), formalOrder));
  const observed = smallest(powers);
  const fit = smallest(within) ?? (smallest(fixedFits(rungs, observed && exponentOf(observed), formalOrder)) as Fit);
  const dataRange = (Math.max(...phi) - Math.min(...phi)) / (phi.length - 1);
  const scattered = fit.deviation >= dataRange;
  const exponent = within.length ? exponentOf(fit) : observed && exponentOf(observed);
  const believed = exponent !== undefined && exponent >= LEAST_ORDER && exponent < (1 + BAND) * formalOrder;
  const safety = believed && !scattered ? 1.25 : 3;
  const error = valueAt(fit, 1) - fit.limit;
  const off = Math.abs(phi[finest] - valueAt(fit, 1));
  const uncertainty = scattered
    ? 3 * (dataRange > 0 ? fit.deviation / dataRange : 0) * (Math.abs(error) + fit.deviation + off)
    : safety * Math.abs(error) + fit.deviation + off;
  return { fit, ...(observed ? { observed: exponentOf(observed) } : {}), dataRange, scattered, safety, error, uncertainty };
}

const exponentOf = (f: Fit): number => f.terms[0].exponent;
const inRange = (exponent: number, formalOrder: number): boolean => exponent >= LEAST_ORDER && exponent <= formalOrder;

/** What takes the place of a power law that is not to be believed. */
function fixedFits(rungs: Rungs, exponent: number | undefined, formalOrder: number): Fit[] {
  const steep = exponent !== undefined && exponent > formalOrder;
  const models = steep ? (["first", "second"] as const) : (["first", "second", "first-and-second"] as const);
  return models.flatMap((m) => [false, true].flatMap((weighted) => fixedFit(rungs, m, weighted) ?? []));
}

const smallest = (fits: readonly Fit[]): Fit | undefined => [...fits].sort((a, b) => a.deviation - b.deviation)[0];

/** The rules of this file in words. */
export const LEAST_SQUARES_RULES = rulesOf("core/method/refinement/leastSquares.ts", [
  {
    rule: "least-squares",
    text: "φ0 + a h^p by least squares over four or more meshes, unweighted and weighted by 1/h, the fit with the smaller standard deviation σ. For p above the formal order a h or a h² is fitted, for p below 0.5 these or a1 h + a2 h². Data range Δ = (max − min)/(M − 1). Safety 1.25 for p from 0.5 to a twentieth above the formal order and σ < Δ, else 3. U = safety × |ε| + σ + |φ1 − fit|; where σ ≥ Δ, U = 3 σ/Δ (|ε| + σ + |φ1 − fit|).",
    source: "Eça & Hoekstra 2014",
  },
]);
