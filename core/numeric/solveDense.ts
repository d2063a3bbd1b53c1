/**
 * Solution of A x = b by elimination with pivoting.
 * @param a rows; left as they are
 * @param least pivots below this share of the largest entry count as nothing
 * @returns undefined where the rows do not tell the unknowns apart
 */
export function solveDense(a: readonly (readonly number[])[], b: readonly number[], least = 1e-12): number[] | undefined {
  const n = b.length;
  const m = a.map((row, i) => [...row, b[i]]);
  const largest = Math.max(...m.flatMap((row) => row.slice(0, n).map(Math.abs)));
  for (let i = 0; i < n; i++) {
    let pivot = i;
    for (let r = i + 1; r < n; r++) if (Math.abs(m[r][i]) > Math.abs(m[pivot][i])) pivot = r;
    if (!(Math.abs(m[pivot][i]) > least * largest)) return undefined;
    [m[i], m[pivot]] = [m[pivot], m[i]];
    for (let r = i + 1; r < n; r++) {
      const factor = m[r][i] / m[i][i];
      for (let c = i; c <= n; c++) m[r][c] -= factor * m[i][c];
    }
  }
  const x = new Array<number>(n).fill(0);
  for (let i = n - 1; i >= 0; i--) {
    let s = m[i][n];
    for (let c = i + 1; c < n; c++) s -= m[i][c] * x[c];
    x[i] = s / m[i][i];
  }
  return x;
}
