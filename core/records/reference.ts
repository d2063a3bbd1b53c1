/** Anything a result is compared with. Plain data, so that it can be stored, hashed and printed. */
export interface Reference {
  readonly key: string;
  readonly name: string;
  /** typed by a person, who can take it off; the others are worked out by the template */
  readonly typed?: boolean;
  readonly kind: "exact" | "table" | "measured" | "other-code";
  readonly source: string;
  /** where it holds, in words, and whether this case lies there */
  readonly validity: { readonly sentence: string; readonly inside: boolean };
  readonly values: readonly ReferenceValue[];
  readonly profiles: readonly ReferenceProfile[];
}

export interface ReferenceValue {
  readonly quantityKey: string;
  readonly value: number;
  /** standard uncertainty, in the quantity's unit; undefined when the source states none */
  readonly standardUncertainty?: number;
  readonly uncertaintyNote: string;
}

export interface ReferenceProfile {
  readonly profileKey: string;
  readonly abscissa: readonly number[];
  readonly value: readonly number[];
  /** standard uncertainty of each point, in the profile's unit */
  readonly standardUncertainty?: number;
  readonly uncertaintyNote: string;
  /** points the source is known to misprint, by index, with the reason */
  readonly doubtful?: readonly { readonly index: number; readonly reason: string }[];
}
