import { significant } from "../../formatting/number.ts";
import type { Numbers } from "../../numeric/numbers.ts";
import { recentError } from "./iterationError.ts";
import { theilSen } from "./residuals.ts";

/** A quantity as it is watched while a run is under way. */
export interface WatchedQuantity {
  readonly name: string;
  readonly limit: number;
  readonly values: Numbers;
  /** what it will be compared with, where that is known */
  readonly reference?: number;
}

export interface RunWatch {
  /** residuals over their start, one list a residual */
  readonly residuals: Readonly<Record<string, Numbers>>;
  readonly dropTarget: number;
  readonly quantities: readonly WatchedQuantity[];
  /** share of the flow through outlets that comes back in */
  readonly backflow?: number;
  readonly transient: boolean;
}

export interface EarlyWarning {
  readonly rule: "diverging" | "outside-range" | "settled-already" | "backflow";
  readonly sentence: string;
}

const LOOK_BACK = 8;
const FAR = 2;
const SETTLED = 0.01;
const ENOUGH = 12;

/** What a person watching would be told in words, while there is still time to act. */
export function earlyWarnings(w: RunWatch): EarlyWarning[] {
  const out: EarlyWarning[] = [];
  const rising = Object.entries(w.residuals).filter(
    ([, r]) => r.length > LOOK_BACK && r[r.length - 1] > 10 * r[r.length - 1 - LOOK_BACK] && r[r.length - 1] > 1e-8,
  );
  if (rising.length && !w.transient) {
    const [name, r] = rising[0];
    out.push({
      rule: "diverging",
      sentence: `Diverging: the residual of ${name} has grown ${significant(r[r.length - 1] / r[r.length - 1 - LOOK_BACK], 2)}-fold in ${LOOK_BACK} iterations.`,
    });
  }
  for (const q of w.quantities) {
    const now = q.values[q.values.length - 1];
    if (q.reference === undefined || q.values.length < ENOUGH || w.transient || !(Math.abs(now - q.reference) > FAR * Math.abs(q.reference)))
      continue;
    out.push({
      rule: "outside-range",
      sentence: `Outside the sensible range: ${q.name} is ${significant(now, 3)}, its yardstick says ${significant(q.reference, 3)}.`,
    });
  }
  if (!w.transient && w.quantities.length && stands(w.quantities, SETTLED) && !reached(w)) {
    out.push({
      rule: "settled-already",
      sentence: "Settled already: every quantity stands still to a hundredth of its limit. Stop and save the rest.",
    });
  }
  if ((w.backflow ?? 0) > 0.02) {
    out.push({
      rule: "backflow",
      sentence: `Backflow: ${significant((w.backflow ?? 0) * 100, 2)} % of what passes the outlet comes back in. Lengthen the domain.`,
    });
  }
  return out;
}

const reached = (w: RunWatch) => Object.values(w.residuals).every((r) => r[r.length - 1] <= 10 ** -w.dropTarget);

/** Do all quantities stand still, their remaining iteration error below a share of their limits? (method 1) */
export function stands(quantities: readonly WatchedQuantity[], share: number): boolean {
  return quantities.every((q) => {
    if (q.values.length < ENOUGH) return false;
    const now = q.values[q.values.length - 1];
    const scale = Math.abs(q.reference ?? now);
    return scale > 0 && Math.abs(recentError(q.values).error) < share * q.limit * scale;
  });
}

/** Iterations until the slowest residual reaches its target at the pace of its last stretch; undefined when it does not fall. */
export function iterationsLeft(residuals: RunWatch["residuals"], dropTarget: number): number | undefined {
  let most = 0;
  for (const r of Object.values(residuals)) {
    if (r.length < 6) return undefined;
    const tail = r.slice(-12).map((x) => Math.log10(Math.max(x, 1e-300)));
    const { slope } = theilSen(tail);
    const now = tail[tail.length - 1];
    if (now <= -dropTarget) continue;
    if (!(slope < 0)) return undefined;
    most = Math.max(most, Math.ceil((now + dropTarget) / -slope));
  }
  return most;
}
