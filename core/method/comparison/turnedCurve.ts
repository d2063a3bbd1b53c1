import type { AxisTurn, ReferenceProfile } from "../../records/reference.ts";
import { rulesOf } from "../../remarks/rule.ts";

type Uncertainty = number | readonly number[] | undefined;

const STILL: AxisTurn = { factor: 1, shift: 0, unit: "", words: "" };

/**
 * A curve with its figures turned as was stated: uncertainties by the size of the factor, what is doubtful of it where it was, and the change in words.
 * @example
 * turnedCurve({ profileKey: "u", abscissa: [2], value: [1], uncertaintyNote: "", turned: { abscissa: { factor: 0.05, shift: 0, unit: "m", words: "times 0.05 m" } } }).abscissa // [0.1]
 */
export function turnedCurve(r: ReferenceProfile): ReferenceProfile {
  if (!r.turned) return r;
  const { turned, ...rest } = r;
  const { abscissa: x = STILL, value: y = STILL } = turned;
  const by =
    ({ factor, shift }: AxisTurn) =>
    (v: number) =>
      v * factor + shift;
  const sized = (u: Uncertainty, { factor }: AxisTurn) =>
    typeof u === "object" ? u.map((v) => v * Math.abs(factor)) : u === undefined ? undefined : u * Math.abs(factor);
  const ends = r.window?.map(by(x));
  const named = <Axis extends { readonly unit: string }>(axis: Axis, turn: AxisTurn): Axis => (turn === STILL ? axis : { ...axis, unit: turn.unit });
  return {
    ...rest,
    ...(r.axes ? { axes: { ...r.axes, abscissa: named(r.axes.abscissa, x), value: named(r.axes.value, y) } } : {}),
    abscissa: r.abscissa.map(by(x)),
    value: r.value.map(by(y)),
    standardUncertainty: sized(r.standardUncertainty, y),
    systematicUncertainty: sized(r.systematicUncertainty, y),
    abscissaUncertainty: sized(r.abscissaUncertainty, x),
    ...(ends ? { window: [Math.min(...ends), Math.max(...ends)] as const } : {}),
    changes: [...(r.changes ?? []), ...turnWords(r)],
  };
}

/** "Height: times 0.05 m." of each axis that is turned. */
export function turnWords({ turned = {}, axes }: ReferenceProfile): string[] {
  const said = (name: string, turn: AxisTurn | undefined) => (turn ? [`${name} of the yardstick: ${turn.words}.`] : []);
  return [...said(axes?.abscissa.name ?? "place", turned.abscissa), ...said(axes?.value.name ?? "value", turned.value)];
}

/** The rules of this file in words. */
export const TURNED_CURVE_RULES = rulesOf("core/method/comparison/turnedCurve.ts", [
  {
    rule: "turned-curve",
    text: "Figures of a yardstick stay as its source has them. Where they are counted otherwise than the case's (made dimensionless by a reference value, from another origin, along a line that is not normal to the wall, with the other sign), a factor and a shift for each axis are stated, kept, applied before anything is compared, and said beside the comparison; uncertainties go with the size of the factor.",
    source: "method of this product",
  },
]);
