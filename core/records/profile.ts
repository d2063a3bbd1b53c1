/** Values along a line: abscissa and value, both in the units named. */
export interface Profile {
  readonly key: string;
  readonly name: string;
  readonly abscissa: { readonly name: string; readonly unit: string; readonly values: readonly number[] };
  readonly value: { readonly name: string; readonly unit: string; readonly values: readonly number[] };
}

/** Error of a field against an exact one, cell-centre values, volume weighted. */
export interface ErrorNorms {
  readonly field: string;
  readonly unit: string;
  readonly l1: number;
  readonly l2: number;
  readonly linf: number;
  /** largest exact value: what the norms are small against */
  readonly scale: number;
  /** where the largest error sits; absent where another code did not say */
  readonly worstAtM?: readonly [number, number];
}
