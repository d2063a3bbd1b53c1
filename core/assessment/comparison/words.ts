import { percent, signedPercent, significant, unitText, withUncertainty } from "../../formatting/number.ts";
import type { ValueComparison } from "../../method/comparison/compareValue.ts";
import type { State } from "../../remarks/remark.ts";
import type { ComparedProfile, QuantityComparison } from "../results/comparison.ts";
import type { Margin, MarginNote } from "../results/margin.ts";
import { NO_RUN } from "../stages/notes.ts";
import type { Assessed, Told } from "../stages/part.ts";

const CLAIMS: Readonly<Record<ValueComparison["claim"], string>> = {
  "within-noise": "Within the noise",
  "beyond-noise": "Larger than the noise",
  incomplete: "Cannot be claimed yet",
};

const VERDICTS: Readonly<Record<State, string>> = {
  fails: "Fails: limit",
  holds: "Holds: limit",
  remark: "Holds with a remark: limit",
  none: "Open: limit",
  stale: "Limit",
};

/** What the margin says of a quantity against its yardsticks. */
export function comparisonWords({ assessment: a, quantity: q }: Told): Margin {
  const all = a.comparison.values[q.key] ?? [];
  const c = all[0];
  const none: MarginNote = a.settling.length ? { heading: "No yardstick", sentence: `Nothing to compare ${q.name} with.`, go: "yardsticks" } : NO_RUN;
  return {
    label: "Difference from the yardstick",
    figure: c ? signedPercent(c.difference / c.scale) : "–",
    verdict: c ? `${VERDICTS[c.state]} is ${percent(c.limit)}` : "",
    tone: c?.state ?? "none",
    notes: [
      ...(c ? [{ heading: CLAIMS[c.claim], sentence: c.sentence, rule: "validation-uncertainty" }] : []),
      ...all.filter((x) => !x.inside).map(outsideNote),
      ...orderNote(a),
      ...a.comparison.refused.map((p) => ({
        heading: "Cannot be compared",
        sentence: `${p.name}, ${p.yardstick}: ${p.sentence}`,
        rule: "curve-norms",
      })),
      ...codesNote(a, q.key),
      ...curveNotes(a.comparison.profiles.filter((p) => p.leading)),
      ...(c ? [] : [none]),
    ],
  };
}

function codesNote({ comparison: { codes } }: Assessed, key: string): MarginNote[] {
  const found = codes[key];
  return found ? [{ heading: "Between codes", sentence: found.sentence, rule: "between-codes" }] : [];
}

const outsideNote = (y: QuantityComparison): MarginNote => ({
  heading: "Outside its range",
  sentence: `${y.yardstick} is used where it does not hold; it decides nothing.`,
  rule: "yardstick-range",
  go: "yardsticks",
});

function orderNote({ comparison: { orders } }: Assessed): MarginNote[] {
  if (!orders) return [];
  const heading = orders.verdict === "exact" ? "Exact on every mesh" : "Order of the field";
  return [{ heading, sentence: orders.sentence, rule: "field-order" }];
}

/** What the curves say together: how many are beyond their uncertainties, the worst point of those, and fronts that have moved. */
function curveNotes(curves: readonly ComparedProfile[]): MarginNote[] {
  const weighed = curves.flatMap((p) => (p.many ? [{ p, many: p.many }] : []));
  const beyond = weighed
    .filter(({ many }) => many.verdict === "beyond-noise")
    .sort((a, b) => b.many.chiSquare / b.many.expected - a.many.chiSquare / a.many.expected);
  const moved = curves.filter((p) => p.front && p.front.after < p.front.before / 2 && Math.abs(p.front.shift) > p.front.resolution).slice(0, 2);
  return [
    ...(weighed.length
      ? [
          {
            heading: "All points together",
            sentence: manySentence(
              weighed.length,
              beyond.map(({ p }) => p),
            ),
            rule: "many-points",
          },
        ]
      : []),
    ...(beyond.length ? beyond.map(({ p }) => p) : [...curves].sort((a, b) => b.linf / b.range - a.linf / a.range)).slice(0, 2).flatMap(worstPoint),
    ...curves.flatMap(bestNote).slice(0, 2),
    ...curves.flatMap(lagNote).slice(0, 2),
    ...moved.flatMap((p) => (p.front ? [{ heading: "A front has moved", sentence: frontSentence(p, p.front), rule: "curve-norms" }] : [])),
  ];
}

function manySentence(weighed: number, beyond: readonly ComparedProfile[]): string {
  const [first] = beyond;
  if (!first?.many)
    return weighed === 1
      ? "The differences of the curve are within the noise: no model error can be claimed or excluded below it."
      : `The differences of all ${weighed} curves are within the noise: no model error can be claimed or excluded below it.`;
  const { chiSquare, expected } = first.many;
  const count = weighed === 1 ? "The curve differs" : `${beyond.length} of ${weighed} curves differ`;
  return `${count} by more than the uncertainties explain, ${first.name} the most: chi-square ${significant(chiSquare, 3)} where ${significant(expected, 3)} would be noise.`;
}

/** Size of a figure with its unit. */
const figure = (v: number, unit: string, digits = 2) => `${significant(Math.abs(v), digits)} ${unitText(unit)}`.trimEnd();

/** "Best point at 0.98 ± 0.02, measured 1.02 ± 0.03." */
function bestNote({ best, name, yardstick }: ComparedProfile): MarginNote[] {
  if (!best) return [];
  const point = (v: number, u: number) => (u > 0 ? `${withUncertainty(v, 2 * u)} ± ${significant(2 * u, 2)}` : significant(v, 4));
  const { simulated: s, reference: r } = best;
  return [
    {
      heading: "Best point",
      sentence: `${name}: ${point(s.value, s.uValue)} at ${point(s.at, s.uAt)}; ${yardstick} has ${point(r.value, r.uValue)} at ${point(r.at, r.uAt)}.`,
      rule: "best-point",
    },
  ];
}

function lagNote({ lag, name, yardstick, units }: ComparedProfile): MarginNote[] {
  if (!lag || Math.abs(lag.lag) <= lag.resolution) return [];
  const way = lag.lag > 0 ? "behind" : "ahead of";
  return [
    {
      heading: "One runs behind",
      sentence: `${name} runs ${figure(lag.lag, units.abscissa)} ${way} ${yardstick}; moved by that, ${percent(lag.after / lag.before)} of the difference is left.`,
      rule: "best-point",
    },
  ];
}

const frontSentence = (p: ComparedProfile, f: NonNullable<ComparedProfile["front"]>) =>
  `${p.name}, ${p.yardstick}: the steep front stands ${figure(f.shift, p.units.abscissa)} ${f.shift > 0 ? "beyond" : "before"} the yardstick's; moved there, ${percent(f.after / f.before)} of the difference is left.`;

function worstPoint(p: ComparedProfile): MarginNote[] {
  if (!p.worst) return [];
  const off = Math.abs(p.worst.difference);
  const share = `${percent(off / p.range)} of the ${p.rangeName}`;
  const doubt = p.worst.doubtful ? ` That point ${p.worst.doubtful}.` : "";
  return [
    {
      heading: "Worst point",
      sentence: `${p.name}, ${p.yardstick}: ${figure(off, p.units.value)} at ${figure(p.worst.at, p.units.abscissa, 3)}, ${share}.${doubt}`,
    },
  ];
}
