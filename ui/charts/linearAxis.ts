import { ticks as linearTicks } from "d3-array";
import { tickText } from "@/core/formatting/scale";

/** share of their size by which values must differ to be told apart on an axis */
const ALIKE = 1e-9;

/** Range, ticks and their texts of a linear axis that shows all values, with a little room. */
export function linearAxis(values: readonly number[], room = 0.06) {
  const good = values.filter(Number.isFinite);
  const low = good.reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY);
  const high = good.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY);
  if (!(high >= low)) return {};
  // Values that agree to round-off are drawn as equal: their last digits mean nothing, and there is no room for them.
  const size = Math.max(Math.abs(low), Math.abs(high));
  const pad = (high - low > ALIKE * size ? (high - low) * room : size * 1e-3) || 1;
  const domain: [number, number] = [low - pad, high + pad];
  const ticks = linearTicks(...domain, 5);
  return { domain, ticks, tickFormatter: tickText(ticks).whole };
}
