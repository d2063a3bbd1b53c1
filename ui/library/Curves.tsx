"use client";

import { useState } from "react";
import { drawChart } from "@/core/drawing/chart";
import { DASHES, SERIES } from "@/core/drawing/palette";
import type { SampledCurve } from "@/core/exact/explore";
import { asGiven, axisText, unitText } from "@/core/formatting/number";
import { Drawing } from "../charts/Drawing";
import { Field } from "../forms/Field";
import { CsvButton } from "../tables/CsvButton";

/** A curve that was kept to be laid over others. */
interface Kept {
  readonly label: string;
  readonly curve: SampledCurve;
}

const alike = (a: SampledCurve, b: SampledCurve) => a.x.name === b.x.name && a.x.unit === b.x.unit && a.y.name === b.y.name && a.y.unit === b.y.unit;

/** Points of all curves, two columns each; shorter ones end in empty cells. */
const besideOneAnother = (shown: readonly Kept[]) =>
  Array.from({ length: Math.max(...shown.map((k) => k.curve.points.length)) }, (_, i) => shown.flatMap((k) => [...(k.curve.points[i] ?? ["", ""])]));

/** Curves of a solution, one shown, earlier ones and those of the same axes laid over it. */
export function Curves({ curves, label }: { curves: readonly SampledCurve[]; label: string }) {
  const [chosen, choose] = useState(curves[0]?.key ?? "");
  const [kept, keep] = useState<readonly Kept[]>([]);
  const curve = curves.find((c) => c.key === chosen) ?? curves[0];
  if (!curve) return null;
  const beside = curves.filter((c) => c !== curve && alike(c, curve)).map((c): Kept => ({ label: c.name, curve: c }));
  const shown: Kept[] = [{ label: beside.length ? curve.name : label, curve }, ...beside, ...kept.filter((k) => alike(k.curve, curve))];
  const svg = drawChart({
    title: curve.name,
    width: 640,
    height: 330,
    x: { label: axisText(curve.x), log: curve.x.log },
    y: { label: axisText(curve.y), log: curve.y.log },
    legend: shown.length > 1,
    series: shown.map((k, i) => ({
      name: k.label,
      kind: "line",
      points: k.curve.points,
      color: SERIES[i % SERIES.length],
      dash: DASHES[i % DASHES.length],
    })),
  });
  return (
    <section aria-label="Curves">
      <div className="mb-6 flex items-end gap-3">
        <div className="w-96">
          <Field label="Curve" value={curve.key} onChange={choose} choices={curves.map((c) => [c.key, c.name] as const)} />
        </div>
        <button type="button" className="btn quiet small" onClick={() => keep([...kept, { label, curve }].slice(-5))}>
          Keep it to lay others over
        </button>
        {kept.length ? (
          <button type="button" className="link pb-1 text-[12px]" onClick={() => keep([])}>
            Drop {kept.length} kept
          </button>
        ) : null}
      </div>
      <Drawing svg={svg} name={`${label} ${curve.key}`} wide />
      <p className="mt-1 flex justify-between text-[11.5px] text-ink-3">
        <span>
          {curve.points.length} points from {asGiven(curve.points[0][0], 4)} to {asGiven(curve.points[curve.points.length - 1][0], 4)}
          {curve.x.unit ? ` ${unitText(curve.x.unit)}` : ""}.
        </span>
        <CsvButton
          name={`${label} ${curve.key}`}
          header={shown.flatMap((k) => [`${axisText(k.curve.x)}`, `${axisText(k.curve.y)}: ${k.label}`])}
          rows={() => besideOneAnother(shown)}
        />
      </p>
    </section>
  );
}
