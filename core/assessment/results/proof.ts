/** How a code stood against an exact answer in a case: a field, its order, what it was run with. */
export interface Proof {
  readonly code: string;
  readonly field: string;
  readonly method: string;
  readonly order?: number;
  readonly formalOrder: number;
  readonly verdict: "exact" | "formal-order" | "below-order" | "above-order" | "too-few";
}
