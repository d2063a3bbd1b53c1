import type { CellBlock, FaceMesh } from "./faceMesh.ts";
import { polygonMesh } from "./polygons.ts";

export type Place = (s: number, t: number) => readonly [xM: number, yM: number];
type Side = "left" | "right" | "bottom" | "top";

/** A patch of rows and columns of quadrilaterals, mapped from the unit square. */
export interface Block {
  /** number of cells along s and t */
  readonly nx: number;
  readonly ny: number;
  /** where the k-th of n lines lies in [0, 1]; it must not depend on n, so that meshes of a family refine one another */
  readonly alongS?: (k: number) => number;
  readonly alongT?: (k: number) => number;
  /** from the unit square, right-handed */
  readonly place: Place;
  /** boundary each side lies on; a side without a name is joined to the block whose points it shares */
  readonly sides: Readonly<Partial<Record<Side, string>>>;
}

const same = (k: number) => k;

/**
 * One face mesh from mapped blocks; points of sides that lie upon one another become one.
 * @throws {RangeError} A block without cells. @throws {MeshError} A folded cell, or blocks whose sides do not match.
 */
export function joinBlocks(
  blocks: readonly Block[],
  periodic?: { readonly names: readonly [string, string]; readonly shiftM: readonly [number, number] }[],
): FaceMesh {
  const xy: number[] = [];
  const shared = new SharedPoints(xy, extent(blocks));
  const cells: number[][] = [];
  const named = new Map<string, string>();
  const structure: CellBlock[] = [];
  for (const block of blocks) {
    const { nx, ny, alongS = same, alongT = same, place } = block;
    if (!(nx >= 1 && ny >= 1)) throw new RangeError(`A block needs at least one cell each way, not ${nx} x ${ny}.`);
    const id = new Int32Array((nx + 1) * (ny + 1));
    const at = (i: number, j: number) => id[j * (nx + 1) + i];
    for (let j = 0; j <= ny; j++) {
      for (let i = 0; i <= nx; i++) {
        const [x, y] = place(alongS(i / nx), alongT(j / ny));
        const rim = i === 0 || j === 0 || i === nx || j === ny;
        id[j * (nx + 1) + i] = rim ? shared.find(x, y) : shared.add(x, y);
      }
    }
    structure.push({ firstCell: cells.length, nx, ny });
    for (let j = 0; j < ny; j++) for (let i = 0; i < nx; i++) cells.push([at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)]);
    const name = (side: Side, a: number, b: number) => {
      const boundary = block.sides[side];
      if (boundary !== undefined) named.set(`${a} ${b}`, boundary);
    };
    for (let i = 0; i < nx; i++) {
      name("bottom", at(i, 0), at(i + 1, 0));
      name("top", at(i + 1, ny), at(i, ny));
    }
    for (let j = 0; j < ny; j++) {
      name("left", at(0, j + 1), at(0, j));
      name("right", at(nx, j), at(nx, j + 1));
    }
  }
  const mesh = polygonMesh({
    pointsM: Float64Array.from(xy),
    cells,
    boundaryOf: (a, b) => named.get(`${a} ${b}`) ?? "unmatched side",
    periodic,
  });
  return { ...mesh, structure };
}

function extent(blocks: readonly Block[]): number {
  const corners = blocks.flatMap(({ place }) => [place(0, 0), place(1, 0), place(0, 1), place(1, 1)]);
  const span = (k: 0 | 1) => Math.max(...corners.map((c) => c[k])) - Math.min(...corners.map((c) => c[k]));
  return Math.max(span(0), span(1));
}

/** Finds points again by place, within a tolerance far below any cell. */
class SharedPoints {
  private readonly bins = new Map<string, number[]>();
  private readonly tolerance: number;

  constructor(
    private readonly xy: number[],
    size: number,
  ) {
    this.tolerance = 1e-9 * size;
  }

  add(x: number, y: number): number {
    this.xy.push(x, y);
    return this.xy.length / 2 - 1;
  }

  find(x: number, y: number): number {
    const i = Math.round(x / this.tolerance / 4);
    const j = Math.round(y / this.tolerance / 4);
    for (let di = -1; di <= 1; di++) {
      for (let dj = -1; dj <= 1; dj++) {
        for (const p of this.bins.get(`${i + di} ${j + dj}`) ?? []) {
          if (Math.hypot(this.xy[2 * p] - x, this.xy[2 * p + 1] - y) < this.tolerance) return p;
        }
      }
    }
    const made = this.add(x, y);
    const key = `${i} ${j}`;
    const bin = this.bins.get(key);
    if (bin) bin.push(made);
    else this.bins.set(key, [made]);
    return made;
  }
}
