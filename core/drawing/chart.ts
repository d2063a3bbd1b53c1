import { scaleLinear, scaleLog } from "d3-scale";
import { line } from "d3-shape";
import { powerOfTen, scientific, significant } from "../formatting/number.ts";
import { tickText, toldApart } from "../formatting/scale.ts";
import { DASHES, INK, SERIES } from "./palette.ts";
import { escapeXml, FONT, MONO, n } from "./svgText.ts";

export interface AxisSpec {
  readonly label: string;
  readonly log?: boolean;
  readonly domain?: readonly [number, number];
  readonly percent?: boolean;
  /** values to mark instead of chosen ones */
  readonly ticks?: readonly number[];
}

export interface SeriesSpec {
  readonly name: string;
  readonly points: readonly (readonly [x: number, y: number])[];
  readonly kind: "line" | "points" | "open-points" | "bars";
  readonly color?: string;
  readonly dash?: string;
  /** half-length of an upright bar about each point: one for all, or one for each */
  readonly spread?: number | readonly number[];
  /** half-height of a shaded band along a line, at each point */
  readonly band?: readonly number[];
}

export interface LevelSpec {
  readonly y: number;
  readonly label: string;
  readonly color: string;
}

export interface ChartSpec {
  readonly title: string;
  readonly width: number;
  readonly height: number;
  readonly x: AxisSpec;
  readonly y: AxisSpec;
  readonly series: readonly SeriesSpec[];
  readonly levels?: readonly LevelSpec[];
  readonly legend?: boolean;
  /** triangle showing a slope on log axes */
  readonly slope?: { readonly order: number; readonly at: readonly [number, number] };
}

/** How far a point's bar or band reaches up and down. */
function reachAt({ spread, band }: SeriesSpec, i: number): number {
  const reach = band?.[i] ?? (typeof spread === "object" ? spread[i] : spread) ?? 0;
  return Number.isFinite(reach) ? reach : 0;
}

/** A chart as a self-contained SVG drawing: the same on screen, in the report and in an exported file. */
export function drawChart(spec: ChartSpec): string {
  const left = 64;
  const right = 14;
  const top = 10;
  const bottom = 42;
  const { width: w, height: h } = spec;
  const triangle = spec.slope ? [spec.slope.at, [spec.slope.at[0] * 1.6, spec.slope.at[1] * 1.6 ** spec.slope.order] as const] : [];
  const xs = [...spec.series.flatMap((s) => s.points.map((p) => p[0])), ...triangle.map((p) => p[0])];
  const ys = [
    ...spec.series.flatMap((s) => s.points.flatMap((p, i) => [p[1] - reachAt(s, i), p[1] + reachAt(s, i)])),
    ...(spec.levels ?? []).map((l) => l.y),
    ...triangle.map((p) => p[1]),
  ];
  const sx = scaleFor(spec.x, xs, [left, w - right]);
  const sy = scaleFor(spec.y, ys, [h - bottom, top]);
  const parts: string[] = [
    `<rect x="${left}" y="${top}" width="${w - left - right}" height="${h - top - bottom}" fill="#fff" stroke="${INK.line}"/>`,
  ];
  for (const t of sy.ticks) {
    const y = n(sy.at(t.value));
    parts.push(
      `<path d="M${left} ${y}H${w - right}" stroke="${INK.soft}"/><text x="${left - 6}" y="${n(sy.at(t.value) + 3.5)}" text-anchor="end" font-family="${MONO}" font-size="11" fill="${INK.ink2}">${escapeXml(t.text)}</text>`,
    );
  }
  for (const t of sx.ticks) {
    const x = n(sx.at(t.value));
    parts.push(
      `<path d="M${x} ${h - bottom}v4" stroke="${INK.ink3}"/><text x="${x}" y="${h - bottom + 16}" text-anchor="middle" font-family="${MONO}" font-size="11" fill="${INK.ink2}">${escapeXml(t.text)}</text>`,
    );
  }
  parts.push(
    `<text x="${n((left + w - right) / 2)}" y="${h - 8}" text-anchor="middle" font-family="${FONT}" font-size="11" fill="${INK.ink2}">${escapeXml(spec.x.label)}</text>`,
  );
  parts.push(
    `<text x="12" y="${n((top + h - bottom) / 2)}" text-anchor="middle" font-family="${FONT}" font-size="11" fill="${INK.ink2}" transform="rotate(-90 12 ${n((top + h - bottom) / 2)})">${escapeXml(spec.y.label)}</text>`,
  );
  for (const l of spec.levels ?? []) {
    if (!sy.inside(l.y)) continue;
    const y = sy.at(l.y);
    parts.push(
      `<path d="M${left} ${n(y)}H${w - right}" stroke="${l.color}" stroke-width="1.2" stroke-dasharray="5 3"/><text x="${w - right - 5}" y="${n(y < top + 20 ? y + 13 : y - 5)}" text-anchor="end" font-family="${FONT}" font-size="11" fill="${l.color === INK.brass ? INK.brassText : l.color}">${escapeXml(l.label)}</text>`,
    );
  }
  spec.series.forEach((s, i) => {
    parts.push(drawSeries(s, i, sx, sy));
  });
  if (spec.slope) parts.push(drawSlope(spec.slope, sx, sy));
  if (spec.legend) parts.push(drawLegend(spec.series, left + 10, top + 14));
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${w} ${h}" width="${w}" height="${h}" role="img" aria-label="${escapeXml(spec.title)}">${parts.join("")}</svg>`;
}

interface Placed {
  readonly at: (v: number) => number;
  readonly inside: (v: number) => boolean;
  readonly ticks: readonly { value: number; text: string }[];
}

function scaleFor(axis: AxisSpec, values: readonly number[], range: [number, number]): Placed {
  const good = values.filter((v) => Number.isFinite(v) && (!axis.log || v > 0));
  let [low, high] = axis.domain ?? (good.length ? [Math.min(...good), Math.max(...good)] : axis.log ? [1e-3, 1] : [0, 1]);
  if (axis.log) {
    if (!axis.domain) {
      low /= 1.4;
      high *= 1.4;
    }
    const s = scaleLog().domain([low, high]).range(range);
    const decades = Math.log10(high / low);
    const step = Math.max(1, Math.ceil(decades / 6));
    let ticks = Array.from({ length: Math.floor(Math.log10(high)) - Math.ceil(Math.log10(low)) + 1 }, (_, k) => Math.ceil(Math.log10(low)) + k)
      .filter((k) => k % step === 0)
      .map((k) => ({ value: 10 ** k, text: axis.percent ? percentTick(10 ** k) : powerOfTen(k) }));
    if (axis.ticks) ticks = axis.ticks.map((value) => ({ value, text: String(Number(value.toPrecision(3))) }));
    else if (ticks.length < 2) {
      const decade = Math.floor(Math.log10(low));
      ticks = [0, 1, 2]
        .flatMap((d) => [1, 2, 5].map((m) => m * 10 ** (decade + d)))
        .filter((v) => v >= low && v <= high)
        .map((value) => ({ value, text: axis.percent ? percentTick(value) : value < 1e-3 ? scientific(value, 1) : significant(value, 1) }));
    }
    return { at: (v) => s(Math.max(v, 1e-300)), inside: (v) => v >= low && v <= high, ticks };
  }
  if (!toldApart(low, high)) {
    const pad = Math.abs(low) * 1e-2 || 1;
    low -= pad;
    high += pad;
  } else if (!axis.domain) {
    const pad = (high - low) * 0.07;
    low -= pad;
    high += pad;
  }
  const s = scaleLinear().domain([low, high]).range(range);
  const raw = s.ticks(5);
  const { whole: text } = tickText(raw);
  return { at: (v) => s(v), inside: (v) => v >= low && v <= high, ticks: raw.map((value) => ({ value, text: text(value) })) };
}

function percentTick(v: number): string {
  const p = v * 100;
  return p >= 1e-4 ? `${Number(p.toPrecision(2))} %` : powerOfTen(Math.round(Math.log10(v)));
}

function drawSeries(s: SeriesSpec, index: number, sx: Placed, sy: Placed): string {
  const color = s.color ?? SERIES[index % SERIES.length];
  const placed = s.points.map(([x, y], i) => ({ x, y, reach: reachAt(s, i) })).filter((p) => Number.isFinite(p.x) && Number.isFinite(p.y));
  if (s.kind === "line")
    return `${s.band ? drawBand(placed, color, sx, sy) : ""}${drawLine(placed, color, s.dash ?? DASHES[index % DASHES.length], sx, sy)}`;
  if (s.kind === "bars")
    return drawBars(
      placed.map((p) => [p.x, p.y] as const),
      color,
      sx,
      sy,
    );
  return placed
    .map(({ x, y, reach }) => {
      const cx = n(sx.at(x));
      const bar = reach ? `<path d="M${cx} ${n(sy.at(y - reach))}V${n(sy.at(y + reach))}" stroke="${color}" stroke-width="1.2"/>` : "";
      return `${bar}<circle cx="${cx}" cy="${n(sy.at(y))}" r="3.6" fill="${s.kind === "open-points" ? "#fff" : color}" stroke="${color}" stroke-width="1.4"/>`;
    })
    .join("");
}

interface Reached {
  readonly x: number;
  readonly y: number;
  readonly reach: number;
}

function drawLine(points: readonly Reached[], color: string, dash: string, sx: Placed, sy: Placed): string {
  const path = line<Reached>()
    .x((p) => Math.round(sx.at(p.x) * 100) / 100)
    .y((p) => Math.round(sy.at(p.y) * 100) / 100)([...points]);
  return `<path d="${path ?? ""}" fill="none" stroke="${color}" stroke-width="1.6" stroke-dasharray="${dash}"/>`;
}

function drawBand(points: readonly Reached[], color: string, sx: Placed, sy: Placed): string {
  const edge = (sign: 1 | -1) => points.map((p) => `${n(sx.at(p.x))} ${n(sy.at(p.y + sign * p.reach))}`);
  return points.length ? `<path d="M${[...edge(1), ...edge(-1).reverse()].join("L")}Z" fill="${color}" fill-opacity="0.18"/>` : "";
}

/** share of the way to the next bar that a bar takes */
const BAR = 0.8;

function drawBars(points: SeriesSpec["points"], color: string, sx: Placed, sy: Placed): string {
  const [first, second] = points;
  const width = second ? BAR * Math.abs(sx.at(second[0]) - sx.at(first[0])) : 20;
  return points
    .map(([x, y]) => {
      const [top, foot] = [sy.at(Math.max(y, 0)), sy.at(Math.min(y, 0))];
      return `<rect x="${n(sx.at(x) - width / 2)}" y="${n(top)}" width="${n(width)}" height="${n(foot - top)}" fill="${color}"/>`;
    })
    .join("");
}

function drawSlope(slope: NonNullable<ChartSpec["slope"]>, sx: Placed, sy: Placed): string {
  const [x, y] = slope.at;
  const x2 = x * 1.6;
  const y2 = y * 1.6 ** slope.order;
  return `<path d="M${n(sx.at(x))} ${n(sy.at(y))}H${n(sx.at(x2))}V${n(sy.at(y2))}Z" fill="none" stroke="${INK.ink3}"/><text x="${n(sx.at(x2) + 5)}" y="${n((sy.at(y) + sy.at(y2)) / 2 + 4)}" font-family="${FONT}" font-size="11" fill="${INK.ink2}">${slope.order}</text>`;
}

function drawLegend(series: readonly SeriesSpec[], x: number, y: number): string {
  return series
    .map((s, i) => {
      const color = s.color ?? SERIES[i % SERIES.length];
      const yy = y + 16 * i;
      const mark =
        s.kind === "line"
          ? `<path d="M${x} ${yy}h22" stroke="${color}" stroke-width="1.6" stroke-dasharray="${s.dash ?? DASHES[i % DASHES.length]}"/>`
          : `<circle cx="${x + 11}" cy="${yy}" r="3.6" fill="${s.kind === "open-points" ? "#fff" : color}" stroke="${color}" stroke-width="1.4"/>`;
      return `${mark}<text x="${x + 28}" y="${yy + 4}" font-family="${FONT}" font-size="11" fill="${INK.ink}">${escapeXml(s.name)}</text>`;
    })
    .join("");
}
