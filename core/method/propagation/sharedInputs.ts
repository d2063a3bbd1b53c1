import type { InputCorrelation, InputUncertainty } from "../../records/inputs.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { correlationMatrix, crossParts } from "./inputs.ts";

/** A value and its answers to inputs: relative change over relative change, by key; one that is absent does not answer. */
export interface Answering {
  readonly value: number;
  readonly answers: Readonly<Record<string, number>>;
}

/** What inputs make of a difference of two values that both rest on them. */
export interface SharedInputs {
  /** 95 %, of the difference, in the unit of the values */
  readonly uncertainty: number;
  /** the same were the reference independent of them: of the simulated value alone */
  readonly alone: number;
  /** inputs that count in both, by name */
  readonly shared: readonly string[];
}

/**
 * Uncertainty of S - D where both answer to the same inputs: each input counts with the difference of what it makes of the two, so that what moves both
 * alike drops out.
 * @returns undefined where no input counts in the reference, or one is zero and has no relative size
 * @source ASME V&V 20-2009, sec. 5-2 (case with shared inputs); JCGM 100:2008, eq. 16
 * @example
 * sharedInputs([{ key: "v", label: "speed", value: 2, unit: "m/s", uncertainty: 0.04, sensitivities: {} }], [], { value: 10, answers: { v: 2 } }, { value: 10, answers: { v: 2 } })?.uncertainty // 0
 */
export function sharedInputs(
  inputs: readonly InputUncertainty[],
  correlations: readonly InputCorrelation[],
  simulated: Answering,
  reference: Answering,
): SharedInputs | undefined {
  const shared = inputs.filter((i) => reference.answers[i.key]);
  if (!shared.length || inputs.some((i) => i.value === 0)) return undefined;
  const matrix = correlationMatrix(
    inputs.map((i) => i.key),
    correlations,
  );
  const sizes = inputs.map((i) => i.uncertainty / i.value);
  const of = ({ value, answers }: Answering) => inputs.map((i, k) => value * (answers[i.key] ?? 0) * sizes[k]);
  const [s, d] = [of(simulated), of(reference)];
  return {
    uncertainty: rootOf(
      s.map((v, k) => v - d[k]),
      matrix,
    ),
    alone: rootOf(s, matrix),
    shared: shared.map((i) => i.label),
  };
}

const rootOf = (parts: readonly number[], between: readonly (readonly number[])[]): number =>
  Math.sqrt(
    Math.max(
      0,
      crossParts(parts, between).reduce((s, v) => s + v, 0),
    ),
  );

/** The rules of this file in words. */
export const SHARED_INPUT_RULES = rulesOf("core/method/propagation/sharedInputs.ts", [
  {
    rule: "shared-inputs",
    text: "A condition that counts in the simulation and in the yardstick counts once in their difference, with the difference of what it makes of the two. A yardstick worked out from the case's conditions is asked how it answers to each, by central differences a step of the condition's own uncertainty; of a measured one it is typed. What a condition makes of a yardstick is no part of the yardstick's own uncertainty.",
    source: "ASME V&V 20-2009, sec. 5; JCGM 100:2008, eq. 16",
  },
]);
