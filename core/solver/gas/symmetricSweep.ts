import type { GasSpace } from "./gasSpace.ts";

/** over-estimate of the wave speeds in the implicit operator, for safety */
const OVER = 1.05;

/** Faces around every cell in compressed rows: counted from one, negative where a face points into the cell; and the cell across each. */
function facesOfCells(space: GasSpace): { start: Int32Array; faces: Int32Array; others: Int32Array } {
  const { cells, joins, owner, neighbour } = space.geometry;
  const { work } = space;
  const start = work.int32(cells + 1);
  for (let f = 0; f < joins; f++) {
    start[owner[f] + 1]++;
    start[neighbour[f] + 1]++;
  }
  for (let c = 0; c < cells; c++) start[c + 1] += start[c];
  const next = start.slice(0, cells);
  const faces = work.int32(start[cells]);
  const others = work.int32(start[cells]);
  const put = (cell: number, code: number, other: number) => {
    faces[next[cell]] = code;
    others[next[cell]++] = other;
  };
  for (let f = 0; f < joins; f++) {
    put(owner[f], f + 1, neighbour[f]);
    put(neighbour[f], -f - 1, owner[f]);
  }
  return { start, faces, others };
}

/**
 * Approximate inverse of the first-order implicit operator without a stored matrix: a forward and a backward sweep over the cells, each taking
 * what is known of its neighbours so far. Linear, so that a Krylov method may use it.
 * @source Yoon & Jameson, AIAA J. 26 (1988) 1025.
 */
export class SymmetricSweep {
  private readonly rows: ReturnType<typeof facesOfCells>;
  private readonly diagonal: Float64Array;
  private readonly sound: Float64Array;
  /** density, velocity and pressure the operator is taken at */
  private readonly state: Float64Array;

  constructor(private readonly space: GasSpace) {
    this.state = space.work.float64(space.w.length);
    this.rows = facesOfCells(space);
    this.diagonal = space.work.float64(space.geometry.cells);
    this.sound = space.work.float64(space.geometry.cells);
  }

  /** From here on the operator is that of the present state, whatever becomes of it. */
  hold(): void {
    const { work, physics, w } = this.space;
    this.state.set(w);
    work.vectors.soundSpeeds(this.sound, this.state, physics.gas.gamma);
  }

  /**
   * @param rate volume over pseudo time step of every cell, m^2/s
   * @param right right-hand side, four numbers a cell
   * @param out the change that belongs to it
   */
  solve(rate: Float64Array, right: Float64Array, out: Float64Array): void {
    const { waves, faces, work, physics } = this.space;
    const { diagonal, sound, rows, state } = this;
    out.fill(0);
    work.vectors.inverseDiagonal(diagonal, rate, waves, OVER / 2);
    work.vectors.symmetricSweep(diagonal, rows.start, rows.faces, rows.others, faces.normal, state, sound, physics.gas.gamma, OVER, right, out);
  }
}
