"use client";

import { ticks as linearTicks } from "d3-array";
import { CartesianGrid, Line, LineChart, ReferenceArea, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { DASHES, INK, SERIES } from "@/core/drawing/palette";
import { powerOfTen, significant } from "@/core/formatting/number";
import { tickText } from "@/core/formatting/scale";
import type { Numbers } from "@/core/numeric/numbers";
import { ChartHandle, type Handle } from "./ChartHandle";

export interface HistorySeries {
  readonly name: string;
  readonly values: Numbers;
}

const MOST_POINTS = 600;
const axis = { fontSize: 11, fontFamily: "var(--font-mono)", fill: INK.ink2 } as const;

/** Records over the iterations; at most six hundred points are drawn, whatever is stored. */
export function HistoryChart(p: {
  title: string;
  iteration: Numbers;
  series: readonly HistorySeries[];
  log?: boolean;
  level?: { y: number; label: string; color: string };
  height?: number;
  /** a mark at every point, for records of few */
  marked?: boolean;
  /** what the abscissa counts; "iteration" unless given */
  abscissa?: string;
  handles?: readonly Handle[];
  /** places along the abscissa where something took hold */
  marks?: readonly { readonly at: number; readonly label: string }[];
  /** a shaded band about a level, such as a mean with its uncertainty */
  band?: { low: number; high: number; from: number };
}) {
  const step = Math.max(1, Math.ceil(p.iteration.length / MOST_POINTS));
  const good = (v: number) => (Number.isFinite(v) && (!p.log || v > 0) ? v : null);
  const data = Array.from(p.iteration).flatMap((it, i) =>
    i % step === 0 || i === p.iteration.length - 1 ? [{ it, ...Object.fromEntries(p.series.map((s, k) => [`s${k}`, good(s.values[i])])) }] : [],
  );
  const values = p.series.flatMap((s) => [...s.values.filter((v) => good(v) !== null)]).concat(p.level ? [p.level.y] : []);
  const low = values.reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY);
  const high = values.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY);
  const ticks = p.log ? decades(low, high) : Number.isFinite(high - low) ? linearTicks(low, high, 5) : [];
  const pad = (high - low) * 0.08 || Math.abs(high) * 1e-3 || 1;
  const domain: [number, number] = p.log ? [ticks[0] ?? 1e-3, ticks[ticks.length - 1] ?? 1] : [low - pad, high + pad];
  const scale = tickText(ticks);
  const [from, to] = [p.iteration[0] ?? 0, p.iteration[p.iteration.length - 1] ?? 1];
  const format = (v: number) => (p.log ? powerOfTen(Math.round(Math.log10(v))) : scale.text(v));
  return (
    <figure aria-label={p.title} className="relative">
      {!p.log && scale.factor ? <span className="absolute top-0 left-1 font-mono text-[11px] text-ink-2">{scale.factor}</span> : null}
      <ResponsiveContainer width="100%" height={p.height ?? 190}>
        <LineChart data={data} margin={{ top: 6, right: 20, bottom: 2, left: 8 }}>
          <CartesianGrid stroke={INK.soft} vertical={false} />
          <XAxis
            dataKey="it"
            type="number"
            domain={["dataMin", "dataMax"]}
            ticks={
              p.iteration.length > 1
                ? linearTicks(p.iteration[0], p.iteration[p.iteration.length - 1], 6).filter((t) => p.abscissa !== undefined || Number.isInteger(t))
                : undefined
            }
            tick={axis}
            tickLine={false}
            stroke={INK.line}
            allowDecimals={p.abscissa !== undefined}
          />
          <YAxis
            scale={p.log ? "log" : "linear"}
            domain={domain}
            ticks={ticks}
            tick={axis}
            tickFormatter={format}
            width={66}
            tickLine={false}
            stroke={INK.line}
            allowDataOverflow
          />
          <Tooltip
            isAnimationActive={false}
            contentStyle={{ background: "#FAF9F5", border: `1px solid ${INK.line}`, borderRadius: 3, fontSize: 12, padding: "4px 8px" }}
            formatter={(value, name) => [typeof value === "number" ? significant(value, 5) : "", p.series[Number(String(name).slice(1))]?.name ?? ""]}
            labelFormatter={(it) => (p.abscissa ? `${p.abscissa} ${significant(Number(it), 5)}` : `iteration ${it}`)}
          />
          {p.band ? (
            <ReferenceArea y1={p.band.low} y2={p.band.high} x1={p.band.from} fill={INK.blue} fillOpacity={0.14} ifOverflow="extendDomain" />
          ) : null}
          {p.level ? (
            <ReferenceLine
              y={p.level.y}
              stroke={p.level.color}
              strokeDasharray="5 3"
              label={{
                value: p.level.label,
                position: p.level.y >= domain[1] ? "insideTopRight" : "insideBottomRight",
                fontSize: 11,
                fill: p.level.color === INK.brass ? INK.brassText : p.level.color,
                stroke: "#FAF9F5",
                strokeWidth: 3,
                paintOrder: "stroke",
              }}
            />
          ) : null}
          {p.marks?.map((m) => (
            <ReferenceLine
              key={m.label}
              x={m.at}
              stroke={INK.ink2}
              strokeDasharray="2 3"
              // Words stand on the side where there is room, clear of the level's own at the lower right.
              label={{
                value: m.label,
                position: m.at > from + 0.6 * (to - from) ? "insideBottomRight" : "insideBottomLeft",
                fontSize: 11,
                fill: INK.ink2,
                dy: p.level && m.at > from + 0.6 * (to - from) ? -14 : 0,
                stroke: "#FAF9F5",
                strokeWidth: 3,
                paintOrder: "stroke",
              }}
            />
          ))}
          {p.series.map((s, k) => (
            <Line
              key={s.name}
              dataKey={`s${k}`}
              stroke={SERIES[k % SERIES.length]}
              strokeDasharray={DASHES[k % DASHES.length]}
              strokeWidth={1.6}
              dot={p.marked ? { r: 2.5, fill: SERIES[k % SERIES.length], strokeWidth: 0 } : false}
              isAnimationActive={false}
            />
          ))}
        </LineChart>
      </ResponsiveContainer>
      {p.iteration.length > 1
        ? p.handles?.map((h) => (
            <ChartHandle key={h.label} handle={h} from={p.iteration[0]} to={p.iteration[p.iteration.length - 1]} height={p.height ?? 190} />
          ))
        : null}
      {p.series.length > 1 ? (
        <figcaption className="flex flex-wrap gap-x-4 pl-[74px] text-[11.5px] text-ink-2">
          {p.series.map((s, k) => (
            <span key={s.name} className="flex items-center gap-1.5">
              <svg width="22" height="6" aria-hidden="true">
                <path d="M0 3h22" stroke={SERIES[k % SERIES.length]} strokeWidth="1.6" strokeDasharray={DASHES[k % DASHES.length]} />
              </svg>
              {s.name}
            </span>
          ))}
        </figcaption>
      ) : null}
    </figure>
  );
}

/** Powers of ten that span a range, at most about six. */
export function decades(low: number, high: number): number[] {
  if (!(low > 0 && high > 0)) return [1e-3, 1];
  const from = Math.floor(Math.log10(low));
  const to = Math.max(from + 1, Math.ceil(Math.log10(high)));
  const step = Math.max(1, Math.ceil((to - from) / 6));
  const first = Math.floor(from / step) * step;
  const out: number[] = [];
  for (let d = first; d < to + step; d += step) out.push(10 ** d);
  return out;
}
