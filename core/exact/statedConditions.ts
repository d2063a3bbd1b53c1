import { asGiven, percent, unitText } from "../formatting/number.ts";
import { CONDITION_NAMES, CONDITION_UNITS } from "../records/conditions.ts";
import type { Reference } from "../records/reference.ts";
import type { Conditions } from "./fitting.ts";

/** conditions this far apart are others */
const APART = 0.02;

/**
 * A yardstick with its stated conditions held against the case's: it does not hold for a case at others.
 * What the case does not say is told and decides nothing.
 */
export function heldToConditions(y: Reference, { values }: Pick<Conditions, "values">): Reference {
  if (!y.conditions?.length) return y;
  const told = y.conditions.map(({ like, value }) => {
    const name = CONDITION_NAMES[like];
    const own = values[like];
    const at = `${name} of ${asGiven(value, 4)}${CONDITION_UNITS[like] ? ` ${unitText(CONDITION_UNITS[like])}` : ""}`;
    if (own === undefined) return { apart: false, sentence: `It was made at a ${at}; the case says none.` };
    const off = Math.abs(own - value) / Math.abs(value);
    return off <= APART
      ? { apart: false, sentence: `Its ${at} is the case's.` }
      : { apart: true, sentence: `It was made at a ${at}, the case's is ${asGiven(own, 4)}, ${percent(off)} away.` };
  });
  return {
    ...y,
    validity: {
      inside: y.validity.inside && !told.some((t) => t.apart),
      sentence: [y.validity.sentence, ...told.map((t) => t.sentence)].filter(Boolean).join(" "),
    },
  };
}
