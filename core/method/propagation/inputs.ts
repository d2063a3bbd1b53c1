import type { InputCorrelation, InputUncertainty, SweptPoint } from "../../records/inputs.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { type Answer, answerByRuns } from "./answers.ts";
import type { DerivedSet } from "./derived.ts";

/** Relative change of the quantity over relative change of the input, and how it was found. */
export type Sensitivity = Answer | { readonly value: number; readonly by: "typed" | "formula" };

/** What sensitivities can be worked out from besides what was typed. */
export interface SensitivityMeans {
  readonly values: Readonly<Record<string, number>>;
  readonly derived?: { readonly set: DerivedSet; readonly keys: readonly string[]; readonly constants: Readonly<Record<string, number>> };
  readonly swept: readonly SweptPoint[];
}

/** How a quantity answers to an input: as typed, else by its formula, else by runs made for it; undefined when nothing tells. */
export function sensitivityOf(input: InputUncertainty, quantityKey: string, means: SensitivityMeans): Sensitivity | undefined {
  const typed = input.sensitivities[quantityKey];
  if (typed !== undefined) return { value: typed, by: "typed" };
  return byFormula(input, quantityKey, means) ?? answerByRuns(input, quantityKey, means.swept);
}

/** A derived quantity answers through its formula and through the quantities it is made of, all of which have to be known. */
function byFormula(input: InputUncertainty, quantityKey: string, means: SensitivityMeans): Sensitivity | undefined {
  const { derived, values } = means;
  if (!derived?.keys.includes(quantityKey)) return undefined;
  const found = derived.set.values({ ...derived.constants, ...values })[quantityKey];
  if (!found || !(Math.abs(found.value) > 0)) return undefined;
  let sum = 0;
  for (const [name, slope] of Object.entries(found.sensitivities)) {
    if (slope === 0 || (name !== input.key && name in derived.constants)) continue;
    const part = name === input.key ? 1 : sensitivityOf(input, name, means)?.value;
    if (part === undefined) return undefined;
    const base = name === input.key ? input.value : values[name];
    sum += ((slope * base) / found.value) * part;
  }
  return { value: sum, by: "formula" };
}

/** An answer to a step down that is this much of an answer to a step up apart is no straight line any more. */
const UNEVEN = 0.2;

export interface InputShare {
  readonly key: string;
  readonly label: string;
  readonly sensitivity?: Sensitivity;
  /** 95 %, fraction of the quantity */
  readonly relative?: number;
  /** part of the square of the whole; below zero where a correlation makes up for others */
  readonly part?: number;
  /** the answers to a step down and up differ by more than a fifth: the first order is not enough */
  readonly uneven?: boolean;
}

export interface InputBudget {
  readonly shares: readonly InputShare[];
  /** 95 %, fraction of the quantity; undefined while one answer is not known */
  readonly relative?: number;
  /** the input that makes most of it */
  readonly largest?: string;
}

/**
 * What the uncertainties of the inputs make of a quantity, to first order, as fractions of it.
 * @param correlations between inputs; those that are not named vary by themselves
 * @source JCGM 100:2008, eq. 13 and 16
 */
export function inputUncertainty(
  inputs: readonly InputUncertainty[],
  quantityKey: string,
  means: SensitivityMeans,
  correlations: readonly InputCorrelation[] = [],
): InputBudget {
  const answers = inputs.map((input) => {
    const sensitivity = sensitivityOf(input, quantityKey, means);
    const own = Math.abs(input.uncertainty / input.value);
    return { input, sensitivity, signed: sensitivity && Number.isFinite(own) ? sensitivity.value * own : undefined };
  });
  const between = correlationMatrix(
    inputs.map((i) => i.key),
    correlations,
  );
  const signed = answers.map((a) => a.signed ?? 0);
  const squares = crossParts(signed, between);
  const whole = squares.reduce((s, v) => s + v, 0);
  const known = inputs.length > 0 && answers.every((a) => a.signed !== undefined);
  const shares = answers.map(({ input: { key, label }, sensitivity, signed: own }, i): InputShare => {
    if (!sensitivity || own === undefined) return { key, label };
    return {
      key,
      label,
      sensitivity,
      relative: Math.abs(own),
      ...(known && whole > 0 ? { part: squares[i] / whole } : {}),
      ...(isUneven(sensitivity) ? { uneven: true } : {}),
    };
  });
  if (!known) return { shares };
  const largest = [...shares].sort((a, b) => (b.relative ?? 0) - (a.relative ?? 0))[0];
  return { shares, relative: Math.sqrt(Math.max(0, whole)), ...((largest.relative ?? 0) > 0 ? { largest: largest.key } : {}) };
}

function isUneven(s: Sensitivity): boolean {
  if (!("sides" in s) || !s.sides) return false;
  const [down, up] = s.sides;
  return Math.abs(up - down) > UNEVEN * Math.max(Math.abs(down), Math.abs(up));
}

/** What each of several correlated parts adds to the square of them together, cross terms shared evenly. */
export const crossParts = (parts: readonly number[], between: readonly (readonly number[])[]): number[] =>
  parts.map((a, i) => a * between[i].reduce((s, r, j) => s + r * parts[j], 0));

/** Coefficients between inputs, row by row, one on the diagonal; what names another input counts for nothing. */
export function correlationMatrix(keys: readonly string[], correlations: readonly InputCorrelation[]): number[][] {
  const matrix: number[][] = keys.map((_, i) => keys.map((__, j) => Number(i === j)));
  for (const { between, coefficient } of correlations) {
    const [i, j] = between.map((key) => keys.indexOf(key));
    if (i < 0 || j < 0 || i === j) continue;
    matrix[i][j] = coefficient;
    matrix[j][i] = coefficient;
  }
  return matrix;
}

/** The rules of this file in words. */
export const INPUT_RULES = rulesOf("core/method/propagation/inputs.ts", [
  {
    rule: "input-uncertainty",
    text: "What an input makes of a quantity is its 95 % uncertainty times the quantity's answer, both relative; the inputs together are the root of the sum of squares, with cross terms where a correlation is stated. An answer is typed, else follows from a formula, else from runs made for it: central differences a step of the input's own uncertainty to either side, a sweep, or a fit over a sample. Answers to a step down and up that differ by more than a fifth are said to be uneven. Runs count while the case is set up as it was when they were made, but for what they vary.",
    source: "JCGM 100:2008, eq. 13 and 16; ASME V&V 20-2009, sec. 3",
  },
]);
