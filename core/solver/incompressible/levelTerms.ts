import { type BoundaryConditions, type BoundaryState, OUTLET } from "../discrete/boundaryConditions.ts";
import type { FlowGeometry } from "../discrete/flowGeometry.ts";
import type { Pair } from "../kernels/kernels.ts";
import type { LevelResiduals } from "./flowPhysics.ts";
import type { ScalarField } from "./scalarField.ts";

/** What is read off the equations of a level after they were evaluated. */
export interface EvaluatedLevel {
  readonly geometry: FlowGeometry;
  readonly boundary: BoundaryState;
  /** kinematic, m^2/s */
  readonly viscosity: number;
  readonly u: Float64Array;
  readonly v: Float64Array;
  readonly flux: Float64Array;
  readonly slopes: { readonly u: Pair; readonly v: Pair };
}

type Vector = [number, number];

/** Of a boundary face, per unit depth and density. */
export interface BoundaryTerms {
  /** m^2/s */
  readonly mass: number;
  /** carried out, m^3/s^2 */
  readonly momentum: Vector;
  /** forces on the fluid, m^3/s^2 */
  readonly pressure: Vector;
  readonly shear: Vector;
}

/** Force of a boundary face on the fluid and the momentum it carries out, as the discrete equations see them. */
export function boundaryTerms(level: EvaluatedLevel, f: number): BoundaryTerms {
  const { joins, owner, sx, sy, conductance, rim } = level.geometry;
  const b = f - joins;
  const c = owner[f];
  const { u: ub, v: vb, p: pb, type } = level.boundary;
  const nu = level.viscosity;
  const F = level.flux[f];
  const shear = (qb: number, q: number, [gx, gy]: Pair) =>
    type[b] === OUTLET ? 0 : -nu * (conductance[f] * (qb - q) + gx[c] * rim.tx[b] + gy[c] * rim.ty[b]);
  return {
    mass: F,
    momentum: [F * ub[b], F * vb[b]],
    pressure: [pb[b] * sx[f], pb[b] * sy[f]],
    shear: [shear(ub[b], level.u[c], level.slopes.u), shear(vb[b], level.v[c], level.slopes.v)],
  };
}

/**
 * What the transposed velocity slope adds to the shear on a boundary face, m^3/s^2: nothing on a wall at rest, and on a moving one it follows
 * from how the wall's own velocity changes along it.
 */
export function transposedShear(
  { mesh, joins, sx, sy }: FlowGeometry,
  conditions: BoundaryConditions,
  viscosity: number,
  f: number,
  timeS: number,
): Vector {
  const condition = conditions[mesh.boundaries[mesh.boundaryOfFace[f - joins]].name];
  if (!("velocity" in condition) || typeof condition.velocity !== "function") return [0, 0];
  const area = Math.hypot(sx[f], sy[f]);
  const [nx, ny] = [sx[f] / area, sy[f] / area];
  const [x, y] = [mesh.faceCentreM[2 * f], mesh.faceCentreM[2 * f + 1]];
  const h = 0.5 * area;
  const [ua, va] = condition.velocity(x + h * ny, y - h * nx, timeS);
  const [ub, vb] = condition.velocity(x - h * ny, y + h * nx, timeS);
  const [du, dv] = [(ub - ua) / area, (vb - va) / area];
  const along = -du * ny + dv * nx;
  const across = du * nx + dv * ny;
  const factor = -viscosity * area;
  return [factor * (-along * nx - across * ny), factor * (-along * ny + across * nx)];
}

/** Sum over the volume of all forces per density but those of the boundaries, m^3/s^2. */
export function volumeForces(
  { cells, volume }: FlowGeometry,
  [bx, by]: readonly [number, number],
  source: Pair | undefined,
  scalars: readonly Pick<ScalarField, "physics" | "q">[],
): Vector {
  let x = 0;
  let y = 0;
  for (let c = 0; c < cells; c++) {
    x += bx * volume[c] + (source ? source[0][c] : 0);
    y += by * volume[c] + (source ? source[1][c] : 0);
  }
  for (const { physics, q } of scalars) {
    if (!physics.buoyancy) continue;
    for (let c = 0; c < cells; c++) {
      x += physics.buoyancy[0] * (q[c] - (physics.neutral ?? 0)) * volume[c];
      y += physics.buoyancy[1] * (q[c] - (physics.neutral ?? 0)) * volume[c];
    }
  }
  return [x, y];
}

/**
 * Sum of |residual| over sum of |a_P (u - mean u)| of both components (method 9): they share one scale,
 * so that a component that is zero everywhere does not look unconverged.
 */
export function momentumResiduals([sumX, sumY, scale]: ArrayLike<number> & Iterable<number>): Pick<LevelResiduals, "xMomentum" | "yMomentum"> {
  // Before anything moves there is no scale to measure by; what is no number must not pass for it.
  return { xMomentum: scale === 0 ? 0 : sumX / scale, yMomentum: scale === 0 ? 0 : sumY / scale };
}
