import { insertionSort } from "../discrete/sparse.ts";
import { type Arena, plainArena } from "../kernels/arena.ts";
import type { SparsePattern } from "../kernels/arrays.ts";
import type { Hierarchy, HierarchyLevel } from "../kernels/kernels.ts";

/** While it is being built. */
type Level = HierarchyLevel & { aggregate?: Int32Array; coarseEntry?: Int32Array };

const COARSEST_SIZE = 40;
const STRONG = 0.25;

/** @param finest is prepared by one cycle, without Krylov steps of its own */
function level(arena: Arena, { rowStart, column, diagonal }: Pick<Level, "rowStart" | "column" | "diagonal">, finest = false): Level {
  const size = diagonal.length;
  const vector = () => arena.float32(size);
  const work = finest ? [] : [vector(), vector(), vector(), vector()];
  return { size, rowStart, column, diagonal, values: arena.float32(column.length), inverse: vector(), x: vector(), b: vector(), work };
}

/** Pairs each unknown with the free neighbour it is most strongly coupled to. */
function pairUp(l: Pick<Level, "size" | "rowStart" | "column"> & { readonly values: ArrayLike<number> }): { aggregate: Int32Array; count: number } {
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
  const { start, members } = membersOf(aggregate, count);
  const rowStart = arena.int32(count + 1);
  const diagonal = arena.int32(count);
  const coarseEntry = arena.int32(l.rowStart[l.size]);
  const columns = new Int32Array(l.rowStart[l.size]);
  // Where a column stands in the present row; what stands there from earlier rows lies before this one's start.
  const place = new Int32Array(count).fill(-1);
  let kept = 0;
  for (let c = 0; c < count; c++) {
    const first = kept;
    const see = (column: number) => {
      if (place[column] >= first) return;
      place[column] = kept;
      columns[kept++] = column;
    };
    see(c);
    for (let m = start[c]; m < start[c + 1]; m++) {
      const i = members[m];
      for (let k = l.rowStart[i]; k < l.rowStart[i + 1]; k++) see(aggregate[l.column[k]]);
    }
    insertionSort(columns.subarray(first, kept));
    for (let k = first; k < kept; k++) place[columns[k]] = k;
    diagonal[c] = place[c];
    rowStart[c + 1] = kept;
    for (let m = start[c]; m < start[c + 1]; m++) {
      const i = members[m];
      for (let k = l.rowStart[i]; k < l.rowStart[i + 1]; k++) coarseEntry[k] = place[aggregate[l.column[k]]];
    }
  }
  const column = arena.int32(kept);
  column.set(columns.subarray(0, kept));
  return { rowStart, column, diagonal, coarseEntry };
}

/** Members of each aggregate, one aggregate after another. */
function membersOf(aggregate: Int32Array, count: number): { start: Int32Array; members: Int32Array } {
  const start = new Int32Array(count + 1);
  for (const a of aggregate) start[a + 1]++;
  for (let c = 0; c < count; c++) start[c + 1] += start[c];
  const next = start.slice(0, count);
  const members = new Int32Array(aggregate.length);
  for (let i = 0; i < aggregate.length; i++) members[next[aggregate[i]]++] = i;
  return { start, members };
}

/**
 * Conjugate gradients preconditioned by aggregation multigrid for symmetric M-matrices of a cell graph.
 * The aggregates are chosen once from the values given at construction; `refresh` takes new values of the same pattern cheaply.
 * The preconditioner works in single precision, scaled by the first residual: the iteration around it sees none of its rounding.
 * @source Notay, Electron. Trans. Numer. Anal. 37 (2010) 123-146: pairwise aggregation with a K-cycle.
 */
export class AggregationMultigrid {
  private readonly hierarchy: Hierarchy;
  private readonly residual: Float64Array;
  private readonly previous: Float64Array;
  private readonly direction: Float64Array;
  private readonly image: Float64Array;
  private readonly dots: Float64Array;

  /**
   * @param singular nothing holds the level: the solution is found up to a constant
   * @param room four vectors to work in, of which nothing is read before it is written
   */
  constructor(
    pattern: SparsePattern,
    private readonly values: Float64Array,
    singular: boolean,
    private readonly arena: Arena = plainArena(),
    room: readonly Float64Array[] = Array.from({ length: 4 }, () => arena.float64(pattern.size)),
  ) {
    [this.residual, this.previous, this.direction, this.image] = room;
    this.dots = arena.float64(2);
    let current = level(arena, pattern, true);
    let coefficients: ArrayLike<number> = values;
    const levels = [current];
    while (current.size > COARSEST_SIZE) {
      const { next, sums } = this.coarsen(current, coefficients);
      if (next.size > 0.8 * current.size) break;
      levels.push(next);
      current = next;
      coefficients = sums;
    }
    delete current.aggregate;
    delete current.coarseEntry;
    this.hierarchy = { levels, factor: arena.float64(current.size ** 2), singular };
    this.refresh();
  }

  private coarsen(fine: Level, values: ArrayLike<number>): { next: Level; sums: Float64Array } {
    const first = pairUp({ ...fine, values });
    const { arena } = this;
    const half = collapse(plainArena(), fine, first.aggregate, first.count);
    const halfValues = summed(values, half.coarseEntry, half.column.length);
    const second = pairUp({ size: first.count, rowStart: half.rowStart, column: half.column, values: halfValues });
    const aggregate = arena.int32(fine.size);
    for (let i = 0; i < fine.size; i++) aggregate[i] = second.aggregate[first.aggregate[i]];
    const quarter = collapse(arena, fine, aggregate, second.count);
    fine.aggregate = aggregate;
    fine.coarseEntry = quarter.coarseEntry;
    return { next: level(arena, quarter), sums: summed(values, quarter.coarseEntry, quarter.column.length) };
  }

  /** Takes over the present contents of the finest values' array. */
  refresh(): void {
    this.arena.kernels.refresh(this.hierarchy, this.values);
  }

  /**
   * Improves x until the residual has fallen by `tolerance` or `maxIterations` are spent.
   * @returns iterations used
   */
  solve(b: Float64Array, x: Float64Array, tolerance: number, maxIterations: number): number {
    const top = this.hierarchy.levels[0];
    const { residual: r, previous, direction: p, image: ap, dots, values } = this;
    const { multiplyDot, subtractProduct, dot, descend, toSingle, mixedDots, turnDirection, precondition } = this.arena.kernels;
    r.set(b);
    subtractProduct(top, values, x, r);
    const start = dot(r, r);
    if (start === 0) return 0;
    // One factor for the whole solution: directions then are longer by it and steps shorter.
    const factor = 1 / Math.sqrt(start);
    let lastRz = 1;
    for (let iteration = 1; iteration <= maxIterations; iteration++) {
      toSingle(r, factor, top.b);
      precondition(this.hierarchy);
      const first = iteration === 1;
      mixedDots(top.x, r, first ? r : previous, dots);
      const [rz, overlap] = dots;
      turnDirection(top.x, first ? 0 : (rz - overlap) / lastRz, first ? p.fill(0) : p);
      lastRz = rz;
      const pap = multiplyDot(top, values, p, ap);
      if (!(pap > 0)) return iteration;
      if (!(descend(rz / pap, p, ap, x, r, previous) > tolerance * tolerance * start)) return iteration;
    }
    return maxIterations;
  }
}

/** Entries of a matrix summed over aggregates. */
function summed(values: ArrayLike<number>, coarseEntry: Int32Array, count: number): Float64Array {
  const sums = new Float64Array(count);
  for (let k = 0; k < coarseEntry.length; k++) sums[coarseEntry[k]] += values[k];
  return sums;
}
