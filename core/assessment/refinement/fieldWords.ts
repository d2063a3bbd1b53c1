import type { Concentration, Place } from "../../dataset/places.ts";
import { TRANSFER_WORDS } from "../../dataset/ways.ts";
import { percent, sentenceCase, significant, unitText } from "../../formatting/number.ts";
import type { FieldStudy } from "../../study/fieldStudy.ts";

interface AboutFields {
  readonly unit: string;
  readonly formalOrder: number;
  /** the common one */
  readonly mesh: string;
  /** the flow changes in time, and its fields are those of one moment */
  readonly inTime: boolean;
}

/** What a field study says, in sentences: how the field converges, where the error of its finest mesh sits, and how it was brought over. */
export function fieldSentences(study: FieldStudy, about: AboutFields): string[] {
  return [
    convergenceSentence(study, about.formalOrder),
    ...(study.where ? [whereSentence(study.where, study.error, about.unit)] : ["No error can be told: the meshes agree to within rounding."]),
    broughtSentence(study, about.mesh),
    ...(about.inTime ? ["Each field is that of the end of its run: where the flow swings, the meshes are seen at different moments of it."] : []),
  ];
}

/** What the difference of one field of two runs says, in sentences: how far they are apart, where most of it sits, and how they were brought together. */
export function differenceSentences(
  study: FieldStudy,
  about: { readonly unit: string; readonly labels: readonly [string, string]; readonly name: string },
): string[] {
  const [a, b] = about.labels;
  const unit = unitText(about.unit);
  const inUnit = (v: number) => `${significant(v, 3)} ${unit}`.trimEnd();
  const { l1, l2, largest } = study.norms[0];
  const [low, high] = study.values[0].reduce(
    ([p, q], v) => (Number.isNaN(v) ? [p, q] : [Math.min(p, v), Math.max(q, v)]),
    [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY],
  );
  // Over the range of what is held against: a share of a field that is the same everywhere says nothing.
  const share = high > low ? ` (${percent(l2 / (high - low))} of the range of ${a})` : "";
  return [
    `${sentenceCase(about.name)} of ${b} differs from that of ${a} by ${inUnit(l2)} in the root mean square${share}, ${inUnit(l1)} in the mean, ${inUnit(largest)} at most.`,
    ...(study.where
      ? [whereSentence(study.where, study.error, about.unit).replaceAll("estimated error", "difference")]
      : ["They agree to within rounding."]),
    broughtSentence(study, about.labels[study.onto]).replace("All meshes were", "Both were"),
    "Agreement between two runs, or two codes, is no truth.",
  ];
}

function convergenceSentence({ normOrder, points }: FieldStudy, formalOrder: number): string {
  if (!points) return `Two meshes show no order; the error is estimated as if it fell at the formal order ${formalOrder}.`;
  const { monotone, oscillating, diverging, settled } = points.shares;
  const classes = [
    ["converges", monotone],
    ["oscillates", oscillating],
    ["diverges", diverging],
    ["stands still", settled],
  ] as const;
  const told = classes.filter(([, share]) => share > 0).map(([word, share]) => `${percent(share)} ${word}`);
  const mean = points.averageOrder === undefined ? "" : `; mean local order ${significant(points.averageOrder, 3)}`;
  const whole =
    normOrder === undefined
      ? "The root mean square of the change from mesh to mesh does not fall."
      : `The root mean square of the change from mesh to mesh falls at order ${significant(normOrder, 3)}, formal ${formalOrder}.`;
  return `${whole} Of the area ${told.join(", ")}${mean}.`;
}

/** Where the estimated error sits. */
export function whereSentence({ place, sideM, worstTenth, peak }: Concentration, error: Float64Array, unit: string): string {
  const [x, y] = peak.at.map((v) => significant(v, 3));
  const largest = `It is largest at x ${x}, y ${y} m: ${significant(error[peak.cell], 2)} ${unitText(unit)}`.trimEnd();
  if (!place) return `The estimated error is spread: the tenth of the area where it is densest holds ${percent(worstTenth)} of it. ${largest}.`;
  const within = `${significant(place.withinM, 2)} m (${significant(place.withinM / sideM, 2)} of the smaller side)`;
  return `${percent(place.share)} of the estimated error lies within ${within} of ${placeWords(place)}, on ${percent(place.areaShare)} of the area. ${largest}.`;
}

function placeWords({ kind, names, at }: Place): string {
  const where = at.map(([x, y]) => `${significant(x, 3)}, ${significant(y, 3)}`).join("; ");
  switch (kind) {
    case "corner":
      return names[0] === names[1] ? `the corner of ${names[0]} at (${where} m)` : `the corner where ${names[0]} meets ${names[1]} (${where} m)`;
    case "ends":
      return `the corners of ${names[0]} (${where} m)`;
    case "corners":
      return `the corners (${where} m)`;
    case "boundary":
      return `the boundary ${names[0]}`;
    case "spot":
      return `the spot at (${where} m)`;
    default:
      return kind satisfies never;
  }
}

function broughtSentence({ way, missing, leastCovered }: FieldStudy, mesh: string): string {
  const gaps = missing
    ? ` ${missing} of its cells lie to more than half outside another mesh and are left out.`
    : leastCovered < 0.999
      ? ` Where a mesh covers a cell in part, at least ${percent(leastCovered)} of it, that part stands for the whole.`
      : "";
  return `All meshes were brought to ${mesh} as ${TRANSFER_WORDS[way]}.${gaps}`;
}
