import type { Calibration, PixelDoubt } from "../figure/calibration.ts";

/** Anything a result is compared with. Plain data, so that it can be stored, hashed and printed. */
export interface Reference {
  readonly key: string;
  readonly name: string;
  /** typed by a person, who can take it off; the others are worked out by the template */
  readonly typed?: boolean;
  readonly kind: "exact" | "correlation" | "table" | "measured" | "other-code";
  readonly source: string;
  /** where it holds, in words, and whether this case lies there */
  readonly validity: { readonly sentence: string; readonly inside: boolean };
  readonly values: readonly ReferenceValue[];
  readonly profiles: readonly ReferenceProfile[];
  /** conditions it was made at, SI, held against the case's whenever the case is opened */
  readonly conditions?: readonly StatedCondition[];
  /** who measured it, how and when, and the file it came in */
  readonly provenance?: Provenance;
  /** the picture it was read off */
  readonly figure?: ReadFigure;
  /** where it was taken from the library of solutions, by what: its figures are worked out whenever the case is opened */
  readonly made?: FromLibrary;
}

/** A picture that curves were read off, with everything they can be read off it again by. */
export interface ReadFigure {
  /** PNG, and the name and hash of the file it came from */
  readonly hash: string;
  readonly name: string;
  readonly sourceHash?: string;
  readonly calibration: Calibration;
  readonly doubt: PixelDoubt;
  /** places of each curve, pixels, in the order of its points */
  readonly places: Readonly<Record<string, readonly (readonly [x: number, y: number])[]>>;
}

/** A condition something was measured at. */
export interface StatedCondition {
  /** what it is, by the name conditions of cases go by */
  readonly like: "velocity" | "length" | "density" | "viscosity" | "kinematic" | "reynolds" | "mach" | "prandtl" | "rayleigh";
  readonly value: number;
}

export interface Provenance {
  readonly who?: string;
  readonly how?: string;
  readonly when?: string;
  readonly file?: { readonly name: string; readonly hash: string };
}

/** Which solution stands for what of a case, at which parameters. */
export interface FromLibrary {
  readonly solution: string;
  /** SI, of those that were set */
  readonly parameters: Readonly<Record<string, number>>;
  /** parameters that are the case's own conditions, whatever those are */
  readonly followed: readonly string[];
  readonly values: readonly { readonly from: string; readonly quantityKey: string; readonly sign?: 1 | -1 }[];
  readonly curves: readonly { readonly from: string; readonly profileKey: string }[];
}

export interface ReferenceValue {
  readonly quantityKey: string;
  readonly value: number;
  /** standard uncertainty, in the quantity's unit; undefined when the source states none */
  readonly standardUncertainty?: number;
  readonly uncertaintyNote: string;
  /**
   * percent by which it changes when a condition of the case changes by one percent, by the key of the condition: of what is worked out from the case's
   * own conditions. What a condition makes of it is no part of its uncertainty.
   */
  readonly answers?: Readonly<Record<string, number>>;
}

export interface ReferenceProfile {
  readonly profileKey: string;
  /** what it is called and counted in; absent where it goes by the run's own */
  readonly axes?: CurveAxes;
  /** drawn as a line, not as points: it was sampled */
  readonly line?: boolean;
  readonly abscissa: readonly number[];
  readonly value: readonly number[];
  /** standard uncertainty of the points, each point's own part of it, in the profile's unit: one for all, or one for each */
  readonly standardUncertainty?: number | readonly number[];
  /** the part of it that all points share, such as a calibration; the other part is each point's own */
  readonly systematicUncertainty?: number | readonly number[];
  /** standard uncertainty of the places, in the unit of the abscissa */
  readonly abscissaUncertainty?: number | readonly number[];
  readonly uncertaintyNote: string;
  /** places outside are not compared: the record does not hold there */
  readonly window?: readonly [low: number, high: number];
  /** what was done to the figures of its source, in words */
  readonly changes?: readonly string[];
  /** how its figures, which stay as its source has them, are turned before they are compared */
  readonly turned?: { readonly abscissa?: AxisTurn; readonly value?: AxisTurn };
  /** points that are not believed, by index, with the reason: a misprint, an outlier; they are shown and decide nothing */
  readonly doubtful?: readonly { readonly index: number; readonly reason: string }[];
}

/** A scale and an origin of one's own: what stands there is multiplied by the factor, and the shift added. */
export interface AxisTurn {
  readonly factor: number;
  /** in the unit below */
  readonly shift: number;
  /** what the outcome is counted in */
  readonly unit: string;
  readonly words: string;
  /** the entries as they were typed, for whoever turns it otherwise */
  readonly entries?: { readonly times: string; readonly plus: string; readonly otherSign: boolean; readonly inclined?: string };
}

/** What a curve is called, and what its two columns are. */
export interface CurveAxes {
  readonly name: string;
  readonly abscissa: { readonly name: string; readonly unit: string };
  readonly value: { readonly name: string; readonly unit: string };
}
