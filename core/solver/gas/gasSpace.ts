import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { FlowSetupError } from "../discrete/boundaryConditions.ts";
import type { FaceGeometry } from "../discrete/flowGeometry.ts";
import { faceGeometry, leastSquaresFactors } from "../discrete/flowGeometry.ts";
import { contactFlux, type Gas, type Limiter, linearisedFlux, type RiemannFlux } from "./gas.ts";
import { faceState, type GasBoundaries, type GasBoundaryFaces, gasBoundaryFaces, SLIP, STATE, setGasTime, WALL } from "./gasBoundary.ts";
import { type GasFaces, gasFaces, reconstruct } from "./gasKernels.ts";
import { type GasLoops, type GasWork, gasLoops } from "./gasLoops.ts";
import { gasNeighbourhood } from "./neighbourhood.ts";
import { RimSlopes, rimOf } from "./rimSlopes.ts";

export interface GasPhysics {
  readonly gas: Gas;
  readonly boundaries: GasBoundaries;
  /** density, velocity, pressure at the beginning */
  readonly initial: (xM: number, yM: number) => readonly [number, number, number, number];
  /** sources of mass, momentum and energy, such as manufactured ones, per m^3 and s */
  readonly source?: (xM: number, yM: number, timeS: number) => readonly [number, number, number, number];
}

/** how far from the range of its neighbours "smooth" lets a cell wander, in spacings over the size of the domain */
const SMOOTH_REACH = 5;

/** Second-order finite volumes for a perfect gas on one mesh: fields and the sum of all fluxes into every cell. */
export class GasSpace {
  readonly geometry: FaceGeometry;
  /** density, u, v, pressure a cell */
  readonly w: Float64Array;
  /** density, momenta, total energy a cell, per m^3 */
  readonly conserved: Float64Array;
  /** what flows into each cell, after `evaluate` */
  readonly residual: Float64Array;
  /** wave speed times area summed over the faces of each cell, m^2/s */
  readonly waves: Float64Array;
  readonly faces: GasFaces;
  readonly boundary: GasBoundaryFaces;
  /** flux out through every boundary face: mass, momentum carried and by pressure, energy; after `evaluate` */
  readonly out: Float64Array;
  /** pressure on every boundary face, Pa */
  readonly wallPressure: Float64Array;
  evaluations = 0;
  private readonly loops: GasLoops;
  /** loops and vectors of implicit steps */
  readonly work: GasWork;
  private readonly slope: Float64Array;
  private readonly floor: Float64Array;
  /** share of each slope the limiter lets through */
  readonly share: Float64Array;
  private readonly source: Float64Array | undefined;
  private readonly inside = new Float64Array(4);
  private readonly edge = new Float64Array(4);
  private readonly flux = new Float64Array(4);

  constructor(
    readonly mesh: FaceMesh,
    readonly physics: GasPhysics,
    private readonly riemann: RiemannFlux,
    private readonly limiter: Limiter,
    /** keep to the plain loops */
    plain = false,
  ) {
    const { gamma, gasConstant, viscosityPaS, prandtl } = physics.gas;
    if (!(gamma > 1 && gamma < 3 && gasConstant > 0 && viscosityPaS >= 0 && prandtl > 0)) {
      throw new FlowSetupError(
        "not-finite",
        "A gas needs a ratio of specific heats between 1 and 3, a positive gas constant and no negative viscosity.",
      );
    }
    this.geometry = faceGeometry(mesh);
    const near = gasNeighbourhood(mesh, this.geometry);
    this.triangles = near !== this.geometry;
    const factors = leastSquaresFactors(near, () => false);
    const { arrays, loops, work } = gasLoops(this.geometry, near, factors, gasFaces(this.geometry), plain);
    this.loops = loops;
    this.work = work;
    ({
      w: this.w,
      conserved: this.conserved,
      slope: this.slope,
      residual: this.residual,
      waves: this.waves,
      floor: this.floor,
      share: this.share,
    } = arrays);
    this.faces = arrays.faces;
    this.boundary = gasBoundaryFaces(mesh, physics.boundaries);
    const { cells, faces, joins, volume } = this.geometry;
    this.out = new Float64Array(4 * (faces - joins));
    this.wallPressure = new Float64Array(faces - joins);
    this.source = physics.source && new Float64Array(4 * cells);
    let total = 0;
    for (let c = 0; c < cells; c++) total += volume[c];
    this.size = Math.sqrt(total);
    this.setTime(0);
    this.toInitial();
  }

  private readonly size: number;
  /** there a bent state outside makes the steady one twice as hard to reach */
  private readonly triangles: boolean;

  toInitial(): void {
    const { centroidM } = this.mesh;
    for (let c = 0; c < this.geometry.cells; c++) this.w.set(this.physics.initial(centroidM[2 * c], centroidM[2 * c + 1]), 4 * c);
    this.conservedFromPrimitive();
  }

  setTime(timeS: number): void {
    setGasTime(this.mesh, this.physics.boundaries, this.boundary, timeS);
    const { source } = this.physics;
    if (!source || !this.source) return;
    const { centroidM, volumeM2, cellCount } = this.mesh;
    for (let c = 0; c < cellCount; c++) {
      const s = source(centroidM[2 * c], centroidM[2 * c + 1], timeS);
      for (let k = 0; k < 4; k++) this.source[4 * c + k] = s[k] * volumeM2[c];
    }
  }

  /** What given sources add to mass, momentum and energy of the whole, per second. */
  sourceTotals(): readonly [number, number, number, number] | undefined {
    if (!this.source) return undefined;
    const total: [number, number, number, number] = [0, 0, 0, 0];
    for (let i = 0; i < this.source.length; i++) total[i & 3] += this.source[i];
    return total;
  }

  conservedFromPrimitive(): void {
    const { w, conserved: u } = this;
    const inverse = 1 / (this.physics.gas.gamma - 1);
    for (let i = 0; i < w.length; i += 4) {
      u[i] = w[i];
      u[i + 1] = w[i] * w[i + 1];
      u[i + 2] = w[i] * w[i + 2];
      u[i + 3] = w[i + 3] * inverse + 0.5 * w[i] * (w[i + 1] * w[i + 1] + w[i + 2] * w[i + 2]);
    }
  }

  /** @returns the first cell that is no gas any more, -1 when all are */
  primitiveFromConserved(): number {
    return this.work.vectors.primitives(this.conserved, this.physics.gas.gamma, this.w);
  }

  /** Sums all fluxes into `residual`; shares of slopes can be kept from the evaluation before. */
  evaluate(keepShares = false): void {
    const { geometry: g, w, residual, waves } = this;
    const { gamma, viscosityPaS } = this.physics.gas;
    this.evaluations++;
    residual.fill(0);
    waves.fill(0);
    this.loops.gradients();
    if (viscosityPaS > 0) this.slopesAlongRim();
    if (!keepShares) {
      if (this.limiter === "smooth") this.setFloor();
      this.loops.limit(this.limiter);
    }
    this.loops.fluxes(this.riemann, gamma);
    this.addBoundaries();
    if (viscosityPaS > 0) this.addViscous();
    if (this.source) for (let i = 0; i < residual.length; i++) residual[i] += this.source[i];
    if (g.hoop) for (let c = 0; c < g.cells; c++) residual[4 * c + 2] += w[4 * c + 3] * g.hoop[c];
  }

  /** third power of each cell's size against the whole's */
  private smallness: Float64Array | undefined;

  private setFloor(): void {
    const { w, floor } = this;
    const { volume, cells } = this.geometry;
    const gamma = this.physics.gas.gamma;
    // Powers are slow, and the mesh stays as it is.
    this.smallness ??= volume.map((v) => ((SMOOTH_REACH * Math.sqrt(v)) / this.size) ** 3);
    for (let c = 0; c < cells; c++) {
      const small = this.smallness[c];
      const i = 4 * c;
      const sound2 = (gamma * w[i + 3]) / w[i];
      floor[i] = small * w[i] * w[i];
      floor[i + 1] = small * sound2;
      floor[i + 2] = small * sound2;
      floor[i + 3] = small * w[i + 3] * w[i + 3];
    }
  }

  private addBoundaries(): void {
    const { joins, faces, owner } = this.geometry;
    const { inside, edge, flux, out, residual, waves } = this;
    const { normal, arm } = this.faces;
    const { gas } = this.physics;
    const { type, given } = this.boundary;
    const across = this.riemann === "contact" ? contactFlux : linearisedFlux;
    // What a straight line misses on the face is taken from the given state as well: else the difference is a wave, and faces within have none.
    const bending = gas.viscosityPaS > 0 && !this.triangles ? this.rimSlopes().inCells : undefined;
    for (let f = joins; f < faces; f++) {
      const b = f - joins;
      const c = owner[f];
      const nx = normal[3 * f];
      const ny = normal[3 * f + 1];
      const area = normal[3 * f + 2];
      reconstruct(inside, this.w, this.slope, this.share, c, arm[4 * f], arm[4 * f + 1]);
      if (type[b] === SLIP || type[b] === WALL) {
        flux[0] = 0;
        flux[1] = inside[3] * nx;
        flux[2] = inside[3] * ny;
        flux[3] = 0;
        this.wallPressure[b] = inside[3];
      } else if (type[b] === STATE) {
        faceState(edge, STATE, inside, given, 4 * b, nx, ny, gas);
        if (bending) for (let q = 0; q < 4; q++) edge[q] -= bending.bend(b, this.w[4 * c + q], (other) => this.w[4 * other + q]);
        across(flux, gas.gamma, inside, edge, nx, ny);
        this.wallPressure[b] = edge[3];
      } else {
        faceState(edge, type[b], inside, given, 4 * b, nx, ny, gas);
        exactFlux(flux, gas.gamma, edge, nx, ny);
        this.wallPressure[b] = edge[3];
      }
      for (let k = 0; k < 4; k++) {
        out[4 * b + k] = flux[k] * area;
        residual[4 * c + k] -= flux[k] * area;
      }
      waves[c] += (Math.abs(inside[1] * nx + inside[2] * ny) + Math.sqrt((gas.gamma * inside[3]) / inside[0])) * area;
    }
  }

  /** laid out when a viscous gas first asks */
  private rim: { readonly ofCells: Int32Array; readonly inCells: RimSlopes; readonly onFaces: RimSlopes } | undefined;

  private rimSlopes() {
    this.rim ??= { ofCells: rimOf(this.geometry), inCells: RimSlopes.inCells(this.geometry), onFaces: RimSlopes.onFaces(this.geometry) };
    return this.rim;
  }

  /** Slopes in the cells along the boundary, by a second degree. */
  private slopesAlongRim(): void {
    const { ofCells, inCells } = this.rimSlopes();
    const { w, slope } = this;
    const { joins, owner } = this.geometry;
    for (const b of ofCells) {
      if (!inCells.reaches(b)) continue;
      const c = owner[joins + b];
      for (let q = 0; q < 4; q++)
        slope.set(
          inCells.slope(b, w[4 * c + q], (other) => w[4 * other + q]),
          8 * c + 2 * q,
        );
    }
  }

  /** Shear stress and heat flow from averaged slopes, corrected along the line of the centroids. */
  private addViscous(): void {
    const { joins, faces, owner, neighbour, dx, dy, sx, sy, weight, volume } = this.geometry;
    const { w, slope, residual, out, waves } = this;
    const { gasConstant, viscosityPaS: mu, gamma, prandtl } = this.physics.gas;
    const conductivity = (mu * gamma * gasConstant) / ((gamma - 1) * prandtl);
    const temperature = (c: number) => w[4 * c + 3] / (w[4 * c] * gasConstant);
    // Slope of the temperature from those of density and pressure.
    const slopeT = (c: number, k: number) => (slope[8 * c + 6 + k] / w[4 * c + 3] - slope[8 * c + k] / w[4 * c]) * temperature(c);
    const { hoop } = this.geometry;
    const { faceCentreM, centroidM } = this.mesh;
    const stress = (f: number, ux: number, uy: number, vx: number, vy: number, u: number, v: number, heat: number) => {
      // A ring that moves outwards widens too. On the axis faces have no area, and nothing to widen.
      const widening = hoop && faceCentreM[2 * f + 1] > 0 ? v / faceCentreM[2 * f + 1] : 0;
      const third = ((ux + vy + widening) * 2) / 3;
      const x = mu * ((2 * ux - third) * sx[f] + (uy + vx) * sy[f]);
      const y = mu * ((uy + vx) * sx[f] + (2 * vy - third) * sy[f]);
      return [x, y, u * x + v * y + heat] as const;
    };
    for (let f = 0; f < joins; f++) {
      const o = owner[f];
      const n = neighbour[f];
      const a = weight[f];
      const b = 1 - a;
      const d2 = dx[f] * dx[f] + dy[f] * dy[f];
      const corrected = (gx: number, gy: number, jump: number) => {
        const miss = (jump - gx * dx[f] - gy * dy[f]) / d2;
        return [gx + miss * dx[f], gy + miss * dy[f]] as const;
      };
      const of = (k: number) =>
        corrected(
          a * slope[8 * o + 2 * k] + b * slope[8 * n + 2 * k],
          a * slope[8 * o + 2 * k + 1] + b * slope[8 * n + 2 * k + 1],
          w[4 * n + k] - w[4 * o + k],
        );
      const [ux, uy] = of(1);
      const [vx, vy] = of(2);
      const [hx, hy] = corrected(a * slopeT(o, 0) + b * slopeT(n, 0), a * slopeT(o, 1) + b * slopeT(n, 1), temperature(n) - temperature(o));
      const u = a * w[4 * o + 1] + b * w[4 * n + 1];
      const v = a * w[4 * o + 2] + b * w[4 * n + 2];
      const s = stress(f, ux, uy, vx, vy, u, v, conductivity * (hx * sx[f] + hy * sy[f]));
      for (let k = 0; k < 3; k++) {
        residual[4 * o + 1 + k] += s[k];
        residual[4 * n + 1 + k] -= s[k];
      }
      const area2 = sx[f] * sx[f] + sy[f] * sy[f];
      const widest = (4 * mu * gamma) / (3 * Math.min(w[4 * o], w[4 * n]) * Math.min(1, prandtl));
      waves[o] += (widest * area2) / volume[o];
      waves[n] += (widest * area2) / volume[n];
    }
    const { onFaces } = this.rimSlopes();
    for (let f = joins; f < faces; f++) {
      const b = f - joins;
      const c = owner[f];
      const i = 4 * c;
      const type = this.boundary.type[b];
      if (type !== WALL && type !== STATE) continue;
      const wall = type === WALL;
      const given = this.boundary.given;
      const ub = wall ? 0 : given[4 * b + 1];
      const vb = wall ? 0 : given[4 * b + 2];
      const held = wall ? given[4 * b] : given[4 * b + 3] / (given[4 * b] * gasConstant);
      const reaches = onFaces.reaches(b);
      // Where there are too few cells: what the cell has, corrected to meet the given value.
      const d2 = dx[f] * dx[f] + dy[f] * dy[f];
      const meet = (gx: number, gy: number, jump: number) => {
        const miss = (jump - gx * dx[f] - gy * dy[f]) / d2;
        return [gx + miss * dx[f], gy + miss * dy[f]] as const;
      };
      const [ux, uy] = reaches ? onFaces.slope(b, ub, (c) => w[4 * c + 1]) : meet(slope[8 * c + 2], slope[8 * c + 3], ub - w[i + 1]);
      const [vx, vy] = reaches ? onFaces.slope(b, vb, (c) => w[4 * c + 2]) : meet(slope[8 * c + 4], slope[8 * c + 5], vb - w[i + 2]);
      const [hx, hy] = reaches ? onFaces.slope(b, held, temperature) : meet(slopeT(c, 0), slopeT(c, 1), held - temperature(c));
      const heat = held > 0 ? conductivity * (hx * sx[f] + hy * sy[f]) : 0;
      const s = stress(f, ux, uy, vx, vy, ub, vb, heat);
      for (let k = 0; k < 3; k++) {
        residual[i + 1 + k] += s[k];
        out[4 * b + 1 + k] -= s[k];
      }
      waves[c] += (4 * mu * gamma * (sx[f] * sx[f] + sy[f] * sy[f])) / (3 * w[i] * volume[c] * Math.min(1, prandtl));
    }
    if (!hoop) return;
    // The stress round the axis pulls a ring inwards, as the pressure there pushes it outwards.
    for (let c = 0; c < hoop.length; c++) {
      const widening = w[4 * c + 2] / centroidM[2 * c + 1];
      residual[4 * c + 2] -= mu * (2 * widening - ((slope[8 * c + 2] + slope[8 * c + 5] + widening) * 2) / 3) * hoop[c];
    }
  }
}

/** Flux of one state through a face of unit area. */
function exactFlux(out: Float64Array, gamma: number, w: Float64Array, nx: number, ny: number): void {
  const q = w[1] * nx + w[2] * ny;
  const m = w[0] * q;
  out[0] = m;
  out[1] = m * w[1] + w[3] * nx;
  out[2] = m * w[2] + w[3] * ny;
  out[3] = q * ((gamma / (gamma - 1)) * w[3] + 0.5 * w[0] * (w[1] * w[1] + w[2] * w[2]));
}
