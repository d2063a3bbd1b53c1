import type { CaseAssessment } from "../assessment/results/case.ts";
import type { CurveAssessment, QuantityRefinement } from "../assessment/results/refinement.ts";
import { axisText, significant, unitText } from "../formatting/number.ts";
import type { CurveBand } from "../method/comparison/comparison.ts";
import { overStart } from "../method/iteration/overStart.ts";
import { pchip } from "../numeric/pchip.ts";
import type { Profile } from "../records/profile.ts";
import type { QuantitySpec } from "../records/quantity.ts";
import type { HistoryEvidence } from "../records/run.ts";
import { drawChart, type SeriesSpec } from "./chart.ts";
import { DASHES, INK } from "./palette.ts";

/** Value of a quantity against spacing with its extrapolation and the yardstick. */
export function valueAgainstSpacing(
  r: QuantityRefinement,
  q: QuantitySpec,
  yardstick: { value: number; name: string } | undefined,
  width = 376,
  height = 232,
): string {
  const points = r.rungs.filter((x) => x.value !== undefined);
  const finest = points.find((p) => p.used) ?? points[0];
  const h1 = finest?.spacing ?? 1;
  const at = (x: { spacing: number; value?: number }) => [x.spacing / h1, x.value ?? Number.NaN] as const;
  const series: SeriesSpec[] = [];
  const largest = Math.max(2, ...points.map((p) => p.spacing / h1));
  if (r.result?.kind === "monotone" && r.result.extrapolated !== undefined && finest?.value !== undefined) {
    const { extrapolated: limit, order } = r.result;
    const a = finest.value - limit;
    series.push({
      name: "fit",
      kind: "line",
      color: INK.blue,
      points: Array.from({ length: 61 }, (_, k) => [(largest * k) / 60, limit + a * ((largest * k) / 60) ** order] as const),
    });
    series.push({ name: "extrapolated", kind: "points", color: INK.blue, points: [[0, limit]], spread: r.uncertainty ?? r.result.uncertainty });
  }
  series.push({ name: "used", kind: "points", color: INK.blue, points: points.filter((p) => p.used).map(at) });
  series.push({ name: "left out", kind: "open-points", color: INK.blue, points: points.filter((p) => !p.used).map(at) });
  return drawChart({
    title: `${q.name} against mesh spacing`,
    width,
    height,
    x: { label: "h / h₁", domain: [-largest * 0.03, largest * 1.05] },
    y: { label: unitText(q.unit) ? `${q.symbol}, ${unitText(q.unit)}` : q.symbol },
    series,
    levels: yardstick ? [{ y: yardstick.value, label: `yardstick ${significant(yardstick.value, 5)}`, color: INK.brass }] : [],
  });
}

/** Distance of each value from the extrapolated one against spacing, both logarithmic. */
export function errorAgainstSpacing(r: QuantityRefinement, q: QuantitySpec, scale: number, width = 376, height = 232): string | undefined {
  if (r.result?.kind !== "monotone" || r.result.extrapolated === undefined) return undefined;
  const limit = r.result.extrapolated;
  const points = r.rungs.filter((x) => x.value !== undefined && x.used);
  const h1 = points[0].spacing;
  const rows = points.map((p) => [p.spacing / h1, Math.abs((p.value ?? 0) - limit) / scale] as const).filter(([, e]) => e > 0);
  const order = r.result.order;
  const fit = rows[0] ? [0.9, Math.max(...rows.map((p) => p[0])) * 1.1].map((x) => [x, rows[0][1] * x ** order] as const) : [];
  return drawChart({
    title: `Error of ${q.name} against mesh spacing`,
    width,
    height,
    x: { label: "h / h₁", log: true, ticks: rows.map((p) => Number(p[0].toPrecision(3))) },
    y: { label: "off the extrapolated value", log: true, percent: true },
    series: [
      { name: `order ${order.toFixed(2)}`, kind: "line", color: INK.blue, points: fit },
      { name: "used", kind: "points", color: INK.blue, points: rows },
    ],
    slope: rows.length > 1 ? { order: 2, at: [rows[0][0] * 1.5, rows[0][1] * 0.8] } : undefined,
  });
}

/** Distance of each value from the extrapolated one against what its run cost, both logarithmic; undefined without a limit or times. */
export function errorAgainstCost(r: QuantityRefinement, q: QuantitySpec, scale: number, width = 376, height = 232): string | undefined {
  if (r.result?.kind !== "monotone" || r.result.extrapolated === undefined) return undefined;
  const limit = r.result.extrapolated;
  const points = r.rungs.flatMap((g) => {
    const error = Math.abs((g.value ?? limit) - limit) / scale;
    return g.used && g.seconds && error > 0 ? [[g.seconds, error] as const] : [];
  });
  if (points.length < 2) return undefined;
  return drawChart({
    title: `Error of ${q.name} against computing time`,
    width,
    height,
    x: { label: "computing time, s", log: true },
    y: { label: "off the extrapolated value", log: true, percent: true },
    series: [
      { name: "meshes", kind: "line", color: INK.tin, points },
      { name: "used", kind: "points", color: INK.blue, points },
    ],
  });
}

/** A curve on every mesh of a family, the finest with its band. */
export function curveOverMeshes(c: CurveAssessment, width = 376, height = 260): string {
  const shades = [INK.blue, INK.slate, INK.tin];
  const series = [...c.rungs]
    .map(
      (g, k): SeriesSpec => ({
        name: g.label,
        kind: "line",
        color: shades[Math.min(k, shades.length - 1)],
        dash: k === 0 ? "" : k === 1 ? "6 3" : "2 2",
        points: g.at.map((x, i) => [x, g.value[i]] as const),
      }),
    )
    .reverse();
  const edges = [1, -1].map(
    (side): SeriesSpec => ({
      name: "95 %",
      color: INK.blue,
      kind: "line",
      dash: "1 3",
      points: c.at.map((x, i) => [x, c.fine[i] + side * c.band[i]] as const),
    }),
  );
  return drawChart({
    title: `${c.name} on every mesh`,
    width,
    height,
    x: { label: unitText(c.abscissa.unit) ? `${c.abscissa.name}, ${unitText(c.abscissa.unit)}` : c.abscissa.name },
    y: { label: unitText(c.value.unit) ? `${c.value.name}, ${unitText(c.value.unit)}` : c.value.name },
    series: [...edges, ...series],
    legend: false,
  });
}

/** How often each local order was found along a curve, in bins of half an order. */
export function localOrders(c: CurveAssessment, width = 376, height = 260): string {
  const most = Math.max(1, ...c.orders);
  return drawChart({
    title: `Local orders of ${c.name}`,
    width,
    height,
    x: { label: "local order", domain: [0, c.orders.length / 2] },
    y: { label: "points", domain: [0, most * 1.1] },
    series: [{ name: "points", kind: "bars", color: INK.blue, points: c.orders.map((count, k) => [k / 2 + 0.25, count] as const) }],
  });
}

/** Residuals of a run over their starting levels, on a log axis; thinned for drawing only. */
export function residualChart(h: HistoryEvidence, dropTarget: number, width = 560, height = 240): string {
  const keep = Math.max(1, Math.ceil(h.iteration.length / 600));
  const series = Object.entries(overStart(h)).map(
    ([name, values]): SeriesSpec => ({
      name,
      kind: "line",
      points: Array.from(h.iteration).flatMap((it, i) =>
        i % keep === 0 || i === h.iteration.length - 1 ? [[it, values[i] > 0 ? values[i] : Number.NaN] as const] : [],
      ),
    }),
  );
  return drawChart({
    title: "Residuals",
    width,
    height,
    x: { label: "iteration" },
    y: { label: "residual over its start", log: true },
    series,
    legend: true,
    levels: [{ y: 10 ** -dropTarget, label: `${dropTarget} orders down`, color: INK.pointer }],
  });
}

/** Profile over the points of a yardstick. */
export function profileChart(c: CaseAssessment["comparison"]["profiles"][number], own: Profile, look: ProfileLook = {}): string {
  const { width = 376, height = 260, band, x, y, others = [] } = look;
  const points = (doubtful: boolean) => c.points.filter((p) => Boolean(p.doubtful) === doubtful);
  const spread = (list: typeof c.points) => list.map((p) => 2 * (p.uReference ?? 0));
  const [sound, doubtful] = [points(false), points(true)];
  const at = own.abscissa.values;
  const series: SeriesSpec[] = [
    {
      name: c.runLabel,
      kind: "line",
      color: INK.blue,
      points: at.map((v, i) => [v, own.value.values[i]] as const),
      ...(band ? { band: at.map((v) => (v >= band.at[0] && v <= band.at[band.at.length - 1] ? pchip(band.at, band.band, v) : 0)) } : {}),
    },
    { name: c.yardstick, kind: "open-points", color: INK.brass, points: sound.map((p) => [p.at, p.reference] as const), spread: spread(sound) },
    ...others.map(
      (o, i): SeriesSpec => ({
        name: o.name,
        kind: "line",
        color: [INK.verdigris, INK.plum, INK.olive][i % 3],
        dash: DASHES[(i % 5) + 1],
        points: o.points,
      }),
    ),
  ];
  if (doubtful.length)
    series.push({
      name: "doubtful point",
      kind: "open-points",
      color: INK.pointer,
      points: doubtful.map((p) => [p.at, p.reference] as const),
      spread: spread(doubtful),
    });
  return drawChart({
    title: `${c.name}, ${c.yardstick}`,
    width,
    height,
    x: { label: axisText(own.abscissa), ...(x ? { domain: x } : {}) },
    y: { label: axisText(own.value), ...(y ? { domain: y } : {}) },
    series,
    legend: look.legend ?? true,
  });
}

/** Colour and dash of the curve of another code. */
export const otherLook = (i: number) => ({ color: [INK.verdigris, INK.plum, INK.olive][i % 3], dash: DASHES[(i % 5) + 1] });

/** How a compared curve is drawn. */
export interface ProfileLook {
  readonly width?: number;
  readonly height?: number;
  /** 95 % numerical uncertainty of the simulated curve */
  readonly band?: CurveBand;
  /** scales that several pictures share */
  readonly x?: readonly [number, number];
  readonly y?: readonly [number, number];
  /** curves of other runs or codes beside it */
  readonly others?: readonly { readonly name: string; readonly points: readonly (readonly [number, number])[] }[];
  readonly legend?: boolean;
}

/** Norms of an exact field's error against spacing. */
export function orderChart(o: NonNullable<CaseAssessment["comparison"]["orders"]>, formalOrder: number, width = 376, height = 260): string {
  const h1 = o.rows[0].spacing;
  const norm = (key: "l1" | "l2" | "linf") => o.rows.map((r) => [r.spacing / h1, r[key]] as const);
  return drawChart({
    title: `Error of ${o.field}`,
    width,
    height,
    x: { label: "h / h₁", log: true, ticks: o.rows.map((r) => Number((r.spacing / h1).toPrecision(3))) },
    y: { label: `error of ${o.field}, ${unitText(o.unit)}`, log: true },
    series: [
      { name: "L1", kind: "line", points: norm("l1") },
      { name: "L2", kind: "line", points: norm("l2") },
      { name: "largest", kind: "line", points: norm("linf") },
    ],
    legend: true,
    slope: o.verdict !== "exact" && o.rows.length > 1 ? { order: formalOrder, at: [1.4, o.rows[0].l2 * 0.7] } : undefined,
  });
}
