"use client";

import type { ReactElement } from "react";
import { Bar, BarChart, CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import type { RunSettling } from "@/core/assessment/results/settling";
import { INK } from "@/core/drawing/palette";
import { percent, powerOfTen, quantityText, significant, unitText, withUncertainty } from "@/core/formatting/number";
import { scaleText } from "@/core/formatting/scale";
import type { ShorterMean } from "@/core/method/averaging/averagingLength";
import type { AveragedRecord } from "@/core/method/averaging/record";
import type { QuantitySpec } from "@/core/records/quantity";
import { linearAxis } from "../../charts/linearAxis";
import { AXIS, TIP } from "../../charts/looks";
import { decades, logTicks } from "../../charts/ticks";
import { CsvButton } from "../../tables/CsvButton";
import { DataTable } from "../../tables/DataTable";
import type { SettlingView } from "../../view";

/** What is drawn of an averaged record. */
export interface Pictures {
  readonly average: AveragedRecord;
  readonly running: readonly { at: number; mean: number }[];
  readonly lengths: readonly ShorterMean[];
  readonly histogram: readonly { from: number; to: number; count: number }[];
  readonly spectrum: readonly { frequency: number; density: number }[];
  readonly phase: readonly { phase: number; mean: number; deviation: number }[];
}

/** unit of the abscissa */
type Over = RunSettling["averages"][number]["abscissa"];

interface PictureProps {
  readonly found: Pictures;
  readonly name: string;
  /** unit after a heading, with its comma */
  readonly unit: string;
  readonly over: Over;
}

const short = (v: number) => significant(v, 3);
const COMMON = { margin: { top: 6, right: 12, bottom: 2, left: 8 } };
const Y = { ...AXIS, width: 66, tickFormatter: short } as const;
const X = { ...AXIS, type: "number", domain: ["dataMin", "dataMax"], tickFormatter: short } as const;
const GRID = <CartesianGrid stroke={INK.soft} vertical={false} />;

/** Running mean, histogram, spectrum and phase average of a record, and what they say in words. */
export function AveragePictures({ found, q, over, view }: { found: Pictures; q: QuantitySpec | undefined; over: Over; view: SettlingView }) {
  const unit = unitText(q?.unit ?? "1");
  const shared = { found, over, name: q?.name ?? "", unit: unit ? `, ${unit}` : "" };
  return (
    <>
      <div className="mt-3 grid grid-cols-2 gap-x-6 gap-y-3">
        <RunningMean {...shared} />
        <Histogram {...shared} />
        <Spectrum {...shared} />
        {found.phase.length ? <PhaseAverage {...shared} /> : null}
      </div>
      <Lengths {...shared} />
      <p className="mt-1 text-[12px] text-ink-2">
        {frequencySentence(found.average, over, view)} {samplingSentence(found.average, over)}
      </p>
    </>
  );
}

function Picture({ label, heading, children }: { label: string; heading: string; children: ReactElement }) {
  return (
    <figure aria-label={label}>
      <h3>{heading}</h3>
      <ResponsiveContainer width="100%" height={170}>
        {children}
      </ResponsiveContainer>
    </figure>
  );
}

function RunningMean({ found: { running, average: a }, name, unit, over }: PictureProps) {
  const [low, high] = [a.mean - a.expanded, a.mean + a.expanded];
  return (
    <Picture label={`Running mean of ${name}`} heading={`Running mean${unit}, with the 95 % band of the whole`}>
      <LineChart data={[...running]} {...COMMON}>
        {GRID}
        <XAxis dataKey="at" {...X} />
        <YAxis {...Y} {...linearAxis([...running.map((m) => m.mean), low, high])} />
        <Tooltip
          isAnimationActive={false}
          contentStyle={TIP}
          formatter={(v) => significant(Number(v), 5)}
          labelFormatter={(v) => quantityText(Number(v), over, 4)}
        />
        <ReferenceLine y={high} stroke={INK.brass} strokeDasharray="4 3" />
        <ReferenceLine y={low} stroke={INK.brass} strokeDasharray="4 3" />
        <Line dataKey="mean" name="mean" stroke={INK.blue} dot={false} strokeWidth={1.6} isAnimationActive={false} />
      </LineChart>
    </Picture>
  );
}

/** The mean along the averaging length: what a shorter record would have given. */
function Lengths({ found: { lengths }, name, unit, over }: PictureProps) {
  return (
    <section aria-label={`Mean of ${name} against averaging length`}>
      <div className="mt-3 flex items-baseline justify-between">
        <h3>Mean against averaging length</h3>
        <CsvButton
          name="averaging-length"
          header={[`length, ${over}`, `mean${unit}`, `uncertainty 95 %${unit}`]}
          rows={lengths.map((m) => [m.length, m.mean, m.expanded])}
        />
      </div>
      <DataTable
        className="tight"
        rows={lengths}
        rowKey={(m) => String(m.share)}
        columns={[
          { header: "Averaged over the first", cell: (m) => quantityText(m.length, over, 4) },
          { header: `Mean${unit}`, cell: (m) => withUncertainty(m.mean, m.expanded) },
          { header: "± 95 %", cell: (m) => significant(m.expanded, 2) },
        ]}
      />
    </section>
  );
}

function Histogram({ found: { histogram }, name, unit }: PictureProps) {
  return (
    <Picture label={`Histogram of ${name}`} heading={`Histogram${unit}`}>
      <BarChart data={histogram.map((b) => ({ at: (b.from + b.to) / 2, count: b.count }))} {...COMMON} barCategoryGap={1}>
        {GRID}
        <XAxis dataKey="at" {...AXIS} interval={Math.ceil(histogram.length / 5)} tickFormatter={scaleText(histogram.map((b) => b.from)).whole} />
        <YAxis {...Y} tickFormatter={(v: number) => String(Math.round(v))} />
        <Tooltip isAnimationActive={false} contentStyle={TIP} labelFormatter={(v) => significant(Number(v), 4)} />
        <Bar dataKey="count" fill={INK.slate} isAnimationActive={false} />
      </BarChart>
    </Picture>
  );
}

function Spectrum({ found: { spectrum, average: a }, name, over }: PictureProps) {
  const frequencies = logTicks(
    spectrum.map((l) => l.frequency),
    [1, 3],
  );
  const powers = spectrum.map((l) => l.density).filter((d) => d > 0);
  const densities = decades(Math.min(...powers), Math.max(...powers));
  return (
    <Picture label={`Spectrum of ${name}`} heading={`Power spectral density against frequency, ${over === "s" ? "Hz" : "1/iteration"}`}>
      <LineChart data={[...spectrum]} {...COMMON}>
        {GRID}
        <XAxis dataKey="frequency" scale="log" {...X} ticks={frequencies} />
        <YAxis
          scale="log"
          domain={[densities[0], densities[densities.length - 1]]}
          ticks={densities}
          {...Y}
          tickFormatter={(v: number) => powerOfTen(Math.round(Math.log10(v)))}
        />
        <Tooltip
          isAnimationActive={false}
          contentStyle={TIP}
          formatter={(v) => significant(Number(v), 3)}
          labelFormatter={(v) => significant(Number(v), 4)}
        />
        {a.peak ? <ReferenceLine x={a.peak.frequency} stroke={INK.pointer} strokeDasharray="4 3" /> : null}
        <Line dataKey="density" name="density" stroke={INK.verdigris} dot={false} strokeWidth={1.4} isAnimationActive={false} />
      </LineChart>
    </Picture>
  );
}

function PhaseAverage({ found: { phase }, name, unit }: PictureProps) {
  const bins = phase.map((b) => ({ ...b, high: b.mean + b.deviation, low: b.mean - b.deviation }));
  return (
    <Picture label={`Phase average of ${name}`} heading={`Phase average over one period${unit}`}>
      <LineChart data={bins} {...COMMON}>
        {GRID}
        <XAxis dataKey="phase" {...X} domain={[0, 1]} />
        <YAxis {...Y} {...linearAxis(bins.flatMap((b) => [b.high, b.low]))} />
        <Line dataKey="high" stroke={INK.tin} strokeDasharray="3 3" dot={false} isAnimationActive={false} />
        <Line dataKey="low" stroke={INK.tin} strokeDasharray="3 3" dot={false} isAnimationActive={false} />
        <Line dataKey="mean" stroke={INK.plum} strokeWidth={1.6} dot={false} isAnimationActive={false} />
      </LineChart>
    </Picture>
  );
}

function frequencySentence(a: AveragedRecord, over: Over, { evidence: { setup } }: SettlingView): string {
  if (!a.peak) return "No frequency stands out of the record.";
  const inTime = over === "s";
  const { frequency, amplitude, share, harmonics } = a.peak;
  const multiples = harmonics.length ? `; multiples ${harmonics.map((h) => h.multiple).join(", ")} stand out as well` : "";
  const strouhal = inTime
    ? ` Strouhal number ${significant((frequency * setup.lengthM) / setup.velocityMS, 4)} with ${setup.lengthName} and ${setup.velocityName}.`
    : "";
  return `Dominant frequency ${quantityText(frequency, inTime ? "Hz" : "1", 4)}, resolution ${significant(a.resolution, 2)}; amplitude ${significant(amplitude, 3)}, ${percent(share)} of the power${multiples}; ${a.cycles} cycles counted.${strouhal}`;
}

function samplingSentence(a: AveragedRecord, over: Over): string {
  const sampled = a.evenlySampled
    ? `Sampled every ${quantityText(a.step, over, 3)}.`
    : "Unevenly sampled: means weigh by the length of the steps, the rest rests on an even resampling.";
  return `${sampled} By batch means the standard uncertainty is ${significant(a.batchStandard, 2)}, by correlation ${significant(a.standard, 2)}.`;
}
