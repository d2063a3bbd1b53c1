import { percent, significant } from "../../formatting/number.ts";
import { extent } from "../../numeric/extent.ts";
import { pchipOf } from "../../numeric/pchip.ts";
import type { ErrorNorms, Profile } from "../../records/profile.ts";
import type { ReferenceProfile } from "../../records/reference.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { conversion } from "../../units/conversion.ts";
import { type AreaMetric, areaMetric } from "./areaMetric.ts";
import { type BestPoint, bestPoint } from "./bestPoint.ts";
import { type FrontShift, frontShift, type RisingCurve } from "./front.ts";
import { type ManyPoints, manyPointsOf } from "./manyPoints.ts";
import {
  type CurvePoint,
  distinctReference,
  type Numerical,
  normsOf,
  normsPerLength,
  type PointColumns,
  pick,
  pointColumns,
  pointOf,
  risingPoints,
} from "./pointColumns.ts";
import { type TimeLag, timeLag } from "./timeLag.ts";

/** Curve against a yardstick's points inside the overlap of both. */
export interface ProfileComparison {
  readonly profileKey: string;
  /** of very many every so many */
  readonly points: readonly CurvePoint[];
  /** how many were compared */
  readonly compared: number;
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
  /** the highest point of both, where both have one within: the best point of an operating curve */
  readonly best?: { readonly simulated: BestPoint; readonly reference: BestPoint };
  /** of histories: how far the simulated one comes later */
  readonly lag?: TimeLag;
  /** of histories: how far the values they take lie apart, whenever they take them */
  readonly area?: AreaMetric;
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
  /** what it is divided by for a standard uncertainty; 2 unless given */
  readonly k?: number;
}

function numericalOf(band: CurveBand | undefined): Numerical {
  if (!band || band.at.length < 2) return () => Number.NaN;
  const read = pchipOf(band.at, band.band);
  const [from, to] = [band.at[0], band.at[band.at.length - 1]];
  const { k = 2 } = band;
  return (at) => (at >= from && at <= to ? read(at) / k : Number.NaN);
}

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
  const read = pchipOf(xs, ys);
  const numerical = numericalOf(band);
  const doubts = new Map((reference.doubtful ?? []).map((d) => [d.index, d.reason]));
  const { points, outside, closed } = pointColumns({ xs, read }, reference, numerical);
  const used = doubts.size
    ? pick(
        points,
        Int32Array.from(points.index.keys()).filter((k) => !doubts.has(points.index[k])),
      )
    : points;
  if (!used.length) {
    const [from, to] = extent(reference.abscissa);
    const where = `the reference lies from ${significant(from, 4)} to ${significant(to, 4)}, the simulated curve from ${significant(xs[0], 4)} to ${significant(xs[xs.length - 1], 4)}`;
    return { profileKey, refused: points.length ? "Every point of the reference is doubtful." : `The two curves have no point in common: ${where}.` };
  }
  const rising = risingPoints(used);
  const known = distinctReference(rising);
  const front = frontShift({ xs, ys }, known, read);
  const best = bestOf({ xs, ys }, rising, numerical);
  const history = conversion(profile.abscissa.unit, "s") !== undefined;
  const lag = history ? timeLag({ xs, ys }, known) : undefined;
  const many = manyPointsOf(used);
  const perLength = normsPerLength(rising);
  return {
    profileKey,
    ...listed(points, doubts),
    outside,
    ...scaleOf(reference.value, ys),
    ...normsOf(used),
    ...(perLength ? { perLength } : {}),
    worst: worstOf(points, doubts),
    ...(front ? { front } : {}),
    ...(best ? { best } : {}),
    ...(lag ? { lag } : {}),
    ...(history ? { area: areaMetric(used.simulated, used.reference) } : {}),
    ...(many ? { many } : {}),
    notes: [
      ...(reference.changes ?? []),
      ...(curve.merged ? [`${curve.merged} entries that stand at the same place as another were averaged with it.`] : []),
      ...(closed ? [`${closed} points lie outside the yardstick's window of validity and were left out.`] : []),
    ],
  };
}

/** curves of more points are no operating curves */
const MOST_FITTED = 200;

/** The highest point of both curves, where both have one within. */
function bestOf(curve: RisingCurve, { length, at, reference, uReference }: PointColumns, numerical: Numerical): ProfileComparison["best"] {
  if (length > MOST_FITTED || curve.xs.length > MOST_FITTED) return undefined;
  const weighed = (us: readonly number[]) => (us.some(Number.isNaN) ? {} : { us });
  const [xs, ys] = [Array.from(curve.xs), Array.from(curve.ys)];
  const simulated = bestPoint({ xs, ys, ...weighed(xs.map(numerical)) });
  const truth = bestPoint({ xs: [...at], ys: [...reference], ...weighed([...uReference]) });
  return simulated && truth ? { simulated, reference: truth } : undefined;
}

/** points that are kept to be drawn and listed */
const LISTED = 2000;

/** The points as they are kept: of very many every so many, and all that are not believed. */
function listed(p: PointColumns, doubts: ReadonlyMap<number, string>): Pick<ProfileComparison, "points" | "compared"> {
  const step = Math.max(1, Math.ceil(p.length / LISTED));
  const points: CurvePoint[] = [];
  for (let k = 0; k < p.length; k++) if (k % step === 0 || doubts.has(p.index[k])) points.push(pointOf(p, k, doubts));
  return { points, compared: p.length };
}

/** What differences are counted in: the range of the reference, or its largest size where it has none. */
function scaleOf(reference: readonly number[], simulated: readonly number[]): Pick<ProfileComparison, "range" | "rangeName"> {
  const [least, most] = extent(reference);
  const spread = most - least;
  const largest = Math.max(-least, most, ...extent(simulated).map(Math.abs));
  const flat = !(spread > 1e-9 * largest);
  return { range: flat ? largest || 1 : spread, rangeName: flat ? "largest value" : "range" };
}

/** The largest difference, the first of equals. */
function worstOf({ length, difference, at, index }: PointColumns, doubts: ReadonlyMap<number, string>): ProfileComparison["worst"] {
  let worst = 0;
  for (let k = 1; k < length; k++) if (Math.abs(difference[k]) > Math.abs(difference[worst])) worst = k;
  return { at: at[worst], difference: difference[worst], doubtful: doubts.get(index[worst]) };
}

/** A curve in the order of its abscissae, repeats averaged; refused where they contradict each other. */
function ascending(
  x: readonly number[],
  y: readonly number[],
): { xs: readonly number[]; ys: readonly number[]; merged: number } | { refused: string } {
  if (x.every((v, i) => Number.isFinite(v) && Number.isFinite(y[i]) && (i === 0 || v > x[i - 1]))) return { xs: x, ys: y, merged: 0 };
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
  // A field that is nothing everywhere, such as the flow where heat is conducted alone, has no size to divide by.
  const worst = Math.max(...sorted.map((m) => (m.norms.scale > 0 ? m.norms.linf / m.norms.scale : 0)));
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
    rule: "best-point",
    text: "The best point of an operating curve is the top of a parabola through the five points about the highest, weighed by their uncertainties; what three points make of it adds to its uncertainty. The lag of histories is the shift within a quarter of their common window at which their mean square difference is least; how far the values they take lie apart is the area between their distributions.",
    source: "Ferson, Oberkampf & Ginzburg (2008) for the area; method of this product",
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
