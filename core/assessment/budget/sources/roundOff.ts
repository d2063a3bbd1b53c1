import { lastDigit } from "../../../method/iteration/printedStep.ts";
import { lastFinite } from "../../../numeric/numbers.ts";
import type { Found, RuleInput, SourceAssessor } from "./source.ts";

const SINGLE = 6e-8;
/** entries at the end of a record whose digits are looked at */
const LAST = 200;

/** Precision times the root of the cells; for a code whose precision nobody stated, half the last digit it printed. */
function find({ evidence: e, quantity: q, finest, scale }: RuleInput): Found {
  if (!finest) return { note: "no run" };
  const at = finest.finishedAt;
  const root = Math.sqrt(finest.mesh?.cells ?? 1);
  if (finest.origin === "bench") return { at, relative: Number.EPSILON * root, note: "double precision times the root of the number of cells" };
  const precision = e.precision?.[finest.code];
  if (precision) {
    const note = `${finest.code} works in ${precision} precision, as stated; times the root of the number of cells`;
    return { at, relative: (precision === "single" ? SINGLE : Number.EPSILON / 2) * root, note };
  }
  const record = finest.history?.quantities[q.key];
  const value = finest.result?.quantities[q.key];
  if (record) {
    const digit = lastDigit(lastFinite(record, LAST));
    return digit === 0
      ? { at, relative: Number.EPSILON * root, note: `${finest.code} writes all digits of double precision; times the root of the number of cells` }
      : { at, relative: digit / 2 / scale.value, note: `half the last digit that ${finest.code} printed; its precision was not stated` };
  }
  if (value === undefined) return { at, note: `the precision of ${finest.code} is not stated` };
  return { at, relative: lastDigit([value]) / 2 / scale.value, note: "half the last digit of the value in the file; the precision was not stated" };
}

export const roundOff: SourceAssessor = {
  key: "round-off",
  name: "round-off",
  group: "machine",
  stage: "verdict",
  find,
  settle: () => ({ sentence: "state the precision the code works in", go: "verdict" }),
  effort: 1,
};
