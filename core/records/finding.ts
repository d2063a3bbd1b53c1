/** A finding that nobody has shown cured. */
export interface OpenFinding {
  readonly title: string;
  /** the quantity it is about; all of the case where absent */
  readonly quantityKey?: string;
}
