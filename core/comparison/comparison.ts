import { percent, signedPercent } from "../formatting/number.ts";
import { pchip } from "../numeric/pchip.ts";
import type { ErrorNorms, Profile } from "../problems/problem.ts";
import type { YardstickProfile } from "../reference/yardstick.ts";

/** Difference of one value from a yardstick and what may be said of it (method 5). */
export interface ValueComparison {
  readonly simulated: number;
  readonly reference: number;
  /** S - D */
  readonly difference: number;
  readonly scale: number;
  readonly uNum: number | undefined;
  readonly uReference: number | undefined;
  /** standard validation uncertainty; undefined while a part is missing */
  readonly uVal: number | undefined;
  readonly claim: "within-noise" | "beyond-noise" | "incomplete";
  readonly sentence: string;
}

const K = 2;

/**
 * Compares a simulated value with a yardstick. Expansion factor k = 2, u_num = U_num / 2 (Gaussian about the fine value).
 * @param uNum standard numerical uncertainty, undefined when a source is not measured
 * @source ASME V&V 20-2009
 */
export function compareValue(simulated: number, reference: number, uNum: number | undefined, uReference: number | undefined): ValueComparison {
  const scale = Math.max(Math.abs(reference), 1e-300);
  const difference = simulated - reference;
  const uVal = uNum === undefined || uReference === undefined ? undefined : Math.hypot(uNum, uReference);
  const base = { simulated, reference, difference, scale, uNum, uReference, uVal };
  if (uVal === undefined) {
    const missing = uNum === undefined ? "numerical uncertainty" : "uncertainty of the yardstick";
    return {
      ...base,
      claim: "incomplete",
      sentence: `Differs by ${signedPercent(difference / scale)}; nothing more can be said while the ${missing} is not known.`,
    };
  }
  const band = K * uVal;
  if (Math.abs(difference) <= band) {
    return {
      ...base,
      claim: "within-noise",
      sentence: `Difference ${signedPercent(difference / scale)} is within the noise: no model error can be claimed or excluded below ${percent(band / scale)}.`,
    };
  }
  return {
    ...base,
    claim: "beyond-noise",
    sentence: `An error of ${signedPercent(difference / scale)} ± ${percent(band / scale)} is shown: the difference is larger than the noise.`,
  };
}

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
  readonly range: number;
  readonly l1: number;
  readonly l2: number;
  readonly linf: number;
  readonly worst?: { readonly at: number; readonly difference: number; readonly doubtful?: string };
}

/**
 * Discrete norms over the reference points; the simulated curve is read by monotone cubic interpolation and never beyond its ends.
 * Points the source misprints take no part in the norms and are listed.
 */
export function compareProfile(profile: Profile, reference: YardstickProfile): ProfileComparison {
  const { xs, ys } = ascending(profile.abscissa.values, profile.value.values);
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
  const range = Math.max(...reference.value) - Math.min(...reference.value);
  const sizes = used.map((p) => Math.abs(p.difference));
  const worst = points.reduce<ProfileComparison["worst"]>((w, p) => (!w || Math.abs(p.difference) > Math.abs(w.difference) ? p : w), undefined);
  return {
    profileKey: reference.profileKey,
    points,
    outside,
    range,
    l1: sizes.reduce((s, v) => s + v, 0) / Math.max(1, used.length),
    l2: Math.sqrt(sizes.reduce((s, v) => s + v * v, 0) / Math.max(1, used.length)),
    linf: Math.max(0, ...sizes),
    worst: worst && { at: worst.at, difference: worst.difference, doubtful: worst.doubtful },
  };
}

function ascending(x: readonly number[], y: readonly number[]): { xs: number[]; ys: number[] } {
  const order = x.map((_, i) => i).sort((a, b) => x[a] - x[b]);
  const kept = order.filter((i, k) => k === 0 || x[i] > x[order[k - 1]]);
  return { xs: kept.map((i) => x[i]), ys: kept.map((i) => y[i]) };
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
