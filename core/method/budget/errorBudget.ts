import type { SettlementKind, SourceKey } from "../../records/settlement.ts";

/** One pin of the rule: an error source of a quantity as a fraction of its scale, at about 95 %. */
export interface ErrorSource {
  readonly key: SourceKey;
  readonly name: string;
  readonly group: "numerical" | "input" | "machine";
  /** fraction of the scale; undefined: not measured */
  readonly relative?: number;
  /** stage whose evidence the figure comes from */
  readonly stage: "runs" | "settling" | "balance" | "refinement" | "comparison" | "question" | "yardsticks" | "verdict";
  /** why it is missing, or how it was found */
  readonly note: string;
  /** when the evidence was made, ISO date and time */
  readonly at?: string;
  /** present where a person said it and nothing measured it */
  readonly settled?: { readonly kind: SettlementKind; readonly by: string; readonly reason: string };
}

export interface ErrorBudget {
  readonly quantityKey: string;
  /** what the fractions are of, in the quantity's unit */
  readonly scale: number;
  /** what the scale is, where it is not the size of the quantity or its yardstick: "the reference velocity" */
  readonly scaleName?: string;
  readonly value?: number;
  readonly sources: readonly ErrorSource[];
  /** S - D as a fraction of the scale */
  readonly difference?: number;
  /** 2 u_val as a fraction of the scale; while sources are open, what the others make of it at least */
  readonly band?: number;
  readonly bandAtLeast?: number;
  /** standard numerical uncertainty as a fraction of the scale: root of squares of the numerical sources over two */
  readonly uNum?: number;
  /** the same of the inputs; 0 where none are counted */
  readonly uInput?: number;
  readonly dominant?: string;
  readonly missing: readonly string[];
}

/** Standard numerical uncertainty from the 95 % figures of the independent numerical sources; undefined while one is missing. */
export function numericalUncertainty(sources: readonly ErrorSource[]): number | undefined {
  const numerical = sources.filter((s) => s.group !== "input");
  return numerical.some((s) => s.relative === undefined) ? undefined : standardOf(numerical);
}

/**
 * Half the root of the squares of the 95 % figures that are known.
 * @example
 * standardOf([{ relative: 0.03 }, { relative: 0.04 }]) // 0.025
 */
export function standardOf(sources: readonly ErrorSource[]): number {
  return Math.sqrt(sources.reduce((sum, s) => sum + (s.relative ?? 0) ** 2, 0)) / 2;
}

/** Largest of the measured sources. */
export function dominantSource(sources: readonly ErrorSource[]): ErrorSource | undefined {
  return sources
    .filter((s) => s.relative !== undefined)
    .reduce<ErrorSource | undefined>((top, s) => (!top || (s.relative ?? 0) > (top.relative ?? 0) ? s : top), undefined);
}
