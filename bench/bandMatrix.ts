/**
 * A square matrix with as many diagonals below the main one as above, split in place into two triangles in its own order. Pivots are taken as they
 * stand: what that costs in digits a Newton step finds again, and where one vanishes it is told.
 */
export class BandMatrix {
  private readonly width: number;
  private readonly values: Float64Array;

  constructor(
    readonly size: number,
    readonly reach: number,
  ) {
    this.width = 2 * reach + 1;
    this.values = new Float64Array(size * this.width);
  }

  clear(): void {
    this.values.fill(0);
  }

  add(row: number, column: number, value: number): void {
    this.values[this.at(row, column)] += value;
  }

  private at(row: number, column: number): number {
    return row * this.width + column - row + this.reach;
  }

  /**
   * Splits the matrix: what stood in it is used up, and from here on it can be solved for any right-hand side.
   * @throws {Error} A pivot that is nothing.
   */
  split(): void {
    const { size, reach, values } = this;
    // Two columns at a time: each row is read and written half as often.
    for (let k = 0; k < size; k += 2) {
      const last = Math.min(size - 1, k + reach);
      this.eliminate(k, k + 1, last);
      if (k + 1 >= size) break;
      this.pivot(k + 1);
      const below = Math.min(size - 1, k + 1 + reach);
      for (let r = k + 2; r <= below; r++) {
        const from = this.at(r, k);
        // The row just beyond the first column's reach has nothing in it.
        const f = r <= last ? values[from] / values[this.at(k, k)] : 0;
        const g = (values[from + 1] - f * values[this.at(k, k + 1)]) / values[this.at(k + 1, k + 1)];
        if (r <= last) values[from] = f;
        values[from + 1] = g;
        if (f === 0 && g === 0) continue;
        const first = this.at(k, k + 2);
        const second = this.at(k + 1, k + 2);
        const count = Math.min(size - 1, k + reach) - (k + 1);
        for (let j = 0; j < count; j++) values[from + 2 + j] -= f * values[first + j] + g * values[second + j];
        const more = Math.min(size - 1, k + 1 + reach) - (k + 1);
        for (let j = count; j < more; j++) values[from + 2 + j] -= g * values[second + j];
      }
    }
  }

  /** Solves for b, which becomes the solution, once the matrix is split. */
  solve(b: Float64Array): void {
    const { size, reach, values } = this;
    for (let r = 1; r < size; r++) {
      const left = Math.max(0, r - reach);
      const row = this.at(r, left);
      let sum = b[r];
      for (let j = 0; j < r - left; j++) sum -= values[row + j] * b[left + j];
      b[r] = sum;
    }
    for (let k = size - 1; k >= 0; k--) {
      const right = Math.min(size - 1, k + reach);
      const row = this.at(k, k);
      let sum = b[k];
      for (let j = 1; j <= right - k; j++) sum -= values[row + j] * b[k + j];
      b[k] = sum / values[row];
    }
  }

  private pivot(k: number): number {
    const value = this.values[this.at(k, k)];
    if (value === 0) throw new Error(`Pivot ${k} is nothing.`);
    return value;
  }

  /** Takes the column of one pivot out of a single row below it. */
  private eliminate(k: number, r: number, last: number): void {
    const pivot = this.pivot(k);
    if (r > last) return;
    const { size, reach, values } = this;
    const from = this.at(r, k);
    const factor = values[from] / pivot;
    values[from] = factor;
    const top = this.at(k, k);
    for (let j = 1; j <= Math.min(size - 1, k + reach) - k; j++) values[from + j] -= factor * values[top + j];
  }
}
