/** A page one can jump to. */
export interface Place {
  readonly title: string;
  readonly hint: string;
  readonly href: string;
}
