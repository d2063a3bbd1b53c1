"use client";

import { drawChart } from "@/core/drawing/chart";
import { INK } from "@/core/drawing/palette";
import { axisText, significant } from "@/core/formatting/number";
import type { Answer } from "../api/call";
import { Drawing } from "../charts/Drawing";
import { Field } from "../forms/Field";
import { besideChoices, type KnownCurve } from "./targets";

type ReadCurve = Answer<"POST /curves/preview">["curves"][number];

interface Props {
  readonly curves: readonly ReadCurve[];
  /** curves of the case, which these can stand beside */
  readonly known: readonly KnownCurve[];
  readonly targets: Readonly<Record<string, string>>;
  readonly aim: (name: string, key: string) => void;
  /** proposals that are believed after all, by the name of the curve; absent where points are not judged */
  readonly believed?: Readonly<Record<string, readonly number[]>>;
  readonly believe?: (name: string, index: number, yes: boolean) => void;
}

/** What was read, before anything is stored: every curve with its bars, which curve of the case it stands beside, and points that do not go with the rest. */
export function CurvePictures({ curves, known, targets, aim, believed, believe }: Props) {
  return (
    <div className="mt-8 grid grid-cols-3 gap-x-4 gap-y-9">
      {curves.map((c) => (
        <section key={c.name} aria-label={c.name}>
          <Drawing svg={pictureOf(c, believed?.[c.name] ?? [])} name={c.name} />
          <Field
            label={`${c.name}: ${c.abscissa.length} points, stands beside`}
            value={targets[c.name] ?? ""}
            onChange={(key) => aim(c.name, key)}
            choices={besideChoices(known)}
          />
          {believe
            ? c.proposals.map((p) => (
                <label key={p.index} className="mt-1 flex items-start gap-1.5 text-[12px]">
                  <input
                    type="checkbox"
                    className="mt-0.5"
                    checked={!believed?.[c.name]?.includes(p.index)}
                    onChange={(e) => believe(c.name, p.index, !e.target.checked)}
                  />
                  <span>
                    mark the point at {significant(c.abscissa[p.index], 4)} as doubtful: it {p.reason}
                  </span>
                </label>
              ))
            : null}
        </section>
      ))}
    </div>
  );
}

function pictureOf(c: ReadCurve, believed: readonly number[]): string {
  const doubtful = new Set(c.proposals.map((p) => p.index).filter((i) => !believed.includes(i)));
  const reach = c.value.map((_, i) => 2 * Math.hypot(c.own?.[i] ?? 0, c.shared?.[i] ?? 0));
  const part = (wanted: boolean) =>
    c.abscissa.flatMap((x, i) => (doubtful.has(i) === wanted ? [{ point: [x, c.value[i]] as const, reach: reach[i] }] : []));
  const series = [
    { name: c.name, color: INK.brass, part: part(false) },
    { name: "doubtful", color: INK.pointer, part: part(true) },
  ];
  return drawChart({
    title: c.name,
    width: 300,
    height: 190,
    x: { label: axisText(c.axes.abscissa) },
    y: { label: axisText(c.axes.value) },
    series: series.map((s) => ({
      name: s.name,
      color: s.color,
      kind: "open-points" as const,
      points: s.part.map((p) => p.point),
      spread: s.part.map((p) => p.reach),
    })),
  });
}
