import { multiply, type SparsePattern } from "./sparse.ts";

interface Level {
  readonly size: number;
  readonly rowStart: Int32Array;
  readonly column: Int32Array;
  readonly diagonal: Int32Array;
  readonly values: Float64Array;
  readonly inverse: Float64Array;
  readonly x: Float64Array;
  readonly b: Float64Array;
  readonly work: readonly Float64Array[];
  /** aggregate of each unknown, and the coarse entry each entry is added to; absent on the coarsest level */
  aggregate?: Int32Array;
  coarseEntry?: Int32Array;
}

const COARSEST_SIZE = 40;
const STRONG = 0.25;

function level(size: number, p: Pick<Level, "rowStart" | "column" | "diagonal">, values: Float64Array): Level {
  const vector = () => new Float64Array(size);
  return {
    size,
    rowStart: p.rowStart,
    column: p.column,
    diagonal: p.diagonal,
    values,
    inverse: vector(),
    x: vector(),
    b: vector(),
    work: [vector(), vector(), vector(), vector()],
  };
}

/** Pairs each unknown with the free neighbour it is most strongly coupled to. */
function pairUp(l: Pick<Level, "size" | "rowStart" | "column" | "values">): { aggregate: Int32Array; count: number } {
  const aggregate = new Int32Array(l.size).fill(-1);
  let count = 0;
  for (let i = 0; i < l.size; i++) {
    if (aggregate[i] >= 0) continue;
    let partner = -1;
    let partnerStrength = 0;
    let strongest = 0;
    for (let k = l.rowStart[i]; k < l.rowStart[i + 1]; k++) {
      const j = l.column[k];
      if (j === i) continue;
      const strength = -l.values[k];
      strongest = Math.max(strongest, strength);
      if (aggregate[j] < 0 && strength > partnerStrength) {
        partnerStrength = strength;
        partner = j;
      }
    }
    if (partner >= 0 && partnerStrength >= STRONG * strongest) aggregate[partner] = count;
    aggregate[i] = count++;
  }
  return { aggregate, count };
}

/** Pattern of the matrix summed over aggregates, and where each fine entry goes. */
function collapse(l: Pick<Level, "size" | "rowStart" | "column">, aggregate: Int32Array, count: number) {
  const members: number[][] = Array.from({ length: count }, () => []);
  for (let i = 0; i < l.size; i++) members[aggregate[i]].push(i);
  const rowStart = new Int32Array(count + 1);
  const diagonal = new Int32Array(count);
  const coarseEntry = new Int32Array(l.rowStart[l.size]);
  const columns: number[] = [];
  const place = new Int32Array(count).fill(-1);
  for (let c = 0; c < count; c++) {
    const row = new Set<number>([c]);
    for (const i of members[c]) for (let k = l.rowStart[i]; k < l.rowStart[i + 1]; k++) row.add(aggregate[l.column[k]]);
    const sorted = [...row].sort((a, b) => a - b);
    sorted.forEach((value, q) => {
      place[value] = rowStart[c] + q;
      columns.push(value);
    });
    diagonal[c] = place[c];
    rowStart[c + 1] = rowStart[c] + sorted.length;
    for (const i of members[c]) for (let k = l.rowStart[i]; k < l.rowStart[i + 1]; k++) coarseEntry[k] = place[aggregate[l.column[k]]];
  }
  return { rowStart, column: Int32Array.from(columns), diagonal, coarseEntry };
}

function sumEntries(fine: Float64Array, coarseEntry: Int32Array, coarse: Float64Array): void {
  coarse.fill(0);
  for (let k = 0; k < coarseEntry.length; k++) coarse[coarseEntry[k]] += fine[k];
}

/**
 * Conjugate gradients preconditioned by aggregation multigrid for symmetric M-matrices of a cell graph.
 * The aggregates are chosen once from the values given at construction; `refresh` takes new values of the same pattern cheaply.
 * @source Notay, Electron. Trans. Numer. Anal. 37 (2010) 123-146: pairwise aggregation with a K-cycle.
 */
export class AggregationMultigrid {
  private readonly levels: Level[] = [];
  private readonly coarseFactor: Float64Array;
  private readonly residual: Float64Array;
  private readonly previous: Float64Array;
  private readonly direction: Float64Array;
  private readonly image: Float64Array;

  /** @param singular nothing holds the level: the solution is found up to a constant */
  constructor(
    pattern: SparsePattern,
    values: Float64Array,
    private readonly singular: boolean,
  ) {
    let current = level(pattern.size, pattern, values);
    this.levels.push(current);
    while (current.size > COARSEST_SIZE) {
      const next = this.coarsen(current);
      if (next.size > 0.8 * current.size) break;
      this.levels.push(next);
      current = next;
    }
    delete current.aggregate;
    this.coarseFactor = new Float64Array(current.size ** 2);
    [this.residual, this.previous, this.direction, this.image] = [0, 1, 2, 3].map(() => new Float64Array(pattern.size));
    this.refresh();
  }

  private coarsen(fine: Level): Level {
    const first = pairUp(fine);
    const half = collapse(fine, first.aggregate, first.count);
    const halfValues = new Float64Array(half.column.length);
    sumEntries(fine.values, half.coarseEntry, halfValues);
    const second = pairUp({ size: first.count, rowStart: half.rowStart, column: half.column, values: halfValues });
    const aggregate = first.aggregate.map((a) => second.aggregate[a]);
    const quarter = collapse(fine, aggregate, second.count);
    fine.aggregate = aggregate;
    fine.coarseEntry = quarter.coarseEntry;
    const values = new Float64Array(quarter.column.length);
    sumEntries(fine.values, quarter.coarseEntry, values);
    return level(second.count, quarter, values);
  }

  /** Takes over the present contents of the finest values' array. */
  refresh(): void {
    for (let l = 0; l + 1 < this.levels.length; l++)
      sumEntries(this.levels[l].values, this.levels[l].coarseEntry as Int32Array, this.levels[l + 1].values);
    for (const l of this.levels) for (let i = 0; i < l.size; i++) l.inverse[i] = 1 / l.values[l.diagonal[i]];
    this.factorCoarsest();
  }

  private factorCoarsest(): void {
    const l = this.levels[this.levels.length - 1];
    const n = l.size;
    const a = this.coarseFactor.fill(0);
    let largest = 0;
    for (let i = 0; i < n; i++) {
      for (let k = l.rowStart[i]; k < l.rowStart[i + 1]; k++) a[i * n + l.column[k]] = l.values[k];
      largest = Math.max(largest, a[i * n + i]);
    }
    // Fixing the level by a rank-one constant keeps the spectrum; a small diagonal shift would ruin the convergence.
    if (this.singular) for (let k = 0; k < n * n; k++) a[k] += largest / n;
    for (let j = 0; j < n; j++) {
      let d = a[j * n + j];
      for (let k = 0; k < j; k++) d -= a[j * n + k] ** 2;
      d = Math.sqrt(Math.max(d, 1e-14 * largest));
      a[j * n + j] = d;
      for (let i = j + 1; i < n; i++) {
        let s = a[i * n + j];
        for (let k = 0; k < j; k++) s -= a[i * n + k] * a[j * n + k];
        a[i * n + j] = s / d;
      }
    }
  }

  private solveCoarsest(l: Level): void {
    const n = l.size;
    const a = this.coarseFactor;
    const { x, b } = l;
    for (let i = 0; i < n; i++) {
      let s = b[i];
      for (let k = 0; k < i; k++) s -= a[i * n + k] * x[k];
      x[i] = s / a[i * n + i];
    }
    for (let i = n - 1; i >= 0; i--) {
      let s = x[i];
      for (let k = i + 1; k < n; k++) s -= a[k * n + i] * x[k];
      x[i] = s / a[i * n + i];
    }
  }

  /** x ~ A^-1 b on a level, from zero. */
  private cycle(index: number): void {
    const l = this.levels[index];
    if (index === this.levels.length - 1) {
      this.solveCoarsest(l);
      return;
    }
    const { size, rowStart, column, values, diagonal, inverse, x, b } = l;
    const aggregate = l.aggregate as Int32Array;
    for (let i = 0; i < size; i++) {
      let s = b[i];
      const end = diagonal[i];
      for (let k = rowStart[i]; k < end; k++) s -= values[k] * x[column[k]];
      x[i] = s * inverse[i];
    }
    // After a forward sweep from zero the residual is minus the upper part times x.
    const coarse = this.levels[index + 1];
    coarse.b.fill(0);
    for (let i = 0; i < size; i++) {
      let s = 0;
      const end = rowStart[i + 1];
      for (let k = diagonal[i] + 1; k < end; k++) s -= values[k] * x[column[k]];
      coarse.b[aggregate[i]] += s;
    }
    if (index + 2 === this.levels.length) this.cycle(index + 1);
    else this.krylovCycle(index + 1);
    for (let i = 0; i < size; i++) x[i] += coarse.x[aggregate[i]];
    for (let i = size - 1; i >= 0; i--) {
      let s = b[i];
      const end = rowStart[i + 1];
      for (let k = rowStart[i]; k < end; k++) s -= values[k] * x[column[k]];
      x[i] += s * inverse[i];
    }
  }

  /** Two flexible conjugate gradient steps preconditioned by `cycle`. */
  private krylovCycle(index: number): void {
    const l = this.levels[index];
    const { size, x, b } = l;
    const [c, ac, ax, keep] = l.work;
    keep.set(b);
    this.cycle(index);
    c.set(x);
    multiply(l, l.values, c, ac);
    let rho = 0;
    let alpha = 0;
    let norm = 0;
    for (let i = 0; i < size; i++) {
      rho += c[i] * ac[i];
      alpha += c[i] * b[i];
      norm += b[i] * b[i];
    }
    if (!(rho > 0)) return;
    const t = alpha / rho;
    let left = 0;
    for (let i = 0; i < size; i++) {
      b[i] -= t * ac[i];
      left += b[i] * b[i];
    }
    let c1 = t;
    let c2 = 0;
    if (left >= 0.0625 * norm) {
      this.cycle(index);
      multiply(l, l.values, x, ax);
      let gamma = 0;
      let beta = 0;
      let alpha2 = 0;
      for (let i = 0; i < size; i++) {
        gamma += x[i] * ac[i];
        beta += x[i] * ax[i];
        alpha2 += x[i] * b[i];
      }
      const rho2 = beta - (gamma * gamma) / rho;
      if (rho2 > 1e-300) {
        c2 = alpha2 / rho2;
        c1 = t - (gamma * alpha2) / (rho * rho2);
      }
    }
    for (let i = 0; i < size; i++) {
      x[i] = c1 * c[i] + c2 * x[i];
      b[i] = keep[i];
    }
  }

  /**
   * Improves x until the residual has fallen by `tolerance` or `maxIterations` are spent.
   * @returns iterations used
   */
  solve(b: Float64Array, x: Float64Array, tolerance: number, maxIterations: number): number {
    const top = this.levels[0];
    const { residual: r, previous, direction: p, image: ap } = this;
    const z = top.x;
    const n = top.size;
    multiply(top, top.values, x, ap);
    let start = 0;
    for (let i = 0; i < n; i++) {
      r[i] = b[i] - ap[i];
      start += r[i] * r[i];
    }
    if (start === 0) return 0;
    p.fill(0);
    previous.fill(0);
    let lastRz = 1;
    for (let iteration = 1; iteration <= maxIterations; iteration++) {
      top.b.set(r);
      this.cycle(0);
      let rz = 0;
      let zPrevious = 0;
      for (let i = 0; i < n; i++) {
        rz += r[i] * z[i];
        zPrevious += z[i] * previous[i];
      }
      const beta = iteration === 1 ? 0 : (rz - zPrevious) / lastRz;
      lastRz = rz;
      for (let i = 0; i < n; i++) p[i] = z[i] + beta * p[i];
      multiply(top, top.values, p, ap);
      let pap = 0;
      for (let i = 0; i < n; i++) pap += p[i] * ap[i];
      if (!(pap > 0)) return iteration;
      const step = rz / pap;
      let now = 0;
      for (let i = 0; i < n; i++) {
        previous[i] = r[i];
        x[i] += step * p[i];
        r[i] -= step * ap[i];
        now += r[i] * r[i];
      }
      if (!(now > tolerance * tolerance * start)) return iteration;
    }
    return maxIterations;
  }
}
