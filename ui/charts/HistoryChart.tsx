"use client";

import { ticks as linearTicks } from "d3-array";
import { CartesianGrid, Line, LineChart, ReferenceArea, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { DASHES, INK, SERIES } from "@/core/drawing/palette";
import { powerOfTen, significant } from "@/core/formatting/number";
import { shortTicks } from "@/core/formatting/scale";
import type { Numbers } from "@/core/numeric/numbers";
import { ChartHandle, type Handle } from "./ChartHandle";
import { RestsOnChip, useOrigin } from "./FigureOrigin";
import { AXIS, HALO, TIP } from "./looks";
import { drawable, ordinate, thinnedEntries } from "./ticks";

export interface HistorySeries {
  readonly name: string;
  readonly values: Numbers;
}

interface Mark {
  readonly at: number;
  readonly label: string;
}

interface Level {
  readonly y: number;
  readonly label: string;
  readonly color: string;
}

interface HistoryChartProps {
  readonly title: string;
  readonly iteration: Numbers;
  readonly series: readonly HistorySeries[];
  readonly log?: boolean;
  readonly level?: Level;
  readonly height?: number;
  /** a mark at every point, for records of few */
  readonly marked?: boolean;
  /** what the abscissa counts; "iteration" unless given */
  readonly abscissa?: string;
  readonly handles?: readonly Handle[];
  /** places along the abscissa where something took hold */
  readonly marks?: readonly Mark[];
  /** what this chart rests on besides what its page does: a record, as a rule */
  readonly of?: string;
  /** a shaded band about a level, such as a mean with its uncertainty */
  readonly band?: { low: number; high: number; from: number };
}

const MOST_POINTS = 600;
const HEIGHT = 190;

/** Records over the iterations; at most six hundred points are drawn, whatever is stored. */
export function HistoryChart(p: HistoryChartProps) {
  const log = p.log ?? false;
  const said = useOrigin(p.of);
  const { ticks, domain } = ordinate(
    p.series.map((s) => s.values),
    p.level?.y,
    log,
  );
  const scale = shortTicks(ticks);
  const ends = [p.iteration[0] ?? 0, p.iteration[p.iteration.length - 1] ?? 1] as const;
  const height = p.height ?? HEIGHT;
  return (
    <figure aria-label={p.title} className="relative">
      {!log && scale.factor ? <span className="absolute top-0 left-1 font-mono text-[11px] text-ink-2">{scale.factor}</span> : null}
      <ResponsiveContainer width="100%" height={height}>
        <LineChart data={pointsOf(p)} margin={{ top: scale.shifted && !log ? 18 : 6, right: 20, bottom: 2, left: 8 }}>
          <CartesianGrid stroke={INK.soft} vertical={false} />
          <XAxis dataKey="it" type="number" domain={["dataMin", "dataMax"]} {...AXIS} {...abscissaOf(p)} />
          <YAxis
            scale={log ? "log" : "linear"}
            domain={domain}
            ticks={ticks}
            {...AXIS}
            tickFormatter={(v: number) => (log ? powerOfTen(Math.round(Math.log10(v))) : scale.text(v))}
            width={66}
            allowDataOverflow
          />
          <Tooltip
            isAnimationActive={false}
            contentStyle={TIP}
            formatter={(value, name) => [typeof value === "number" ? significant(value, 5) : "", p.series[Number(String(name).slice(1))]?.name ?? ""]}
            labelFormatter={(it) => (p.abscissa ? `${p.abscissa} ${significant(Number(it), 5)}` : `iteration ${it}`)}
          />
          {p.band ? (
            <ReferenceArea y1={p.band.low} y2={p.band.high} x1={p.band.from} fill={INK.blue} fillOpacity={0.14} ifOverflow="extendDomain" />
          ) : null}
          {p.level ? levelLine(p.level, p.level.y >= domain[1]) : null}
          {p.marks?.map((m) => markLine(m, m.at > ends[0] + 0.6 * (ends[1] - ends[0]), p.level !== undefined))}
          {p.series.map((s, k) => seriesLine(s, k, p.marked ?? false))}
        </LineChart>
      </ResponsiveContainer>
      {p.iteration.length > 1 ? p.handles?.map((h) => <ChartHandle key={h.label} handle={h} from={ends[0]} to={ends[1]} height={height} />) : null}
      {p.series.length > 1 ? <Legend series={p.series} /> : null}
      <RestsOnChip said={said} name={p.title} />
    </figure>
  );
}

/** What is drawn of the records, an object a point: a gap where a value cannot be drawn. */
function pointsOf({ iteration, series, log = false }: HistoryChartProps) {
  const shown = (v: number) => (drawable(v, log) ? v : null);
  return thinnedEntries(iteration.length, MOST_POINTS).map((i) => ({
    it: iteration[i],
    ...Object.fromEntries(series.map((s, k) => [`s${k}`, shown(s.values[i])])),
  }));
}

/** Ticks of the abscissa: iterations are whole, anything else may have decimals. */
function abscissaOf({ iteration, abscissa }: HistoryChartProps) {
  const decimals = abscissa !== undefined;
  const ticks = iteration.length > 1 ? linearTicks(iteration[0], iteration[iteration.length - 1], 6) : undefined;
  return { allowDecimals: decimals, ticks: ticks?.filter((t) => decimals || Number.isInteger(t)) };
}

const levelLine = ({ y, label, color }: Level, atTop: boolean) => (
  <ReferenceLine
    y={y}
    stroke={color}
    strokeDasharray="5 3"
    label={{
      value: label,
      position: atTop ? "insideTopRight" : "insideBottomRight",
      fontSize: 11,
      fill: color === INK.brass ? INK.brassText : color,
      ...HALO,
    }}
  />
);

/** Words stand on the side where there is room, clear of the level's own at the lower right. */
const markLine = (m: Mark, late: boolean, hasLevel: boolean) => (
  <ReferenceLine
    key={m.label}
    x={m.at}
    stroke={INK.ink2}
    strokeDasharray="2 3"
    label={{
      value: m.label,
      position: late ? "insideBottomRight" : "insideBottomLeft",
      fontSize: 11,
      fill: INK.ink2,
      dy: hasLevel && late ? -14 : 0,
      ...HALO,
    }}
  />
);

const seriesLine = (s: HistorySeries, k: number, marked: boolean) => (
  <Line
    key={s.name}
    dataKey={`s${k}`}
    stroke={SERIES[k % SERIES.length]}
    strokeDasharray={DASHES[k % DASHES.length]}
    strokeWidth={1.6}
    dot={marked ? { r: 2.5, fill: SERIES[k % SERIES.length], strokeWidth: 0 } : false}
    isAnimationActive={false}
  />
);

function Legend({ series }: { series: readonly HistorySeries[] }) {
  return (
    <figcaption className="flex flex-wrap gap-x-4 pl-[74px] text-[11.5px] text-ink-2">
      {series.map((s, k) => (
        <span key={s.name} className="flex items-center gap-1.5">
          <svg width="22" height="6" aria-hidden="true">
            <path d="M0 3h22" stroke={SERIES[k % SERIES.length]} strokeWidth="1.6" strokeDasharray={DASHES[k % DASHES.length]} />
          </svg>
          {s.name}
        </span>
      ))}
    </figcaption>
  );
}
