import { rulesOf } from "../../remarks/rule.ts";

const UNKNOWN_ORDER = 3;

/**
 * Uncertainty at 95 % of one value of a set computed in domains of several extents, for how far the domain reaches, in the values' unit. The order at
 * which a far boundary loses its hold is not known: three times the change between the two largest domains stands for what is left beyond the
 * largest, and what lies between the value's own domain and the largest is added where it is neither of those two.
 * @param values largest domain first
 * @param own place of the value that stands
 * @throws {RangeError} Fewer than two values, or no such place.
 * @example
 * domainUncertainty([10, 10.5, 11.5], 2) // 3
 */
export function domainUncertainty(values: readonly number[], own: number): number {
  if (values.length < 2) throw new RangeError("Two domains are the fewest to judge by.");
  if (!(own in values)) throw new RangeError(`There is no domain number ${own + 1}.`);
  const beyond = UNKNOWN_ORDER * Math.abs(values[0] - values[1]);
  return own < 2 ? beyond : beyond + Math.abs(values[own] - values[0]);
}

/** The rules of this file in words. */
export const DOMAIN_RULES = rulesOf("core/method/refinement/alongDomain.ts", [
  {
    rule: "domain",
    text: "Extent of the domain: three times the change between the two largest domains, for the order at which a far boundary loses its hold is not known; what a smaller domain differs from the largest is added.",
    source: "method of this product",
  },
]);
