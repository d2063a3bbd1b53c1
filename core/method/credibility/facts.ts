/** What is known that bears on how credible the figures of a case are; counts and names, no levels. */
export interface CredibilityFacts {
  /** the runs were made with an earlier set-up */
  readonly stale: boolean;
  /** the truth is exact: the case verifies a code and validates nothing */
  readonly exact: boolean;
  /** conditions are what they are by definition, as in an exact or published case */
  readonly defined: boolean;
  readonly hasRuns: boolean;
  readonly code: {
    readonly name: string;
    /** titles of cases with an exact answer that this code met within its uncertainty */
    readonly met: readonly string[];
    /** titles of cases where this code had its formal order in every field compared */
    readonly orderShown: readonly string[];
    /** of those, cases with the physics of this one: in time or steady, compressible or not */
    readonly sameKind: number;
    /** fields that fell short of the formal order somewhere */
    readonly short: readonly string[];
  };
  readonly solution: {
    readonly meshes: number;
    readonly settled: boolean;
    /** numerical sources by how they are known */
    readonly open: readonly string[];
    readonly byReason: readonly string[];
    /** the observed order agrees with the formal one, to a tenth */
    readonly orderAgrees: boolean;
    /** numerical uncertainty at 95 % over the limit; absent while it is not known */
    readonly overLimit?: number;
  };
  readonly validation: {
    /** yardsticks that hold here and are no code's result */
    readonly deciding: readonly string[];
    /** other codes' results, and yardsticks outside their range */
    readonly weak: readonly string[];
    /** a deciding one with every source known */
    readonly complete: number;
    /** two of them or more, none apart from another by more than their uncertainties */
    readonly agree: boolean;
    readonly fails: boolean;
  };
  readonly inputs: {
    /** remarks on the set-up that stop, and doubts nobody answered */
    readonly stops: readonly string[];
    readonly doubts: readonly string[];
    readonly given: number;
    readonly conditions: number;
    /** every given one was propagated, and by runs rather than typed figures */
    readonly propagated: boolean;
    readonly byRuns: boolean;
  };
  readonly uncertainty: {
    readonly open: readonly string[];
    readonly byReason: readonly string[];
    readonly sources: number;
    readonly inputsKnown: boolean;
  };
  /** what was varied with its effect known: mesh, time step, domain, stopping tolerance, scheme, conditions */
  readonly varied: readonly string[];
  readonly history: {
    /** other cases of the programme this code was judged in */
    readonly judged: readonly string[];
    /** of them those that held, at conditions within a factor of three of these */
    readonly near: readonly string[];
    readonly failed: readonly string[];
  };
  readonly people: {
    readonly named: number;
    readonly checks: boolean;
    readonly approves: boolean;
    readonly reports: number;
  };
}
