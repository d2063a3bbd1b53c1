/** Which build of a code made a run, as far as that is known. */
export interface Build {
  /** what the code calls this version of itself */
  readonly version?: string;
  /** options it was built or started with */
  readonly options?: string;
  readonly compiler?: string;
  readonly machine?: string;
}

/** A code as it is named in a sentence. */
export const codeWords = (code: string): string => (code === "bench" ? "the bench" : code);

/** A run of a benchmark with a version of a code, as it stands in the rounds. */
export interface Tried {
  readonly code: string;
  readonly version: string;
  /** mesh and settings: only runs of one place are held against each other */
  readonly place: string;
  readonly runId: string;
  readonly quantityKey: string;
  readonly value: number;
  /** 95 %, of the record alone, in the quantity's unit */
  readonly noise: number;
  /** ISO date and time */
  readonly at: string;
}
