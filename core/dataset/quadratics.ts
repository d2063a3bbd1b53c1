import { type FaceMesh, faceShift, neighbourStarts } from "../mesh/faceMesh.ts";

/** Second moments of every cell about its centroid over its area: [xx, xy, yy, ...], m^2. */
export function secondMoments({ pointsM, cellStart, cellPoints, cellCount, centroidM }: CellShapes): Float64Array {
  const out = new Float64Array(3 * cellCount);
  for (let c = 0; c < cellCount; c++) {
    const [x0, y0] = [centroidM[2 * c], centroidM[2 * c + 1]];
    let [area, xx, xy, yy] = [0, 0, 0, 0];
    for (let k = cellStart[c]; k < cellStart[c + 1]; k++) {
      const a = 2 * cellPoints[k];
      const b = 2 * cellPoints[k + 1 < cellStart[c + 1] ? k + 1 : cellStart[c]];
      const [ax, ay, bx, by] = [pointsM[a] - x0, pointsM[a + 1] - y0, pointsM[b] - x0, pointsM[b + 1] - y0];
      const cross = ax * by - bx * ay;
      area += cross / 2;
      xx += (cross * (ax * ax + ax * bx + bx * bx)) / 12;
      yy += (cross * (ay * ay + ay * by + by * by)) / 12;
      xy += (cross * (2 * ax * ay + ax * by + bx * ay + 2 * bx * by)) / 24;
    }
    out[3 * c] = xx / area;
    out[3 * c + 1] = xy / area;
    out[3 * c + 2] = yy / area;
  }
  return out;
}

/** What is asked of a mesh here: its corners and which cells touch. */
export type CellShapes = Pick<
  FaceMesh,
  "pointsM" | "cellStart" | "cellPoints" | "cellCount" | "centroidM" | "owner" | "neighbour" | "joinCount" | "periodic" | "volumeM2" | "hoopM2"
>;

/** Neighbours of every cell through faces, with what they are displaced by across periodic pairs. */
interface Around {
  readonly start: Int32Array;
  readonly cell: Int32Array;
  readonly shift: Float64Array;
}

function neighbours(mesh: CellShapes): Around {
  const { joinCount, owner, neighbour } = mesh;
  const start = neighbourStarts(mesh);
  const next = start.slice();
  const cell = new Int32Array(2 * joinCount);
  const shift = new Float64Array(4 * joinCount);
  const firstPeriodic = Math.min(joinCount, ...mesh.periodic.map((p) => p.firstJoin));
  for (let f = 0; f < joinCount; f++) {
    const [sx, sy] = f < firstPeriodic ? [0, 0] : faceShift(mesh, f);
    const out = next[owner[f]]++;
    const back = next[neighbour[f]]++;
    cell[out] = neighbour[f];
    cell[back] = owner[f];
    shift[2 * out] = sx;
    shift[2 * out + 1] = sy;
    shift[2 * back] = -sx;
    shift[2 * back + 1] = -sy;
  }
  return { start, cell, shift };
}

const TERMS = 5;
/** neighbours below which a further ring of them is taken */
const FEWEST = 8;
const MOST_RINGS = 4;
const MOST_NEAR = 96;
/** what keeps a stencil that lies on one line solvable, over the mean of the diagonal */
const RIDGE = 1e-10;

/**
 * Quadratic polynomials whose averages over the cells around fit theirs best, and over the cell itself exactly: of third order from cell averages on
 * any mesh. Coefficients of a cell, about its centroid: slopes along x and y, then the second derivatives xx, xy, yy.
 * @param fields averages over the cells
 * @returns for each field 5 numbers a cell
 * @source Barth & Frederickson, AIAA 90-0013 (1990): k-exact reconstruction; two rings of neighbours, weights 1/d^2.
 */
export function quadratics(mesh: CellShapes, fields: readonly Float64Array[], moments = secondMoments(mesh)): Float64Array[] {
  const { cellCount } = mesh;
  const around = neighbours(mesh);
  const out = fields.map(() => new Float64Array(TERMS * cellCount));
  const stencil = new Stencil(around, cellCount);
  const rows = new Float64Array(TERMS * MOST_NEAR);
  const weight = new Float64Array(MOST_NEAR);
  const normal = new Float64Array(TERMS * TERMS);
  const right = new Float64Array(TERMS);
  for (let c = 0; c < cellCount; c++) {
    const n = stencil.gather(c);
    const [sx, sy] = fillRows(mesh, moments, c, stencil, n, rows, weight);
    factor(rows, weight, n, normal);
    for (let q = 0; q < fields.length; q++) {
      const values = fields[q];
      right.fill(0);
      for (let k = 0; k < n; k++) {
        const d = weight[k] * (values[stencil.cell[k]] - values[c]);
        for (let i = 0; i < TERMS; i++) right[i] += rows[TERMS * k + i] * d;
      }
      solve(normal, right);
      const at = TERMS * c;
      out[q][at] = right[0] / sx;
      out[q][at + 1] = right[1] / sy;
      out[q][at + 2] = right[2] / (sx * sx);
      out[q][at + 3] = right[3] / (sx * sy);
      out[q][at + 4] = right[4] / (sy * sy);
    }
  }
  return out;
}

/** Cells around a cell, ring by ring. */
class Stencil {
  readonly cell = new Int32Array(MOST_NEAR);
  readonly shiftX = new Float64Array(MOST_NEAR);
  readonly shiftY = new Float64Array(MOST_NEAR);
  /** the cell that took another into its stencil last, counted from 1 */
  private readonly taken: Int32Array;

  constructor(
    private readonly around: Around,
    cellCount: number,
  ) {
    this.taken = new Int32Array(cellCount);
  }

  /** @returns how many were found */
  gather(c: number): number {
    this.taken[c] = c + 1;
    let found = this.add(c, 0, 0, 0, c + 1);
    let from = 0;
    for (let ring = 1; ring < MOST_RINGS && (ring < 2 || found < FEWEST); ring++) {
      const to = found;
      for (let k = from; k < to; k++) found = this.add(this.cell[k], this.shiftX[k], this.shiftY[k], found, c + 1);
      from = to;
    }
    return found;
  }

  /** Neighbours of a cell that were not taken yet. */
  private add(centre: number, x: number, y: number, found: number, mark: number): number {
    const { start, cell, shift } = this.around;
    for (let j = start[centre]; j < start[centre + 1] && found < MOST_NEAR; j++) {
      const other = cell[j];
      if (this.taken[other] === mark) continue;
      this.taken[other] = mark;
      this.cell[found] = other;
      this.shiftX[found] = x + shift[2 * j];
      this.shiftY[found] = y + shift[2 * j + 1];
      found++;
    }
    return found;
  }
}

/** Rows of the least-squares problem in lengths of the stencil along x and y, so that flat cells are no worse than square ones. */
function fillRows(
  { centroidM }: CellShapes,
  moments: Float64Array,
  c: number,
  { cell, shiftX, shiftY }: Stencil,
  n: number,
  rows: Float64Array,
  weight: Float64Array,
): [number, number] {
  let [sx, sy] = [0, 0];
  for (let k = 0; k < n; k++) {
    const o = cell[k];
    const dx = centroidM[2 * o] - centroidM[2 * c] + shiftX[k];
    const dy = centroidM[2 * o + 1] - centroidM[2 * c + 1] + shiftY[k];
    rows[TERMS * k] = dx;
    rows[TERMS * k + 1] = dy;
    sx += dx * dx;
    sy += dy * dy;
  }
  const least = 1e-12 * Math.sqrt(sx + sy) + 1e-300;
  sx = Math.max(least, Math.sqrt(sx / Math.max(1, n)));
  sy = Math.max(least, Math.sqrt(sy / Math.max(1, n)));
  const own = 3 * c;
  for (let k = 0; k < n; k++) {
    const at = TERMS * k;
    const other = 3 * cell[k];
    const [x, y] = [rows[at] / sx, rows[at + 1] / sy];
    weight[k] = 1 / (x * x + y * y + 1e-12);
    rows[at] = x;
    rows[at + 1] = y;
    rows[at + 2] = (x * x + (moments[other] - moments[own]) / (sx * sx)) / 2;
    rows[at + 3] = x * y + (moments[other + 1] - moments[own + 1]) / (sx * sy);
    rows[at + 4] = (y * y + (moments[other + 2] - moments[own + 2]) / (sy * sy)) / 2;
  }
  return [sx, sy];
}

/** Cholesky factor of the normal equations, lower triangle. */
function factor(rows: Float64Array, weight: Float64Array, n: number, a: Float64Array): void {
  a.fill(0);
  for (let k = 0; k < n; k++)
    for (let i = 0; i < TERMS; i++) {
      const w = weight[k] * rows[TERMS * k + i];
      for (let j = 0; j <= i; j++) a[TERMS * i + j] += w * rows[TERMS * k + j];
    }
  let trace = 0;
  for (let i = 0; i < TERMS; i++) trace += a[TERMS * i + i];
  const ridge = (RIDGE * trace) / TERMS + 1e-300;
  for (let i = 0; i < TERMS; i++) {
    a[TERMS * i + i] += ridge;
    for (let j = 0; j <= i; j++) {
      let s = a[TERMS * i + j];
      for (let k = 0; k < j; k++) s -= a[TERMS * i + k] * a[TERMS * j + k];
      a[TERMS * i + j] = i === j ? Math.sqrt(Math.max(s, ridge)) : s / a[TERMS * j + j];
    }
  }
}

function solve(a: Float64Array, b: Float64Array): void {
  for (let i = 0; i < TERMS; i++) {
    for (let k = 0; k < i; k++) b[i] -= a[TERMS * i + k] * b[k];
    b[i] /= a[TERMS * i + i];
  }
  for (let i = TERMS - 1; i >= 0; i--) {
    for (let k = i + 1; k < TERMS; k++) b[i] -= a[TERMS * k + i] * b[k];
    b[i] /= a[TERMS * i + i];
  }
}
