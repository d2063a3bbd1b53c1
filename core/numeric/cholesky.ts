const ROUNDING = 1e-12;

/**
 * Lower triangle L of a symmetric matrix with ones about its size, A = L L'.
 * @returns undefined where the matrix is not positive semidefinite
 */
export function cholesky(a: readonly (readonly number[])[]): number[][] | undefined {
  const l = a.map((row) => row.map(() => 0));
  for (let j = 0; j < a.length; j++) {
    const d = a[j][j] - l[j].slice(0, j).reduce((s, v) => s + v * v, 0);
    if (!(d >= -ROUNDING)) return undefined;
    l[j][j] = Math.sqrt(Math.max(0, d));
    for (let i = j + 1; i < a.length; i++) {
      const s = a[i][j] - l[i].slice(0, j).reduce((sum, v, k) => sum + v * l[j][k], 0);
      // A row without a remainder of its own: what is left beside it must be nothing as well.
      if (l[j][j] > Math.sqrt(ROUNDING)) l[i][j] = s / l[j][j];
      else if (Math.abs(s) > Math.sqrt(ROUNDING)) return undefined;
    }
  }
  return l;
}
