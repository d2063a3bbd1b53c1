import type { GasSpace } from "./gasSpace.ts";

/** over-estimate of the wave speeds in the implicit operator, for safety */
const OVER = 1.05;

/** Faces around every cell in compressed rows. */
function facesOfCells(space: GasSpace): { start: Int32Array; list: Int32Array } {
  const { cells, joins, owner, neighbour } = space.geometry;
  const start = new Int32Array(cells + 1);
  for (let f = 0; f < joins; f++) {
    start[owner[f] + 1]++;
    start[neighbour[f] + 1]++;
  }
  for (let c = 0; c < cells; c++) start[c + 1] += start[c];
  const next = start.slice(0, cells);
  const list = new Int32Array(start[cells]);
  for (let f = 0; f < joins; f++) {
    list[next[owner[f]]++] = f;
    list[next[neighbour[f]]++] = f;
  }
  return { start, list };
}

/**
 * Approximate inverse of the first-order implicit operator without a stored matrix: a forward and a backward sweep over the cells, each taking
 * what is known of its neighbours so far. Linear, so that a Krylov method may use it.
 * @source Yoon & Jameson, AIAA J. 26 (1988) 1025.
 */
export class SymmetricSweep {
  private readonly start: Int32Array;
  private readonly list: Int32Array;
  private readonly diagonal: Float64Array;
  private readonly term = new Float64Array(4);

  constructor(private readonly space: GasSpace) {
    ({ start: this.start, list: this.list } = facesOfCells(space));
    this.diagonal = new Float64Array(space.geometry.cells);
  }

  /**
   * @param rate volume over pseudo time step of every cell, m^2/s
   * @param right right-hand side, four numbers a cell
   * @param out the change that belongs to it
   */
  solve(rate: Float64Array, right: Float64Array, out: Float64Array): void {
    const { cells } = this.space.geometry;
    const { waves } = this.space;
    out.fill(0);
    for (let c = 0; c < cells; c++) this.diagonal[c] = 1 / (rate[c] + (OVER / 2) * waves[c]);
    for (let c = 0; c < cells; c++) this.sweepCell(c, right, out);
    for (let c = cells - 1; c >= 0; c--) this.sweepCell(c, right, out);
  }

  private sweepCell(c: number, right: Float64Array, change: Float64Array): void {
    const { owner, neighbour } = this.space.geometry;
    const { w } = this.space;
    const { normal } = this.space.faces;
    const { start, list, term } = this;
    const gamma = this.space.physics.gas.gamma;
    const i = 4 * c;
    let s0 = right[i];
    let s1 = right[i + 1];
    let s2 = right[i + 2];
    let s3 = right[i + 3];
    for (let q = start[c]; q < start[c + 1]; q++) {
      const f = list[q];
      const outward = owner[f] === c;
      const j = 4 * (outward ? neighbour[f] : owner[f]);
      const sign = outward ? 1 : -1;
      const nx = sign * normal[3 * f];
      const ny = sign * normal[3 * f + 1];
      const half = 0.5 * normal[3 * f + 2];
      const wave =
        OVER *
        (Math.abs(0.5 * ((w[i + 1] + w[j + 1]) * nx + (w[i + 2] + w[j + 2]) * ny)) +
          0.5 * (Math.sqrt((gamma * w[i + 3]) / w[i]) + Math.sqrt((gamma * w[j + 3]) / w[j])));
      fluxSlope(term, gamma, w, change, j, nx, ny, wave);
      s0 -= half * term[0];
      s1 -= half * term[1];
      s2 -= half * term[2];
      s3 -= half * term[3];
    }
    const d = this.diagonal[c];
    change[i] = s0 * d;
    change[i + 1] = s1 * d;
    change[i + 2] = s2 * d;
    change[i + 3] = s3 * d;
  }
}

/** Derivative of a cell's flux through a face along a change of its conserved values, less the wave speed times the change. */
function fluxSlope(out: Float64Array, gamma: number, w: Float64Array, change: Float64Array, j: number, nx: number, ny: number, wave: number): void {
  const rho = w[j];
  const u = w[j + 1];
  const v = w[j + 2];
  const p = w[j + 3];
  const a = change[j];
  const b = change[j + 1];
  const c = change[j + 2];
  const e = change[j + 3];
  const kinetic = 0.5 * (u * u + v * v);
  const q = u * nx + v * ny;
  const mass = b * nx + c * ny;
  const dq = (mass - q * a) / rho;
  const dp = (gamma - 1) * (e - u * b - v * c + kinetic * a);
  out[0] = mass - wave * a;
  out[1] = b * q + rho * u * dq + dp * nx - wave * b;
  out[2] = c * q + rho * v * dq + dp * ny - wave * c;
  out[3] = (e + dp) * q + ((gamma / (gamma - 1)) * p + rho * kinetic) * dq - wave * e;
}
