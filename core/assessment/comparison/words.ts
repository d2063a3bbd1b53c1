import { percent, signedPercent, significant } from "../../formatting/number.ts";
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
      ...a.comparison.profiles.slice(0, 2).flatMap(worstPoint),
      ...(c ? [] : [none]),
    ],
  };
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

function worstPoint(p: ComparedProfile): MarginNote[] {
  if (!p.worst) return [];
  const off = Math.abs(p.worst.difference);
  const share = `${percent(off / p.range)} of the ${p.rangeName}`;
  const doubt = p.worst.doubtful ? ` That point ${p.worst.doubtful}.` : "";
  return [
    {
      heading: "Worst point",
      sentence: `${p.name}, ${p.yardstick}: ${significant(off, 2)} at ${significant(p.worst.at, 3)}, ${share}.${doubt}`,
    },
  ];
}
