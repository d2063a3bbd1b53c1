import { percent } from "../../formatting/number.ts";
import { rulesOf } from "../../remarks/rule.ts";

/** One value of several that answer the same question. */
export interface Participant {
  readonly label: string;
  readonly code: string;
  readonly value: number;
  /** 95 % numerical uncertainty, where its own meshes gave one */
  readonly uncertainty?: number;
}

/** A yardstick's value beside those of the codes: it takes no part in their mean. */
export interface Beside {
  readonly label: string;
  readonly value: number;
  /** 95 %, where it states one */
  readonly uncertainty?: number;
  /** the mean of the codes less its value */
  readonly difference: number;
}

export interface LeftOut extends Participant {
  /** mean of the others */
  readonly others: number;
  /** its value less that mean */
  readonly difference: number;
}

/** Values of several runs among one another, of one code or of several: none of them is the truth. */
export interface BetweenCodes {
  readonly mean: number;
  /** standard deviation of the values */
  readonly spread: number;
  readonly lowest: number;
  readonly highest: number;
  /** each against the mean of the others, the furthest first */
  readonly each: readonly LeftOut[];
  readonly beside: readonly Beside[];
  readonly sentence: string;
}

/**
 * Spread of several runs and each against the rest.
 * @param beside yardsticks that are shown with them
 * @param scale what differences are counted in, positive
 * @returns undefined for fewer than two
 * @throws {RangeError} a value that is not finite
 */
export function betweenCodes(
  list: readonly Participant[],
  scale: number,
  beside: readonly Omit<Beside, "difference">[] = [],
): BetweenCodes | undefined {
  if (list.length < 2) return undefined;
  if (!list.every((p) => Number.isFinite(p.value))) throw new RangeError("Every value must be finite.");
  const n = list.length;
  const sum = list.reduce((s, p) => s + p.value, 0);
  const mean = sum / n;
  const spread = Math.sqrt(list.reduce((s, p) => s + (p.value - mean) ** 2, 0) / (n - 1));
  const each = list
    .map((p): LeftOut => {
      const others = (sum - p.value) / (n - 1);
      return { ...p, others, difference: p.value - others };
    })
    .sort((a, b) => Math.abs(b.difference) - Math.abs(a.difference));
  const values = list.map((p) => p.value);
  const [lowest, highest] = [Math.min(...values), Math.max(...values)];
  const furthest = n > 2 ? ` ${each[0].label} lies furthest from the others, ${percent(Math.abs(each[0].difference) / scale)}.` : "";
  return {
    mean,
    spread,
    lowest,
    highest,
    each,
    beside: beside.map((b) => ({ ...b, difference: mean - b.value })),
    sentence: `${among(list)} lie within ${percent((highest - lowest) / scale)} of one another.${furthest} ${caution(list)}`,
  };
}

const codesOf = (list: readonly Participant[]) => new Set(list.map((p) => p.code)).size;

/** "3 codes", "4 runs of 2 codes", "3 runs of one code". */
function among(list: readonly Participant[]): string {
  const codes = codesOf(list);
  if (codes === list.length) return `${codes} codes`;
  return `${list.length} runs of ${codes === 1 ? "one code" : `${codes} codes`}`;
}

const caution = (list: readonly Participant[]) =>
  codesOf(list) === 1 ? "Agreement of a code with itself is no truth." : "Agreement between codes is no truth.";

/** The rules of this file in words. */
export const BETWEEN_CODES_RULES = rulesOf("core/method/comparison/betweenCodes.ts", [
  {
    rule: "between-codes",
    text: "The finest run of every code, and runs put beside them by hand, with the mean and standard deviation of their values and each against the mean of the others. Codes share models and habits: that they agree says nothing of the truth, and decides nothing. Yardsticks are shown beside them and take no part in their mean.",
    source: "method of this product",
  },
]);
