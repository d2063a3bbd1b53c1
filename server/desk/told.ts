/** How far a task is, and what it is at. */
export interface Told {
  readonly done: number;
  readonly of: number;
  readonly what: string;
}

export type Tell = (told: Told) => void;
