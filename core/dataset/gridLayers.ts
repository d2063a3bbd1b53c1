import { select } from "../numeric/select.ts";
import { namesOfOutside } from "./boundaries.ts";
import type { Grid } from "./grid.ts";
import type { GridFaces } from "./gridFaces.ts";
import { LayerWalk } from "./layerWalk.ts";
import { wallLayers } from "./wallLayers.ts";

export interface Spread {
  readonly least: number;
  readonly median: number;
  readonly greatest: number;
}

/** A cell by its number, and where its middle is. */
export interface PlacedCell {
  readonly cell: number;
  readonly at: readonly [number, number, number];
}

/** Layers of cells along one named part of the outside, or along all of it. */
export interface LayersAlong {
  /** as the file names it; empty for the outside as a whole */
  readonly name: string;
  /** faces there, and cells that touch them */
  readonly faces: number;
  readonly cells: number;
  /** of these cells how many begin a layer: their face there has one opposite; what follows is of these alone */
  readonly layered: number;
  /** of the first cell, in the grid's unit */
  readonly height?: Spread;
  readonly layers?: Spread;
  readonly growth?: Spread;
  readonly thinnest?: PlacedCell;
  readonly steepest?: PlacedCell;
}

/** Layers along each part of the outside the file names, else along all of it. @param middles of the cells */
export function gridLayers(grid: Grid, faces: GridFaces, middles: Float64Array): LayersAlong[] {
  const { owner, neighbour } = faces;
  const { names, of } = namesOfOutside(grid, faces);
  const walk = new LayerWalk(grid, faces);
  const numbers = names.length ? [...names.keys()] : [-1];
  return numbers.flatMap((number): LayersAlong[] => {
    const counts = (f: number) => neighbour[f] < 0 && of[f] === number;
    const touching = new Set<number>();
    let count = 0;
    for (let f = 0; f < owner.length; f++)
      if (counts(f)) {
        count++;
        touching.add(owner[f]);
      }
    if (!count) return [];
    const { height, layers, growth } = wallLayers(walk, middles, counts);
    const layered = Int32Array.from(touching).filter((c) => layers[c] > 0);
    const along = { name: names[number] ?? "", faces: count, cells: touching.size, layered: layered.length };
    if (!layered.length) return [along];
    const placed = (c: number): PlacedCell => ({ cell: c, at: [middles[3 * c], middles[3 * c + 1], middles[3 * c + 2]] });
    const first = (better: (a: number, b: number) => boolean) => placed(layered.reduce((best, c) => (better(c, best) ? c : best)));
    return [
      {
        ...along,
        height: spreadOf(layered, height),
        layers: spreadOf(layered, layers),
        growth: spreadOf(layered, growth),
        thinnest: first((a, b) => height[a] < height[b]),
        steepest: first((a, b) => growth[a] > growth[b]),
      },
    ];
  });
}

function spreadOf(cells: Int32Array, values: Float64Array): Spread {
  const own = Float64Array.from(cells, (c) => values[c]);
  const [least, greatest] = [own.reduce((a, b) => Math.min(a, b)), own.reduce((a, b) => Math.max(a, b))];
  return { least, median: select(own, Math.floor(own.length / 2)), greatest };
}
