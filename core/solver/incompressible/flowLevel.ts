import { type BoundaryState, boundaryState, FIXED, FlowSetupError, OUTLET, SYMMETRY, setBoundaryTime } from "../discrete/boundaryConditions.ts";
import type { FlowGeometry } from "../discrete/flowGeometry.ts";
import { gradient } from "../discrete/gradient.ts";
import type { Pair } from "../kernels/kernels.ts";
import type { FlowPhysics, LevelOptions, LevelResiduals, TimeTerm } from "./flowPhysics.ts";
import { type LevelScratch, levelScratch, scratchRoom } from "./levelScratch.ts";
import { type BoundaryTerms, boundaryTerms, momentumResiduals, transposedShear, volumeForces } from "./levelTerms.ts";
import { PressureEquation } from "./pressureEquation.ts";
import { ScalarField, usesSlopes } from "./scalarField.ts";

const LEAST_RELAXATION = 0.5;
const NOTHING = [0, 0] as const;

/**
 * Fields and discrete equations of incompressible laminar flow on one mesh, plane or revolved: collocated, face-based, second order;
 * face fluxes by momentum interpolation with the unrelaxed diagonal, so that the answer depends neither on relaxation nor on the time step.
 * One `smooth` is one SIMPLEC iteration.
 * @source Rhie & Chow, AIAA J. 21 (1983) 1525; Van Doormaal & Raithby, Numer. Heat Transfer 7 (1984) 147;
 * Choi, Numer. Heat Transfer A 36 (1999) 545; Ferziger & Peric, Computational Methods for Fluid Dynamics.
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
  readonly scalars: readonly ScalarField[];
  readonly residuals: LevelResiduals = { xMomentum: 0, yMomentum: 0, mass: 0, scalars: [] };
  /** unrelaxed momentum residual of each cell after `evaluate` */
  readonly ru: Float64Array;
  readonly rv: Float64Array;
  /** what a finer level adds to the equations of this one; absent on the finest */
  forcing?: { readonly u: Float64Array; readonly v: Float64Array; readonly flux: Float64Array };
  /** absent in steady flow */
  time?: TimeTerm;
  private source?: Pair;
  private timeS = 0;

  private readonly pressure: PressureEquation;
  private readonly diagonal: Float64Array;
  private readonly gu: Pair;
  private readonly gv: Pair;
  private readonly gp: Pair;
  /** whether slopes of the velocity are part of the equations: not of central or upwind differences on straight meshes */
  private readonly sloped: boolean;
  private slopesStale = true;

  constructor(
    readonly geometry: FlowGeometry,
    private readonly physics: FlowPhysics,
    private readonly options: LevelOptions,
    /** boundary values of a coarse level, which follow from the finer one's */
    private readonly inherited?: BoundaryState,
    readonly scratch: LevelScratch = levelScratch(scratchRoom(geometry), geometry),
  ) {
    if (!(physics.kinematicViscosity > 0 && Number.isFinite(physics.kinematicViscosity))) {
      throw new FlowSetupError("no-viscosity", `Kinematic viscosity ${physics.kinematicViscosity} m2/s must be positive and finite.`);
    }
    const { cells, faces, joins, arena } = geometry;
    const cell = () => arena.float64(cells);
    const pair = (): Pair => [cell(), cell()];
    [this.u, this.v, this.p, this.ru, this.rv, this.diagonal] = Array.from({ length: 6 }, cell);
    [this.gu, this.gv, this.gp] = Array.from({ length: 3 }, pair);
    this.flux = arena.float64(faces);
    this.sloped = usesSlopes(geometry, options.scheme);
    this.relaxation = options.relaxation;
    this.boundary = inherited ?? boundaryState(geometry.mesh, physics.boundaries);
    this.flux.set(this.boundary.flux, joins);
    this.outletFaces = Array.from(this.boundary.type.keys())
      .filter((b) => this.boundary.type[b] === OUTLET)
      .map((b) => b + joins);
    this.pressure = new PressureEquation(geometry, this.boundary, this.outletFaces, scratch);
    this.scalars = (physics.scalars ?? []).map((q) => new ScalarField(geometry, q, this.boundary, options.scheme, scratch));
    this.swirl = this.scalars.find((q) => q.physics.swirl);
    this.around = aroundAxis(geometry, physics.kinematicViscosity);
    this.setTime(0);
  }

  private readonly swirl: ScalarField | undefined;
  /** Stress around the axis holds back v alone; in the correction's matrix, which both components share, it may slow u too. */
  private readonly around: Float64Array | undefined;
  private relaxation: number;

  /** Smaller steps from now on: for flows that run away. */
  calm(factor: number): void {
    this.relaxation = Math.max(Math.min(LEAST_RELAXATION, this.options.relaxation), factor * this.options.relaxation);
    for (const q of this.scalars) q.calm(factor);
  }

  /** Boundary values and sources of a moment. */
  setTime(timeS: number): void {
    this.timeS = timeS;
    const { geometry, physics } = this;
    const { mesh, joins, volume, cells } = geometry;
    if (!this.inherited) setBoundaryTime(mesh, physics.boundaries, this.boundary, timeS);
    for (let f = joins; f < geometry.faces; f++) if (this.boundary.type[f - joins] !== OUTLET) this.flux[f] = this.boundary.flux[f - joins];
    for (const q of this.scalars) q.setTime(timeS);
    if (!physics.source) return;
    this.source ??= [geometry.arena.float64(cells), geometry.arena.float64(cells)];
    for (let c = 0; c < cells; c++) {
      const [pushX, pushY] = physics.source(mesh.centroidM[2 * c], mesh.centroidM[2 * c + 1], timeS);
      this.source[0][c] = pushX * volume[c];
      this.source[1][c] = pushY * volume[c];
    }
  }

  /** Forgets the fields: at rest but for the boundaries, or the given beginning. */
  toRest(): void {
    for (const q of [this.u, this.v, this.p, this.flux]) q.fill(0);
    this.flux.set(this.boundary.flux, this.geometry.joins);
    for (const q of this.scalars) q.reset();
    const { initial } = this.physics;
    if (!initial) return;
    const { centroidM, faceCentreM } = this.geometry.mesh;
    const { cells, joins, sx, sy } = this.geometry;
    for (let c = 0; c < cells; c++) [this.u[c], this.v[c]] = initial(centroidM[2 * c], centroidM[2 * c + 1]);
    for (let f = 0; f < joins; f++) {
      const [u, v] = initial(faceCentreM[2 * f], faceCentreM[2 * f + 1]);
      this.flux[f] = u * sx[f] + v * sy[f];
    }
    for (const f of this.outletFaces) this.flux[f] = this.u[this.geometry.owner[f]] * sx[f] + this.v[this.geometry.owner[f]] * sy[f];
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
      if (area2 === 0) {
        ub[b] = this.u[c];
        vb[b] = 0;
        continue;
      }
      const across = type[b] === SYMMETRY ? (this.u[c] * sx[f] + this.v[c] * sy[f]) / area2 : 0;
      ub[b] = this.u[c] - across * sx[f];
      vb[b] = this.v[c] - across * sy[f];
    }
  }

  /** Boundary velocities, and slopes where the equations need them. */
  velocityGradients(): void {
    this.updateBoundaryVelocity();
    this.slopesStale = !this.sloped;
    if (this.sloped) this.findSlopes();
  }

  private findSlopes(): void {
    const { joins, faces, owner, gradientAll: factors, arena } = this.geometry;
    const { u: ub, v: vb } = this.boundary;
    for (const q of [...this.gu, ...this.gv]) q.fill(0);
    arena.kernels.gradientPair(this.geometry, factors, [this.u, this.v], this.gu, this.gv);
    for (let f = joins; f < faces; f++) {
      const c = owner[f];
      const du = ub[f - joins] - this.u[c];
      const dv = vb[f - joins] - this.v[c];
      this.gu[0][c] += factors[4 * f] * du;
      this.gu[1][c] += factors[4 * f + 1] * du;
      this.gv[0][c] += factors[4 * f] * dv;
      this.gv[1][c] += factors[4 * f + 1] * dv;
    }
  }

  /**
   * Assembles the momentum equations and leaves their unrelaxed residual in `ru`, `rv`.
   * `residuals` gets sum |residual| over sum |a_P (u - mean u)|, with a floor (method 9).
   */
  evaluate(): void {
    const { geometry, ru, rv } = this;
    const [forceX, forceY] = this.physics.bodyForce;
    this.pressureGradient(this.p, this.boundary.p, this.gp);
    this.velocityGradients();
    const { kernels } = geometry.arena;
    kernels.forces(geometry.volume, forceX, forceY, this.gp, this.forcing?.u, this.forcing?.v, [ru, rv]);
    if (this.source) kernels.addPair(this.source, [ru, rv]);
    this.addCoupling();
    const carried = [
      { q: this.u, slope: this.gu, residual: ru },
      { q: this.v, slope: this.gv, residual: rv },
    ] as const;
    kernels.carryPair(geometry, this.options.scheme, this.flux, this.physics.kinematicViscosity, this.scratch.matrix.fill(0), carried);
    this.addBoundary();
    this.addTime();
    this.subtractMatrix();
    Object.assign(this.residuals, momentumResiduals(this.scratch.sums));
  }

  /** What transported quantities do to the flow: buoyancy, and swirl that pushes outward. */
  private addCoupling(): void {
    const { cells, volume } = this.geometry;
    const { ru, rv } = this;
    for (const { physics, q } of this.scalars) {
      if (!physics.buoyancy) continue;
      const [bx, by] = physics.buoyancy;
      this.geometry.arena.kernels.addLift(volume, q, physics.neutral ?? 0, bx, by, [ru, rv]);
    }
    const { swirl } = this;
    if (!swirl) return;
    const { centroidM } = this.geometry.mesh;
    for (let c = 0; c < cells; c++) rv[c] += (swirl.q[c] * swirl.q[c] * volume[c]) / centroidM[2 * c + 1];
  }

  /** Time derivative, into the diagonal and the residual. */
  private addTime(): void {
    if (!this.time) return;
    const { volume, pattern, arena } = this.geometry;
    const { rate, u, v } = this.time;
    arena.kernels.addRate(pattern.diagonal, rate, volume, [u, v], this.scratch.matrix, [this.ru, this.rv]);
  }

  private addBoundary(): void {
    const { joins, faces, owner, conductance, rim, oblique, pattern } = this.geometry;
    const { type, u: ub, v: vb } = this.boundary;
    const { matrix } = this.scratch;
    const { u, v, ru, rv, flux } = this;
    const [[gux, guy], [gvx, gvy]] = [this.gu, this.gv];
    const nu = this.physics.kinematicViscosity;
    for (let f = joins; f < faces; f++) {
      const b = f - joins;
      if (type[b] === OUTLET) continue;
      const c = owner[f];
      const F = flux[f];
      const s = nu * conductance[f] + (F < 0 ? -F : 0);
      matrix[pattern.diagonal[c]] += s;
      // Fluid leaving through a fixed velocity carries that velocity: explicit, the matrix has upwind only.
      const out = F > 0 ? F : 0;
      const [x, y] = oblique ? [nu * (gux[c] * rim.tx[b] + guy[c] * rim.ty[b]), nu * (gvx[c] * rim.tx[b] + gvy[c] * rim.ty[b])] : NOTHING;
      ru[c] += s * ub[b] - out * (ub[b] - u[c]) + x;
      rv[c] += s * vb[b] - out * (vb[b] - v[c]) + y;
    }
  }

  private subtractMatrix(): void {
    const { pattern, arena } = this.geometry;
    const { matrix, sums } = this.scratch;
    const { residualPair, meanOf, sumAbsolute } = arena.kernels;
    const velocity: Pair = [this.u, this.v];
    residualPair(pattern, matrix, velocity, [this.ru, this.rv], meanOf(this.u), meanOf(this.v), this.diagonal, sums);
    if (!this.geometry.hoop) return;
    this.subtractHoop();
    sums[1] = sumAbsolute(this.rv);
  }

  /** Viscous stress around the axis, nu v / r^2; explicit, since the two components share one matrix. */
  private subtractHoop(): void {
    const { cells, hoop, mesh } = this.geometry;
    if (!hoop) return;
    const nu = this.physics.kinematicViscosity;
    for (let c = 0; c < cells; c++) this.rv[c] -= (nu * hoop[c] * this.v[c]) / mesh.centroidM[2 * c + 1];
  }

  /** Flux of the interpolated velocity through every face, without the pressure's share; needs the velocity gradients. */
  interpolatedVelocity(out: Float64Array): void {
    this.geometry.arena.kernels.velocityFaces(this.geometry, [this.u, this.v], this.gu, this.gv, out);
    this.boundaryFluxes(out);
  }

  /** Given boundary fluxes stay, outlets follow the velocity. */
  private boundaryFluxes(out: Float64Array): void {
    const { joins, faces, owner, sx, sy } = this.geometry;
    for (let f = joins; f < faces; f++) out[f] = this.flux[f];
    for (const f of this.outletFaces) out[f] = this.u[owner[f]] * sx[f] + this.v[owner[f]] * sy[f];
  }

  /** Face fluxes by momentum interpolation of the present fields, plus an offset; fixed boundary fluxes stay. */
  interpolateFluxes(offset?: Float64Array): void {
    const { joins, owner, conductance, volume, rim, arena } = this.geometry;
    const { p, diagonal, flux } = this;
    const [gpx, gpy] = this.gp;
    arena.kernels.momentumFluxes(this.geometry, [this.u, this.v], this.gu, this.gv, p, this.gp, diagonal, flux);
    this.boundaryFluxes(flux);
    for (const f of this.outletFaces) {
      const [c, b] = [owner[f], f - joins];
      const jump = this.boundary.p[b] - p[c] - gpx[c] * rim.dx[b] - gpy[c] * rim.dy[b];
      flux[f] -= (volume[c] / diagonal[c]) * conductance[f] * jump;
    }
    if (this.time) this.addTimeToFluxes(this.time.flux);
    if (offset) {
      arena.kernels.addVector(offset.subarray(0, joins), flux);
      for (const f of this.outletFaces) flux[f] += offset[f];
    }
  }

  /** Earlier face fluxes differ from the interpolated earlier velocities; what remains of that belongs to the new flux. */
  private addTimeToFluxes(past: Float64Array): void {
    const { joins, owner, neighbour, weight, volume, arena } = this.geometry;
    arena.kernels.subtractPast(owner.subarray(0, joins), neighbour, weight, volume, this.diagonal, past, this.flux);
    for (const f of this.outletFaces) this.flux[f] -= (volume[owner[f]] / this.diagonal[owner[f]]) * past[f];
  }

  /** One SIMPLEC iteration, then one of every transported quantity. */
  smooth(): void {
    this.evaluate();
    this.relaxMomentum();
    this.interpolateFluxes(this.forcing?.flux);
    this.residuals.mass = this.pressure.correct(this);
    this.scalars.forEach((q, k) => {
      q.evaluate(this.flux, this.time?.rate ?? 0, this.v);
      this.residuals.scalars[k] = q.norm;
      q.relax();
    });
  }

  /** Residuals of everything transported, for the present fields. */
  evaluateScalars(): void {
    this.scalars.forEach((q, k) => {
      q.evaluate(this.flux, this.time?.rate ?? 0, this.v);
      this.residuals.scalars[k] = q.norm;
    });
  }

  private relaxMomentum(): void {
    const { volume, pattern, arena } = this.geometry;
    const { diagonal, around, relaxation, scratch } = this;
    const rows = { values: scratch.matrix, diagonal, around, relaxation, volume, mobility: scratch.mobility };
    arena.kernels.relaxMomentum(pattern, rows, [this.ru, this.rv], scratch.change, [this.u, this.v]);
  }

  /** Slopes of a pressure, or of a correction to one; boundary pressures other than outlets' are extrapolated on the way. */
  pressureGradient(p: Float64Array, pb: Float64Array, out: Pair, correction = false): void {
    this.pressure.gradientOf(p, pb, out, correction);
  }

  /** Makes a given velocity field free of sources by the nearest gradient, pressure left as it is: a start for transient flow. */
  project(): void {
    this.velocityGradients();
    this.interpolatedVelocity(this.flux);
    this.pressure.project(this);
  }

  /** Closes the mass of every cell to round-off by a last, tightly solved correction of the fluxes alone. */
  closeMass(): void {
    this.pressure.close(this.flux);
  }

  get viscosity(): number {
    return this.physics.kinematicViscosity;
  }

  /** Force of a boundary face on the fluid per unit depth and density and the momentum it carries out, m^3/s^2. After `evaluate`. */
  boundaryTerms(f: number): BoundaryTerms {
    return boundaryTerms(this, f);
  }

  /** What the transposed velocity slope adds to the shear on a boundary face, m^3/s^2. */
  transposedShear(f: number): [number, number] {
    return transposedShear(this.geometry, this.physics.boundaries, this.viscosity, f, this.timeS);
  }

  /** Sum over the volume of all forces per density but those of the boundaries, m^3/s^2. After `evaluate`. */
  volumeForces(): [number, number] {
    return volumeForces(this.geometry, this.physics.bodyForce, this.source, this.scalars);
  }

  /** Whether a source of momentum is given. */
  get forced(): boolean {
    return this.source !== undefined;
  }

  /** Momentum per density the volume takes up each second, m^3/s^2: zero when steady. */
  accelerated(): [number, number] {
    const { cells, volume } = this.geometry;
    let [x, y] = [0, 0];
    if (!this.time) return [x, y];
    for (let c = 0; c < cells; c++) {
      x += (this.time.rate * this.u[c] + this.time.u[c]) * volume[c];
      y += (this.time.rate * this.v[c] + this.time.v[c]) * volume[c];
    }
    return [x, y];
  }

  /** Slopes of the two velocity components after `evaluate` or `velocityGradients`, 1/s. */
  get slopes() {
    if (this.slopesStale) this.findSlopes();
    this.slopesStale = false;
    return { u: this.gu, v: this.gv };
  }

  /** Gradient of any cell field with given boundary values, by least squares. */
  fieldGradient(q: Float64Array, boundaryValues: Float64Array, out: Pair): void {
    gradient(this.geometry, this.geometry.gradientAll, q, boundaryValues, out);
  }
}

/** What the stress around the axis adds to the diagonal of revolved cells, nu times their area in the plane over their radius. */
function aroundAxis({ cells, hoop, mesh, arena }: FlowGeometry, nu: number): Float64Array | undefined {
  if (!hoop) return undefined;
  const around = arena.float64(cells);
  for (let c = 0; c < cells; c++) around[c] = (nu * hoop[c]) / mesh.centroidM[2 * c + 1];
  return around;
}
