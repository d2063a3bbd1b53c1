import type { FlowGeometry } from "../discrete/flowGeometry.ts";
import type { Pair } from "../kernels/kernels.ts";

/**
 * What a level writes before it reads it in every step. All levels of a flow share it, the coarse ones its beginnings, and within a level arrays
 * are shared that are never needed at once; names are given below where they are handed out.
 */
export interface LevelScratch {
  /** of momentum, then of each transported quantity, then of the pressure */
  readonly matrix: Float64Array;
  /** one number a face: mobilities of the pressure equation, or fluxes on their way to a coarser level */
  readonly face: Float64Array;
  /** changes of the velocity while it is relaxed, and of a quantity; corrections on their way from a coarser level */
  readonly change: Pair;
  /** slopes of a pressure */
  readonly slope: Pair;
  /** gradient of a pressure correction, or of what a coarser level hands up */
  readonly gradient: Pair;
  /** what the pressure's solver works with; none of it outlives a solution */
  readonly solver: readonly Float64Array[];
  readonly correction: Float64Array;
  readonly imbalance: Float64Array;
  /** how far a cell's velocity follows a pressure slope, from the relaxation of momentum to the correction that follows */
  readonly mobility: Float64Array;
  /** sums over rows */
  readonly sums: Float64Array;
}

const SHARED = 4;
const OWN = 3;

interface Room {
  readonly matrix: Float64Array;
  readonly face: Float64Array;
  readonly cells: readonly Float64Array[];
  readonly sums: Float64Array;
}

/** Room for a level, which coarser ones may share. */
export function scratchRoom({ arena, cells, faces, pattern }: FlowGeometry): Room {
  return {
    matrix: arena.float64(pattern.column.length),
    face: arena.float64(faces),
    cells: Array.from({ length: SHARED + OWN }, () => arena.float64(cells)),
    sums: arena.float64(3),
  };
}

/** The part of a room that a level needs. */
export function levelScratch(room: Room, { cells, faces, pattern }: FlowGeometry): LevelScratch {
  const [a, b, c, d, correction, imbalance, mobility] = room.cells.map((q) => q.subarray(0, cells));
  return {
    matrix: room.matrix.subarray(0, pattern.column.length),
    face: room.face.subarray(0, faces),
    change: [a, b],
    slope: [a, b],
    gradient: [c, d],
    solver: [a, b, c, d],
    correction,
    imbalance,
    mobility,
    sums: room.sums,
  };
}
