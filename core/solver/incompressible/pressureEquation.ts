import { type BoundaryState, OUTLET } from "../discrete/boundaryConditions.ts";
import { type FlowGeometry, leastSquaresFactors, type PairsOfCells } from "../discrete/flowGeometry.ts";
import { gradient } from "../discrete/gradient.ts";
import { addSymmetric } from "../discrete/sparse.ts";
import type { ObliqueFaces } from "../kernels/arrays.ts";
import type { Pair } from "../kernels/kernels.ts";
import { AggregationMultigrid } from "../multigrid/aggregationMultigrid.ts";
import { EdgeSlopes } from "./edgeSlopes.ts";
import { type LevelScratch, levelScratch, scratchRoom } from "./levelScratch.ts";

const TOLERANCE = 0.05;
const ITERATIONS = 10;
/** tight corrections of the fluxes at the end of a run, at most */
const CLOSING_PASSES = 2;

/** The fields a pressure correction changes. */
interface Corrected {
  readonly u: Float64Array;
  readonly v: Float64Array;
  /** pressure over density, m^2/s^2 */
  readonly p: Float64Array;
  /** volume flux through every face, outward from its owner, m^2/s */
  readonly flux: Float64Array;
}

/**
 * The equation that makes the face fluxes of a level free of sources: its matrix and solver, the slopes of pressures,
 * and what the solution does to fluxes, velocities and pressure.
 */
export class PressureEquation {
  private readonly solver: AggregationMultigrid;
  /** least-squares factors of oblique meshes; slopes along the boundaries are enough on straight ones */
  private readonly factors: Float64Array | undefined;
  private readonly edges: EdgeSlopes | undefined;
  private readonly correctionBoundary: Float64Array;

  constructor(
    private readonly geometry: FlowGeometry,
    private readonly boundary: BoundaryState,
    private readonly outletFaces: readonly number[],
    private readonly scratch: LevelScratch = levelScratch(scratchRoom(geometry), geometry),
  ) {
    const { faces, joins, pattern, arena, conductance, owner, oblique } = geometry;
    this.correctionBoundary = new Float64Array(faces - joins);
    if (oblique) this.factors = leastSquaresFactors(waysOf(geometry, oblique), (f) => boundary.type[f - joins] === OUTLET, arena);
    else this.edges = new EdgeSlopes(geometry, boundary.type);
    const a = scratch.matrix.fill(0);
    addSymmetric(geometry, conductance, a);
    for (const f of outletFaces) a[pattern.diagonal[owner[f]]] += conductance[f];
    this.solver = new AggregationMultigrid(pattern, a, !boundary.hasOutlet, arena, scratch.solver);
  }

  /** how far a cell's velocity follows a pressure slope: volume over its momentum diagonal, set by whoever relaxes momentum */
  get mobility(): Float64Array {
    return this.scratch.mobility;
  }

  /**
   * Conservative (Green-Gauss) gradient of pressure from face values that least-squares slopes correct for skewness.
   * Boundary pressures other than outlets' are extrapolated on the way.
   */
  gradientOf(p: Float64Array, pb: Float64Array, out: Pair, correction = false): void {
    const g = this.geometry;
    const { joins, faces, owner, sx, sy, volume } = g;
    if (correction) for (const f of this.outletFaces) pb[f - joins] = 0;
    this.extend(p, pb);
    const [gx, gy] = out;
    gx.fill(0);
    gy.fill(0);
    g.arena.kernels.pressureFaces(g, p, this.scratch.slope, out);
    for (let f = joins; f < faces; f++) {
      gx[owner[f]] += pb[f - joins] * sx[f];
      gy[owner[f]] += pb[f - joins] * sy[f];
    }
    // A uniform pressure pushes a revolved cell away from the axis by its hoop area alone.
    if (g.hoop) for (let c = 0; c < g.cells; c++) gy[c] -= p[c] * g.hoop[c];
    g.arena.kernels.dividePair(volume, out);
  }

  /** Carries a pressure on to all boundaries but outlets, by least-squares slopes, which on oblique meshes are left for every cell. */
  private extend(p: Float64Array, pb: Float64Array): void {
    const { joins, faces, owner, rim } = this.geometry;
    if (this.edges) {
      this.edges.extend(p, pb);
      return;
    }
    const [hx, hy] = this.scratch.slope;
    gradient(this.geometry, this.factors as Float64Array, p, pb, this.scratch.slope);
    for (let f = joins; f < faces; f++) {
      const b = f - joins;
      const o = owner[f];
      if (this.boundary.type[b] !== OUTLET) pb[b] = p[o] + hx[o] * rim.dx[b] + hy[o] * rim.dy[b];
    }
  }

  /** Sum of |net flux| over the cells, m^2/s. */
  imbalanceOf(flux: Float64Array): number {
    const { joins, faces, owner, arena } = this.geometry;
    const r = this.scratch.imbalance.fill(0);
    arena.kernels.subtractOutflow(this.geometry, flux, r);
    for (let f = joins; f < faces; f++) r[owner[f]] -= flux[f];
    return arena.kernels.sumAbsolute(r);
  }

  private solve(tolerance: number, iterations: number): void {
    const { owner, conductance, arena, pattern } = this.geometry;
    const { mobility, face, matrix, correction } = this.scratch;
    arena.kernels.pressureMatrix(this.geometry, mobility, face, matrix.fill(0));
    for (const f of this.outletFaces) {
      face[f] = mobility[owner[f]] * conductance[f];
      matrix[pattern.diagonal[owner[f]]] += face[f];
    }
    this.solver.refresh();
    correction.fill(0);
    this.improve(tolerance, iterations);
  }

  private improve(tolerance: number, iterations: number): void {
    this.solver.solve(this.scratch.imbalance, this.scratch.correction, tolerance, iterations);
  }

  private correctionSlopes(): void {
    this.gradientOf(this.scratch.correction, this.correctionBoundary, this.scratch.gradient, true);
  }

  private correctFluxes(flux: Float64Array): void {
    const { owner, arena } = this.geometry;
    const { correction, face } = this.scratch;
    arena.kernels.correctFluxes(this.geometry, face, correction, flux);
    for (const f of this.outletFaces) flux[f] += face[f] * correction[owner[f]];
  }

  /**
   * One correction of fluxes, velocities and pressure; where no outlet fixes the pressure, its mean is kept at nothing.
   * @returns the sum of |net flux| before it, m^2/s
   */
  correct({ u, v, p, flux }: Corrected): number {
    const before = this.imbalanceOf(flux);
    this.solve(TOLERANCE, ITERATIONS);
    this.correctionSlopes();
    const { oblique, corrected, volume, arena } = this.geometry;
    if (oblique && corrected) {
      const { face, gradient, imbalance } = this.scratch;
      arena.kernels.obliqueFluxes(this.geometry, face, gradient, flux, imbalance);
      this.improve(TOLERANCE, ITERATIONS);
      this.correctionSlopes();
    }
    this.correctFluxes(flux);
    arena.kernels.correctCells(this.scratch.correction, this.mobility, this.scratch.gradient, p, [u, v]);
    if (!this.boundary.hasOutlet) arena.kernels.takeMean(p, volume);
    return before;
  }

  /** The nearest fluxes and velocities free of sources; the pressure is left as it is. */
  project({ u, v, flux }: Corrected): void {
    this.mobility.fill(1);
    this.imbalanceOf(flux);
    this.solve(1e-12, 80);
    this.correctionSlopes();
    this.correctFluxes(flux);
    const [gx, gy] = this.scratch.gradient;
    for (let c = 0; c < this.geometry.cells; c++) {
      u[c] -= gx[c];
      v[c] -= gy[c];
    }
    this.close(flux);
  }

  /** Closes the mass of every cell to round-off by a last, tightly solved correction of the fluxes alone. */
  close(flux: Float64Array): void {
    let before = this.imbalanceOf(flux);
    for (let pass = 0; pass < CLOSING_PASSES && before > 0; pass++) {
      // Between walls nothing can take up what rounding makes of the sum: sought all the same, it would grow until it covers the rest.
      if (!this.boundary.hasOutlet) takeAverage(this.scratch.imbalance);
      const kept = flux.slice();
      this.solve(1e-13, 60);
      this.correctFluxes(flux);
      const after = this.imbalanceOf(flux);
      if (!(after < before)) {
        flux.set(kept);
        return;
      }
      before = after;
    }
  }
}

/** The ways from cell to cell, and to the boundary faces behind them. */
function waysOf({ cells, joins, faces, owner, neighbour, rim }: FlowGeometry, { dx, dy }: ObliqueFaces): PairsOfCells {
  const whole = (inside: Float64Array, behind: Float64Array) => {
    const all = new Float64Array(faces);
    all.set(inside);
    all.set(behind, joins);
    return all;
  };
  return { cells, joins, faces, owner, neighbour, dx: whole(dx, rim.dx), dy: whole(dy, rim.dy) };
}

/** Takes the average of all entries off each. */
function takeAverage(q: Float64Array): void {
  let mean = 0;
  for (const v of q) mean += v / q.length;
  for (let c = 0; c < q.length; c++) q[c] -= mean;
}
