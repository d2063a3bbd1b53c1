import type { FaceMesh } from "../../mesh/faceMesh.ts";
import type { FaceGeometry } from "../discrete/flowGeometry.ts";

/** Pairs of cells whose differences make the slopes, in the layout of a geometry's joins. */
export type Neighbourhood = Pick<FaceGeometry, "cells" | "joins" | "faces" | "owner" | "neighbour" | "dx" | "dy">;

const TRIANGLE = 3;

/**
 * Cells that share a face; where there are triangles, also those that share a corner. Slopes from three neighbours alone let second-order
 * reconstruction grow without bounds.
 * @source Haider, Croisille & Courbet, Numer. Math. 113 (2009) 555.
 */
export function gasNeighbourhood(mesh: FaceMesh, g: FaceGeometry): Neighbourhood {
  const { cellStart, cellPoints, centroidM, cellCount } = mesh;
  let triangles = false;
  for (let c = 0; c < cellCount && !triangles; c++) triangles = cellStart[c + 1] - cellStart[c] === TRIANGLE;
  if (!triangles) return g;
  const around = new Map<number, number[]>();
  for (let c = 0; c < cellCount; c++) {
    for (let k = cellStart[c]; k < cellStart[c + 1]; k++) {
      const cells = around.get(cellPoints[k]);
      if (cells) cells.push(c);
      else around.set(cellPoints[k], [c]);
    }
  }
  const key = (a: number, b: number) => Math.min(a, b) * cellCount + Math.max(a, b);
  const known = new Set<number>();
  const [owner, neighbour] = [[], []] as [number[], number[]];
  const [dx, dy] = [[], []] as [number[], number[]];
  for (let f = 0; f < g.joins; f++) {
    known.add(key(g.owner[f], g.neighbour[f]));
    owner.push(g.owner[f]);
    neighbour.push(g.neighbour[f]);
    dx.push(g.dx[f]);
    dy.push(g.dy[f]);
  }
  for (const cells of around.values()) {
    cells.forEach((a, i) => {
      for (const b of cells.slice(i + 1)) {
        if (known.has(key(a, b))) continue;
        known.add(key(a, b));
        owner.push(a);
        neighbour.push(b);
        dx.push(centroidM[2 * b] - centroidM[2 * a]);
        dy.push(centroidM[2 * b + 1] - centroidM[2 * a + 1]);
      }
    });
  }
  return {
    cells: g.cells,
    joins: owner.length,
    faces: owner.length,
    owner: Int32Array.from(owner),
    neighbour: Int32Array.from(neighbour),
    dx: Float64Array.from(dx),
    dy: Float64Array.from(dy),
  };
}
