import { percent, significant } from "../../formatting/number.ts";
import { pchip } from "../../numeric/pchip.ts";
import type { ErrorNorms, Profile } from "../../records/profile.ts";
import type { ReferenceProfile } from "../../records/reference.ts";
import { rulesOf } from "../../remarks/rule.ts";

/** Curve against a yardstick's points inside the overlap of both. */
export interface ProfileComparison {
  readonly profileKey: string;
  readonly points: readonly {
    readonly at: number;
    readonly simulated: number;
    readonly reference: number;
    readonly difference: number;
    readonly doubtful?: string;
  }[];
  readonly outside: number;
  /** what the norms are counted in: the range of the reference, or its largest size where it has no range */
  readonly range: number;
  readonly rangeName: "range" | "largest value";
  readonly l1: number;
  readonly l2: number;
  readonly linf: number;
  readonly worst?: { readonly at: number; readonly difference: number; readonly doubtful?: string };
  /** what was done to the simulated curve before it was read */
  readonly notes: readonly string[];
}

/** A curve that cannot be compared, with the reason. */
export interface ProfileRefusal {
  readonly profileKey: string;
  readonly refused: string;
}

/** repeats of one abscissa may differ by this share of the curve's range */
const REPEATED = 0.01;

/**
 * Discrete norms over the reference points; the simulated curve is read by monotone cubic interpolation and never beyond its ends.
 * Points the source misprints take no part in the norms and are listed. Entries of the simulated curve that share an abscissa are averaged
 * when they agree within a hundredth of its range.
 * @returns a refusal when no point is left to compare, or entries at one abscissa contradict each other
 */
export function compareProfile(profile: Profile, reference: ReferenceProfile): ProfileComparison | ProfileRefusal {
  const { profileKey } = reference;
  const curve = ascending(profile.abscissa.values, profile.value.values);
  if ("refused" in curve) return { profileKey, refused: curve.refused };
  const { xs, ys } = curve;
  if (xs.length < 2) return { profileKey, refused: "The simulated curve has fewer than two points." };
  const doubts = new Map((reference.doubtful ?? []).map((d) => [d.index, d.reason]));
  let outside = 0;
  const points = reference.abscissa.flatMap((at, i) => {
    if (!(at >= xs[0] && at <= xs[xs.length - 1])) {
      outside++;
      return [];
    }
    const simulated = pchip(xs, ys, at);
    return [{ at, simulated, reference: reference.value[i], difference: simulated - reference.value[i], doubtful: doubts.get(i) }];
  });
  const used = points.filter((p) => !p.doubtful);
  if (!used.length) {
    const where = `the reference lies from ${significant(Math.min(...reference.abscissa), 4)} to ${significant(Math.max(...reference.abscissa), 4)}, the simulated curve from ${significant(xs[0], 4)} to ${significant(xs[xs.length - 1], 4)}`;
    return { profileKey, refused: points.length ? "Every point of the reference is doubtful." : `The two curves have no point in common: ${where}.` };
  }
  const spread = Math.max(...reference.value) - Math.min(...reference.value);
  const largest = Math.max(...reference.value.map(Math.abs), ...ys.map(Math.abs));
  const flat = !(spread > 1e-9 * largest);
  const sizes = used.map((p) => Math.abs(p.difference));
  const worst = points.reduce<ProfileComparison["worst"]>((w, p) => (!w || Math.abs(p.difference) > Math.abs(w.difference) ? p : w), undefined);
  return {
    profileKey,
    points,
    outside,
    range: flat ? largest || 1 : spread,
    rangeName: flat ? "largest value" : "range",
    l1: sizes.reduce((s, v) => s + v, 0) / used.length,
    l2: Math.sqrt(sizes.reduce((s, v) => s + v * v, 0) / used.length),
    linf: Math.max(...sizes),
    worst: worst && { at: worst.at, difference: worst.difference, doubtful: worst.doubtful },
    notes: curve.merged ? [`${curve.merged} entries that stand at the same place as another were averaged with it.`] : [],
  };
}

/** A curve in the order of its abscissae, repeats averaged; refused where they contradict each other. */
function ascending(x: readonly number[], y: readonly number[]): { xs: number[]; ys: number[]; merged: number } | { refused: string } {
  const order = x.map((_, i) => i).filter((i) => Number.isFinite(x[i]) && Number.isFinite(y[i]));
  order.sort((a, b) => x[a] - x[b]);
  const values = order.map((i) => y[i]);
  const allowed = REPEATED * (Math.max(...values) - Math.min(...values));
  const xs: number[] = [];
  const ys: number[] = [];
  for (let from = 0; from < order.length; ) {
    let to = from + 1;
    while (to < order.length && x[order[to]] === x[order[from]]) to++;
    const same = order.slice(from, to).map((i) => y[i]);
    const [low, high] = [Math.min(...same), Math.max(...same)];
    if (high - low > allowed)
      return {
        refused: `At ${significant(x[order[from]], 5)} the simulated curve has ${same.length} values that contradict each other, from ${significant(low, 4)} to ${significant(high, 4)}: leave one out.`,
      };
    xs.push(x[order[from]]);
    ys.push(same.reduce((a, b) => a + b, 0) / same.length);
    from = to;
  }
  return { xs, ys, merged: order.length - xs.length };
}

/** Error norms against an exact field on a family, and the order between each pair. */
export interface FieldOrders {
  readonly field: string;
  readonly unit: string;
  readonly rows: readonly {
    readonly label: string;
    readonly spacing: number;
    readonly l1: number;
    readonly l2: number;
    readonly linf: number;
    readonly order?: number;
  }[];
  readonly verdict: "exact" | "formal-order" | "below-order" | "above-order" | "too-few";
  readonly sentence: string;
}

/** relative error at which a scheme is taken to reproduce the solution: what iteration to eight orders and round-off leave */
const EXACT = 1e-8;

/**
 * Observed order of the L2 norm between neighbouring meshes, finest first. A scheme that is exact for the solution leaves only
 * round-off: then no order exists and none is given.
 */
export function fieldOrders(meshes: readonly { label: string; spacing: number; norms: ErrorNorms }[], formalOrder: number): FieldOrders {
  const sorted = [...meshes].sort((a, b) => a.spacing - b.spacing);
  const { field, unit } = sorted[0].norms;
  const exact = sorted.every((m) => m.norms.linf <= EXACT * m.norms.scale);
  const rows = sorted.map((m, i) => {
    const next = sorted[i + 1];
    const order = exact || !next ? undefined : Math.log(next.norms.l2 / m.norms.l2) / Math.log(next.spacing / m.spacing);
    return { label: m.label, spacing: m.spacing, l1: m.norms.l1, l2: m.norms.l2, linf: m.norms.linf, order };
  });
  const worst = Math.max(...sorted.map((m) => m.norms.linf / m.norms.scale));
  if (exact) {
    return {
      field,
      unit,
      rows,
      verdict: "exact",
      sentence: `The scheme is exact for this solution: the largest error on any mesh is ${percent(worst)} of the largest ${field}, which is round-off and iteration. There is no order to observe.`,
    };
  }
  const order = rows[0].order;
  if (order === undefined) return { field, unit, rows, verdict: "too-few", sentence: "An order needs two meshes." };
  const near = Math.abs(order - formalOrder) <= 0.1;
  const verdict = near ? "formal-order" : order < formalOrder ? "below-order" : "above-order";
  const tail = near
    ? `within 0.1 of the formal order ${formalOrder}`
    : `${verdict === "below-order" ? "below" : "above"} the formal order ${formalOrder} by ${Math.abs(order - formalOrder).toFixed(2)}`;
  return { field, unit, rows, verdict, sentence: `The error of ${field} falls at order ${order.toFixed(2)} between the two finest meshes, ${tail}.` };
}

/** The rules of this file in words. */
export const COMPARISON_RULES = rulesOf("core/method/comparison/comparison.ts", [
  {
    rule: "curve-norms",
    text: "Both curves at the places of the reference, inside the overlap, by monotone cubic interpolation; norms over the points, in the range of the reference. No common point, or entries of one place that contradict each other by more than a hundredth of the range, are refused.",
    source: "method of this product",
  },
  {
    rule: "field-order",
    text: "Order of the L2 norm between neighbouring meshes, cell-centre values weighted by volume. When every mesh is at round-off the scheme is exact and no order is given.",
    source: "own",
  },
]);
