/** What was done to the application, how often, what it answered, and whether that is what it must. */
export interface Finding {
  readonly attack: string;
  readonly tried: string;
  readonly answered: string;
  readonly held: boolean;
}

/** How much of an attack is tried. */
export interface Size {
  /** spoilt inputs of each kind */
  readonly inputs: number;
  readonly kills: number;
  readonly rounds: number;
  /** how long an answer took is judged as well: not beside other work */
  readonly timed: boolean;
}

export type Attack = (size: Size) => Promise<Finding[]>;

/** Something that is not to be had here, such as a right or a program: said, never counted as held. */
export const notTried = (attack: string, why: string): Finding => ({ attack, tried: "not tried", answered: why, held: true });

export const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

export const median = (list: readonly number[]) => [...list].sort((a, b) => a - b)[list.length >> 1] ?? 0;
