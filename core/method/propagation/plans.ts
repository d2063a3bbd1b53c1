import { cholesky } from "../../numeric/cholesky.ts";
import { normalQuantile } from "../../numeric/normal.ts";
import { randomFrom } from "../../numeric/random.ts";
import type { InputCorrelation, InputUncertainty } from "../../records/inputs.ts";
import { correlationMatrix } from "./inputs.ts";

/** What a planned run is given: values of the inputs by their keys, SI. */
export interface Planned {
  readonly label: string;
  readonly values: Readonly<Record<string, number>>;
}

/** Share of its 95 % uncertainty that is one standard deviation of an input. */
const STANDARD = 0.5;
/** standard deviations a sample goes out to: beyond, a run may ask for what the problem does not allow */
const FARTHEST = 3;

/**
 * Central differences: the present values once, then every input alone a step down and a step up. A step is its 95 % uncertainty, so that the answer
 * is the one over the range that is meant.
 */
export function differencePlan(inputs: readonly InputUncertainty[]): Planned[] {
  const present = Object.fromEntries(inputs.map((i) => [i.key, i.value]));
  return [
    { label: "as it is", values: present },
    ...inputs.flatMap((i) => [
      { label: `${i.label} down`, values: { ...present, [i.key]: i.value - i.uncertainty } },
      { label: `${i.label} up`, values: { ...present, [i.key]: i.value + i.uncertainty } },
    ]),
  ];
}

/**
 * Latin hypercube: as many equally likely strata of each input as runs, every one taken once, in an order of its own; normally distributed, and
 * correlated where that is stated.
 * @param seed the same seed gives the same runs
 * @throws {RangeError} correlations that contradict one another
 * @source McKay, Beckman & Conover, Technometrics 21 (1979) 239; Iman & Conover, Commun. Statist. B 11 (1982) 311, for correlated inputs
 */
export function samplePlan(
  inputs: readonly InputUncertainty[],
  count: number,
  seed: number,
  correlations: readonly InputCorrelation[] = [],
): Planned[] {
  const random = randomFrom(seed);
  const scores = inputs.map(() => strata(count, random));
  const ordered = correlations.length
    ? inOrderOf(
        scores,
        correlationMatrix(
          inputs.map((i) => i.key),
          correlations,
        ),
      )
    : scores;
  return Array.from({ length: count }, (_, run) => ({
    label: `sample ${run + 1}`,
    values: Object.fromEntries(inputs.map((i, k) => [i.key, i.value + STANDARD * i.uncertainty * ordered[k][run]])),
  }));
}

/** One normal score out of each stratum, shuffled. */
function strata(count: number, random: () => number): number[] {
  const scores = Array.from({ length: count }, (_, k) => {
    const p = (k + random()) / count;
    return Math.max(-FARTHEST, Math.min(FARTHEST, normalQuantile(Math.min(1 - 1e-12, Math.max(1e-12, p)))));
  });
  for (let k = count - 1; k > 0; k--) {
    const j = Math.floor(random() * (k + 1));
    [scores[k], scores[j]] = [scores[j], scores[k]];
  }
  return scores;
}

/** The same scores, each list put into the order of a mixture that has the correlations: every stratum is still taken once. */
function inOrderOf(scores: readonly (readonly number[])[], matrix: readonly (readonly number[])[]): number[][] {
  const l = cholesky(matrix);
  if (!l) throw new RangeError("These correlations cannot hold together.");
  return scores.map((own, k) => {
    const mixed = own.map((_, run) => l[k].reduce((s, v, j) => s + v * scores[j][run], 0));
    const sorted = [...own].sort((a, b) => a - b);
    const out = new Array<number>(own.length);
    mixed
      .map((v, run) => ({ v, run }))
      .sort((a, b) => a.v - b.v)
      .forEach(({ run }, rank) => {
        out[run] = sorted[rank];
      });
    return out;
  });
}
