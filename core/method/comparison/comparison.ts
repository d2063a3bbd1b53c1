import { percent, significant } from "../../formatting/number.ts";
import { pchip } from "../../numeric/pchip.ts";
import type { ErrorNorms, Profile } from "../../records/profile.ts";
import type { ReferenceProfile } from "../../records/reference.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { type FrontShift, frontShift, type RisingCurve } from "./front.ts";
import { type ManyPoints, manyPoints } from "./manyPoints.ts";

/** One point of a yardstick and what the simulated curve has there; uncertainties are standard ones. */
export interface CurvePoint {
  readonly at: number;
  readonly simulated: number;
  readonly reference: number;
  readonly difference: number;
  readonly doubtful?: string;
  /** of the reference, all parts: its own, shared, and that of its place times the slope of the simulated curve */
  readonly uReference?: number;
  readonly uNum?: number;
  /** of both, where both are known */
  readonly uVal?: number;
}

/** Curve against a yardstick's points inside the overlap of both. */
export interface ProfileComparison {
  readonly profileKey: string;
  readonly points: readonly CurvePoint[];
  readonly outside: number;
  /** what the norms are counted in: the range of the reference, or its largest size where it has no range */
  readonly range: number;
  readonly rangeName: "range" | "largest value";
  /** means over the points */
  readonly l1: number;
  readonly l2: number;
  readonly linf: number;
  /** per length over the overlap, the difference taken piecewise linear; absent with a single point */
  readonly perLength?: { readonly l1: number; readonly l2: number };
  readonly worst?: { readonly at: number; readonly difference: number; readonly doubtful?: string };
  /** of a steep front that both have */
  readonly front?: FrontShift;
  /** all points together against their uncertainties, where those are known */
  readonly many?: ManyPoints;
  /** what was done to the curves before they were read, and what was left out */
  readonly notes: readonly string[];
}

/** A curve that cannot be compared, with the reason. */
export interface ProfileRefusal {
  readonly profileKey: string;
  readonly refused: string;
}

/** repeats of one abscissa may differ by this share of the curve's range */
const REPEATED = 0.01;

/** 95 % numerical uncertainty of the simulated curve at rising places, from its refinement. */
export interface CurveBand {
  readonly at: readonly number[];
  readonly band: readonly number[];
}

/** Least and largest; a long list is not spread into arguments. */
function extent(values: readonly number[]): [least: number, largest: number] {
  let [a, b] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const v of values) {
    if (v < a) a = v;
    if (v > b) b = v;
  }
  return [a, b];
}

/** One for all points, or one for each. */
export const uncertaintyAt = (u: number | readonly number[] | undefined, i: number): number | undefined => (typeof u === "object" ? u[i] : u);

/**
 * Discrete norms over the reference points; the simulated curve is read by monotone cubic interpolation and never beyond its ends.
 * Points that are not believed take no part in the norms and are listed; those outside the yardstick's window are left out and counted. Entries of
 * the simulated curve that share an abscissa are averaged when they agree within a hundredth of its range.
 * @param band numerical uncertainty of the simulated curve, where its refinement gave one
 * @returns a refusal when no point is left to compare, or entries at one abscissa contradict each other
 */
export function compareProfile(profile: Profile, reference: ReferenceProfile, band?: CurveBand): ProfileComparison | ProfileRefusal {
  const { profileKey } = reference;
  const curve = ascending(profile.abscissa.values, profile.value.values);
  if ("refused" in curve) return { profileKey, refused: curve.refused };
  const { xs, ys } = curve;
  if (xs.length < 2) return { profileKey, refused: "The simulated curve has fewer than two points." };
  const doubts = new Map((reference.doubtful ?? []).map((d) => [d.index, d.reason]));
  const [low, high] = reference.window ?? [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
  let [outside, closed] = [0, 0];
  const shared = new Map<CurvePoint, number>();
  const points = reference.abscissa.flatMap((at, i): CurvePoint[] => {
    if (at < low || at > high) {
      closed++;
      return [];
    }
    if (!(at >= xs[0] && at <= xs[xs.length - 1])) {
      outside++;
      return [];
    }
    const simulated = pchip(xs, ys, at);
    const u = uncertaintiesAt({ xs, ys }, reference, i, band);
    const point = { at, simulated, reference: reference.value[i], difference: simulated - reference.value[i], doubtful: doubts.get(i), ...u.told };
    shared.set(point, u.shared);
    return [point];
  });
  const used = points.filter((p) => !p.doubtful);
  if (!used.length) {
    const [from, to] = extent(reference.abscissa);
    const where = `the reference lies from ${significant(from, 4)} to ${significant(to, 4)}, the simulated curve from ${significant(xs[0], 4)} to ${significant(xs[xs.length - 1], 4)}`;
    return { profileKey, refused: points.length ? "Every point of the reference is doubtful." : `The two curves have no point in common: ${where}.` };
  }
  const [least, most] = extent(reference.value);
  const spread = most - least;
  const largest = Math.max(-least, most, ...extent(ys).map(Math.abs));
  const flat = !(spread > 1e-9 * largest);
  const sizes = used.map((p) => Math.abs(p.difference));
  const worst = points.reduce<ProfileComparison["worst"]>((w, p) => (!w || Math.abs(p.difference) > Math.abs(w.difference) ? p : w), undefined);
  const rising = [...used].sort((a, b) => a.at - b.at);
  const front = frontShift({ xs, ys }, distinct(rising));
  const many = used.every((p) => p.uVal !== undefined)
    ? manyPoints(
        used.map((p) => ({
          difference: p.difference,
          shared: shared.get(p) ?? 0,
          own: Math.sqrt(Math.max(0, (p.uVal ?? 0) ** 2 - (shared.get(p) ?? 0) ** 2)),
        })),
      )
    : undefined;
  return {
    profileKey,
    points,
    outside,
    range: flat ? largest || 1 : spread,
    rangeName: flat ? "largest value" : "range",
    l1: sizes.reduce((s, v) => s + v, 0) / used.length,
    l2: Math.sqrt(sizes.reduce((s, v) => s + v * v, 0) / used.length),
    linf: extent(sizes)[1],
    ...perLength(rising),
    worst: worst && { at: worst.at, difference: worst.difference, doubtful: worst.doubtful },
    ...(front ? { front } : {}),
    ...(many ? { many } : {}),
    notes: [
      ...(reference.changes ?? []),
      ...(curve.merged ? [`${curve.merged} entries that stand at the same place as another were averaged with it.`] : []),
      ...(closed ? [`${closed} points lie outside the yardstick's window of validity and were left out.`] : []),
    ],
  };
}

/** Standard uncertainties at one point of the reference, and the part that it shares with the others. */
function uncertaintiesAt(curve: RisingCurve, r: ReferenceProfile, i: number, band: CurveBand | undefined) {
  const own = uncertaintyAt(r.standardUncertainty, i);
  const shared = uncertaintyAt(r.systematicUncertainty, i) ?? 0;
  const place = uncertaintyAt(r.abscissaUncertainty, i) ?? 0;
  const at = r.abscissa[i];
  const known = own !== undefined || r.systematicUncertainty !== undefined;
  const uReference = known ? Math.hypot(own ?? 0, shared, place ? place * slopeAt(curve, at) : 0) : undefined;
  const inside = band && band.at.length > 1 && at >= band.at[0] && at <= band.at[band.at.length - 1];
  const uNum = inside ? pchip(band.at, band.band, at) / 2 : undefined;
  const uVal = uReference !== undefined && uNum !== undefined ? Math.hypot(uReference, uNum) : undefined;
  return {
    shared,
    told: {
      ...(uReference === undefined ? {} : { uReference }),
      ...(uNum === undefined ? {} : { uNum }),
      ...(uVal === undefined ? {} : { uVal }),
    },
  };
}

/** Slope of the simulated curve about a place, over a hundredth of its extent. */
function slopeAt({ xs, ys }: RisingCurve, at: number): number {
  const [first, last] = [xs[0], xs[xs.length - 1]];
  const half = (last - first) / 200;
  const [a, b] = [Math.max(first, at - half), Math.min(last, at + half)];
  return (pchip(xs, ys, b) - pchip(xs, ys, a)) / (b - a);
}

/** Points at one place count as their mean, where a slope is to be told. */
function distinct(points: readonly CurvePoint[]): RisingCurve {
  const xs: number[] = [];
  const ys: number[] = [];
  for (let from = 0; from < points.length; ) {
    let [to, sum] = [from, 0];
    while (to < points.length && points[to].at === points[from].at) sum += points[to++].reference;
    xs.push(points[from].at);
    ys.push(sum / (to - from));
    from = to;
  }
  return { xs, ys };
}

/** Norms per length of the difference, piecewise linear between the points. */
function perLength(rising: readonly CurvePoint[]): Pick<ProfileComparison, "perLength"> {
  const length = rising[rising.length - 1].at - rising[0].at;
  if (!(length > 0)) return {};
  let [l1, l2] = [0, 0];
  for (let k = 1; k < rising.length; k++) {
    const h = rising[k].at - rising[k - 1].at;
    const [a, b] = [rising[k - 1].difference, rising[k].difference];
    // Where the sign changes the two triangles are added, not taken off each other.
    l1 += a * b < 0 ? (h * (a * a + b * b)) / (2 * (Math.abs(a) + Math.abs(b))) : (h * (Math.abs(a) + Math.abs(b))) / 2;
    l2 += (h * (a * a + a * b + b * b)) / 3;
  }
  return { perLength: { l1: l1 / length, l2: Math.sqrt(l2 / length) } };
}

/** A curve in the order of its abscissae, repeats averaged; refused where they contradict each other. */
function ascending(x: readonly number[], y: readonly number[]): { xs: number[]; ys: number[]; merged: number } | { refused: string } {
  const order = x.map((_, i) => i).filter((i) => Number.isFinite(x[i]) && Number.isFinite(y[i]));
  order.sort((a, b) => x[a] - x[b]);
  const values = order.map((i) => y[i]);
  const [least, most] = extent(values);
  const allowed = REPEATED * (most - least);
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
    text: "Both curves at the places of the reference, inside the overlap, by monotone cubic interpolation; norms over the points, in the range of the reference. No common point, or entries of one place that contradict each other by more than a hundredth of the range, are refused. A steep front, four times the mean slope, is placed by the middle of its steepest interval and a parabola; its shift, and what is left after it, are told apart.",
    source: "method of this product",
  },
  {
    rule: "many-points",
    text: "All points together: chi-square of the differences against their covariance, each point's own uncertainty by squares and what all points share once, against n + sqrt(2 n). Above it the differences are larger than their uncertainties explain; below it no model error can be claimed.",
    source: "ASME V&V 20.1",
  },
  {
    rule: "field-order",
    text: "Order of the L2 norm between neighbouring meshes, cell-centre values weighted by volume. When every mesh is at round-off the scheme is exact and no order is given.",
    source: "own",
  },
]);
