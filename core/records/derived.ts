/** A quantity worked out from others by a formula. */
export interface DerivedSpec {
  readonly key: string;
  /** names in it are symbols of quantities and inputs; units are those of the names */
  readonly formula: string;
  readonly unit: string;
}

/** Something a formula may name. */
export interface NamedValue {
  readonly name: string;
  readonly unit: string;
}

/** Formulas of a case and the inputs they may name. */
export interface DerivedEvidence {
  readonly specs: readonly DerivedSpec[];
  readonly inputs: readonly (NamedValue & { readonly value: number })[];
}
