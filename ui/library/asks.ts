import type { Explored } from "@/core/exact/explore";
import type { Conditions, Fit } from "@/core/exact/fitting";
import type { Parameter, Solution } from "@/core/exact/solution";

/** A solution as the list knows it. */
export interface Listed extends Pick<Solution, "id" | "name" | "subject" | "nature" | "words"> {
  readonly fit?: Fit;
}

/** A solution with everything that is said of it; formulas are set in type. */
export interface Shown extends Pick<Solution, "id" | "name" | "subject" | "nature" | "source" | "uncertainty" | "uncertaintyNote"> {
  readonly formulas: readonly string[];
  readonly parameters: readonly Parameter[];
  /** symbols of the parameters, set in type */
  readonly symbols: readonly string[];
}

/** What the page asks of the worker that knows the library. */
export interface LibraryQuestions {
  list: { readonly ask: { readonly conditions?: Conditions }; readonly answer: readonly Listed[] };
  show: { readonly ask: { readonly id: string }; readonly answer: Shown };
  explore: {
    readonly ask: { readonly id: string; readonly typed: Readonly<Record<string, string | number>>; readonly samples?: number };
    readonly answer: Explored;
  };
}

export type LibraryKind = keyof LibraryQuestions;
