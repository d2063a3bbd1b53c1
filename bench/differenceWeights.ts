/**
 * Weights of value, first and second derivative at x of the polynomial through points.
 * @source Fornberg, Math. Comp. 51 (1988) 699
 */
export function differenceWeights(xs: readonly number[], x: number): readonly [number[], number[], number[]] {
  const c = [0, 1, 2].map(() => new Array<number>(xs.length).fill(0)) as [number[], number[], number[]];
  c[0][0] = 1;
  let before = 1;
  let arm = xs[0] - x;
  for (let i = 1; i < xs.length; i++) {
    let product = 1;
    const last = arm;
    arm = xs[i] - x;
    for (let j = 0; j < i; j++) {
      const gap = xs[i] - xs[j];
      product *= gap;
      if (j === i - 1) for (let m = 2; m >= 0; m--) c[m][i] = (before * ((m ? m * c[m - 1][j] : 0) - last * c[m][j])) / product;
      for (let m = 2; m >= 0; m--) c[m][j] = (arm * c[m][j] - (m ? m * c[m - 1][j] : 0)) / gap;
    }
    before = product;
  }
  return c;
}
