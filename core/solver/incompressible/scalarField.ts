import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { type BoundaryState, FlowSetupError, OUTLET } from "../discrete/boundaryConditions.ts";
import type { FlowGeometry } from "../discrete/flowGeometry.ts";
import { gradient } from "../discrete/gradient.ts";
import type { Pair } from "../kernels/kernels.ts";
import type { ConvectionScheme } from "../kernels/schemes.ts";
import { type LevelScratch, levelScratch, scratchRoom } from "./levelScratch.ts";

type Given = number | ((xM: number, yM: number, timeS: number) => number);

/** What is given on a boundary face, at a moment. */
export const givenAt = (given: Given, { faceCentreM }: Pick<FaceMesh, "faceCentreM">, f: number, timeS: number): number =>
  typeof given === "number" ? given : given(faceCentreM[2 * f], faceCentreM[2 * f + 1], timeS);

/** What holds for a transported quantity on a boundary; outlets and joined boundaries need none. */
export type ScalarCondition =
  | { readonly kind: "value"; readonly value: Given }
  /** diffusive flux out of the fluid, quantity times m/s; 0 is a sealed or adiabatic boundary */
  | { readonly kind: "flux"; readonly outward: Given };

/** A quantity carried by the flow and spread by diffusion: temperature, a trace, swirl. */
export interface ScalarPhysics {
  readonly key: string;
  readonly unit: string;
  /** m^2/s */
  readonly diffusivity: number;
  readonly conditions: Readonly<Record<string, ScalarCondition>>;
  readonly source?: (xM: number, yM: number, timeS: number) => number;
  /** acceleration of the flow by one unit of the quantity above `neutral`, m/s^2 (Boussinesq) */
  readonly buoyancy?: readonly [number, number];
  readonly neutral?: number;
  /** the quantity is the velocity about the axis of a revolved mesh */
  readonly swirl?: boolean;
  readonly initial?: (xM: number, yM: number) => number;
}

const RELAXATION = 0.95;
const LEAST_RELAXATION = 0.7;
const VALUE = 1;

/** Whether a scheme, or what corrects oblique faces, reads slopes of what is carried. */
export function usesSlopes({ oblique }: FlowGeometry, scheme: ConvectionScheme): boolean {
  return oblique !== undefined || scheme === "linear-upwind" || scheme === "limited";
}

/** One transported quantity on one mesh, with its discrete equation. */
export class ScalarField {
  readonly q: Float64Array;
  readonly boundary: Float64Array;
  /** 1 on boundary faces whose value is fixed */
  readonly held: Uint8Array;
  /** residual of each cell after `evaluate` */
  readonly residual: Float64Array;
  readonly slope: Pair;
  /** sum |residual| over sum |a_P (q - mean)|, with a floor (method 9) */
  norm = 0;
  forcing?: Float64Array;
  /** time term: rate * q + past, see TimeTerm */
  past?: Float64Array;
  private source?: Float64Array;
  private readonly outward: Float64Array;
  /** whether slopes are part of the equation: not of central or upwind differences on straight meshes */
  private readonly sloped: boolean;

  constructor(
    private readonly geometry: FlowGeometry,
    readonly physics: ScalarPhysics,
    private readonly flow: BoundaryState,
    private readonly scheme: ConvectionScheme,
    private readonly scratch: LevelScratch = levelScratch(scratchRoom(geometry), geometry),
  ) {
    const { cells, faces, joins, arena } = geometry;
    if (!(physics.diffusivity >= 0 && Number.isFinite(physics.diffusivity))) {
      throw new FlowSetupError("no-viscosity", `Diffusivity ${physics.diffusivity} m2/s of ${physics.key} must not be negative.`);
    }
    [this.q, this.residual] = [0, 1].map(() => arena.float64(cells));
    this.slope = [arena.float64(cells), arena.float64(cells)];
    this.boundary = new Float64Array(faces - joins);
    this.outward = new Float64Array(faces - joins);
    this.held = new Uint8Array(faces - joins);
    this.sloped = usesSlopes(geometry, scheme);
    this.setTime(0);
    this.reset();
  }

  /** Boundary values and sources of a moment. */
  setTime(timeS: number): void {
    const { mesh, joins, volume } = this.geometry;
    const at = (given: Given, f: number) => givenAt(given, mesh, f, timeS);
    for (const b of mesh.boundaries) {
      const condition = this.physics.conditions[b.name];
      for (let f = b.start; f < b.start + b.count; f++) {
        if (this.flow.type[f - joins] === OUTLET || !condition) continue;
        if (condition.kind === "value") {
          this.held[f - joins] = VALUE;
          this.boundary[f - joins] = at(condition.value, f);
        } else this.outward[f - joins] = at(condition.outward, f);
        if (!Number.isFinite(this.boundary[f - joins] + this.outward[f - joins])) {
          throw new FlowSetupError("not-finite", `The ${this.physics.key} given on boundary "${b.name}" is not finite.`);
        }
      }
    }
    const { source } = this.physics;
    if (!source) return;
    this.source ??= this.geometry.arena.float64(volume.length);
    for (let c = 0; c < volume.length; c++) this.source[c] = source(mesh.centroidM[2 * c], mesh.centroidM[2 * c + 1], timeS) * volume[c];
  }

  /** Back to the initial field, which is the neutral value unless another is given. */
  reset(): void {
    const { centroidM } = this.geometry.mesh;
    const { initial, neutral = 0 } = this.physics;
    for (let c = 0; c < this.q.length; c++) this.q[c] = initial ? initial(centroidM[2 * c], centroidM[2 * c + 1]) : neutral;
  }

  /** Lets boundary values follow from the field alone: slopes of an earlier state, unsound ones among them, are left behind. */
  forgetSlopes(): void {
    for (const s of this.slope) s.fill(0);
  }

  /** Slopes for whoever reads them where the equation does not, after `evaluate`. */
  completeSlopes(): void {
    if (!this.sloped) this.findSlopes();
  }

  private findSlopes(): void {
    gradient(this.geometry, this.geometry.gradientAll, this.q, this.boundary, this.slope);
  }

  /** Boundary values where they follow from the interior, then slopes where the equation needs them. */
  private updateSlopes(): void {
    const { joins, faces, owner, rim, oblique, sx, sy } = this.geometry;
    const [gx, gy] = this.slope;
    for (let f = joins; f < faces; f++) {
      const b = f - joins;
      if (this.held[b]) continue;
      const c = owner[f];
      const area2 = sx[f] ** 2 + sy[f] ** 2;
      if (area2 === 0 || this.flow.type[b] === OUTLET) {
        this.boundary[b] = this.q[c];
        continue;
      }
      // Along the boundary by the slope, across it by the given flux; on straight meshes the way leads across alone.
      const across = (sx[f] * rim.dx[b] + sy[f] * rim.dy[b]) / area2;
      const alongX = rim.dx[b] - across * sx[f];
      const alongY = rim.dy[b] - across * sy[f];
      const sideways = oblique ? gx[c] * alongX + gy[c] * alongY : 0;
      const normal = this.physics.diffusivity > 0 ? -this.outward[b] / this.physics.diffusivity : 0;
      this.boundary[b] = this.q[c] + sideways + normal * across * Math.sqrt(area2);
    }
    if (this.sloped) this.findSlopes();
  }

  /**
   * Assembles the equation and leaves its unrelaxed residual.
   * @param rate factor of the new value in the time derivative, 1/s; 0 when steady
   * @param radial velocity away from the axis, which swirl needs
   */
  evaluate(flux: Float64Array, rate: number, radial?: Float64Array): void {
    const g = this.geometry;
    const { cells, volume, hoop, pattern } = g;
    const { kernels } = g.arena;
    const { q, residual, past, source, forcing, slope } = this;
    const { matrix } = this.scratch;
    const gamma = this.physics.diffusivity;
    this.updateSlopes();
    residual.fill(0);
    if (source) kernels.addVector(source, residual);
    if (forcing) kernels.addVector(forcing, residual);
    if (past) for (let c = 0; c < cells; c++) residual[c] -= past[c] * volume[c];
    kernels.carryOne(g, this.scheme, flux, gamma, matrix.fill(0), { q, slope, residual });
    this.addBoundary(flux);
    if (rate > 0) for (let c = 0; c < cells; c++) matrix[pattern.diagonal[c]] += rate * volume[c];
    if (this.physics.swirl && hoop && radial) {
      const { centroidM } = g.mesh;
      for (let c = 0; c < cells; c++) {
        const r = centroidM[2 * c + 1];
        const carried = (radial[c] * volume[c]) / r;
        matrix[pattern.diagonal[c]] += (gamma * hoop[c]) / r + Math.max(0, carried);
        residual[c] -= Math.min(0, carried) * q[c];
      }
    }
    const { sums } = this.scratch;
    kernels.residualOne(pattern, matrix, q, residual, kernels.meanOf(q), sums);
    this.norm = sums[2] === 0 ? 0 : sums[0] / sums[2];
  }

  private addBoundary(flux: Float64Array): void {
    const { joins, faces, owner, conductance, rim, oblique, sx, sy, pattern } = this.geometry;
    const { matrix } = this.scratch;
    const gamma = this.physics.diffusivity;
    for (let f = joins; f < faces; f++) {
      const b = f - joins;
      const c = owner[f];
      const F = flux[f];
      if (this.held[b]) {
        const s = gamma * conductance[f] + (F < 0 ? -F : 0);
        matrix[pattern.diagonal[c]] += s;
        const out = F > 0 ? F : 0;
        const along = oblique ? gamma * (this.slope[0][c] * rim.tx[b] + this.slope[1][c] * rim.ty[b]) : 0;
        this.residual[c] += s * this.boundary[b] - out * (this.boundary[b] - this.q[c]) + along;
      } else if (this.flow.type[b] !== OUTLET) {
        this.residual[c] -= this.outward[b] * Math.hypot(sx[f], sy[f]);
      }
    }
  }

  /** share of the full step `relax` takes; the answer does not depend on it */
  private relaxation = RELAXATION;

  calm(factor: number): void {
    this.relaxation = Math.max(LEAST_RELAXATION, factor * RELAXATION);
  }

  /** A few sweeps on the relaxed equation that `evaluate` left. */
  relax(): void {
    const { pattern, arena } = this.geometry;
    const { matrix, change } = this.scratch;
    arena.kernels.relaxQuantity(pattern, matrix, this.relaxation, this.residual, change[0], this.q);
  }

  /** What sources add in the volume, and what it takes up each second, quantity times m^3/s. */
  volumeTerms(rate: number): { source: number; stored: number } {
    const { cells, volume } = this.geometry;
    let [source, stored] = [0, 0];
    for (let c = 0; c < cells; c++) {
      source += (this.source?.[c] ?? 0) + (this.forcing?.[c] ?? 0);
      if (this.past) stored += (rate * this.q[c] + this.past[c]) * volume[c];
    }
    return { source, stored };
  }

  /** What leaves through a boundary face: carried and by diffusion, quantity times m^2/s. */
  boundaryTerms(f: number, flux: Float64Array): { carried: number; diffused: number } {
    const { joins, owner, conductance, rim, oblique, sx, sy } = this.geometry;
    const b = f - joins;
    const c = owner[f];
    const carried = flux[f] * this.boundary[b];
    if (this.flow.type[b] === OUTLET) return { carried, diffused: 0 };
    if (!this.held[b]) return { carried, diffused: this.outward[b] * Math.hypot(sx[f], sy[f]) };
    const gamma = this.physics.diffusivity;
    const along = oblique ? this.slope[0][c] * rim.tx[b] + this.slope[1][c] * rim.ty[b] : 0;
    return { carried, diffused: -gamma * (conductance[f] * (this.boundary[b] - this.q[c]) + along) };
  }
}
