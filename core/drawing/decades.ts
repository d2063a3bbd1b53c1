import { fieldRange } from "./fieldRaster.ts";

/** decades below the largest that are told apart */
const DECADES = 4;

/** Values painted by their logarithm. */
export interface InDecades {
  /** logarithms; what is below the range is lifted to its lower end, NaN stays */
  readonly painted: Float64Array;
  readonly range: readonly [number, number];
}

/** Errors reach over decades: their logarithms, four decades down from the largest. @param values not negative */
export function inDecades(values: Float64Array): InDecades {
  const [, largest] = fieldRange(values);
  const top = Math.log10(largest > 0 ? largest : 1);
  const painted = values.map((v) => (Number.isNaN(v) ? v : Math.max(top - DECADES, Math.log10(v))));
  return { painted, range: [top - DECADES, top] };
}
