import { percent, signedPercent } from "../../formatting/number.ts";
import { rulesOf } from "../../remarks/rule.ts";

export interface ComparedValues {
  /** simulated and reference value, one unit */
  readonly simulated: number;
  readonly reference: number;
  /** what differences are counted in, positive; a name where it is neither value: "the reference velocity" */
  readonly scale: number;
  readonly scaleName?: string;
  /** standard uncertainties: numerical, of the inputs, of the reference; of the parts that are known where something is open */
  readonly uNum: number;
  readonly uInput: number;
  readonly uReference: number;
  /** sources whose size nobody knows */
  readonly open: readonly string[];
}

/** Difference of one value from a yardstick and what may be said of it (method 5). */
export interface ValueComparison {
  readonly simulated: number;
  readonly reference: number;
  /** S - D */
  readonly difference: number;
  readonly scale: number;
  readonly scaleName?: string;
  readonly uNum: number;
  readonly uInput: number;
  readonly uReference: number;
  /** standard validation uncertainty; undefined while a part is open */
  readonly uVal?: number;
  /** of the parts that are known */
  readonly uValAtLeast: number;
  readonly open: readonly string[];
  readonly claim: "within-noise" | "beyond-noise" | "incomplete";
  readonly sentence: string;
}

/** expansion factor of the validation uncertainty */
export const K = 2;

/**
 * Compares a simulated value with a yardstick: E = S - D against k u_val, u_val the root of the squares of its three parts.
 * @throws {RangeError} a value that is not finite, or a scale that is not positive: nothing is ever a percentage of zero
 * @source ASME V&V 20-2009
 * @example
 * compareValue({ simulated: 10.5, reference: 10, scale: 10, uNum: 0.03, uInput: 0, uReference: 0.04, open: [] }).claim // "beyond-noise"
 */
export function compareValue(c: ComparedValues): ValueComparison {
  if (!Number.isFinite(c.simulated) || !Number.isFinite(c.reference)) throw new RangeError("Both values must be finite.");
  if (!(c.scale > 0)) throw new RangeError(`The scale of a difference must be positive, not ${c.scale}.`);
  const difference = c.simulated - c.reference;
  const atLeast = Math.hypot(c.uNum, c.uInput, c.uReference);
  const base = { ...c, difference, uValAtLeast: atLeast };
  const of = c.scaleName ? ` of ${c.scaleName}` : "";
  const size = `${signedPercent(difference / c.scale)}${of}`;
  const band = K * atLeast;
  if (c.open.length) {
    const known = atLeast > 0 ? ` The validation uncertainty is at least ${percent(band / c.scale)}, twice u_val of what is known.` : "";
    return { ...base, claim: "incomplete", sentence: `Differs by ${size}; ${listed(c.open)} ${c.open.length > 1 ? "are" : "is"} open.${known}` };
  }
  if (Math.abs(difference) <= band)
    return {
      ...base,
      uVal: atLeast,
      claim: "within-noise",
      sentence: `Difference ${size} is within the noise: no model error can be claimed or excluded below ${percent(band / c.scale)}.`,
    };
  return {
    ...base,
    uVal: atLeast,
    claim: "beyond-noise",
    sentence: `An error of ${size} ± ${percent(band / c.scale)} is shown: the difference is larger than the noise.`,
  };
}

/**
 * "a", "a and b", "a, b and c".
 * @example
 * listed(["a", "b", "c"]) // "a, b and c"
 */
export function listed(names: readonly string[]): string {
  return names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} and ${names[names.length - 1]}`;
}

/** The rules of this file in words. */
export const COMPARE_VALUE_RULES = rulesOf("core/method/comparison/compareValue.ts", [
  {
    rule: "validation-uncertainty",
    text: "E = S − D; u_val² = u_num² + u_input² + u_D²; each is half its 95 % figure, those made by refinement U / 1.15 where their error is taken to lie to one side (shifted normal distribution); k = 2. Conditions that count in both sides count with the difference of what they make of them. |E| ≤ 2 u_val is within the noise: nothing is claimed. While a source is open u_val is at least what the others make it. A reference of zero, or far below the case's own size, is no scale: differences are then counted in that size, by its name.",
    source: "ASME V&V 20",
  },
]);
