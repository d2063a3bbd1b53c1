import { OUTLET } from "../discrete/boundaryConditions.ts";
import { type FlowGeometry, leastSquaresFactors } from "../discrete/flowGeometry.ts";

/**
 * Least-squares slopes of a pressure in the cells along the boundaries of a straight mesh, where alone they are needed: to carry the pressure on
 * to the boundary. Outlets' pressures take part; neighbours are where area over conductance leads.
 */
export class EdgeSlopes {
  /** cells along the boundaries, and which of them each boundary face belongs to */
  private readonly cells: Int32Array;
  private readonly cellOfFace: Int32Array;
  /** of each difference: which of those cells it counts for, the cell across, and its two factors, 1/m */
  private readonly place: Int32Array;
  private readonly across: Int32Array;
  private readonly factor: Float64Array;
  /** the same of outlets' faces */
  private readonly outlets: readonly { readonly place: number; readonly b: number; readonly x: number; readonly y: number }[];
  private readonly slope: Float64Array;

  constructor(
    private readonly g: FlowGeometry,
    private readonly type: Uint8Array,
  ) {
    const { joins, faces, owner, neighbour, sx, sy, conductance, rim } = g;
    const placeOf = new Map<number, number>();
    for (let f = joins; f < faces; f++) if (!placeOf.has(owner[f])) placeOf.set(owner[f], placeOf.size);
    this.cells = Int32Array.from(placeOf.keys());
    this.cellOfFace = Int32Array.from(owner.subarray(joins), (c) => placeOf.get(c) as number);
    const near: number[] = [];
    for (let f = 0; f < joins; f++) if (placeOf.has(owner[f]) || placeOf.has(neighbour[f])) near.push(f);
    const all = Int32Array.from([...near, ...Array.from({ length: faces - joins }, (_, b) => joins + b)]);
    const way = (s: Float64Array, d: Float64Array) => Float64Array.from(all, (f) => (f < joins ? s[f] / conductance[f] : d[f - joins]));
    const pairs = {
      cells: g.cells,
      joins: near.length,
      faces: all.length,
      owner: Int32Array.from(all, (f) => owner[f]),
      neighbour: Int32Array.from(near, (f) => neighbour[f]),
      dx: way(sx, rim.dx),
      dy: way(sy, rim.dy),
    };
    const isOutlet = (f: number) => type[all[f] - joins] === OUTLET;
    const factors = leastSquaresFactors(pairs, isOutlet);
    const differences = near.flatMap((f, k) => [
      [owner[f], neighbour[f], factors[4 * k], factors[4 * k + 1]],
      // Seen from the neighbour, the difference changes its sign and so do the factors.
      [neighbour[f], owner[f], -factors[4 * k + 2], -factors[4 * k + 3]],
    ]);
    const used = differences.filter(([cell]) => placeOf.has(cell));
    this.place = Int32Array.from(used, ([cell]) => placeOf.get(cell) as number);
    this.across = Int32Array.from(used, ([, other]) => other);
    this.factor = Float64Array.from(used.flatMap(([, , x, y]) => [x, y]));
    this.outlets = Array.from({ length: faces - joins }, (_, b) => b)
      .filter((b) => type[b] === OUTLET)
      .map((b) => {
        const at = 4 * (near.length + b);
        return { place: this.cellOfFace[b], b, x: factors[at], y: factors[at + 1] };
      });
    this.slope = new Float64Array(2 * this.cells.length);
  }

  /** Carries a pressure on to all boundary faces but outlets'. */
  extend(p: Float64Array, pb: Float64Array): void {
    const { cells, place, across, factor, cellOfFace, slope, type } = this;
    const { dx, dy } = this.g.rim;
    slope.fill(0);
    for (let k = 0; k < place.length; k++) {
      const c = place[k];
      const d = p[across[k]] - p[cells[c]];
      slope[2 * c] += factor[2 * k] * d;
      slope[2 * c + 1] += factor[2 * k + 1] * d;
    }
    for (const { place: c, b, x, y } of this.outlets) {
      const d = pb[b] - p[cells[c]];
      slope[2 * c] += x * d;
      slope[2 * c + 1] += y * d;
    }
    for (let b = 0; b < cellOfFace.length; b++) {
      if (type[b] === OUTLET) continue;
      const c = cellOfFace[b];
      pb[b] = p[cells[c]] + slope[2 * c] * dx[b] + slope[2 * c + 1] * dy[b];
    }
  }
}
