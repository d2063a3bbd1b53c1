import type { BoundaryConditions } from "../discrete/boundaryConditions.ts";
import type { ConvectionScheme } from "../kernels/schemes.ts";
import type { ScalarPhysics } from "./scalarField.ts";

/** A flow of constant properties, in kinematic form. */
export interface FlowPhysics {
  /** turns the kinematic form into forces and masses; 1 when not given */
  readonly densityKgM3?: number;
  /** m^2/s */
  readonly kinematicViscosity: number;
  /** body force over density, for instance minus a given pressure gradient over density, m/s^2 */
  readonly bodyForce: readonly [number, number];
  readonly boundaries: BoundaryConditions;
  /** temperature, traces, swirl */
  readonly scalars?: readonly ScalarPhysics[];
  /** acceleration that varies in space and time, such as a manufactured source, m/s^2 */
  readonly source?: (xM: number, yM: number, timeS: number) => readonly [number, number];
  /** velocity at the beginning, m/s; at rest otherwise */
  readonly initial?: (xM: number, yM: number) => readonly [number, number];
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
  /** one a transported quantity */
  scalars: number[];
}

/** Time derivative of every equation, rate * new + past, where past holds what earlier times contribute. */
export interface TimeTerm {
  /** 1/s */
  readonly rate: number;
  readonly u: Float64Array;
  readonly v: Float64Array;
  /** what earlier face fluxes add to the interpolated one; keeps the answer independent of the step */
  readonly flux: Float64Array;
  readonly scalars: readonly Float64Array[];
}
