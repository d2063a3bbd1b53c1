import { type Arena, plainArena } from "../kernels/arena.ts";
import type { SparsePattern } from "../kernels/arrays.ts";
import type { SmootherRows } from "../kernels/kernels.ts";

interface Level extends SmootherRows {
  readonly work: readonly Float64Array[];
  /** aggregate of each unknown, and the coarse entry each entry is added to; absent on the coarsest level */
  aggregate?: Int32Array;
  coarseEntry?: Int32Array;
}

const COARSEST_SIZE = 40;
const STRONG = 0.25;

function level(arena: Arena, size: number, p: Pick<Level, "rowStart" | "column" | "diagonal">, values: Float64Array): Level {
  const vector = () => arena.float64(size);
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
function collapse(arena: Arena, l: Pick<Level, "size" | "rowStart" | "column">, aggregate: Int32Array, count: number) {
  const members: number[][] = Array.from({ length: count }, () => []);
  for (let i = 0; i < l.size; i++) members[aggregate[i]].push(i);
  const rowStart = arena.int32(count + 1);
  const diagonal = arena.int32(count);
  const coarseEntry = arena.int32(l.rowStart[l.size]);
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
  const column = arena.int32(columns.length);
  column.set(columns);
  return { rowStart, column, diagonal, coarseEntry };
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
    private readonly arena: Arena = plainArena(),
  ) {
    let current = level(arena, pattern.size, pattern, values);
    this.levels.push(current);
    while (current.size > COARSEST_SIZE) {
      const next = this.coarsen(current);
      if (next.size > 0.8 * current.size) break;
      this.levels.push(next);
      current = next;
    }
    delete current.aggregate;
    this.coarseFactor = new Float64Array(current.size ** 2);
    [this.residual, this.previous, this.direction, this.image] = [0, 1, 2, 3].map(() => arena.float64(pattern.size));
    this.refresh();
  }

  private coarsen(fine: Level): Level {
    const first = pairUp(fine);
    const { arena } = this;
    const half = collapse(plainArena(), fine, first.aggregate, first.count);
    const halfValues = new Float64Array(half.column.length);
    arena.kernels.sumEntries(fine.values, half.coarseEntry, halfValues);
    const second = pairUp({ size: first.count, rowStart: half.rowStart, column: half.column, values: halfValues });
    const aggregate = arena.int32(fine.size);
    for (let i = 0; i < fine.size; i++) aggregate[i] = second.aggregate[first.aggregate[i]];
    const quarter = collapse(arena, fine, aggregate, second.count);
    fine.aggregate = aggregate;
    fine.coarseEntry = quarter.coarseEntry;
    const values = arena.float64(quarter.column.length);
    arena.kernels.sumEntries(fine.values, quarter.coarseEntry, values);
    return level(arena, second.count, quarter, values);
  }

  /** Takes over the present contents of the finest values' array. */
  refresh(): void {
    for (let l = 0; l + 1 < this.levels.length; l++)
      this.arena.kernels.sumEntries(this.levels[l].values, this.levels[l].coarseEntry as Int32Array, this.levels[l + 1].values.fill(0));
    for (const l of this.levels) this.arena.kernels.invertDiagonal(l.diagonal.subarray(0, l.size), l.values, l.inverse);
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
    const aggregate = l.aggregate as Int32Array;
    const coarse = this.levels[index + 1];
    this.arena.kernels.smoothDown(l, aggregate, coarse.b.fill(0));
    if (index + 2 === this.levels.length) this.cycle(index + 1);
    else this.krylovCycle(index + 1);
    this.arena.kernels.smoothUp(l, aggregate, coarse.x);
  }

  /** Two flexible conjugate gradient steps preconditioned by `cycle`. */
  private krylovCycle(index: number): void {
    const l = this.levels[index];
    const { x, b } = l;
    const { multiply, dot, addScaled } = this.arena.kernels;
    const [c, ac, ax, keep] = l.work;
    keep.set(b);
    this.cycle(index);
    c.set(x);
    multiply(l, l.values, c, ac);
    const rho = dot(c, ac);
    if (!(rho > 0)) return;
    const norm = dot(b, b);
    const t = dot(c, b) / rho;
    addScaled(-t, ac, b);
    let c1 = t;
    let c2 = 0;
    if (dot(b, b) >= 0.0625 * norm) {
      this.cycle(index);
      multiply(l, l.values, x, ax);
      const gamma = dot(x, ac);
      const rho2 = dot(x, ax) - (gamma * gamma) / rho;
      if (rho2 > 1e-300) {
        c2 = dot(x, b) / rho2;
        c1 = t - (gamma * c2) / rho;
      }
    }
    this.arena.kernels.scale(x, c2);
    addScaled(c1, c, x);
    b.set(keep);
  }

  /**
   * Improves x until the residual has fallen by `tolerance` or `maxIterations` are spent.
   * @returns iterations used
   */
  solve(b: Float64Array, x: Float64Array, tolerance: number, maxIterations: number): number {
    const top = this.levels[0];
    const { residual: r, previous, direction: p, image: ap } = this;
    const z = top.x;
    const { multiply, subtractProduct, dot, addScaled, scaleAndAdd } = this.arena.kernels;
    r.set(b);
    subtractProduct(top, top.values, x, r);
    const start = dot(r, r);
    if (start === 0) return 0;
    let lastRz = 1;
    for (let iteration = 1; iteration <= maxIterations; iteration++) {
      top.b.set(r);
      this.cycle(0);
      const rz = dot(r, z);
      const beta = iteration === 1 ? 0 : (rz - dot(z, previous)) / lastRz;
      lastRz = rz;
      if (iteration === 1) p.set(z);
      else scaleAndAdd(z, beta, p);
      multiply(top, top.values, p, ap);
      const pap = dot(p, ap);
      if (!(pap > 0)) return iteration;
      const step = rz / pap;
      previous.set(r);
      addScaled(step, p, x);
      addScaled(-step, ap, r);
      if (!(dot(r, r) > tolerance * tolerance * start)) return iteration;
    }
    return maxIterations;
  }
}
