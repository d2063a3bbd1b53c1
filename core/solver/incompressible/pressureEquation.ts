import { type BoundaryState, OUTLET } from "../discrete/boundaryConditions.ts";
import { type FlowGeometry, leastSquaresFactors } from "../discrete/flowGeometry.ts";
import { gradient } from "../discrete/gradient.ts";
import type { Pair } from "../kernels/kernels.ts";
import { AggregationMultigrid } from "../multigrid/aggregationMultigrid.ts";

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
  /** how far a cell's velocity follows a pressure slope: volume over its momentum diagonal, set by whoever relaxes momentum */
  readonly mobility: Float64Array;
  private readonly matrix: Float64Array;
  private readonly solver: AggregationMultigrid;
  private readonly factors: Float64Array;
  private readonly faceMobility: Float64Array;
  private readonly gradient: Pair;
  private readonly slope: Pair;
  private readonly correction: Float64Array;
  private readonly correctionBoundary: Float64Array;
  private readonly imbalance: Float64Array;

  constructor(
    private readonly geometry: FlowGeometry,
    private readonly boundary: BoundaryState,
    private readonly outletFaces: readonly number[],
  ) {
    const { cells, faces, joins, pattern, arena, conductance } = geometry;
    const cell = () => arena.float64(cells);
    [this.mobility, this.correction, this.imbalance] = Array.from({ length: 3 }, cell);
    [this.gradient, this.slope] = Array.from({ length: 2 }, (): Pair => [cell(), cell()]);
    this.faceMobility = arena.float64(faces);
    this.matrix = arena.float64(pattern.column.length);
    this.correctionBoundary = new Float64Array(faces - joins);
    this.factors = leastSquaresFactors(geometry, (f) => boundary.type[f - joins] === OUTLET, arena);
    this.fill(conductance);
    this.solver = new AggregationMultigrid(pattern, this.matrix, !boundary.hasOutlet, arena);
  }

  private fill(coefficient: Float64Array): void {
    const { owner, pattern, arena } = this.geometry;
    const a = this.matrix.fill(0);
    arena.kernels.assembleSymmetric(this.geometry, coefficient, a);
    for (const f of this.outletFaces) a[pattern.diagonal[owner[f]]] += coefficient[f];
  }

  /**
   * Conservative (Green-Gauss) gradient of pressure from face values that least-squares slopes correct for skewness.
   * Boundary pressures other than outlets' are extrapolated on the way.
   */
  gradientOf(p: Float64Array, pb: Float64Array, out: Pair, correction = false): void {
    const g = this.geometry;
    const { joins, faces, owner, sx, sy, volume } = g;
    const type = this.boundary.type;
    const [hx, hy] = this.slope;
    if (correction) for (const f of this.outletFaces) pb[f - joins] = 0;
    gradient(g, this.factors, p, pb, this.slope);
    const [gx, gy] = out;
    gx.fill(0);
    gy.fill(0);
    g.arena.kernels.pressureFaces(g, p, this.slope, out);
    for (let f = joins; f < faces; f++) {
      const o = owner[f];
      const b = f - joins;
      if (type[b] !== OUTLET) pb[b] = p[o] + hx[o] * g.ox[f] + hy[o] * g.oy[f];
      gx[o] += pb[b] * sx[f];
      gy[o] += pb[b] * sy[f];
    }
    // A uniform pressure pushes a revolved cell away from the axis by its hoop area alone.
    if (g.hoop) for (let c = 0; c < g.cells; c++) gy[c] -= p[c] * g.hoop[c];
    g.arena.kernels.dividePair(volume, out);
  }

  /** Sum of |net flux| over the cells, m^2/s. */
  imbalanceOf(flux: Float64Array): number {
    const { joins, faces, owner, arena } = this.geometry;
    const r = this.imbalance.fill(0);
    arena.kernels.subtractOutflow(this.geometry, flux, r);
    for (let f = joins; f < faces; f++) r[owner[f]] -= flux[f];
    return arena.kernels.sumAbsolute(r);
  }

  private solve(tolerance: number, iterations: number): void {
    const { owner, conductance, arena } = this.geometry;
    const { mobility, faceMobility } = this;
    arena.kernels.faceMobilities(this.geometry, mobility, faceMobility);
    for (const f of this.outletFaces) faceMobility[f] = mobility[owner[f]] * conductance[f];
    this.fill(faceMobility);
    this.solver.refresh();
    this.correction.fill(0);
    this.solver.solve(this.imbalance, this.correction, tolerance, iterations);
  }

  private correctionSlopes(): void {
    this.gradientOf(this.correction, this.correctionBoundary, this.gradient, true);
  }

  /** The part of the corrected flux that the matrix does not see, where faces are oblique: into the fluxes and the imbalance. */
  private moveOblique(flux: Float64Array): void {
    const { joins, owner, neighbour, weight, conductance, tx, ty } = this.geometry;
    const [gx, gy] = this.gradient;
    for (let f = 0; f < joins; f++) {
      const o = owner[f];
      const n = neighbour[f];
      const w = weight[f];
      if (conductance[f] === 0) continue;
      const part = (this.faceMobility[f] / conductance[f]) * ((w * gx[o] + (1 - w) * gx[n]) * tx[f] + (w * gy[o] + (1 - w) * gy[n]) * ty[f]);
      flux[f] -= part;
      this.imbalance[o] += part;
      this.imbalance[n] -= part;
    }
  }

  private correctFluxes(flux: Float64Array): void {
    const { owner, arena } = this.geometry;
    const { correction, faceMobility } = this;
    arena.kernels.correctFluxes(this.geometry, faceMobility, correction, flux);
    for (const f of this.outletFaces) flux[f] += faceMobility[f] * correction[owner[f]];
  }

  /**
   * One correction of fluxes, velocities and pressure; where no outlet fixes the pressure, its mean is kept at nothing.
   * @returns the sum of |net flux| before it, m^2/s
   */
  correct({ u, v, p, flux }: Corrected): number {
    const before = this.imbalanceOf(flux);
    this.solve(TOLERANCE, ITERATIONS);
    this.correctionSlopes();
    if (this.geometry.skewed) {
      this.moveOblique(flux);
      this.solver.solve(this.imbalance, this.correction, TOLERANCE, ITERATIONS);
      this.correctionSlopes();
    }
    this.correctFluxes(flux);
    const { volume, arena } = this.geometry;
    arena.kernels.correctCells(this.correction, this.mobility, this.gradient, p, [u, v]);
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
    const [gx, gy] = this.gradient;
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
      if (!this.boundary.hasOutlet) takeAverage(this.imbalance);
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

/** Takes the average of all entries off each. */
function takeAverage(q: Float64Array): void {
  let mean = 0;
  for (const v of q) mean += v / q.length;
  for (let c = 0; c < q.length; c++) q[c] -= mean;
}
