import { percent } from "../../formatting/number.ts";
import type { ChosenSpread } from "../../records/studyChoice.ts";
import type { QuantityComparison } from "../results/comparison.ts";

/** What conditions make of a difference that count in the yardstick as well; nothing where none does. */
export function sharedSentence(name: string, v: QuantityComparison): string {
  if (!v.sharedInputs) return "";
  const { shared, uncertainty, alone } = v.sharedInputs;
  const names = shared.map((s) => s.toLowerCase()).join(", ");
  return `${name} against ${v.yardstick}: ${names} ${shared.length > 1 ? "count" : "counts"} in both. The conditions make ${percent(uncertainty / v.scale)} of the difference, ${percent(alone / v.scale)} of the simulated value alone, at 95 %.`;
}

/** How the standard numerical uncertainty is made of the 95 % figure. */
export function spreadSentence(chosen: ChosenSpread | undefined): string {
  const how =
    chosen?.spread === "shifted"
      ? "u_num is the 95 % figure of refinement over 1.15 (error to one side of the finest mesh, a shifted normal distribution), of other sources half of it"
      : "u_num is half the 95 % figure (error about the result of the finest mesh, a normal distribution)";
  return `${how}${chosen ? `, because ${chosen.reason} (${chosen.by})` : ""}.`;
}
