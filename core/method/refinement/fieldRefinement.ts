import { rulesOf } from "../../remarks/rule.ts";
import { type PointsRefinement, refinePoints } from "./pointByPoint.ts";
import { threeMesh } from "./threeMesh.ts";

/** Norms of the difference between two neighbouring meshes, in the field's unit. */
export interface DifferenceNorms {
  /** area-weighted mean of the magnitude */
  readonly l1: number;
  /** root of the area-weighted mean square */
  readonly l2: number;
  readonly largest: number;
}

/** What a field on two meshes or more says about the finest. */
export interface FieldRefinement {
  /** estimated error of the finest, place by place */
  readonly error: Float64Array;
  /** local orders and bands, where there are three meshes */
  readonly points?: PointsRefinement;
  /** the finest pair first */
  readonly norms: readonly DifferenceNorms[];
  /** order that the root mean squares of the two finest differences show */
  readonly normOrder?: number;
}

/**
 * Differences, local orders and the estimated error of a field on one common mesh. With two meshes the formal order is taken for granted.
 * @param values finest mesh first, two or more; NaN where a mesh has no value
 * @param area of each cell, m^2
 * @throws {RangeError} Fewer than two sets, spacings not increasing.
 */
export function refineField(input: {
  readonly values: readonly Float64Array[];
  readonly spacing: readonly number[];
  readonly formalOrder: number;
  readonly area: Float64Array;
}): FieldRefinement {
  const { values, spacing, formalOrder, area } = input;
  if (values.length < 2) throw new RangeError("A field study needs the field on two meshes at least.");
  if (!spacing.every((h, k) => h > (spacing[k - 1] ?? 0))) throw new RangeError(`Spacings must increase from fine to coarse: ${spacing.join(", ")}.`);
  const norms = values.slice(1).map((coarse, k) => differenceNorms(values[k], coarse, area));
  if (values.length < 3) {
    const factor = 1 / ((spacing[1] / spacing[0]) ** formalOrder - 1);
    return { error: values[0].map((v, i) => Math.abs(values[1][i] - v) * factor), norms };
  }
  const three = <T>(list: readonly T[]) => [list[0], list[1], list[2]] as const;
  const points = refinePoints({ values: three(values), spacing: three(spacing), formalOrder, weight: area });
  const [fine, coarse] = norms;
  const judged = threeMesh({ phi: [0, fine.l2, fine.l2 + coarse.l2], spacing: three(spacing), formalOrder, errors: [0, 0, 0] });
  return { error: points.error, points, norms, ...(judged.kind === "monotone" ? { normOrder: judged.order } : {}) };
}

/** Norms of the difference of two sets where both have values, weighted by area. */
export function differenceNorms(a: Float64Array, b: Float64Array, area: Float64Array): DifferenceNorms {
  let [whole, one, two, largest] = [0, 0, 0, 0];
  for (let i = 0; i < a.length; i++) {
    const d = Math.abs(b[i] - a[i]);
    if (Number.isNaN(d)) continue;
    whole += area[i];
    one += area[i] * d;
    two += area[i] * d * d;
    if (d > largest) largest = d;
  }
  if (!(whole > 0)) throw new RangeError("The two meshes share no place.");
  return { l1: one / whole, l2: Math.sqrt(two / whole), largest };
}

/** The rules of this file in words. */
export const FIELD_REFINEMENT_RULES = rulesOf("core/method/refinement/fieldRefinement.ts", [
  {
    rule: "field-refinement",
    text: "A field on three meshes, brought to one of them: local order, class and band in every cell as along a curve, shares by area; the estimated error is the last change over r^p - 1 with the mean order held between 0.5 and the formal one, or the larger change where the cell does not converge. With two meshes the formal order is taken for granted.",
    source: "Celik et al. 2008",
  },
]);
