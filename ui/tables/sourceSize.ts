import { percent } from "@/core/formatting/number";
import type { ErrorSource } from "@/core/method/budget/errorBudget";

/** signs before a size that no run shows */
const SIGNS = { measured: "", estimated: "≈ ", bounded: "≤ ", "not-applicable": "" } as const;

/** How large a source of error is, as tables print it: with the sign of how it was settled, where it was by hand. @param none what is said of one that does not apply */
export function sourceSize({ settled, relative }: Pick<ErrorSource, "settled" | "relative">, none = "does not apply"): string {
  if (settled?.kind === "not-applicable") return none;
  return relative == null ? "open" : `${settled ? SIGNS[settled.kind] : ""}${percent(relative)}`;
}
