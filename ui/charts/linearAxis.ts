import { ticks as linearTicks } from "d3-array";
import { tickText, toldApart } from "@/core/formatting/scale";

/** Range, ticks and their texts of a linear axis that shows all values, with a little room. */
export function linearAxis(values: readonly number[], room = 0.06) {
  const good = values.filter(Number.isFinite);
  const low = good.reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY);
  const high = good.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY);
  if (!(high >= low)) return {};
  const pad = (toldApart(low, high) ? (high - low) * room : Math.max(Math.abs(low), Math.abs(high)) * 1e-3) || 1;
  const domain: [number, number] = [low - pad, high + pad];
  const ticks = linearTicks(...domain, 5);
  return { domain, ticks, tickFormatter: tickText(ticks).whole };
}
