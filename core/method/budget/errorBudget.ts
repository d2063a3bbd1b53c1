import type { SettlementKind, SourceKey } from "../../records/settlement.ts";
import type { NumericalSpread } from "../../records/studyChoice.ts";

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
  readonly settled?: { readonly kind: SettlementKind; readonly by: string; readonly reason: string; readonly link?: string };
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

/**
 * What a 95 % figure of a refinement is divided by for a standard uncertainty: errors about the finest result as a normal distribution has them, or about
 * the limit the meshes run to, which lies to one side.
 * @source ASME V&V 20-2009, sec. 2-4
 */
export const K_NUMERICAL: Readonly<Record<NumericalSpread, number>> = { centred: 2, shifted: 1.15 };

/** sources whose figure is made by refinement */
const BY_REFINEMENT: readonly SourceKey[] = ["mesh", "time-step", "domain"];

/** Standard numerical uncertainty from the 95 % figures of the independent numerical sources; undefined while one is missing. */
export function numericalUncertainty(sources: readonly ErrorSource[], spread?: NumericalSpread): number | undefined {
  const numerical = sources.filter((s) => s.group !== "input");
  return numerical.some((s) => s.relative === undefined) ? undefined : standardOf(numerical, spread);
}

/**
 * Root of the squares of the standard uncertainties that are known: half the 95 % figures, those made by refinement as their spread is taken.
 * @example
 * standardOf([{ relative: 0.03 }, { relative: 0.04 }]) // 0.025
 */
export function standardOf(sources: readonly ErrorSource[], spread: NumericalSpread = "centred"): number {
  const k = (s: ErrorSource) => (BY_REFINEMENT.includes(s.key) ? K_NUMERICAL[spread] : 2);
  return Math.sqrt(sources.reduce((sum, s) => sum + ((s.relative ?? 0) / k(s)) ** 2, 0));
}

/** Largest of the measured sources. */
export function dominantSource(sources: readonly ErrorSource[]): ErrorSource | undefined {
  return sources
    .filter((s) => s.relative !== undefined)
    .reduce<ErrorSource | undefined>((top, s) => (!top || (s.relative ?? 0) > (top.relative ?? 0) ? s : top), undefined);
}
