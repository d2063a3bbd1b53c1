import type { BoundaryConditions } from "../discrete/boundaryConditions.ts";

type Vector = readonly [number, number];

/** What a flow's equations are made with, as far as readings ask. */
export interface ReadablePhysics {
  readonly densityKgM3?: number;
  readonly bodyForce: Vector;
  readonly boundaries: BoundaryConditions;
}

/** A transported quantity of a flow. */
interface ReadableScalar {
  readonly physics: { readonly key: string; readonly buoyancy?: unknown; readonly swirl?: unknown };
  boundaryTerms(f: number, flux: Float64Array): { readonly carried: number; readonly diffused: number };
  volumeTerms(rate: number): { readonly source: number; readonly stored: number };
}

/** The present fields of a flow and what crosses its boundaries; kinematic: over density. */
export interface ReadableFlow {
  readonly u: Float64Array;
  readonly v: Float64Array;
  readonly p: Float64Array;
  readonly flux: Float64Array;
  readonly boundary: {
    readonly type: ArrayLike<number>;
    readonly u: ArrayLike<number>;
    readonly v: ArrayLike<number>;
    readonly p: ArrayLike<number>;
  };
  readonly scalars: readonly ReadableScalar[];
  readonly time?: { readonly rate: number };
  readonly forced: boolean;
  boundaryTerms(f: number): { readonly mass: number; readonly momentum: Vector; readonly pressure: Vector; readonly shear: Vector };
  volumeForces(): Vector;
  accelerated(): Vector;
}

/** The present fields of a gas. */
export interface ReadableGas {
  readonly physics: {
    readonly gas: { readonly gamma: number; readonly gasConstant: number; readonly viscosityPaS: number };
    readonly source?: unknown;
  };
  /** density, u, v, pressure a cell */
  readonly w: Float64Array;
  /** flux out through every boundary face: mass first of four */
  readonly out: Float64Array;
}
