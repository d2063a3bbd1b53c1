// The preconditioner of the pressure solver, in single precision: what it gets wrong by rounding, the iteration around it in double precision mends.
// The compiled twin is in single.as.ts.

type Singles = Float32Array;
const { fround } = Math;

/** One level of a hierarchy: its matrix, and the vectors a cycle works in. */
export interface HierarchyLevel {
  readonly size: number;
  readonly rowStart: Int32Array;
  readonly column: Int32Array;
  readonly diagonal: Int32Array;
  readonly values: Singles;
  readonly inverse: Singles;
  readonly x: Singles;
  readonly b: Singles;
  /** four vectors for Krylov steps; none on the finest level, which is prepared by one cycle */
  readonly work: readonly Singles[];
  /** aggregate of each unknown, and the coarse entry each entry is added to; absent on the coarsest level */
  readonly aggregate?: Int32Array;
  readonly coarseEntry?: Int32Array;
}

/** Levels finest first, and Cholesky's factor of the coarsest as a full matrix. */
export interface Hierarchy {
  readonly levels: readonly HierarchyLevel[];
  readonly factor: Float64Array;
  /** nothing holds the level of the solution */
  readonly singular: boolean;
}

/** A forward sweep from zero; what is left over is added to the coarser right-hand side. */
function smoothDown({ size, rowStart, column, diagonal, values, inverse, aggregate, b, x }: HierarchyLevel, coarse: Singles): void {
  const less = (start: number, k0: number, k1: number) => {
    let s = start;
    for (let k = k0; k < k1; k++) s = fround(s - fround(values[k] * x[column[k]]));
    return s;
  };
  const to = aggregate as Int32Array;
  coarse.fill(0);
  for (let i = 0; i < size; i++) x[i] = less(b[i], rowStart[i], diagonal[i]) * inverse[i];
  // After a forward sweep from zero the residual is minus the upper part times x.
  for (let i = 0; i < size; i++) coarse[to[i]] += less(0, diagonal[i] + 1, rowStart[i + 1]);
}

/** Adds the coarser solution, then sweeps backward. */
function smoothUp({ size, rowStart, column, diagonal, values, inverse, aggregate, b, x }: HierarchyLevel, coarse: Singles): void {
  const from = aggregate as Int32Array;
  for (let i = 0; i < size; i++) x[i] += coarse[from[i]];
  for (let i = size - 1; i >= 0; i--) {
    let s = b[i];
    for (let k = rowStart[i]; k < diagonal[i]; k++) s = fround(s - fround(values[k] * x[column[k]]));
    for (let k = rowStart[i + 1] - 1; k > diagonal[i]; k--) s = fround(s - fround(values[k] * x[column[k]]));
    x[i] = s * inverse[i];
  }
}

function multiply({ size, rowStart, column, values }: HierarchyLevel, x: Singles, y: Singles): void {
  for (let i = 0; i < size; i++) {
    let s = 0;
    for (let k = rowStart[i]; k < rowStart[i + 1]; k++) s = fround(s + fround(values[k] * x[column[k]]));
    y[i] = s;
  }
}

/** Sums of products are taken in double precision. */
function dot(x: Singles, y: Singles): number {
  let sum = 0;
  for (let i = 0; i < x.length; i++) sum += x[i] * y[i];
  return sum;
}

function addScaled(a: number, x: Singles, y: Singles): void {
  const factor = fround(a);
  for (let i = 0; i < x.length; i++) y[i] += fround(factor * x[i]);
}

/** Two flexible conjugate gradient steps prepared by `cycle`. */
function krylov(h: Hierarchy, l: number): void {
  const level = h.levels[l];
  const { x, b, work } = level;
  const [c, ac, ax, keep] = work;
  keep.set(b);
  cycle(h, l);
  c.set(x);
  multiply(level, c, ac);
  const rho = dot(c, ac);
  if (!(rho > 0)) return;
  const norm = dot(b, b);
  const t = dot(c, b) / rho;
  addScaled(-t, ac, b);
  let c1 = t;
  let c2 = 0;
  if (dot(b, b) >= 0.0625 * norm) {
    cycle(h, l);
    multiply(level, x, ax);
    const gamma = dot(x, ac);
    const rho2 = dot(x, ax) - (gamma * gamma) / rho;
    if (rho2 > 1e-300) {
      c2 = dot(x, b) / rho2;
      c1 = t - (gamma * c2) / rho;
    }
  }
  const kept = fround(c2);
  for (let i = 0; i < x.length; i++) x[i] *= kept;
  addScaled(c1, c, x);
  b.set(keep);
}

function solveCoarsest({ x, b }: HierarchyLevel, a: Float64Array): void {
  const n = x.length;
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

function cycle(h: Hierarchy, l: number): void {
  const level = h.levels[l];
  const last = h.levels.length - 1;
  if (l === last) {
    solveCoarsest(level, h.factor);
    return;
  }
  const coarse = h.levels[l + 1];
  smoothDown(level, coarse.b);
  if (l + 1 === last) cycle(h, l + 1);
  else krylov(h, l + 1);
  smoothUp(level, coarse.x);
}

/** x ~ A^-1 b on the finest level, from zero. */
export function precondition(h: Hierarchy): void {
  cycle(h, 0);
}

/** Takes over the values of the finest matrix, sums them over aggregates level by level, and factors the coarsest. */
export function refresh(h: Hierarchy, values: Float64Array): void {
  h.levels[0].values.set(values);
  h.levels.forEach((level, l) => {
    const { size, values: own, diagonal, inverse, coarseEntry } = level;
    const sums = h.levels[l + 1]?.values.fill(0);
    if (sums && coarseEntry) for (let k = 0; k < coarseEntry.length; k++) sums[coarseEntry[k]] += own[k];
    for (let i = 0; i < size; i++) inverse[i] = 1 / own[diagonal[i]];
  });
  factorCoarsest(h.levels[h.levels.length - 1], h.factor.fill(0), h.singular);
}

function factorCoarsest({ size: n, rowStart, column, values }: HierarchyLevel, a: Float64Array, singular: boolean): void {
  let largest = 0;
  for (let i = 0; i < n; i++) {
    for (let k = rowStart[i]; k < rowStart[i + 1]; k++) a[i * n + column[k]] = values[k];
    largest = Math.max(largest, a[i * n + i]);
  }
  // Fixing the level by a rank-one constant keeps the spectrum; a small diagonal shift would ruin the convergence.
  if (singular) for (let k = 0; k < n * n; k++) a[k] += largest / n;
  for (let j = 0; j < n; j++) {
    let d = a[j * n + j];
    for (let k = 0; k < j; k++) d -= a[j * n + k] * a[j * n + k];
    d = Math.sqrt(Math.max(d, 1e-14 * largest));
    a[j * n + j] = d;
    for (let i = j + 1; i < n; i++) {
      let s = a[i * n + j];
      for (let k = 0; k < j; k++) s -= a[i * n + k] * a[j * n + k];
      a[i * n + j] = s / d;
    }
  }
}
