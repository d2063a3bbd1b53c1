/** What crosses one boundary, outward positive, per unit depth for plane flows. Parts that were not delivered are absent. */
export interface BoundaryFlux {
  readonly name: string;
  /** a wall or a line of symmetry: nothing flows through it */
  readonly closed?: boolean;
  /** what leaves goes out here and may come back in */
  readonly outlet?: boolean;
  /** kg/s (per m) */
  readonly mass?: number;
  /** of an outlet: what comes back in through it, counted positive, kg/s (per m) */
  readonly massBack?: number;
  /** N (per m): carried by the flow, by pressure, by viscous stress */
  readonly momentumX?: readonly [flow: number, pressure: number, shear: number];
  readonly momentumY?: readonly [flow: number, pressure: number, shear: number];
  readonly momentumZ?: readonly [flow: number, pressure: number, shear: number];
  /** transported quantities, carried by the flow and by diffusion: quantity times m^3/s (per m); energy in W (per m) */
  readonly scalars?: Readonly<Record<string, readonly [carried: number, diffused: number]>>;
}

export interface BalanceRecord {
  /** worked out from the surface that was brought in, not reported */
  readonly from?: "surface";
  readonly boundaries: readonly BoundaryFlux[];
  /** times the modelled part stands in the whole: already applied to every figure here, once */
  readonly factor?: number;
  /** body force on the whole fluid, N (per m) */
  readonly bodyForce?: readonly [number, number];
  /** what the volume produces of each transported quantity, as its fluxes are measured */
  readonly sources?: Readonly<Record<string, number>>;
  /** what the volume takes up per second in a flow that changes in time: mass, momentum, transported quantities */
  readonly storage?: {
    readonly mass?: number;
    readonly momentum?: readonly [number, number];
    readonly scalars?: Readonly<Record<string, number>>;
  };
  /** all forces and momentum flows face by face, summed without sign: what a sum that vanishes by symmetry is small against, N (per m) */
  readonly momentumReference?: number;
  /** the same for transported quantities, energy among them */
  readonly scalarReference?: Readonly<Record<string, number>>;
  /** used where nothing flows through: kg/s (per m) */
  readonly massReference?: number;
}
