/** One derived quantity of the finest run, with where it comes from. */
export interface DerivedAssessment {
  readonly key: string;
  readonly formula: string;
  readonly uses: readonly string[];
  readonly value?: number;
  /** first order, from the numerical uncertainties of its parts */
  readonly standard?: number;
}
