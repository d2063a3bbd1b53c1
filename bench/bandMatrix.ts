/** A square matrix with as many diagonals below the main one as above, solved in place by elimination with the largest pivot of each column. */
export class BandMatrix {
  private readonly width: number;
  private readonly values: Float64Array;

  constructor(
    readonly size: number,
    readonly reach: number,
  ) {
    // Rows change places, so that they may come to reach twice as far to the right.
    this.width = 3 * reach + 1;
    this.values = new Float64Array(size * this.width);
  }

  clear(): void {
    this.values.fill(0);
  }

  add(row: number, column: number, value: number): void {
    this.values[row * this.width + column - row + this.reach] += value;
  }

  /**
   * Solves for b, which becomes the solution; the matrix is used up.
   * @throws {Error} A column without a pivot.
   */
  solve(b: Float64Array): void {
    const { size, reach, width, values } = this;
    const at = (row: number, column: number) => row * width + column - row + reach;
    for (let k = 0; k < size; k++) {
      const last = Math.min(size - 1, k + reach);
      const right = Math.min(size - 1, k + 2 * reach);
      let pivot = k;
      for (let r = k + 1; r <= last; r++) if (Math.abs(values[at(r, k)]) > Math.abs(values[at(pivot, k)])) pivot = r;
      if (values[at(pivot, k)] === 0) throw new Error(`Column ${k} has no pivot.`);
      if (pivot !== k) {
        const [a, c] = [at(k, k), at(pivot, k)];
        for (let j = 0; j <= right - k; j++) [values[a + j], values[c + j]] = [values[c + j], values[a + j]];
        [b[k], b[pivot]] = [b[pivot], b[k]];
      }
      const top = at(k, k);
      const inverse = 1 / values[top];
      const count = right - k;
      for (let r = k + 1; r <= last; r++) {
        const from = at(r, k);
        const factor = values[from] * inverse;
        if (factor === 0) continue;
        for (let j = 1; j <= count; j++) values[from + j] -= factor * values[top + j];
        b[r] -= factor * b[k];
      }
    }
    for (let k = size - 1; k >= 0; k--) {
      const right = Math.min(size - 1, k + 2 * reach);
      let sum = b[k];
      const row = at(k, k);
      for (let j = 1; j <= right - k; j++) sum -= values[row + j] * b[k + j];
      b[k] = sum / values[row];
    }
  }
}
