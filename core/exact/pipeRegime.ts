import type { RangeCheck } from "./solution.ts";

/** Reynolds number of the diameter up to which a pipe's flow is laminar, and from which it is turbulent. */
export const LAMINAR = 2300;
export const TURBULENT = 4000;

/** Whether a pipe's flow is one or the other: between the two nothing holds. */
export function eitherRegime(
  reynolds: number,
  words: { readonly laminar: string; readonly turbulent: string; readonly between: string },
): RangeCheck[] {
  if (reynolds <= LAMINAR) return [{ inside: true, sentence: words.laminar }];
  if (reynolds >= TURBULENT) return [{ inside: true, sentence: words.turbulent }];
  return [{ inside: false, sentence: `Between Reynolds numbers of ${LAMINAR} and ${TURBULENT} ${words.between}` }];
}
