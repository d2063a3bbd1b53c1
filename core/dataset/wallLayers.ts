import { CELL_KINDS, type Grid } from "./grid.ts";
import { type GridFaces, sidesOf } from "./gridFaces.ts";
import type { LayerWalk } from "./layerWalk.ts";
import { MOST_LAYERS } from "./metrics.ts";

/** How many cells lie between each cell in space and the outside: 0 of those that have a face there; NaN of cells that are not in space. */
export function layersFromOutside({ kinds }: Grid, faces: GridFaces): Float64Array {
  const layer = new Float64Array(kinds.length).fill(Number.NaN);
  const { start, faces: own } = sidesOf(kinds.length, faces);
  let front: number[] = [];
  for (let f = 0; f < faces.owner.length; f++) {
    const c = faces.owner[f];
    if (faces.neighbour[f] >= 0 || layer[c] === 0) continue;
    layer[c] = 0;
    front.push(c);
  }
  for (let n = 1; front.length; n++) {
    const next: number[] = [];
    for (const c of front)
      for (let k = start[c]; k < start[c + 1]; k++) {
        const f = own[k];
        const other = faces.owner[f] === c ? faces.neighbour[f] : faces.owner[f];
        if (other < 0 || layer[other] >= 0) continue;
        layer[other] = n;
        next.push(other);
      }
    front = next;
  }
  return layer;
}

/** Layers of cells on the outside of a grid, by the cell that touches it. NaN of cells that do not, or that have no face opposite to the outside. */
export interface WallLayers {
  /** distance of the cell's middle from the plane of its face outside, doubled: the height of the first cell */
  readonly height: Float64Array;
  /** cells that follow one another inwards, each entered by the face opposite to the one before, as long as heights change by less than a factor of two */
  readonly layers: Float64Array;
  /** largest ratio of the heights of two that follow one another, the greater over the lesser */
  readonly growth: Float64Array;
}

/** change of height at which the layers end */
const STEP = 2;

/**
 * Heights, number and growth of the layers of cells along the outside. A cell with several faces outside counts by the one it is thinnest along; the
 * face opposite to one is the one that shares no corner with it.
 * @param middles of the cells
 * @param counts whether a face outside counts
 */
export function wallLayers(walk: LayerWalk, middles: Float64Array, counts: (face: number) => boolean = () => true): WallLayers {
  const { grid, faces } = walk;
  const n = grid.kinds.length;
  const [height, layers, growth] = [0, 1, 2].map(() => new Float64Array(n).fill(Number.NaN));
  for (let f = 0; f < faces.owner.length; f++) {
    if (faces.neighbour[f] >= 0 || !counts(f)) continue;
    const c = faces.owner[f];
    if (CELL_KINDS[grid.kinds[c]].dimension !== 3) continue;
    const { normal, middle } = walk.plane(f);
    const h = 2 * Math.abs([0, 1, 2].reduce((s, d) => s + normal[d] * (middles[3 * c + d] - middle[d]), 0));
    if (height[c] <= h) continue;
    const stack = inwards(walk, f, normal);
    if (!stack) continue;
    height[c] = h;
    layers[c] = stack.layers;
    growth[c] = stack.growth;
  }
  return { height, layers, growth };
}

/** Heights along a direction from a face inwards. */
function inwards(walk: LayerWalk, from: number, normal: readonly number[]): { readonly layers: number; readonly growth: number } | undefined {
  let [cell, face, at, last, layers, growth] = [walk.faces.owner[from], from, walk.level(from, normal), 0, 0, 1];
  while (cell >= 0 && layers < MOST_LAYERS) {
    const out = walk.opposite(cell, face);
    if (out < 0) break;
    const level = walk.level(out, normal);
    const h = Math.abs(level - at);
    const ratio = last > 0 ? Math.max(h / last, last / h) : 1;
    if (!(ratio < STEP)) break;
    growth = Math.max(growth, ratio);
    layers++;
    last = h;
    at = level;
    face = out;
    cell = walk.across(cell, out);
  }
  return layers ? { layers, growth } : undefined;
}
