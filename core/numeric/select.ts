/** shorter ranges are not sampled first */
const SAMPLED = 600;

/**
 * The k-th smallest of numbers, counted from 0. The numbers are put into another order: smaller ones before place k, larger ones after.
 * @param values no NaN among them
 * @param left all before this place are known to be no larger than the rest
 * @example
 * select(Float64Array.of(9, 1, 5), 1) // 5
 * @source Floyd & Rivest, Commun. ACM 18 (1975) 173, algorithm 489.
 */
export function select(values: Float64Array, k: number, left = 0, right = values.length - 1): number {
  while (right > left) {
    if (right - left > SAMPLED) {
      const n = right - left + 1;
      const m = k - left + 1;
      const z = Math.log(n);
      const s = 0.5 * Math.exp((2 * z) / 3);
      const sd = 0.5 * Math.sqrt((z * s * (n - s)) / n) * (m - n / 2 < 0 ? -1 : 1);
      select(values, k, Math.max(left, Math.floor(k - (m * s) / n + sd)), Math.min(right, Math.floor(k + ((n - m) * s) / n + sd)));
    }
    const pivot = values[k];
    let [i, j] = [left, right];
    while (i <= j) {
      while (values[i] < pivot) i++;
      while (values[j] > pivot) j--;
      if (i <= j) {
        const kept = values[i];
        values[i++] = values[j];
        values[j--] = kept;
      }
    }
    if (j < k) left = i;
    if (k < i) right = j;
  }
  return values[k];
}
