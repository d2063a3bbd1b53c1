"use client";

import { type ReactNode, useState } from "react";
import { otherLook, profileChart } from "@/core/drawing/caseCharts";
import { INK } from "@/core/drawing/palette";
import { percent, significant, unitText } from "@/core/formatting/number";
import type { Profile } from "@/core/records/profile";
import { Drawing } from "../../charts/Drawing";
import { StateMark } from "../../shell/StateMark";
import { CsvButton } from "../../tables/CsvButton";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";
import type { ComparisonView } from "../../view";
import { NotRun } from "./NotRun";
import { type Compared, type Group, groupsOf, type Station, sharedScale } from "./stations";

/** Every curve against every yardstick that has it: stations of one kind as small multiples on one scale, and a table of what they say. */
export function Profiles({ view }: { view: ComparisonView }) {
  const groups = groupsOf(view.assessment.comparison.profiles, view.profilesOf);
  return groups.map((g) => <OneGroup key={g.key} g={g} view={view} />);
}

function OneGroup({ g, view }: { g: Group; view: ComparisonView }) {
  const many = g.stations.length > 1;
  const [oneScale, setOneScale] = useState(true);
  const scale = many && oneScale ? sharedScale(g) : undefined;
  const wide = g.stations.length > 2;
  return (
    <section className="mt-6" aria-label={`${g.yardstick}: ${g.value}`}>
      <div className="flex items-baseline justify-between gap-4">
        <h2>
          {many ? `${g.value} at ${g.stations.length} stations` : g.stations[0].leading.name}, {g.yardstick}
        </h2>
        {many ? (
          <label className="no-print flex items-center gap-1.5 text-[12px]">
            <input type="checkbox" checked={oneScale} onChange={(e) => setOneScale(e.target.checked)} /> on one scale
          </label>
        ) : null}
      </div>
      {g.inside ? null : (
        <p className="flex items-center gap-2 text-[12.5px]">
          <StateMark state="fails" /> The yardstick does not hold for this case: it is shown and decides nothing.
        </p>
      )}
      <Legend g={g} />
      <div className={`mt-6 grid gap-x-5 gap-y-8 ${wide ? "grid-cols-3" : "grid-cols-2"}`}>
        {g.stations.map((s) => (
          <Picture
            key={s.leading.profileKey}
            s={s}
            view={view}
            look={{ ...scale, width: wide ? 300 : 376, height: wide ? 230 : 260, legend: false }}
          />
        ))}
      </div>
      <Figures g={g} />
      {g.stations.map((s) => (
        <NotRun key={s.leading.profileKey} view={view} c={s.leading} />
      ))}
    </section>
  );
}

function Picture({ s, view, look }: { s: Station; view: ComparisonView; look: NonNullable<Parameters<typeof profileChart>[2]> }) {
  const band = view.assessment.curves.find((c) => c.key === s.leading.profileKey) ?? view.bandsOf[s.leading.profileKey];
  const others = s.others.map((o) => ({ name: o.compared.runLabel, points: pointsOf(o.own) }));
  return (
    <figure>
      <figcaption className="pr-20 text-[12.5px] font-[560]">{s.leading.name}</figcaption>
      <div className="mt-2">
        <Drawing
          svg={profileChart(s.leading, s.own, { ...look, band, others })}
          name={`${s.leading.profileKey} ${s.leading.yardstick}`}
          of={[`${s.leading.yardstick} at its own places`, s.leading.runLabel, ...others.map((o) => o.name)].join(", ")}
        />
      </div>
      <p className="text-[12px] text-ink-2">{sentenceOf(s.leading, s.own)}</p>
    </figure>
  );
}

/** What is drawn over what, once for all pictures. */
function Legend({ g }: { g: Group }) {
  const [s] = g.stations;
  const doubt = g.stations.some((x) => x.leading.points.some((p) => p.doubtful));
  const lines = [s.leading.runLabel, ...s.others.map((o) => o.compared.runLabel)];
  return (
    <p className="mt-1 flex flex-wrap gap-x-5 text-[12px] text-ink-2">
      {lines.map((name, i) => (
        <span key={name} className="flex items-center gap-1.5">
          <svg width="24" height="8" aria-hidden="true">
            <path d="M0 4h24" stroke={i ? otherLook(i - 1).color : INK.blue} strokeWidth="1.6" strokeDasharray={i ? otherLook(i - 1).dash : ""} />
          </svg>
          {name}
        </span>
      ))}
      <Point color={INK.brass}>{s.leading.yardstick}, bars 95 %</Point>
      {doubt ? <Point color={INK.pointer}>doubtful point</Point> : null}
    </p>
  );
}

function Point({ color, children }: { color: string; children: ReactNode }) {
  return (
    <span className="flex items-center gap-1.5">
      <svg width="10" height="10" aria-hidden="true">
        <circle cx="5" cy="5" r="3.6" fill="#fff" stroke={color} strokeWidth="1.4" />
      </svg>
      {children}
    </span>
  );
}

const pointsOf = (p: Profile) => p.abscissa.values.map((x, i) => [x, p.value.values[i]] as const);

const over = (c: Compared, d: number) => percent(d / c.range);
const WORDS = { "within-noise": "within the noise", "beyond-noise": "beyond the noise" } as const;

const COLUMNS: readonly Column<Compared>[] = [
  { header: "Curve", words: true, cell: (c) => c.name },
  { header: "Run", words: true, cell: (c) => `${c.code}, ${c.runLabel}` },
  { header: "Points", cell: (c) => c.compared },
  { header: "Mean", title: () => "mean size of the difference over the range of the yardstick", cell: (c) => over(c, c.l1) },
  { header: "RMS", cell: (c) => over(c, c.l2) },
  { header: "Largest", cell: (c) => over(c, c.linf) },
  { header: "Within 2 u_val", cell: (c) => (c.many ? `${c.many.within} of ${c.many.points}` : "–") },
  { header: "Chi-square", cell: (c) => (c.many ? `${significant(c.many.chiSquare, 3)} / ${significant(c.many.expected, 3)}` : "–") },
  { header: "Front moved by", cell: (c) => (c.front ? `${significant(c.front.shift, 2)} ± ${significant(c.front.resolution, 2)}` : "–") },
  { header: <Unseen>Said of it</Unseen>, words: true, cell: (c) => (c.many ? WORDS[c.many.verdict] : "not weighed") },
];

const HEADER = [
  "curve",
  "yardstick",
  "code",
  "run",
  "at",
  "simulated",
  "reference",
  "difference",
  "standard u of the reference",
  "standard u of the run",
  "doubt",
];

/** What every curve of every code says, and all points as a table to save. */
function Figures({ g }: { g: Group }) {
  const all = g.stations.flatMap((s) => [s.leading, ...s.others.map((o) => o.compared)]);
  const weighed = all.some((c) => c.many);
  return (
    <>
      <div className="mt-3 flex justify-end">
        <CsvButton
          name={`${g.yardstick} ${g.value}`}
          header={HEADER}
          rows={() =>
            all.flatMap((c) =>
              c.points.map((p) => [
                c.name,
                c.yardstick,
                c.code,
                c.runLabel,
                p.at,
                p.simulated,
                p.reference,
                p.difference,
                p.uReference ?? "",
                p.uNum ?? "",
                p.doubtful ?? "",
              ]),
            )
          }
        />
      </div>
      <DataTable className="tight" rows={all} rowKey={(c) => `${c.profileKey} ${c.runId}`} columns={COLUMNS} />
      <p className="mt-1 text-[11.5px] text-ink-3">
        {weighed
          ? "Bars are 95 % of the yardstick, the band 95 % of the run's meshes. Chi-square weighs all points with what they share counted once; up to the second figure it is noise."
          : "Not weighed: that takes uncertainties of the yardstick and curves on three meshes. Norms are counted in the range of the yardstick."}
      </p>
    </>
  );
}

function sentenceOf(c: Compared, own: Profile): string {
  const unit = unitText(own.value.unit);
  const figure = (v: number) => `${significant(Math.abs(v), 2)}${unit ? ` ${unit}` : ""}`;
  return [
    c.worst ? `Worst at ${significant(c.worst.at, 3)}: ${figure(c.worst.difference)}.` : "",
    c.worst?.doubtful ? `That point ${c.worst.doubtful}; it takes no part in the norms.` : "",
    c.best
      ? `Best point at ${significant(c.best.simulated.at, 3)}, the yardstick's at ${significant(c.best.reference.at, 3)} ± ${significant(2 * c.best.reference.uAt, 1)}.`
      : "",
    c.lag ? `Comes ${significant(Math.abs(c.lag.lag), 2)} ${unitText(own.abscissa.unit)} ${c.lag.lag > 0 ? "later" : "earlier"}.` : "",
    c.area ? `The values taken lie ${figure(c.area.area)} apart, whenever they are taken.` : "",
    c.outside ? `${c.outside} points lie outside and were left out.` : "",
    ...c.notes,
  ]
    .filter(Boolean)
    .join(" ");
}
