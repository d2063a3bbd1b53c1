"use client";

import { drawChart } from "@/core/drawing/chart";
import { INK } from "@/core/drawing/palette";
import { axisText } from "@/core/formatting/number";
import { Drawing } from "../../charts/Drawing";
import type { FindingView, VerdictView } from "../../view";

/** The quantity a finding is about, in the run that shows it and in the one that cures it, against the yardstick. */
export function BeforeAfter({ view, f, labels }: { view: VerdictView; f: FindingView; labels: readonly (string | null)[] }) {
  const q = view.evidence.quantities.find((x) => x.key === f.quantityKey);
  if (!q || f.before === null || f.after === null) return null;
  const yardstick = view.assessment.comparison.values[q.key]?.[0];
  const svg = drawChart({
    title: `${f.title}: before and after`,
    width: 376,
    height: 190,
    x: { label: `1 ${labels[0]}, 2 ${labels[1]}`, domain: [0.5, 2.5] },
    y: { label: axisText(q) },
    series: [
      { name: "before", kind: "points", color: INK.pointer, points: [[1, f.before]] },
      { name: "after", kind: "points", color: INK.verdigris, points: [[2, f.after]] },
    ],
    levels: yardstick ? [{ y: yardstick.reference, label: yardstick.yardstick, color: INK.brass }] : [],
    legend: true,
  });
  return (
    <div className="mt-6 max-w-[400px]">
      <Drawing svg={svg} name={`${f.title} before and after`} />
    </div>
  );
}
