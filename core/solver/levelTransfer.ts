import type { FaceMesh } from "../mesh/faceMesh.ts";
import { coarseInterval, type RectangleMesh } from "../mesh/rectangle.ts";

/** Where the cells and faces of a fine mesh go on a coarser one. */
export interface LevelTransfer {
  /** coarse cell of each fine cell */
  readonly cell: Int32Array;
  /** coarse face of each fine face, -1 inside a coarse cell */
  readonly face: Int32Array;
  /** 1 where the two faces point the same way, else -1 */
  readonly sign: Int8Array;
}

/** Transfer between two rectangles nested by `coarserRectangle`. */
export function nestedTransfer(fine: RectangleMesh, coarse: RectangleMesh): LevelTransfer {
  const nx = fine.xLinesM.length - 1;
  const ny = fine.yLinesM.length - 1;
  const coarseNx = coarse.xLinesM.length - 1;
  const cell = Int32Array.from({ length: fine.cellCount }, (_, c) => coarseInterval(ny, Math.floor(c / nx)) * coarseNx + coarseInterval(nx, c % nx));
  return { cell, ...faceTransfer(fine, coarse, cell) };
}

/** boundary indices a key can tell apart */
const KINDS = 64;

function faceTransfer(fine: FaceMesh, coarse: FaceMesh, cell: Int32Array) {
  // Two cells of a short periodic row meet twice: the periodic meeting has a key of its own.
  const key = (mesh: FaceMesh, f: number, o: number, n: number) => {
    const kind = f >= mesh.joinCount ? 2 + mesh.boundaryOfFace[f - mesh.joinCount] : mesh.periodic && f >= mesh.periodic.faces[0] ? 1 : 0;
    return (o * (coarse.cellCount + 1) + n + 1) * KINDS + kind;
  };
  const found = new Map<number, number>();
  for (let f = 0; f < coarse.faceCount; f++) found.set(key(coarse, f, coarse.owner[f], coarse.neighbour[f]), f);
  const face = new Int32Array(fine.faceCount).fill(-1);
  const sign = new Int8Array(fine.faceCount).fill(1);
  for (let f = 0; f < fine.faceCount; f++) {
    const o = cell[fine.owner[f]];
    const n = f < fine.joinCount ? cell[fine.neighbour[f]] : -1;
    const along = found.get(key(fine, f, o, n));
    if (along !== undefined) {
      face[f] = along;
      continue;
    }
    const against = found.get(key(fine, f, n, o));
    if (against !== undefined) {
      face[f] = against;
      sign[f] = -1;
    }
  }
  return { face, sign };
}
