export type Facts = Readonly<Record<string, number>>;

/** What a case's set-up says, in SI; what was not typed is absent. */
export interface Setup {
  /** "air", "water" or any other name */
  readonly fluidName: string;
  readonly temperatureK?: number;
  readonly pressurePa?: number;
  readonly densityKgM3: number;
  readonly dynamicViscosityPaS?: number;
  readonly kinematicViscosityM2S?: number;
  readonly velocityMS: number;
  readonly velocityName: string;
  readonly lengthM: number;
  readonly lengthName: string;
  readonly reynoldsTyped?: number;
  readonly compressible: boolean;
  /** no viscosity is part of the model */
  readonly inviscid?: boolean;
  /** speed of sound of the gas that is computed, m/s */
  readonly soundSpeedMS?: number;
  /** formal order of the convective scheme; absent where another code's is not known */
  readonly schemeOrder?: 1 | 2;
  /** orders of magnitude residuals are to fall; absent where another code's tolerance is not known */
  readonly dropOrders?: number;
  /** residuals are taken down within every time step, not over the run */
  readonly inTime?: boolean;
  /** computed by another code */
  readonly foreign?: boolean;
  /** whatever else is known, by the keys of `FACTS` */
  readonly facts?: Facts;
  /** where temperature drives or rides with the flow */
  readonly heat?: {
    readonly prandtl: number;
    readonly expansionPerK?: number | undefined;
    readonly differenceK?: number | undefined;
    readonly gravityMS2?: number | undefined;
  };
  /** a duct compared with its developed profile, let in undeveloped */
  readonly entry?: { readonly lengthM: number; readonly gapM: number; readonly meanVelocityMS?: number };
}
