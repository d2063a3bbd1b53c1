import { meanUncertainty } from "./meanUncertainty.ts";
import { evenly } from "./record.ts";

/** The mean that a shorter record would have given. */
export interface ShorterMean {
  /** share of what is averaged, from its beginning */
  readonly share: number;
  /** on the abscissa */
  readonly length: number;
  readonly mean: number;
  /** 95 % */
  readonly expanded: number;
}

const SHARES = [1 / 8, 1 / 4, 1 / 2, 1] as const;
const FEWEST = 20;

/**
 * Means over the first eighth, quarter, half and the whole of what is averaged: a ladder along the averaging length from one record, without a new run.
 * Shares of fewer than 20 samples are left out.
 * @param at abscissae, rising
 * @param record where the average begins and how far its samples are apart
 */
export function shorterMeans(
  at: ArrayLike<number>,
  values: ArrayLike<number>,
  record: { readonly cut: number; readonly step: number },
): ShorterMean[] {
  const kept = evenly(at, values, record.step).subarray(record.cut);
  return SHARES.flatMap((share) => {
    const count = Math.round(share * kept.length);
    if (count < FEWEST) return [];
    const { mean, expanded } = meanUncertainty(kept.subarray(0, count));
    return [{ share, length: (count - 1) * record.step, mean, expanded }];
  });
}
