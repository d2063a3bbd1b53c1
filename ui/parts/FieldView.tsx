"use client";

import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { bounds, cellsUnderPixels, paintCells, paintSmooth, type Window, wholeMesh } from "@/core/drawing/cellRaster";
import { fieldColor, fieldRange } from "@/core/drawing/fieldRaster";
import { contourLines, meshLines, pointValues, type Segments, streamlines } from "@/core/drawing/lineWork";
import { significant } from "@/core/formatting/number";
import { resolve, scaleText } from "@/core/formatting/scale";
import { derivedFields } from "@/core/monitors/derived";
import { benchProblem } from "@/core/problems/catalogue";
import { line } from "@/core/problems/common";
import type { MeshSpec, RunSettings } from "@/core/problems/runSettings";
import { samplerOf } from "@/core/solver/readings/sampler";
import type { CellField } from "@/core/solver/simulation";
import { CsvButton } from "./CsvButton";

/** A field of a run under way, sent as it is computed. */
export interface LiveField {
  readonly name: string;
  readonly names: readonly string[];
  readonly values: Float32Array;
}

const LEVELS = 12;
const SEEDS = 9;
const ARROWS = 22;
const SAMPLES = 101;

type Mode = "look" | "sample";

/** What was computed, cell by cell: any field, as it is or smoothed, with lines, arrows, mesh, probe and line sample. */
export function FieldView({
  settings,
  fields,
  live,
  chooseLive,
  note,
  runId,
  width = 350,
  most = 340,
}: {
  settings: RunSettings;
  /** stored fields of a finished run */
  fields: readonly CellField[] | undefined;
  live: LiveField | undefined;
  chooseLive: (name: string) => void;
  note: string;
  runId: string;
  width?: number;
  /** greatest height, px */
  most?: number;
}) {
  const mesh = useMemo(() => benchProblem(settings.problemId ?? "").mesh(settings.parameters, settings.mesh as MeshSpec), [settings]);
  const fits = fields?.every((f) => f.values.length === mesh.cellCount) ? fields : undefined;
  const fluid = { densityKgM3: settings.parameters.densityKgM3 ?? 1, gamma: settings.parameters.gamma };
  const { densityKgM3, gamma } = fluid;
  const all = useMemo(() => (fits ? derivedFields(mesh, fits, { densityKgM3, gamma }) : undefined), [mesh, fits, densityKgM3, gamma]);
  const [key, setKey] = useState("speed");
  const [layers, setLayers] = useState({ smooth: false, contours: false, vectors: false, streams: false, mesh: false });
  const [mode, setMode] = useState<Mode>("look");
  const [sample, setSample] = useState<{ a: [number, number]; b?: [number, number] }>();
  const [under, setUnder] = useState<{ x: number; y: number; cell: number }>();
  const shown = all?.find((f) => f.key === key) ?? all?.[0];
  const liveFits = !all && live?.values.length === mesh.cellCount ? live : undefined;
  const values: ArrayLike<number> | undefined = shown?.values ?? liveFits?.values;
  const unit = shown?.unit ?? "";
  const name = shown?.name ?? liveFits?.name ?? "field";
  const { low, high } = useMemo(() => bounds(mesh.pointsM), [mesh]);
  const w = width;
  const h = Math.round(Math.max(90, Math.min(most, (w * (high[1] - low[1])) / (high[0] - low[0]) + 8)));
  const home = useMemo(() => wholeMesh(mesh, w, h, 3), [mesh, w, h]);
  const [window_, setWindow] = useState<Window>();
  const view = window_ ?? home;
  const resting = useResting(view, home);
  const range = useMemo(() => (values ? fieldRange(values) : ([0, 1] as [number, number])), [values]);
  const canvas = useRef<HTMLCanvasElement>(null);
  const drag = useRef<{ x: number; y: number; from: Window } | undefined>(undefined);

  const ids = useMemo(() => cellsUnderPixels(mesh, resting), [mesh, resting]);
  const double = useMemo(() => (values instanceof Float64Array ? values : values && Float64Array.from(values)), [values]);
  const slopes = useMemo(() => (double && (layers.smooth || layers.contours) ? samplerOf(mesh).slopes(double) : undefined), [mesh, double, layers]);
  const bitmap = useRef<HTMLCanvasElement>(undefined);
  const work = useMemo(() => {
    const parts: { segments: Segments; color: string; width: number }[] = [];
    if (layers.mesh) parts.push({ segments: meshLines(mesh, "all"), color: "rgba(29,36,39,0.35)", width: 0.5 });
    parts.push({ segments: meshLines(mesh, "boundary"), color: "#1D2427", width: 1 });
    if (layers.contours && double && slopes) {
      const levels = Array.from({ length: LEVELS }, (_, k) => range[0] + ((k + 0.5) / LEVELS) * (range[1] - range[0]));
      parts.push({ segments: contourLines(mesh, double, pointValues(mesh, double, slopes), levels), color: "#1D2427", width: 0.8 });
    }
    const u = fits?.find((f) => f.name === "u")?.values;
    const v = fits?.find((f) => f.name === "v")?.values;
    if (u && v && layers.streams) {
      const sampler = samplerOf(mesh);
      const field = { mesh, u, v, slopesU: sampler.slopes(u), slopesV: sampler.slopes(v) };
      const seeds: [number, number][] = [];
      for (let i = 0; i < SEEDS; i++) {
        for (let j = 0; j < SEEDS; j++)
          seeds.push([low[0] + ((i + 0.5) / SEEDS) * (high[0] - low[0]), low[1] + ((j + 0.5) / SEEDS) * (high[1] - low[1])]);
      }
      const segments: Segments = [];
      for (const path of streamlines(field, seeds, 400))
        for (let k = 0; k + 3 < path.length; k += 2) segments.push(path[k], path[k + 1], path[k + 2], path[k + 3]);
      parts.push({ segments, color: "rgba(255,255,255,0.85)", width: 0.9 });
    }
    return parts;
  }, [mesh, layers, double, slopes, range, fits, low, high]);

  // The picture at rest; while it is moved the last one is drawn where it belongs by then.
  useEffect(() => {
    if (!values) return;
    const picture = bitmap.current ?? document.createElement("canvas");
    bitmap.current = picture;
    picture.width = resting.width;
    picture.height = resting.height;
    const smooth = layers.smooth && double && slopes;
    const rgba = smooth ? paintSmooth(ids, resting, mesh.centroidM, double, slopes, range) : paintCells(ids, values, range);
    picture.getContext("2d")?.putImageData(new ImageData(rgba, resting.width, resting.height), 0, 0);
  }, [ids, values, range, resting, layers.smooth, double, slopes, mesh]);

  const draw = useCallback(() => {
    const context = canvas.current?.getContext("2d");
    if (!context || !canvas.current) return;
    const ratio = globalThis.devicePixelRatio || 1;
    canvas.current.width = w * ratio;
    canvas.current.height = h * ratio;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.fillStyle = "#fff";
    context.fillRect(0, 0, w, h);
    context.imageSmoothingEnabled = false;
    const px = (x: number) => (x - view.x0) / view.pixelM;
    const py = (y: number) => h - (y - view.y0) / view.pixelM;
    if (bitmap.current && values) {
      const scale = resting.pixelM / view.pixelM;
      context.drawImage(
        bitmap.current,
        px(resting.x0),
        py(resting.y0 + resting.height * resting.pixelM),
        resting.width * scale,
        resting.height * scale,
      );
    }
    for (const part of work) strokeSegments(context, part.segments, px, py, part.color, part.width);
    const u = fits?.find((f) => f.name === "u")?.values;
    const v = fits?.find((f) => f.name === "v")?.values;
    if (layers.vectors && u && v) strokeArrows(context, ids, resting, u, v, px, py);
    if (sample) {
      const b = sample.b ?? sample.a;
      strokeSegments(context, [...sample.a, ...b], px, py, "#A3341F", 1.6);
    }
  }, [view, resting, work, values, w, h, layers.vectors, fits, ids, sample]);
  useEffect(() => {
    const frame = requestAnimationFrame(draw);
    return () => cancelAnimationFrame(frame);
  }, [draw]);

  const place = (e: { clientX: number; clientY: number; currentTarget: HTMLElement }): [number, number] => {
    const box = e.currentTarget.getBoundingClientRect();
    return [view.x0 + ((e.clientX - box.left) / box.width) * w * view.pixelM, view.y0 + (1 - (e.clientY - box.top) / box.height) * h * view.pixelM];
  };
  const zoom = useCallback(
    (factor: number, at?: [number, number]) =>
      setWindow((old) => {
        const v = old ?? home;
        const [x, y] = at ?? [v.x0 + (v.width / 2) * v.pixelM, v.y0 + (v.height / 2) * v.pixelM];
        const pixelM = Math.min(home.pixelM * 2, Math.max(home.pixelM / 400, v.pixelM * factor));
        const real = pixelM / v.pixelM;
        return { ...v, pixelM, x0: x - (x - v.x0) * real, y0: y - (y - v.y0) * real };
      }),
    [home],
  );
  // A wheel listener of its own: the page must not scroll while the picture is zoomed.
  const latest = useRef(place);
  latest.current = place;
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      zoom(e.deltaY > 0 ? 1.2 : 1 / 1.2, latest.current({ clientX: e.clientX, clientY: e.clientY, currentTarget: element }));
    };
    element.addEventListener("wheel", wheel, { passive: false });
    return () => element.removeEventListener("wheel", wheel);
  }, [zoom]);
  const pan = (dx: number, dy: number) =>
    setWindow((old) => {
      const v = old ?? home;
      return { ...v, x0: v.x0 - dx * v.pixelM, y0: v.y0 + dy * v.pixelM };
    });
  const down = (e: React.PointerEvent<HTMLCanvasElement>) => {
    e.currentTarget.setPointerCapture(e.pointerId);
    if (mode === "sample") {
      const at = place(e);
      setSample((s) => (s && !s.b ? { a: s.a, b: at } : { a: at }));
      return;
    }
    drag.current = { x: e.clientX, y: e.clientY, from: view };
  };
  const move = (e: React.PointerEvent<HTMLCanvasElement>) => {
    const d = drag.current;
    if (d) {
      setWindow({ ...d.from, x0: d.from.x0 - (e.clientX - d.x) * d.from.pixelM, y0: d.from.y0 + (e.clientY - d.y) * d.from.pixelM });
      return;
    }
    const [x, y] = place(e);
    const i = Math.floor((x - resting.x0) / resting.pixelM);
    const row = resting.height - 1 - Math.floor((y - resting.y0) / resting.pixelM);
    const cell = i >= 0 && i < resting.width && row >= 0 && row < resting.height ? ids[row * resting.width + i] : -1;
    setUnder(cell >= 0 ? { x, y, cell } : undefined);
  };
  const keys = (e: React.KeyboardEvent) => {
    const step = 30;
    const moves: Record<string, readonly [number, number]> = {
      ArrowLeft: [step, 0],
      ArrowRight: [-step, 0],
      ArrowUp: [0, step],
      ArrowDown: [0, -step],
    };
    const zooms: Record<string, number> = { "+": 1 / 1.3, "-": 1.3 };
    if (!moves[e.key] && !zooms[e.key] && e.key !== "0") return;
    if (moves[e.key]) pan(...moves[e.key]);
    else if (zooms[e.key]) zoom(zooms[e.key]);
    else setWindow(undefined);
    e.preventDefault();
  };
  const save = (href: string, file: string) => {
    const a = document.createElement("a");
    a.href = href;
    a.download = file;
    a.click();
  };
  const svg = () => {
    const px = (x: number) => ((x - view.x0) / view.pixelM).toFixed(2);
    const py = (y: number) => (h - (y - view.y0) / view.pixelM).toFixed(2);
    const paths = work.map((part) => {
      const d: string[] = [];
      for (let k = 0; k < part.segments.length; k += 4)
        d.push(`M${px(part.segments[k])} ${py(part.segments[k + 1])}L${px(part.segments[k + 2])} ${py(part.segments[k + 3])}`);
      const color = part.color.startsWith("rgba(255") ? "#27506B" : part.color;
      return `<path d="${d.join("")}" stroke="${color}" stroke-width="${part.width}" fill="none"/>`;
    });
    const text = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${w} ${h}" width="${w}" height="${h}">${paths.join("")}</svg>`;
    save(URL.createObjectURL(new Blob([text], { type: "image/svg+xml" })), `${key}.svg`);
  };
  const choices = all?.map((f) => [f.key, f.name] as const) ?? liveFits?.names.map((n) => [n, n] as const) ?? [];
  const toggle = (k: keyof typeof layers) => setLayers({ ...layers, [k]: !layers[k] });
  const drawn: [keyof typeof layers, string, boolean][] = [
    ["smooth", "smoothed", Boolean(all)],
    ["contours", "contours", Boolean(all)],
    ["vectors", "arrows", Boolean(fits)],
    ["streams", "streamlines", Boolean(fits)],
    ["mesh", "mesh", true],
  ];
  const legend = scaleText(range);
  // The power of ten stands once, at the end.
  const tick = (t: number) => (t === 1 ? legend.whole : legend.text)(range[0] + t * (range[1] - range[0]));
  return (
    <div data-testid="field-view">
      <div className="flex items-baseline gap-2">
        <label className="flex items-baseline gap-1.5">
          <span className="sr-only">Field shown</span>
          <select
            className="field h-7! py-0! font-[620]"
            aria-label="Field shown"
            value={all ? (shown?.key ?? key) : (liveFits?.name ?? "speed")}
            onChange={(e) => {
              setKey(e.target.value);
              if (!all) chooseLive(e.target.value);
            }}
          >
            {choices.length ? (
              choices.map(([k, n]) => (
                <option key={k} value={k}>
                  {n}
                </option>
              ))
            ) : (
              <option value="speed">speed</option>
            )}
          </select>
        </label>
        <span className="text-[11.5px] text-ink-3">
          {unit ? `${unit}, ` : ""}
          {layers.smooth ? "smoothed by slopes" : "cell values"}; {note}
        </span>
      </div>
      <canvas
        ref={canvas}
        style={{ width: w, height: h }}
        className={`mt-1.5 touch-none border border-[#b9bdba] ${mode === "sample" ? "cursor-crosshair" : "cursor-grab"}`}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={() => {
          drag.current = undefined;
        }}
        onPointerLeave={() => setUnder(undefined)}
        onDoubleClick={() => setWindow(undefined)}
        onKeyDown={keys}
        tabIndex={0}
        role="img"
        aria-label={`${name} from ${legend.whole(range[0])} to ${legend.whole(range[1])} ${unit}. Arrow keys move, plus and minus zoom, 0 shows all.`}
      />
      <svg width={w} height="30" aria-hidden="true">
        {Array.from({ length: 70 }, (_, k) => (
          <rect key={k} x={(k * w) / 70} y="3" width={w / 70 + 0.5} height="9" fill={`rgb(${fieldColor(k / 69).join(",")})`} />
        ))}
        {[0, 0.25, 0.5, 0.75, 1].map((t) => (
          <text
            key={t}
            x={t * w}
            y="25"
            fontSize="11"
            fontFamily="var(--font-mono)"
            fill="#4a5558"
            textAnchor={t === 0 ? "start" : t === 1 ? "end" : "middle"}
          >
            {tick(t)}
          </text>
        ))}
      </svg>
      <p className="h-4 font-mono text-[11.5px] text-ink-2">
        {under && values
          ? `x ${significant(under.x, 4)}  y ${significant(under.y, 4)} m  cell ${under.cell}  ${resolve(range, 5)(values[under.cell])} ${unit}`
          : mode === "sample"
            ? sample && !sample.b
              ? "now the other end"
              : "press at one end of the line, then at the other"
            : ""}
      </p>
      <div className="no-print mt-1 flex flex-wrap items-center gap-x-3 gap-y-2 text-[11.5px]">
        {drawn.map(([k, label, able]) => (
          <label key={k} className={`flex min-h-6 items-center gap-1 ${able ? "" : "text-ink-3"}`}>
            <input type="checkbox" checked={layers[k]} disabled={!able} onChange={() => toggle(k)} />
            {label}
          </label>
        ))}
        <button
          type="button"
          className="link"
          aria-pressed={mode === "sample"}
          disabled={!all}
          onClick={() => setMode(mode === "sample" ? "look" : "sample")}
        >
          {mode === "sample" ? "end sampling" : "sample a line"}
        </button>
        <button type="button" className="link" onClick={() => setWindow(undefined)}>
          show all
        </button>
      </div>
      <div className="no-print mt-2 flex gap-3 text-[11.5px]">
        <button type="button" className="link" onClick={() => save(canvas.current?.toDataURL("image/png") ?? "", `${key}.png`)}>
          PNG
        </button>
        <button type="button" className="link" onClick={svg}>
          SVG of the lines
        </button>
        {all ? (
          <>
            <a className="link" href={`/api/runs/${runId}/fields.vtu`}>
              VTK
            </a>
            <a className="link" href={`/api/runs/${runId}/fields.csv`}>
              CSV
            </a>
          </>
        ) : null}
      </div>
      {sample?.b && double ? <LineSample mesh={mesh} values={double} a={sample.a} b={sample.b} name={name} unit={unit} width={w} /> : null}
    </div>
  );
}

function strokeSegments(
  context: CanvasRenderingContext2D,
  segments: ArrayLike<number>,
  px: (x: number) => number,
  py: (y: number) => number,
  color: string,
  width: number,
): void {
  context.strokeStyle = color;
  context.lineWidth = width;
  context.beginPath();
  for (let k = 0; k < segments.length; k += 4) {
    context.moveTo(px(segments[k]), py(segments[k + 1]));
    context.lineTo(px(segments[k + 2]), py(segments[k + 3]));
  }
  context.stroke();
}

/** Arrows on an even raster of the picture, as long as the velocity is large. */
function strokeArrows(
  context: CanvasRenderingContext2D,
  ids: Int32Array,
  view: Window,
  u: Float64Array,
  v: Float64Array,
  px: (x: number) => number,
  py: (y: number) => number,
): void {
  const step = Math.max(12, Math.round(view.width / ARROWS));
  let most = 0;
  for (let c = 0; c < u.length; c++) most = Math.max(most, Math.hypot(u[c], v[c]));
  const segments: number[] = [];
  for (let j = step >> 1; j < view.height; j += step) {
    for (let i = step >> 1; i < view.width; i += step) {
      const c = ids[j * view.width + i];
      if (c < 0 || !(most > 0)) continue;
      const x = view.x0 + (i + 0.5) * view.pixelM;
      const y = view.y0 + (view.height - j - 0.5) * view.pixelM;
      const scale = ((step - 2) * view.pixelM) / most;
      const [dx, dy] = [u[c] * scale, v[c] * scale];
      const [ex, ey] = [x + dx, y + dy];
      segments.push(
        x,
        y,
        ex,
        ey,
        ex,
        ey,
        ex - 0.3 * dx - 0.16 * dy,
        ey - 0.3 * dy + 0.16 * dx,
        ex,
        ey,
        ex - 0.3 * dx + 0.16 * dy,
        ey - 0.3 * dy - 0.16 * dx,
      );
    }
  }
  strokeSegments(context, segments, px, py, "#1D2427", 0.9);
}

function LineSample(p: {
  mesh: Parameters<typeof samplerOf>[0];
  values: Float64Array;
  a: [number, number];
  b: [number, number];
  name: string;
  unit: string;
  width: number;
}) {
  const points = line(p.a, p.b, SAMPLES);
  const length = Math.hypot(p.b[0] - p.a[0], p.b[1] - p.a[1]);
  const found = samplerOf(p.mesh).at(p.values, points);
  const at = Array.from(found, (_, k) => (length * k) / (SAMPLES - 1));
  const [low, high] = fieldRange(found);
  const show = resolve([low, high], 2);
  const h = 110;
  const x = (s: number) => 34 + (s / (length || 1)) * (p.width - 40);
  const y = (v: number) => 8 + (1 - (v - low) / (high - low || 1)) * (h - 30);
  return (
    <section className="mt-2" aria-label="Values along the line">
      <div className="flex justify-between text-[11.5px]">
        <span>
          {p.name} along the line, {significant(length, 3)} m
        </span>
        <CsvButton name="line" header={["distance, m", `${p.name}, ${p.unit}`]} rows={at.map((s, k) => [s, found[k]])} />
      </div>
      <svg width={p.width} height={h} role="img" aria-label={`${p.name} along the line, from ${show(low)} to ${show(high)} ${p.unit}`}>
        <path
          d={at.map((s, k) => `${k ? "L" : "M"}${x(s).toFixed(1)} ${y(found[k]).toFixed(1)}`).join("")}
          stroke="#27506B"
          fill="none"
          strokeWidth="1.4"
        />
        <path d={`M34 8V${h - 22}H${p.width - 4}`} stroke="#9aa19f" fill="none" />
        {[low, high].map((v) => (
          <text key={v} x="31" y={y(v) + 3} fontSize="11" textAnchor="end" fontFamily="var(--font-mono)" fill="#4a5558">
            {show(v)}
          </text>
        ))}
      </svg>
    </section>
  );
}

const REST_MS = 120;

/** The window of the picture: follows a moment after the last move, so that moving never waits for painting; another mesh or size at once. */
function useResting(view: Window, home: Window): Window {
  const [settled, setSettled] = useState({ view, home });
  useEffect(() => {
    const later = setTimeout(() => setSettled({ view, home }), REST_MS);
    return () => clearTimeout(later);
  }, [view, home]);
  return settled.home === home ? settled.view : view;
}
