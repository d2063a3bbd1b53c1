import { rulesOf } from "../../remarks/rule.ts";
import { leastSquaresLine } from "./fits.ts";

/** A value with the spacing and the time step it was computed with. */
export interface SpaceTimeValue {
  readonly spacing: number;
  readonly step: number;
  readonly value: number;
}

/** Errors of the finest value in space and in time, by a fit of both terms at once. */
export type SpaceTimeFit =
  | {
      readonly ok: true;
      readonly limit: number;
      /** share of space and of time in the value with the smallest spacing and step, signed, in the quantity's unit */
      readonly space: number;
      readonly time: number;
      /** standard deviation about the fit, by what is left of the degrees of freedom; absent where none is */
      readonly deviation?: number;
    }
  | { readonly ok: false; readonly sentence: string };

const FEWEST = 4;
/** how far from one another the two columns must point, as a sine */
const APART = 0.05;

/**
 * phi0 + a h^p + b tau^q by least squares with the formal orders in space and time. Runs that refine both together in one ratio cannot tell the two
 * apart; that is said instead of an answer.
 * @param orders formal orders in space and in time
 */
export function spaceTimeFit(values: readonly SpaceTimeValue[], [p, q]: readonly [number, number]): SpaceTimeFit {
  const refuse = (sentence: string): SpaceTimeFit => ({ ok: false, sentence });
  if (values.length < FEWEST) return refuse(`A fit of space and time together needs four runs; there are ${values.length}.`);
  const least = (of: (v: SpaceTimeValue) => number) => Math.min(...values.map(of));
  const [h1, t1] = [least((v) => v.spacing), least((v) => v.step)];
  const distinct = (of: (v: SpaceTimeValue) => number) => new Set(values.map((v) => of(v).toPrecision(6))).size;
  if (distinct((v) => v.spacing) < 2) return refuse("All runs lie on one mesh: the error in space cannot be told.");
  if (distinct((v) => v.step) < 2) return refuse("All runs have one time step: the error in time cannot be told.");
  const inSpace = values.map((v) => (v.spacing / h1) ** p);
  const inTime = values.map((v) => (v.step / t1) ** q);
  if (sineBetween(inSpace, inTime) < APART)
    return refuse(
      "Spacing and time step change together in all runs: their errors cannot be told apart. One run with another step on one of the meshes would do.",
    );
  const found = leastSquaresLine(
    [inSpace, inTime],
    values.map((v) => v.value),
  );
  if (!found) return refuse("The runs do not determine both errors.");
  const [limit, space, time] = found.coefficients;
  return { ok: true, limit, space, time, ...(values.length > 3 ? { deviation: found.deviation } : {}) };
}

/** Sine of the angle between two columns freed of their means. */
function sineBetween(a: readonly number[], b: readonly number[]): number {
  const free = (x: readonly number[]) => {
    const mean = x.reduce((s, v) => s + v, 0) / x.length;
    const d = x.map((v) => v - mean);
    const size = Math.hypot(...d);
    return d.map((v) => v / size);
  };
  const [u, v] = [free(a), free(b)];
  const cosine = u.reduce((s, x, i) => s + x * v[i], 0);
  return Math.sqrt(Math.max(0, 1 - cosine * cosine));
}

/** The rules of this file in words. */
export const SPACE_TIME_RULES = rulesOf("core/method/refinement/spaceTime.ts", [
  {
    rule: "space-and-time",
    text: "φ0 + a h^p + b τ^q by least squares over four or more runs with the formal orders; refused where all runs share a mesh or a step, or where the two change together (sine between the columns below 0.05).",
    source: "method of this product",
  },
]);
