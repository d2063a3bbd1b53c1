import { AggregationMultigrid } from "./aggregationMultigrid.ts";
import { type BoundaryConditions, type BoundaryState, boundaryState, FIXED, FlowSetupError, OUTLET, SYMMETRY } from "./boundaryConditions.ts";
import { type FlowGeometry, leastSquaresFactors } from "./flowGeometry.ts";
import { sweepPair } from "./sparse.ts";

/** How the convected value at a face is taken; all but "upwind" are second order. */
export type ConvectionScheme = "upwind" | "central" | "linear-upwind";

/** An isothermal flow of constant properties, in kinematic form. */
export interface FlowPhysics {
  /** m^2/s */
  readonly kinematicViscosity: number;
  /** body force over density, for instance minus a given pressure gradient over density, m/s^2 */
  readonly bodyForce: readonly [number, number];
  readonly boundaries: BoundaryConditions;
}

export interface LevelOptions {
  readonly scheme: ConvectionScheme;
  /** momentum relaxation of the smoother; the answer does not depend on it */
  readonly relaxation: number;
}

/** Residuals of the present fields: see `FlowLevel.evaluate`. */
export interface LevelResiduals {
  xMomentum: number;
  yMomentum: number;
  mass: number;
}

const SWEEPS = 2;
const PRESSURE_TOLERANCE = 0.05;
const PRESSURE_ITERATIONS = 10;

/**
 * Fields and discrete equations of steady incompressible laminar flow on one mesh: collocated, face-based, second order;
 * face fluxes by momentum interpolation with the unrelaxed diagonal, so that the answer does not depend on relaxation.
 * One `smooth` is one SIMPLEC iteration.
 * @source Rhie & Chow, AIAA J. 21 (1983) 1525; Van Doormaal & Raithby, Numer. Heat Transfer 7 (1984) 147;
 * Ferziger & Peric, Computational Methods for Fluid Dynamics.
 */
export class FlowLevel {
  readonly u: Float64Array;
  readonly v: Float64Array;
  /** pressure over density, m^2/s^2 */
  readonly p: Float64Array;
  /** volume flux through every face, outward from its owner, m^2/s */
  readonly flux: Float64Array;
  readonly boundary: BoundaryState;
  readonly outletFaces: readonly number[];
  readonly residuals: LevelResiduals = { xMomentum: 0, yMomentum: 0, mass: 0 };
  /** unrelaxed momentum residual of each cell after `evaluate` */
  readonly ru: Float64Array;
  readonly rv: Float64Array;
  /** what a finer level adds to the equations of this one; absent on the finest */
  forcing?: { readonly u: Float64Array; readonly v: Float64Array; readonly flux: Float64Array };

  private readonly matrix: Float64Array;
  private readonly pressureMatrix: Float64Array;
  private readonly pressureSolver: AggregationMultigrid;
  private readonly pressureFactors: Float64Array;
  private readonly diagonal: Float64Array;
  private readonly mobility: Float64Array;
  private readonly faceMobility: Float64Array;
  private readonly gu: [Float64Array, Float64Array];
  private readonly gv: [Float64Array, Float64Array];
  private readonly gp: [Float64Array, Float64Array];
  private readonly gc: [Float64Array, Float64Array];
  private readonly slope: [Float64Array, Float64Array];
  private readonly du: Float64Array;
  private readonly dv: Float64Array;
  private readonly correction: Float64Array;
  private readonly correctionBoundary: Float64Array;
  private readonly imbalance: Float64Array;

  constructor(
    readonly geometry: FlowGeometry,
    private readonly physics: FlowPhysics,
    private readonly options: LevelOptions,
  ) {
    if (!(physics.kinematicViscosity > 0 && Number.isFinite(physics.kinematicViscosity))) {
      throw new FlowSetupError("no-viscosity", `Kinematic viscosity ${physics.kinematicViscosity} m2/s must be positive and finite.`);
    }
    const { cells, faces, joins, pattern } = geometry;
    const cell = () => new Float64Array(cells);
    const pair = (): [Float64Array, Float64Array] => [cell(), cell()];
    [this.u, this.v, this.p, this.ru, this.rv, this.du, this.dv] = Array.from({ length: 7 }, cell);
    [this.diagonal, this.mobility, this.correction, this.imbalance] = Array.from({ length: 4 }, cell);
    [this.gu, this.gv, this.gp, this.gc, this.slope] = Array.from({ length: 5 }, pair);
    this.flux = new Float64Array(faces);
    this.faceMobility = new Float64Array(faces);
    this.matrix = new Float64Array(pattern.column.length);
    this.pressureMatrix = new Float64Array(pattern.column.length);
    this.boundary = boundaryState(geometry.mesh, physics.boundaries);
    this.correctionBoundary = new Float64Array(faces - joins);
    this.flux.set(this.boundary.flux, joins);
    this.outletFaces = Array.from(this.boundary.type.keys())
      .filter((b) => this.boundary.type[b] === OUTLET)
      .map((b) => b + joins);
    this.pressureFactors = leastSquaresFactors(geometry, (f) => this.boundary.type[f - joins] === OUTLET);
    this.fillPressureMatrix(geometry.conductance);
    this.pressureSolver = new AggregationMultigrid(pattern, this.pressureMatrix, !this.boundary.hasOutlet);
  }

  /** Forgets the fields: at rest but for the boundaries. */
  toRest(): void {
    for (const q of [this.u, this.v, this.p, this.flux]) q.fill(0);
    this.flux.set(this.boundary.flux, this.geometry.joins);
  }

  private fillPressureMatrix(coefficient: Float64Array): void {
    const { joins, owner, neighbour, pattern } = this.geometry;
    const { diagonal, ownerEntry, neighbourEntry } = pattern;
    const a = this.pressureMatrix.fill(0);
    for (let f = 0; f < joins; f++) {
      a[ownerEntry[f]] -= coefficient[f];
      a[neighbourEntry[f]] -= coefficient[f];
      a[diagonal[owner[f]]] += coefficient[f];
      a[diagonal[neighbour[f]]] += coefficient[f];
    }
    for (const f of this.outletFaces) a[diagonal[owner[f]]] += coefficient[f];
  }

  /** Least-squares gradient of a field with given boundary values. */
  private gradient(factors: Float64Array, q: Float64Array, qb: Float64Array, [gx, gy]: [Float64Array, Float64Array]): void {
    const { joins, faces, owner, neighbour } = this.geometry;
    gx.fill(0);
    gy.fill(0);
    for (let f = 0; f < joins; f++) {
      const o = owner[f];
      const n = neighbour[f];
      const d = q[n] - q[o];
      const l = 4 * f;
      gx[o] += factors[l] * d;
      gy[o] += factors[l + 1] * d;
      gx[n] += factors[l + 2] * d;
      gy[n] += factors[l + 3] * d;
    }
    for (let f = joins; f < faces; f++) {
      const o = owner[f];
      const d = qb[f - joins] - q[o];
      gx[o] += factors[4 * f] * d;
      gy[o] += factors[4 * f + 1] * d;
    }
  }

  /**
   * Conservative (Green-Gauss) gradient of pressure from face values that least-squares slopes correct for skewness.
   * Boundary pressures other than outlets' are extrapolated on the way.
   */
  pressureGradient(p: Float64Array, pb: Float64Array, out: [Float64Array, Float64Array], correction = false): void {
    const g = this.geometry;
    const { joins, faces, owner, neighbour, weight, kx, ky, sx, sy, volume } = g;
    const type = this.boundary.type;
    const [hx, hy] = this.slope;
    if (correction) for (const f of this.outletFaces) pb[f - joins] = 0;
    this.gradient(this.pressureFactors, p, pb, this.slope);
    const [gx, gy] = out;
    gx.fill(0);
    gy.fill(0);
    for (let f = 0; f < joins; f++) {
      const o = owner[f];
      const n = neighbour[f];
      const w = weight[f];
      const w1 = 1 - w;
      const pf = w * p[o] + w1 * p[n] + (w * hx[o] + w1 * hx[n]) * kx[f] + (w * hy[o] + w1 * hy[n]) * ky[f];
      gx[o] += pf * sx[f];
      gy[o] += pf * sy[f];
      gx[n] -= pf * sx[f];
      gy[n] -= pf * sy[f];
    }
    for (let f = joins; f < faces; f++) {
      const o = owner[f];
      const b = f - joins;
      if (type[b] !== OUTLET) pb[b] = p[o] + hx[o] * g.ox[f] + hy[o] * g.oy[f];
      gx[o] += pb[b] * sx[f];
      gy[o] += pb[b] * sy[f];
    }
    for (let c = 0; c < g.cells; c++) {
      gx[c] /= volume[c];
      gy[c] /= volume[c];
    }
  }

  /** Carries interior values to outlets and the tangential part to symmetry planes. */
  private updateBoundaryVelocity(): void {
    const { joins, faces, owner, sx, sy } = this.geometry;
    const { type, u: ub, v: vb } = this.boundary;
    for (let f = joins; f < faces; f++) {
      const b = f - joins;
      if (type[b] === FIXED) continue;
      const c = owner[f];
      const area2 = sx[f] ** 2 + sy[f] ** 2;
      const across = type[b] === SYMMETRY ? (this.u[c] * sx[f] + this.v[c] * sy[f]) / area2 : 0;
      ub[b] = this.u[c] - across * sx[f];
      vb[b] = this.v[c] - across * sy[f];
    }
  }

  velocityGradients(): void {
    this.updateBoundaryVelocity();
    this.gradient(this.geometry.gradientAll, this.u, this.boundary.u, this.gu);
    this.gradient(this.geometry.gradientAll, this.v, this.boundary.v, this.gv);
  }

  /**
   * Assembles the momentum equations and leaves their unrelaxed residual in `ru`, `rv`.
   * `residuals` gets sum |residual| over sum |a_P (u - mean u)|, with a floor (method 9).
   */
  evaluate(): void {
    const { cells, volume } = this.geometry;
    const { ru, rv } = this;
    const [forceX, forceY] = this.physics.bodyForce;
    this.pressureGradient(this.p, this.boundary.p, this.gp);
    this.velocityGradients();
    for (let c = 0; c < cells; c++) {
      ru[c] = (forceX - this.gp[0][c]) * volume[c];
      rv[c] = (forceY - this.gp[1][c]) * volume[c];
    }
    if (this.forcing) {
      for (let c = 0; c < cells; c++) {
        ru[c] += this.forcing.u[c];
        rv[c] += this.forcing.v[c];
      }
    }
    this.assembleMatrix();
    this.addDeferred();
    this.addBoundary();
    this.subtractMatrix();
    this.normaliseMomentum();
  }

  private assembleMatrix(): void {
    const { joins, owner, neighbour, conductance, pattern } = this.geometry;
    const { diagonal, ownerEntry, neighbourEntry } = pattern;
    const nu = this.physics.kinematicViscosity;
    const a = this.matrix.fill(0);
    // The diagonal leaves out the sum of the fluxes: it vanishes at the end and upsets the matrix before.
    for (let f = 0; f < joins; f++) {
      const F = this.flux[f];
      const d = nu * conductance[f];
      const out = F > 0 ? F : 0;
      const into = F < 0 ? F : 0;
      a[ownerEntry[f]] += into - d;
      a[neighbourEntry[f]] -= out + d;
      a[diagonal[owner[f]]] += d - into;
      a[diagonal[neighbour[f]]] += d + out;
    }
  }

  /** Higher-order part of convection and the non-orthogonal part of diffusion, both explicit. */
  private addDeferred(): void {
    const { joins, owner, neighbour, weight, kx, ky, ox, oy, nx, ny, tx, ty } = this.geometry;
    const { u, v, ru, rv, flux } = this;
    const [gux, guy] = this.gu;
    const [gvx, gvy] = this.gv;
    const nu = this.physics.kinematicViscosity;
    const central = this.options.scheme === "central";
    const linear = this.options.scheme === "linear-upwind";
    for (let f = 0; f < joins; f++) {
      const o = owner[f];
      const n = neighbour[f];
      const F = flux[f];
      const w = weight[f];
      const w1 = 1 - w;
      const fux = w * gux[o] + w1 * gux[n];
      const fuy = w * guy[o] + w1 * guy[n];
      const fvx = w * gvx[o] + w1 * gvx[n];
      const fvy = w * gvy[o] + w1 * gvy[n];
      let hu = 0;
      let hv = 0;
      if (central) {
        const up = F >= 0 ? o : n;
        hu = w * u[o] + w1 * u[n] + fux * kx[f] + fuy * ky[f] - u[up];
        hv = w * v[o] + w1 * v[n] + fvx * kx[f] + fvy * ky[f] - v[up];
      } else if (linear) {
        const up = F >= 0 ? o : n;
        const rx = F >= 0 ? ox[f] : nx[f];
        const ry = F >= 0 ? oy[f] : ny[f];
        hu = gux[up] * rx + guy[up] * ry;
        hv = gvx[up] * rx + gvy[up] * ry;
      }
      const su = F * hu - nu * (fux * tx[f] + fuy * ty[f]);
      const sv = F * hv - nu * (fvx * tx[f] + fvy * ty[f]);
      ru[o] -= su;
      ru[n] += su;
      rv[o] -= sv;
      rv[n] += sv;
    }
  }

  private addBoundary(): void {
    const { joins, faces, owner, conductance, tx, ty, pattern } = this.geometry;
    const { type, u: ub, v: vb } = this.boundary;
    const nu = this.physics.kinematicViscosity;
    for (let f = joins; f < faces; f++) {
      const b = f - joins;
      if (type[b] === OUTLET) continue;
      const c = owner[f];
      const F = this.flux[f];
      const s = nu * conductance[f] + (F < 0 ? -F : 0);
      this.matrix[pattern.diagonal[c]] += s;
      // Fluid leaving through a fixed velocity carries that velocity: explicit, the matrix has upwind only.
      const out = F > 0 ? F : 0;
      this.ru[c] += s * ub[b] - out * (ub[b] - this.u[c]) + nu * (this.gu[0][c] * tx[f] + this.gu[1][c] * ty[f]);
      this.rv[c] += s * vb[b] - out * (vb[b] - this.v[c]) + nu * (this.gv[0][c] * tx[f] + this.gv[1][c] * ty[f]);
    }
  }

  private subtractMatrix(): void {
    const { cells, pattern } = this.geometry;
    const { rowStart, column, diagonal } = pattern;
    const { matrix: a, u, v, ru, rv } = this;
    for (let c = 0; c < cells; c++) {
      let su = ru[c];
      let sv = rv[c];
      const end = rowStart[c + 1];
      for (let k = rowStart[c]; k < end; k++) {
        su -= a[k] * u[column[k]];
        sv -= a[k] * v[column[k]];
      }
      ru[c] = su;
      rv[c] = sv;
      this.diagonal[c] = a[diagonal[c]];
    }
  }

  /** Both components share one scale, so that a component that is zero everywhere does not look unconverged. */
  private normaliseMomentum(): void {
    const { cells } = this.geometry;
    const { u, v, ru, rv, diagonal } = this;
    let meanU = 0;
    let meanV = 0;
    for (let c = 0; c < cells; c++) {
      meanU += u[c] / cells;
      meanV += v[c] / cells;
    }
    let scale = 0;
    let sumU = 0;
    let sumV = 0;
    for (let c = 0; c < cells; c++) {
      scale += diagonal[c] * (Math.abs(u[c] - meanU) + Math.abs(v[c] - meanV));
      sumU += Math.abs(ru[c]);
      sumV += Math.abs(rv[c]);
    }
    const floor = scale > 1e-300 ? scale : 1e-300;
    this.residuals.xMomentum = sumU / floor;
    this.residuals.yMomentum = sumV / floor;
  }

  /** Face fluxes by momentum interpolation of the present fields, plus an offset; fixed boundary fluxes stay. */
  interpolateFluxes(offset?: Float64Array): void {
    const { joins, owner, neighbour, weight, conductance, sx, sy, dx, dy, kx, ky, volume, ox, oy } = this.geometry;
    const { u, v, p, diagonal, flux } = this;
    const [gux, guy] = this.gu;
    const [gvx, gvy] = this.gv;
    const [gpx, gpy] = this.gp;
    for (let f = 0; f < joins; f++) {
      const o = owner[f];
      const n = neighbour[f];
      const w = weight[f];
      const w1 = 1 - w;
      const mobility = (w * volume[o]) / diagonal[o] + (w1 * volume[n]) / diagonal[n];
      const uf = w * u[o] + w1 * u[n] + (w * gux[o] + w1 * gux[n]) * kx[f] + (w * guy[o] + w1 * guy[n]) * ky[f];
      const vf = w * v[o] + w1 * v[n] + (w * gvx[o] + w1 * gvx[n]) * kx[f] + (w * gvy[o] + w1 * gvy[n]) * ky[f];
      const smoothed = (w * gpx[o] + w1 * gpx[n]) * dx[f] + (w * gpy[o] + w1 * gpy[n]) * dy[f];
      flux[f] = uf * sx[f] + vf * sy[f] - mobility * conductance[f] * (p[n] - p[o] - smoothed);
    }
    for (const f of this.outletFaces) {
      const c = owner[f];
      const jump = this.boundary.p[f - joins] - p[c] - gpx[c] * ox[f] - gpy[c] * oy[f];
      flux[f] = u[c] * sx[f] + v[c] * sy[f] - (volume[c] / diagonal[c]) * conductance[f] * jump;
    }
    if (offset) {
      for (let f = 0; f < joins; f++) flux[f] += offset[f];
      for (const f of this.outletFaces) flux[f] += offset[f];
    }
  }

  /** One SIMPLEC iteration. */
  smooth(): void {
    this.evaluate();
    this.relaxMomentum();
    this.interpolateFluxes(this.forcing?.flux);
    this.correctPressure();
  }

  private relaxMomentum(): void {
    const { cells, volume, pattern } = this.geometry;
    const { rowStart, diagonal } = pattern;
    const a = this.matrix;
    for (let c = 0; c < cells; c++) {
      let off = a[diagonal[c]];
      for (let k = rowStart[c]; k < rowStart[c + 1]; k++) off -= a[k];
      const relaxed = this.diagonal[c] / this.options.relaxation;
      a[diagonal[c]] = relaxed;
      this.mobility[c] = volume[c] / Math.max(relaxed - off, 0.02 * relaxed);
    }
    this.du.fill(0);
    this.dv.fill(0);
    for (let s = 0; s < SWEEPS; s++) sweepPair(pattern, a, this.ru, this.rv, this.du, this.dv);
    for (let c = 0; c < cells; c++) {
      this.u[c] += this.du[c];
      this.v[c] += this.dv[c];
    }
  }

  /** Sum of |net flux| over the cells, and the net flux of each cell in `imbalance`, sign turned. */
  private massImbalance(): number {
    const { cells, joins, faces, owner, neighbour } = this.geometry;
    const r = this.imbalance.fill(0);
    for (let f = 0; f < joins; f++) {
      r[owner[f]] -= this.flux[f];
      r[neighbour[f]] += this.flux[f];
    }
    for (let f = joins; f < faces; f++) r[owner[f]] -= this.flux[f];
    let sum = 0;
    for (let c = 0; c < cells; c++) sum += Math.abs(r[c]);
    return sum;
  }

  private solveCorrection(tolerance: number, iterations: number): void {
    const { joins, owner, neighbour, conductance, weight } = this.geometry;
    const { mobility, faceMobility } = this;
    for (let f = 0; f < joins; f++) {
      const w = weight[f];
      faceMobility[f] = (w * mobility[owner[f]] + (1 - w) * mobility[neighbour[f]]) * conductance[f];
    }
    for (const f of this.outletFaces) faceMobility[f] = mobility[owner[f]] * conductance[f];
    this.fillPressureMatrix(faceMobility);
    this.pressureSolver.refresh();
    this.correction.fill(0);
    this.pressureSolver.solve(this.imbalance, this.correction, tolerance, iterations);
  }

  private correctFluxes(): void {
    const { joins, owner, neighbour } = this.geometry;
    const { correction, faceMobility, flux } = this;
    for (let f = 0; f < joins; f++) flux[f] -= faceMobility[f] * (correction[neighbour[f]] - correction[owner[f]]);
    for (const f of this.outletFaces) flux[f] += faceMobility[f] * correction[owner[f]];
  }

  private correctPressure(): void {
    const { cells, volume } = this.geometry;
    this.residuals.mass = this.massImbalance();
    this.solveCorrection(PRESSURE_TOLERANCE, PRESSURE_ITERATIONS);
    this.pressureGradient(this.correction, this.correctionBoundary, this.gc, true);
    this.correctFluxes();
    for (let c = 0; c < cells; c++) {
      this.p[c] += this.correction[c];
      this.u[c] -= this.mobility[c] * this.gc[0][c];
      this.v[c] -= this.mobility[c] * this.gc[1][c];
    }
    if (this.boundary.hasOutlet) return;
    let mean = 0;
    let total = 0;
    for (let c = 0; c < cells; c++) {
      mean += this.p[c] * volume[c];
      total += volume[c];
    }
    for (let c = 0; c < cells; c++) this.p[c] -= mean / total;
  }

  /** Closes the mass of every cell to round-off by a last, tightly solved correction of the fluxes alone. */
  closeMass(): void {
    for (let pass = 0; pass < 2; pass++) {
      if (this.massImbalance() === 0) return;
      this.solveCorrection(1e-13, 60);
      this.correctFluxes();
    }
  }

  /**
   * Force of each boundary on the fluid per unit depth and density and the momentum it carries out, as the discrete equations see them, m^3/s^2.
   * Call after `evaluate`.
   */
  boundaryTerms(f: number): { mass: number; momentum: [number, number]; pressure: [number, number]; shear: [number, number] } {
    const { joins, owner, sx, sy, conductance, tx, ty } = this.geometry;
    const b = f - joins;
    const c = owner[f];
    const { u: ub, v: vb, p: pb, type } = this.boundary;
    const nu = this.physics.kinematicViscosity;
    const F = this.flux[f];
    const shear = (qb: number, q: number, [gx, gy]: [Float64Array, Float64Array]) =>
      type[b] === OUTLET ? 0 : -nu * (conductance[f] * (qb - q) + gx[c] * tx[f] + gy[c] * ty[f]);
    return {
      mass: F,
      momentum: [F * ub[b], F * vb[b]],
      pressure: [pb[b] * sx[f], pb[b] * sy[f]],
      shear: [shear(ub[b], this.u[c], this.gu), shear(vb[b], this.v[c], this.gv)],
    };
  }

  /** Slopes of the two velocity components after `evaluate` or `velocityGradients`, 1/s. */
  get slopes() {
    return { u: this.gu, v: this.gv };
  }

  /** Gradient of any cell field with given boundary values, by least squares. */
  fieldGradient(q: Float64Array, boundaryValues: Float64Array, out: [Float64Array, Float64Array]): void {
    this.gradient(this.geometry.gradientAll, q, boundaryValues, out);
  }
}
